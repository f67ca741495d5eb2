"""Messages to clients as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.core.messages.templates import MessageKind, MessageState


@dataclass(frozen=True, slots=True, kw_only=True)
class TemplateView:
    """What is said in messages of a kind, and the places that are filled in it."""

    kind: MessageKind
    subject: str
    body: str
    places: list[str]
    is_standard: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DraftView:
    """A message as it would go, to be read and mended before. What `lacks` keeps it from going, as an address.

    `already` is when one of its kind went to them last for the same.
    """

    kind: MessageKind
    client_id: uuid.UUID | None
    form_id: uuid.UUID | None
    batch_id: uuid.UUID | None
    name: str
    address: str
    subject: str
    body: str
    lacks: str
    already: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MessageView:
    """A message in the outbox. Where the link stands the body has its place: the link itself is with the client."""

    id: uuid.UUID
    kind: MessageKind
    client_id: uuid.UUID | None
    to_name: str
    to_address: str
    subject: str
    body: str
    state: MessageState
    attempts: int
    trouble: str
    made_by: str
    made_at: datetime
    tried_at: datetime | None
    sent_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class OutboxView:
    """The outbox. `is_simulated` while the post office that ships with it takes what is sent; `can_send` while any mail
    server is set."""

    messages: list[MessageView]
    can_send: bool
    is_simulated: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ArrivedView:
    """A message as it arrived at the simulated post office."""

    id: uuid.UUID
    to: str
    sender: str
    subject: str
    body: str
    at: datetime | None
