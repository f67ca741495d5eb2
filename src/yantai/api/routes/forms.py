"""Forms by link: for the coach who makes and reads them, and for who fills them in."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response

from yantai.api.access import DatabaseDep, IdempotencyKey, NowDep, SenderDep, SettingsDep, SignedInDep, sent
from yantai.api.link_callers import LinkToken, counted
from yantai.core.speaking import speak
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.forms import answered, made, review
from yantai.work.forms.inputs import AnswersInput, FormInput, TakeInput
from yantai.work.forms.views import FormView, MyFormView, NewFormView, ReviewView

router = APIRouter(tags=["forms"])


class Filler:
    """Who fills in a form: read in the name of its coach, for this one form."""

    def __init__(self, who: SignedIn, form: tables.ClientForm) -> None:
        self.who, self.form = who, form


def _opened(request: Request, database: DatabaseDep, now: NowDep, token: LinkToken = "") -> Filler:
    with counted(request):
        return Filler(*answered.open_form(database, token, now))


async def _filler(
    request: Request, opened: Annotated[Filler, Depends(_opened)], idempotency_key: IdempotencyKey = None
) -> Filler:
    """It is a coroutine, so that sentences speak in the units of the coach from here on."""
    speak(opened.who.units)
    return Filler(await sent(request, opened.who, idempotency_key), opened.form)


FillerDep = Annotated[Filler, Depends(_filler)]


@router.get("/form")
def read_my_form(filler: FillerDep, database: DatabaseDep, now: NowDep, response: Response) -> MyFormView:
    """The form behind a link, with what was answered so far."""
    response.headers["Cache-Control"] = "no-store"
    return answered.read_my_form(database, filler.who, filler.form, now)


@router.patch("/form", status_code=204)
def keep_answers(payload: AnswersInput, filler: FillerDep, database: DatabaseDep, now: NowDep) -> None:
    """Keep some answers: those that are sent."""
    answered.keep_answers(database, filler.who, filler.form, payload, now)


@router.post("/form/handed-in", status_code=204)
def hand_form_in(filler: FillerDep, database: DatabaseDep, now: NowDep) -> None:
    """Hand the form in to the coach."""
    answered.hand_in(database, filler.who, filler.form, now)


@router.get("/forms")
def list_forms(database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[FormView]:
    """The forms that were sent, those that wait for the coach first."""
    return made.list_forms(database, who, now)


@router.post("/forms", status_code=201)
def make_form(
    payload: FormInput, database: DatabaseDep, who: SenderDep, settings: SettingsDep, now: NowDep
) -> NewFormView:
    """Make a form: its address is shown this once."""
    return made.make_form(database, who, payload, settings.lan_address, now)


@router.get("/forms/{form_id}")
def read_review(form_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, now: NowDep) -> ReviewView:
    """A form beside its client, field by field."""
    return review.read_review(database, who, form_id, now)


@router.post("/forms/{form_id}/taken")
def take_form(form_id: uuid.UUID, payload: TakeInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> ReviewView:
    """Take fields of a form into its client, or put it away as read."""
    return review.take_form(database, who, form_id, payload, now)


@router.post("/forms/{form_id}/revoked")
def revoke_form(form_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep) -> FormView:
    """Let the link of a form work no more."""
    return made.revoke_form(database, who, form_id, now)
