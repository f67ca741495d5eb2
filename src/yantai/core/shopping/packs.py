"""Which packs of a food cover a need: at least cost, and what a little more money saves of what is left over."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from yantai.core.errors import require_range
from yantai.core.portions.whole import WholeProgramme, solve_whole

MOST_CHOICES = 3
MOST_LISTED = 20_000
"""So many combinations of packs are listed at most; of more the whole-number programme finds the least."""
Numbers = npt.NDArray[np.float64] | npt.NDArray[np.int64]
_NOISE_G = 0.05
"""Weights are told to the tenth of a gram: half of that is nothing, of a need and of what is left over."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PackOffer:
    """A pack in which a food is sold: `covers_g`, what one of it gives of the need [g], and its price in hundredths.

    A can covers by its drained weight where the need is of drained food.
    """

    covers_g: float
    price_cents: int | None

    def __post_init__(self) -> None:
        require_range("covers_g", self.covers_g, low=0.1, high=1_000_000, unit="g in a pack")


@dataclass(frozen=True, slots=True, kw_only=True)
class Packs:
    """Whole packs that cover a need: how many of each offer, what is left over [g], what they cost in hundredths."""

    counts: tuple[int, ...]
    left_g: float
    cost_cents: int | None


def covers_g(grams: float, drained_g: float | None) -> float:
    """What a pack of `grams` net [g] gives of its food: what it drains to, where that is known.

    >>> covers_g(400, 240), covers_g(400, None), covers_g(400, 0)
    (240, 400, 400)
    """
    return drained_g or grams


@lru_cache(maxsize=4096)
def covering(need_g: float, offers: tuple[PackOffer, ...]) -> tuple[Packs, ...]:
    """The packs that cover `need_g` [g] at least cost; then, while there are any, dearer ones that leave less over.

    At equal cost the least is left over, then it is the fewest packs. Where a price is not known nothing is known of
    any cost: then it is the packs that leave least, and only they. Each is the exact least of a whole-number programme
    (minimise Σ p n such that Σ g n ≥ need, n whole), and the next is the same with less left over than before.

    >>> [found.counts for found in covering(1200, (PackOffer(covers_g=400, price_cents=310),))]
    [(3,)]
    """
    require_range("need_g", need_g, low=0, high=10_000_000, unit="g")
    if not offers or need_g <= 0:
        return ()
    if any(offer.price_cents is None for offer in offers):
        found = _least(need_g, offers, [], math.inf)
        return () if found is None else (found,)
    prices = [offer.price_cents or 0 for offer in offers]
    choices: list[Packs] = []
    most_left_g = math.inf
    while len(choices) < MOST_CHOICES:
        found = _least(need_g, offers, prices, most_left_g)
        if found is None:
            break
        choices.append(found)
        most_left_g = found.left_g - _NOISE_G
        if most_left_g < 0:
            break
    return tuple(choices)


def _least_of_all(
    need_g: float, grams: Numbers, most: Numbers, prices: Sequence[int], most_left_g: float
) -> Packs | None:
    """The same for few packs, of which every combination is looked at."""
    every = np.indices(tuple(int(count) + 1 for count in most)).reshape(len(grams), -1)
    left = grams @ every - need_g
    fits = (left >= -_NOISE_G) & (left <= most_left_g)
    if not fits.any():
        return None
    every, left = every[:, fits], np.round(left[fits] / _NOISE_G)
    cost = np.array(prices) @ every if prices else np.zeros(len(left))
    best = np.lexsort((every.sum(axis=0), left, cost))[0]
    counts = every[:, best]
    return _packs(need_g, grams, counts, prices)


def _packs(need_g: float, grams: Numbers, counts: Numbers, prices: Sequence[int]) -> Packs:
    whole = tuple(int(count) for count in counts)
    cost = sum(count * price for count, price in zip(whole, prices, strict=True)) if prices else None
    return Packs(counts=whole, left_g=max(float(grams @ counts) - need_g, 0.0), cost_cents=cost)


def _least(need_g: float, offers: Sequence[PackOffer], prices: Sequence[int], most_left_g: float) -> Packs | None:
    """The cheapest packs that leave no more than `most_left_g`; then what leaves least; then the fewest."""
    grams = np.array([offer.covers_g for offer in offers])
    most = np.ceil(need_g / grams)
    if float(np.prod(most + 1)) <= MOST_LISTED:
        return _least_of_all(need_g, grams, most, prices, most_left_g)
    rows = [grams]
    # For what rounds to nothing no further pack is bought.
    low, high = [need_g - _NOISE_G], [need_g + most_left_g]
    counts = None
    aims = [np.array(prices, dtype=float), grams, np.ones(len(offers))] if prices else [grams, np.ones(len(offers))]
    for aim in aims:
        answer = solve_whole(
            WholeProgramme(
                cost=aim,
                is_whole=np.ones(len(offers), dtype=bool),
                low=np.zeros(len(offers)),
                high=most,
                rows=np.array(rows),
                row_low=np.array(low),
                row_high=np.array(high),
            ),
            gap=0.0,
        )
        if answer is None:
            return None
        counts = np.round(answer)
        # What was found stands for the aims after it.
        rows.append(aim)
        low.append(-math.inf)
        high.append(float(aim @ counts) + _NOISE_G / 2)
    assert counts is not None
    return _packs(need_g, grams, counts, prices)
