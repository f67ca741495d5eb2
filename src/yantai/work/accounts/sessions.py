"""Workspaces, accounts and login sessions."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher
from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from yantai.core.rights import Right
from yantai.core.speaking import Spoken
from yantai.store import tables
from yantai.store.database import Database, enter_workspace
from yantai.work.accounts.views import AccountView
from yantai.work.common.errors import Collector, Invalid, NotSignedIn
from yantai.work.common.who import SignedIn

SESSION_LASTS = timedelta(days=14)
SEEN_EVERY = timedelta(minutes=5)
SHORTEST_PASSWORD = 10

passwords = PasswordHash((Argon2Hasher(),))
"""How passwords are kept. Checking one is slow on purpose; tests set a cheaper one."""


# Verified against when there is no such account, so that both answers take the same time.
_nobody = passwords.hash(secrets.token_urlsafe(16))


def create_workspace(database: Database, *, name: str, email: str, coach: str, password: str) -> uuid.UUID:
    """Make a workspace with its coach's account; the workspace's id.

    Raises:
        Invalid: the password is too short, a text is empty, or the address has an account already.
    """
    faults = Collector()
    email = faults.text("/email", email, what="an e-mail address").casefold()
    coach = faults.text("/name", coach, what="a name")
    if "@" not in email:
        faults.add("/email", "an e-mail address has an @ in it")
    if len(password) < SHORTEST_PASSWORD:
        faults.add("/password", f"the password has {len(password)} characters; give {SHORTEST_PASSWORD} or more")
    faults.check()
    if account_exists(database, email):
        raise Invalid.at("/email", f"{email} has an account already.")
    workspace_id = uuid.uuid4()
    with database.workspace(workspace_id) as session:
        session.add(tables.Workspace(id=workspace_id, name=name))
        session.flush()
        account = tables.Account(
            workspace_id=workspace_id, email=email, name=coach, password_hash=passwords.hash(password)
        )
        session.add(account)
    return workspace_id


def account_exists(database: Database, email: str) -> bool:
    """Somebody has an account with this address."""
    with database.sign_in(email) as session:
        return session.scalar(select(tables.Account.id)) is not None


def sign_in(database: Database, email: str, password: str, now: datetime) -> tuple[str, SignedIn]:
    """Check credentials and open a session: its token, which is not kept, and who signed in.

    Raises:
        NotSignedIn: address or password are wrong; which of the two is not said.
    """
    email = email.strip().casefold()
    with database.sign_in(email) as session:
        account = session.scalar(select(tables.Account).where(tables.Account.email == email))
    fits = passwords.verify(password, account.password_hash if account else _nobody)
    if account is None or not fits:
        raise NotSignedIn("This address and password do not belong together. Check both and try again.")
    with database.workspace(account.workspace_id) as session:
        session.execute(delete(tables.LoginSession).where(tables.LoginSession.expires_at < now))
        token, csrf_token = open_session(session, account.workspace_id, account.id, now)
    return token, _signed_in(account, csrf_token, now + SESSION_LASTS)


def open_session(
    session: Session, workspace_id: uuid.UUID, account_id: uuid.UUID, now: datetime, **device: Any
) -> tuple[str, str]:
    """A new session of an account: its token, which is not kept, and the secret that its writes carry. `device` says
    whose it is where a helper holds it."""
    token, csrf_token = secrets.token_urlsafe(32), secrets.token_urlsafe(32)
    session.add(
        tables.LoginSession(
            workspace_id=workspace_id,
            account_id=account_id,
            token_hash=hash_token(token),
            csrf_token=csrf_token,
            expires_at=now + SESSION_LASTS,
            **device,
        )
    )
    session.flush()
    return token, csrf_token


def resume(database: Database, token: str, now: datetime) -> SignedIn:
    """Who holds this session token.

    Raises:
        NotSignedIn: there is no such session, or it is over.
    """
    with database.session(hash_token(token)) as session:
        login = session.scalar(select(tables.LoginSession))
        if login is None or login.expires_at <= now:
            raise NotSignedIn("Your session is over. Sign in again; nothing you saved is lost.")
        enter_workspace(session, login.workspace_id)
        account = session.scalars(select(tables.Account).where(tables.Account.id == login.account_id)).one()
        if login.seen_at is None or now - login.seen_at > SEEN_EVERY:
            session.execute(update(tables.LoginSession).where(tables.LoginSession.id == login.id).values(seen_at=now))
    who = _signed_in(account, login.csrf_token, login.expires_at)
    if login.rights is None:
        return who
    return replace(who, name=login.helper or "", rights=frozenset(Right(right) for right in login.rights))


def _signed_in(account: tables.Account, csrf_token: str, until: datetime) -> SignedIn:
    return SignedIn(
        workspace_id=account.workspace_id,
        account_id=account.id,
        name=account.name,
        csrf_token=csrf_token,
        until=until,
        units=Spoken(mass=account.mass_unit, energy=account.energy_unit, temperature=account.temperature_unit),
    )


def account_behind(session: Session, account_id: uuid.UUID, now: datetime) -> SignedIn:
    """An account for whom something is read without a session: it can send nothing."""
    account = session.scalars(select(tables.Account).where(tables.Account.id == account_id)).one()
    return _signed_in(account, "", now)


def sign_out(database: Database, who: SignedIn, token: str) -> None:
    """End this session."""
    with database.workspace(who.workspace_id) as session:
        session.execute(delete(tables.LoginSession).where(tables.LoginSession.token_hash == hash_token(token)))


def account_view(database: Database, who: SignedIn) -> AccountView:
    """The signed-in account for the page's header."""
    with database.reading(who.workspace_id) as session:
        account = session.scalars(select(tables.Account).where(tables.Account.id == who.account_id)).one()
        workspace = session.scalars(select(tables.Workspace)).one()
        return AccountView(
            name=who.name,
            # A helper's drafts and what waits are theirs, not those of the account behind them.
            email=account.email if who.rights is None else f"{who.name} for {account.email}",
            session_ends=who.until,
            rights=None if who.rights is None else sorted(who.rights),
            workspace=workspace.name,
            csrf_token=who.csrf_token,
            mass_unit=account.mass_unit,
            temperature_unit=account.temperature_unit,
            energy_unit=account.energy_unit,
            energy_rule=workspace.energy_rule,
            carbohydrate=workspace.carbohydrate,
            time_zone=workspace.time_zone,
            currency=workspace.currency,
        )


def hash_token(token: str) -> str:
    """What is kept of a session token. It is random and long, so a plain hash cannot be searched."""
    return hashlib.sha256(token.encode()).hexdigest()
