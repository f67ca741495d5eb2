"""Addresses by which other devices reach this server."""

from __future__ import annotations

import io
import re
from dataclasses import dataclass

import segno

from yantai.work.common.errors import Collector

_ADDRESS = re.compile(r"https?://[\w.\-\[\]:]{1,200}")
_OWN = re.compile(r"https?://(127\.|localhost\b|\[::1\])")
"""What a computer calls itself: another device that goes there finds itself."""


@dataclass(frozen=True, kw_only=True)
class Reach:
    """An address for other devices; `is_own` is the computer's own, which no other device reaches."""

    address: str
    is_own: bool


def reach(address: str, lan_address: str, faults: Collector) -> Reach:
    """The address that a page stands on as others reach it: where it is this computer's own, `lan_address`; "" where
    the network is not served, which is told."""
    address = address.rstrip("/")
    if _ADDRESS.fullmatch(address) is None:
        faults.add("/address", "give the address of this page, as https://192.0.2.7:8765")
    is_own = _OWN.match(address) is not None
    return Reach(address=address if not is_own or not lan_address else lan_address, is_own=is_own and not lan_address)


def code_picture(text: str) -> str:
    """A code to scan, as SVG."""
    out = io.BytesIO()
    segno.make(text, error="m").save(out, kind="svg", scale=6, border=2, light="white", xmldecl=False, svgns=True)
    return out.getvalue().decode()
