"""What a kitchen says in its messages."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.messages.templates import PLACES, STANDARD, MessageKind, Template, check_template
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import located
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.outbox.inputs import TemplateInput
from yantai.work.outbox.views import TemplateView


def list_templates(database: Database, who: SignedIn) -> list[TemplateView]:
    """What is said in messages of each kind."""
    with database.reading(who.workspace_id) as session:
        return _views(session)


def save_template(
    database: Database, who: SignedIn, kind: MessageKind, payload: TemplateInput, now: datetime
) -> list[TemplateView]:
    """Say something else in messages of a kind, or the standard words again.

    Raises:
        Invalid: a place in it is filled by nothing, or its link is lacking.
    """
    template = payload.core
    is_standard = not (template.subject.strip() or template.body.strip()) or template == STANDARD[kind]
    if not is_standard:
        with located(""):
            check_template(kind, template)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = session.scalar(select(tables.MessageTemplate).where(tables.MessageTemplate.kind == kind))
        if is_standard:
            if row is not None:
                session.delete(row)
        else:
            if row is None:
                row = tables.MessageTemplate(workspace_id=who.workspace_id, kind=kind)
                session.add(row)
            row.subject, row.body = template.subject.strip(), template.body
            row.changed_by, row.changed_at = who.name, now
        session.flush()
        return keep(_views(session))


def template_of(session: Session, kind: MessageKind) -> Template:
    """The words of a kind."""
    row = session.scalar(select(tables.MessageTemplate).where(tables.MessageTemplate.kind == kind))
    return STANDARD[kind] if row is None else Template(subject=row.subject, body=row.body)


def _views(session: Session) -> list[TemplateView]:
    found = {kind: template_of(session, kind) for kind in MessageKind}
    return [
        TemplateView(
            kind=kind,
            subject=template.subject,
            body=template.body,
            places=[f"{{{place}}}" for place in PLACES[kind]],
            is_standard=template == STANDARD[kind],
        )
        for kind, template in found.items()
    ]
