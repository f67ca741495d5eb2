"""What is sent of messages to clients."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated

from pydantic import Field

from yantai.core.messages.templates import MessageKind, Template
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import LONGEST_NAME, LinkDays, Note, Text, TypedText

MOST_MESSAGES = 200
Subject = Annotated[str, TypedText(LONGEST_NAME)]


class TemplateInput(Payload):
    """What a kitchen says in messages of a kind; empty in both, and it is the standard one again."""

    subject: Subject = ""
    body: Note = ""

    @property
    def core(self) -> Template:
        """The same in the core's words."""
        return Template(subject=self.subject, body=self.body)


class DraftsInput(Payload):
    """For whom messages of a kind are wanted: the clients of a batch, those who thaw something on a day, one client, or
    who fills in a form."""

    kind: MessageKind
    batch_id: uuid.UUID | None = None
    client_id: uuid.UUID | None = None
    form_id: uuid.UUID | None = None
    on: date | None = None


class MessageInput(Payload):
    """A message as it was shown and mended, to a client or to who fills in a form."""

    kind: MessageKind
    client_id: uuid.UUID | None = None
    form_id: uuid.UUID | None = None
    batch_id: uuid.UUID | None = None
    subject: Subject
    body: Note


class SendInput(Payload):
    """Messages that shall go. `address` is that of the page which asks, for the links; those work for so many days."""

    messages: Annotated[list[MessageInput], Field(min_length=1, max_length=MOST_MESSAGES)]
    address: Text
    link_days: LinkDays = 30
