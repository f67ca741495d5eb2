"""Messages to clients."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SettingsDep, SignedInDep
from yantai.core.messages.templates import MessageKind
from yantai.work.outbox import drafts, outbox, templates
from yantai.work.outbox.inputs import DraftsInput, SendInput, TemplateInput
from yantai.work.outbox.views import ArrivedView, DraftView, MessageView, OutboxView, TemplateView

router = APIRouter(tags=["outbox"])


@router.get("/outbox")
def read_outbox(database: DatabaseDep, who: SignedInDep, settings: SettingsDep) -> OutboxView:
    """The newest messages, and whether they can go."""
    return outbox.read_outbox(database, who, mail_url=settings.mail_url, post_office=settings.post_office)


@router.post("/outbox/drafts")
def draft_messages(payload: DraftsInput, database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[DraftView]:
    """Messages as they would go. Nothing of it is kept."""
    return drafts.draft_messages(database, who, payload, now)


@router.post("/outbox", status_code=201)
def send_messages(
    payload: SendInput, database: DatabaseDep, who: SenderDep, settings: SettingsDep, now: NowDep
) -> list[MessageView]:
    """Keep messages, and send them by and by."""
    return outbox.send_messages(database, who, payload, settings.lan_address, now)


@router.post("/outbox/{message_id}/again")
def send_again(message_id: uuid.UUID, database: DatabaseDep, who: SenderDep) -> MessageView:
    """Try a message again, now."""
    return outbox.send_again(database, who, message_id)


@router.post("/outbox/{message_id}/set-aside")
def set_message_aside(message_id: uuid.UUID, database: DatabaseDep, who: SenderDep) -> MessageView:
    """Let a message not go."""
    return outbox.set_aside(database, who, message_id)


@router.get("/message-templates")
def list_message_templates(database: DatabaseDep, who: SignedInDep) -> list[TemplateView]:
    """What is said in messages of each kind."""
    return templates.list_templates(database, who)


@router.put("/message-templates/{kind}")
def save_message_template(
    kind: MessageKind, payload: TemplateInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> list[TemplateView]:
    """Say something else in messages of a kind, or the standard words again."""
    return templates.save_template(database, who, kind, payload, now)


@router.get("/post-office")
def read_post_office(database: DatabaseDep, who: SignedInDep, settings: SettingsDep) -> list[ArrivedView]:
    """What arrived at the simulated post office."""
    return outbox.read_post_office(database, who, settings.post_office)
