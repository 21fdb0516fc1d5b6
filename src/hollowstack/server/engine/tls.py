"""Keys of the cluster: scheduler, workers and engine know each other by one certificate that nobody else has.

Whoever can give a scheduler work can run anything as its user: without the key nobody can, on this machine or another.
"""

import os
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID
from distributed.security import Security
from django.conf import settings

from hollowstack.core.page.durable import settle

_YEARS = 20


def folder() -> Path:
    """Where the cluster's certificate and key lie: whoever starts workers elsewhere copies these two there."""
    return Path(settings.DATA) / "cluster"


def security() -> Security:
    """What engine, scheduler and workers are started with; the keys are made where there are none yet."""
    certificate, key = folder() / "certificate.pem", folder() / "key.pem"
    if not (certificate.exists() and key.exists()):
        _make(certificate, key)
    paths: dict[str, str] = {"tls_ca_file": str(certificate)}
    for role in ("client", "scheduler", "worker"):
        paths |= {f"tls_{role}_cert": str(certificate), f"tls_{role}_key": str(key)}
    return Security(require_encryption=True, **paths)


def _make(certificate: Path, key: Path) -> None:
    secret = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "hollowstack cluster")])
    now = datetime.now(UTC)
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(secret.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=365 * _YEARS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .sign(secret, hashes.SHA256())
    )
    folder().mkdir(mode=0o700, exist_ok=True)
    plain = serialization.NoEncryption()
    form = serialization.PrivateFormat.PKCS8
    _write(key, secret.private_bytes(serialization.Encoding.PEM, form, plain))
    _write(certificate, made.public_bytes(serialization.Encoding.PEM))


def _write(path: Path, data: bytes) -> None:
    part = path.with_suffix(".part")
    handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(handle, "wb") as file:
        file.write(data)
    settle(part, path)
