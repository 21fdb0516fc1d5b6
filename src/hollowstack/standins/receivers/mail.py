"""A mail server that keeps what it is given (RFC 5321), with STARTTLS (RFC 3207) and sign-in (RFC 4954)."""

import asyncio
import datetime as dt
import email
import email.policy
import ssl
import time
from dataclasses import dataclass
from ipaddress import ip_address
from pathlib import Path
from typing import Any, cast

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, AuthResult, Envelope, LoginPassword, Session
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from hollowstack.standins.receivers.mishaps import SLOW_SECONDS, Mishaps

USER, PASSWORD = "skerry", "lantern"
MOST_BYTES = 25_000_000


@dataclass(frozen=True, slots=True)
class Mail:
    """A message that came, for whom, and when."""

    recipients: tuple[str, ...]
    message: email.message.EmailMessage
    came: dt.datetime


class MailServer:
    """Runs in a thread of its own until it is stopped."""

    def __init__(self, port: int, certificate: Path, host: str = "127.0.0.1") -> None:
        """``certificate`` is where its self-made one is written, to be trusted by whoever sends."""
        self.mishaps, self.mails = Mishaps(), list[Mail]()
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        context.load_cert_chain(_certificate(certificate, host))
        self._controller = Controller(
            _Taking(self), hostname=host, port=port, tls_context=context, require_starttls=True, auth_required=True,
            authenticator=self._signs_in, data_size_limit=MOST_BYTES, ident="made up",
        )  # fmt: skip
        self._controller.start()

    def stop(self) -> None:
        """No longer."""
        self._controller.stop()

    def _signs_in(self, server: SMTP, session: Session, envelope: Envelope, mechanism: str, data: Any) -> AuthResult:
        told = cast("LoginPassword", data)
        good = (told.login, told.password) == (USER.encode(), PASSWORD.encode())
        return AuthResult(success=good and not self.mishaps.happens("password"), handled=False)


class _Taking:
    """What the package calls as a message comes."""

    def __init__(self, server: MailServer) -> None:
        self._server = server

    async def handle_RCPT(self, server: SMTP, session: Session, envelope: Envelope, address: str, options: list[str]) -> str:
        if self._server.mishaps.happens("refuses"):
            return "550 5.1.1 nobody of that name is here"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: SMTP, session: Session, envelope: Envelope) -> str:
        mishaps = self._server.mishaps
        if mishaps.happens("slow"):
            time.sleep(SLOW_SECONDS)
        if mishaps.happens("full"):
            return "452 4.3.1 no room left"
        if mishaps.happens("drops"):
            cast("asyncio.Transport", server.transport).abort()
            return "421 4.3.0 gone"
        content = envelope.content
        data = content if isinstance(content, bytes) else (content or "").encode()
        message = email.message_from_bytes(data, policy=email.policy.default)
        self._server.mails.append(Mail(tuple(envelope.rcpt_tos), message, dt.datetime.now(dt.UTC)))
        return f"250 2.0.0 taken as {len(self._server.mails)}"


def _certificate(path: Path, host: str) -> Path:
    """A key and a certificate that it has signed itself, in one file (PEM); made where there is none."""
    if path.exists():
        return path
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "made-up mail server")])
    names = [x509.IPAddress(ip_address(host)), x509.DNSName("localhost")]
    now = dt.datetime.now(dt.UTC)
    made = (
        x509.CertificateBuilder()
        .subject_name(name).issuer_name(name).public_key(key.public_key()).serial_number(x509.random_serial_number())
        .not_valid_before(now - dt.timedelta(days=1)).not_valid_after(now + dt.timedelta(days=3650))
        .add_extension(x509.SubjectAlternativeName(names), critical=False)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .sign(key, hashes.SHA256())
    )  # fmt: skip
    told = key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    path.parent.mkdir(parents=True, exist_ok=True)
    path.touch(mode=0o600)
    path.write_bytes(told + made.public_bytes(serialization.Encoding.PEM))
    return path
