"""What is sent of a client: targets, days, words."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated

from pydantic import Field

from yantai.core.targets.suggestions import Condition, Sex
from yantai.core.targets.targets import FIGURES, Figures, Tolerance
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Bound, CellGrams, EmailText, Note, Number, Range, Text, Weight, Whole

FRIDGE_L = (1, 1000)
"""Room in a client's fridge, from a shelf to a cold room [l]."""


class ToleranceInput(Payload):
    """How far off is close enough: amounts, or percent of the target."""

    percent: bool = False
    kcal: Number = 30
    protein_g: Number = 3
    carbohydrate_g: Number = 5
    fat_g: Number = 3
    priority_kcal: Number = 2
    priority_protein_g: Number = 2
    priority_carbohydrate_g: Number = 1
    priority_fat_g: Number = 1

    @property
    def core(self) -> Tolerance:
        """The same in the core's words.

        Raises:
            CoreError: a figure is out of its range.
        """
        return Tolerance(**self.model_dump())


class Aims(Payload):
    """Figures of a container or a day; None is not aimed at, or no limit."""

    kcal: Number | None = None
    protein_g: Number | None = None
    carbohydrate_g: Number | None = None
    fat_g: Number | None = None
    fibre_g: Number | None = None
    saturated_g: Number | None = None
    sodium_mg: Number | None = None

    @property
    def figures(self) -> Figures:
        """The same in the core's words."""
        return Figures(**{name: getattr(self, name) for name in FIGURES})


class TargetInput(Aims):
    """What one container shall hold. `id` of a target that exists, or None for a new one.

    With a `day_share` the figures stay empty: they are that share of what the day's extras leave.
    """

    id: uuid.UUID | None = None
    slot: Text
    day_type: Text = "any"
    day_share: Number | None = None
    capacity_ml: Number | None = None
    capacity_g: Weight | None = None
    plate_g: Weight | None = None


class DayExtraInput(Payload):
    """A food eaten on a day outside the containers."""

    food_id: uuid.UUID
    grams: CellGrams


class DayInput(Aims):
    """What a whole day of one type shall hold, extras included."""

    day_type: Text = "any"
    extras: list[DayExtraInput] = Field(default_factory=list)


class AtHandInput(Payload):
    """A food that may fill up a day: a serving of it, and how many a day at most."""

    food_id: uuid.UUID
    serving_g: CellGrams
    most: Annotated[Whole, Range(1, 4, "servings")] = 1


class ClientBoundInput(Payload):
    """What a client has at most of components of this name in one container [g], where grams are solved for."""

    word: Text
    maximum_g: Bound


class BoundsInput(Payload):
    """All that a client has at most of something; `version` is the one that was read."""

    bounds: Annotated[list[ClientBoundInput], Field(max_length=60)]
    version: Whole


class ClientInput(Payload):
    """A client as typed; `version` is the one that was read, None for a new client.

    `exclusions` are words: what one of them means stays out of every container, a disliked one is only marked.
    `kitchen` is what they have at home; `health` stands on their page and nowhere else.
    """

    name: Text
    note: Note = ""
    allergens: list[Text] = Field(default_factory=list)
    dislikes: list[Text] = Field(default_factory=list)
    exclusions: list[Text] = Field(default_factory=list)
    tolerance: ToleranceInput = Field(default_factory=ToleranceInput)
    days: list[DayInput] = Field(default_factory=list)
    targets: list[TargetInput] = Field(default_factory=list)
    at_hand: list[AtHandInput] = Field(default_factory=list)
    signed_off_by: Text = ""
    signed_off_on: date | None = None
    bounds: Annotated[list[ClientBoundInput], Field(max_length=60)] = Field(default_factory=list)
    email: EmailText = ""
    likes: list[Text] = Field(default_factory=list)
    goals: Note = ""
    kitchen: Note = ""
    health: Note = ""
    version: Whole | None = None


class WordsInput(Payload):
    """Words that keep foods out, as typed for a client."""

    words: list[Text]


class SuggestionInput(Payload):
    """Whose day to suggest targets for. Nothing of it is kept. `share` is what one container is of the day."""

    sex: Sex
    age_y: Number
    height_cm: Number
    weight_kg: Number
    activity: Number = 1.5
    body_fat_share: Number | None = None
    conditions: list[Condition] = Field(default_factory=list)
    change_share: Number = 0
    protein_g_per_kg: Number = 1.8
    fat_g_per_kg: Number = 0.9
    share: Annotated[Number, Range(0.05, 1, "of the day")] = 1
