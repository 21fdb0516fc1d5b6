"""The Skerry Light papers: made-up pages of a made-up lighthouse, drawn by code, worn, and scanned.

Drawn with known truth (text, tilt, edges), so they serve as demo and as test material. Seeded: the same seed, the same bytes
of pixels. Nothing here is used by the product itself.
"""
