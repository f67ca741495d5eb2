"""The calendar that is read by whoever knows its address: one for a workspace, made anew and ended by the coach."""

from __future__ import annotations

import secrets
from dataclasses import replace
from datetime import datetime

from sqlalchemy import delete, select, update

from yantai.store import tables
from yantai.store.database import Database, enter_workspace
from yantai.work.accounts.addresses import reach
from yantai.work.accounts.inputs import FeedInput
from yantai.work.accounts.sessions import account_behind, hash_token
from yantai.work.accounts.views import FeedAddressView, FeedView
from yantai.work.common.errors import Collector, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn

_PATH = "/api/v1/calendar"


def make_feed(
    database: Database, who: SignedIn, payload: FeedInput, lan_address: str, now: datetime
) -> FeedAddressView:
    """Make a new address, which is shown once; one that was given out before works no more.

    Raises:
        Invalid: the address of the page is none.
    """
    faults = Collector()
    found = reach(payload.address, lan_address, faults)
    faults.check()
    token = secrets.token_urlsafe(32)
    feed = tables.CalendarFeed
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        # Of two windows that ask at once the second waits, and its address is the one that counts.
        session.execute(select(tables.Workspace.id).with_for_update())
        session.execute(delete(feed))
        session.add(
            feed(workspace_id=who.workspace_id, account_id=who.account_id, token_hash=hash_token(token), made_at=now)
        )
        made = FeedAddressView(address=f"{found.address}{_PATH}/{token}.ics", is_out_of_reach=found.is_own, made_at=now)
        # What is kept of the answer, should it be lost, is without the secret: nobody can read that here.
        keep(replace(made, address=""))
        return made


def end_feed(database: Database, who: SignedIn) -> None:
    """Let the address work no more."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        session.execute(delete(tables.CalendarFeed))
        keep(None)


def feed_state(database: Database, who: SignedIn) -> FeedView | None:
    """When the address was made and last read; None where there is none."""
    with database.reading(who.workspace_id) as session:
        row = session.scalar(select(tables.CalendarFeed))
        return None if row is None else FeedView(made_at=row.made_at, read_at=row.read_at)


def open_feed(database: Database, token: str, now: datetime) -> SignedIn:
    """Whose calendar is read by an address: the account that made it.

    Raises:
        Missing: there is no such address, or it was ended.
    """
    feed = tables.CalendarFeed
    with database.addressed(hash_token(token)) as session:
        row = session.scalar(select(feed))
        if row is None:
            raise Missing("There is no calendar at this address. The coach can make a new address in Settings.")
        enter_workspace(session, row.workspace_id)
        session.execute(update(feed).where(feed.id == row.id).values(read_at=now))
        return account_behind(session, row.account_id, now)
