"""The log replayed over a batch as it was made gives the rows as they are."""

from __future__ import annotations

import unittest
import uuid
from typing import Any

from sqlalchemy import delete, insert, select, update
from sqlalchemy.orm import Session

from tests.api.batches.test_sequences import Sequence
from tests.support import NOW, database
from tests.volume import volume
from yantai.store import tables
from yantai.work.batches import loading, log
from yantai.work.batches.commands import apply_changes, read_history, take_back
from yantai.work.batches.inputs import TakeBack
from yantai.work.common.errors import WorkError

SEQUENCES, STEPS = volume(4, 1000), volume(16, 20)
GONE_AND_BACK = (tables.Line, tables.ContainerClass, tables.Pin)
AS_IT_GOES = {"version", "changed_at", "changed_by", "packed"}
"""What of a batch says when and how often it was changed."""


def rows_of(session: Session, batch_id: uuid.UUID) -> dict[str, list[dict[str, Any]]]:
    """Every row of a batch, by table."""
    component, row = tables.Component, tables.ContainerClass
    components = select(component.id).where(component.batch_id == batch_id)
    classes = select(row.id).where(row.batch_id == batch_id)
    queries = {
        tables.Batch: tables.Batch.id == batch_id,
        component: component.batch_id == batch_id,
        tables.Line: tables.Line.component_id.in_(components),
        row: row.batch_id == batch_id,
        tables.Pin: tables.Pin.container_class_id.in_(classes),
        tables.Weighing: tables.Weighing.batch_id == batch_id,
    }
    found = {}
    for table, which in queries.items():
        columns = table.__table__.columns
        read = session.execute(select(*columns).where(which)).mappings()
        found[table.__tablename__] = [dict(each) for each in read]
    return found


def told(rows: dict[str, list[dict[str, Any]]]) -> dict[str, list[str]]:
    """Rows without what is new each time: ids of pins and weighings, times, and the number of changes."""
    new = {"pin": {"id"}, "weighing": {"id", "number", "weighed_at"}, "batch": AS_IT_GOES, "line": {"added_at"}}
    return {
        table: sorted(repr(sorted((key, value) for key, value in row.items() if key not in new.get(table, ())))
                      for row in each)
        for table, each in rows.items()
    }  # fmt: skip


def in_order(weighings: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return sorted(weighings, key=lambda row: row["number"])


class Replay(unittest.TestCase):
    def sequence(self, seed: int) -> tuple[Sequence, dict[str, list[dict[str, Any]]]]:
        """Changes by chance, some of them taken back and made again."""
        sequence = Sequence(seed)
        batch_id = sequence.plan.batch.id
        with database().workspace(sequence.who.workspace_id) as session:
            made = rows_of(session, batch_id)
        for _ in range(STEPS):
            steps = read_history(database(), sequence.who, batch_id, 0).steps
            step = sequence.random.choice([None, None, steps.undo, steps.redo])
            if step is None:
                sequence.step()
                continue
            wish = TakeBack(command_id=uuid.uuid4(), of=step.id)
            sequence.plan = take_back(database(), sequence.who, batch_id, wish, NOW).plan
        return sequence, made

    def test_it_gives_the_rows_as_they_are(self) -> None:
        for seed in range(500, 500 + SEQUENCES):
            sequence, made = self.sequence(seed)
            batch_id, who = sequence.plan.batch.id, sequence.who
            with self.subTest(seed=seed), database().trial(who.workspace_id) as session:
                entries = list(log.read_log(session, batch_id))
                rows = rows_of(session, batch_id)
                self.back_to(session, sequence, made)
                session.expire_all()
                loaded = loading.load(session, batch_id)
                for entry in entries:
                    if entry.payload is None:
                        continue
                    changes = log.CHANGES.from_json(entry.payload)
                    loaded, _ = apply_changes(
                        session, who, loaded, changes, entry.made_at, confirmed=True, command_id=entry.id,
                        happened_at=entry.happened_at,
                    )  # fmt: skip
                replayed = rows_of(session, batch_id)
                # Weighings are only ever added: those of the log stand before those of its replay.
                first = max((row["number"] for row in rows["weighing"]), default=0)
                added = [row for row in in_order(replayed["weighing"]) if row["number"] > first]
                before = {row["component_id"] for row in rows["weighing"]}
                replayed["weighing"] = added[len(before) :]
                self.assertEqual(told(replayed), told(rows))

    def back_to(self, session: Session, sequence: Sequence, made: dict[str, list[dict[str, Any]]]) -> None:
        """Bring the rows of a batch to where they were when it was made."""
        batch_id, who = sequence.plan.batch.id, sequence.who
        for component_id in session.scalars(
            select(tables.Weighing.component_id).where(tables.Weighing.batch_id == batch_id).distinct()
        ).all():
            row = {"batch_id": batch_id, "component_id": component_id, "weighed_at": NOW, "cooked_g": None}
            mine = {"workspace_id": who.workspace_id, "account_id": who.account_id, "vessels": []}
            session.execute(insert(tables.Weighing.__table__), row | mine)  # type: ignore[arg-type]
        session.execute(delete(tables.ContainerClass).where(tables.ContainerClass.batch_id == batch_id))
        components = [row["id"] for row in made["component"]]
        session.execute(delete(tables.Line).where(tables.Line.component_id.in_(components)))
        for row in made["component"]:
            session.execute(update(tables.Component).where(tables.Component.id == row["id"]).values(row))
        own = {name: value for name, value in made["batch"][0].items() if name not in AS_IT_GOES}
        session.execute(update(tables.Batch).where(tables.Batch.id == batch_id).values(own))
        for table in GONE_AND_BACK:
            if made[table.__tablename__]:
                session.execute(insert(table.__table__), made[table.__tablename__])  # type: ignore[arg-type]

    def test_everything_taken_back_is_the_batch_as_it_was_made(self) -> None:
        sequence, made = self.sequence(400)
        who, batch_id = sequence.who, sequence.plan.batch.id
        while (step := read_history(database(), who, batch_id, 0).steps.undo) is not None:
            try:
                take_back(database(), who, batch_id, TakeBack(command_id=uuid.uuid4(), of=step.id), NOW)
            except WorkError as error:
                self.fail(f"{step.words}: {error}")
        with database().workspace(who.workspace_id) as session:
            rows = rows_of(session, batch_id)
        for table in ("container_class", "pin", "component", "line"):
            self.assertEqual(told({table: rows[table]}), told({table: made[table]}))


if __name__ == "__main__":
    unittest.main()
