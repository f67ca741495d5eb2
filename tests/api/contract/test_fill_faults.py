"""Every acknowledged gram is in its container exactly once, whatever happens on the way: two tablets fill, requests are
dropped or doubled, answers are lost, the server is killed at work, and the database crashes and starts again."""

from __future__ import annotations

import os
import random
import select as waiting
import signal
import uuid
from collections.abc import Sequence
from contextlib import ExitStack
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import select

from tests.api.contract.faults import Browser, FaultCase, Wish
from tests.kitchens import planned
from tests.support import database, in_cluster, new_email, new_kitchen
from tests.volume import volume
from yantai.launcher.postgres import Cluster
from yantai.store import tables
from yantai.work.batches.views import PlanView
from yantai.work.fill.shown import read_filling

RUNS = volume(2, 200)
FILLS = 14
CLUSTER = Cluster(name="fault-postgres")
"""Of its own: others are tested beside, and this one crashes."""

Cell = tuple[str, int, str]


@dataclass
class Tablet:
    """A tablet that knows of its own fills only."""

    name: str
    chance: random.Random
    plan: PlanView
    began_at: datetime
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
        """A minute after the one before. However long an answer takes, it is known which of two came first."""
        return {"happened_at": (self.began_at + timedelta(minutes=len(self.made))).isoformat()}


class FillFaults(FaultCase):
    elsewhere = ExitStack()

    @classmethod
    def setUpClass(cls) -> None:
        cls.elsewhere.callback(CLUSTER.stop)
        cls.elsewhere.enter_context(in_cluster(CLUSTER.ensure_running()))
        super().setUpClass()

    @classmethod
    def tearDownClass(cls) -> None:
        super().tearDownClass()
        cls.elsewhere.close()

    def test_every_acknowledged_gram_is_there_exactly_once(self) -> None:
        for seed in range(RUNS):
            with self.subTest(seed=seed):
                self.run_once(random.Random(f"fills {seed}"))

    def run_once(self, chance: random.Random) -> None:
        email = new_email()
        who = new_kitchen(email)
        plan = planned(who)
        path = f"/batches/{plan.batch.id}/filling/facts"
        # The two write at different seconds of each minute, so that one of two always came first.
        began_at = datetime.now(UTC) - timedelta(hours=1)
        tablets = [
            Tablet(
                name, random.Random(chance.random()), plan, began_at + timedelta(seconds=chance.randint(0, 25) + late)
            )
            for name, late in (("bench", 0), ("window", 30))
        ]
        browsers = [Browser(self.server, who, email, random.Random(chance.random())) for _ in tablets]
        wishes = [[Wish(path, fact, fact["id"]) for fact in (one.fill() for _ in range(FILLS // 2))] for one in tablets]

        def disturb(browsers: Sequence[Browser]) -> None:
            if chance.random() < 0.5:
                self.server.restart()
            else:
                crash_and_start(browsers)

        self.race(browsers, wishes, random.Random(chance.random()), disturb)
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


def crash_and_start(browsers: Sequence[Browser]) -> None:
    """The database ends in the middle of everything, and starts again from its log."""
    pid = int((CLUSTER.folder / "postmaster.pid").read_text().split()[0])
    for browser in browsers:
        browser.database_is_up.clear()
    ended = os.pidfd_open(pid)
    # To PostgreSQL: end at once, as in a crash, with nothing written that was not written yet.
    os.kill(pid, signal.SIGQUIT)
    waiting.select([ended], [], [])
    os.close(ended)
    CLUSTER.ensure_running()
    for browser in browsers:
        browser.database_is_up.set()
