"""What is worth a look in stacks, and what people have said of it."""
