"""Text as metadata can hold it."""

import re

_NO_XML = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
"""Characters that no XML can hold (XML 1.0, 2.2)."""


def plain(text: str) -> str:
    """A text without what neither XML nor a viewer's title bar can hold."""
    return " ".join(_NO_XML.sub(" ", text).split())
