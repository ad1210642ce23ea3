"""`nudge certificate`: an authority of this machine's own, and a certificate for its names.

The authority may speak for these names alone (name constraints), so that whoever gets hold of its
key can pretend to be this machine and nobody else. Keys are 0600.
"""

import os
import socket
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from ipaddress import IPv4Address, IPv6Address, ip_address, ip_network
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

FOLDER = "tls"
AUTHORITY, AUTHORITY_KEY = "authority.crt", "authority.key"
CERTIFICATE, KEY = "nudge.crt", "nudge.key"
AUTHORITY_LIVES, CERTIFICATE_LIVES = timedelta(days=3650), timedelta(days=397)
"""Browsers take no certificate that lives longer than 398 days."""
EARLIER = timedelta(hours=1)
"""A phone's clock may be behind."""

Address = IPv4Address | IPv6Address


class BadName(ValueError):
    """A name no certificate can be made for."""


def own_names(address: str) -> list[str]:
    """What this machine is called and reached by."""
    host = socket.gethostname().split(".")[0].lower()
    found = [host, f"{host}.local", "localhost", "127.0.0.1"]
    return [*found, address] if address and address not in found else found


def make(data_folder: Path, names: Sequence[str]) -> Path:
    """An authority (the one that is here, if it may speak for the names) and a certificate by it.

    Returns the folder. Raises: BadName; OSError.
    """
    folder = data_folder / FOLDER
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    wanted = [_general(name) for name in names]
    authority, key = _authority(folder, wanted)
    own_key = ec.generate_private_key(ec.SECP256R1())
    now = datetime.now(UTC)
    certificate = (
        x509.CertificateBuilder()
        .subject_name(_named(names[0]))
        .issuer_name(authority.subject)
        .public_key(own_key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - EARLIER)
        .not_valid_after(now + CERTIFICATE_LIVES)
        .add_extension(x509.SubjectAlternativeName(wanted), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(key.public_key()), critical=False
        )
        .sign(key, hashes.SHA256())
    )
    _write(folder / KEY, _private(own_key), 0o600)
    chain = [certificate, authority]
    text = b"".join(one.public_bytes(serialization.Encoding.PEM) for one in chain)
    _write(folder / CERTIFICATE, text, 0o644)
    return folder


def found_in(data_folder: Path) -> tuple[Path, Path] | None:
    """The certificate and its key that were made for a data folder; None where there are none."""
    certificate, key = (data_folder / FOLDER / name for name in (CERTIFICATE, KEY))
    return (certificate, key) if certificate.is_file() and key.is_file() else None


def ends_at(certificate: Path) -> datetime:
    """Until when a certificate is good."""
    return x509.load_pem_x509_certificate(certificate.read_bytes()).not_valid_after_utc


def how_to_trust(folder: Path, address: str) -> str:
    """In plain words: how a phone comes to trust what was made."""
    where = f"https://{address}:PORT/{AUTHORITY}" if address else f"/{AUTHORITY} of Nudge"
    return f"""Made in {folder}:
  {AUTHORITY}   the authority of this machine. A phone has to trust it once.
  {CERTIFICATE}       the certificate of this machine's names, good for 397 days. Run this again
                  before that; phones that trust the authority need nothing new.
The keys beside them stay here. Give them to nobody.

Start Nudge with HOST=0.0.0.0: it now answers on https. On each phone or tablet:
  1. Bring {AUTHORITY} to it: by cable, by mail to yourself, or open {where}
     and accept the warning this one time.
  2. Install it as an authority: search the device's settings for “certificate” and choose “CA
     certificate”. Some devices install a file by opening it, and want it switched on afterwards
     under their trusted certificates. A computer takes it into the browser's authorities.
  3. Compare the fingerprint that the device shows with this one:
     {fingerprint(folder / AUTHORITY)}
The authority can speak for this machine's names alone. It cannot pretend to be any other site."""


def fingerprint(certificate: Path) -> str:
    """SHA-256 of a certificate, in pairs."""
    found = x509.load_pem_x509_certificate(certificate.read_bytes())
    return found.fingerprint(hashes.SHA256()).hex(":").upper()


def _authority(
    folder: Path, wanted: Sequence[x509.GeneralName]
) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    """The authority that is here, where it may speak for all of `wanted`; else a new one."""
    path, key_path = folder / AUTHORITY, folder / AUTHORITY_KEY
    if path.is_file() and key_path.is_file():
        kept = x509.load_pem_x509_certificate(path.read_bytes())
        key = serialization.load_pem_private_key(key_path.read_bytes(), None)
        if isinstance(key, ec.EllipticCurvePrivateKey) and _may_speak_for(kept, wanted):
            return kept, key
    key = ec.generate_private_key(ec.SECP256R1())
    now, name = datetime.now(UTC), _named(f"Nudge on {socket.gethostname().split('.')[0]}")
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - EARLIER)
        .not_valid_after(now + AUTHORITY_LIVES)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(
            x509.NameConstraints([_constraint(one) for one in wanted], None), critical=True
        )
        .add_extension(
            x509.KeyUsage(
                digital_signature=False,
                content_commitment=False,
                key_encipherment=False,
                data_encipherment=False,
                key_agreement=False,
                key_cert_sign=True,
                crl_sign=True,
                encipher_only=False,
                decipher_only=False,
            ),
            critical=True,
        )
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write(key_path, _private(key), 0o600)
    _write(path, made.public_bytes(serialization.Encoding.PEM), 0o644)
    return made, key


def _may_speak_for(authority: x509.Certificate, wanted: Sequence[x509.GeneralName]) -> bool:
    """Whether it is good for another certificate's life, and its constraints hold every name."""
    if authority.not_valid_after_utc < datetime.now(UTC) + CERTIFICATE_LIVES:
        return False
    found = authority.extensions.get_extension_for_class(x509.NameConstraints).value
    permitted = found.permitted_subtrees or []
    return all(_constraint(one) in permitted for one in wanted)


def _general(name: str) -> x509.GeneralName:
    """A name or an address as a certificate holds it. Raises: BadName."""
    try:
        return x509.IPAddress(ip_address(name))
    except ValueError:
        pass
    if not name or len(name) > 253 or any(not (c.isalnum() or c in ".-") for c in name):
        raise BadName(f"“{name[:60]}” is neither a name nor an address of a machine.")
    try:
        return x509.DNSName(name.lower())
    except ValueError as wrong:
        raise BadName(f"“{name[:60]}” cannot stand in a certificate: write it in ASCII.") from wrong


def _constraint(name: x509.GeneralName) -> x509.GeneralName:
    """What an authority is confined to: the very name, or the very address."""
    if isinstance(name, x509.IPAddress):
        return x509.IPAddress(ip_network(str(name.value)))
    return name


def _named(text: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, text[:64])])


def _private(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _write(path: Path, data: bytes, mode: int) -> None:
    """A file of a mode from its first byte on, complete or not there."""
    part = path.with_name(f".{path.name}.part")
    part.unlink(missing_ok=True)
    number = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, mode)
    with os.fdopen(number, "wb") as file:
        file.write(data)
    os.replace(part, path)
