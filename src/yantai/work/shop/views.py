"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal

from yantai.core.shopping.house import Entry, Keeping
from yantai.core.shopping.packs import Sold
from yantai.work.batches.inputs import Change
from yantai.work.recipes.views import ProposalView


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppedBatch:
    """A batch that is, or may be, shopped for."""

    id: uuid.UUID
    name: str
    cook_on: date


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedView:
    """A line of a component that needs a food [g as purchased]; an extra of a client's day has no component."""

    line_id: uuid.UUID
    batch_id: uuid.UUID
    batch: str
    component_id: uuid.UUID | None
    component: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PackCount:
    """So many packs of a kind; `grams` is what one of them gives of the need [g].

    What is sold by weight is one pack of what is needed; of pieces, `grams` are about what one weighs.

    `shop` is "" where it costs the same everywhere; `is_old`: its price was seen long ago, or nobody knows when.
    """

    name: str
    grams: float
    count: int
    shop: str
    price: float | None
    seen_on: date | None
    is_old: bool
    sold: Sold = Sold.PACK


@dataclass(frozen=True, slots=True, kw_only=True)
class PacksView:
    """Whole packs that cover a need, what is left over of them [g], and their cost; None where a price is not known."""

    packs: list[PackCount]
    left_g: float
    cost: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class InHouse:
    """So much [g] of a lot that the batches of a list take."""

    lot_id: uuid.UUID
    words: str
    grams: float
    place: Keeping
    use_by: date | None
    frozen_on: date | None


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldView:
    """So much [g] of what is in the house that a batch which is cooked before takes."""

    batch: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class EnoughView:
    """How sure all pots of a food suffice with the packs of a choice, one more (`packs` 1) or one fewer (-1)."""

    packs: int
    grams: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemView:
    """A food of a list [g as purchased]: what is needed of it, what of that is in the house, and what is to buy.

    The first of `choices` is bought: what costs least and leaves no more over than the kitchen allows. Each other is
    cheaper, or leaves less over; a food without packs, or of which nothing is to buy, has none. `leaves_more`: nothing
    leaves as little as is allowed. `passed_over` are packs without a price beside others that have one. `by_net`: it is
    drained, and the drained weight of a pack is not known, so the net weight is counted. `ask_staple`: it is used by
    the spoon, and nobody has said yet whether it is always in the house. `enough` is told of a food that goes into
    pots whose yields spread: the rest of each follows it in proportion. `picked` is what is to buy as it is
    picked up, "about 2 bunches"; "" where nothing fits. `pot_id` is the only pot that it goes into, where it is not
    weighed: whole packs can decide how much is cooked.
    """

    food_id: uuid.UUID
    name: str
    state: str
    aisle: str
    in_cupboard: bool
    ask_staple: bool
    buy_early: bool
    keeps_days: int | None
    grams: float
    needs: list[NeedView]
    in_house_g: float
    in_house: list[InHouse]
    held: list[HeldView]
    to_buy_g: float
    picked: str
    pot_id: uuid.UUID | None
    choices: list[PacksView]
    passed_over: tuple[str, ...] = ()
    leaves_more: bool = False
    enough: list[EnoughView]
    by_net: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingList:
    """Each food of some batches once, in the order of the aisles.

    `cost` is that of the foods to buy whose packs have prices, None where none has; `without_price` counts the others.
    `others` are open batches that may be bought for in the same trip; `in_the_pan` are components that are weighed
    already, and `always_there` foods that the coach said are always in the house. `trip_id` is a trip for one of the
    batches that is going on.
    """

    batches: list[ShoppedBatch]
    others: list[ShoppedBatch]
    items: list[ItemView]
    cost: float | None
    without_price: int
    in_the_pan: list[str]
    always_there: list[str]
    trip_id: uuid.UUID | None
    currency: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LotView:
    """So much of a food in the house [g, drained where the food is].

    `worth` is the share of what was paid for it; `days_left` is below 0 where its day is over.
    """

    id: uuid.UUID
    food_id: uuid.UUID
    name: str
    state: str
    words: str
    grams: float
    pack_g: float | None
    place: Keeping
    opened: bool
    use_by: date | None
    days_left: int | None
    frozen_on: date | None
    paid: float | None
    worth: float | None
    arrived_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeOf:
    """A recipe that uses a food."""

    id: uuid.UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class UseUp:
    """A food that expires within days, and the recipes that use it."""

    food_id: uuid.UUID
    name: str
    grams: float
    use_by: date
    recipes: list[RecipeOf]


