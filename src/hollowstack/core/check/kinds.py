"""The kinds of findings: what each is called where it is decided, what it goes by, and what it would take."""

from typing import Literal, NamedTuple

from hollowstack.core.check.finding import Check

Ground = Literal["capture", "clean page", "text", "fellows"]
"""What a finding judges: as long as that stands, so does what somebody said of it."""
Remedy = Literal["bench", "again", "recapture", "aside", "order", "text", ""]
"""What it would take: the bench, another try or capture, holding a page aside, another order, the text; or nothing."""


Tool = Literal["corners", "level", "borders", "split", ""]
"""Of the bench."""


class Kind(NamedTuple):
    """A kind of findings."""

    title: str
    """As a heading."""
    ground: Ground
    remedy: Remedy
    tool: Tool = ""
    """In hand when the bench is opened for it; empty where its panel does it."""


KINDS: dict[Check, Kind] = {
    # What was captured.
    "cut off": Kind("Writing runs off the image", "capture", "recapture"),
    "corner": Kind("A corner is missing", "capture", "recapture"),
    "touched": Kind("Writing is covered at the side", "capture", "recapture"),
    "object": Kind("Something lies over the writing", "capture", "recapture"),
    "streak": Kind("A streak runs through the image", "capture", "recapture"),
    "sharpness": Kind("The writing is soft here", "capture", "recapture"),
    "contrast": Kind("The writing is faint", "capture", "bench"),
    "even light": Kind("The light is uneven", "capture", "recapture"),
    "show-through": Kind("The other side shines through", "capture", "bench"),
    "grain": Kind("Letters drown in grain", "capture", "recapture"),
    "letter size": Kind("Letters are small", "capture", "recapture"),
    "resolution": Kind("The resolution is doubtful", "capture", "recapture"),
    "light": Kind("The picture is too dark", "capture", "recapture"),
    "corners": Kind("A corner of the page is uncertain", "clean page", "bench", "corners"),
    "clipped": Kind("Tones are clipped", "capture", "recapture"),
    "glare": Kind("Light is reflected", "capture", "recapture"),
    "facing pages": Kind("Two facing pages", "capture", "bench", "split"),
    "blank": Kind("Held aside as blank, with traces on it", "capture", "aside"),
    "new image": Kind("Recaptured", "capture", "recapture"),
    "storage": Kind("The file is damaged", "capture", "recapture"),
    # What was made of it.
    "orientation": Kind("Perhaps not upright", "clean page", "bench"),
    "tilt": Kind("Perhaps askew", "clean page", "bench", "level"),
    "askew": Kind("Lines of text slope", "clean page", "bench", "level"),
    "borders left": Kind("Borders are left", "clean page", "bench", "corners"),
    "colour lost": Kind("Colour is lost", "clean page", "bench"),
    "colour invented": Kind("Colour came from nowhere", "clean page", "bench"),
    "page edges": Kind("An edge is uncertain", "clean page", "bench", "corners"),
    "border": Kind("Something is written in the border", "clean page", "bench", "borders"),
    "content": Kind("Something would be lost", "clean page", "bench", "borders"),
    "failed": Kind("The page failed", "capture", "again"),
    "inspected": Kind("Found bad in the sample", "clean page", "bench"),
    # What was read.
    "reading": Kind("The text is uncertain", "text", "text"),
    "language": Kind("Another language", "text", "text"),
    "unread": Kind("Text was passed over", "text", "text"),
    "lost words": Kind("Words put right have lost their place", "text", "text"),
    # Among its fellows.
    "sequence": Kind("Page numbers do not go through", "fellows", "order"),
    "same image": Kind("The same image twice", "fellows", "aside"),
    "recaptured": Kind("Captured twice", "fellows", "aside"),
    "odd size": Kind("Unlike its fellows in size", "fellows", ""),
    "count": Kind("More or fewer images than sheets", "fellows", "order"),
}
"""By the name of the check."""
