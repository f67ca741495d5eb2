"""Connections and transactions. A transaction belongs to one workspace, and the database enforces it."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from sqlalchemy import Connection, Engine, create_engine, event, make_url, text
from sqlalchemy.orm import Session, SessionTransaction

WORKSPACE = "app.workspace_id"
SIGN_IN_EMAIL = "app.sign_in_email"
SESSION_HASH = "app.session_hash"
PAIRING_HASH = "app.pairing_hash"
ADDRESS_HASH = "app.feed_hash"
LOADING_REFERENCE = "app.loading_reference"
RIGHTS = "app.rights"


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """Connections that are kept open, and how long [s] a statement, waiting for a lock, and a transaction in which
    nothing happens may take before the database ends them; 0 is for ever."""

    connections: int = 10
    statement_s: float = 30.0
    lock_s: float = 15.0
    idle_s: float = 300.0

    @property
    def options(self) -> str:
        """As PostgreSQL takes them when a connection begins."""
        waits = {
            "statement_timeout": self.statement_s,
            "lock_timeout": self.lock_s,
            "idle_in_transaction_session_timeout": self.idle_s,
        }
        return " ".join(f"-c {name}={round(seconds * 1000)}" for name, seconds in waits.items())


UNHURRIED = Limits(statement_s=0, idle_s=0)
"""For migrations and loading: a statement may take as long as it takes, but none waits long for a lock."""


_RIGHTS: ContextVar[frozenset[str] | None] = ContextVar("rights", default=None)


def limit_to(rights: frozenset[str] | None) -> None:
    """Let transactions do no more than these rights say from here on, in this task and those it starts; None lifts it.

    The policies of the tables keep to it.
    """
    _RIGHTS.set(rights)


@contextmanager
def unlimited() -> Iterator[None]:
    """What the application does by itself meanwhile is not bound by the rights of whoever caused it."""
    rights = _RIGHTS.get()
    limit_to(None)
    try:
        yield
    finally:
        limit_to(rights)


class UnsafeRole(Exception):
    """The database role would bypass row-level security."""


class Database:
    """The application's one way to PostgreSQL.

    Each method opens a transaction that commits at its end, or rolls back when the block raises. What
    the transaction may see is told to PostgreSQL as a setting, and its row-level policies keep to it.
    """

    def __init__(self, url: str, limits: Limits = Limits()) -> None:
        plain = make_url(url)
        if plain.drivername == "postgresql":
            plain = plain.set(drivername="postgresql+psycopg")
        self.engine: Engine = create_engine(
            plain,
            pool_size=limits.connections,
            max_overflow=limits.connections,
            pool_pre_ping=True,
            hide_parameters=True,
            connect_args={"options": limits.options},
        )

    @contextmanager
    def workspace(self, workspace_id: uuid.UUID) -> Iterator[Session]:
        """A transaction that sees one workspace and the shared reference foods."""
        with self._transaction({WORKSPACE: str(workspace_id)}) as session:
            yield session

    @contextmanager
    def reading(self, workspace_id: uuid.UUID) -> Iterator[Session]:
        """A transaction that sees one workspace as it is at one moment, and cannot change it."""
        engine = self.engine.execution_options(isolation_level="REPEATABLE READ", postgresql_readonly=True)
        with (
            Session(engine, expire_on_commit=False, info={"settings": {WORKSPACE: str(workspace_id)}}) as session,
            session.begin(),
        ):
            yield session

    @contextmanager
    def trial(self, workspace_id: uuid.UUID) -> Iterator[Session]:
        """A transaction of one workspace that is always rolled back: to see what a change would do."""
        with Session(self.engine, info={"settings": {WORKSPACE: str(workspace_id)}}) as session:
            yield session

    @contextmanager
    def sign_in(self, email: str) -> Iterator[Session]:
        """A transaction that sees the account with this e-mail address, whose workspace is yet unknown."""
        with self._transaction({SIGN_IN_EMAIL: email}) as session:
            yield session

    @contextmanager
    def session(self, token_hash: str) -> Iterator[Session]:
        """A transaction that sees the login session with this token hash."""
        with self._transaction({SESSION_HASH: token_hash}) as session:
            yield session

    @contextmanager
    def pairing(self, code_hash: str) -> Iterator[Session]:
        """A transaction that sees the pairing with this hash of a code, whose workspace is yet unknown."""
        with self._transaction({PAIRING_HASH: code_hash}) as session:
            yield session

    @contextmanager
    def addressed(self, token_hash: str) -> Iterator[Session]:
        """A transaction that sees what is read by whoever knows its address, a calendar feed or a client's link: the
        row with this hash of it, whose workspace is yet unknown."""
        with self._transaction({ADDRESS_HASH: token_hash}) as session:
            yield session

    @contextmanager
    def loading_reference(self) -> Iterator[Session]:
        """A transaction that may write the shared reference rows."""
        with self._transaction({LOADING_REFERENCE: "on"}) as session:
            yield session

    def refuse_unsafe_role(self) -> None:
        """Make sure that row-level security binds this connection.

        Raises:
            UnsafeRole: the role is a superuser or may bypass row-level security.
        """
        query = text("SELECT rolname, rolsuper OR rolbypassrls AS unsafe FROM pg_roles WHERE rolname = current_user")
        with self.engine.connect() as connection:
            role = connection.execute(query).one()
        if role.unsafe:
            raise UnsafeRole(
                f"the database role “{role.rolname}” is a superuser or bypasses row-level security, so "
                "workspaces would not be kept apart. Connect with a role that does neither, made with: "
                "CREATE ROLE yantai LOGIN PASSWORD '...'"
            )

    def close(self) -> None:
        """Close all connections."""
        self.engine.dispose()

    @contextmanager
    def _transaction(self, settings: Mapping[str, str]) -> Iterator[Session]:
        with (
            Session(self.engine, expire_on_commit=False, info={"settings": settings}) as session,
            session.begin(),
        ):
            yield session


def enter_workspace(session: Session, workspace_id: uuid.UUID) -> None:
    """Let a transaction that found out its workspace see that workspace from here on."""
    session.execute(text("SELECT set_config(:name, :value, true)"), {"name": WORKSPACE, "value": str(workspace_id)})


@event.listens_for(Session, "after_begin")
def _tell_settings(session: Session, _transaction: SessionTransaction, connection: Connection) -> None:
    rights = _RIGHTS.get()
    limited = {} if rights is None else {RIGHTS: " ".join(sorted(rights)) or "none"}
    for name, value in (session.info.get("settings", {}) | limited).items():
        connection.execute(text("SELECT set_config(:name, :value, true)"), {"name": name, "value": value})
