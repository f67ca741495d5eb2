"""Debian packages, asked for only when something is missing."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

from yantai.launcher.console import Trouble, run, say, step
from yantai.launcher.places import ROOT

CHROMIUM = Path("/usr/bin/chromium-headless-shell")
_POSTGRESQL = Path("/usr/lib/postgresql")
NEEDED_BYTES = 3 * 1024**3
"""A first set-up with its virtual environment, node_modules and cluster takes about 1.5 GB."""


def postgresql_bin() -> Path | None:
    """The folder of the newest PostgreSQL server's programs, 15 or newer."""
    found = [p for p in _POSTGRESQL.glob("*/bin") if (p / "initdb").exists() and p.parent.name.isdigit()]
    usable = [p for p in found if int(p.parent.name) >= 15]
    return max(usable, key=lambda p: int(p.parent.name), default=None)


def ensure_packages(*, browser: bool, database: bool) -> None:
    """Install the Debian packages that are missing, or say the one command that does.

    Raises:
        Trouble: packages are missing and cannot be installed from here.
    """
    missing = []
    if database and postgresql_bin() is None:
        missing.append("postgresql")
    if browser and not CHROMIUM.exists():
        missing.append("chromium-headless-shell")
    if not missing:
        return
    names = " ".join(missing)
    command = f"apt-get update && apt-get install -y --no-install-recommends {names}"
    if os.geteuid() != 0:
        raise Trouble(f"these system packages are missing: {names}", f"Run this once:  sudo sh -c '{command}'")
    if shutil.which("apt-get") is None:
        raise Trouble(f"these programs are missing: {names}", "Install them with this system's package manager.")
    say(f"Installing system packages: {names}")
    env = {"DEBIAN_FRONTEND": "noninteractive"}
    mend = f"Look at the message above, then try:  {command}"
    with step("reading the package lists"):
        run(["apt-get", "update", "-qq"], mend=mend, env=env)
    with step(f"installing {names}"):
        run(["apt-get", "install", "-y", "-qq", "--no-install-recommends", *missing], mend=mend, env=env)


def check_disk() -> None:
    """Refuse a first set-up that would fill the disk half-way through."""
    free = shutil.disk_usage(ROOT).free
    if free < NEEDED_BYTES:
        raise Trouble(
            f"only {free / 1024**3:.1f} GB are free on the disk of this folder",
            f"The first set-up takes up to {NEEDED_BYTES / 1024**3:.0f} GB. Free some space and start again.",
        )
