"""Search across everything: what stacks and documents are called and described as, and every word on every page."""
