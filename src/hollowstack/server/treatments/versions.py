"""The rules of treatments and their versions, without HTTP."""

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Max, QuerySet

from hollowstack.core.ocr.models import check_language
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Refused
from hollowstack.server.treatments.models import TreatmentVersion


def latest(name: str) -> Treatment:
    """The newest version of a treatment that stands. Raises Refused where there is none of that name."""
    saved = _standing(name).last()
    if saved is not None:
        return Treatment.model_validate(saved.settings)
    if name in SHIPPED:
        return SHIPPED[name]
    raise Refused(f"There is no treatment “{name}”: choose from {', '.join(names())}.")


def find(name: str, version: int | None) -> Treatment:
    """One version of a treatment, the latest where none is named. Raises Refused where there is no such version."""
    if version is None:
        return latest(name)
    if version == 0 and name in SHIPPED:
        return SHIPPED[name]
    saved = TreatmentVersion.objects.filter(name=name, version=version).first()
    if saved is None:
        raise Refused(f"There is no version {version} of the treatment “{name}”: choose another.")
    return Treatment.model_validate(saved.settings)


def names() -> list[str]:
    """All treatments by name: those that come with the program first, then those of one's own."""
    own = TreatmentVersion.objects.filter(taken_back=False).order_by("name").values_list("name", flat=True).distinct()
    return [*SHIPPED, *(name for name in own if name not in SHIPPED)]


def known() -> list[str]:
    """These, and behind them those of which every version was taken back: they can be brought back."""
    offered = names()
    saved = TreatmentVersion.objects.order_by("name").values_list("name", flat=True).distinct()
    return [*offered, *(name for name in saved if name not in offered)]


def titled(treatment: Treatment) -> str:
    """Name and version in words."""
    return treatment.name if treatment.version == 0 else f"{treatment.name}, version {treatment.version}"


def save(wanted: Treatment, user: User | None) -> TreatmentVersion:
    """Keep settings as the next version of the treatment they are named for, or as the first of a new one.

    Raises:
        Refused: The name is empty, or nothing differs from the version before.
        ReadError: There is no model for one of its languages.
    """
    name = " ".join(wanted.name.split())
    if not name:
        raise Refused("A treatment needs a name: give it one.")
    check_language(wanted.languages)
    with transaction.atomic():
        number = (TreatmentVersion.objects.filter(name=name).aggregate(Max("version"))["version__max"] or 0) + 1
        named = wanted.model_copy(update={"name": name, "version": number})
        if name in names() and _same(latest(name), named):
            raise Refused("Nothing differs from the version before: change something first.")
        return TreatmentVersion.objects.create(
            name=name, version=number, settings=named.model_dump(mode="json", by_alias=True), by=user
        )


def take_back(name: str, version: int) -> TreatmentVersion:
    """Offer the newest version of a treatment no longer; the one before it is the latest then.

    Raises:
        Refused: It is not the newest one that stands.
    """
    with transaction.atomic():
        newest = _standing(name).last()
        if newest is None or newest.version != version:
            raise Refused("Only the newest version can be taken back: look at the treatment again.")
        newest.taken_back = True
        newest.save(update_fields=["taken_back"])
    return newest


def bring_back(name: str, version: int) -> TreatmentVersion:
    """Offer a version again that was taken back. Raises Refused where there is none."""
    saved = TreatmentVersion.objects.filter(name=name, version=version, taken_back=True).first()
    if saved is None:
        raise Refused("That version was not taken back: look at the treatment again.")
    saved.taken_back = False
    saved.save(update_fields=["taken_back"])
    return saved


def _standing(name: str) -> QuerySet[TreatmentVersion]:
    return TreatmentVersion.objects.filter(name=name, taken_back=False).order_by("version")


def _same(one: Treatment, other: Treatment) -> bool:
    return one.model_copy(update={"version": 0}) == other.model_copy(update={"version": 0})
