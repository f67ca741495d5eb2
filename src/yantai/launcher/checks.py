"""`./yantai check` and `./yantai test`."""

from __future__ import annotations

import os
import re
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path

from yantai.launcher import environment, licences
from yantai.launcher.console import say
from yantai.launcher.places import BIN, PYTHON_ENV, ROOT, VENV, WEB
from yantai.launcher.postgres import Cluster
from yantai.launcher.system import ensure_packages

TEST_CLUSTER = Cluster(name="test-postgres", durable=False)
SUITES = ("api", "browser", "launcher", "core", "jobs", "store", "formats")
AT_ONCE = 3
"""Test runs side by side: browser tests wait most of the time, and each run has a database of its own."""


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
    refused = licences.refused(next(VENV.glob("lib/python*/site-packages")), WEB / "package-lock.json")
    say(f"  licences: {'FAILED' if refused else 'ok'}")
    for package in refused:
        say(f"    {package}")
    return failed + bool(refused)


def test(names: list[str], *, thorough: bool = False) -> int:
    """Check and run all tests, or only those named, as `tests.core.test_units`; the exit code.

    `thorough` searches longer, for what a run of every change has no time for.
    """
    if thorough:
        os.environ["YANTAI_THOROUGH"] = "1"
    ensure_packages(browser=True, database=True)
    passed = failed = 0
    if not names:
        say("Checks")
        failed += check()
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    url = TEST_CLUSTER.ensure_running()
    try:
        modules = names or [name for suite in SUITES for name in _modules(suite)]
        with ThreadPoolExecutor(AT_ONCE) as pool:
            for done in as_completed([pool.submit(_unittest, name, url) for name in modules]):
                ran, broken, output = done.result()
                say(output)
                passed += ran - broken
                failed += broken
    finally:
        TEST_CLUSTER.stop()
    say(f"\n{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _modules(suite: str) -> list[str]:
    """Test runs of a suite: the browser's by module, since each is long; any other as one."""
    if suite != "browser":
        return [f"tests/{suite}"]
    return [f"tests.browser.{path.stem}" for path in sorted((ROOT / "tests/browser").glob("test_*.py"))]


def _unittest(name: str, database_url: str) -> tuple[int, int, str]:
    """Tests run, tests not passed, and the output of one unittest call on a folder or a dotted name."""
    arguments = ["discover", "-t", ".", "-s", name] if "/" in name else [name]
    done = subprocess.run(
        [BIN / "python", "-W", "error", "-m", "unittest", *arguments],
        cwd=ROOT,
        env={**os.environ, **PYTHON_ENV, "YANTAI_TEST_DATABASE_URL": database_url},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        check=False,
    )
    ran = sum(int(n) for n in re.findall(r"^Ran (\d+) test", done.stdout, re.M))
    counts = re.findall(r"(?:failures|errors|unexpected successes)=(\d+)", done.stdout.rpartition("FAILED")[2])
    broken = sum(int(n) for n in counts) if "FAILED" in done.stdout else 0
    wrong = done.returncode != 0
    return max(ran, 1 if wrong else 0), broken or (1 if wrong else 0), f"\nTests: {name}\n{done.stdout}"
