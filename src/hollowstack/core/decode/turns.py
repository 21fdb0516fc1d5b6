"""The turn that a file asks of whoever shows it (Exif 2.32, 4.6.4; TIFF 6.0 calls it the orientation)."""

TURN = 274
"""The tag."""
SIDEWAYS = range(5, 9)
"""Values of it that exchange width and height."""
