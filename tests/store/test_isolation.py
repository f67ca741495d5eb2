from __future__ import annotations

import unittest
import uuid
from collections.abc import Sequence
from typing import Any

from sqlalchemy import CursorResult, delete, insert, inspect, select, update
from sqlalchemy.exc import DatabaseError, IntegrityError, ProgrammingError
from sqlalchemy.orm import Session

from tests.kitchens import apply, full_kitchen, planned, weigh
from tests.support import database, new_kitchen
from yantai.core.planning.portioning import Portioning
from yantai.store import tables
from yantai.store.tables import Base
from yantai.work.batches.inputs import Withdraw
from yantai.work.common.who import SignedIn

OWNED = [mapper.class_ for mapper in Base.registry.mappers if issubclass(mapper.class_, tables.Owned)]
SHARED = [tables.Food, tables.Measure, tables.YieldFactor, tables.RawCookedPair, tables.EdiblePortion]


def touched(session: Session, statement: Any) -> int:
    """How many rows an update or delete changed."""
    result = session.execute(statement)
    assert isinstance(result, CursorResult)
    return result.rowcount


class SecondWorkspace(unittest.TestCase):
    """A second workspace knows every id of the first, and tries."""

    first: SignedIn
    second: SignedIn
    ids: dict[type[tables.Owned], Sequence[uuid.UUID]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.first = full_kitchen()
        cls.second = new_kitchen()
        with database().workspace(cls.first.workspace_id) as session:
            cls.ids = {table: session.scalars(select(table.id)).all() for table in OWNED}

    def test_every_owned_table_has_rows_to_try_with(self) -> None:
        self.assertEqual([table.__tablename__ for table, ids in self.ids.items() if not ids], [])

    def test_it_reads_none_of_them_by_id(self) -> None:
        for table, ids in self.ids.items():
            with self.subTest(table=table.__tablename__), database().workspace(self.second.workspace_id) as session:
                self.assertEqual(session.scalars(select(table.id).where(table.id.in_(ids))).all(), [])

    def test_it_changes_and_deletes_none_of_them(self) -> None:
        for table, ids in self.ids.items():
            column = next(c for c in inspect(table).columns if c.name != "id" and c.identity is None)
            with self.subTest(table=table.__tablename__), database().workspace(self.second.workspace_id) as session:
                self.assertEqual(
                    touched(session, update(table).where(table.id.in_(ids)).values({column.name: column})), 0
                )
                self.assertEqual(touched(session, delete(table).where(table.id.in_(ids))), 0)

    def test_it_cannot_put_a_row_into_the_first(self) -> None:
        row = {"id": uuid.uuid4(), "workspace_id": self.first.workspace_id, "name": "x", "note": "", "version": 1}
        with (
            self.assertRaisesRegex(ProgrammingError, "row-level security"),
            database().workspace(self.second.workspace_id) as session,
        ):
            session.execute(insert(tables.Recipe).values(row))

    def test_it_cannot_move_its_own_row_into_the_first(self) -> None:
        with (
            self.assertRaisesRegex(ProgrammingError, "row-level security"),
            database().workspace(self.second.workspace_id) as session,
        ):
            session.execute(update(tables.Account).values(workspace_id=self.first.workspace_id))

    def test_its_rows_cannot_refer_to_rows_of_the_first(self) -> None:
        target = {
            "id": uuid.uuid4(),
            "workspace_id": self.second.workspace_id,
            "client_id": self.ids[tables.Client][0],
            "position": 0,
            "slot": "lunch",
            "day_type": "any",
        }
        with (
            self.assertRaisesRegex(IntegrityError, "fk_target"),
            database().workspace(self.second.workspace_id) as session,
        ):
            session.execute(insert(tables.Target).values(target))

    def test_its_lines_cannot_use_a_food_of_the_first(self) -> None:
        with database().workspace(self.first.workspace_id) as session:
            own_food = session.scalars(select(tables.Food.id).where(tables.Food.workspace_id.is_not(None))).one()
        recipe, component = uuid.uuid4(), uuid.uuid4()
        with (
            self.assertRaisesRegex(IntegrityError, "no such food"),
            database().workspace(self.second.workspace_id) as session,
        ):
            session.add(tables.Recipe(id=recipe, workspace_id=self.second.workspace_id, name="x", note="", version=1))
            session.flush()
            session.add(
                tables.Component(
                    id=component,
                    workspace_id=self.second.workspace_id,
                    recipe_id=recipe,
                    position=0,
                    name="x",
                    role="protein",
                    method="none",
                    portioning=Portioning(),
                    density_g_per_ml=1,
                )
            )
            session.flush()
            session.add(
                tables.Line(
                    workspace_id=self.second.workspace_id,
                    component_id=component,
                    position=0,
                    food_id=own_food,
                    purchased_g=1,
                    refuse_share=0,
                    retained_share=1,
                )
            )

    def test_nothing_is_seen_without_a_workspace(self) -> None:
        with database().session("no such token") as session:
            for table in OWNED:
                with self.subTest(table=table.__tablename__):
                    self.assertEqual(session.scalars(select(table.id)).all(), [])


class SharedFoods(unittest.TestCase):
    def test_everyone_reads_them_and_nobody_changes_them(self) -> None:
        kitchen = new_kitchen()
        for table in SHARED:
            with self.subTest(table=table.__tablename__), database().workspace(kitchen.workspace_id) as session:
                self.assertIsNotNone(session.scalar(select(table.id).limit(1)))
                self.assertEqual(touched(session, update(table).values(note="mine")), 0)
                self.assertEqual(touched(session, delete(table)), 0)

    def test_a_workspace_cannot_add_a_shared_food(self) -> None:
        kitchen = new_kitchen()
        measure = {"id": uuid.uuid4(), "name": "cup", "grams": 1, "source": "", "note": ""}
        with (
            self.assertRaisesRegex(ProgrammingError, "row-level security"),
            database().workspace(kitchen.workspace_id) as session,
        ):
            food_id = session.scalar(select(tables.Food.id).limit(1))
            session.execute(insert(tables.Measure).values(measure | {"food_id": food_id}))


class Weighings(unittest.TestCase):
    def test_they_are_neither_changed_nor_deleted(self) -> None:
        kitchen = full_kitchen()
        for statement in (update(tables.Weighing).values(cooked_g=1), delete(tables.Weighing)):
            with (
                self.assertRaisesRegex(DatabaseError, "only added"),
                database().workspace(kitchen.workspace_id) as session,
            ):
                session.execute(statement)

    def test_corrections_and_withdrawals_are_kept_as_events(self) -> None:
        """The newest event of a component counts; what was written before stays as it was."""
        who = new_kitchen()
        plan = planned(who)
        cooked = plan.components[0].cooked_g
        plan = apply(who, plan, weigh(plan, 0, round(cooked)))
        plan = apply(who, plan, weigh(plan, 0, round(cooked * 0.95)))
        plan = apply(who, plan, Withdraw(component_id=plan.components[0].id))
        self.assertIsNone(plan.components[0].weighing)
        with database().workspace(who.workspace_id) as session:
            query = select(tables.Weighing).order_by(tables.Weighing.number)
            events = [(row.cooked_g, row.vessels) for row in session.scalars(query)]
        self.assertEqual([weight for weight, _ in events], [round(cooked), round(cooked * 0.95), None])
        self.assertEqual(events[0][1], [{"gross_g": round(cooked) + 800, "vessel_g": 800}])


class Role(unittest.TestCase):
    def test_the_applications_role_is_bound_by_row_level_security(self) -> None:
        database().refuse_unsafe_role()
