"""What is on a page: paper and regions, writing, colour, scale, which way it lies."""
