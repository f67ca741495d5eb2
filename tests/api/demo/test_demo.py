"""The demo scenario: what a newcomer sees must be right, and made up."""

from __future__ import annotations

import os
import re
import unittest
import uuid
from collections.abc import Iterator
from dataclasses import asdict, replace
from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import func, select

from tests.core.schedule.keeping import broken
from tests.core.schedule.plainly import one_after_the_other
from tests.support import make_database
from yantai.core.planning.portioning import School
from yantai.core.schedule.solve import best_order
from yantai.core.speaking import EnergyUnit, MassUnit, Spoken, TemperatureUnit, speaking, spoken
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD, load_demo
from yantai.store import migrate, tables
from yantai.store.database import Database
from yantai.work.accounts.sessions import sign_in
from yantai.work.batches import stored
from yantai.work.batches.lists import list_batches
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import list_clients, read_history
from yantai.work.common.who import SignedIn
from yantai.work.cook.order import read_job
from yantai.work.learn.yields import list_yields
from yantai.work.pantry.reference import load_reference
from yantai.work.plan.days import read_plan_days
from yantai.work.plan.ways.all_ways import read_ways
from yantai.work.recipes.recipes import list_recipes, read_recipe

TUESDAY = date(2026, 11, 24)


MACROS = re.compile(
    r"\d[\d,.]* g (?:of )?(?:protein|carbohydrate|fat|fibre|saturated fat)(?: instead of \d[\d,.]* g)?"
    r"|(?:protein|carbohydrate|fat|fibre) \d[\d,.]* g (?:short|over)"
)
"""Grams for everybody."""
OF_HOME = re.compile(r"\d g\b|\d kcal\b|\d °C")
ABROAD = re.compile(r"\d oz\b|\d kJ\b|\d °F")


def texts(path: str, value: Any) -> Iterator[tuple[str, str]]:
    """Sentences of a view, by their paths; what was typed, names and texts of steps are left out."""
    if isinstance(value, str):
        yield path, value
    elif isinstance(value, dict):
        for key, inner in value.items():
            if key not in ("name", "text", "note", "description", "client", "slot", "recipe"):
                yield from texts(f"{path}/{key}", inner)
    elif isinstance(value, (list, tuple)):
        for index, inner in enumerate(value):
            yield from texts(f"{path}/{index}", inner)


