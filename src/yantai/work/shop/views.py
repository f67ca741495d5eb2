"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppedBatch:
    """A batch that is, or may be, shopped for."""

    id: uuid.UUID
    name: str
    cook_on: date


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedView:
    """A line of a component that needs a food: grams as purchased [g]."""

    line_id: uuid.UUID
    batch_id: uuid.UUID
    batch: str
    component: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PackCount:
    """So many packs of a kind; `grams` is what one of them gives of the need [g]."""

    name: str
    grams: float
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PacksView:
    """Whole packs that cover a need, what is left over of them [g], and their cost; None where a price is not known."""

    packs: list[PackCount]
    left_g: float
    cost: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemView:
    """A food to buy [g as purchased]: where it stands, in which packs, and what it is for.

    The first of `choices` costs least, each further one leaves less over; a food without packs has none. `by_net`: it
    is drained, and the drained weight of a pack is not known, so the net weight is counted.
    """

    food_id: uuid.UUID
    name: str
    state: str
    aisle: str
    in_cupboard: bool
    buy_early: bool
    keeps_days: int | None
    grams: float
    needs: list[NeedView]
    choices: list[PacksView]
    by_net: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingList:
    """Each food of some batches once, in the order of the aisles.

    `cost` is that of the foods whose packs have prices, None where none has; `without_price` counts the others.
    `others` are open batches that may be bought for in the same trip; `in_the_pan` are components that are weighed
    already.
    """

    batches: list[ShoppedBatch]
    others: list[ShoppedBatch]
    items: list[ItemView]
    cost: float | None
    without_price: int
    in_the_pan: list[str]
