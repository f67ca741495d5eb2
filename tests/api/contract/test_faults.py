"""Each acknowledged wish is there exactly once, whatever happens on the way: requests that never arrive, answers that
are lost, requests that arrive twice, and a server that is killed at work."""

from __future__ import annotations

import random
import uuid
from collections import Counter
from typing import Any

from sqlalchemy import select

from tests.api.case import food_id
from tests.api.contract.faults import Browser, FaultCase, Wish
from tests.kitchens import eaters, planned
from tests.support import database, new_email, new_kitchen
from tests.volume import volume
from yantai.store import tables
from yantai.work.batches.reading import read_plan
from yantai.work.common.who import SignedIn

RUNS = volume(3, 200)
WISHES = 12


class Faults(FaultCase):
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
        self.race(browsers, wishes, random.Random(chance.random()), lambda _: self.server.restart())
        sent = [wish for browser in browsers for wish in browser.acknowledged]
        refused = [wish for browser in browsers for wish in browser.refused]
        self.assertEqual(len(sent) + len(refused), WISHES)
        self.check(who, batch, sent, refused)

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
