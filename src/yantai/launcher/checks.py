"""`./yantai check` and `./yantai test`."""

from __future__ import annotations

import os
import re
import subprocess
import time
from pathlib import Path

from yantai.launcher import environment
from yantai.launcher.console import say
from yantai.launcher.places import BIN, PYTHON_ENV, ROOT, WEB
from yantai.launcher.postgres import Cluster
from yantai.launcher.system import ensure_packages

TEST_CLUSTER = Cluster(name="test-postgres", durable=False)
SUITES = ("core", "launcher", "store", "api", "browser")


def check() -> int:
    """Formatters, linters, type checkers and the contract of the layers; the number that failed."""
    environment.ensure_python(development=True)
    environment.ensure_web_packages()
    environment.ensure_web_client()
    node = BIN / "node"
    checks: list[tuple[str, list[str | Path], Path]] = [
        ("ruff format", [BIN / "ruff", "format", "--check", "-q", "."], ROOT),
        ("ruff", [BIN / "ruff", "check", "-q", "."], ROOT),
        ("import contracts", [BIN / "lint-imports", "--no-logo"], ROOT),
        ("mypy", [BIN / "mypy", "--no-error-summary"], ROOT),
        (
            "biome",
            [node, WEB / "node_modules/@biomejs/biome/bin/biome", "ci", "--error-on-warnings", "."],
            WEB,
        ),
        ("typescript", [node, WEB / "node_modules/typescript-7/bin/tsc", "--noEmit"], WEB),
    ]
    failed = 0
    for name, command, folder in checks:
        started = time.monotonic()
        done = subprocess.run(
            [str(part) for part in command],
            cwd=folder,
            env={**os.environ, **PYTHON_ENV},
            capture_output=True,
            text=True,
            check=False,
        )
        verdict = "ok" if done.returncode == 0 else "FAILED"
        say(f"  {name}: {verdict} ({time.monotonic() - started:.1f} s)")
        if done.returncode != 0:
            failed += 1
            say(done.stdout + done.stderr)
    return failed


def test(names: list[str]) -> int:
    """Check and run all tests, or only those named, as `tests.core.test_units`; the exit code."""
    ensure_packages(browser=True, database=True)
    passed = failed = 0
    if not names:
        say("Checks")
        failed += check()
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    url = TEST_CLUSTER.ensure_running()
    try:
        runs = [[name] for name in names] or [["discover", "-t", ".", "-s", f"tests/{suite}"] for suite in SUITES]
        for arguments in runs:
            say(f"\nTests: {arguments[-1]}")
            ran, broken = _unittest(arguments, url)
            passed += ran - broken
            failed += broken
    finally:
        TEST_CLUSTER.stop()
    say(f"\n{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _unittest(arguments: list[str], database_url: str) -> tuple[int, int]:
    """Tests run and tests not passed, of one unittest call; its output is passed on."""
    process = subprocess.Popen(
        [BIN / "python", "-W", "error", "-m", "unittest", *arguments],
        cwd=ROOT,
        env={**os.environ, **PYTHON_ENV, "YANTAI_TEST_DATABASE_URL": database_url},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
    )
    assert process.stdout is not None
    output = ""
    while piece := process.stdout.read(1):
        print(piece, end="", flush=True)
        output += piece
    code = process.wait()
    ran = sum(int(n) for n in re.findall(r"^Ran (\d+) test", output, re.M))
    counts = re.findall(r"(?:failures|errors|unexpected successes)=(\d+)", output.rpartition("FAILED")[2])
    broken = sum(int(n) for n in counts) if "FAILED" in output else 0
    return max(ran, 1 if code else 0), broken or (1 if code else 0)
