"""A form beside the client: what each answer would change, and the taking over, field by field."""

from __future__ import annotations

import uuid
from datetime import datetime

from pydantic import ValidationError
from sqlalchemy.orm import Session

from yantai.core.speaking import energy, weight
from yantai.core.targets.days import ANY_DAY
from yantai.core.targets.forms import ACTIVITY_FACTOR, age_on
from yantai.core.targets.suggestions import ADULT_AGE
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.clients.clients import client_view, load_client, store_client
from yantai.work.clients.inputs import ClientInput, DayInput, SuggestionInput
from yantai.work.clients.suggestions import suggest_day
from yantai.work.clients.views import SuggestionView
from yantai.work.common.errors import Collector, Invalid, Stale
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, read_workspace, workspace_rules
from yantai.work.forms.fields import FIELDS, Draft, Field, client_input
from yantai.work.forms.inputs import AnswersInput, TakeInput
from yantai.work.forms.made import form_view, load_form
from yantai.work.forms.views import ReviewFieldView, ReviewView

DAY = "day"
"""The key of the suggested day, which is no answer but follows from some."""

_REFER = "This belongs to a doctor or a registered dietitian before anything is suggested"


def read_review(database: Database, who: SignedIn, form_id: uuid.UUID, now: datetime) -> ReviewView:
    """A form beside the client it is of.

    Raises:
        Missing: there is no such form.
    """
    with database.reading(who.workspace_id) as session:
        return _review(session, load_form(session, form_id), now)


