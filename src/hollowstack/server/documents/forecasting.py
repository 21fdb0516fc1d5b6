"""How large a stack's documents are likely to be: told while what they are made as is chosen."""

from collections.abc import Iterable, Iterator, Sequence
from datetime import datetime
from itertools import islice
from typing import Any, Literal

from django.db.models import Sum
from pydantic import BaseModel, ConfigDict

from hollowstack.core.run.forecast import Weighed, beside_images, choose_sample, estimated_bytes
from hollowstack.core.run.keys import render_key
from hollowstack.core.settings.profile import Profile
from hollowstack.server.documents.models import Draft
from hollowstack.server.documents.packing import packed_plan
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Master, Page, Stack
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.services import treatment_of


class Forecast(BaseModel):
    """Bytes of all documents together; ``exact`` where every page is packed, ``estimated`` from ``sampled`` of them."""

    model_config = ConfigDict(frozen=True)
    bytes: int | None
    """None while no page of the sample is packed."""
    each: list[int] = []
    """Bytes of every document; none while there are none of all."""
    state: Literal["exact", "sampling", "estimated"]
    sampled: int = 0
    of: int = 0


def samples_for(stack: Stack, profile: Profile) -> list[dict[str, Any]]:
    """The pages by which a profile is weighed, each with its plan; none where nothing is packed anew."""
    pages = _ready(stack.pk)
    treatment = treatment_of(stack)
    if not pages or packed_plan(pages[0], treatment, profile) is None:
        return []
    found = []
    for at in choose_sample([_weighed(page) for page in pages]):
        page = pages[at]
        plan = packed_plan(page, treatment, profile)
        assert plan is not None
        key = render_key(page.source.master_id, page.frame, plan)
        told = plan.model_dump(mode="json")
        found.append({"page": page.pk, "rendered": key, "plan": told, "master": page.source.master_id, "frame": page.frame})
    return found


def forecast_of(stack: Stack, documents: Sequence[Sequence[Page]]) -> Forecast:
    """What a stack's pages come to in these documents as its draft packs them; what cannot be packed is passed over."""
    pages = [page for document in documents for page in document]
    weighed = [_weighed(page) for page in pages]
    draft = Draft.objects.filter(stack=stack).first()
    places = {page.pk: at for at, page in enumerate(pages)}
    samples = [one for one in (draft.samples if draft is not None else []) if one["page"] in places]
    if not samples:
        return _told(documents, [page.bytes for page in weighed], state="exact")
    results = Result.objects.in_bulk([one["rendered"] for one in samples])
    made = {key: one.made["bytes"] for key, one in results.items() if one.state == Result.State.MADE}
    waiting = sum(
        one["rendered"] not in results or results[one["rendered"]].state == Result.State.WAITING for one in samples
    )
    sampled = {places[one["page"]]: made[one["rendered"]] for one in samples if one["rendered"] in made}
    return _told(
        documents, estimated_bytes(weighed, sampled) if sampled else None,
        state="sampling" if waiting else "estimated", sampled=len(sampled), of=len(samples),
    )  # fmt: skip


def _told(documents: Sequence[Sequence[Page]], images: Sequence[int] | None, **known: Any) -> Forecast:
    """With what each of the documents takes besides the ``images`` of its pages; not told where these are not known."""
    if images is None:
        return Forecast(bytes=None, **known)
    of_pages = iter(images)
    each = []
    for pages in documents:
        beside = beside_images(len(pages), sum(_words(page) for page in pages))
        each.append(sum(islice(of_pages, len(pages))) + beside)
    return Forecast(bytes=sum(each), each=each, **known)


def _words(page: Page) -> int:
    return 0 if page.reading is None else int((page.reading.body or {}).get("words", 0))


def wanted_samples(now: datetime) -> Iterator[dict[str, Any]]:
    """Pages that are still to be packed for a forecast, as drafts have them."""
    for samples in _drafts():
        settled = Result.objects.filter(key__in=[one["rendered"] for one in samples])
        settled = settled.exclude(state=Result.State.WAITING, next_try_at__lte=now)
        there = set(settled.values_list("key", flat=True))
        yield from (one for one in samples if one["rendered"] not in there)


def sampled_keys() -> set[str]:
    """The keys of all pages by which some forecast is made."""
    return {one["rendered"] for samples in _drafts() for one in samples}


def _drafts() -> Iterable[list[dict[str, Any]]]:
    return Draft.objects.filter(stack__deleted_at=None).exclude(samples=[]).values_list("samples", flat=True)


def masters_bytes(stack_id: int) -> int:
    """Bytes of the files that a stack's pages come from, each counted once."""
    of_pages = Page.objects.filter(stack_id=stack_id, removed=False, state=Page.State.READY).values("source__master")
    return Master.objects.filter(pk__in=of_pages).aggregate(sum=Sum("bytes"))["sum"] or 0


def _ready(stack_id: int) -> list[Page]:
    pages = Page.objects.filter(stack_id=stack_id, removed=False, state=Page.State.READY, to_plan=False)
    return [page for page in with_results(pages).select_related("stack").order_by("position") if page.rendered is not None]


def _weighed(page: Page) -> Weighed:
    assert page.rendered is not None
    body, plan = page.rendered.made, page.plan or {}
    width, height = body.get("size_px") or plan["size_px"]
    return Weighed((plan["colour"], body["filter"]), body["bytes"], width * height)
