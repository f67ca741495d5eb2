"""A plan looked at: ways, reach, comparison."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime

from yantai.work.batches.inputs import Change
from yantai.work.common.views import AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class WayView:
    """A change that lets a container meet its target, proven by solving again.

    `moved` is the share of the plate that then lies elsewhere, `changes` what accepts it, empty where it is only told.
    """

    kind: str
    title: str
    detail: str
    moved: float
    changes: list[Change]


@dataclass(frozen=True, slots=True, kw_only=True)
class PointView:
    """A point of the reach map: a component or a target by name, with its energy shares and place in the triangle."""

    name: str
    protein: float
    carbohydrate: float
    fat: float
    x: float
    y: float
    inside: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReachView:
    """The reach map of a batch: components as corners, their hull in order, the targets."""

    components: list[PointView]
    hull: list[int]
    targets: list[PointView]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledRow:
    """How many containers of one row the known amounts fill, and how many are planned."""

    row_id: uuid.UUID
    name: str
    planned: int
    fills: int


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledView:
    """How far the known amounts go, and in words what is then left of each."""

    rows: list[FilledRow]
    left: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedComponent:
    """A component in two batches: cooked weight [g] and yield; None where a batch does not have it."""

    name: str
    now_g: float | None
    then_g: float | None
    now_yield: float | None
    then_yield: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedCell:
    """Grams of one component in one container of two batches [g]; None where there is no such cell."""

    now_g: float | None
    then_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedRow:
    """The containers of one client, meal and kind of day in two batches; cells in the order of the components."""

    name: str
    now_count: int
    then_count: int
    cells: list[ComparedCell]
    now: AmountsView | None
    then: AmountsView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedView:
    """Two batches side by side: this one, and another, planned or packed."""

    other: str
    cook_on: date
    packed_at: datetime | None
    components: list[ComparedComponent]
    rows: list[ComparedRow]


@dataclass(frozen=True, slots=True, kw_only=True)
class ImportedPlan:
    """The batch that a plan document became, and what to know of how it was taken in."""

    batch_id: uuid.UUID
    name: str
    notes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SwitchedView:
    """What a switch of the rules does to one thing: 100 g of a component, a container, or a food."""

    kind: str
    name: str
    before: AmountsView
    after: AmountsView
