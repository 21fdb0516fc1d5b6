"""A page image as it will stand in a PDF."""

from dataclasses import dataclass
from typing import Final, Literal

Filter = Literal["CCITTFaxDecode", "JBIG2Decode", "DCTDecode", "FlateDecode", "JPXDecode"]
"""The PDF's name of a compression; FlateDecode with the predictors of PNG."""
TWO_TONES: Final = ("CCITTFaxDecode", "JBIG2Decode")
"""Those of images in two tones."""


@dataclass(frozen=True, slots=True)
class EncodedImage:
    """The data of an image, and all that it takes to show them."""

    filter: Filter
    data: bytes
    size_px: tuple[int, int]
    gray: bool
    icc: bytes = b""
    """The profile its values are meant by; empty for the house's own grey and sRGB."""

    black_is_one: bool = False
    """Of Group 4: whether its white runs are ink, as in a TIFF file whose zero is black."""
    palette: bytes = b""
    """Of an image of few colours: one byte a colour, or three; its data are which of them each pixel has."""

    @property
    def bytes(self) -> int:
        """How many its data are."""
        return len(self.data)

    def ppi_of(self, size_px: tuple[int, int], ppi: tuple[float, float]) -> tuple[float, float]:
        """Its resolution, from a page's size and resolution: data of a fax lie in it as they came, with oblong pixels."""
        return ppi[0] * self.size_px[0] / size_px[0], ppi[1] * self.size_px[1] / size_px[1]
