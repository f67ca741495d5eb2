"""What tests of the store, the API and the browser share: a database of this run, and kitchens in it.

Each test works in a workspace of its own. Row-level security keeps them apart, so tests need no cleaning up
and no order.
"""

from __future__ import annotations

import atexit
import os
import uuid
from collections.abc import Iterator
from contextlib import ExitStack, closing, contextmanager
from datetime import UTC, datetime

from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher
from sqlalchemy import Engine, create_engine, make_url, select, text

from yantai.demo.scenario import load_demo
from yantai.settings import Settings
from yantai.store import migrate, tables
from yantai.store.database import Database
from yantai.work.accounts import sessions
from yantai.work.accounts.sessions import create_workspace
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import load_reference

PASSWORD = "a long test password"
# The same checking at the least cost: most tests sign somebody in, and none is about how long that takes.
sessions.passwords = PasswordHash((Argon2Hasher(time_cost=1, memory_cost=8, parallelism=1),))
NOW = datetime(2026, 11, 24, 9, 30, tzinfo=UTC)
DEMO_DAY = NOW.date()


_ends = ExitStack()
"""What is closed and dropped when the run ends."""
atexit.register(lambda: _ends.close())


def _cluster() -> Engine:
    outer = os.environ.get("YANTAI_TEST_DATABASE_URL")
    if outer is None:
        raise RuntimeError("Run tests with ./yantai test [NAME ...], which starts the test cluster.")
    return create_engine(outer, isolation_level="AUTOCOMMIT")


def _url(name: str) -> str:
    return make_url(os.environ["YANTAI_TEST_DATABASE_URL"]).set(database=name).render_as_string(hide_password=False)


def make_database(name: str, template: str = "template1") -> str:
    """A database of this name in the test cluster, as its template is, dropped when the run ends; its URL."""
    engine = _cluster()

    def drop() -> None:
        with engine.connect() as connection:
            connection.execute(text(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)'))
        engine.dispose()

    drop()
    with engine.connect() as connection:
        connection.execute(text(f'CREATE DATABASE "{name}" TEMPLATE "{template}"'))
    engine.dispose()
    _ends.callback(drop)
    return _url(name)


RUN = os.environ.get("YANTAI_TEST_RUN")
"""The run of many processes that this one is of. They copy what each would take seconds to fill."""
MINE = f"yantai_test_{os.getpid()}"


def reference(made: Database) -> None:
    migrate.upgrade(made.engine)
    load_reference(made)


def demo(made: Database) -> None:
    load_demo(made, DEMO_DAY)


FILLED_WITH = [reference]
"""What stands in the database of a run from the beginning, in this order; browser tests add the demo."""


def _fill(made: Database) -> None:
    for fill in FILLED_WITH:
        fill(made)


def _filled() -> str:
    """A database of this process that is filled; the first process of the run that needs it fills one for all."""
    if RUN is None:
        url = make_database(MINE)
        with closing(Database(url)) as made:
            _fill(made)
        return url
    name = "_".join(["yantai_template", RUN, *(fill.__name__ for fill in FILLED_WITH)])
    engine = _cluster()
    with engine.connect() as connection:
        # One fills, the others wait; and none copies while another does, which PostgreSQL refuses.
        connection.execute(text("SELECT pg_advisory_lock(20261124)"))
        known = set(connection.scalars(text("SELECT datname FROM pg_database WHERE datname LIKE 'yantai_template%'")))
        if name not in known:
            for left in known:
                if not left.startswith(f"yantai_template_{RUN}_"):
                    connection.execute(text(f'DROP DATABASE "{left}" WITH (FORCE)'))
            connection.execute(text(f'CREATE DATABASE "{name}_filling"'))
            with closing(Database(_url(f"{name}_filling"))) as made:
                _fill(made)
            connection.execute(text(f'ALTER DATABASE "{name}_filling" RENAME TO "{name}"'))
        url = make_database(MINE, name)
    engine.dispose()
    return url


_database: Database | None = None


def database() -> Database:
    """The migrated database of this run, with the reference foods."""
    global _database
    if _database is None:
        _database = Database(_filled())
        _ends.callback(_database.close)
    return _database


@contextmanager
def in_cluster(url: str) -> Iterator[None]:
    """Work in a database of another cluster meanwhile, which may be ended without ending the tests beside."""
    global _database, _ends
    usual, usual_url, usual_ends = _database, os.environ["YANTAI_TEST_DATABASE_URL"], _ends
    os.environ["YANTAI_TEST_DATABASE_URL"] = url
    _database, _ends = None, ExitStack()
    try:
        yield
    finally:
        _ends.close()
        os.environ["YANTAI_TEST_DATABASE_URL"] = usual_url
        _database, _ends = usual, usual_ends


def settings(*, demo: bool = False) -> Settings:
    url = database().engine.url.render_as_string(hide_password=False)
    return Settings(database_url=url, demo=demo, hosts="testserver 127.0.0.1")


def new_email() -> str:
    return f"coach-{uuid.uuid4().hex[:12]}@kitchen.example"


def new_kitchen(email: str | None = None) -> SignedIn:
    """A new workspace with its coach, signed in without a password."""
    email = email or new_email()
    workspace_id = create_workspace(database(), name="Kitchen", email=email, coach="Test Coach", password=PASSWORD)
    with database().workspace(workspace_id) as session:
        account_id = session.scalars(select(tables.Account.id)).one()
    return SignedIn(workspace_id=workspace_id, account_id=account_id, name="Test Coach", csrf_token="")


def second_coach(who: SignedIn, name: str, email: str | None = None) -> SignedIn:
    """Somebody else of the same kitchen, with the password that all have here."""
    with database().workspace(who.workspace_id) as session:
        account = tables.Account(
            workspace_id=who.workspace_id,
            email=email or new_email(),
            name=name,
            password_hash=sessions.passwords.hash(PASSWORD),
        )
        session.add(account)
        session.flush()
        return SignedIn(workspace_id=who.workspace_id, account_id=account.id, name=name, csrf_token="")