def take_form(database: Database, who: SignedIn, form_id: uuid.UUID, payload: TakeInput, now: datetime) -> ReviewView:
    """Take fields of a form into its client, who is made if there is none, and close the form. Without fields it is put
    away as read.

    Raises:
        Missing: there is no such form.
        Stale: it was changed since it was read.
        Invalid: it was taken already, it has no such field, or a value makes no sense.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = load_form(session, form_id, lock=True)
        if row.taken_at is not None:
            raise Invalid("This form was taken already. The client's page has what came of it.")
        if row.revision != payload.revision:
            raise Stale(f"{row.name} has changed answers since you opened this. Reload the page and read it again.")
        if row.handed_in_at is None:
            raise Invalid("This was not handed in yet: what is half-filled is not taken over.")
        if payload.fields:
            _take(session, who, row, payload, now)
        row.taken_at = now
        session.flush()
        return keep(_review(session, row, now))


def _take(session: Session, who: SignedIn, row: tables.ClientForm, payload: TakeInput, now: datetime) -> None:
    answers, draft = AnswersInput.model_validate(row.answers), _draft(session, row)
    known: dict[str, Field] = {field.key: field for field in FIELDS[row.kind]}
    faults = Collector()
    for index, one in enumerate(payload.fields):
        field, pointer = known.get(one.key), f"/fields/{index}/text"
        if one.key == DAY:
            draft = _with_day(draft, _suggestion(answers, _age(session, answers, now)), faults, pointer)
        elif field is None or field.take is None:
            faults.add(pointer, "there is no such field to be taken; reload the page")
        elif not field.said(answers):
            # Taken, no answer would become one: a week without a training day, a fridge without room.
            faults.add(pointer, "they have not answered this; leave it out")
        else:
            text = one.text if one.text is not None and field.is_words else field.said(answers)
            draft = field.take(draft, answers, text)
            try:
                ClientInput.model_validate(draft.client.model_dump())
            except ValidationError as error:
                faults.add(pointer, error.errors()[0]["msg"].removeprefix("Value error, "))
    faults.check()
    stored = store_client(session, who, draft.client, row.client_id)
    client = session.get_one(tables.Client, stored.id)
    client.week, client.fridge_l = list(draft.week), draft.fridge_l
    row.client_id, row.name, row.email = client.id, client.name, client.email


def _draft(session: Session, row: tables.ClientForm) -> Draft:
    if row.client_id is None:
        return Draft(client=ClientInput(name=row.name, email=row.email))
    client = load_client(session, row.client_id)
    view = client_view(client, workspace_rules(read_workspace(session)))
    return Draft(client=client_input(view), week=tuple(client.week), fridge_l=client.fridge_l)


def _review(session: Session, row: tables.ClientForm, now: datetime) -> ReviewView:
    answers, draft = AnswersInput.model_validate(row.answers), _draft(session, row)
    fields = [_field_view(field, answers, draft) for field in FIELDS[row.kind]]
    age = _age(session, answers, now)
    suggestion = _suggestion(answers, age)
    if suggestion is not None and suggestion.day is not None:
        fields.append(_day_field(draft, suggestion))
    return ReviewView(
        form=form_view(row, now),
        client=None if row.client_id is None else draft.client.name,
        revision=row.revision,
        agreed_at=row.agreed_at,
        fields=fields,
        cautions=_cautions(answers, age),
        suggestion=suggestion,
    )


def _field_view(field: Field, answers: AnswersInput, draft: Draft) -> ReviewFieldView:
    said = field.said(answers)
    after = field.take(draft, answers, said) if field.take is not None and said else draft
    return ReviewFieldView(
        key=field.key,
        label=field.label,
        said=said,
        now=field.now(draft),
        text=said if field.is_words and field.take is not None else None,
        same=field.now(after) == field.now(draft),
        can_take=field.take is not None and bool(said),
    )


def _cautions(answers: AnswersInput, age: int | None) -> list[str]:
    found = [f"{condition.value.capitalize()}. {_REFER}." for condition in answers.conditions or ()]
    if age is not None and age < ADULT_AGE:
        found.append(f"Under {ADULT_AGE}. {_REFER}.")
    if (answers.health or "").strip():
        found.append("They wrote something about their health: read it before you plan.")
    if answers.allergens:
        found.append("Allergens: reference foods name the typical ones only; read every label.")
    return found


def _age(session: Session, answers: AnswersInput, now: datetime) -> int | None:
    if answers.birthday is None:
        return None
    today, born = local_day(session, now), answers.birthday
    return age_on((born.year, born.month, born.day), (today.year, today.month, today.day))


def _suggestion(answers: AnswersInput, age: int | None) -> SuggestionView | None:
    """Targets of a day by body figures, where they were asked for and nothing of them lacks."""
    if not answers.wants_suggestion:
        return None
    if (
        age is None
        or answers.sex is None
        or answers.height_cm is None
        or answers.weight_kg is None
        or answers.activity is None
    ):
        return SuggestionView(
            referral="Nothing is suggested: a suggestion takes birthday, sex, height, weight and how active they are.",
            steps=[],
            warnings=[],
            day=None,
            container=None,
        )
    return suggest_day(
        SuggestionInput(
            sex=answers.sex,
            age_y=age,
            height_cm=answers.height_cm,
            weight_kg=answers.weight_kg,
            activity=ACTIVITY_FACTOR[answers.activity],
            conditions=list(answers.conditions or ()),
        )
    )


def _day_field(draft: Draft, suggestion: SuggestionView) -> ReviewFieldView:
    day = suggestion.day
    assert day is not None
    said = (
        f"{energy(day.kcal)}, {weight(day.protein_g)} protein, {weight(day.carbohydrate_g)} carbohydrate, "
        f"{weight(day.fat_g)} fat"
    )
    has_day = any(one.day_type.strip().casefold() == ANY_DAY for one in draft.client.days)
    return ReviewFieldView(
        key=DAY,
        label="Suggested day",
        said=said,
        now="there is a day of this kind already" if has_day else "",
        text=None,
        same=has_day,
        can_take=not has_day,
    )


def _with_day(draft: Draft, suggestion: SuggestionView | None, faults: Collector, pointer: str) -> Draft:
    if suggestion is None or suggestion.day is None:
        faults.add(pointer, "no day is suggested for them")
        return draft
    if any(one.day_type.strip().casefold() == ANY_DAY for one in draft.client.days):
        faults.add(pointer, "they have a day of this kind already; change it on their page")
        return draft
    day = suggestion.day
    made = DayInput(
        day_type=ANY_DAY,
        kcal=round(day.kcal),
        protein_g=round(day.protein_g),
        carbohydrate_g=round(day.carbohydrate_g),
        fat_g=round(day.fat_g),
    )
    return draft.changed(days=[*draft.client.days, made])
