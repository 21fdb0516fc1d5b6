"""Looking after what is stored: reading it all again, and removing what nothing wants."""
