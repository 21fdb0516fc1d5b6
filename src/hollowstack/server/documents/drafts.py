"""How a stack's documents are to be made, as far as somebody has said it: kept until they are bound, and after that."""

from typing import Annotated, Any

from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.access import Watermark
from hollowstack.core.bind import DEFAULT, Flavour
from hollowstack.core.bind.description import Described, description_of, handed_down
from hollowstack.core.bind.labels import LabelRun, Style
from hollowstack.core.settings.profile import Profile
from hollowstack.server.documents.forecasting import samples_for
from hollowstack.server.documents.marking import KeptMark, MarkChange, changed_marks, kept_marks
from hollowstack.server.documents.models import Draft
from hollowstack.server.errors import Refused
from hollowstack.server.names import MOST_NAME
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.services import next_change

_MOST_RUNS = 2000
"""What is said of something, by the names of Dublin Core's elements."""


class DraftDocument(BaseModel):
    """What is said of a document to come."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    title: str = Field("", max_length=MOST_NAME)
    described: Described = {}


class DraftLabels(BaseModel):
    """From a page on, how pages are numbered; to the end of its document or the next such page."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    page: int
    style: Style = "arabic"
    prefix: Annotated[str, Field(max_length=40)] = ""
    first: Annotated[int, Field(ge=1, le=100_000)] = 1


class DraftAccess(BaseModel):
    """How access copies are to be made. Their passwords are said when they are asked for, and never kept here."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    ppi: Annotated[int, Field(ge=50, le=1200)] | None = 150
    """The most that their images have; null for as they are bound."""
    watermark: Watermark = Watermark()
    printing: bool = True
    copying: bool = True


class DraftBody(BaseModel):
    """All that can be said; what nobody has said is as it always was."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    profile: Profile = "compact"
    flavour: Flavour = DEFAULT
    whole: bool = False
    """Whether the stack is one document, whatever its pages say of where documents begin."""
    mark_headings: bool = False
    labels: tuple[DraftLabels, ...] = ()
    stack: Described = {}
    """Of all documents together; its title is the stack's name."""
    documents: dict[int, DraftDocument] = {}
    """By the page that a document begins with."""
    access: DraftAccess = DraftAccess()
    marks: dict[int, tuple[KeptMark, ...]] = {}
    """Of access copies, by page."""
    left_out: tuple[int, ...] = ()
    """Pages that access copies are without."""

    def holds_for(self, page: int, *, alone: bool) -> DraftDocument:
        """All that is said of the document that begins with a page: of itself, and of the stack that it is a part of.

        ``alone`` where it is the only one: what is said of the stack is said of it.
        """
        own = self.documents.get(page, DraftDocument())
        said = {name: value for name, value in own.described.items() if value}
        return own.model_copy(update={"described": {**self.for_parts(alone=alone), **said}})

    def for_parts(self, *, alone: bool) -> Described:
        """What is said of the stack and holds for each of its documents, or for the only one."""
        return dict(self.stack) if alone else handed_down(self.stack)


class DraftChange(BaseModel):
    """Some of it, to be said anew; documents, and the marks of pages, one by one, the others stay."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    profile: Profile | None = None
    flavour: Flavour | None = None
    whole: bool | None = None
    mark_headings: bool | None = None
    labels: tuple[DraftLabels, ...] | None = None
    stack: Described | None = None
    documents: dict[int, DraftDocument] | None = None
    access: DraftAccess | None = None
    marks: dict[int, MarkChange] | None = None
    """On the pages as they are now, as shares of these."""
    left_out: dict[int, bool] | None = None
    """Pages one by one: whether access copies are without them; the others stay."""


def draft_of(stack_id: int) -> DraftBody:
    """What has been said of a stack's documents."""
    found = Draft.objects.filter(stack_id=stack_id).values_list("body", flat=True).first()
    return DraftBody.model_validate(found or {})


def change_draft(stack_id: int, change: DraftChange) -> DraftBody:
    """Say some of it anew.

    Raises:
        Stack.DoesNotExist: There is no such stack.
        Refused: A description or a mark will not do, or there are too many runs of labels.
    """
    said: dict[str, Any] = change.model_dump(mode="json", exclude_none=True, exclude={"marks", "left_out"})
    if change.access is not None:  # where null says something, too
        said["access"] = change.access.model_dump(mode="json")
    for described in [change.stack or {}, *(one.described for one in (change.documents or {}).values())]:
        try:
            description_of(described, timezone.now(), "en", "any")
        except ValueError as error:
            raise Refused(str(error)) from None
    if change.labels is not None and len(change.labels) > _MOST_RUNS:
        raise Refused(f"There are {len(change.labels)} runs of labels; the most is {_MOST_RUNS}.")
    stack = Stack.objects.get(pk=stack_id)
    samples = None if change.profile is None else samples_for(stack, change.profile)
    put = kept_marks(stack_id, change.marks or {})
    with transaction.atomic():
        draft, _ = Draft.objects.get_or_create(stack=stack)
        documents = {**draft.body.get("documents", {}), **{str(key): one for key, one in said.pop("documents", {}).items()}}
        body = DraftBody.model_validate({**draft.body, **said, "documents": documents})
        marks = {
            page: tuple(changed_marks(body.marks.get(page, ()), put[page], one.gone))
            for page, one in (change.marks or {}).items()
        }
        left_out = dict.fromkeys(body.left_out, True) | (change.left_out or {})
        new = {"marks": {**body.marks, **marks}, "left_out": tuple(page for page, out in left_out.items() if out)}
        draft.body = body.model_copy(update=new).model_dump(mode="json")
        if samples is not None:
            draft.samples = samples
        draft.save(update_fields=["body", "samples"])
        next_change(stack_id)
    return draft_of(stack_id)


def label_runs(draft: DraftBody, pages: list[int]) -> tuple[LabelRun, ...]:
    """The runs of a document of so many pages; those that begin with a page that it does not have are of other documents."""
    place = {page: at for at, page in enumerate(pages)}
    return tuple(LabelRun(place[one.page], one.style, one.prefix, one.first) for one in draft.labels if one.page in place)
