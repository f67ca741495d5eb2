"""Which packs of a food cover a need: at least cost, and what a little more money saves of what is left over."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cached_property, lru_cache

import numpy as np
import numpy.typing as npt

from yantai.core.errors import require_range
from yantai.core.portions.whole import WholeProgramme, solve_whole
from yantai.core.shopping.money import round_half_up


class Sold(StrEnum):
    """How a food is sold."""

    PACK = "by the pack"
    PIECE = "by the piece"
    WEIGHT = "by weight"


MOST_CHOICES = 3
MOST_LISTED = 20_000
"""So many combinations of packs are listed at most; of more the whole-number programme finds the least."""
Vector = npt.NDArray[np.float64]
Numbers = Vector | npt.NDArray[np.int64]
_NOISE_G = 0.05
"""Weights are told to the tenth of a gram: half of that is nothing, of a need and of what is left over."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PackOffer:
    """A pack in which a food is sold: `covers_g`, what one of it gives of the need [g], and its price in hundredths.

    A can covers by its drained weight where the need is of drained food. What is sold `by_weight` is taken to the gram:
    its price is that of `covers_g` of it.
    """

    covers_g: float
    price_cents: int | None
    by_weight: bool = False

    def __post_init__(self) -> None:
        require_range("covers_g", self.covers_g, low=0.1, high=1_000_000, unit="g in a pack")
        if self.price_cents is not None:
            require_range("price", self.price_cents, low=0, high=1e9, unit="hundredths")

    def price_of(self, grams: float) -> int | None:
        """What so many grams [g] of it cost, in hundredths."""
        if self.price_cents is None:
            return None
        return round_half_up(Fraction(self.price_cents) * Fraction(grams) / Fraction(self.covers_g))


@dataclass(frozen=True, slots=True, kw_only=True)
class Packs:
    """What covers a need: how many whole packs of each offer, and how much [g] of what is sold by weight; what is left
    over [g], and what all of it costs in hundredths."""

    counts: tuple[int, ...]
    weighed_g: tuple[float, ...]
    left_g: float
    cost_cents: int | None

    def grams(self, offers: Sequence[PackOffer]) -> list[float]:
        """What is bought of each offer [g]."""
        return [
            offer.covers_g * count + weighed_g
            for offer, count, weighed_g in zip(offers, self.counts, self.weighed_g, strict=True)
        ]


def covers_g(grams: float, drained_g: float | None) -> float:
    """What a pack of `grams` net [g] gives of its food: what it drains to, where that is known.

    >>> covers_g(400, 240), covers_g(400, None), covers_g(400, 0)
    (240, 400, 400)
    """
    return drained_g or grams


def pack_words(count: int, name: str, grams: float, sold: Sold) -> str:
    """Packs in a word or two, with what one of them weighs [g]; the number comes first.

    >>> pack_words(2, "tin", 240, Sold.PACK), pack_words(7, "courgette", 196, Sold.PIECE)
    ('2 x tin 240 g', '7 x courgette, about 196 g each')
    >>> pack_words(1, "loose", 1240, Sold.WEIGHT)
    '1240 g loose'
    """
    if sold is Sold.WEIGHT:
        return f"{round(grams, 1):g} g {name}"
    return f"{count} x {name} {grams:g} g" if sold is Sold.PACK else f"{count} x {name}, about {grams:g} g each"


@lru_cache(maxsize=4096)
def covering(need_g: float, offers: tuple[PackOffer, ...], most_left_g: float = math.inf) -> tuple[Packs, ...]:
    """The packs that cover `need_g` [g] at least cost and leave no more than `most_left_g` over; then other choices.

    The first is what is bought. The others are those on the way from the cheapest of all to dearer ones that leave
    less over, the cheapest first: each is the least of a whole-number programme (minimise Σ p n + c x such that
    Σ g n + x ≥ need, n whole, x what is taken by weight), and the next is the same with less left over than before. At
    equal cost the least is left over, then it is the fewest packs. Where nothing leaves so little over, the first is
    what leaves least. Where a price is not known nothing is known of any cost: then it is what leaves least, alone.

    >>> [found.counts for found in covering(1200, (PackOffer(covers_g=400, price_cents=310),))]
    [(3,)]
    """
    require_range("need_g", need_g, low=0, high=10_000_000, unit="g")
    if not offers or need_g <= 0:
        return ()
    question = _Question(need_g, offers)
    if any(offer.price_cents is None for offer in offers):
        found = question.least(math.inf, priced=False)
        return () if found is None else (found,)
    front = list(_front(question))
    if not front or front[0].left_g <= most_left_g + _NOISE_G:
        return tuple(front)
    first = question.least(most_left_g)
    if first is None:
        frugal = question.least(math.inf, priced=False)
        first = frugal and question.least(frugal.left_g + _NOISE_G)
    if first is None:
        return tuple(front)
    return (first, *(found for found in front if found != first))


