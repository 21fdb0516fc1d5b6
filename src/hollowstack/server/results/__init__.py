"""What the steps made, under keys; what went wrong, and when it is tried again."""
