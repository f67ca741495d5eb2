"""The virtual environment, the front-end's packages and its build, made again only on change."""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

from yantai.launcher.console import run, step
from yantai.launcher.places import (
    BIN,
    CONTRACT,
    PYTHON_ENV,
    REQUIREMENTS,
    STATE,
    VENV,
    WEB,
    WEB_BUILD,
    fingerprint,
    is_current,
)
from yantai.launcher.system import check_disk

_MEND_CODE = "This is a fault of the code: run ./yantai check to find it."
_MEND_NETWORK = "Check the network and the disk, then run the same command again; it goes on from here."


def ensure_python(*, development: bool) -> None:
    """A virtual environment with exactly the locked packages; development adds the checkers."""
    lock = REQUIREMENTS / ("dev.lock" if development else "app.lock")
    stamp = VENV / "yantai-lock"
    wanted = fingerprint([lock, REQUIREMENTS / "bootstrap.lock"])
    # The development set holds the application's, so it serves a plain start as well.
    both = fingerprint([REQUIREMENTS / "dev.lock", REQUIREMENTS / "bootstrap.lock"])
    if is_current(stamp, wanted) or is_current(stamp, both):
        return
    if not VENV.exists():
        check_disk()
    if not (BIN / "python").exists() or not (BIN / "pip").exists():
        with step("making the virtual environment"):
            shutil.rmtree(VENV, ignore_errors=True)
            run(
                [sys.executable, "-m", "venv", VENV],
                mend="Install python3-venv and run the same command again.",
            )
    stamp.unlink(missing_ok=True)
    if not (BIN / "uv").exists():
        with step("installing the installer"):
            bootstrap = REQUIREMENTS / "bootstrap.lock"
            command: list[str | Path] = [
                BIN / "python",
                "-m",
                "pip",
                "install",
                "-q",
                "--require-hashes",
                "-r",
                bootstrap,
            ]
            run([*command, "--disable-pip-version-check"], mend=_MEND_NETWORK)
    with step("installing the locked Python packages"):
        # Compiled at once: importing the set uncompiled takes seconds at every start where Python may not write.
        installer: list[str | Path] = [BIN / "uv", "pip", "install", "-q", "--require-hashes", "--compile-bytecode"]
        run([*installer, "-r", lock, "--python", BIN / "python"], mend=_MEND_NETWORK)
    stamp.write_text(wanted)


def ensure_web_packages() -> None:
    """node_modules as the lock has it. `npm ci` fails where optional platform packages are absent."""
    stamp = WEB / "node_modules" / ".yantai-lock"
    wanted = fingerprint([WEB / "package.json", WEB / "package-lock.json"])
    if is_current(stamp, wanted):
        return
    with step("installing the locked front-end packages"):
        run([BIN / "npm", "install", "--no-progress", "--silent"], cwd=WEB, env=PYTHON_ENV, mend=_MEND_NETWORK)
    stamp.write_text(wanted)


def ensure_web_client() -> None:
    """The TypeScript client's types, generated from the committed contract of the API."""
    generated = WEB / "src" / "api" / "schema.gen.ts"
    stamp = STATE / "openapi.stamp"
    wanted = fingerprint([CONTRACT])
    if generated.exists() and is_current(stamp, wanted):
        return
    STATE.mkdir(parents=True, exist_ok=True)
    with step("generating the API client"):
        tool = WEB / "node_modules" / "openapi-typescript" / "bin" / "cli.js"
        run([BIN / "node", tool, CONTRACT, "--output", generated], cwd=WEB, env=PYTHON_ENV, mend=_MEND_CODE)
    stamp.write_text(wanted)


def write_contract() -> None:
    """Put what the API says of itself into the committed contract, where a change of it is read before it is taken."""
    with step("writing the contract of the API"):
        CONTRACT.write_text(run([BIN / "python", "-m", "yantai.cli", "openapi"], env=PYTHON_ENV, mend=_MEND_CODE))


def ensure_web_build() -> None:
    """The built front end, as part of the package."""
    ensure_web_packages()
    ensure_web_client()
    stamp = WEB_BUILD / ".yantai-build"
    inputs = ["src", "index.html", "my.html", "vite.config.ts", "package-lock.json", "public"]
    wanted = fingerprint([WEB / name for name in inputs if (WEB / name).exists()])
    if is_current(stamp, wanted):
        return
    with step("building the front end"):
        tool = WEB / "node_modules" / "vite" / "bin" / "vite.js"
        run([BIN / "node", tool, "build"], cwd=WEB, env=PYTHON_ENV, mend=_MEND_CODE)
    stamp.write_text(wanted)
