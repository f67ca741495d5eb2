"""Messages to clients, and the templates they are made from."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import BigInteger, CheckConstraint, Identity, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.messages.templates import MessageKind, MessageState
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class MessageTemplate(Owned):
    """What a kitchen says in messages of a kind, where it is not the standard one."""

    __tablename__ = "message_template"
    __table_args__ = owned_table_args(one_of("kind", MessageKind), UniqueConstraint("workspace_id", "kind"))

    kind: Mapped[MessageKind] = word(MessageKind)
    subject: Mapped[str]
    body: Mapped[str]
    changed_by: Mapped[str]
    changed_at: Mapped[datetime]


class Message(Owned):
    """A message to a client, or to who fills in a form. Its link is made when it goes and stands nowhere here: the body
    keeps the place for it. `base_address` is that of this server for the link, `link_days` how long it works [days]."""

    __tablename__ = "message"
    __table_args__ = owned_table_args(
        within("client_id", "client"),
        within("client_form_id", "client_form"),
        within("batch_id", "batch"),
        within("account_id", "account"),
        one_of("kind", MessageKind),
        one_of("state", MessageState),
        CheckConstraint("client_id IS NOT NULL OR client_form_id IS NOT NULL", name="of_whom"),
        CheckConstraint("(state = 'sent') = (sent_at IS NOT NULL)", name="sent"),
        CheckConstraint("attempts >= 0 AND link_days > 0", name="counts"),
        UniqueConstraint("number"),
    )

    number: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    kind: Mapped[MessageKind] = word(MessageKind)
    client_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    client_form_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    batch_id: Mapped[uuid.UUID | None] = mapped_column(index=True)
    account_id: Mapped[uuid.UUID]
    to_name: Mapped[str]
    to_address: Mapped[str]
    subject: Mapped[str]
    body: Mapped[str]
    base_address: Mapped[str]
    link_days: Mapped[int]
    state: Mapped[MessageState] = word(MessageState)
    attempts: Mapped[int]
    trouble: Mapped[str]
    made_by: Mapped[str]
    made_at: Mapped[datetime]
    tried_at: Mapped[datetime | None]
    sent_at: Mapped[datetime | None]
