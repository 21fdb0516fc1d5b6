"""Hands on dispatch: documents as if bound, destinations at the receivers, deliveries carried out at once."""

import hashlib
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from django.utils import timezone

from hollowstack.server.dispatch import courier, destinations
from hollowstack.server.dispatch.deliveries import DispatchAsked, dispatch
from hollowstack.server.dispatch.destinations import DestinationAsked
from hollowstack.server.dispatch.models import Delivery, Destination
from hollowstack.server.documents.models import Document
from hollowstack.server.results.models import Result
from hollowstack.server.storage import places
from tests.server.conftest import sha
from tests.server.receivers import Receivers, nothing_goes_wrong, receivers

__all__ = ["nothing_goes_wrong", "receivers"]

WHEN = datetime(2026, 3, 7, 9, tzinfo=UTC)


@pytest.fixture(autouse=True)
def allowed(settings: Any, receivers: Receivers, tmp_path: Path) -> None:
    """The server may go to this machine, and to a folder."""
    from ipaddress import ip_network

    settings.DATA, settings.DELIVERY_FOLDERS = tmp_path / "data", [receivers.folder]
    settings.DELIVERY_NETWORKS, settings.DELIVERY_CERTIFICATES = [ip_network("127.0.0.0/8")], receivers.certificates
    settings.DELIVERY_SECONDS, settings.RECEIPT_DAYS = 5.0, 7.0


def document(
    stack: Any, number: int = 1, title: str = "Letters", data: bytes | None = b"%PDF-1.7 made up", **more: Any
) -> Document:
    """One that is bound, or is still being bound where it has no data."""
    made = Document.objects.create(
        stack=stack, title=title, key=sha(900 + number), created_at=WHEN, page_count=3,
        order={"described": {"identifier": "SL/27/114"}}, **more,
    )  # fmt: skip
    if data is not None:
        bind(made, data)
    return made


def bind(made: Document, data: bytes) -> None:
    path = places.document_path(made.key)
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)
    body = {"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest(), "pages": 3}
    Result.objects.create(key=made.key, step="bind", body=body)


def destination(receivers: Receivers, kind: str, **more: Any) -> Destination:
    place, secret = receivers.places[kind]
    asked = {"name": f"The {kind}", "place": place, "secret": secret, "pattern": f"{kind} {{title}}", **more}
    return destinations.keep(DestinationAsked.model_validate(asked), None)


def sent(documents: list[Document], to: list[Destination], **more: Any) -> list[Delivery]:
    asked = {"documents": [one.pk for one in documents], "destinations": [one.pk for one in to], **more}
    return dispatch(DispatchAsked.model_validate(asked), None)


def now(delivery: Delivery) -> Delivery:
    return Delivery.objects.get(pk=delivery.pk)


def carried(delivery: Delivery) -> Delivery:
    courier.carry(delivery.pk)
    return now(delivery)


def is_due(delivery: Delivery) -> bool:
    return courier.due_ones(timezone.now().timestamp()).filter(pk=delivery.pk).exists()
