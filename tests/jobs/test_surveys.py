"""Who can eat what, answered by workers that share a queue, are killed, come back, and are told to stop."""

from __future__ import annotations

import asyncio
import subprocess
import sys
import unittest
import uuid
from datetime import date
from unittest.mock import patch

from sqlalchemy import func, select, text

from tests.kitchens import BULGUR, bowl, eaters, line
from tests.support import NOW, database, new_kitchen, settings
from yantai.core.planning import fit
from yantai.devices.mail import NoMailer
from yantai.jobs import tasks, worker
from yantai.store import tables
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.clients.clients import list_clients, save_client
from yantai.work.clients.inputs import ClientInput, DayInput, TargetInput
from yantai.work.common.errors import Invalid
from yantai.work.recipes.inputs import ComponentInput, RecipeInput
from yantai.work.recipes.recipes import list_recipes, save_recipe
from yantai.work.surveys import surveys
from yantai.work.surveys.views import AnswerView, SurveyView

URL = database().engine.url.render_as_string(hide_password=False)


def plain() -> RecipeInput:
    """Bulgur alone: it cannot meet a protein target."""
    part = ComponentInput(name="Bulgur", role="grain", method="boiled", lines=[line(BULGUR, 500)])
    return RecipeInput(name="Plain bulgur", components=[part])


class SurveyCase(unittest.TestCase):
    def setUp(self) -> None:
        # The queue is one for all kitchens of a run: each test begins with an empty one.
        with database().engine.begin() as connection:
            connection.execute(text("DELETE FROM procrastinate_jobs"))
        self.who = new_kitchen()
        for recipe in (bowl(), plain()):
            save_recipe(database(), self.who, recipe, None)
        for client in eaters():
            save_client(database(), self.who, client, None)

    def with_a_small_box(self) -> None:
        """A client whose box holds too little for the target."""
        small = TargetInput(slot="lunch", protein_g=45, carbohydrate_g=55, fat_g=18, capacity_ml=300)
        save_client(database(), self.who, ClientInput(name="Ned", targets=[small]), None)

    def start(self) -> SurveyView:
        return surveys.start_survey(database(), self.who, NOW)

    def newest(self) -> SurveyView:
        found = surveys.read_survey(database(), self.who)
        assert found is not None
        return found

    def work(self) -> None:
        """One worker, until nothing waits."""
        worker.run(settings(), until_empty=True)

    def answers(self, survey: SurveyView, **wanted: object) -> list[AnswerView]:
        return surveys.read_answers(database(), self.who, survey.id, **wanted).answers  # type: ignore[arg-type]


