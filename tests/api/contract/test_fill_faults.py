"""Every acknowledged gram is in its container exactly once, whatever happens on the way: two tablets fill, requests are
dropped or doubled, answers are lost, the server is killed at work, and the database drops all who speak to it."""

from __future__ import annotations

import random
import threading
import unittest
import uuid
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import create_engine, select, text

from tests.api.contract.test_faults import Browser, Server, Wish
from tests.kitchens import planned
from tests.support import NOW, database, new_email, new_kitchen, settings
from tests.volume import volume
from yantai.store import tables
from yantai.work.batches.views import PlanView
from yantai.work.fill.shown import read_filling

RUNS = volume(2, 200)
FILLS = 14

Cell = tuple[str, int, str]


@dataclass
class Tablet:
    """A tablet that knows of its own fills only."""

    name: str
    chance: random.Random
    plan: PlanView
    made: list[dict[str, Any]] = field(default_factory=list)
    last: dict[Cell, str] = field(default_factory=dict)

    def fill(self) -> dict[str, Any]:
        """A spoonful into some container, on top of what this tablet knows to be in it, or the last one taken back."""
        key, happened = str(uuid.uuid4()), self._when()
        if self.made and self.made[-1]["event"] == "filled" and self.chance.random() < 0.2:
            undone = self.made[-1]
            cell = self._cell(undone)
            self.last.pop(cell)
            if undone["after"]:
                self.last[cell] = undone["after"]
            fact = {"id": key, "event": "taken back", "of": undone["id"], **happened}
        else:
            row = self.chance.choice([row for row in self.plan.rows if row.count])
            cell = str(row.id), self.chance.randint(1, row.count), str(self.chance.choice(row.cells).component_id)
            fact = {
                "id": key, "event": "filled", "row_id": cell[0], "container": cell[1], "component_id": cell[2],
                "grams": float(self.chance.randint(20, 250)), "after": self.last.get(cell), "device": self.name,
                **happened,
            }  # fmt: skip
            self.last[cell] = key
        self.made.append(fact)
        return fact

    def _cell(self, fact: dict[str, Any]) -> Cell:
        return fact["row_id"], fact["container"], fact["component_id"]

    def _when(self) -> dict[str, str]:
        """Each fill a second after the one before, both by the tablet's clock, which is right here."""
        at = NOW + timedelta(seconds=len(self.made), milliseconds=self.chance.randint(0, 900))
        return {"happened_at": at.isoformat(), "sent_at": (NOW + timedelta(hours=1)).isoformat()}


class FillFaults(unittest.TestCase):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.stop()

    def test_every_acknowledged_gram_is_there_exactly_once(self) -> None:
        for seed in range(RUNS):
            with self.subTest(seed=seed):
                self.run_once(random.Random(f"fills {seed}"))

    def run_once(self, chance: random.Random) -> None:
        email = new_email()
        who = new_kitchen(email)
        plan = planned(who)
        path = f"/batches/{plan.batch.id}/filling/facts"
        tablets = [Tablet(name, random.Random(chance.random()), plan) for name in ("bench", "window")]
        browsers = [Browser(self.server, who, email, random.Random(chance.random())) for _ in tablets]
        wishes = [[Wish(path, fact, fact["id"]) for fact in (one.fill() for _ in range(FILLS // 2))] for one in tablets]
        over = threading.Event()
        with ThreadPoolExecutor(3) as pool:
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
        self.assertEqual([len(browser.acknowledged) for browser in browsers], [FILLS // 2] * 2)
        with database().reading(who.workspace_id) as session:
            rows = session.scalars(select(tables.FillFact).where(tables.FillFact.batch_id == plan.batch.id)).all()
        facts = [fact for tablet in tablets for fact in tablet.made]
        self.assertEqual(sorted(str(row.id) for row in rows), sorted(fact["id"] for fact in facts))
        self.check(read_filling(database(), who, plan.batch.id), tablets)

    def check(self, shown: Any, tablets: list[Tablet]) -> None:
        """What is shown beside what each tablet last knew of each cell: of two, the one that happened last stands."""
        by_id = {fact["id"]: fact for tablet in tablets for fact in tablet.made}
        expected: dict[Cell, list[dict[str, Any]]] = {}
        for tablet in tablets:
            for cell, key in tablet.last.items():
                expected.setdefault(cell, []).append(by_id[key])
        found = {
            (str(box.row_id), box.number, str(part.component_id)): (part.filled, part.others)
            for box in shown.containers
            for part in box.parts
            if part.filled is not None
        }
        strays = {str(stray.fact_id) for stray in shown.strays}
        for cell, told in expected.items():
            stands = max(told, key=lambda fact: datetime.fromisoformat(fact["happened_at"]))
            if stands["id"] in strays:
                continue  # Of a part that this container does not have: told beside the containers.
            filled, others = found.pop(cell)
            self.assertEqual((str(filled.fact_id), filled.grams), (stands["id"], stands["grams"]))
            self.assertEqual({str(one.fact_id) for one in others}, {one["id"] for one in told} - {stands["id"]})
        self.assertEqual(found, {})

    @staticmethod
    def send_all(browser: Browser, wishes: list[Wish]) -> None:
        for wish in wishes:
            browser.send(wish)

    def kill_now_and_then(self, over: threading.Event, chance: random.Random) -> None:
        for _ in range(2):
            if over.wait(chance.uniform(0.02, 0.3)):
                return
            if chance.random() < 0.5:
                self.server.kill()
                self.server.start()
            else:
                drop_all_connections()


def drop_all_connections() -> None:
    """As a restart of the database does: every session of this database but the asking one ends at once."""
    engine = create_engine(settings().database_url, isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(
            text(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                " WHERE datname = current_database() AND pid <> pg_backend_pid()"
            )
        )
    engine.dispose()
