"""A delivered object fetched from where it lies, for whoever wants to see that it is there."""

import hashlib
import tempfile
from typing import IO

from hollowstack.server.dispatch.carriers import CarrierFault, Gone
from hollowstack.server.dispatch.destinations import carrier_of
from hollowstack.server.dispatch.models import Delivery
from hollowstack.server.errors import Refused


def fetched(delivery: Delivery) -> IO[bytes]:
    """What lies at the destination under the delivery's name, if that is what was delivered; a file, gone when closed.

    Raises:
        Refused: Nothing lies there, something else does, or it cannot be read there.
    """
    if delivery.proof != "read":
        raise Refused("What went by mail cannot be fetched again: its receipt has the server's answer.")
    file, found = tempfile.TemporaryFile(), hashlib.sha256()  # noqa: SIM115 - whoever asked closes it

    def keep(block: bytes) -> None:
        found.update(block)
        file.write(block)

    try:
        carrier_of(delivery.destination).fetch(delivery.name, keep)
    except Gone:
        file.close()
        raise Refused("It is not there any more: check the receipt, and send the document again.") from None
    except CarrierFault as fault:
        file.close()
        raise Refused(fault.said) from None
    if found.hexdigest() != delivery.sha256:
        file.close()
        raise Refused("What lies there is not what was delivered: check the receipt, and send the document again.")
    file.seek(0)
    return file
