"""Captured pages of many kinds, and on record what the steps make of them."""