def _front(question: _Question) -> Iterator[Packs]:
    """The cheapest choice, and dearer ones that leave less and less over."""
    most_left_g = math.inf
    for _ in range(MOST_CHOICES):
        found = question.least(most_left_g)
        if found is None:
            return
        yield found
        most_left_g = found.left_g - _NOISE_G
        if most_left_g < 0:
            return


class _Question:
    """A need [g] with the whole packs that may cover it, and the cheapest offer by weight, where there is one."""

    def __init__(self, need_g: float, offers: Sequence[PackOffer]) -> None:
        self._need_g, self._offers = need_g, offers
        self._whole = [place for place, offer in enumerate(offers) if not offer.by_weight]
        weighed = [place for place, offer in enumerate(offers) if offer.by_weight]
        self._weighed = min(weighed, key=lambda place: self._per_g(place), default=None)
        self._grams = np.array([offers[place].covers_g for place in self._whole])
        self._prices = np.array([offers[place].price_cents or 0 for place in self._whole], dtype=float)
        self._most = np.ceil(need_g / self._grams)

    def _per_g(self, place: int) -> float:
        offer = self._offers[place]
        return (offer.price_cents or 0) / offer.covers_g

    def least(self, most_left_g: float, *, priced: bool = True) -> Packs | None:
        """The cheapest choice that leaves no more than `most_left_g`; then what leaves least; then the fewest packs.
        Of what has no price, the cost does not count."""
        if not self._whole:
            return self._packs(np.zeros(0))
        if float(np.prod(self._most + 1)) <= MOST_LISTED:
            return self._listed(most_left_g, priced)
        return self._programmed(most_left_g, priced)

    @cached_property
    def _every(self) -> tuple[Numbers, Vector, Vector]:
        """Every combination of few packs, what is left over of each in noises, and what it costs with what is taken by
        weight; those that do not suffice are left out."""
        counts = tuple(int(count) + 1 for count in self._most)
        every: Numbers = np.indices(counts).reshape(len(self._grams), -1)
        left: Vector = self._grams @ every - self._need_g
        cost: Vector = self._prices @ every
        if self._weighed is None:
            fits = left >= -_NOISE_G
            every, left, cost = every[:, fits], left[fits], cost[fits]
        else:
            cost = cost + np.round(np.where(left < -_NOISE_G, -left, 0.0) * self._per_g(self._weighed), 6)
        return every, np.maximum(left, 0.0), cost

    def _listed(self, most_left_g: float, priced: bool) -> Packs | None:
        """The least of few packs, of which every combination is looked at."""
        every, left, cost = self._every
        fits = left <= most_left_g
        if not fits.any():
            return None
        every, noises = every[:, fits], np.round(left[fits] / _NOISE_G)
        aims = (every.sum(axis=0), noises, cost[fits]) if priced else (every.sum(axis=0), noises)
        return self._packs(every[:, np.lexsort(aims)[0]])

    def _programmed(self, most_left_g: float, priced: bool) -> Packs | None:
        """The least of many packs, by a whole-number programme; what is taken by weight is its last column."""
        n = len(self._grams)
        by_weight = [] if self._weighed is None else [self._weighed]
        grams = np.append(self._grams, [1.0 for _ in by_weight])
        # For what rounds to nothing no further pack is bought.
        rows, low, high = [grams], [self._need_g - _NOISE_G], [self._need_g + most_left_g]
        aims = [grams, np.append(np.ones(n), [0.0 for _ in by_weight])]
        if priced:
            aims.insert(0, np.append(self._prices, [self._per_g(place) for place in by_weight]))
        counts = None
        for aim in aims:
            answer = solve_whole(
                WholeProgramme(
                    cost=aim,
                    is_whole=np.arange(len(aim)) < n,
                    low=np.zeros(len(aim)),
                    high=np.append(self._most, [self._need_g for _ in by_weight]),
                    rows=np.array(rows),
                    row_low=np.array(low),
                    row_high=np.array(high),
                ),
                gap=0.0,
            )
            if answer is None:
                return None
            counts = np.append(np.round(answer[:n]), answer[n:])
            # What was found stands for the aims after it.
            rows.append(aim)
            low.append(-math.inf)
            high.append(float(aim @ counts) + _NOISE_G / 2)
        assert counts is not None
        return self._packs(counts[:n])

    def _packs(self, counts: Numbers) -> Packs:
        bought_g = float(self._grams @ counts)
        short_g = self._need_g - bought_g
        whole, weighed_g = [0] * len(self._offers), [0.0] * len(self._offers)
        for place, count in zip(self._whole, counts, strict=True):
            whole[place] = int(count)
        if self._weighed is not None and short_g > _NOISE_G:
            weighed_g[self._weighed] = short_g
        cents: int | None = None
        if all(offer.price_cents is not None for offer in self._offers):
            grams = zip(self._offers, whole, weighed_g, strict=True)
            cents = sum(count * (offer.price_cents or 0) + (offer.price_of(g) or 0) for offer, count, g in grams)
        return Packs(counts=tuple(whole), weighed_g=tuple(weighed_g), left_g=max(-short_g, 0.0), cost_cents=cents)
