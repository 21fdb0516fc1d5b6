"""People, by e-mail (RFC 5321, RFC 5322)."""

import smtplib
import ssl
from email.message import EmailMessage
from email.policy import SMTP
from email.utils import format_datetime
from pathlib import Path

from hollowstack.server.dispatch.carriers.carrying import CarrierFault, Gone, Parcel, Placed, Sink
from hollowstack.server.dispatch.places import MailPlace

_PATIENCE = 30.0
_MB = 1_000_000


class MailCarrier:
    """Sends one message, always with the same Message-ID: whoever got it twice can tell that it is one."""

    reads_back = False

    def __init__(self, place: MailPlace, secret: str = "", certificates: Path | None = None) -> None:
        self._place, self._secret = place, secret
        self._trust = ssl.create_default_context()
        if certificates is not None:
            self._trust.load_verify_locations(certificates)

    def put(self, parcel: Parcel) -> Placed:  # noqa: D102
        message = self.written(parcel)
        data = message.as_bytes(policy=SMTP)
        if len(data) > self._place.limit_mb * _MB:
            raise self._too_large(len(data), self._place.limit_mb * _MB)
        recipients = parcel.message.recipients if parcel.message else ()
        try:
            with self._signed_in() as line:
                answer = self._hand(line, data, recipients)
        except (smtplib.SMTPException, OSError) as error:
            raise self._fault(error) from error
        return Placed(f"mailto:{','.join(recipients)}", f"{answer} · {message['Message-ID']}")

    def written(self, parcel: Parcel) -> EmailMessage:
        """The message, the same however often it is made."""
        assert parcel.message is not None
        made = EmailMessage()
        made["From"], made["To"] = self._place.sender, ", ".join(parcel.message.recipients)
        made["Subject"], made["Date"] = parcel.message.subject, format_datetime(parcel.message.written)
        made["Message-ID"] = f"<{parcel.mark}@{self._place.sender.rpartition('@')[2]}>"
        made.set_content(parcel.message.text)
        if not parcel.message.attached:
            return made
        main, _, sub = _TYPES.get(Path(parcel.name).suffix.lower(), "application/octet-stream").partition("/")
        made.add_attachment(parcel.file.read_bytes(), maintype=main, subtype=sub, filename=Path(parcel.name).name)
        # The package makes one up by chance; the same message shall be the same bytes.
        made.set_boundary(f"=_{parcel.mark}")
        return made

    def fetch(self, name: str, sink: Sink) -> None:  # noqa: D102
        raise Gone(name)

    def remove(self, name: str) -> None:
        """Mail cannot be taken back."""

    def sign_in(self) -> str:
        """Prove that the server takes us and the sender, without sending anything; what it said. Raises CarrierFault."""
        try:
            with self._signed_in() as line:
                code, said = line.mail(self._place.sender)
                line.rset()
        except (smtplib.SMTPException, OSError) as error:
            raise self._fault(error) from error
        if code >= _REFUSED:
            raise self._refused(code, said)
        return said.decode("utf-8", "replace")

    def _signed_in(self) -> smtplib.SMTP:
        place = self._place
        if place.security == "tls":
            line: smtplib.SMTP = smtplib.SMTP_SSL(place.host, place.port, timeout=_PATIENCE, context=self._trust)
        else:
            line = smtplib.SMTP(place.host, place.port, timeout=_PATIENCE)
        try:
            if place.security == "starttls":
                line.starttls(context=self._trust)
            if place.user:
                line.login(place.user, self._secret)
        except BaseException:
            line.close()
            raise
        return line

    def _hand(self, line: smtplib.SMTP, data: bytes, recipients: tuple[str, ...]) -> str:
        """All or nothing: where one recipient is refused, nobody gets it, and it is said who."""
        line.ehlo_or_helo_if_needed()
        limit = line.esmtp_features.get("size", "")
        if limit.isdecimal() and 0 < int(limit) < len(data):
            raise self._too_large(len(data), int(limit))
        code, said = line.mail(self._place.sender)
        if code >= _REFUSED:
            raise self._refused(code, said)
        for one in recipients:
            code, said = line.rcpt(one)
            if code >= _REFUSED:
                line.rset()
                raise self._refused(code, said, one)
        code, said = line.data(data)
        if code >= _REFUSED:
            raise self._refused(code, said)
        return f"{code} {said.decode('utf-8', 'replace')}"

    def _too_large(self, bytes: int, most: float) -> CarrierFault:
        return CarrierFault(
            f"The message has {bytes / _MB:.1f} MB, and {self._place.host} takes {most / _MB:.1f}: "
            "send a link in its place, or an access copy.",
            lasting=True,
        )

    def _fault(self, error: smtplib.SMTPException | OSError) -> CarrierFault:
        host = self._place.host
        if isinstance(error, smtplib.SMTPAuthenticationError):
            return CarrierFault(f"{host} does not take the name and password: put them right.", lasting=True)
        if isinstance(error, ssl.SSLCertVerificationError):
            return CarrierFault(f"{host} shows a certificate that is not trusted: nothing was told to it.", lasting=True)
        if isinstance(error, smtplib.SMTPNotSupportedError):
            return CarrierFault(f"{host} does not offer to secure the line, or to sign in: nothing was sent.", lasting=True)
        if isinstance(error, smtplib.SMTPResponseException):
            return self._refused(error.smtp_code, error.smtp_error)
        return CarrierFault(f"{host} does not answer, or the line broke: {str(error).rstrip('.') or 'no answer in time'}.")

    def _refused(self, code: int, said: bytes | str, recipient: str = "") -> CarrierFault:
        text = (said.decode("utf-8", "replace") if isinstance(said, bytes) else said).split("\n")[0].rstrip(".")
        what = f"{recipient} at {self._place.host}" if recipient else self._place.host
        return CarrierFault(f"{what} refused: {code} {text}.", lasting=code >= _FOR_GOOD)


_REFUSED, _FOR_GOOD = 400, 500
"""Codes of answers from which they are refusals, and such for good (RFC 5321, 4.2.1)."""
_TYPES = {".pdf": "application/pdf", ".zip": "application/zip", ".png": "image/png", ".jpg": "image/jpeg"}
