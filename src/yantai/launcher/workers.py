"""Worker processes beside the server: as many as wanted, started again when one ends."""

from __future__ import annotations

import subprocess
import threading
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import BinaryIO

_PAUSE_S = 1.0
"""Between two starts of a worker, so that one that cannot start does not keep the machine busy."""


class Workers:
    """Keeps `count` processes of a command running until it is stopped; their ids stand in `pid_file`, and what they
    say goes to `log`, or where our own messages go."""

    def __init__(
        self,
        command: Sequence[str | Path],
        count: int,
        env: Mapping[str, str],
        pid_file: Path,
        log: BinaryIO | None = None,
    ) -> None:
        self._command = [str(part) for part in command]
        self._env = dict(env)
        self._pid_file = pid_file
        self._log = log
        self._stopping = threading.Event()
        self._lock = threading.Lock()
        self._running: set[subprocess.Popen[bytes]] = set()
        self._threads = [threading.Thread(target=self._keep_one, daemon=True) for _ in range(count)]

    def start(self) -> None:
        """Start them."""
        for thread in self._threads:
            thread.start()

    def stop(self) -> None:
        """End them, and wait until they have ended."""
        self._stopping.set()
        with self._lock:
            for process in self._running:
                process.terminate()
        for thread in self._threads:
            thread.join()
        self._pid_file.unlink(missing_ok=True)

    def pids(self) -> set[int]:
        """Those that run."""
        with self._lock:
            return {process.pid for process in self._running}

    def _keep_one(self) -> None:
        while not self._stopping.is_set():
            with self._lock:
                # Asked again inside the lock: what starts after `stop` looked would be left running.
                if self._stopping.is_set():
                    return
                process = subprocess.Popen(self._command, env=self._env, stderr=self._log)
                self._running.add(process)
                self._note()
            process.wait()
            with self._lock:
                self._running.discard(process)
                self._note()
            self._stopping.wait(_PAUSE_S)

    def _note(self) -> None:
        self._pid_file.write_text("\n".join(str(process.pid) for process in self._running))
