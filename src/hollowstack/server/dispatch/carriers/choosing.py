"""Which carrier goes to which place."""

from pathlib import Path

from hollowstack.server.dispatch.carriers.carrying import Carrier
from hollowstack.server.dispatch.places import FolderPlace, MailPlace, Place, SftpPlace


def carrier_for(place: Place, secret: str, certificates: Path | None = None) -> Carrier:
    """The way to a place. Their packages are loaded where they are needed: half a second that not every process spends.

    Args:
        place: Where.
        secret: A password or key; empty where there is none.
        certificates: A file of certificates that are trusted beside the system's (PEM); none where it is not there.
    """
    certificates = certificates if certificates is not None and certificates.exists() else None
    match place:
        case FolderPlace():
            from hollowstack.server.dispatch.carriers.folder import FolderCarrier

            return FolderCarrier(place, secret)
        case SftpPlace():
            from hollowstack.server.dispatch.carriers.sftp import SftpCarrier

            return SftpCarrier(place, secret)
        case MailPlace():
            from hollowstack.server.dispatch.carriers.mail import MailCarrier

            return MailCarrier(place, secret, certificates)
        case _:
            from hollowstack.server.dispatch.carriers.storage import StorageCarrier

            return StorageCarrier(place, secret, certificates)
