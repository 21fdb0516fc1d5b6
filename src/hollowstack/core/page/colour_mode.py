"""What a page is kept in."""

from typing import Literal

ColourMode = Literal["bitonal", "grey", "colour"]
"""Two tones, shades of grey, or colours."""