@dataclass(frozen=True, slots=True, kw_only=True)
class StapleView:
    """A food of which the coach said whether it is always in the house."""

    food_id: uuid.UUID
    name: str
    is_always_there: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseView:
    """What is in the house, what hurries first; `worth` is of the lots whose price is known, None where none is."""

    lots: list[LotView]
    use_up: list[UseUp]
    staples: list[StapleView]
    worth: float | None
    without_price: int


@dataclass(frozen=True, slots=True, kw_only=True)
class EntryView:
    """What happened to a lot: it changed by so much [g]. `is_taken_back` where it was undone."""

    act: uuid.UUID
    kind: Entry
    grams: float
    batch: str | None
    note: str
    made_by: str
    made_at: datetime
    is_taken_back: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseChange:
    """The house after something was done, and the act by which it is taken back."""

    act: uuid.UUID
    house: HouseView


@dataclass(frozen=True, slots=True, kw_only=True)
class ArrivalView:
    """What a line about something that came in is taken to mean; what was not said is assumed, and `assumed` says it.

    `trouble` is a sentence about a part that is not understood, "" where all is.
    """

    line: ProposalView
    pack_g: float | None
    place: Keeping
    opened: bool
    use_by: date | None
    frozen_on: date | None
    paid: float | None
    assumed: str
    trouble: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PackBoughtView:
    """So many packs of a size [g], and the price of one."""

    name: str
    grams: float
    count: int
    price: float | None
    shop: str
    sold: Sold = Sold.PACK


@dataclass(frozen=True, slots=True, kw_only=True)
class BoughtView:
    """What was put into the basket: which food, how much of it [g], in which packs, and what they cost."""

    food_id: uuid.UUID
    name: str
    grams: float
    packs: list[PackBoughtView]
    cost: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemStateView:
    """How it stands with an item of a trip.

    `doubly` says that several people put it into their baskets without knowing of each other. `was_g` is what was to
    buy of it when the trip began [g], where the plan has changed since.
    """

    item: uuid.UUID
    bought: BoughtView | None
    bought_by: list[str]
    doubly: bool
    is_missing: bool
    note: str
    was_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnItem:
    """Something on the list that no batch needs: it was added by hand."""

    item: uuid.UUID
    name: str
    state: ItemStateView


@dataclass(frozen=True, slots=True, kw_only=True)
class DroppedItem:
    """A food that was to buy when the trip began, or is in the basket, and that no batch needs any more."""

    item: uuid.UUID
    name: str
    was_g: float
    bought: BoughtView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TillItem:
    """An item of which what was paid is known, and what it was to cost."""

    name: str
    expected: float
    paid: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TillView:
    """What was paid against the list; `unexplained` is beyond all that is known of the items: a discount, a bag."""

    expected: float
    paid: float | None
    without_price: int
    items: list[TillItem]
    unexplained: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripBrief:
    """A trip: for which batches, and when it began and ended."""

    id: uuid.UUID
    batches: list[ShoppedBatch]
    started_at: datetime
    started_by: str
    finished_at: datetime | None
    paid: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripView:
    """A trip as it is walked: the list as it is now (`shopping`), and how it stands with each item.

    `states` are those of the items of the list, in its order; of a finished trip both stay as they were then.
    """

    trip: TripBrief
    shopping: ShoppingList
    states: list[ItemStateView]
    own: list[OwnItem]
    dropped: list[DroppedItem]
    till: TillView


