"""Names of files as they can be written down, whatever bytes they are made of."""


def readable(name: str) -> str:
    """A file name with bytes that are not UTF-8 escaped, as ``latin-\\xe9.jpg``; any other as it is.

    Source:
        PEP 383 (how Python holds such bytes in a string).
    """
    return name.encode("utf-8", "surrogateescape").decode("utf-8", "backslashreplace")


def safe_name(text: str, otherwise: str) -> str:
    """A text as the name of a file on any machine; ``otherwise`` where nothing of it is left."""
    return "".join(c if c.isalnum() or c in " -_.,()" else "_" for c in text).strip(" .") or otherwise
