"""Each acknowledged wish is there exactly once, whatever happens on the way: requests that never arrive, answers that
are lost, requests that arrive twice, and a server that is killed at work."""

from __future__ import annotations

import multiprocessing
import random
import signal
import socket
import threading
import unittest
import uuid
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from multiprocessing.context import ForkServerProcess
from typing import Any

import httpx2 as httpx
from sqlalchemy import select

from tests.api.case import food_id
from tests.api.serving import serve
from tests.kitchens import eaters, planned
from tests.support import NOW, PASSWORD, database, new_email, new_kitchen, settings
from tests.volume import volume
from yantai.api.access import COOKIE, CSRF_HEADER
from yantai.store import tables
from yantai.work.accounts.sessions import sign_in
from yantai.work.batches.reading import read_plan
from yantai.work.common.who import SignedIn

RUNS = volume(3, 200)
WISHES = 12
MOST_TRIES = 60
PREPARED = multiprocessing.get_context("forkserver")
PREPARED.set_forkserver_preload(["tests.api.serving"])


class Server:
    """The application in a process that can be killed."""

    def __init__(self) -> None:
        self.listening = socket.create_server(("127.0.0.1", 0))
        self.address = f"http://127.0.0.1:{self.listening.getsockname()[1]}/api/v1"
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

    def __init__(self, server: Server, who: SignedIn, email: str, chance: random.Random) -> None:
        token, signed_in = sign_in(database(), email, PASSWORD, NOW)
        self.who, self.server, self.chance = who, server, chance
        headers = {CSRF_HEADER: signed_in.csrf_token, "Cookie": f"{COOKIE}={token}"}
        self.http = httpx.Client(base_url=server.address, headers=headers, timeout=10)
        self.acknowledged: list[Wish] = []
        self.refused: list[Wish] = []

    def send(self, wish: Wish) -> None:
        """Until it is answered; what a fault of the server's own says is no answer."""
        for _ in range(MOST_TRIES):
            fault = self.chance.random()
            if fault < 0.15:
                continue  # It never arrived.
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
        return self.http.post(wish.path, json=wish.body, headers={"Idempotency-Key": wish.key})

    def _twice(self, wish: Wish) -> httpx.Response:
        """A request that the network doubled: both arrive at once, and one answer is heard."""
        with ThreadPoolExecutor(2) as pool:
            both = [pool.submit(self._post, wish) for _ in range(2)]
            return both[0].result()


class Faults(unittest.TestCase):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.stop()

    def test_each_acknowledged_wish_is_there_exactly_once(self) -> None:
        for seed in range(RUNS):
            with self.subTest(seed=seed):
                self.run_once(random.Random(seed))

    def run_once(self, chance: random.Random) -> None:
        email = new_email()
        who = new_kitchen(email)
        batch = planned(who).batch.id
        browsers = [Browser(self.server, who, email, random.Random(chance.random())) for _ in range(2)]
        wishes = [[self.wish(who, batch, chance) for _ in range(WISHES // 2)] for _ in browsers]
        over = threading.Event()
        with ThreadPoolExecutor(len(browsers) + 1) as pool:
            killer = pool.submit(self.kill_now_and_then, over, random.Random(chance.random()))
            sending = [pool.submit(self.send_all, *pair) for pair in zip(browsers, wishes, strict=True)]
            try:
                for done in sending:
                    done.result()
            finally:
                over.set()
                killer.result()
                for browser in browsers:
                    browser.http.close()
        sent = [wish for browser in browsers for wish in browser.acknowledged]
        refused = [wish for browser in browsers for wish in browser.refused]
        self.assertEqual(len(sent) + len(refused), WISHES)
        self.check(who, batch, sent, refused)

    @staticmethod
    def send_all(browser: Browser, wishes: list[Wish]) -> None:
        for wish in wishes:
            browser.send(wish)

    def kill_now_and_then(self, over: threading.Event, chance: random.Random) -> None:
        for _ in range(2):
            if over.wait(chance.uniform(0.05, 0.5)):
                return
            self.server.kill()
            self.server.start()

    def wish(self, who: SignedIn, batch: uuid.UUID, chance: random.Random) -> Wish:
        """A record or a change of the batch, by chance."""
        key = str(uuid.uuid4())
        plan = read_plan(database(), who, batch)
        row, component = chance.choice(plan.rows), chance.choice(plan.components)
        kind = chance.choice(["client", "food", "pin", "weigh", "count", "add-line"])
        if kind == "client":
            return Wish("/clients", {**eaters()[0].model_dump(mode="json"), "name": key}, key)
        if kind == "food":
            label = {"kcal": 100, "protein_g": 10, "carbohydrate_g": 10, "fat_g": 2, "fibre_g": 1}
            return Wish("/foods", {"name": key, "group": "own", "state": "as-sold", "label": label}, key)
        change: dict[str, Any] = {"kind": kind, "component_id": str(component.id)}
        if kind == "pin":
            change |= {"row_id": str(row.id), "grams": chance.randint(20, 120)}
        elif kind == "weigh":
            change["vessels"] = [{"gross_g": component.cooked_g * chance.uniform(0.97, 1.03), "vessel_g": 0}]
        elif kind == "count":
            change = {"kind": "containers", "row_id": str(row.id), "count": chance.randint(1, 6), "capacity_ml": 900}
        else:
            change |= {"food_id": food_id("olive-oil"), "purchased_g": chance.randint(1, 9)}
        body = {"version": plan.batch.version, "changes": [change], "confirmed": True, "command_id": key}
        return Wish(f"/batches/{batch}/changes", body, key)

    def check(self, who: SignedIn, batch: uuid.UUID, sent: list[Wish], refused: list[Wish]) -> None:
        with database().workspace(who.workspace_id) as session:
            log = session.scalars(select(tables.Command).where(tables.Command.batch_id == batch)).all()
            names = Counter(session.scalars(select(tables.Client.name)).all())
            names += Counter(session.scalars(select(tables.Food.name).where(tables.Food.workspace_id.is_not(None))))
            weighings = session.scalars(select(tables.Weighing).where(tables.Weighing.batch_id == batch)).all()
        changed = [wish for wish in sent if "command_id" in wish.body]
        ids = Counter(entry.id for entry in log)
        for wish in sent:
            made = ids[uuid.uuid5(who.workspace_id, wish.key)] if wish in changed else names[wish.key]
            self.assertEqual(made, 1, wish)
        for wish in refused:
            self.assertEqual(ids[uuid.uuid5(who.workspace_id, wish.key)], 0, wish)
        # The first entry says what the batch was made of; nobody wished another but these.
        self.assertEqual(len(log), 1 + len(changed))
        self.assertEqual(read_plan(database(), who, batch).batch.version, 1 + len(changed))
        weighed = [wish for wish in changed if wish.body["changes"][0]["kind"] == "weigh"]
        self.assertEqual(len(weighings), len(weighed))