@dataclass(frozen=True, slots=True, kw_only=True)
class NotedView:
    """What followed from something that was noted, in sentences; [] where nothing did."""

    told: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SubstituteView:
    """A food that could be bought instead, tried in every plan: all that was met stays met.

    `grams` is what is needed of it then, over all batches of the trip; `detail` compares its macros.
    """

    food_id: uuid.UUID
    name: str
    state: str
    grams: float
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LineCost:
    """What a food costs in one component [g as purchased]."""

    component_id: uuid.UUID | None
    component: str
    grams: float
    cost: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodCost:
    """What a food costs a batch: the used share of packs and lots.

    `paid` is what the packs cost that are to be bought, `left` what of them is left over and stays in the house;
    `from_house` is what was in the house already. `unpriced_g` are grams of which no price is known.
    """

    food_id: uuid.UUID
    name: str
    grams: float
    used: float
    paid: float
    left: float
    from_house: float
    unpriced_g: float
    lines: list[LineCost]


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentCost:
    """What a component costs: all of it, and 100 g of what is cooked."""

    component_id: uuid.UUID
    name: str
    cost: float
    per_100g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RowCost:
    """What the containers of a class cost: all of them, and each one, from `each_low` to `each_high` by a hundredth."""

    row_id: uuid.UUID
    client_id: uuid.UUID
    client: str
    dish: str
    slot: str
    day_type: str
    count: int
    cost: float
    each_low: float
    each_high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientCost:
    """What a client's containers cost."""

    client_id: uuid.UUID
    name: str
    containers: int
    cost: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CostView:
    """What a batch costs: `used` is what is cooked, in containers and spare; `paid` what packs to be bought cost.

    Foods add up to `used`, rows and `spare` too, clients to what is in containers: to the hundredth. `check` says
    whether a stated cost of a container multiplies back to the total, "" where none was stated.
    """

    used: float
    in_containers: float
    spare: float
    paid: float
    left: float
    from_house: float
    per_container: float | None
    per_100g_protein: float | None
    foods: list[FoodCost]
    components: list[ComponentCost]
    rows: list[RowCost]
    clients: list[ClientCost]
    without_price: list[str]
    check: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CheaperView:
    """A way to make a batch cheaper, solved: every container that meets its target still does.

    `kind` is food or component (another in the place of one), waste (less is left over of packs), or together: bought
    with another batch, whose id is `with_id`. `changes` are what takes it, [] where it is only told.
    """

    kind: Literal["food", "component", "waste", "together"]
    title: str
    detail: str
    saving: float
    changes: list[Change]
    with_id: uuid.UUID | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AisleOrder:
    """The aisles in the order in which they are walked; `is_own` where the coach set it."""

    aisles: list[str]
    is_own: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PriceView:
    """A price that was seen: of a pack in a shop, and of 100 g of it."""

    seen_on: date | None
    noted_at: datetime
    shop: str
    pack: str
    grams: float
    price: float
    per_100g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthView:
    """What came and went of a food in a month [g], by the ledger; `thrown_worth` is what the thrown part cost."""

    month: date
    bought_g: float
    used_g: float
    thrown_g: float
    thrown_worth: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodHistory:
    """A food over time: its prices and its amounts by month, the oldest first."""

    food_id: uuid.UUID
    name: str
    prices: list[PriceView]
    months: list[MonthView]


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryOfYear:
    """A year of buying: what was paid at the till, what lots that came in cost, what was thrown away and its worth."""

    year: int
    paid_at_tills: float
    bought_worth: float
    thrown_g: float
    thrown_worth: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingHistory:
    """Prices and amounts over time by food, and each year's total, the newest first."""

    foods: list[FoodHistory]
    years: list[HistoryOfYear]
