"""How a file is carried to a place, by kind of place. Nothing here knows Django or deliveries."""

from hollowstack.server.dispatch.carriers.carrying import (
    Carrier,
    CarrierFault,
    Gone,
    Message,
    Parcel,
    Placed,
    Taken,
    digest_here,
    digest_there,
)
from hollowstack.server.dispatch.carriers.choosing import carrier_for

__all__ = [
    "Carrier",
    "CarrierFault",
    "Gone",
    "Message",
    "Parcel",
    "Placed",
    "Taken",
    "carrier_for",
    "digest_here",
    "digest_there",
]