class Answers(SurveyCase):
    def test_every_recipe_is_answered_for_every_target(self) -> None:
        started = self.start()
        self.assertEqual((started.state, started.answered, started.recipes), ("running", 0, 2))
        self.work()
        self.assertEqual((self.newest().state, self.newest().answered), ("done", 2))
        found = self.answers(started)
        self.assertEqual(len(found), 2 * 3)
        milo = next(one for one in found if one.client == "Milo Brandt" and one.recipe == "Chicken bowl")
        self.assertEqual(milo.without, ["Sauce"])
        ada = next(one for one in found if one.met)
        self.assertRegex(ada.told, r"^\d+ g Chicken, \d+ g Bulgur")
        alone = next(one for one in found if one.client == "Ada Vance" and one.recipe == "Plain bulgur")
        self.assertFalse(alone.met)
        self.assertRegex(alone.told, r"protein \d+ g short: no mix of these components comes nearer\.$")

    def test_an_answer_is_what_a_batch_of_one_container_would_say(self) -> None:
        self.with_a_small_box()
        started = self.start()
        self.work()
        targets = [target for client in list_clients(database(), self.who) for target in client.targets]
        for recipe in list_recipes(database(), self.who):
            given = BatchInput(
                name="Check",
                cook_on=date(2026, 11, 29),
                buffer_share=0,
                dishes=[
                    DishInput(
                        recipe_id=recipe.id, eaters=[EaterInput(target_id=target.id, count=1) for target in targets]
                    )
                ],
            )
            plan = create_batch(database(), self.who, given)
            by_batch = {(row.client, row.slot): all(gauge.miss == 0 for gauge in row.gauges) for row in plan.rows}
            by_survey = {(one.client, one.slot): one.met for one in self.answers(started, recipe_id=recipe.id)}
            self.assertEqual(by_survey, by_batch)
            self.assertFalse(by_survey["Ned", "lunch"])

    def test_orders_and_parts_of_the_table(self) -> None:
        started = self.start()
        self.work()
        nearest = self.answers(started)
        self.assertEqual([one.missed for one in nearest], sorted(one.missed for one in nearest))
        self.assertTrue(all(one.met == (one.missed == 0) for one in nearest))
        self.assertEqual(
            {one.client for one in self.answers(started, client_id=nearest[0].client_id)}, {nearest[0].client}
        )
        by_recipe = [one.recipe for one in self.answers(started, sort="recipe")]
        self.assertEqual(by_recipe, sorted(by_recipe))
        by_client = [(one.client, one.slot) for one in self.answers(started, sort="client")]
        self.assertEqual(by_client, sorted(by_client))
        self.assertTrue(all(not one.met for one in self.answers(started, met=False)))
        self.assertEqual(self.answers(started, limit=2, offset=2), nearest[2:4])
        for wrong in ({"sort": "luck"}, {"limit": 0}, {"limit": 501}, {"offset": -1}):
            with self.subTest(wrong=wrong), self.assertRaises(Invalid):
                self.answers(started, **wrong)

    def test_a_share_of_a_day_counts_as_what_it_comes_to(self) -> None:
        day = DayInput(protein_g=100, carbohydrate_g=120, fat_g=40)
        slot = TargetInput(slot="supper", day_share=0.5)
        save_client(database(), self.who, ClientInput(name="Zoe", days=[day], targets=[slot]), None)
        started = self.start()
        self.work()
        zoe = [one for one in self.answers(started) if one.client == "Zoe"]
        self.assertEqual([one.slot for one in zoe], ["supper", "supper"])


class Running(SurveyCase):
    def test_asking_again_while_it_runs_goes_on_with_the_same(self) -> None:
        first = self.start()
        self.assertEqual(self.start().id, first.id)
        self.work()
        second = self.start()
        self.assertNotEqual(second.id, first.id)
        self.assertEqual(self.answers(first), [])

    def test_nothing_to_ask_about_is_said(self) -> None:
        empty = new_kitchen()
        with self.assertRaisesRegex(Invalid, "a recipe with components, and a client with a target"):
            surveys.start_survey(database(), empty, NOW)
        self.assertIsNone(surveys.read_survey(database(), empty))

    def test_a_cancelled_one_answers_nothing_more(self) -> None:
        started = self.start()
        cancelled = surveys.cancel_survey(database(), self.who, started.id, NOW)
        self.assertEqual(cancelled.state, "cancelled")
        self.work()
        self.assertEqual((self.newest().state, self.newest().answered, self.answers(started)), ("cancelled", 0, []))

    def test_a_recipe_that_is_cancelled_in_the_middle_leaves_nothing(self) -> None:
        started = self.start()
        recipe = list_recipes(database(), self.who)[0]
        surveys.answer_recipe(
            database(),
            self.who.workspace_id,
            started.id,
            recipe.id,
            between=lambda: void(surveys.cancel_survey(database(), self.who, started.id, NOW)),
        )
        self.assertEqual(self.answers(started), [])

    def test_the_same_job_twice_changes_nothing(self) -> None:
        started = self.start()
        recipe = list_recipes(database(), self.who)[0]
        for _ in range(2):
            surveys.answer_recipe(database(), self.who.workspace_id, started.id, recipe.id)
        self.assertEqual((self.newest().answered, len(self.answers(started))), (1, 3))
        # Two that run at once: the second finishes while the first is in the middle.
        other = list_recipes(database(), self.who)[1]
        ids = (self.who.workspace_id, started.id, other.id)
        surveys.answer_recipe(database(), *ids, between=lambda: surveys.answer_recipe(database(), *ids))
        self.assertEqual((self.newest().answered, len(self.answers(started))), (2, 6))

    def test_a_fault_in_one_recipe_ends_that_recipe_and_is_told(self) -> None:
        started = self.start()
        right = fit.fits

        def wrong(dish, classes, **more):
            if len(dish.parts) == 1:
                raise ZeroDivisionError
            return right(dish, classes, **more)

        with (
            patch.object(fit, "fits", wrong),
            self.assertLogs("yantai.jobs.tasks", "ERROR"),
            self.assertLogs("procrastinate"),
        ):
            self.work()
        self.assertEqual(self.newest().state, "done")
        self.assertEqual(
            self.newest().troubles, ["Plain bulgur: this recipe could not be computed; the log of the worker says why"]
        )
        self.assertEqual({one.recipe for one in self.answers(started)}, {"Chicken bowl"})

    def test_a_recipe_that_makes_no_sense_is_told(self) -> None:
        cold = [part for part in bowl().components if part.name == "Sauce"]
        save_recipe(database(), self.who, RecipeInput(name="Empty pot", components=cold), None)
        with database().workspace(self.who.workspace_id) as session:
            pot = session.scalars(select(tables.Recipe).where(tables.Recipe.name == "Empty pot")).one()
            session.execute(text("UPDATE component SET served = false WHERE recipe_id = :id"), {"id": pot.id})
        self.start()
        self.work()
        self.assertEqual(self.newest().troubles, ["Empty pot: nothing of this recipe goes into containers"])

    def test_another_kitchen_sees_nothing_of_it(self) -> None:
        started = self.start()
        self.work()
        other = new_kitchen()
        self.assertIsNone(surveys.read_survey(database(), other))
        self.assertEqual(surveys.read_answers(database(), other, started.id).total, 0)


