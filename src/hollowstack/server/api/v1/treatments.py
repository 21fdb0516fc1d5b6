"""Treatments over HTTP; the rules are in ``versions``."""

from datetime import datetime
from typing import Any

from django.http import HttpResponse
from ninja import Schema, Status

from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.treatments import versions
from hollowstack.server.treatments.models import TreatmentVersion

router = Router(tags=["treatments"])


class VersionOut(Schema):
    """A saved version."""

    version: int
    by: str
    at: datetime
    taken_back: bool


class TreatmentOut(Schema):
    """A treatment; ``version`` is its latest one, 0 as it comes with the program.

    One of which every version was taken back is not ``offered``: its last one is shown, to be brought back.
    """

    name: str
    purpose: str
    version: int
    shipped: bool
    offered: bool
    versions: list[VersionOut]
    """Saved ones, the newest first."""


class VersionIn(Schema):
    """A version by its treatment's name and its number."""

    name: str
    version: int


@router.get("/treatments", response=list[TreatmentOut])
def list_treatments(request: Request) -> list[TreatmentOut]:
    """All treatments, those that a stack can be given first."""
    return [_out(name) for name in versions.known()]


@router.get("/treatments/settings", response={200: Treatment})
def get_treatment(request: Request, name: str, version: int | None = None) -> HttpResponse:
    """All settings of a treatment, of its latest version where none is named."""
    found = versions.find(name, version)
    return HttpResponse(found.model_dump_json(by_alias=True), content_type="application/json; charset=utf-8")


@router.get("/treatments/form", response=dict[str, Any])
def get_treatment_form(request: Request) -> dict[str, Any]:
    """Settings with their titles, help, bounds, units and headings, as JSON Schema: forms are drawn from it."""
    return Treatment.model_json_schema()


@router.post("/treatments", response={201: TreatmentOut})
def create_treatment(request: Request, wanted: Treatment) -> Status[TreatmentOut]:
    """Save settings as the next version of the treatment they are named for, or as a new one."""
    return Status(201, _out(versions.save(wanted, request.user).name))


@router.post("/treatments/take-back", response={200: TreatmentOut})
def withdraw_treatment(request: Request, which: VersionIn) -> TreatmentOut:
    """Offer the newest version no longer; stacks that were given it keep it."""
    versions.take_back(which.name, which.version)
    return _out(which.name)


@router.post("/treatments/bring-back", response={200: TreatmentOut})
def restore_treatment(request: Request, which: VersionIn) -> TreatmentOut:
    """Offer a version again."""
    versions.bring_back(which.name, which.version)
    return _out(which.name)


def _out(name: str) -> TreatmentOut:
    saved = TreatmentVersion.objects.filter(name=name).select_related("by").order_by("-version")
    standing = [row for row in saved if not row.taken_back]
    now = SHIPPED[name] if not standing and name in SHIPPED else Treatment.model_validate((standing or saved)[0].settings)
    return TreatmentOut(
        name=name,
        purpose=now.purpose,
        version=now.version,
        shipped=name in SHIPPED,
        offered=bool(standing) or name in SHIPPED,
        versions=[
            VersionOut(
                version=row.version,
                by=row.by.get_username() if row.by else "somebody no longer here",
                at=row.at,
                taken_back=row.taken_back,
            )
            for row in saved
        ],
    )
