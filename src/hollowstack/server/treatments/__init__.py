"""Treatments: those that come with the program, and versions of them or others that were saved."""
