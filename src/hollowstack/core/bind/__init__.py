"""Clean pages and their readings to archival documents."""

from hollowstack.core.bind.bookmarks import Bookmark
from hollowstack.core.bind.description import Description, Provenance
from hollowstack.core.bind.document import Binding, Bound, BoundPage, bind, check_bindable
from hollowstack.core.bind.flavours import DEFAULT, FLAVOURS, Flavour

__all__ = [
    "DEFAULT", "FLAVOURS", "Binding", "Bookmark", "Bound", "BoundPage", "Description", "Flavour", "Provenance", "bind",
    "check_bindable",
]  # fmt: skip
