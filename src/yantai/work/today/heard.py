"""What clients wait for, and what of their messages did not go."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import func, select

from yantai.core.messages.templates import MessageState
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.outbox.drafts import count_thawing
from yantai.work.today.views import HeardFromView, HeardView


def read_heard(database: Database, who: SignedIn, now: datetime) -> HeardView:
    """How many forms and words wait to be read, how many clients thaw something tonight, and what did not go."""
    form, word, message, client = tables.ClientForm, tables.ClientWord, tables.Message, tables.Client
    stuck = message.state.in_((MessageState.REFUSED, MessageState.UNSURE))
    with database.reading(who.workspace_id) as session:
        forms = session.scalar(select(func.count()).where(form.handed_in_at.is_not(None), form.taken_at.is_(None)))
        words = [
            HeardFromView(client_id=client_id, client=name, words=count)
            for client_id, name, count in session.execute(
                select(client.id, client.name, func.count())
                .join(word, word.client_id == client.id)
                .where(word.read_at.is_(None))
                .group_by(client.id, client.name)
                .order_by(client.name, client.id)
            )
        ]
        messages = session.scalar(select(func.count()).where(stuck))
    return HeardView(forms=forms or 0, words=words, messages=messages or 0, thaw=count_thawing(database, who, now))
