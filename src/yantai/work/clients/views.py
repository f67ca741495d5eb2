"""Clients, their targets and days as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime

from yantai.core.targets.targets import Figures
from yantai.work.common.views import AmountsView, GaugeView


@dataclass(frozen=True, slots=True, kw_only=True)
class ToleranceView:
    """How far a container may be off and still count as met: amounts, or percent of the target."""

    percent: bool
    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float
    priority_kcal: float
    priority_protein_g: float
    priority_carbohydrate_g: float
    priority_fat_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanTarget:
    """The figures of a target or a day; None is not aimed at, or no limit."""

    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    fibre_g: float | None
    saturated_g: float | None
    sodium_mg: float | None

    @classmethod
    def of(cls, figures: Figures) -> PlanTarget:
        """The view of the core's figures."""
        return PlanTarget(**figures.by_name)


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetView(PlanTarget):
    """What one container shall hold; with a `day_share` the figures follow from the day of its type."""

    id: uuid.UUID
    slot: str
    day_type: str
    day_share: float | None
    capacity_ml: float | None
    capacity_g: float | None
    plate_g: float | None
    conflict: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MacroFigures:
    """Energy [kcal] and macros [g]."""

    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SuggestionView:
    """Suggested targets with their formulas; or, where none may be suggested, whom to refer to and why."""

    referral: str | None
    steps: list[str]
    warnings: list[str]
    day: MacroFigures | None
    container: MacroFigures | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DayExtraView:
    """A food eaten outside the containers, with what it holds."""

    food_id: uuid.UUID
    name: str
    grams: float
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class DayTargetView(PlanTarget):
    """What a whole day of one type shall hold, its extras included."""

    day_type: str
    extras: list[DayExtraView]


@dataclass(frozen=True, slots=True, kw_only=True)
class AtHandView:
    """A food that may fill up a day, a serving of it [g], and how many a day at most. What is `kept_out` by words of
    the client is not proposed."""

    food_id: uuid.UUID
    name: str
    serving_g: float
    most: int
    kept_out: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetsThen:
    """What a change of a client's targets changed, in words, when and by whom."""

    since: datetime
    changed_by: str
    lines: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class WiderView:
    """A word that may be meant as well, and the foods it would keep out besides."""

    word: str
    foods: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class WordView:
    """What a word keeps out of this kitchen's foods: their names, each once. `spelling` is what it may be a slip of."""

    word: str
    foods: list[str]
    wider: list[WiderView]
    spelling: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientBoundView:
    """What a client has at most of components of this name in one container [g]."""

    word: str
    maximum_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientView:
    """A client with targets; `kitchen` is what they have at home, `health` is for nobody but the coach."""

    id: uuid.UUID
    name: str
    note: str
    allergens: list[str]
    dislikes: list[str]
    exclusions: list[str]
    tolerance: ToleranceView
    days: list[DayTargetView]
    targets: list[TargetView]
    at_hand: list[AtHandView]
    signed_off_by: str
    signed_off_on: date | None
    bounds: list[ClientBoundView]
    email: str
    likes: list[str]
    goals: str
    kitchen: str
    health: str
    version: int


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaledView:
    """A container target before and after it was sized by a factor."""

    name: str
    factor: float
    before: PlanTarget
    after: PlanTarget


@dataclass(frozen=True, slots=True, kw_only=True)
class DayPart:
    """Something eaten on a day. `kind` is "extra"; "container" of a batch; or "target", as aimed at."""

    kind: str
    name: str
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUpFood:
    """Servings of a food, in grams together."""

    name: str
    servings: int
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUpView:
    """Foods at hand that bring a day nearer to what it shall hold, what it holds with them, and whether then nothing
    is missed."""

    foods: list[FillUpFood]
    total: AmountsView
    closes: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DayInstead:
    """Another container for a meal of the day: with it in place of the one counted, the day holds this."""

    name: str
    total: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class DailyAimView:
    """How a day stands to what the coach aims at for every day; `aim` is None where nothing is set, and `missed` where
    nobody can say."""

    name: str
    unit: str
    side: str
    aim: float | None
    amount: float
    at_least: bool
    missed: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DayView:
    """A client's day of one type against what it shall hold; `left` is what its extras leave for the containers.

    `aims` are the coach's for every day, where the day sets none of its own. `instead` are containers of the same meal
    that another day of this type gets. `fill_ups` are tried.
    """

    client_id: uuid.UUID | None
    client: str
    day_type: str
    target: PlanTarget
    left: PlanTarget
    parts: list[DayPart]
    total: AmountsView
    gauges: list[GaugeView]
    aims: list[DailyAimView]
    instead: list[DayInstead]
    fill_ups: list[FillUpView]
    notes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class DaysPreview:
    """The days of a client as typed, and the figures of each target in order: those typed, or its share of a day."""

    days: list[DayView]
    targets: list[PlanTarget]
