"""Foods as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, make_dataclass
from datetime import date
from typing import Any

from yantai.core.foods.energy import Carbohydrate
from yantai.core.foods.labels import LABEL_FIGURES, Rounding
from yantai.core.foods.states import FoodState
from yantai.core.shopping.packs import Sold
from yantai.work.common.views import AmountsView, YieldView


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodBrief:
    """A food in a list."""

    id: uuid.UUID
    name: str
    group: str
    state: FoodState
    method: str
    per_100g: AmountsView
    allergens: list[str]
    weak: bool
    own: bool
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodPage:
    """Foods found, and how many there are in all."""

    total: int
    foods: list[FoodBrief]


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureView:
    """A household measure."""

    name: str
    grams: float
    source: str
    note: str
    own: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PackView:
    """A pack as bought; `covers_g` is what is used of it [g], and `price_per_100g` the price of that."""

    name: str
    grams: float
    drained_g: float | None
    covers_g: float
    price: float | None
    price_per_100g: float | None
    shop: str
    seen_on: date | None
    sold: Sold


_Figures: Any = make_dataclass(
    "_Figures", [(name, float | None, None) for name in LABEL_FIGURES], frozen=True, slots=True, kw_only=True
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelView(_Figures):  # type: ignore[misc]  # a field for each figure that a label may print
    """A label as it was typed; `serving_g` follows where it is for millilitres."""

    serving_g: float
    carbohydrate: Carbohydrate
    rounding: Rounding
    serving_ml: float | None = None
    ml_weighs_g: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingView:
    """Energy by one way of counting the fibre."""

    words: str
    kcal: float
    agrees: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class AuditView:
    """Stated kcal of 100 g against its macros. `words` says what is wrong, "" when they agree."""

    stated_kcal: float
    implied_kcal: float
    words: str
    readings: list[ReadingView]


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodYieldView:
    """An expected yield by method; `of_group` when it is the default of the food's group."""

    method: str
    of_group: bool
    expected: YieldView


@dataclass(frozen=True, slots=True, kw_only=True)
class EdibleView:
    """What is trimmed, peeled or boned off, for the form of the note."""

    refuse_share: float
    note: str
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherState:
    """The same food in another state."""

    id: uuid.UUID
    name: str
    state: FoodState
    method: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodDetail:
    """Everything known of a food. `stated_kcal` is the source's own figure, by its own rule.

    `carbohydrate` tells which carbohydrate the figures of `food` are: total or available. `contradictions` are what
    its label says twice and not alike.
    """

    food: FoodBrief
    carbohydrate: Carbohydrate
    alcohol_g: float | None
    polyols_g: float | None
    stated_kcal: float | None
    missing: list[str]
    diet_tags: list[str]
    source: str
    source_detail: str
    note: str
    other_names: str
    measures: list[MeasureView]
    packs: list[PackView]
    yields: list[MethodYieldView]
    edible: list[EdibleView]
    other_states: list[OtherState]
    label: LabelView | None
    audit: AuditView | None
    contradictions: list[str]
    version: int
    used_in: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodFacets:
    """What the pantry can be filtered by, with counts."""

    groups: dict[str, int]
    states: dict[str, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class BadLine:
    """A line of a file that cannot be used, and why."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Duplicate:
    """A food of the file that is here already."""

    line: int
    name: str
    known: FoodBrief


@dataclass(frozen=True, slots=True, kw_only=True)
class ImportView:
    """A file of foods: its headings, how they are read, what is good, bad or known; and how many were saved."""

    headings: list[str]
    columns: dict[str, str]
    layout: str
    good: int
    bad: list[BadLine]
    duplicates: list[Duplicate]
    sample: list[FoodBrief]
    saved: int
