"""What was eaten and left by a client, as it is shown to the coach."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from yantai.core.storage.eating import EatingEvent


class DayTold(StrEnum):
    """How much of a day's containers was told."""

    ALL = "all"
    SOME = "some"
    NONE = "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class MacrosView:
    """Energy [kcal] and macros [g] of a day; None is not aimed at."""

    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenDayView:
    """A day of a client: what its containers were planned to hold, what they were filled with, and what was eaten of
    them; with `beside`, which nobody weighs, each is the whole day.

    `eaten` is known where all was told. `target` is that of the day, or of its containers together where the client has
    no day of this kind; None where neither is. Of a day with containers of several batches `beside` counts foods only:
    a meal that one lacks may be the other's.
    """

    on: date
    day_type: str
    containers: int
    told: DayTold
    planned: MacrosView
    filled: MacrosView
    eaten: MacrosView | None
    target: MacrosView | None
    beside: MacrosView


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenPartView:
    """A part of a container: what there was of it, and what was left as told by part [g]."""

    component_id: uuid.UUID
    name: str
    grams: float
    left_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenContainerView:
    """A container with what became of it; `told` is None where nobody said so, `left` is how much was left in words."""

    batch_id: uuid.UUID
    row_id: uuid.UUID
    container: int
    of: int
    on: date
    dish: str
    meal: str
    grams: float
    told: EatingEvent | None
    left: str
    by_client: bool
    parts: list[EatenPartView]


@dataclass(frozen=True, slots=True, kw_only=True)
class HabitView:
    """Something that is left again and again. `maximum_g` is a most that would leave it out of the bin [g];
    `word` is what it would be bound by, and `bound_g` is what binds it already."""

    words: str
    word: str
    times: int
    of: int
    maximum_g: float
    bound_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxesView:
    """Containers of the house that a client has, by kind; `deposit` is what they left for these, "" without one."""

    kind_id: uuid.UUID
    name: str
    count: int
    deposit: str


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenWeeksView:
    """The weeks of a client, `since` a day: what was eaten, what was left, and what they still have."""

    client_id: uuid.UUID
    client: str
    since: date
    today: date
    days: list[EatenDayView]
    containers: list[EatenContainerView]
    habits: list[HabitView]
    boxes: list[BoxesView]
    deposit: str
