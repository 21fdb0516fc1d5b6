"""A page's master on record: who captured it, when, with what and how; and the images that it had before."""

from typing import Any

from hollowstack.core.run.keys import measure_key
from hollowstack.server.api.v1.schemas import Former, MasterRecord
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Change, Page


def record_of(page: Page) -> MasterRecord:
    """Where a page's master comes from."""
    source, batch = page.source, page.source.batch
    origin = ((page.opened.body or {}) if page.opened is not None else {}).get("origin", {})
    return MasterRecord(
        name=source.name,
        bytes=source.master.bytes,
        sha256=source.master_id,
        by=batch.by.get_username() if batch.by else "",
        came_at=source.added_at,
        taken_at=origin.get("taken") or source.modified_at,
        device=batch.record.get("station") or origin.get("device", ""),
        settings=_in_words(batch.record),
    )


def formers_of(page: Page) -> list[Former]:
    """Images that a page had before it was captured again, the last first."""
    found = []
    changes = page.stack.changes.filter(state=Change.State.DONE, before__pages__has_key=str(page.pk))
    for change in changes.select_related("by").order_by("-pk"):
        was = change.before["pages"][str(page.pk)]
        if "source_id" not in was or (source := page.stack.sources.filter(pk=was["source_id"]).first()) is None:
            continue
        key = measure_key(source.master_id, was["frame"])
        there = Result.objects.filter(key=key, body__isnull=False).exists()
        by = change.by.get_username() if change.by else ""
        found.append(Former(name=source.name, original=key if there else None, replaced_at=change.at, by=by))
    return found


def _in_words(record: dict[str, Any]) -> list[str]:
    if "source" not in record:
        return []
    paper = record.get("paper")
    return [
        "glass" if record["source"] == "platen" else "feeder, two sides" if record.get("two_sided") else "feeder, one side",
        f"{record['ppi']} ppi",
        record["colour"],
        f"paper {paper[0]:g} × {paper[1]:g} mm" if paper else "each sheet as large as it is",
        *([record["half"]] if record.get("half") else []),
    ]
