"""A read is one transaction that sees one moment, and changes nothing."""

from __future__ import annotations

import unittest

from sqlalchemy import select, update
from sqlalchemy.exc import InternalError

from tests.kitchens import planned
from tests.support import database, new_kitchen
from yantai.store import tables


class Reading(unittest.TestCase):
    def setUp(self) -> None:
        self.who = new_kitchen()
        planned(self.who)

    def test_it_sees_one_moment_whatever_is_written_meanwhile(self) -> None:
        names = select(tables.Client.name).order_by(tables.Client.name)
        with database().reading(self.who.workspace_id) as session:
            before = session.scalars(names).all()
            with database().workspace(self.who.workspace_id) as writing:
                writing.execute(update(tables.Client).values(name="Somebody else"))
            self.assertEqual(session.scalars(names).all(), before)
        with database().reading(self.who.workspace_id) as session:
            self.assertEqual(set(session.scalars(names)), {"Somebody else"})

    def test_it_changes_nothing(self) -> None:
        with self.assertRaises(InternalError), database().reading(self.who.workspace_id) as session:
            session.execute(update(tables.Client).values(name="Somebody else"))

    def test_it_leaves_no_connection_that_cannot_write(self) -> None:
        for _ in range(30):
            with database().reading(self.who.workspace_id) as session:
                session.scalars(select(tables.Client.id)).all()
            with database().workspace(self.who.workspace_id) as session:
                session.execute(update(tables.Client).values(note="written"))

    def test_it_sees_its_own_workspace_only(self) -> None:
        with database().reading(new_kitchen().workspace_id) as session:
            self.assertEqual(session.scalars(select(tables.Client.name)).all(), [])
