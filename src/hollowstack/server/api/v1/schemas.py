"""What the API of stacks says and takes."""

from datetime import datetime
from typing import Literal

from ninja import Schema
from pydantic import BaseModel

from hollowstack.core.arrange.order import DocumentsAfter
from hollowstack.core.check.finding import Finding
from hollowstack.core.measure import Measurements
from hollowstack.core.plan.plan import Plan
from hollowstack.core.settings.original import Original
from hollowstack.core.settings.override import Override
from hollowstack.server.stacks.overview import Counts, State, Trouble

Origin = Literal["platen", "feeder", "camera", "file"]
"""From the glass, from the feeder, from a camera, or as any other file."""
Shown = Literal["picture", "colour", "missing corner"]
Verdict = Literal["pass", "review", "fail"]


class EdgeLine(BaseModel):
    """One line of a fore-edge: the page's height in mm (0 unknown), its tone (gray 0 to 255), how it stands."""

    height_mm: float
    tone: int
    state: State
    verdict: Verdict


class FirstPage(BaseModel):
    """One of the pages that lie on top of a stack: the picture of it as it stands now."""

    step: Literal["measure", "render"]
    key: str
    px: tuple[int, int]


class Waits(BaseModel):
    """What in a stack waits for a person."""

    review: int
    """Pages to look at; of a tall stack as many as every n-th page makes likely, and then ``about`` is true."""
    about: bool
    failed: int
    held: int
    """Pages that the machine is short of something for; they go on by themselves."""
    expected: int
    """Files that were announced and have not come in."""
    stopped: str
    """Why a capture stopped; empty where none did."""
    backs: int
    """How many backs of captured fronts are still to come."""
    undelivered: int
    """Deliveries of its documents that wait for a person."""
    lost: int
    """Documents that had arrived somewhere, and are not there, or not whole, any more."""


class ClosedOut(BaseModel):
    """Who has signed for a stack, or closed it, and when."""

    by: str
    at: datetime


class FiledUnder(BaseModel):
    """The collection that a stack is filed under."""

    id: int
    names: list[str]
    """From the top of the tree down to its own."""


class StackOut(Schema):
    """A stack on the shelf."""

    id: int
    name: str
    created_at: datetime
    language: str
    """What pages without languages of their own are read in, as eng+deu."""
    own_language: bool
    """Whether that is the stack's own; its treatment's where it is not."""
    read_later: bool
    """Whether reading is put off."""
    treatment: str
    treatment_version: int
    new_document_after: DocumentsAfter
    pages_a_document: int
    """Where that is a number of pages."""
    original: Original
    """Where its papers are, and what becomes of them."""
    change: int
    counts: Counts
    edge: list[EdgeLine]
    documents: int
    bytes: int
    """Of the documents that are bound."""
    by: str
    """Whoever began it; empty where they are no longer here."""
    touched_at: datetime
    """When somebody last did something to it."""
    first: list[FirstPage]
    waits: Waits
    filed: FiledUnder | None
    """Null where it is filed nowhere."""
    signed: ClosedOut | None
    """Null where nobody has signed for it, or it was reopened since."""
    closed: ClosedOut | None
    """Null where nobody has closed it. It is open to changes where nobody has signed for it either."""


class LanguageOut(Schema):
    """A language that text can be read in, by the engine's code, and by which models."""

    code: str
    name: str
    quick: bool
    thorough: bool


class StackIn(Schema):
    """A new stack."""

    name: str


class QuotaOut(Schema):
    """How much may come, and has come, in bytes: into the stack, or by the person who asks."""

    whose: Literal["stack", "person"]
    used: int
    most: int


class HeldFile(Schema):
    """A file as it came, by the digest of its bytes."""

    name: str
    sha256: str
    bytes: int
    added_at: datetime


class StackChange(Schema):
    """What is to be changed of a stack; what is left out stays."""

    name: str | None = None
    original: Original | None = None


class ViewingIn(Schema):
    """The page that somebody looks at; null for the stack as a whole."""

    page: int | None = None


class Fault(BaseModel):
    """What is wrong with a photograph; ``spot`` is left, top, width, height in pixels as captured, None for all of it."""

    check: str
    message: str
    spot: tuple[int, int, int, int] | None


class PageRow(BaseModel):
    """A page in the list of its stack."""

    id: int
    change: int
    """The stack's count at the page's last change."""
    source: str
    frame: int
    frames: int
    state: State
    verdict: Verdict
    aside: str
    error: str
    trouble: Trouble | None
    """What keeps the page from being worked on, by no fault of its own, until it is tried again."""
    breaks: bool
    rescan: str
    split: bool
    own: list[str]
    """What is corrected by hand on it, by the names of the corrections."""
    origin: Origin
    original: str | None
    """Key of the picture of the page as captured; None while there is none."""
    clean: str | None
    """Key of the corrected page."""
    original_px: tuple[int, int] | None
    clean_px: tuple[int, int] | None
    height_mm: float
    tone: int
    turn: int | None
    """Clockwise, by which it was made upright."""
    outline: list[tuple[float, float]] | None
    """Corners of what is kept of the image as captured, in its pixels."""
    printed: str
    """The number on it, as it was read; empty where none was."""
    traces: tuple[int, int, int, int] | None
    """Of a page held aside as blank, where something may stand: left, top, width, height in the image as captured."""
    skew_deg: float | None
    ink_percent: float | None
    colour: str | None
    language: str
    """Of its own; empty where its stack says what it is read in."""
    words: int | None
    confidence: float | None
    bytes: int | None
    shows: list[Shown]
    """What is worth knowing of it while the paper is at hand."""
    faults: list[Fault] | None
    """Of a photograph; None where it is none, or is not measured yet."""


class PagesOut(BaseModel):
    """Pages that changed since a count; ``change`` is the count to ask from next.

    ``order`` holds all pages of the stack by id, or is null where it is as it was then.
    """

    change: int
    order: list[int] | None
    counts: Counts
    starts: list[int]
    """Pages with which a document begins."""
    pages: list[PageRow]
    engine: bool
    """Whether the engine has given a sign of life lately."""


class MasterRecord(BaseModel):
    """Who captured a page's master, when, with what and how; None and empty where nobody can say."""

    name: str
    bytes: int
    sha256: str
    by: str
    came_at: datetime
    taken_at: datetime | None
    """By the camera's own clock, or when the file was written."""
    device: str
    """The station, or maker and model as the file gives them."""
    settings: list[str]
    """What the station was asked for, in words."""


class Former(BaseModel):
    """An image that a page had before."""

    name: str
    original: str | None
    """Key of its picture; None where it was never measured."""
    replaced_at: datetime
    by: str


class PageOut(Schema):
    """All that is known of one page."""

    row: PageRow
    measurements: Measurements | None
    plan: Plan | None
    override: Override
    findings: list[Finding]
    """All checks of the page by itself, passed ones too."""
    waiting: list[Finding]
    """What is worth a look on it, among its fellows too, and was not found fine."""
    master_sha256: str
    master_bytes: int
    text: str | None
    record: MasterRecord
    formers: list[Former]
    """Images that the page had before it was captured again, the last first."""


class BatchIn(Schema):
    """Files about to come: behind which page, at the end where null."""

    after: int | None = None


class BatchOut(Schema):
    """Where to put the files."""

    id: int


class FileOut(Schema):
    """The pages that a file came as, and what of an archive was left out, one sentence each."""

    pages: list[int]
    left_out: list[str]
