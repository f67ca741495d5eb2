"""What is sent of forms: by the coach who makes and reads them, and by who fills them in."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated

from pydantic import Field

from yantai.core.portions.problem import CAPACITY_RANGE_ML
from yantai.core.targets.forms import Activity, Enough, Equipment, FormKind, Why
from yantai.core.targets.suggestions import Condition, Sex
from yantai.work.clients.inputs import FRIDGE_L
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import EmailText, LinkDays, Note, Number, Range, Text, TypedText, Whole

Words = Annotated[str, TypedText(1000, lines=True)]
"""Some lines in their own words."""


class FormInput(Payload):
    """A form for a client, or for somebody new, whose link works for so many days; `address` is that of the page which
    asks."""

    kind: FormKind = FormKind.INTAKE
    client_id: uuid.UUID | None = None
    name: Text = ""
    email: EmailText = ""
    days: LinkDays = 30
    address: Text


class AvoidInput(Payload):
    """Something that must not be eaten, and why."""

    what: Annotated[str, TypedText(100)]
    why: Why = Why.OTHER


class AnswersInput(Payload):
    """Answers of a form: those that are sent are changed, the others stay. None, and an empty text, are no answer.

    `container_ml` is the size of containers they have [ml], `fridge_l` the room in the fridge [l]; `training_days` are
    counted from 0 for Monday. Body figures are for who wants suggestions.
    """

    name: Text | None = None
    email: EmailText | None = None
    likes: Words | None = None
    dislikes: Words | None = None
    allergens: Annotated[list[Text] | None, Field(max_length=30)] = None
    avoid: Annotated[list[AvoidInput] | None, Field(max_length=30)] = None
    meals: Annotated[list[Annotated[str, TypedText(60)]] | None, Field(max_length=8)] = None
    training_days: Annotated[
        list[Annotated[Whole, Range(0, 6, "as a day of the week")]] | None, Field(max_length=7)
    ] = None
    goals: Note | None = None
    container_ml: Annotated[Number | None, Range(*CAPACITY_RANGE_ML, "ml")] = None
    fridge_l: Annotated[Number | None, Range(*FRIDGE_L, "l")] = None
    equipment: Annotated[list[Equipment] | None, Field(max_length=len(Equipment))] = None
    kitchen: Words | None = None
    wants_suggestion: bool | None = None
    birthday: date | None = None
    sex: Sex | None = None
    height_cm: Annotated[Number | None, Range(100, 230, "cm")] = None
    weight_kg: Annotated[Number | None, Range(25, 300, "kg")] = None
    activity: Activity | None = None
    conditions: Annotated[list[Condition] | None, Field(max_length=len(Condition))] = None
    health: Note | None = None
    agrees: bool | None = None
    enough: Enough | None = None
    again: Note | None = None
    week: Note | None = None


class TakenField(Payload):
    """A field that the coach takes into the client; where it is words, as the coach has left them."""

    key: Text
    text: Note | None = None


class TakeInput(Payload):
    """What the coach takes of a form, of the `revision` that they have read. Without fields it is put away as read."""

    revision: Whole
    fields: Annotated[list[TakenField], Field(max_length=30)] = Field(default_factory=list)
