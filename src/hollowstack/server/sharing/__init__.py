"""Shares: links by which people without an account look at a document, or take it."""
