"""Saying what happens, and running commands whose failure is told in words."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path


class Trouble(Exception):
    """A step that failed, with what to do about it."""

    def __init__(self, what: str, mend: str) -> None:
        super().__init__(what)
        self.mend = mend


def say(text: str) -> None:
    """Print a line at once, also into a pipe."""
    print(text, flush=True)


@contextmanager
def step(what: str) -> Iterator[None]:
    """Name a step while it runs and tell how long it took."""
    print(f"  {what} ...", end="", flush=True)
    started = time.monotonic()
    try:
        yield
    except BaseException:
        print(" stopped", flush=True)
        raise
    print(f" {time.monotonic() - started:.1f} s", flush=True)


def run(
    command: Sequence[str | Path],
    *,
    mend: str,
    env: Mapping[str, str] | None = None,
    cwd: Path | None = None,
    stdin: str | None = None,
) -> str:
    """Run a command quietly and return what it printed.

    Raises:
        Trouble: it failed; the end of its output is shown, and a full disk is named as such.
    """
    done = subprocess.run(
        [str(part) for part in command],
        env={**os.environ, **(env or {})},
        cwd=cwd,
        input=stdin,
        stdin=None if stdin is not None else subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
        check=False,
    )
    if done.returncode == 0:
        return done.stdout
    tail = "\n".join(done.stdout.strip().splitlines()[-15:])
    if "No space left on device" in done.stdout:
        mend = "The disk is full. Free some space and run the same command again; nothing half-made is kept."
    raise Trouble(f"{Path(str(command[0])).name} failed:\n{tail}", mend)


def fail(trouble: Trouble) -> int:
    """Print a trouble and its mend; the exit code to end with."""
    print(f"\nyantai: {trouble}\n  → {trouble.mend}", file=sys.stderr, flush=True)
    return 1
