"""What the database itself refuses of foods, packs, vessels and lines, whatever the code above it does."""

from __future__ import annotations

import unittest
import uuid
from typing import Any

from sqlalchemy import insert, select
from sqlalchemy.exc import DatabaseError

from tests.kitchens import full_kitchen, planned
from tests.support import database, new_kitchen
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import reference_id


class Constraints(unittest.TestCase):
    who: SignedIn
    component_id: uuid.UUID

    @classmethod
    def setUpClass(cls) -> None:
        cls.who = new_kitchen()
        planned(cls.who)
        with database().workspace(cls.who.workspace_id) as session:
            component = tables.Component
            cls.component_id = (
                session.scalars(select(component.id).where(component.recipe_id.is_not(None))).first() or uuid.uuid4()
            )

    def refuse(self, table: type[tables.Owned], why: str, **values: Any) -> None:
        row = {"id": uuid.uuid4(), "workspace_id": self.who.workspace_id, **values}
        with (
            self.assertRaisesRegex(DatabaseError, why),
            database().workspace(self.who.workspace_id) as session,
        ):
            session.execute(insert(table).values(row))

    def line(self, **values: Any) -> dict[str, Any]:
        return {
            "component_id": self.component_id, "position": 9, "purchased_g": 1, "refuse_share": 0, "retained_share": 1,
            **values,
        }  # fmt: skip

    def test_a_line_holds_a_food_or_a_component(self) -> None:
        self.refuse(tables.Line, "food_or_component", **self.line())
        both = {"food_id": reference_id("olive-oil"), "source_id": self.component_id}
        self.refuse(tables.Line, "food_or_component", **self.line(**both))

    def test_a_line_refers_to_nothing_of_another_kitchen(self) -> None:
        other = full_kitchen()
        with database().workspace(other.workspace_id) as session:
            foreign = session.scalars(select(tables.Component.id)).first()
            food = session.scalars(select(tables.Food.id).where(tables.Food.workspace_id.is_not(None))).first()
        self.refuse(tables.Line, "fk_line_workspace_id_source_id_component", **self.line(source_id=foreign))
        self.refuse(tables.Line, "no such food", **self.line(food_id=food))
        self.refuse(tables.Pack, "no such food", food_id=food, name="tin", grams=400)
        self.refuse(tables.FoodWord, "no such food", food_id=food, words="ours")

    def test_packs_and_vessels_have_weights_that_can_be(self) -> None:
        oil = reference_id("olive-oil")
        self.refuse(tables.Pack, "ck_pack_weight", food_id=oil, name="none", grams=0)
        self.refuse(tables.Pack, "ck_pack_drained", food_id=oil, name="tin", grams=400, drained_g=500)
        self.refuse(tables.Vessel, "ck_vessel_weight", name="nothing", empty_g=0)

    def test_one_meaning_for_the_same_words(self) -> None:
        words = {"words": "our oil", "food_id": reference_id("olive-oil")}
        with database().workspace(self.who.workspace_id) as session:
            session.add(tables.FoodWord(workspace_id=self.who.workspace_id, **words))
        self.refuse(tables.FoodWord, "uq_food_word_workspace_id_words", **words)

    def test_a_component_that_others_are_made_of_is_not_deleted(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            of_recipe = select(tables.Component).where(tables.Component.recipe_id.is_not(None))
            first, second = session.scalars(of_recipe.order_by(tables.Component.position)).all()[:2]
            session.execute(
                insert(tables.Line).values(
                    {
                        "id": uuid.uuid4(), "workspace_id": self.who.workspace_id, "component_id": second.id,
                        "source_id": first.id, "position": 8, "purchased_g": 5, "refuse_share": 0, "retained_share": 1,
                    }
                )
            )  # fmt: skip
        with (
            self.assertRaisesRegex(DatabaseError, "fk_line_workspace_id_source_id_component"),
            database().workspace(self.who.workspace_id) as session,
        ):
            session.delete(session.get_one(tables.Component, first.id))
