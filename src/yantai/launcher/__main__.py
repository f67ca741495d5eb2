"""`./yantai COMMAND`."""

from __future__ import annotations

import argparse
import contextlib
import errno
import os
import subprocess
import sys
from pathlib import Path

from yantai.launcher import checks, environment, server, wheels
from yantai.launcher.console import Trouble, fail, say
from yantai.launcher.places import BIN, PYTHON_ENV, ROOT
from yantai.launcher.system import ensure_packages


def main() -> int:
    """Parse the command line and run the command; its exit code."""
    parser = argparse.ArgumentParser(prog="./yantai", description="Yantai: batch cooking to macro targets.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    start = commands.add_parser("start", help="set up what is missing and serve the application")
    start.add_argument("--port", type=int, default=server.DEFAULT_PORT, help="default: %(default)s")
    start.add_argument(
        "--workers", type=int, default=server.DEFAULT_WORKERS, help="processes for long work, default: %(default)s"
    )
    start.add_argument("--lan", action="store_true", help="on the local network too, encrypted; off by default")
    start.add_argument("--no-demo", action="store_true", help="an installation without demo data")
    commands.add_parser("stop", help="end everything a start left running")
    commands.add_parser("status", help="say what runs")
    test = commands.add_parser("test", help="run all checks and tests, or only the tests named")
    test.add_argument("names", nargs="*", metavar="NAME", help="as tests.core.quantities.test_units")
    test.add_argument("--thorough", action="store_true", help="try every value in every field; takes minutes more")
    test.add_argument("--coverage", action="store_true", help="say how much of the code the tests run through")
    commands.add_parser("check", help="formatters, linters, type checks and contracts only")
    commands.add_parser("contract", help="write docs/openapi.json anew after a change of the API")
    commands.add_parser("wheels", help="build the application, and its rules alone, as packages into dist/")
    commands.add_parser("screenshots", help="take the pictures of docs/screenshots from the demo data")
    account = commands.add_parser("account", help="make a workspace with a coach's account")
    account.add_argument("email")
    account.add_argument("name")
    compute = commands.add_parser("compute", help="compute a plan document (docs/formats) and print the result")
    compute.add_argument("file", help="a plan document; - reads standard input")
    compute.add_argument("--csv", action="store_true", help="print the fill sheet instead")
    schema = commands.add_parser("schema", help="print the JSON schema of a document: plan, plan-result, shopping")
    schema.add_argument("name")
    arguments = parser.parse_args()
    try:
        return _run(arguments)
    except Trouble as trouble:
        return fail(trouble)
    except KeyboardInterrupt:
        return 130
    except OSError as error:
        if error.errno == errno.ENOSPC:
            return fail(Trouble("the disk is full", "Free some space and run the same command again."))
        raise


def _run(arguments: argparse.Namespace) -> int:
    if arguments.command == "start":
        return server.start(arguments.port, demo=not arguments.no_demo, workers=arguments.workers, lan=arguments.lan)
    if arguments.command == "stop":
        return server.stop()
    if arguments.command == "status":
        return server.status()
    if arguments.command == "test":
        return checks.test(arguments.names, thorough=arguments.thorough, coverage=arguments.coverage)
    if arguments.command == "check":
        return 1 if checks.check() else 0
    if arguments.command == "wheels":
        for wheel in wheels.build():
            say(f"  {wheel.relative_to(ROOT)}")
        return 0
    if arguments.command == "contract":
        environment.ensure_python(development=True)
        environment.write_contract()
        return 0
    if arguments.command == "account":
        return _with_database([BIN / "python", "-m", "yantai.cli", "account", arguments.email, arguments.name])
    if arguments.command == "compute":
        return _headless(["compute", *(["--csv"] if arguments.csv else []), "--", arguments.file])
    if arguments.command == "schema":
        return _headless(["schema", "--", arguments.name])
    ensure_packages(browser=True, database=True)
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    url = checks.TEST_CLUSTER.ensure_running()
    try:
        env = {**os.environ, **PYTHON_ENV, "YANTAI_TEST_DATABASE_URL": url}
        command: list[str | Path] = [BIN / "python", "-m", "tests.browser.screenshots"]
        return subprocess.run([str(part) for part in command], cwd=ROOT, env=env, check=False).returncode
    finally:
        checks.TEST_CLUSTER.stop()


def _headless(arguments: list[str]) -> int:
    """Run the engine on a file; what is set up on the way is told on standard error, the answer stands alone."""
    with contextlib.redirect_stdout(sys.stderr):
        environment.ensure_python(development=False)
    command = [str(BIN / "python"), "-m", "yantai.headless", *arguments]
    return subprocess.run(command, env={**os.environ, **PYTHON_ENV}, check=False).returncode


def _with_database(command: list[str | Path]) -> int:
    """Run a command against the installation's database, which is left as it was found."""
    outside = os.environ.get("YANTAI_DATABASE_URL")
    ensure_packages(browser=False, database=outside is None)
    environment.ensure_python(development=False)
    was_running = outside is None and server.CLUSTER.is_running()
    url = outside or server.CLUSTER.ensure_running()
    try:
        env = {**os.environ, **PYTHON_ENV, "YANTAI_DATABASE_URL": url}
        return subprocess.run([str(part) for part in command], env=env, check=False).returncode
    finally:
        if outside is None and not was_running:
            server.CLUSTER.stop()


sys.exit(main())
