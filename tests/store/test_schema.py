from __future__ import annotations

import csv
import hashlib
import os
import re
import unittest
import uuid
from importlib import resources
from pathlib import Path
from unittest.mock import patch

from alembic import command
from sqlalchemy import CheckConstraint, func, inspect, select, text

from tests.support import database, make_database, new_kitchen
from yantai.core.foods.energy import DEFAULT_RULES
from yantai.core.foods.nutrients import Nutrient
from yantai.store import migrate, tables
from yantai.store.database import Database
from yantai.store.tables.base import Word
from yantai.work.pantry import reference
from yantai.work.pantry.composition import food_composition
from yantai.work.pantry.reference import load_reference, reference_id


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

    def test_a_committed_migration_is_never_edited(self) -> None:
        """A database that an earlier form of it made would not have what was edited in. Write a new one instead."""
        listed = (Path(__file__).parent.parent / "data" / "migrations.sha256").read_text(encoding="utf-8")
        known = {name: digest for digest, name in (line.split() for line in listed.splitlines())}
        found = {
            file.name: hashlib.sha256(file.read_bytes()).hexdigest()
            for file in (Path(migrate.__file__).parent / "migrations" / "versions").glob("0*.py")
        }
        self.assertEqual(found, known)

    def test_checks_and_keys_are_those_of_the_tables(self) -> None:
        """What comparing tables and columns does not see."""
        with database().engine.connect() as connection:
            made = set(connection.scalars(text("SELECT conname FROM pg_constraint WHERE contype = 'c'")))
        said = {
            str(constraint.name)
            for table in tables.Base.metadata.tables.values()
            for constraint in table.constraints
            if isinstance(constraint, CheckConstraint)
        }
        self.assertEqual(said - made, set())

    def test_every_closed_set_is_one_from_the_core_to_the_check(self) -> None:
        """A word that may be typed and not stored would be a fault of ours, not of who types it."""
        found = 0
        for table in tables.Base.metadata.tables.values():
            for column in table.columns:
                if isinstance(column.type, Word):
                    with self.subTest(table=table.name, column=column.name):
                        self.assertEqual(closed_set(table.name, column.name), {word.value for word in column.type.kind})
                        found += 1
        self.assertEqual(found, 39)


def closed_set(table: str, column: str) -> set[str]:
    """The words that the database lets into a column."""
    query = text("SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE conname = :name")
    with database().engine.connect() as connection:
        told = connection.execute(query, {"name": f"ck_{table}_{column}"}).scalar_one()
    return set(re.findall(r"'([^']*)'", told))


class EarlyDatabases(unittest.TestCase):
    """Databases that an early form of 0002, 0003 and 0004 made: at the newest revision, without what came later."""

    AS_THEN = (
        "ALTER TABLE workspace DROP COLUMN foods_version",
        "ALTER TABLE food ADD COLUMN search_vector tsvector GENERATED ALWAYS AS "
        "(to_tsvector('english'::regconfig, search_text)) STORED",
        "CREATE INDEX ix_food_search_vector ON food USING gin (search_vector)",
        "ALTER TABLE food DROP CONSTRAINT ck_food_macros_fit",
        "ALTER TABLE food ADD CONSTRAINT ck_food_macros_fit CHECK (coalesce(protein_g, 0) <= 101)",
        "ALTER TABLE client DROP COLUMN signed_off_by, DROP COLUMN signed_off_on",
        "ALTER TABLE client DROP COLUMN exclusions, DROP COLUMN tolerance_percent",
    )

    def test_they_are_mended(self) -> None:
        old = Database(make_database(f"yantai_early_{os.getpid()}"))
        self.addCleanup(old.close)
        with old.engine.begin() as connection:
            command.upgrade(migrate._config(connection), "0008")
            for statement in self.AS_THEN:
                connection.execute(text(statement))
        migrate.ensure_current(old.engine)
        with old.engine.connect() as connection:
            made = connection.scalars(
                text("SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE conname = :name"),
                {"name": "ck_food_macros_fit"},
            ).one()
        self.assertIn("slack", made)

    def test_another_schema_is_told_at_the_start_with_what_to_do(self) -> None:
        old = Database(make_database(f"yantai_other_{os.getpid()}"))
        self.addCleanup(old.close)
        migrate.upgrade(old.engine)
        with old.engine.begin() as connection:
            connection.execute(text("ALTER TABLE client DROP COLUMN exclusions"))
        with self.assertRaisesRegex(migrate.OtherSchema, "client.exclusions.*backup"):
            migrate.ensure_current(old.engine)


def rows_by_reference(made: Database) -> dict[str | None, str]:
    with made.workspace(uuid.uuid4()) as session:
        return {food.reference: food.search_text for food in session.scalars(select(tables.Food))}


class ReferenceFoods(unittest.TestCase):
    def test_what_is_loaded_already_is_not_written_again(self) -> None:
        made = Database(make_database(f"yantai_reference_{os.getpid()}"))
        self.addCleanup(made.close)
        migrate.upgrade(made.engine)
        self.assertEqual(load_reference(made), len(rows("foods.csv")) + 1)
        self.assertEqual(load_reference(made), 0)
        read = rows_by_reference(made)
        with patch.object(reference, "plain", lambda text: text.upper()):
            # The same files, read in another way.
            self.assertEqual(load_reference(made), len(rows("foods.csv")) + 1)
        self.assertNotEqual(rows_by_reference(made), read)
        self.assertEqual(load_reference(made), len(rows("foods.csv")) + 1)
        self.assertEqual(rows_by_reference(made), read)

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
            foods = session.scalars(select(tables.Food).where(tables.Food.__table__.c.stated_kcal > 50)).all()
        off = [
            food.reference
            for food in foods
            if food.reference not in excepted
            and (food.stated.fibre_g or 0) < 1
            and abs(food_composition(food, DEFAULT_RULES)[Nutrient.KCAL] / (food.stated.stated_kcal or 0) - 1) > 0.15
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
