"""`./yantai check` and `./yantai test`."""

from __future__ import annotations

import json
import os
import re
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path

from yantai.launcher import environment, licences
from yantai.launcher.console import say
from yantai.launcher.places import BIN, PYTHON_ENV, ROOT, STATE, VENV, WEB
from yantai.launcher.postgres import Cluster
from yantai.launcher.system import ensure_packages

TEST_CLUSTER = Cluster(name="test-postgres", durable=False)
SUITES = ("api", "browser", "core", "launcher", "jobs", "store", "formats")
PARTS = {"api": 4, "browser": 6, "core": 2}
"""Suites that are run in so many parts: few, since each begins with importing everything and making a database, and
enough that none is waited for in the end. The long ones come first."""
AT_ONCE = 4
"""Test runs side by side: browser tests wait half of the time, and each run has a database of its own."""
RUN = str(os.getpid())
"""By this the test runs of one call know that they may copy one filled database."""


COVERAGE = STATE / "coverage"
LONGEST_TOLD = 8


def check() -> int:
    """Formatters, linters, type checkers, contracts, and the browser's own logic; the number that failed."""
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
        ("unused Python", [BIN / "python", "-m", "tests.tools.dead_code"], ROOT),
        ("unused TypeScript", [node, WEB / "node_modules/knip/bin/knip.js"], WEB),
        ("vitest", [node, WEB / "node_modules/vitest/vitest.mjs", "run"], WEB),
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
    say("  known vulnerabilities: not looked up, no registry that this is built from has a database of them")
    return failed + bool(refused)


def test(names: list[str], *, thorough: bool = False, coverage: bool = False) -> int:
    """Check and run all tests, or only those named, as `tests.core.quantities.test_units`; the exit code.

    `thorough` searches longer, for what a run of every change has no time for; `coverage` counts the lines of the
    application that the tests run through, which takes longer too.
    """
    began = time.monotonic()
    if thorough:
        os.environ["YANTAI_THOROUGH"] = "1"
    ensure_packages(browser=True, database=True)
    passed = failed = 0
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    url = TEST_CLUSTER.ensure_running()
    try:
        runs = [[name] for name in names] or [run for suite in SUITES for run in _runs(suite)]
        _erase_coverage()
        times = []
        with ThreadPoolExecutor(AT_ONCE) as pool:
            checked = None if names else pool.submit(check)
            for done in as_completed([pool.submit(_unittest, run, url, coverage) for run in runs]):
                ran, broken, took, output = done.result()
                say(output)
                passed += ran - broken
                failed += broken
                times.append((took, output.split("\n", 2)[1]))
            failed += 0 if checked is None else checked.result()
    finally:
        TEST_CLUSTER.stop()
    if coverage:
        say(_coverage())
    say(f"\n{AT_ONCE} runs side by side, the longest:")
    for took, what in sorted(times, reverse=True)[:LONGEST_TOLD]:
        say(f"  {took:5.0f} s  {what[:100]}")
    say(f"\n{passed} passed, {failed} failed, in {time.monotonic() - began:.0f} s")
    return 1 if failed or not passed else 0


def _runs(suite: str) -> list[list[str]]:
    """The modules of a suite by the runs they are tested in."""
    files = sorted((ROOT / "tests" / suite).rglob("test_*.py"))
    modules = [".".join(file.relative_to(ROOT).with_suffix("").parts) for file in files]
    parts = PARTS.get(suite, 1)
    return [modules[part::parts] for part in range(parts)]


def _unittest(names: list[str], database_url: str, coverage: bool) -> tuple[int, int, float, str]:
    """Tests run, tests not passed, the time it took [s], and the output of one unittest call on modules, classes or
    tests."""
    began = time.monotonic()
    counted = ["-m", "coverage", "run", "-p", f"--data-file={COVERAGE}", "--source=src/yantai"] if coverage else []
    done = subprocess.run(
        [BIN / "python", "-W", "error", *counted, "-m", "unittest", *names],
        cwd=ROOT,
        env={**os.environ, **PYTHON_ENV, "YANTAI_TEST_DATABASE_URL": database_url, "YANTAI_TEST_RUN": RUN},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        check=False,
    )
    ran = sum(int(n) for n in re.findall(r"^Ran (\d+) test", done.stdout, re.M))
    counts = re.findall(r"(?:failures|errors|unexpected successes)=(\d+)", done.stdout.rpartition("FAILED")[2])
    broken = sum(int(n) for n in counts) if "FAILED" in done.stdout else 0
    wrong = done.returncode != 0
    broken = broken or (1 if wrong else 0)
    took = time.monotonic() - began
    return max(ran, 1 if wrong else 0), broken, took, f"\nTests: {' '.join(names)}\n{done.stdout}"


def _erase_coverage() -> None:
    for file in COVERAGE.parent.glob(f"{COVERAGE.name}*"):
        file.unlink()


def _coverage() -> str:
    """How many lines of each floor the tests ran through."""
    said = ""
    for command in (["combine", "-q"], ["report", "--format=total"], ["json", "-q", "-o", f"{COVERAGE}.json"]):
        done = subprocess.run(
            [BIN / "python", "-m", "coverage", *command, f"--data-file={COVERAGE}"],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=False,
        )
        said = f"{done.stdout.strip()} {done.stderr.strip()}".strip() or said
    floors: dict[str, list[int]] = {}
    for name, file in json.loads(COVERAGE.with_name(f"{COVERAGE.name}.json").read_text())["files"].items():
        sums = floors.setdefault(Path(name).parts[2], [0, 0])
        sums[0] += file["summary"]["covered_lines"]
        sums[1] += file["summary"]["num_statements"]
    told = [f"  {floor}: {covered / lines:.0%}" for floor, (covered, lines) in sorted(floors.items()) if lines]
    return "\n".join([f"\nLines that tests run through, in all: {said} %", *told])
