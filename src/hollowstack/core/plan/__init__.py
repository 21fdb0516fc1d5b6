"""What will be done to a page. Looks at no pixels."""
