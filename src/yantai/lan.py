"""The local network: a certificate of the installation's own authority, and the page by which a phone trusts it.

Off unless it is asked for (`./yantai start --lan`). On loopback nothing changes; the network gets an encrypted port of
its own beside it, and a third, plain one that serves nothing but the authority's certificate and how to take it.
"""

from __future__ import annotations

import hashlib
import html
import socket
import ssl
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

import segno
import trustme
from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import HTMLResponse, Response
from starlette.routing import Route

CERTIFICATE_LASTS = timedelta(days=397)
"""Phones refuse certificates of servers that last longer than 398 days."""
_ELSEWHERE = ("192.0.2.1", 9)
"""An address that nobody has: the system is asked which way it would go, and nothing is sent."""


@dataclass(frozen=True, kw_only=True)
class Lan:
    """What the server needs on the local network.

    Attributes:
        names: the addresses and names under which it is reached.
        authority_pem: the authority's certificate, which a phone comes to trust.
        fingerprint: of that, as it is shown on the screen and on the phone, to be compared.
        certificate, key: files for the encrypted port.
    """

    names: tuple[str, ...]
    authority_pem: bytes
    fingerprint: str
    certificate: Path
    key: Path

    @property
    def name(self) -> str:
        """The address that is told."""
        return self.names[0]


def own_names() -> tuple[str, ...]:
    """The address of this machine on its network, then its name there; loopback alone where it is on none."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(_ELSEWHERE)
            address = str(probe.getsockname()[0])
        except OSError:
            address = "127.0.0.1"
    host = socket.gethostname().casefold().removesuffix(".local")
    return (address, f"{host}.local", host)


def prepare(folder: Path, names: Sequence[str], now: datetime | None = None) -> Lan:
    """The authority of this installation, made the first time and kept in `folder`, and a certificate for its names.

    The authority's key is readable by its owner alone.
    """
    now = now or datetime.now(UTC)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    kept_certificate, kept_key = folder / "authority.pem", folder / "authority-key.pem"
    if kept_certificate.exists() and kept_key.exists():
        authority = trustme.CA.from_pem(kept_certificate.read_bytes(), kept_key.read_bytes())
    else:
        authority = trustme.CA(
            organization_name="Yantai",
            organization_unit_name=f"made on {now:%Y-%m-%d} for this kitchen alone",
        )
        _write_own(kept_key, authority.private_key_pem.bytes())
        kept_certificate.write_bytes(authority.cert_pem.bytes())
    issued = authority.issue_cert(*names, "localhost", "127.0.0.1", not_after=now + CERTIFICATE_LASTS)
    certificate, key = folder / "server.pem", folder / "server-key.pem"
    _write_own(key, issued.private_key_pem.bytes())
    certificate.write_bytes(b"".join(blob.bytes() for blob in issued.cert_chain_pems))
    pem = authority.cert_pem.bytes()
    digest = hashlib.sha256(ssl.PEM_cert_to_DER_cert(pem.decode())).hexdigest().upper()
    return Lan(
        names=tuple(names),
        authority_pem=pem,
        fingerprint=" ".join(digest[at : at + 4] for at in range(0, 32, 4)),
        certificate=certificate,
        key=key,
    )


def _write_own(path: Path, content: bytes) -> None:
    path.touch(mode=0o600)
    path.chmod(0o600)
    path.write_bytes(content)


def told(lan: Lan, secure_port: int, trust_port: int) -> str:
    """What is shown at the terminal: the address, a code to scan, and what it is compared by."""
    page = f"http://{lan.name}:{trust_port}"
    lines = segno.make(page, error="m")
    return (
        f"On this network:  https://{lan.name}:{secure_port}\n"
        f"A phone or tablet comes to trust it, once, at  {page}  – scan this:\n\n{_blocks(lines)}\n"
        f"The authority shown there is  {lan.fingerprint}\n"
    )


def _blocks(code: segno.QRCode) -> str:
    """A code in half blocks, dark on light as it is printed, which every terminal draws."""
    rows = [list(row) for row in code.matrix_iter(border=2)]
    if len(rows) % 2:
        rows.append([0] * len(rows[0]))
    signs = {(0, 0): "█", (0, 1): "▀", (1, 0): "▄", (1, 1): " "}
    return "\n".join(
        "".join(signs[bool(upper), bool(lower)] for upper, lower in zip(rows[at], rows[at + 1], strict=True))
        for at in range(0, len(rows), 2)
    )


def trust_page(lan: Lan, secure_port: int) -> Starlette:
    """The plain page: three steps, and the authority's certificate. It shows nothing of the kitchen."""
    address = f"https://{lan.name}:{secure_port}"
    page = _PAGE.replace("ADDRESS", html.escape(address)).replace("FINGERPRINT", html.escape(lan.fingerprint))
    headers = {"Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'", "Cache-Control": "no-store"}

    async def show(_request: Request) -> Response:
        return HTMLResponse(page, headers=headers)

    async def certificate(_request: Request) -> Response:
        named = {"Content-Disposition": 'attachment; filename="yantai-authority.crt"'}
        return Response(lan.authority_pem, media_type="application/x-x509-ca-cert", headers=headers | named)

    return Starlette(routes=[Route("/", show), Route("/yantai-authority.crt", certificate)])


_PAGE = """<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Trust this kitchen – Yantai</title>
<style>
body { font: 18px/1.5 sans-serif; max-width: 34em; margin: 0 auto; padding: 1.2em; color: #17211c; background: #f6f5f0 }
a.take { display: block; padding: .9em; margin: .6em 0; border-radius: .5em; background: #17211c; color: #f6f5f0;
  text-align: center; text-decoration: none; font-weight: bold }
code { font-size: 1.1em; overflow-wrap: anywhere }
li { margin-bottom: 1.2em }
</style>
<h1>Trust this kitchen</h1>
<p>Three steps, once for each phone or tablet. Then it speaks to the kitchen’s computer without anybody listening.</p>
<ol>
<li><strong>Take the certificate.</strong>
<a class="take" href="/yantai-authority.crt">Take the certificate</a>
Compare before you trust it: the computer’s screen shows the same as here, <code>FINGERPRINT</code>.</li>
<li><strong>Trust it.</strong> Where Settings speaks of a downloaded profile: General, VPN &amp; Device Management,
install it; then General, About, Certificate Trust Settings, switch it on. Elsewhere: Settings, search “CA certificate”,
install the file that was downloaded.</li>
<li><strong>Open the kitchen:</strong> <a href="ADDRESS"><code>ADDRESS</code></a>, and sign in, or type the code that
the coach shows in Settings under “Phones and tablets”, at <a href="ADDRESS/pair"><code>ADDRESS/pair</code></a>.</li>
</ol>
<p>It is trusted on this device only, and can be removed where it was installed. Do not trust it if the two rows of
letters differ.</p>
"""
