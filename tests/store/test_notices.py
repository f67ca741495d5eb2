"""Word of changes: told on commit, to all who listen, and not when a transaction is rolled back."""

from __future__ import annotations

import asyncio
import queue
import unittest
import uuid

from sqlalchemy import text

from tests.kitchens import apply, planned
from tests.support import database, new_email, new_kitchen
from yantai.api.events import BatchEvents
from yantai.store.notices import BatchChanged, Listener, announce
from yantai.work.batches.inputs import SetContainers

PATIENCE_S = 20


class Notices(unittest.TestCase):
    def setUp(self) -> None:
        self.heard: queue.Queue[BatchChanged] = queue.Queue()
        self.missed: queue.Queue[None] = queue.Queue()
        listener = Listener(database().engine, self.heard.put, lambda: self.missed.put(None))
        listener.start()
        self.addCleanup(listener.stop)
        self.who = new_kitchen(new_email())
        self.until_it_listens()

    def until_it_listens(self) -> None:
        """Other tests may speak at the same time, so only what was said here counts."""
        sign = uuid.uuid4()
        for _ in range(200):
            with database().workspace(self.who.workspace_id) as session:
                announce(session, sign, 1, "here")
            try:
                while self.heard.get(timeout=0.1).batch_id != str(sign):
                    pass
            except queue.Empty:
                continue
            return
        self.fail("nothing was heard")

    def next_of(self, batch_id: uuid.UUID) -> BatchChanged:
        while True:
            notice = self.heard.get(timeout=PATIENCE_S)
            if notice.batch_id == str(batch_id):
                return notice

    def test_a_committed_change_is_heard_with_its_version_and_who(self) -> None:
        plan = planned(self.who)
        row = plan.rows[0]
        apply(self.who, plan, SetContainers(row_id=row.id, count=7, capacity_ml=row.capacity_ml))
        notice = self.next_of(plan.batch.id)
        self.assertEqual((notice.version, notice.by), (plan.batch.version + 1, self.who.name))

    def test_a_lost_connection_is_made_anew_and_says_that_something_may_be_missed(self) -> None:
        ended = (
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
            "WHERE datname = current_database() AND query LIKE 'LISTEN batch%'"
        )
        with database().engine.connect() as connection:
            self.assertTrue(connection.execute(text(ended)).all())
        self.missed.get(timeout=PATIENCE_S)
        self.until_it_listens()

    def test_a_change_that_is_rolled_back_tells_nothing(self) -> None:
        lost, kept = uuid.uuid4(), uuid.uuid4()
        with self.assertRaises(ZeroDivisionError), database().workspace(self.who.workspace_id) as session:
            announce(session, lost, 1, "x")
            raise ZeroDivisionError
        with database().workspace(self.who.workspace_id) as session:
            announce(session, kept, 1, "x")
        seen: list[str] = []
        while not seen or seen[-1] != str(kept):
            seen.append(self.heard.get(timeout=PATIENCE_S).batch_id)
        self.assertNotIn(str(lost), seen)


class Events(unittest.TestCase):
    def test_a_window_hears_of_its_own_batch_only(self) -> None:
        who = new_kitchen(new_email())
        mine, others = uuid.uuid4(), uuid.uuid4()

        async def look() -> list[str]:
            events = BatchEvents(database().engine)
            events.start()
            stream = events.stream(BatchChanged(batch_id=str(mine), version=1, by="x"))
            found = [await anext(stream)]
            reader = asyncio.ensure_future(anext(stream))
            for version in range(2, 400):
                with database().workspace(who.workspace_id) as session:
                    announce(session, others, version, "y")
                    announce(session, mine, version, "y")
                done, _ = await asyncio.wait([reader], timeout=0.1)
                if done:
                    break
            found.append(await reader)
            await stream.aclose()
            await asyncio.to_thread(events.stop)
            return found

        first, second = asyncio.run(look())
        self.assertIn('"version": 1', first)
        self.assertIn(str(mine), second)
        self.assertNotIn(str(others), second)
