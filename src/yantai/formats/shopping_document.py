"""A shopping list as an open document (JSON): what is needed, what is in the house, what to buy in which packs."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from yantai.core.shopping.packs import Sold


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class ShoppingNeed(_Model):
    """What a component of a batch needs of a food [g as purchased]."""

    batch: str
    component: str
    grams: Annotated[float, Field(ge=0)]


class ShoppingPacks(_Model):
    """So many packs of a size, what one gives of the need [g, drained where the food is], and its price in a shop.

    What is sold by weight is one pack of what is to be weighed; a piece weighs about that.
    """

    name: str
    grams: Annotated[float, Field(gt=0)]
    count: Annotated[int, Field(ge=1)]
    price: float | None = None
    shop: str = ""
    seen_on: date | None = None
    sold: Sold = Sold.PACK


class ShoppingItem(_Model):
    """A food of the list: `needed_g` is the sum of its needs, `to_buy_g` what of it is not in the house [g]."""

    food_id: uuid.UUID
    food: str
    state: str
    aisle: str
    needed_g: Annotated[float, Field(ge=0)]
    in_house_g: Annotated[float, Field(ge=0)]
    to_buy_g: Annotated[float, Field(ge=0)]
    picked: str = ""
    packs: list[ShoppingPacks] = []
    left_g: float | None = None
    cost: float | None = None
    needs: list[ShoppingNeed]


class ShoppingBatch(_Model):
    """A batch that is bought for."""

    id: uuid.UUID
    name: str
    cook_on: date


class ShoppingDocument(_Model):
    """A list for one or several batches, its items in the order in which the shop is walked.

    `currency` are three letters, None where nobody has set them; `cost` is that of the items of which it is known.
    """

    format: Literal["yantai-shopping"] = "yantai-shopping"
    version: Literal[2] = 2
    currency: str | None = None
    batches: list[ShoppingBatch]
    items: list[ShoppingItem]
    cost: float | None = None
