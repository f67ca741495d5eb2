"""The outbox: what shall go is kept, and goes by the queue; what could not go says why."""

from __future__ import annotations

import uuid
from datetime import datetime
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.messages.templates import MessageState, Template, check_template
from yantai.devices.post_office import arrived
from yantai.store import queue, tables
from yantai.store.database import Database
from yantai.work.accounts.addresses import reach
from yantai.work.common.errors import Collector, Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.forms.made import is_open, load_form
from yantai.work.outbox.drafts import NO_ADDRESS
from yantai.work.outbox.inputs import MessageInput, SendInput
from yantai.work.outbox.views import ArrivedView, MessageView, OutboxView

SEND_MESSAGE = "send_message"
MOST_SHOWN = 300
_AGAIN = (MessageState.REFUSED, MessageState.UNSURE, MessageState.SET_ASIDE, MessageState.WAITING)
_DOMAIN = "yantai.invalid"


def read_outbox(database: Database, who: SignedIn, *, mail_url: str, post_office: str) -> OutboxView:
    """The newest messages."""
    with database.reading(who.workspace_id) as session:
        return _outbox(session, mail_url, post_office)


def send_messages(
    database: Database, who: SignedIn, payload: SendInput, lan_address: str, now: datetime
) -> list[MessageView]:
    """Keep messages and put them into the queue, all of them or none.

    Raises:
        Missing: there is no such client, batch or form.
        Invalid: somebody has no e-mail address, or words of a message make no sense.
    """
    faults = Collector()
    base = reach(payload.address, lan_address, faults).address
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        rows = [
            _row(session, who, faults, f"/messages/{index}", one, now) for index, one in enumerate(payload.messages)
        ]
        faults.check()
        for row in rows:
            row.base_address, row.link_days = base, payload.link_days
            session.add(row)
        session.flush()
        _put(session, who, rows)
        return keep([message_view(row) for row in rows])


def send_again(database: Database, who: SignedIn, message_id: uuid.UUID) -> MessageView:
    """Try a message again, now: one that was refused, that waits for a next try, or of which nobody knows whether it
    went.

    Raises:
        Missing: there is no such message.
        Invalid: it was sent, or is being sent.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _load(session, message_id)
        if row.state not in _AGAIN:
            raise Invalid("This one is being sent, or has gone. Reload the page.")
        row.state, row.trouble, row.attempts = MessageState.WAITING, "", 0
        session.flush()
        _put(session, who, [row])
        return keep(message_view(row))


def set_aside(database: Database, who: SignedIn, message_id: uuid.UUID) -> MessageView:
    """Let a message not go; it stays to be read.

    Raises:
        Missing: there is no such message.
        Invalid: it was sent, or is being sent.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _load(session, message_id)
        if row.state not in _AGAIN:
            raise Invalid("This one is being sent, or has gone. Reload the page.")
        row.state, row.trouble = MessageState.SET_ASIDE, ""
        return keep(message_view(row))


def read_post_office(database: Database, who: SignedIn, folder: str) -> list[ArrivedView]:
    """What arrived at the simulated post office of what this kitchen sent; nothing of another's."""
    found = {} if not folder else {one: _id_of(one.message_id) for one in arrived(Path(folder))}
    with database.reading(who.workspace_id) as session:
        ids = [id_ for id_ in found.values() if id_ is not None]
        own = set(session.scalars(select(tables.Message.id).where(tables.Message.id.in_(ids))))
    return [
        ArrivedView(id=id_, to=one.to, sender=one.sender, subject=one.subject, body=one.body, at=one.at)
        for one, id_ in found.items()
        if id_ is not None and id_ in own
    ]


def message_id_of(row: tables.Message) -> str:
    """The name of a message on its way: the same each time it is tried, so that a server that has it knows it."""
    return f"<{row.id}@{_DOMAIN}>"


def _id_of(message_id: str) -> uuid.UUID | None:
    name, _, domain = message_id.partition("@")
    try:
        return uuid.UUID(name) if domain == _DOMAIN else None
    except ValueError:
        return None


def _row(
    session: Session, who: SignedIn, faults: Collector, pointer: str, one: MessageInput, now: datetime
) -> tables.Message:
    subject = " ".join(one.subject.split())
    with faults.located(pointer):
        check_template(one.kind, Template(subject=subject, body=one.body))
    name, address, client_id = _to(session, one, now)
    if not address:
        faults.add(f"{pointer}/client_id", NO_ADDRESS)
    if one.batch_id is not None and session.get(tables.Batch, one.batch_id) is None:
        raise Missing("There is no such batch. Reload the page.")
    return tables.Message(
        workspace_id=who.workspace_id,
        kind=one.kind,
        client_id=client_id,
        client_form_id=one.form_id,
        batch_id=one.batch_id,
        account_id=who.account_id,
        to_name=name,
        to_address=address,
        subject=subject,
        body=one.body,
        state=MessageState.WAITING,
        attempts=0,
        trouble="",
        made_by=who.name,
        made_at=now,
    )


def _to(session: Session, one: MessageInput, now: datetime) -> tuple[str, str, uuid.UUID | None]:
    """Whom a message goes to: by what the kitchen knows of them, and not by what was sent."""
    form = None if one.form_id is None else load_form(session, one.form_id)
    if form is not None and not is_open(form, now):
        raise Invalid(f"The form of {form.name} is over: make a new one.")
    client_id = one.client_id if form is None else form.client_id
    if client_id is None:
        if form is None:
            raise Invalid("It is not said whom the message is for. Reload the page.")
        return form.name, form.email, None
    client = session.get(tables.Client, client_id)
    if client is None:
        raise Missing("There is no such client. They may have been removed in another window.")
    return client.name, client.email, client.id


def _put(session: Session, who: SignedIn, rows: list[tables.Message]) -> None:
    queue.put(
        session, SEND_MESSAGE, [{"workspace_id": str(who.workspace_id), "message_id": str(row.id)} for row in rows]
    )


def _load(session: Session, message_id: uuid.UUID) -> tables.Message:
    row = session.scalar(select(tables.Message).where(tables.Message.id == message_id).with_for_update())
    if row is None:
        raise Missing("There is no such message. Reload the page for those that are.")
    return row


def _outbox(session: Session, mail_url: str, post_office: str) -> OutboxView:
    message = tables.Message
    rows = session.scalars(select(message).order_by(message.number.desc()).limit(MOST_SHOWN))
    return OutboxView(
        messages=[message_view(row) for row in rows], can_send=bool(mail_url), is_simulated=bool(post_office)
    )


def message_view(row: tables.Message) -> MessageView:
    """A message in the outbox."""
    return MessageView(
        id=row.id,
        kind=row.kind,
        client_id=row.client_id,
        to_name=row.to_name,
        to_address=row.to_address,
        subject=row.subject,
        body=row.body,
        state=row.state,
        attempts=row.attempts,
        trouble=row.trouble,
        made_by=row.made_by,
        made_at=row.made_at,
        tried_at=row.tried_at,
        sent_at=row.sent_at,
    )
