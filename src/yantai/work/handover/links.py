"""Links by which clients open their own page without an account: made, counted and revoked by the coach."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from dataclasses import replace
from datetime import datetime, timedelta

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.store.database import Database, enter_workspace
from yantai.work.accounts.addresses import code_picture, reach
from yantai.work.accounts.sessions import account_behind, hash_token
from yantai.work.common.errors import Collector, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.handover.inputs import LinkInput
from yantai.work.handover.views import ClientPageView, ClientWordView, LinkView, NewLinkView

PAGE = "/my"
FEED = "/api/v1/my/calendar"
NO_LINK = "This link does not work, or no longer. Ask your coach for a new one."


def feed_token(token: str) -> str:
    """The secret of a link's calendar: who knows the link knows it, and not the other way round."""
    return hashlib.sha256(f"calendar of {token}".encode()).hexdigest()


def read_client_page(database: Database, who: SignedIn, client_id: uuid.UUID, now: datetime) -> ClientPageView:
    """The links of a client, the newest first, and words that came by them.

    Raises:
        Missing: there is no such client.
    """
    with database.reading(who.workspace_id) as session:
        return _page(session, client_id, now)


def make_link(
    database: Database, who: SignedIn, client_id: uuid.UUID, payload: LinkInput, lan_address: str, now: datetime
) -> NewLinkView:
    """Make a link. Its address is shown this once; those that were given out before go on working.

    Raises:
        Missing: there is no such client.
        Invalid: the address of the page is none.
    """
    faults = Collector()
    found = reach(payload.address, lan_address, faults)
    faults.check()
    token = secrets.token_urlsafe(24)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _client(session, client_id)
        row = add_link(
            session,
            workspace_id=who.workspace_id,
            client_id=client_id,
            account_id=who.account_id,
            made_by=who.name,
            token=token,
            days=payload.days,
            shows_macros=payload.shows_macros,
            now=now,
        )
        address = link_address(found.address, token)
        made = NewLinkView(
            link=_view(row, now), address=address, code=code_picture(address), is_out_of_reach=found.is_own
        )
        # What is kept of the answer, should it be lost, is without the secret: nobody can read that here.
        keep(replace(made, address="", code=""))
        return made


def add_link(
    session: Session,
    *,
    workspace_id: uuid.UUID,
    client_id: uuid.UUID,
    account_id: uuid.UUID,
    made_by: str,
    token: str,
    days: int,
    shows_macros: bool,
    now: datetime,
) -> tables.ClientLink:
    """A link of this secret, of which only hashes are kept."""
    row = tables.ClientLink(
        workspace_id=workspace_id,
        client_id=client_id,
        account_id=account_id,
        token_hash=hash_token(token),
        feed_hash=hash_token(feed_token(token)),
        shows_macros=shows_macros,
        made_by=made_by,
        made_at=now,
        expires_at=now + timedelta(days=days),
        opened=0,
    )
    session.add(row)
    session.flush()
    return row


def link_address(base: str, token: str) -> str:
    """The address of a client's page. Behind the "#" the secret is told to no server and no log."""
    return f"{base}{PAGE}#{token}"


def revoke_link(
    database: Database, who: SignedIn, client_id: uuid.UUID, link_id: uuid.UUID, now: datetime
) -> ClientPageView:
    """Let a link work no more.

    Raises:
        Missing: there is no such client, or no such link of theirs.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        link = tables.ClientLink
        row = session.scalar(select(link).where(link.id == link_id, link.client_id == client_id).with_for_update())
        if row is None:
            raise Missing("There is no such link. Reload the page for those that are.")
        if row.revoked_at is None:
            row.revoked_at = now
        session.flush()
        return keep(_page(session, client_id, now))


def mark_words_read(database: Database, who: SignedIn, client_id: uuid.UUID, now: datetime) -> ClientPageView:
    """The coach has read what a client wrote.

    Raises:
        Missing: there is no such client.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        word = tables.ClientWord
        unread = word.client_id == client_id, word.read_at.is_(None)
        session.execute(update(word).where(*unread).values(read_at=now))
        return keep(_page(session, client_id, now))


def open_link(database: Database, token: str, now: datetime) -> tuple[SignedIn, tables.ClientLink]:
    """Whose page a link opens: read in the name of the account that made it, for this one client.

    Raises:
        Missing: there is no such link, it has expired, or it was revoked; which of these is not told.
    """
    return _open(database, hash_token(token), now, "token_hash")


def mark_seen(database: Database, who: SignedIn, link: tables.ClientLink, now: datetime) -> None:
    """Note that a link was opened."""
    row = tables.ClientLink
    with database.workspace(who.workspace_id) as session:
        session.execute(update(row).where(row.id == link.id).values(seen_at=now, opened=row.opened + 1))


def open_feed(database: Database, token: str, now: datetime) -> tuple[SignedIn, tables.ClientLink]:
    """The same by the address of its calendar.

    Raises:
        Missing: as for the link.
    """
    return _open(database, hash_token(token), now, "feed_hash")


def _open(database: Database, found: str, now: datetime, by: str) -> tuple[SignedIn, tables.ClientLink]:
    link = tables.ClientLink
    with database.addressed(found) as session:
        row = session.scalar(select(link).where(getattr(link, by) == found))
        if row is None or not _is_open(row, now):
            raise Missing(NO_LINK)
        enter_workspace(session, row.workspace_id)
        who = account_behind(session, row.account_id, now)
        session.expunge(row)
        return who, row


def _is_open(row: tables.ClientLink, now: datetime) -> bool:
    return row.revoked_at is None and row.expires_at > now


def _client(session: Session, client_id: uuid.UUID) -> tables.Client:
    client = session.get(tables.Client, client_id)
    if client is None:
        raise Missing("There is no such client. They may have been removed in another window.")
    return client


def _page(session: Session, client_id: uuid.UUID, now: datetime) -> ClientPageView:
    client, link, word = _client(session, client_id), tables.ClientLink, tables.ClientWord
    links = session.scalars(select(link).where(link.client_id == client_id).order_by(link.made_at.desc(), link.id))
    words = select(word).where(word.client_id == client_id).order_by(word.made_at.desc(), word.id).limit(100)
    return ClientPageView(
        client=client.name,
        links=[_view(row, now) for row in links],
        words=[
            ClientWordView(id=row.id, text=row.text, made_at=row.made_at, read_at=row.read_at)
            for row in session.scalars(words)
        ],
    )


def _view(row: tables.ClientLink, now: datetime) -> LinkView:
    return LinkView(
        id=row.id,
        made_by=row.made_by,
        made_at=row.made_at,
        expires_at=row.expires_at,
        revoked_at=row.revoked_at,
        seen_at=row.seen_at,
        opened=row.opened,
        shows_macros=row.shows_macros,
        is_open=_is_open(row, now),
    )
