"""The shelf: which stacks are shown, in which order, and the views of it that people keep."""