class SeveralWorkers(SurveyCase):
    def test_a_killed_worker_loses_nothing_and_the_others_go_on(self) -> None:
        for number in range(4):
            save_recipe(database(), self.who, RecipeInput(name=f"Bulgur {number}", components=plain().components), None)
        self.start()
        command = [sys.executable, "-m", "tests.jobs.stuck_worker", URL]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as stuck:
            self.addCleanup(stuck.kill)
            assert stuck.stdout is not None
            self.assertEqual(stuck.stdout.readline(), "in the middle\n")
            # A second worker shares the queue: it does everything but the recipe that the first one holds.
            self.work()
            self.assertEqual((self.newest().state, self.newest().answered), ("running", 5))
            stuck.kill()
        self.work()
        self.assertEqual(self.newest().answered, 5)  # the killed one still counts as alive
        self.assertEqual(asyncio.run(self.take_up()), 1)
        self.work()
        self.assertEqual((self.newest().state, self.newest().answered), ("done", 6))
        with database().workspace(self.who.workspace_id) as session:
            answer = tables.SurveyAnswer
            each = session.execute(select(answer.recipe, func.count()).group_by(answer.recipe)).all()
        self.assertEqual({count for _, count in each}, {3})
        self.assertEqual(len(each), 6)

    async def take_up(self) -> int:
        """As the workers do each minute, without waiting until the dead one counts as lost."""
        app = tasks.make_app(database(), NoMailer(), "")
        async with app.open_async():
            return await tasks.take_up(app, lost_after_s=0)


def void(_value: object) -> None:
    """Nothing, whatever was answered."""


class NoSuchSurvey(SurveyCase):
    def test_a_job_of_a_survey_that_was_replaced_does_nothing(self) -> None:
        recipe = list_recipes(database(), self.who)[0]
        surveys.answer_recipe(database(), self.who.workspace_id, uuid.uuid4(), recipe.id)
        surveys.give_up(database(), self.who.workspace_id, uuid.uuid4(), recipe.id, "trouble")
        with database().workspace(self.who.workspace_id) as session:
            self.assertEqual(session.scalar(select(func.count()).select_from(tables.SurveyPart)), 0)
