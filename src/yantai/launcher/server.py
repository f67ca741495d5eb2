"""Starting and stopping the application."""

from __future__ import annotations

import os
import signal
import subprocess
import threading
import time
import urllib.error
import urllib.request
from pathlib import Path
from types import FrameType
from typing import BinaryIO

from yantai.launcher import environment
from yantai.launcher.console import Trouble, run, say, step
from yantai.launcher.places import BIN, PYTHON_ENV, STATE
from yantai.launcher.postgres import Cluster, port_is_free
from yantai.launcher.system import ensure_packages
from yantai.launcher.workers import Workers

CLUSTER = Cluster(name="postgres")
DEFAULT_PORT = 8420
_PID_FILE = STATE / "launcher.pid"
_SERVER_PID_FILE = STATE / "server.pid"
_WORKER_PID_FILE = STATE / "workers.pid"
_POST_PID_FILE = STATE / "post-office.pid"
_POST_OFFICE = STATE / "post-office"
"""Where the simulated post office keeps what arrived."""
_POST_PORT = 3
"""So far behind the port of the application is that of the post office."""
_LAN = STATE / "lan"
"""Where the authority of the local network is kept."""
_ADDRESS_FILE = STATE / "address"
DEFAULT_WORKERS = 2
_LOG = STATE / "yantai.log"
_MOST_TOLD = 4000
"""Characters of the log that are shown where a start fails."""
_PAUSE = threading.Event()


class Stopped(Exception):
    """Someone asked this start to end."""


def start(port: int, *, demo: bool, workers: int = DEFAULT_WORKERS, lan: bool = False) -> int:
    """Set up what is missing and serve, with this many workers, until Ctrl+C or `./yantai stop`.

    With `lan` the local network is served too: encrypted on the next port, and on the one after that what a phone needs
    to trust it.
    """
    if (pid := _alive(_PID_FILE)) is not None:
        say(f"Yantai is already running (process {pid}) at {_ADDRESS_FILE.read_text()}")
        return 0
    is_mail_set = bool(os.environ.get("YANTAI_MAIL_URL"))
    for one in (port, *((port + 1, port + 2) if lan else ()), *(() if is_mail_set else (port + _POST_PORT,))):
        _refuse_taken(one)
    outside = os.environ.get("YANTAI_DATABASE_URL")
    ensure_packages(browser=False, database=outside is None)
    STATE.mkdir(parents=True, exist_ok=True)
    _PID_FILE.write_text(str(os.getpid()))
    address = f"http://127.0.0.1:{port}"
    _ADDRESS_FILE.write_text(address)
    signal.signal(signal.SIGTERM, _stop_signal)
    signal.signal(signal.SIGINT, _stop_signal)
    process = None
    crew = None
    post = None
    on_the_network = ""
    try:
        environment.ensure_python(development=False)
        environment.ensure_web_build()
        url = outside or CLUSTER.ensure_running()
        env = {**os.environ, **PYTHON_ENV, "YANTAI_DATABASE_URL": url, "YANTAI_DEMO": "1" if demo else "0"}
        if not is_mail_set:
            env["YANTAI_MAIL_URL"] = f"smtp://127.0.0.1:{port + _POST_PORT}"
            env["YANTAI_POST_OFFICE"] = str(_POST_OFFICE)
        with step("bringing the database up to date"):
            mend = "The message above says what the database objects to. Your data is as it was."
            sign_in = run([BIN / "python", "-m", "yantai.cli", "prepare"], env=env, mend=mend)
        with step("starting the server"):
            log = _new_log()
            served: list[str | Path] = [BIN / "python", "-m", "yantai.cli", "serve", "--port", str(port)]
            if lan:
                tell: list[str | Path] = [BIN / "python", "-m", "yantai.cli", "tell-lan", "--port", str(port)]
                on_the_network = run([*tell, "--folder", _LAN], env=env, mend="See the message above.")
                served += ["--lan", _LAN]
            process = subprocess.Popen(served, env=env, stderr=log)
            _SERVER_PID_FILE.write_text(str(process.pid))
            _wait_until_up(process, f"{address}/api/v1/health")
        if not is_mail_set:
            office: list[str | Path] = [BIN / "python", "-m", "yantai.cli", "post-office"]
            office += ["--port", str(port + _POST_PORT), "--folder", _POST_OFFICE]
            post = Workers(office, 1, {**os.environ, **env}, _POST_PID_FILE, log)
            post.start()
        work: list[str | Path] = [BIN / "python", "-m", "yantai.cli", "work"]
        crew = Workers(work, workers, {**os.environ, **env}, _WORKER_PID_FILE, log)
        crew.start()
        say(f"\nYantai is ready:  {address}")
        if sign_in.strip():
            say(sign_in.strip())
        if lan:
            say(f"\n{on_the_network}")
        say(f"What it does is logged in {_LOG}. Ctrl+C or ./yantai stop ends it.")
        return process.wait()
    except Stopped:
        return 0
    finally:
        # A second Ctrl+C must not cut the clean-up short.
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        signal.signal(signal.SIGTERM, signal.SIG_IGN)
        for one in (crew, post):
            if one is not None:
                one.stop()
        if process is not None and process.poll() is None:
            process.terminate()
            process.wait()
        if outside is None:
            CLUSTER.stop()
        for file in (_PID_FILE, _SERVER_PID_FILE, _WORKER_PID_FILE, _POST_PID_FILE, _ADDRESS_FILE):
            file.unlink(missing_ok=True)
        say("\nStopped.")


