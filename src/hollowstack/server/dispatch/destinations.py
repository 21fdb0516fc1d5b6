"""The list of destinations, and whether each can be reached."""

import hashlib
import tempfile
import uuid
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated, Literal
from urllib.parse import urlsplit

from django.conf import settings
from django.contrib.auth.models import User
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from hollowstack.core.page.name_patterns import PatternError, check_pattern
from hollowstack.server import networks
from hollowstack.server.accounts.record import note
from hollowstack.server.dispatch.carriers import Carrier, CarrierFault, Gone, Parcel, Taken, carrier_for, digest_there
from hollowstack.server.dispatch.carriers.mail import MailCarrier
from hollowstack.server.dispatch.models import Destination
from hollowstack.server.dispatch.places import FolderPlace, MailPlace, Place, SftpPlace, StoragePlace, place_of
from hollowstack.server.errors import Refused
from hollowstack.server.storage.sealed import seal, unseal

Kind = Literal["archive", "access", "export"]
_DEFAULT_PORTS = {"http": 80, "https": 443}


class _Unknown(Refused):
    """A machine whose name leads nowhere now."""


class DestinationAsked(BaseModel):
    """What is said of a destination."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    place: Annotated[Place, Field(discriminator="kind")]
    secret: Annotated[str, StringConstraints(max_length=10_000)] | None = None
    """A password or key; None keeps the one there is."""
    pattern: Annotated[str, StringConstraints(max_length=300)] = "{title}"
    clash: Literal["number", "ask"] = "number"
    takes: tuple[Kind, ...] = ()
    """Empty where everything goes there."""


def present() -> QuerySet[Destination]:
    """Those that things can be sent to."""
    return Destination.objects.filter(removed_at=None)


def keep(asked: DestinationAsked, user: User | None, destination_id: int | None = None) -> Destination:
    """Make a destination, or change one. Raises Refused; Destination.DoesNotExist."""
    try:
        check_pattern(asked.pattern)
    except PatternError as error:
        raise Refused(str(error)) from None
    refuse_elsewhere(asked.place)
    kept = present().get(pk=destination_id) if destination_id else Destination()
    if kept.place and kept.place != asked.place.model_dump(mode="json"):
        kept.tried_at, kept.tried_said = None, ""
    kept.name, kept.place = asked.name, asked.place.model_dump(mode="json")
    kept.pattern, kept.clash, kept.takes = asked.pattern, asked.clash, list(asked.takes)
    if asked.secret is not None:
        kept.secret, kept.tried_at = seal(asked.secret) if asked.secret else "", None
    try:
        with transaction.atomic():
            kept.save()
            note(
                user.get_username() if user else "",
                "destination changed" if destination_id else "destination made",
                kept.name,
            )
    except IntegrityError:
        raise Refused(f"There is a destination {asked.name} already: choose another name.") from None
    return kept


def remove(destination_id: int, user: User | None) -> None:
    """Take a destination away; what is on its way there still goes. Raises Destination.DoesNotExist."""
    with transaction.atomic():
        kept = present().get(pk=destination_id)
        kept.removed_at = timezone.now()
        kept.save(update_fields=["removed_at"])
        note(user.get_username() if user else "", "destination removed", kept.name)


def carrier_of(destination: Destination) -> Carrier:
    """The way there. Raises CarrierFault where the server may not go there, or its secret cannot be read."""
    place = place_of(destination.place)
    try:
        refuse_elsewhere(place)
        return carrier_for(place, unseal(destination.secret) if destination.secret else "", settings.DELIVERY_CERTIFICATES)
    except Refused as error:
        # A name that nobody knows today may be known tomorrow; what is not allowed stays so.
        raise CarrierFault(str(error), lasting=not isinstance(error, _Unknown)) from None


def refuse_elsewhere(place: Place) -> None:
    """Raises Refused where the server may not go to a place by itself, or where nobody knows it."""
    if isinstance(place, FolderPlace):
        _refuse_folder(Path(place.path))
        return
    host, port = _reached(place)
    found = networks.addresses_of(host, port)
    if not found:
        raise _Unknown(f"Nobody knows a machine named {host}: check the name.")
    if not all(networks.is_allowed(one, settings.DELIVERY_NETWORKS) for one in found):
        raise Refused(
            f"{host} is in a network that has not been allowed: whoever runs the server names it in "
            "HOLLOWSTACK_DELIVERY_NETWORKS."
        )


def _refuse_folder(path: Path) -> None:
    roots = [root.resolve() for root in settings.DELIVERY_FOLDERS]
    if not path.is_absolute() or not any(path.resolve().is_relative_to(root) for root in roots):
        named = ", ".join(map(str, settings.DELIVERY_FOLDERS))
        raise Refused(f"Folders may be in {named} only: choose one there, or name more in HOLLOWSTACK_DELIVERY_FOLDERS.")


def _reached(place: SftpPlace | StoragePlace | MailPlace) -> tuple[str, int]:
    if not isinstance(place, StoragePlace):
        return place.host, place.port
    try:
        parts = urlsplit(place.endpoint)
        port = parts.port or _DEFAULT_PORTS[parts.scheme]
    except (ValueError, KeyError):
        port, parts = 0, urlsplit("")
    if not parts.hostname or parts.username or parts.query or parts.fragment:
        raise Refused("This is no address of a storage: give it as https://storage.example.org.")
    return parts.hostname, port


def try_out(destination_id: int) -> Destination:
    """Prove a destination: write a small file there, read it back, take it away; what came of it is kept.

    Mail cannot be read back: there, the server is asked whether it takes us and the sender, and nothing is sent.
    """
    kept = present().get(pk=destination_id)
    try:
        if isinstance(place := place_of(kept.place), SftpPlace) and not place.host_key:
            kept.place = place.model_copy(update={"host_key": _host_key(place)}).model_dump(mode="json")
        if isinstance(place, FolderPlace):
            Path(place.path).mkdir(parents=True, exist_ok=True)
        prove(carrier_of(kept))
        kept.tried_said = ""
    except (CarrierFault, Refused) as fault:
        kept.tried_said = str(fault)
    except OSError as error:
        kept.tried_said = f"The folder cannot be made ({error.strerror}): make it, or choose another."
    kept.tried_at = timezone.now()
    kept.save(update_fields=["place", "tried_at", "tried_said"])
    return kept


def _host_key(place: SftpPlace) -> str:
    from hollowstack.server.dispatch.carriers.sftp import host_key_of

    refuse_elsewhere(place)
    return host_key_of(place.host, place.port)


def prove(carrier: Carrier) -> None:
    """Write, read back, take away. Raises CarrierFault."""
    if isinstance(carrier, MailCarrier):
        carrier.sign_in()
        return
    mark = uuid.uuid4().hex
    data = f"Hollow Stack looks whether it can write here ({datetime.now(UTC):%Y-%m-%d %H:%M} UTC).\n".encode()
    with tempfile.NamedTemporaryFile(suffix=".txt") as file:
        file.write(data)
        file.flush()
        parcel = Parcel(Path(file.name), f"hollow-stack-try-{mark}.txt", hashlib.sha256(data).hexdigest(), mark)
        try:
            carrier.put(parcel)
            found = digest_there(carrier, parcel.name)
        except (Gone, Taken):
            found = ""
        finally:
            carrier.remove(parcel.name)
    if found != parcel.sha256:
        raise CarrierFault("What was written there did not come back as it was: what lies there cannot be relied on.")
