"""What is sent of a food: a label, a supply, a file."""

from __future__ import annotations

import uuid
from datetime import date
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from yantai.core.foods.energy import Carbohydrate
from yantai.core.foods.labels import LABEL_FIGURES, Rounding
from yantai.core.foods.states import FoodState
from yantai.core.shopping.packs import Sold
from yantai.formats.figures import with_figures
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import FileText, Note, Number, Range, Text, Weight, Whole

_Figures: Any = with_figures(Payload, LABEL_FIGURES, Number)


class LabelInput(_Figures):  # type: ignore[misc]  # a field for each figure that a label may print
    """A label as it is printed, for `serving_g` grams, or for `serving_ml` of which one weighs `ml_weighs_g`.

    Empty figures are not stated, which is not zero.
    """

    if TYPE_CHECKING:

        def __init__(self, **values: Any) -> None: ...

    serving_g: Weight = 100
    serving_ml: Number | None = None
    ml_weighs_g: Number | None = None
    carbohydrate: Carbohydrate = Carbohydrate.AVAILABLE
    rounding: Rounding = Rounding.EU


class MeasureInput(Payload):
    """A household measure: grams of one of it."""

    name: Text
    grams: Annotated[Weight, Range(0.01, 20_000, "g", late=True)]


class PackInput(Payload):
    """A pack as bought. `shop` is "" where it costs the same everywhere; `seen_on` is the day of its price.

    By the piece, `grams` are about what one weighs; by weight, what the price is for.
    """

    name: Text
    grams: Annotated[Weight, Range(0.1, 100_000, "g", late=True)]
    drained_g: Weight | None = None
    price: Annotated[Number | None, Range(0, 100_000, "", late=True)] = None
    shop: Text = ""
    seen_on: date | None = None
    sold: Sold = Sold.PACK


class FoodInput(Payload):
    """An own food from its label. `copied_from` names the food whose yields and measures it starts with."""

    name: Text
    group: Text
    state: FoodState
    method: Text = ""
    label: LabelInput = Field(default_factory=LabelInput)
    allergens: list[Text] = Field(default_factory=list)
    diet_tags: list[Text] = Field(default_factory=list)
    note: Note = ""
    other_names: Text = ""
    measures: list[MeasureInput] = Field(default_factory=list)
    packs: list[PackInput] = Field(default_factory=list)
    copied_from: uuid.UUID | None = None
    version: Whole | None = None


class SupplyInput(Payload):
    """The kitchen's own measures and packs of a food, shared or own."""

    measures: list[MeasureInput] = Field(default_factory=list)
    packs: list[PackInput] = Field(default_factory=list)


class ImportInput(Payload):
    """A CSV of foods. `columns` maps a field to the heading it is read from; empty proposes a mapping."""

    text: FileText
    columns: dict[Text, Text] = Field(default_factory=dict)
    state: FoodState = FoodState.AS_SOLD
    group: Text = "own"
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL
    save: bool = False
    skip_bad: bool = False
