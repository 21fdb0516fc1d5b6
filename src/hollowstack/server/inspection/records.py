"""Inspection records as files: JSON, and an archival document to be kept with the pages."""

import hashlib
import json
from collections import Counter
from datetime import datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from hollowstack.core.bind import Binding, Description, bind
from hollowstack.core.bind.drawn_pages import Part, Table, drawn_pages
from hollowstack.server.inspection.models import Signature

_SHORT = 12
"""Letters of a digest that tell one from another; the whole ones are in the JSON, whose own digest is on paper."""


def as_json(signature: Signature) -> bytes:
    """The record as it was made when the stack was signed for; the same bytes each time."""
    return json.dumps(signature.record, indent=1, sort_keys=True, ensure_ascii=False).encode() + b"\n"


def as_pdf(signature: Signature) -> bytes:
    """The record as a PDF/A; the same bytes each time."""
    record = signature.record
    digest = hashlib.sha256(as_json(signature)).hexdigest()
    title = f"Inspection record: {record['stack']['name']}"
    parts = [
        _signed(record, signature, digest), *map(_sample, record["samples"]), _verdicts(record["verdicts"]), _pages(record),
    ]  # fmt: skip
    pages = drawn_pages(title, parts, f"{title} · signature {record['signature']}")
    with TemporaryDirectory(prefix="hollowstack-record-") as folder:
        path = Path(folder) / "record.pdf"
        bind(pages, path, Binding(Description(title, signature.at)))
        return path.read_bytes()


def _signed(record: dict[str, Any], signature: Signature, digest: str) -> Part:
    pages = record["pages"]
    aside = Counter(page["aside"] for page in pages if page["aside"])
    kept = len(pages) - aside.total()
    held = "; ".join(f"{many} {why}" for why, many in sorted(aside.items()))
    told = [
        f"{record['signed']['by']} signed for this stack on {_time(record['signed']['at'])}.",
        f"It has {len(pages)} pages, of which {kept} are in the output" + (f", and held aside: {held}." if held else "."),
        f"The same record as JSON has the SHA-256 {digest}.",
    ]
    if signature.reopened_at is not None:
        told.append(
            f"{signature.reopened_by} reopened it on {_time(signature.reopened_at.isoformat())}: {signature.reopened_why}"
        )
    return Part("Signature", told)


def _sample(sample: dict[str, Any]) -> Part:
    plan, drawn, decided = sample["plan"], sample["drawn"], sample["decided"]
    of = f"{plan['severity']} inspection" + (f", code letter {plan['letter']}" if plan["letter"] else "")
    told = [
        f"Lot: {sample['lot']}, {sample['pages']} pages, captured by {sample['source']}.",
        f"Plan: {plan['standard']}, level {plan['level']}, AQL {plan['aql']}, {of}: {plan['size']} pages, "
        f"accepted up to {plan['accept']} bad ones, not from {plan['reject']} on.",
        f"Drawn by {drawn['by']} on {_time(drawn['at'])} with the seed {plan['seed']}.",
        f"{decided['what'].capitalize()} by {decided['by']} on {_time(decided['at'])}: {decided['sentence']}",
    ]
    if plan["all pages after rejection"]:
        told.append("The sample was not accepted; all pages were gone through after that.")
    rows = [(str(one["page"]), one["worst"] or "good", one["note"], one["by"], _time(one["at"])) for one in sample["looks"]]
    return Part("Sample", told, Table(("Page", "Found", "Note", "By", "At"), (0.09, 0.13, 0.38, 0.18, 0.22), rows))


def _verdicts(verdicts: list[dict[str, Any]]) -> Part:
    if not verdicts:
        return Part("Findings found fine", ["There were none."])
    rows = [
        (str(one["page"] or "stack"), f"{one['what']}: {one['message']}", one["by"], _time(one["at"])) for one in verdicts
    ]
    return Part("Findings found fine", (), Table(("Page", "Finding", "By", "At"), (0.09, 0.51, 0.18, 0.22), rows))


def _pages(record: dict[str, Any]) -> Part:
    rows = [
        (
            str(page["page"]),
            page["file"] + (f" ({page['frame'] + 1})" if page["frame"] else ""),
            page["sha256"][:_SHORT],
            f"held aside, {page['aside']}" if page["aside"] else page["state"][:_SHORT],
            str(page["words put right"] or ""),
        )
        for page in record["pages"]
    ]
    told = ["A page is named by the SHA-256 of its file as it came, and of its state: image, text, and what was put right."]
    heads = ("Page", "File", "As it came", "State", "Words put right")
    return Part("Pages", told, Table(heads, (0.09, 0.39, 0.18, 0.2, 0.14), rows))


def _time(at: str) -> str:
    when = datetime.fromisoformat(at)
    return f"{when.day} {when:%B %Y, %H:%M} UTC"
