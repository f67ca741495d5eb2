"""What tests of faults share: a server that is killed, and browsers that send until they hear an answer."""

from __future__ import annotations

import multiprocessing
import random
import signal
import socket
import threading
import unittest
import uuid
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import UTC, datetime
from multiprocessing.context import ForkServerProcess
from typing import Any

import httpx2 as httpx

from tests.api.serving import serve
from tests.support import NOW, PASSWORD, database, settings
from yantai.api.access import COOKIE, CSRF_HEADER
from yantai.work.accounts.sessions import sign_in
from yantai.work.batches.reading import read_plan
from yantai.work.common.who import SignedIn

MOST_TRIES = 60
PREPARED = multiprocessing.get_context("forkserver")
PREPARED.set_forkserver_preload(["tests.api.serving"])

Chance = random.Random


class Server:
    """The application in a process that can be killed."""

    def __init__(self) -> None:
        self.listening = socket.create_server(("127.0.0.1", 0))
        self.address = f"http://127.0.0.1:{self.listening.getsockname()[1]}"
        self.process: ForkServerProcess
        # How a process ended can be asked by one at a time only.
        self.asking = threading.Lock()
        self.start()

    def start(self) -> None:
        self.process = PREPARED.Process(target=serve, args=(self.listening, settings()), daemon=True)
        self.process.start()

    def kill(self) -> None:
        """As a power cut would: nothing is finished."""
        with self.asking:
            self.process.kill()
            self.process.join()

    def restart(self) -> None:
        self.kill()
        self.start()

    def check(self) -> None:
        """It runs, or was killed by us; one that ended by itself is a fault."""
        with self.asking:
            ended = self.process.exitcode
        if ended not in (None, -signal.SIGKILL):
            raise AssertionError(f"the server ended by itself with {ended}")

    def stop(self) -> None:
        self.kill()
        self.listening.close()


@dataclass
class Wish:
    """What a browser sends, under one id, until it hears an answer."""

    path: str
    body: dict[str, Any]
    key: str
    answer: dict[str, Any] = field(default_factory=dict)


class Browser:
    """A browser as far as its outbox: it sends its wishes in order, each until it is answered."""

    def __init__(self, server: Server, who: SignedIn, email: str, chance: Chance) -> None:
        token, signed_in = sign_in(database(), email, PASSWORD, NOW)
        self.who, self.server, self.chance = who, server, chance
        headers = {CSRF_HEADER: signed_in.csrf_token, "Cookie": f"{COOKIE}={token}"}
        self.http = httpx.Client(base_url=f"{server.address}/api/v1", headers=headers, timeout=10)
        self.acknowledged: list[Wish] = []
        self.refused: list[Wish] = []
        # While the database is away a browser asks less and less often: here it waits until it is back.
        self.database_is_up = threading.Event()
        self.database_is_up.set()

    def send(self, wish: Wish) -> None:
        """Until it is answered; what a fault of the server's own says is no answer."""
        for _ in range(MOST_TRIES):
            fault = self.chance.random()
            if fault < 0.15:
                continue  # It never arrived.
            self.database_is_up.wait()
            try:
                answer = self._twice(wish) if fault < 0.3 else self._post(wish)
            except httpx.TransportError:
                self.server.check()
                continue  # It was killed over it.
            if answer.status_code >= 500 or fault > 0.8:
                continue  # Its answer was lost.
            wish.answer = answer.json() if answer.content else {}
            if answer.status_code == 409 and wish.answer["type"] == "stale":
                # Somebody else's wish came between, and the same id is sent for the newest plan.
                wish.body["version"] = read_plan(database(), self.who, uuid.UUID(wish.path.split("/")[2])).batch.version
                continue
            # A weight that made sense for the pots as they were may be impossible after the other's change.
            is_refused = answer.status_code == 422 and wish.answer["type"] == "invalid" and "vessels" in answer.text
            assert is_refused or answer.status_code in (200, 201, 204), answer.text
            (self.refused if is_refused else self.acknowledged).append(wish)
            return
        raise AssertionError(f"never answered: {wish}")

    def _post(self, wish: Wish) -> httpx.Response:
        """What says when it happened says when it is sent too, by the same clock, each time anew."""
        sent = {"sent_at": datetime.now(UTC).isoformat()} if "happened_at" in wish.body else {}
        return self.http.post(wish.path, json={**wish.body, **sent}, headers={"Idempotency-Key": wish.key})

    def _twice(self, wish: Wish) -> httpx.Response:
        """A request that the network doubled: both arrive at once, and one answer is heard."""
        with ThreadPoolExecutor(2) as pool:
            both = [pool.submit(self._post, wish) for _ in range(2)]
            return both[0].result()


class FaultCase(unittest.TestCase):
    """Tests on a server of their own that is killed now and then."""

    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.stop()

    @staticmethod
    def race(
        browsers: Sequence[Browser],
        wishes: Sequence[Sequence[Wish]],
        chance: Chance,
        disturb: Callable[[Sequence[Browser]], None],
    ) -> None:
        """All browsers send theirs at once, while it is disturbed twice."""
        over = threading.Event()

        def now_and_then() -> None:
            for _ in range(2):
                if over.wait(chance.uniform(0.02, 0.5)):
                    return
                disturb(browsers)

        def send_all(browser: Browser, mine: Sequence[Wish]) -> None:
            for wish in mine:
                browser.send(wish)

        with ThreadPoolExecutor(len(browsers) + 1) as pool:
            disturbing = pool.submit(now_and_then)
            sending = [pool.submit(send_all, *pair) for pair in zip(browsers, wishes, strict=True)]
            try:
                for done in sending:
                    done.result()
            finally:
                over.set()
                disturbing.result()
                for browser in browsers:
                    browser.http.close()
