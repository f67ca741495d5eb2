"""Every batch of the demo, whatever its schools, out as a document and into an empty kitchen: the same grams."""

from __future__ import annotations

import json
import unittest
from typing import ClassVar

from tests.support import NOW, database, new_kitchen
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD, load_demo
from yantai.formats.plan_document import read_plan
from yantai.formats.plan_result import compute_plan
from yantai.work.accounts.sessions import sign_in
from yantai.work.batches.lists import list_batches
from yantai.work.batches.reading import export_batch
from yantai.work.batches.reading import read_plan as read_batch
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import list_clients
from yantai.work.common.who import SignedIn
from yantai.work.plan.imports import import_plan
from yantai.work.plan.inputs import PlanFileInput
from yantai.work.plan.views import ImportedPlan

Grams = list[list[float]]


def grams_of(plan: PlanView) -> Grams:
    return [[cell.grams for cell in row.cells] for row in plan.rows]


class DemoDocuments(unittest.TestCase):
    who: ClassVar[SignedIn]
    empty: ClassVar[SignedIn]
    texts: ClassVar[dict[str, str]]
    plans: ClassVar[dict[str, PlanView]]
    taken: ClassVar[dict[str, tuple[ImportedPlan, PlanView]]]

    @classmethod
    def setUpClass(cls) -> None:
        load_demo(database(), NOW.date())
        _, cls.who = sign_in(database(), DEMO_EMAIL, DEMO_PASSWORD, NOW)
        cls.empty = new_kitchen()
        cls.texts, cls.plans, cls.taken = {}, {}, {}
        for brief in list_batches(database(), cls.who):
            cls.texts[brief.name] = export_batch(database(), cls.who, brief.id).model_dump_json()
            cls.plans[brief.name] = read_batch(database(), cls.who, brief.id)
        for name, text in cls.texts.items():
            given = PlanFileInput(text=text, cook_on=NOW.date())
            done = import_plan(database(), cls.empty, given, NOW)
            cls.taken[name] = (done, read_batch(database(), cls.empty, done.batch_id))

    def assert_same(self, found: Grams, expected: Grams, name: str) -> None:
        self.assertEqual(len(found), len(expected), name)
        for mine, theirs in zip(found, expected, strict=True):
            for one, other in zip(mine, theirs, strict=True):
                # The store keeps thousandths of a figure; pieces weigh what their pan divides to.
                self.assertAlmostEqual(one, other, delta=0.01, msg=name)

    def test_the_grams_of_every_school_are_the_same_in_the_other_kitchen(self) -> None:
        self.assertEqual(len(self.plans), 14)
        for name, plan in self.plans.items():
            with self.subTest(name):
                self.assert_same(grams_of(self.taken[name][1]), grams_of(plan), name)

    def test_the_engine_alone_computes_the_same_grams_from_the_file(self) -> None:
        for name, plan in self.plans.items():
            with self.subTest(name):
                result = compute_plan(read_plan(self.texts[name]))
                keys = [component["key"] for component in json.loads(self.texts[name])["components"]]
                key_of = dict(zip((component.id for component in plan.components), keys, strict=True))
                alone = [
                    [each.grams[key_of[cell.component_id]] for cell in row.cells]
                    for row, each in zip(plan.rows, result.containers, strict=True)
                ]
                self.assert_same(alone, grams_of(plan), name)

    def test_schools_counts_rooms_and_weights_came_along(self) -> None:
        for name, plan in self.plans.items():
            taken = self.taken[name][1]
            with self.subTest(name):
                for mine, theirs in zip(taken.components, plan.components, strict=True):
                    self.assertEqual((mine.name, mine.role, mine.method), (theirs.name, theirs.role, theirs.method))
                    self.assertEqual(mine.pieces, theirs.pieces)
                    self.assertAlmostEqual(mine.cooked_g, theirs.cooked_g, delta=max(0.001 * theirs.cooked_g, 0.5))
                    self.assertEqual(mine.weighing is None, theirs.weighing is None)
                for dish, of in zip(taken.dishes, plan.dishes, strict=True):
                    self.assertEqual((dish.name, dish.groups), (of.name, of.groups))
                    for one, other in zip(dish.parts, of.parts, strict=True):
                        self.assertEqual(
                            (one.school, one.minimum_g, one.maximum_g, one.place, one.group),
                            (other.school, other.minimum_g, other.maximum_g, other.place, other.group),
                        )
                for here, there in zip(taken.rows, plan.rows, strict=True):
                    self.assertEqual(
                        (here.client, here.slot, here.day_type, here.count, here.capacity_ml, here.plate_g),
                        (there.client, there.slot, there.day_type, there.count, there.capacity_ml, there.plate_g),
                    )
                    self.assertEqual(here.target, there.target)

    def test_clients_are_made_once_and_with_their_own_tolerance(self) -> None:
        theirs = {client.name: client.tolerance for client in list_clients(database(), self.who)}
        mine = {client.name: client.tolerance for client in list_clients(database(), self.empty)}
        self.assertEqual(mine, theirs)

    def test_what_nobody_told_is_named_the_first_time_only(self) -> None:
        told = [note for done, _ in self.taken.values() for note in done.notes]
        new = [note for note in told if note.startswith("New clients: ")]
        named = [name for note in new for name in note.removeprefix("New clients: ").split(". ")[0].split(", ")]
        self.assertEqual(sorted(named), sorted({row.client for plan in self.plans.values() for row in plan.rows}))
        self.assertTrue(all("What they must not eat is not in the document" in note for note in new))
