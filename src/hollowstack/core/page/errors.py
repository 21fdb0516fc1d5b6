"""Everything the core refuses, as one tree. A message is one plain sentence: what is wrong and what to do."""


class HollowStackError(Exception):
    """Base of all refusals; ``str(error)`` is fit to be shown to the operator."""


class DecodeError(HollowStackError):
    """A file or one of its frames cannot be turned into a page image.

    ``size_px`` is the width and height that a viewer would show, where the file still tells.
    """

    def __init__(self, message: str, size_px: tuple[int, int] | None = None) -> None:
        super().__init__(message)
        self.size_px = size_px


class TreatmentError(HollowStackError):
    """A treatment file does not describe a treatment."""


class RenderError(HollowStackError):
    """A clean page cannot be made as it was planned."""


class ReadError(HollowStackError):
    """The text cannot be read, for example because a language model is missing."""


class BindError(HollowStackError):
    """A document cannot be bound from what was given."""


class WorkerError(HollowStackError):
    """A page outlasted its time limit or took its worker down."""


class OrderError(HollowStackError):
    """Pages cannot be put in the order asked for."""


class PaperError(HollowStackError):
    """There is no paper size of that name."""


class CalibrationError(HollowStackError):
    """A colour target or its patch file cannot be used."""
