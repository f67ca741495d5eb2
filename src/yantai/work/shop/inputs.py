"""What is sent while food is bought and kept."""

from __future__ import annotations

import uuid
from datetime import date
from enum import StrEnum
from typing import Annotated

from pydantic import AwareDatetime, Field

from yantai.core.shopping.house import Keeping
from yantai.core.shopping.packs import Sold
from yantai.core.shopping.trip import TripEvent
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Note, Number, Range, Text, Weight, Whole

MOST_LOTS = 100
LotGrams = Annotated[Weight, Range(0.1, 1_000_000, "g")]


class ArrivalsInput(Payload):
    """Lines about what came into the house, as they were written."""

    text: Note


class LotInput(Payload):
    """So much of a food that came into the house [g, drained where the food is]; `paid` is the price of all of it."""

    food_id: uuid.UUID
    words: Text = ""
    grams: LotGrams
    pack_g: Annotated[Weight | None, Range(0.1, 1_000_000, "g")] = None
    place: Keeping
    opened: bool = False
    use_by: date | None = None
    frozen_on: date | None = None
    paid: Annotated[Number | None, Range(0, 100_000, "")] = None


class LotsInput(Payload):
    """What came into the house at once."""

    lots: list[LotInput] = Field(min_length=1, max_length=MOST_LOTS)


class LotChange(Payload):
    """Where a lot is, whether it is open, and until when it keeps. Its grams are changed by entries only."""

    place: Keeping
    opened: bool
    use_by: date | None = None
    frozen_on: date | None = None


class Told(StrEnum):
    """What a person tells of a lot."""

    THROWN = "thrown away"
    COUNTED = "counted"
    USED = "used"


class EntryInput(Payload):
    """What happened to a lot: so much [g] was used or thrown away, or that is what was counted."""

    kind: Told
    grams: Annotated[Weight, Range(0, 1_000_000, "g")]
    note: Text = ""


class DivideInput(Payload):
    """A lot is divided into bags of one weight [g]; what is not in them stays in the lot."""

    bags: Annotated[Whole, Range(1, 200, "")]
    bag_g: LotGrams
    place: Keeping
    frozen_on: date | None = None
    use_by: date | None = None


class StapleInput(Payload):
    """Whether a food is always in the house; None asks again."""

    is_always_there: bool | None


class TripInput(Payload):
    """The batches that are bought for in one trip. `fresh` are parts added at eating, `extras` those of the clients'
    days: bought too, or not."""

    batches: list[uuid.UUID] = Field(min_length=1, max_length=20)
    fresh: bool = True
    extras: bool = False


class PackBoughtInput(Payload):
    """So many packs of a size [g of the food, drained where it is], and the price of one."""

    name: Text = ""
    grams: LotGrams
    count: Annotated[Whole, Range(1, 1000, "")]
    price: Annotated[Number | None, Range(0, 100_000, "")] = None
    shop: Text = ""
    sold: Sold = Sold.PACK


class BoughtInput(Payload):
    """What was put into the basket: which food, how much of it [g], in which packs."""

    food_id: uuid.UUID
    grams: LotGrams
    packs: list[PackBoughtInput] = Field(default_factory=list, max_length=20)


class TripEntryInput(Payload):
    """What somebody noted about an item of a trip, and when by the clock of the device."""

    item: uuid.UUID
    event: TripEvent
    bought: BoughtInput | None = None
    text: Text = ""
    happened_at: AwareDatetime | None = None
    sent_at: AwareDatetime | None = None


class PaidItem(Payload):
    """What was paid for an item."""

    item: uuid.UUID
    paid: Annotated[Number, Range(0, 100_000, "")]


class TillInput(Payload):
    """The receipt: its total, and what was paid for items where it is known. The trip is over then."""

    paid: Annotated[Number | None, Range(0, 1_000_000, "")] = None
    items: list[PaidItem] = Field(default_factory=list, max_length=4000)


class AislesInput(Payload):
    """Aisles in the order in which they are walked; none for the usual order."""

    aisles: list[Text] = Field(max_length=60)