def stop() -> int:
    """End everything a start left running, also one that was killed."""
    launcher = _alive(_PID_FILE)
    server = _alive(_SERVER_PID_FILE)
    cluster = CLUSTER.is_running()
    if launcher is None and server is None and not cluster:
        say("Yantai is not running.")
        return 0
    workers = _all_alive(_WORKER_PID_FILE)
    for pid in (launcher, server, *workers, *_all_alive(_POST_PID_FILE)):
        if pid is not None:
            _end(pid)
    CLUSTER.stop()
    for file in (_PID_FILE, _SERVER_PID_FILE, _WORKER_PID_FILE, _POST_PID_FILE, _ADDRESS_FILE):
        file.unlink(missing_ok=True)
    say("Stopped.")
    return 0


def status() -> int:
    """Say what runs; exit code 0 while the application serves, 3 when not."""
    running = _alive(_PID_FILE) is not None
    say(f"application: {_ADDRESS_FILE.read_text() if running else 'stopped'}")
    if "YANTAI_DATABASE_URL" in os.environ:
        say("database:    the one YANTAI_DATABASE_URL names")
    else:
        say(f"database:    {'running' if CLUSTER.is_running() else 'stopped'}, in {CLUSTER.folder}")
    return 0 if running else 3


def _refuse_taken(port: int) -> None:
    if not port_is_free(port):
        raise Trouble(
            f"port {port} of this machine is taken by another program",
            f"End that program, or choose another port:  ./yantai start --port {port + 1}",
        )


def _wait_until_up(process: subprocess.Popen[bytes], url: str) -> None:
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline:
        if process.poll() is not None:
            say(_LOG.read_text()[-_MOST_TOLD:])
            raise Trouble("the server ended while starting; its message stands above", "Mend that and start again.")
        try:
            with urllib.request.urlopen(url, timeout=2):  # noqa: S310 -- our own loopback address
                return
        except (urllib.error.URLError, OSError):
            _PAUSE.wait(0.1)
    raise Trouble("the server did not answer within a minute", f"See its messages in {_LOG}, then start again.")


def _new_log() -> BinaryIO:
    """Where the server and the workers write to; what they wrote the time before is kept beside it."""
    if _LOG.exists():
        _LOG.replace(_LOG.with_name(f"{_LOG.name}.before"))
    return _LOG.open("ab")


def _stop_signal(_number: int, _frame: FrameType | None) -> None:
    raise Stopped


def _alive(pid_file: Path) -> int | None:
    """The process a pid file names, if it is one of ours and still runs."""
    return next(iter(_all_alive(pid_file)), None)


def _all_alive(pid_file: Path) -> list[int]:
    """The processes a pid file names that are ours and still run."""
    try:
        pids = [int(pid) for pid in pid_file.read_text().split()]
    except (OSError, ValueError):
        return []
    return [pid for pid in pids if pid != os.getpid() and b"yantai" in _command_of(pid)]


def _command_of(pid: int) -> bytes:
    try:
        return Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return b""


def _end(pid: int) -> None:
    try:
        os.kill(pid, signal.SIGTERM)
        for _ in range(150):
            os.kill(pid, 0)
            _PAUSE.wait(0.1)
    except ProcessLookupError:
        return
