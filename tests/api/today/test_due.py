"""What is due next over all batches: the next step of each, and what has to begin on a day before."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from tests.api.case import ApiCase
from tests.kitchens import bowl, planned
from tests.support import database
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.recipes.inputs import StepInput
from yantai.work.recipes.recipes import save_recipe

SUNDAY = date(2026, 11, 29)


class WhatIsDue(ApiCase):
    def due(self) -> list[tuple[str, str, str]]:
        return [(one["on"], one["batch"]["name"], one["what"]) for one in self.get("/due")]

    def soaked(self, name: str, cook_on: date, *leads: float) -> dict[str, Any]:
        """A batch of a recipe whose steps begin so many minutes before it is cooked."""
        steps = [StepInput(text=f"Begin {lead:g} min ahead.", lead_min=lead) for lead in leads]
        recipe = save_recipe(database(), self.who, bowl().model_copy(update={"name": name, "steps": steps}), None)
        assert recipe.id is not None
        target = self.get("/clients")[0]["targets"][0]["id"]
        eaters = [EaterInput(target_id=target, count=2)]
        batch = BatchInput(name=name, cook_on=cook_on, dishes=[DishInput(recipe_id=recipe.id, eaters=eaters)])
        plan = create_batch(database(), self.who, batch)
        return dict(self.get(f"/batches/{plan.batch.id}/plan"))

    def test_nothing_is_due_in_an_empty_kitchen(self) -> None:
        self.assertEqual(self.due(), [])

    def test_what_begins_on_a_day_before_stands_on_its_day(self) -> None:
        self.assertEqual(planned(self.who).batch.cook_on, SUNDAY)
        cook = "Cook, and weigh each component as it comes out"
        self.soaked("Beans", SUNDAY, 30, 240, 241, 480, 1440, 1441)
        self.assertEqual(
            self.due(),
            [
                ((SUNDAY - timedelta(days=2)).isoformat(), "Beans", "Begin 1441 min ahead."),
                ((SUNDAY - timedelta(days=1)).isoformat(), "Beans", "Begin 241 min ahead."),
                ((SUNDAY - timedelta(days=1)).isoformat(), "Beans", "Begin 480 min ahead."),
                ((SUNDAY - timedelta(days=1)).isoformat(), "Beans", "Begin 1440 min ahead."),
                (SUNDAY.isoformat(), "Beans", cook),
                # Of two that are cooked on one day the first by name.
                (SUNDAY.isoformat(), "Bowls", cook),
            ],
        )

    def test_it_is_bought_by_the_day_before_until_it_is(self) -> None:
        batch = str(planned(self.who).batch.id)
        by = (SUNDAY - timedelta(days=1)).isoformat()
        self.assertEqual([(one["buy_by"], one["trip_id"]) for one in self.get("/due")], [(by, None)])
        trip = self.send("POST", "/trips", {"batches": [batch]}, status=201)["id"]
        self.assertEqual([(one["buy_by"], one["trip_id"]) for one in self.get("/due")], [(by, trip)])
        self.send("POST", f"/trips/{trip}/finished", {})
        self.assertEqual([(one["buy_by"], one["trip_id"]) for one in self.get("/due")], [(None, None)])

    def test_a_recipe_that_is_there_twice_begins_once(self) -> None:
        planned(self.who)
        plan = self.soaked("Beans", SUNDAY, 480)
        eaters = [{"target_id": self.get("/clients")[0]["targets"][1]["id"], "count": 1}]
        twice = {"kind": "add-dish", "recipe_id": plan["dishes"][0]["recipe_id"], "name": "Again", "eaters": eaters}
        self.change(plan, twice)
        self.assertEqual([what for _, _, what in self.due()].count("Begin 480 min ahead."), 1)

    def test_what_is_weighed_packed_put_away_or_of_a_removed_dish_is_told_no_more(self) -> None:
        planned(self.who)
        plan = self.soaked("Beans", SUNDAY, 480)
        names = [name for _, name, _ in self.due()]
        self.assertEqual(names.count("Beans"), 2)
        chicken = next(one for one in plan["components"] if one["name"] == "Chicken")
        vessels = [{"gross_g": chicken["cooked_g"], "vessel_g": 0}]
        weigh = {"kind": "weigh", "component_id": chicken["id"], "vessels": vessels}
        plan = self.change(plan, weigh, confirmed=True)["plan"]
        self.assertEqual([what for _, name, what in self.due() if name == "Beans"], ["Weigh 2 more of 3 components"])
        self.change(plan, {"kind": "put-away", "away": True})
        self.assertNotIn("Beans", [name for _, name, _ in self.due()])
