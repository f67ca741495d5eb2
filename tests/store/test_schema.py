from __future__ import annotations

import csv
import os
import unittest
from importlib import resources

from alembic import command
from sqlalchemy import func, inspect, select

from tests.support import database, make_database, new_kitchen
from yantai.core.energy import DEFAULT_RULES
from yantai.core.nutrients import Nutrient
from yantai.store import migrate, tables
from yantai.store.database import Database
from yantai.work.kitchen import food_composition
from yantai.work.reference_foods import load_reference, reference_id


def rows(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


class Migrations(unittest.TestCase):
    def test_they_make_what_the_tables_say(self) -> None:
        migrate.check(database().engine)

    def test_up_down_and_up_again(self) -> None:
        fresh = Database(make_database(f"yantai_migrations_{os.getpid()}"))
        self.addCleanup(fresh.close)
        migrate.upgrade(fresh.engine)
        with fresh.engine.begin() as connection:
            command.downgrade(migrate._config(connection), "base")
        self.assertEqual(set(inspect(fresh.engine).get_table_names()), {"alembic_version"})
        migrate.upgrade(fresh.engine)
        migrate.check(fresh.engine)


class ReferenceFoods(unittest.TestCase):
    def test_every_row_of_the_data_is_there_once_even_when_loaded_twice(self) -> None:
        load_reference(database())
        counts = [
            (tables.Food, len(rows("foods.csv")) + 1),  # and water
            # and water, whose millilitre is a gram
            (tables.Measure, len(rows("measures.csv")) + len(rows("kitchen_measures.csv")) + 1),
            (tables.YieldFactor, len(rows("yields.csv"))),
            (tables.RawCookedPair, len(rows("pairs.csv"))),
            (tables.EdiblePortion, len(rows("edible.csv"))),
        ]
        with database().workspace(new_kitchen().workspace_id) as session:
            for table, expected in counts:
                with self.subTest(table=table.__tablename__):
                    self.assertEqual(session.scalar(select(func.count()).select_from(table)), expected)

    def test_values_are_those_of_the_file_and_missing_stays_missing(self) -> None:
        columns = {"protein_g": "protein_g", "fat_g": "fat_g", "sugars_g": "sugars_g", "energy_kcal": "stated_kcal"}
        with database().workspace(new_kitchen().workspace_id) as session:
            stored = {food.reference: food for food in session.scalars(select(tables.Food))}
        for row in rows("foods.csv"):
            for source, column in columns.items():
                expected = float(row[source]) if row[source] else None
                self.assertEqual(getattr(stored[row["food_id"]], column), expected, (row["food_id"], column))

    def test_energy_agrees_with_the_sources_outside_the_listed_exceptions(self) -> None:
        """By 4/9/4 and 7 for alcohol, except where fibre is counted otherwise or the source uses own factors."""
        excepted = {row["food_id"] for row in rows("energy_exceptions.csv")}
        with database().workspace(new_kitchen().workspace_id) as session:
            foods = session.scalars(select(tables.Food).where(tables.Food.stated_kcal > 50)).all()
        off = [
            food.reference
            for food in foods
            if food.reference not in excepted
            and (food.fibre_g or 0) < 1
            and abs(food_composition(food, DEFAULT_RULES)[Nutrient.KCAL] / (food.stated_kcal or 0) - 1) > 0.15
        ]
        self.assertEqual(off, [])

    def test_ids_are_the_same_in_every_installation(self) -> None:
        self.assertEqual(str(reference_id("olive-oil")), str(reference_id("olive-oil")))
        self.assertNotEqual(reference_id("olive-oil"), reference_id("water"))

    def test_weak_rows_are_marked(self) -> None:
        with database().workspace(new_kitchen().workspace_id) as session:
            weak = set(session.scalars(select(tables.Food.reference).where(tables.Food.weak)))
        self.assertIn("halloumi", weak)
        self.assertIn("whey-protein-powder-dry", weak)
        self.assertNotIn("olive-oil", weak)
