"""A trip to the shops as it is walked: what several people noted about its items, put together."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from yantai.core.shopping.packs import Sold


class TripEvent(StrEnum):
    """What can be noted about an item of a list."""

    BOUGHT = "bought"
    NOT_BOUGHT = "not bought"
    MISSING = "not there"
    NOTE = "note"
    ADDED = "added"
    REMOVED = "removed"


@dataclass(frozen=True, slots=True, kw_only=True)
class PackBought:
    """So many packs of a size [g of the food, drained where it is]; the price of one in hundredths, None if unknown.

    What is sold by weight is one pack of what was weighed.
    """

    name: str
    grams: float
    count: int
    price_cents: int | None = None
    shop: str = ""
    sold: Sold = Sold.PACK


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought:
    """What was put into the basket: which food, how much of it [g], in which packs."""

    food: str
    grams: float
    packs: tuple[PackBought, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Noted:
    """Something that somebody noted about an item.

    Attributes:
        at: when it happened, as a time that grows [s].
        number: the order in which it arrived here.
        item: the item's key: that of its food, or one of its own where it was added by hand.
        text: the note, or the name of what was added.
    """

    at: float
    number: int
    by: str
    item: str
    event: TripEvent
    bought: Bought | None = None
    text: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemState:
    """How it stands with an item.

    Attributes:
        bought: None while it is not in the basket.
        bought_by: everybody who put it there since it was last taken out, the first first.
        doubly: it was put there more than once, by several people who did not know of each other, of different amounts
            perhaps; the latest counts.
        is_own: it was added by hand, and `text` is its name.
    """

    item: str
    bought: Bought | None = None
    bought_by: tuple[str, ...] = ()
    is_missing: bool = False
    note: str = ""
    text: str = ""
    is_own: bool = False
    is_removed: bool = False

    @property
    def doubly(self) -> bool:
        """Several people put it into their baskets."""
        return len(set(self.bought_by)) > 1


def put_together(noted: Iterable[Noted]) -> dict[str, ItemState]:
    """The items of a trip by their keys, from everything that was noted, in whatever order it arrived.

    Of each thing (in the basket or not, the note) the one that happened last counts; of two at the same time the one
    that arrived last. So two phones that were away at once agree when both are back.

    >>> feta = Bought(food="feta", grams=400)
    >>> one = Noted(at=1, number=1, by="Tamsin", item="feta", event=TripEvent.BOUGHT, bought=feta)
    >>> put_together([one])["feta"].bought.grams
    400
    """
    found: dict[str, ItemState] = {}
    for one in sorted(noted, key=lambda each: (each.at, each.number)):
        before = found.get(one.item, ItemState(item=one.item))
        found[one.item] = _after(before, one)
    return found


def _after(state: ItemState, one: Noted) -> ItemState:
    match one.event:
        case TripEvent.BOUGHT:
            return replace(state, bought=one.bought, bought_by=(*state.bought_by, one.by), is_missing=False)
        case TripEvent.NOT_BOUGHT:
            return replace(state, bought=None, bought_by=(), is_missing=False)
        case TripEvent.MISSING:
            return replace(state, bought=None, bought_by=(), is_missing=True)
        case TripEvent.NOTE:
            return replace(state, note=one.text)
        case TripEvent.ADDED:
            return replace(state, text=one.text, is_own=True, is_removed=False)
        case TripEvent.REMOVED:
            return replace(state, is_removed=True)


def paid_cents(bought: Bought) -> int | None:
    """What packs cost by their prices, in hundredths; None where one has none."""
    prices = [None if pack.price_cents is None else pack.price_cents * pack.count for pack in bought.packs]
    known = [price for price in prices if price is not None]
    return sum(known) if prices and len(known) == len(prices) else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Till:
    """What was paid against what was expected, in hundredths.

    Attributes:
        expected: what the items in the basket were to cost; those without a price cost nothing here.
        without_price: items of which nothing is known: neither a price nor what was paid.
        differences: for each item of which what was paid is known, how much more it cost than expected.
        unexplained: what is paid beyond all that is known of the items: a discount, a bag, a slip.
    """

    expected: int
    paid: int | None
    without_price: int
    differences: dict[str, int]
    unexplained: int | None


def at_the_till(expected: Sequence[tuple[str, int | None]], paid_items: dict[str, int], paid: int | None) -> Till:
    """The receipt against the list: items by key with what they were to cost, what was paid for some, and the total.

    >>> found = at_the_till([("feta", 380), ("rice", None)], {"feta": 400}, 615)
    >>> found.expected, found.differences, found.unexplained, found.without_price
    (380, {'feta': 20}, 215, 1)
    """
    known = {key: price for key, price in expected if price is not None}
    total = sum(known.values())
    differences = {key: paid_items[key] - known[key] for key in known if key in paid_items}
    by_item = {**known, **paid_items}
    return Till(
        expected=total,
        paid=paid,
        without_price=sum(1 for key, _ in expected if key not in by_item),
        differences=differences,
        unexplained=None if paid is None else paid - sum(by_item.values()),
    )