class Demo(unittest.TestCase):
    database: Database
    who: SignedIn

    @classmethod
    def setUpClass(cls) -> None:
        cls.database = Database(make_database(f"yantai_demo_{os.getpid()}"))
        cls.addClassCleanup(cls.database.close)
        migrate.upgrade(cls.database.engine)
        load_reference(cls.database)
        load_demo(cls.database, TUESDAY)
        cls.who = sign_in(cls.database, DEMO_EMAIL, DEMO_PASSWORD, datetime.now(UTC))[1]

    def plan(self, name: str) -> PlanView:
        (brief,) = [batch for batch in list_batches(self.database, self.who) if batch.name == name]
        return read_plan(self.database, self.who, brief.id)

    def test_loading_it_again_changes_nothing(self) -> None:
        load_demo(self.database, TUESDAY)
        with self.database.workspace(self.who.workspace_id) as session:
            self.assertEqual(session.scalar(select(func.count()).select_from(tables.Client)), 9)
            self.assertEqual(session.scalar(select(func.count()).select_from(tables.Batch)), 14)

    def test_sentences_speak_the_units_of_the_reader(self) -> None:
        """What people named keeps its words; macros are grams for everybody."""
        abroad = Spoken(mass=MassUnit.OUNCE, energy=EnergyUnit.KILOJOULE, temperature=TemperatureUnit.FAHRENHEIT)
        home = {path: text for path, text in self.sentences() if OF_HOME.search(MACROS.sub("", text))}
        with speaking(abroad):
            away = dict(self.sentences())
        self.assertGreater(len(home), 25)
        self.assertEqual(spoken(), Spoken())
        for path, text in home.items():
            with self.subTest(path=path, text=text):
                self.assertIn(path, away)
                self.assertNotRegex(MACROS.sub("", away[path]), OF_HOME)
                self.assertRegex(away[path], ABROAD)

    def sentences(self) -> Iterator[tuple[str, str]]:
        """Each text of the plans that are not packed, of recipes, clients, days and ways out, by where it stands."""
        database, who = self.database, self.who
        missed: list[tuple[uuid.UUID, uuid.UUID]] = []
        for brief in list_batches(database, who):
            if brief.packed_at is None:
                plan = read_plan(database, who, brief.id)
                yield from texts(f"plan {brief.name}", asdict(plan))
                for view in read_plan_days(database, who, brief.id):
                    yield from texts(f"days {brief.name} {view.client}", asdict(view))
                # Where pots are short each way is a search over all containers.
                if not brief.weighed:
                    missed += [(brief.id, settle.row_id) for settle in plan.to_settle if settle.row_id]
        # Ways out take their time; those of one row are enough.
        for index, way in enumerate(read_ways(database, who, *missed[0])):
            yield from texts(f"ways {index}", asdict(way))
        for recipe in list_recipes(database, who):
            yield from texts(f"recipe {recipe.name}", asdict(read_recipe(database, who, recipe.id)))
        for client in list_clients(database, who):
            yield from texts(f"client {client.name}", asdict(client))
            for index, record in enumerate(read_history(database, who, client.id)):
                yield from texts(f"history {client.name} {index}", asdict(record))

    def test_nine_clients_with_different_needs(self) -> None:
        clients = {client.name: client for client in list_clients(self.database, self.who)}
        self.assertEqual(len(clients), 9)
        self.assertEqual({target.slot for target in clients["Bram Oduya"].targets}, {"lunch", "dinner"})
        self.assertEqual({target.day_type for target in clients["Ines Haverkamp"].targets}, {"training", "rest"})
        self.assertEqual(clients["Petra Nowicka"].allergens, ["milk"])
        smallest = min(clients.values(), key=lambda client: min(t.capacity_ml or 9999 for t in client.targets))
        self.assertEqual(smallest.name, "Teo Vasquez-Lind")
        eats_least = min(clients.values(), key=lambda client: min(t.protein_g or 9999 for t in client.targets))
        self.assertEqual(eats_least.name, "Ottilie Senn")
        self.assertTrue(all(target.conflict is None for c in clients.values() for target in c.targets))

    def test_two_recipes_of_four_components(self) -> None:
        recipes = list_recipes(self.database, self.who)
        main = [recipe for recipe in recipes if recipe.name in ("Turkey kofta tray", "Smoky tofu and white bean stew")]
        self.assertEqual([len(recipe.components) for recipe in main], [4, 4])
        stew = next(recipe for recipe in recipes if "tofu" in recipe.name)
        self.assertNotIn("milk", stew.allergens)

    def test_one_batch_is_planned_for_the_coming_sunday(self) -> None:
        plan = self.plan("Kofta Sunday")
        self.assertEqual(plan.batch.cook_on, date(2026, 11, 29))
        self.assertEqual(sum(row.count for row in plan.rows), 32)
        self.assertTrue(all(component.weighing is None for component in plan.components))
        # The small container is the one thing to settle: it is a container that cannot hold the target.
        (settle,) = plan.to_settle
        self.assertIn("Teo Vasquez-Lind", settle.title)
        self.assertIn("full at 520 ml", settle.detail)

    def test_every_other_container_of_it_meets_its_target(self) -> None:
        for row in self.plan("Kofta Sunday").rows:
            if row.client != "Teo Vasquez-Lind":
                with self.subTest(client=row.client, slot=row.slot):
                    self.assertGreaterEqual(len(row.gauges), 3)
                    self.assertTrue(all(gauge.miss == 0 for gauge in row.gauges))

    def test_the_one_without_dairy_gets_none(self) -> None:
        plan = self.plan("Kofta Sunday")
        petra = next(row for row in plan.rows if row.client == "Petra Nowicka")
        with_milk = {component.id for component in plan.components if "milk" in component.allergens}
        self.assertTrue(with_milk)
        self.assertTrue(all(cell.grams == 0 for cell in petra.cells if cell.component_id in with_milk))

    def test_one_batch_was_weighed_and_packed_the_week_before(self) -> None:
        plan = self.plan("Bean stew Wednesday")
        self.assertEqual(plan.batch.cook_on, date(2026, 11, 18))
        self.assertIsNotNone(plan.batch.packed_at)
        for component in plan.components:
            with self.subTest(component=component.name):
                assert component.weighing is not None
                self.assertEqual(component.weighing.weighed_at.date(), plan.batch.cook_on)
                self.assertGreater(component.weighing.vessels[0].vessel_g, 0)
                self.assertGreaterEqual(component.spare_g, 0)
        self.assertEqual(plan.to_settle, [])

    def test_three_weeks_were_cooked_and_taught_their_yields(self) -> None:
        packed = [brief for brief in list_batches(self.database, self.who) if brief.packed_at is not None]
        self.assertEqual([brief.cook_on.day for brief in packed], [22, 18, 15, 11, 8])
        self.assertTrue(all(brief.weighed == brief.components for brief in packed))
        estimates = list_yields(self.database, self.who)
        twice = {one.name for one in estimates if one.kind == "component" and len(one.measured) > 1}
        self.assertLessEqual({"Turkey kofta", "Charred courgette", "Lentils", "Millet"}, twice)
        # The plan of the coming Sunday is made with what was learned, and says so.
        kofta = self.plan("Kofta Sunday").components[0]
        self.assertEqual(kofta.yield_source, "measured in this kitchen")

    def test_one_pan_is_short_today_and_all_bear_it(self) -> None:
        plan = self.plan("Kofta before the regatta")
        self.assertEqual(plan.batch.cook_on, TUESDAY)
        self.assertEqual([one.weighing is not None for one in plan.components], [True, False, False, True])
        short = [settle.title for settle in plan.to_settle]
        self.assertGreaterEqual(len(short), 3)
        self.assertTrue(all("protein" in title and "short" in title for title in short), short)
        kofta = plan.components[0]
        taken = sum(row.count * row.cells[0].grams for row in plan.rows)
        assert kofta.weighing is not None
        self.assertLessEqual(taken, kofta.weighing.cooked_g)
        self.assertGreater(taken, 0.98 * kofta.weighing.cooked_g)

    def test_every_school_has_a_worked_example(self) -> None:
        seen = set()
        for brief in list_batches(self.database, self.who):
            plan = read_plan(self.database, self.who, brief.id)
            seen |= {part.school for dish in plan.dishes for part in dish.parts}
        self.assertEqual(seen, {school.value for school in School})

    def test_pieces_and_scoops_are_whole_and_splits_are_equal(self) -> None:
        for name in ("Egg bakes Monday", "Porridge Friday", "Wraps Wednesday"):
            plan = self.plan(name)
            for row in plan.rows:
                for part, cell in zip(plan.dishes[0].parts, row.cells, strict=True):
                    if cell.units is not None:
                        parts = cell.units / part.unit_part
                        self.assertAlmostEqual(parts, round(parts), places=6)
        berries = [row.cells[2].grams for row in self.plan("Porridge Friday").rows]
        self.assertEqual(set(berries), {80.0})  # 480 g over six containers

    def test_plates_are_in_quarters(self) -> None:
        rows = self.plan("Salmon plates Thursday").rows
        self.assertGreater(len(rows), 1)
        for row in rows:
            salmon, potatoes, greens = (cell.grams for cell in row.cells)
            self.assertAlmostEqual(greens, salmon + potatoes, delta=10)

    def test_one_pot_keeps_its_mixture(self) -> None:
        ratios = [row.cells[0].grams / row.cells[1].grams for row in self.plan("Dhal Tuesday").rows]
        self.assertAlmostEqual(min(ratios), max(ratios), places=6)

    def test_sundays_are_sundays_whatever_the_day(self) -> None:
        for day in range(1, 8):
            today = date(2027, 3, day)
            ahead = (6 - today.weekday()) % 7
            self.assertEqual(date.fromordinal(today.toordinal() + ahead).weekday(), 6)

    def test_its_address_is_nobodys(self) -> None:
        self.assertTrue(DEMO_EMAIL.endswith(".example"))

    def test_sunday_for_nine_is_shorter_than_one_component_after_the_other(self) -> None:
        """Dishes and bowls, 41 containers, two people: every rule is kept, and more than an hour is saved."""
        batch = next(one for one in list_batches(self.database, self.who) if one.name == "Sunday at the boathouse")
        self.assertEqual(batch.containers, 41)
        with stored.reading(self.database, self.who, lambda _: [batch.id]) as session:
            job = read_job(session, batch.id)
        assert job is not None
        self.assertEqual((len(job.day.people), job.impossible), (2, ()))
        order = best_order(job.day)
        self.assertEqual(broken(job.day, order), [])
        ahead = {task.key for task in job.day.tasks if task.ahead}
        of_the_day = replace(
            job.day,
            tasks=tuple(task for task in job.day.tasks if task.key not in ahead),
            links=tuple(link for link in job.day.links if not {link.before, link.after} & ahead),
        )
        saved = one_after_the_other(of_the_day) - order.ready
        self.assertGreater(saved, 60)
