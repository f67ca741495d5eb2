"""A form as who fills it in sees and changes it, by its link."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from yantai.core.foods.allergens import ALLERGENS
from yantai.core.targets.forms import FormKind, age_on
from yantai.store import tables
from yantai.store.database import Database, enter_workspace
from yantai.work.accounts.sessions import account_behind, hash_token
from yantai.work.common.errors import Collector, Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.forms.inputs import AnswersInput
from yantai.work.forms.made import is_open, load_form
from yantai.work.forms.views import MyFormView

NO_FORM = "This form does not open, or no longer. Ask your coach for a new link."
OLDEST_Y = 110


def agreement(coach: str) -> str:
    """What somebody agrees to who hands a form in."""
    return (
        f"{coach} keeps these answers to plan and cook for me, health answers too. They are not passed on; I can ask "
        "for a copy of everything kept about me, and to have it erased."
    )


def open_form(database: Database, token: str, now: datetime) -> tuple[SignedIn, tables.ClientForm]:
    """Which form a link opens: read in the name of the account that made it, for this one form.

    Raises:
        Missing: there is no such form, its link has expired, or it was revoked; which of these is not told.
    """
    form, found = tables.ClientForm, hash_token(token)
    with database.addressed(found) as session:
        row = session.scalar(select(form).where(form.token_hash == found))
        if row is None or not is_open(row, now):
            raise Missing(NO_FORM)
        enter_workspace(session, row.workspace_id)
        who = account_behind(session, row.account_id, now)
        session.expunge(row)
        return who, row


def read_my_form(database: Database, who: SignedIn, form: tables.ClientForm, now: datetime) -> MyFormView:
    """The form with all that was answered so far."""
    row = tables.ClientForm
    with database.workspace(who.workspace_id) as session:
        session.execute(update(row).where(row.id == form.id).values(seen_at=now))
    return MyFormView(
        kind=form.kind,
        name=form.name,
        coach=who.name,
        answers=AnswersInput.model_validate(form.answers),
        handed_in_at=form.handed_in_at,
        is_taken=form.taken_at is not None,
        expires_at=form.expires_at,
        allergens=dict(ALLERGENS),
        agreement=agreement(who.name),
    )


def keep_answers(
    database: Database, who: SignedIn, form: tables.ClientForm, payload: AnswersInput, now: datetime
) -> None:
    """Keep answers of a form, half-filled as it may be. Each counts by itself, so that two phones do not undo each
    other's. Nothing is kept before it was agreed to, and nothing once that is taken back.

    Raises:
        Invalid: an answer makes no sense, nobody agreed that it is kept, or the coach has taken the form.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _check(session, payload, now)
        row = _open_row(session, form)
        answers = {**row.answers, **payload.model_dump(mode="json", exclude_unset=True)}
        if answers.get("agrees"):
            row.answers, row.agreed_at = answers, row.agreed_at or now
        elif "agrees" in payload.model_fields_set:
            row.answers, row.agreed_at, row.handed_in_at = {}, None, None
        else:
            raise Invalid.at("/agrees", "Nothing of this is kept before you agree to it: tick that first.")
        row.revision += 1
        keep(None)


def hand_in(database: Database, who: SignedIn, form: tables.ClientForm, now: datetime) -> None:
    """Hand a form in to the coach. Until it is taken it may be changed, and handed in again.

    Raises:
        Invalid: something is lacking without which it is of no use, or the coach has taken the form.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _open_row(session, form)
        answers = AnswersInput.model_validate(row.answers)
        faults = Collector()
        if row.agreed_at is None:
            faults.add("/agrees", "nothing of this is kept before you agree to it: tick that first")
        if row.kind is FormKind.INTAKE:
            if not (answers.name or "").strip():
                faults.add("/name", "say your name")
        elif not (answers.enough or (answers.again or "").strip() or (answers.week or "").strip()):
            faults.add("/enough", "answer one of the three at least")
        faults.check()
        row.handed_in_at = now
        keep(None)


def _open_row(session: Session, form: tables.ClientForm) -> tables.ClientForm:
    row = load_form(session, form.id, lock=True)
    if row.taken_at is not None:
        raise Invalid("Your coach has read this and taken it over. Tell them what has changed since.")
    return row


def _check(session: Session, payload: AnswersInput, now: datetime) -> None:
    faults = Collector()
    if payload.birthday is not None:
        today, born = local_day(session, now), payload.birthday
        if born > today:
            faults.add("/birthday", "this day is yet to come; check the year")
        elif age_on((born.year, born.month, born.day), (today.year, today.month, today.day)) > OLDEST_Y:
            faults.add("/birthday", f"that is more than {OLDEST_Y} years ago; check the year")
    for unknown in sorted(set(payload.allergens or ()) - set(ALLERGENS)):
        faults.add("/allergens", f"“{unknown}” is not one of the known allergens")
    faults.check()
