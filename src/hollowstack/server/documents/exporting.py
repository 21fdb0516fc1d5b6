"""Documents in other forms than PDF: what they hold is fixed when they are asked for, the engine makes them."""

from collections.abc import Sequence
from itertools import groupby

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel, ConfigDict

from hollowstack.core.export import ExportForm, ExportOrder
from hollowstack.core.read.languages import language_tag
from hollowstack.core.settings.profile import Profile
from hollowstack.server.documents.drafts import DraftBody, DraftDocument, draft_of
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import keep_document, labels_of, packed_page, refuse_waiting, runs_of, titled
from hollowstack.server.errors import Refused
from hollowstack.server.names import MOST_NAME
from hollowstack.server.stacks.languages import most_common
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.services import next_change, treatment_of

_PROFILES: dict[ExportForm, Profile] = {"tiff": "preservation", "png": "preservation", "jp2": "preservation"}
"""Of forms that lose nothing: every value of the clean page."""
_MOST_WHICH = 60


class ExportAsked(BaseModel):
    """What is wanted: a form, of a document to come, of chosen pages, or of all pages of the stack."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    form: ExportForm
    first: int | None = None
    """The page that a document begins with."""
    pages: tuple[int, ...] = ()
    """Chosen ones; they come in the order of the stack."""
    two_tones: bool = False
    """Of TIFF: every page in two tones, by Group 4."""


def ask_for_export(stack_id: int, asked: ExportAsked, user: User | None) -> Document:
    """Fix what is given out and let the engine make it.

    Raises:
        Refused: Pages are still being worked on, or some that are asked for are not there.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        pages = list(with_results(stack.pages.filter(removed=False)))
        refuse_waiting(pages)
        draft, treatment = draft_of(stack_id), treatment_of(stack)
        runs = list(runs_of(pages, treatment.documents, whole=draft.whole))
        title, said, run = _asked_for(stack, asked, pages, runs, draft)
        labels = labels_of(draft, runs)
        document = _document(stack, asked, said.title or title, said, run, labels, user)
        next_change(stack_id)
    return document


def _asked_for(
    stack: Stack, asked: ExportAsked, pages: Sequence[Page], runs: Sequence[list[Page]], draft: DraftBody
) -> tuple[str, DraftDocument, Sequence[Page]]:
    """A title, what is said of it, and the pages."""
    if asked.first is not None:
        for at, run in enumerate(runs, 1):
            if run[0].pk == asked.first:
                return titled(stack.name, at, len(runs)), draft.holds_for(asked.first, alone=len(runs) == 1), run
        raise Refused("There is no document that begins with this page any more: look at the pages again.")
    ready = [page for run in runs for page in run]
    if asked.pages:
        chosen = [page for page in ready if page.pk in set(asked.pages)]
        if missing := len(set(asked.pages)) - len(chosen):
            which = "1 of the chosen pages is" if missing == 1 else f"{missing} of the chosen pages are"
            raise Refused(f"{which} aside, failed or gone: choose others.")
        places = [place for place, page in enumerate(pages, 1) if page.pk in set(asked.pages)]
        return _of_pages(stack.name, places), DraftDocument(described=draft.for_parts(alone=False)), chosen
    if not ready:
        raise Refused("There is no page to export: every page is aside or failed.")
    return stack.name, DraftDocument(described=draft.stack), ready


def _of_pages(name: str, places: Sequence[int]) -> str:
    """What a file of chosen pages is called: "Box 27, pages 3, 7–9"; how many, where that is too long."""
    runs = [list(run) for _, run in groupby(enumerate(places), lambda one: one[1] - one[0])]
    said = ", ".join(str(run[0][1]) if len(run) == 1 else f"{run[0][1]}–{run[-1][1]}" for run in runs)
    which = f", page {said}" if len(places) == 1 else f", pages {said}"
    if len(which) > _MOST_WHICH:
        which = f", {len(places)} pages"
    return name[: MOST_NAME - len(which)] + which


def _document(
    stack: Stack, asked: ExportAsked, title: str, said: DraftDocument, run: Sequence[Page], labels: dict[int, str],
    user: User | None,
) -> Document:  # fmt: skip
    created, language = timezone.now().replace(microsecond=0), most_common(run, stack)
    order = ExportOrder(
        form=asked.form, title=title, created=created, language=language_tag(language or stack.language),
        described=said.described, tiff_packing="Group 4" if asked.two_tones else "Deflate",
    ).model_dump(mode="json")  # fmt: skip
    profile, treatment = _PROFILES.get(asked.form, "compact"), treatment_of(stack)
    chosen = [packed_page(page, treatment, profile) for page in run]
    for page in chosen:
        page.label = labels[page.page_id or 0]
    made = Document(
        stack=stack,
        kind=Document.Kind.EXPORT,
        title=title,
        created_at=created,
        created_by=user,
        language=language,
        order=order,
    )
    return keep_document(made, chosen)
