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
SUITES = ("api", "browser", "core", "launcher", "jobs", "store", "formats")
PARTS = {"api": 3, "core": 2}
"""Suites that are run in so many parts, since each would take longer than all else together."""
LONGEST = ("tests.browser.test_views", "tests.browser.test_schools")
"""Runs that are begun first, so that none of them is waited for in the end."""
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
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    url = TEST_CLUSTER.ensure_running()
    try:
        runs = [[name] for name in names] or [run for suite in SUITES for run in _runs(suite)]
        runs.sort(key=lambda run: run[0] not in LONGEST)
        with ThreadPoolExecutor(AT_ONCE) as pool:
            checked = None if names else pool.submit(check)
            for done in as_completed([pool.submit(_unittest, run, url) for run in runs]):
                ran, broken, output = done.result()
                say(output)
                passed += ran - broken
                failed += broken
            failed += 0 if checked is None else checked.result()
    finally:
        TEST_CLUSTER.stop()
    say(f"\n{passed} passed, {failed} failed")
    return 1 if failed or not passed else 0


def _runs(suite: str) -> list[list[str]]:
    """The modules of a suite by the runs they are tested in: the browser's one by one, since each is long."""
    modules = [f"tests.{suite}.{path.stem}" for path in sorted((ROOT / "tests" / suite).glob("test_*.py"))]
    parts = len(modules) if suite == "browser" else PARTS.get(suite, 1)
    return [modules[part::parts] for part in range(parts)]


def _unittest(names: list[str], database_url: str) -> tuple[int, int, str]:
    """Tests run, tests not passed, and the output of one unittest call on modules, classes or tests."""
    done = subprocess.run(
        [BIN / "python", "-W", "error", "-m", "unittest", *names],
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
    return max(ran, 1 if wrong else 0), broken or (1 if wrong else 0), f"\nTests: {' '.join(names)}\n{done.stdout}"
