"""Messages as they would go: made from templates for those whom they concern, to be read before."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.messages.templates import MessageKind, MessageState, filled
from yantai.core.storage.calendar import Store
from yantai.core.targets.forms import FormKind
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.forms.made import load_form
from yantai.work.handover.days import meal_order
from yantai.work.handover.laid import Laid, lay_out
from yantai.work.handover.words import day_words
from yantai.work.outbox.inputs import DraftsInput
from yantai.work.outbox.templates import template_of
from yantai.work.outbox.views import DraftView

NO_ADDRESS = "There is no e-mail address of them: it is written on their page."


@dataclass(frozen=True, kw_only=True)
class _About:
    """What a message to somebody is about: whom it goes to, and what fills its places."""

    name: str
    address: str
    client_id: uuid.UUID | None = None
    form_id: uuid.UUID | None = None
    batch_id: uuid.UUID | None = None
    values: Mapping[str, str] = field(default_factory=dict)
    lacks: str = ""


def draft_messages(database: Database, who: SignedIn, wanted: DraftsInput, now: datetime) -> list[DraftView]:
    """Messages of a kind, one for each whom it concerns; nothing of it is kept.

    Raises:
        Missing: there is no such batch, client or form.
        Invalid: it is not said for whom.
    """
    found = list(_ABOUT[wanted.kind](database, who, wanted, now))
    with database.reading(who.workspace_id) as session:
        template, today = template_of(session, wanted.kind), local_day(session, now)
        return [_draft(session, who, wanted, one, template.subject, template.body, today) for one in found]


def _draft(
    session: Session, who: SignedIn, wanted: DraftsInput, about: _About, subject: str, body: str, today: date
) -> DraftView:
    values = {"client": about.name, "coach": who.name, **about.values}
    return DraftView(
        kind=wanted.kind,
        client_id=about.client_id,
        form_id=about.form_id,
        batch_id=about.batch_id,
        name=about.name,
        address=about.address,
        subject=" ".join(filled(subject, values).split())[:200],
        body=filled(body, values),
        lacks=about.lacks or ("" if about.address else NO_ADDRESS),
        already=_already(session, wanted.kind, about, today),
    )


def _already(session: Session, kind: MessageKind, about: _About, today: date) -> datetime | None:
    """When the same went to them last: of this batch, for this form, or today."""
    message = tables.Message
    same = [message.kind == kind, message.state.in_((MessageState.WAITING, MessageState.SENDING, MessageState.SENT))]
    if about.form_id is not None:
        same.append(message.client_form_id == about.form_id)
    elif about.batch_id is not None:
        same += [message.client_id == about.client_id, message.batch_id == about.batch_id]
    else:
        same += [message.client_id == about.client_id, message.made_at >= today - timedelta(days=1)]
    return session.scalar(select(func.max(message.made_at)).where(*same))


def _hand_over(database: Database, who: SignedIn, wanted: DraftsInput, _now: datetime) -> Iterator[_About]:
    batch_id = wanted.batch_id
    if batch_id is None:
        raise Invalid.at("/batch_id", "Choose the batch that is handed over.")
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
    for client_id, client in sorted(laid.clients.items(), key=lambda one: one[1].name.casefold()):
        if wanted.client_id not in (None, client_id):
            continue
        days = [laid.on(one.day) for one in laid.eaten(client_id)]
        rows = sorted(laid.of_client(client_id), key=lambda row: (meal_order(row.slot), row.slot))
        lines = [f"- {row.count} x {_dish(laid, row.dish_id)}, {row.slot}" for row in rows]
        yield _About(
            name=client.name,
            address=client.email,
            client_id=client_id,
            batch_id=batch_id,
            values={
                "containers": "\n".join(lines),
                "first_day": day_words(min(days)) if days else "",
                "last_day": day_words(max(days)) if days else "",
            },
            lacks="" if days else "Their containers have no days yet: make the calendar in Hand over first.",
        )


def _dish(laid: Laid, dish_id: uuid.UUID) -> str:
    return next(dish.name for dish in laid.plan.dishes if dish.id == dish_id)


def _thaw(database: Database, who: SignedIn, wanted: DraftsInput, now: datetime) -> Iterator[_About]:
    with database.reading(who.workspace_id) as session:
        on = wanted.on or local_day(session, now)
    tomorrow = on + timedelta(days=1)
    lines: dict[uuid.UUID, list[str]] = {}
    clients: dict[uuid.UUID, tables.Client] = {}
    for batch_id in _thawing(database, who, tomorrow):
        with stored.reading(database, who, lambda _, one=batch_id: [one]) as session:  # type: ignore[misc]
            laid = lay_out(session, batch_id)
        for (row_id, number), placement in sorted(laid.placements.items(), key=lambda one: (str(one[0][0]), one[0][1])):
            row = laid.rows.get(row_id)
            if row is None or placement.eaten_on != tomorrow or placement.store is not Store.FREEZER:
                continue
            clients[row.client_id] = laid.clients[row.client_id]
            lines.setdefault(row.client_id, []).append(
                f"- {_dish(laid, row.dish_id)}, {row.slot}, {number} of {row.count}"
            )
    for client_id, client in sorted(clients.items(), key=lambda one: one[1].name.casefold()):
        if wanted.client_id in (None, client_id):
            yield _About(
                name=client.name,
                address=client.email,
                client_id=client_id,
                values={"containers": "\n".join(lines[client_id]), "day": day_words(tomorrow)},
            )


def count_thawing(database: Database, who: SignedIn, now: datetime) -> int:
    """How many clients move something from the freezer into the fridge tonight."""
    return sum(1 for _ in _thaw(database, who, DraftsInput(kind=MessageKind.THAW), now))


def _thawing(database: Database, who: SignedIn, tomorrow: date) -> list[uuid.UUID]:
    """Batches of which something in a freezer is eaten tomorrow."""
    placement, batch = tables.Placement, tables.Batch
    query = (
        select(placement.batch_id)
        .join(batch, batch.id == placement.batch_id)
        .where(placement.eaten_on == tomorrow, placement.store == Store.FREEZER, batch.deleted_at.is_(None))
        .distinct()
        .order_by(placement.batch_id)
    )
    with database.reading(who.workspace_id) as session:
        return list(session.scalars(query))


def _form(database: Database, who: SignedIn, wanted: DraftsInput, now: datetime) -> Iterator[_About]:
    if wanted.form_id is None:
        raise Invalid.at("/form_id", "Choose the form that is sent.")
    with database.reading(who.workspace_id) as session:
        form = load_form(session, wanted.form_id)
        if (form.kind is FormKind.HOW_WAS_IT) != (wanted.kind is MessageKind.HOW_WAS_IT):
            raise Missing("This form asks for something else. Reload the page.")
        address = form.email
        if form.client_id is not None:
            address = session.get_one(tables.Client, form.client_id).email
        over = form.taken_at is not None or form.revoked_at is not None or form.expires_at <= now
        yield _About(
            name=form.name,
            address=address,
            client_id=form.client_id,
            form_id=form.id,
            lacks="This form is over: make a new one." if over else "",
        )


_ABOUT = {
    MessageKind.HAND_OVER: _hand_over,
    MessageKind.THAW: _thaw,
    MessageKind.FORM: _form,
    MessageKind.HOW_WAS_IT: _form,
}
