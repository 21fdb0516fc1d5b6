"""The order of pages."""
