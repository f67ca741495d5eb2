"""A message on its way, as a worker takes it: tried until it has gone, and never sent twice.

Before a try the message is marked as being sent, in a transaction of its own. Whoever finds it so marked does not try
again: it was left by a worker that was killed in the middle, and nobody knows whether the message had gone.
"""

from __future__ import annotations

import secrets
import uuid
from dataclasses import dataclass
from datetime import datetime
from email.message import EmailMessage
from email.utils import format_datetime, formataddr

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.messages.templates import LINK, MessageState, filled
from yantai.devices.mail import Mailer, NotSent, Unsure
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts.sessions import hash_token
from yantai.work.forms.made import form_address, is_open
from yantai.work.handover.links import add_link, link_address
from yantai.work.outbox.outbox import message_id_of

MOST_TRIES = 8


class TryAgain(Exception):
    """It could not go now; the queue tries again after a while."""


@dataclass(frozen=True, kw_only=True)
class _Going:
    """A message that is being sent, with the link that was made for it."""

    mail: EmailMessage
    link_id: uuid.UUID | None
    attempt: int


def send_message(
    database: Database, mailer: Mailer, workspace_id: uuid.UUID, message_id: uuid.UUID, now: datetime, sender: str
) -> None:
    """Try to send a message; `sender` is the address it comes from, "" is that of its coach.

    Raises:
        TryAgain: the mail server could not be reached or asks for later.
    """
    with database.workspace(workspace_id) as session:
        going = _begin(session, message_id, now, sender)
    if going is None:
        return
    try:
        mailer.send(going.mail)
    except Unsure as error:
        _end(database, workspace_id, message_id, going, MessageState.UNSURE, now, str(error))
    except NotSent as error:
        final = error.lasting or going.attempt >= MOST_TRIES
        state = MessageState.REFUSED if final else MessageState.WAITING
        _end(database, workspace_id, message_id, going, state, now, str(error))
        if not final:
            raise TryAgain(str(error)) from error
    else:
        _end(database, workspace_id, message_id, going, MessageState.SENT, now, "")


def _begin(session: Session, message_id: uuid.UUID, now: datetime, sender: str) -> _Going | None:
    row = session.scalar(select(tables.Message).where(tables.Message.id == message_id).with_for_update())
    if row is None:
        return None
    if row.state is MessageState.SENDING:
        row.state = MessageState.UNSURE
        row.trouble = "The worker that sent it was stopped in the middle: it may have gone."
        return None
    if row.state is not MessageState.WAITING:
        return None
    link, link_id = "", None
    if f"{{{LINK}}}" in row.body:
        made = _link(session, row, now)
        if made is None:
            row.state, row.trouble = MessageState.REFUSED, "Its form is over, so that there is no link to send."
            return None
        link, link_id = made
    row.state, row.tried_at = MessageState.SENDING, now
    row.attempts += 1
    coach = session.get_one(tables.Account, row.account_id)
    mail = EmailMessage()
    mail["From"] = formataddr((coach.name, sender or coach.email))
    mail["Reply-To"] = formataddr((coach.name, coach.email))
    mail["To"] = formataddr((row.to_name, row.to_address))
    mail["Subject"] = row.subject
    mail["Date"] = format_datetime(now)
    mail["Message-ID"] = message_id_of(row)
    mail.set_content(filled(row.body, {LINK: link}))
    return _Going(mail=mail, link_id=link_id, attempt=row.attempts)


def _link(session: Session, row: tables.Message, now: datetime) -> tuple[str, uuid.UUID | None] | None:
    """The address for a message, and the link of a page that was made for it; none where its form is over."""
    token = secrets.token_urlsafe(24)
    if row.client_form_id is not None:
        form = session.get_one(tables.ClientForm, row.client_form_id, with_for_update=True)
        if not is_open(form, now) or form.taken_at is not None:
            return None
        # Its earlier link works no more: there is one, and it is with the client.
        form.token_hash = hash_token(token)
        return form_address(row.base_address, token), None
    assert row.client_id is not None
    link = add_link(
        session,
        workspace_id=row.workspace_id,
        client_id=row.client_id,
        account_id=row.account_id,
        made_by=row.made_by,
        token=token,
        days=row.link_days,
        shows_macros=_shows_macros(session, row.client_id),
        now=now,
    )
    return link_address(row.base_address, token), link.id


def _shows_macros(session: Session, client_id: uuid.UUID) -> bool:
    """As they had it on their newest page; shown where they never had one."""
    link = tables.ClientLink
    newest = (
        select(link.shows_macros).where(link.client_id == client_id).order_by(link.made_at.desc(), link.id).limit(1)
    )
    known = session.scalar(newest)
    return True if known is None else known


def _end(
    database: Database,
    workspace_id: uuid.UUID,
    message_id: uuid.UUID,
    going: _Going,
    state: MessageState,
    now: datetime,
    trouble: str,
) -> None:
    with database.workspace(workspace_id) as session:
        row = session.scalar(select(tables.Message).where(tables.Message.id == message_id).with_for_update())
        if row is None:
            return
        row.state, row.trouble = state, trouble
        row.sent_at = now if state is MessageState.SENT else None
        if going.link_id is not None and state in (MessageState.WAITING, MessageState.REFUSED):
            # Nobody has the link of a message that did not go.
            session.delete(session.get_one(tables.ClientLink, going.link_id))
