"""Words that a line parts: one rule for whoever joins them."""

_HYPHENS = ("-", "\u2010", "\u00ad", "\u00ac", "\u2e17")
"""Hyphen-minus, hyphen, soft hyphen, what recognition makes of hyphens, and the double one of blackletter."""


def ends_parted(text: str) -> bool:
    """Whether a text ends in a letter or figure and a hyphen."""
    return text.endswith(_HYPHENS) and text[-2:-1].isalnum()


def parted(before: str, after: str) -> bool:
    """Whether a line parts a word: a letter and a hyphen at its end, a small letter after it.

    Source:
        Common practice of typesetting in Latin scripts, no source; before others the hyphen belongs to the word.
    """
    return ends_parted(before) and before[-2].isalpha() and after[:1].islower()
