"""The packs in which foods are bought, and what they cost."""

from __future__ import annotations

import math
import uuid
from collections import defaultdict
from collections.abc import Collection

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.shopping.packs import PackOffer, Packs, Sold, covering, covers_g
from yantai.store import tables
from yantai.work.common.workspace import read_workspace


class Market:
    """The packs in which foods are bought here, the smallest first, and which of them cover a need."""

    def __init__(self, session: Session, foods: Collection[uuid.UUID]) -> None:
        self._most_left_share = read_workspace(session).most_left_share
        self._packs: dict[uuid.UUID, list[tables.Pack]] = defaultdict(list)
        query = select(tables.Pack).where(tables.Pack.food_id.in_(foods)).order_by(tables.Pack.grams, tables.Pack.name)
        for pack in session.scalars(query):
            self._packs[pack.food_id].append(pack)

    @property
    def foods(self) -> Collection[uuid.UUID]:
        """The foods that have packs."""
        return self._packs

    def packs(self, food_id: uuid.UUID) -> list[tables.Pack]:
        """The packs that are chosen from: those whose price is known, or all where none is."""
        packs = self._packs.get(food_id, [])
        return [pack for pack in packs if pack.price is not None] or packs

    def is_priced(self, food_id: uuid.UUID) -> bool:
        """Whether what the food costs is known."""
        packs = self.packs(food_id)
        return bool(packs) and packs[0].price is not None

    def passed_over(self, food_id: uuid.UUID) -> list[tables.Pack]:
        """The packs that are not chosen from, for their price is not known and that of others is."""
        chosen = self.packs(food_id)
        return [pack for pack in self._packs.get(food_id, []) if pack not in chosen]

    def offers(self, food_id: uuid.UUID) -> tuple[PackOffer, ...]:
        """The same as the choice of them sees them."""
        return tuple(
            PackOffer(
                covers_g=covers_g(pack.grams, pack.drained_g),
                price_cents=None if pack.price is None else round(pack.price * 100),
                by_weight=pack.sold is Sold.WEIGHT,
            )
            for pack in self.packs(food_id)
        )

    def most_left_g(self, need_g: float) -> float:
        """What may be left over of packs that cover a need [g]."""
        return math.inf if self._most_left_share is None else self._most_left_share * need_g

    def choices(self, food_id: uuid.UUID, need_g: float) -> tuple[Packs, ...]:
        """What covers a need [g]; the first is what is bought."""
        return covering(need_g, self.offers(food_id), self.most_left_g(need_g))

    def price(self, food_id: uuid.UUID, need_g: float) -> float | None:
        """What 100 g of a food cost of the packs that cover a need [g]; None where it is not known."""
        choices = self.choices(food_id, max(need_g, 1.0))
        cents = choices[0].cost_cents if choices else None
        return None if cents is None else cents / (max(need_g, 1.0) + choices[0].left_g)
