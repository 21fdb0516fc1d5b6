"""The images of a page as PDF objects, and the instructions that draw them."""

from dataclasses import dataclass, field

from hollowstack.core.bind.encoded import TWO_TONES, EncodedImage
from hollowstack.core.bind.layers.parts import Colour, Layered
from hollowstack.core.bind.spool import Spool
from hollowstack.core.calibrate.icc import gray_profile


@dataclass(slots=True)
class Drawing:
    """What a page shows: its resources by name, as numbers of objects, and the instructions in order."""

    objects: dict[str, int] = field(default_factory=dict)
    instructions: list[str] = field(default_factory=list)


class Painter:
    """Puts images into a document; profiles are shared by all of its pages."""

    def __init__(self, spool: Spool) -> None:
        self._spool = spool
        self._profiles: dict[bytes, int] = {}

    def draw(self, image: EncodedImage | Layered, size_pt: tuple[float, float]) -> Drawing:
        """A page's one image over all of it, or its layers from the paper up.

        Source:
            ISO 32000-1:2008, 8.9.5 (images), 8.9.6.2 and 8.9.6.3 (stencils, explicit masks).
        """
        made = Drawing()
        if isinstance(image, EncodedImage):
            self._place(made, "Im", self._image(image), (0, 0, *size_pt))
            return made
        width, height = size_pt
        across, down = width / image.size_px[0], height / image.size_px[1]

        def box(left: int, top: int, right: int, bottom: int) -> tuple[float, float, float, float]:
            return left * across, height - bottom * down, (right - left) * across, (bottom - top) * down

        made.instructions.append(f"{_colour(image.paper)} rg 0 0 {number(width)} {number(height)} re f")
        for at, patch in enumerate(image.patches):
            self._place(made, f"Im{at}", self._image(patch.image), box(*patch.box))
        if image.ink is not None:
            whole = box(0, 0, *image.ink.stencil.size_px)
            stencil = self._image(image.ink.stencil, "/ImageMask true")
            if isinstance(image.ink.tint, EncodedImage):
                tint = self._image(image.ink.tint, f"{self._colour_space(image.ink.tint)} /Mask {stencil} 0 R")
                self._place(made, "Ink", tint, whole)
            else:
                made.instructions.append(f"{_colour(image.ink.tint)} rg")
                self._place(made, "Ink", stencil, whole)
        return made

    def _place(self, made: Drawing, name: str, image: int, where: tuple[float, float, float, float]) -> None:
        left, below, width, height = where
        made.objects[name] = image
        made.instructions.append(f"q {number(width)} 0 0 {number(height)} {number(left)} {number(below)} cm /{name} Do Q")

    def _image(self, image: EncodedImage, seen: str = "") -> int:
        """An image; ``seen`` says how its values are shown, where that is not by its own colours alone."""
        width, height = image.size_px
        entries = [f"/Type /XObject /Subtype /Image /Width {width} /Height {height} /Filter /{image.filter}"]
        # JPEG 2000 says so itself; but PDFium takes grey of a profile for black and white where it is not told.
        entries.append(f"/BitsPerComponent {1 if image.filter in TWO_TONES else 8}")
        entries.append(seen or self._colour_space(image))
        if image.filter == "CCITTFaxDecode":
            black = " /BlackIs1 true" if image.black_is_one else ""
            entries.append(f"/DecodeParms << /K -1 /Columns {width} /Rows {height}{black} >>")
        elif image.filter == "FlateDecode" and not image.palette:
            colours = 1 if image.gray else 3
            entries.append(f"/DecodeParms << /Predictor 15 /Colors {colours} /BitsPerComponent 8 /Columns {width} >>")
        return self._spool.put(" ".join(entries), image.data)

    def _colour_space(self, image: EncodedImage) -> str:
        """Colour is the output intent's sRGB and grey has sRGB's curve, unless the image's own profile says otherwise."""
        if image.palette:
            table = image.palette if not image.gray else bytes(value for value in image.palette for _ in range(3))
            return f"/ColorSpace [/Indexed /DeviceRGB {len(table) // 3 - 1} <{table.hex()}>]"
        if image.filter in TWO_TONES:
            return "/ColorSpace /DeviceGray"
        if not image.gray and not image.icc:
            return "/ColorSpace /DeviceRGB"
        data = image.icc or gray_profile()
        if data not in self._profiles:
            self._profiles[data] = self._spool.put(f"/N {1 if image.gray else 3}", data)
        return f"/ColorSpace [/ICCBased {self._profiles[data]} 0 R]"


def _colour(colour: Colour) -> str:
    """As red, green and blue, which are the output intent's, for greys too."""
    return " ".join(number(value / 255) for value in (colour if len(colour) == 3 else colour * 3))


def number(value: float) -> str:
    """A number as PDF writes it, without exponent or needless digits."""
    return short(f"{value:.4f}")


def short(text: str) -> str:
    """A written number with a point, without needless digits."""
    text = text.rstrip("0").rstrip(".")
    return "0" if text in {"", "-0"} else text
