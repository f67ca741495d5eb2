"""Forms as a coach makes them: sent by link, seen, revoked."""

from __future__ import annotations

import secrets
import uuid
from dataclasses import replace
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.targets.forms import FormKind
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts.addresses import code_picture, reach
from yantai.work.accounts.sessions import hash_token
from yantai.work.common.errors import Collector, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.forms.inputs import FormInput
from yantai.work.forms.views import FormView, NewFormView

PAGE = "/form"
MOST_SHOWN = 200


def new_token() -> str:
    """The secret of a form's link."""
    return secrets.token_urlsafe(24)


def form_address(base: str, token: str) -> str:
    """The address of a form. Behind the "#" the secret is told to no server and no log."""
    return f"{base}{PAGE}#{token}"


def list_forms(database: Database, who: SignedIn, now: datetime) -> list[FormView]:
    """The newest forms: first those that were handed in and not yet taken, then the others."""
    form = tables.ClientForm
    waits = (form.handed_in_at.is_not(None) & form.taken_at.is_(None)).desc()
    with database.reading(who.workspace_id) as session:
        rows = session.scalars(select(form).order_by(waits, form.made_at.desc(), form.id).limit(MOST_SHOWN))
        return [form_view(row, now) for row in rows]


def make_form(database: Database, who: SignedIn, payload: FormInput, lan_address: str, now: datetime) -> NewFormView:
    """Make a form. Its address is shown this once.

    Raises:
        Missing: there is no such client.
        Invalid: nobody is named, or the address of the page is none.
    """
    faults = Collector()
    found = reach(payload.address, lan_address, faults)
    name, email = payload.name.strip(), payload.email
    if payload.client_id is None:
        name = faults.text("/name", name, what="whom the form is for")
        if payload.kind is not FormKind.INTAKE:
            faults.add("/client_id", "choose the client who is asked how it was")
    faults.check()
    token = new_token()
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        if payload.client_id is not None:
            client = session.get(tables.Client, payload.client_id)
            if client is None:
                raise Missing("There is no such client. They may have been removed in another window.")
            name, email = client.name, client.email
        row = tables.ClientForm(
            workspace_id=who.workspace_id,
            client_id=payload.client_id,
            account_id=who.account_id,
            kind=payload.kind,
            name=name,
            email=email,
            token_hash=hash_token(token),
            answers={},
            revision=0,
            made_by=who.name,
            made_at=now,
            expires_at=now + timedelta(days=payload.days),
        )
        session.add(row)
        session.flush()
        address = form_address(found.address, token)
        made = NewFormView(
            form=form_view(row, now), address=address, code=code_picture(address), is_out_of_reach=found.is_own
        )
        # What is kept of the answer, should it be lost, is without the secret: nobody can read that here.
        keep(replace(made, address="", code=""))
        return made


def revoke_form(database: Database, who: SignedIn, form_id: uuid.UUID, now: datetime) -> FormView:
    """Let the link of a form work no more. What was answered stays with the coach.

    Raises:
        Missing: there is no such form.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = load_form(session, form_id, lock=True)
        if row.revoked_at is None:
            row.revoked_at = now
        session.flush()
        return keep(form_view(row, now))


def load_form(session: Session, form_id: uuid.UUID, *, lock: bool = False) -> tables.ClientForm:
    """A form.

    Raises:
        Missing: there is no such form.
    """
    query = select(tables.ClientForm).where(tables.ClientForm.id == form_id)
    row = session.scalar(query.with_for_update() if lock else query)
    if row is None:
        raise Missing("There is no such form. Reload the page for those that are.")
    return row


def is_open(row: tables.ClientForm, now: datetime) -> bool:
    """Whether the link of a form works."""
    return row.revoked_at is None and row.expires_at > now


def form_view(row: tables.ClientForm, now: datetime) -> FormView:
    """A form in the coach's list."""
    return FormView(
        id=row.id,
        kind=row.kind,
        client_id=row.client_id,
        name=row.name,
        email=row.email,
        made_by=row.made_by,
        made_at=row.made_at,
        expires_at=row.expires_at,
        revoked_at=row.revoked_at,
        seen_at=row.seen_at,
        handed_in_at=row.handed_in_at,
        taken_at=row.taken_at,
        is_open=is_open(row, now),
        answered=sum(1 for value in row.answers.values() if value not in (None, "", [], False)),
    )
