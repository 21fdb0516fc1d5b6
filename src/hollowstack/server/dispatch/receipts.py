"""What arrived, as data that others can read."""

import csv
import io
from collections.abc import Iterable
from datetime import datetime
from typing import Any

from hollowstack.core.page.cells import plain_cell
from hollowstack.server.dispatch.models import Delivery

COLUMNS = (
    "title", "stack", "destination", "kind", "name", "where", "bytes", "sha256", "asked_by", "asked_at", "arrived_at",
    "proof", "answer", "checked_at", "missing",
)  # fmt: skip


def told(delivery: Delivery) -> dict[str, Any]:
    """One receipt; dates as ISO 8601 in UTC."""
    return {
        "title": delivery.title,
        "stack": delivery.stack_name,
        "destination": delivery.destination.name,
        "kind": delivery.destination.kind,
        "name": delivery.name,
        "where": delivery.where,
        "bytes": delivery.bytes,
        "sha256": delivery.sha256,
        "asked_by": delivery.asked_by.get_username() if delivery.asked_by else "",
        "asked_at": _date(delivery.asked_at),
        "arrived_at": _date(delivery.arrived_at),
        "proof": delivery.proof,
        "answer": delivery.answer,
        "checked_at": _date(delivery.checked_at),
        "missing": delivery.missing,
    }


def as_csv(deliveries: Iterable[Delivery]) -> str:
    """Receipts as comma-separated values with a head (RFC 4180); nothing in them is taken for a formula."""
    buffer = io.StringIO()
    rows = csv.DictWriter(buffer, COLUMNS)
    rows.writeheader()
    for one in deliveries:
        rows.writerow({name: _plain(value) for name, value in told(one).items()})
    return buffer.getvalue()


def _plain(value: Any) -> Any:
    return plain_cell(value) if isinstance(value, str) else value


def _date(when: datetime | None) -> str:
    return when.isoformat(timespec="seconds") if when else ""
