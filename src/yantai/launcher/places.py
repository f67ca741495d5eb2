"""Where things are."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Iterable
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]
STATE = Path(os.environ.get("YANTAI_STATE", ROOT / ".state"))
VENV = ROOT / ".venv"
BIN = VENV / "bin"
WEB = ROOT / "web"
WEB_BUILD = ROOT / "src" / "yantai" / "web"
REQUIREMENTS = ROOT / "requirements"
CONTRACT = ROOT / "docs" / "openapi.json"

PYTHON_ENV = {"PYTHONPATH": str(ROOT / "src"), "PATH": f"{BIN}{os.pathsep}{os.environ.get('PATH', '')}"}
"""What our own Python commands and the Node of the virtual environment need."""


def fingerprint(paths: Iterable[Path]) -> str:
    """A hash of the contents of files, and of all files in folders."""
    digest = hashlib.sha256()
    for path in paths:
        files = [path] if path.is_file() else sorted(p for p in path.rglob("*") if p.is_file())
        for file in files:
            digest.update(str(file.relative_to(ROOT)).encode() + b"\0")
            digest.update(file.read_bytes())
    return digest.hexdigest()


def is_current(stamp: Path, value: str) -> bool:
    """`stamp` was written with `value` when the step last ended well."""
    return stamp.is_file() and stamp.read_text() == value
