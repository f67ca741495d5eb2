"""Which extras close what a day lacks: every small choice of what a client has at hand is tried."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.foods.nutrients import Amounts, Nutrient, total
from yantai.core.targets.aims import AimStanding, DailyAims, Produce, aims_standing
from yantai.core.targets.days import Day, Standing, standings
from yantai.core.targets.targets import Tolerance

MOST_FOODS = 2
"""Foods of one proposal: what a person takes along without a list."""
MOST_FILL_UPS = 3
_NOISE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """A food that a client has at hand: what a serving holds, and how many of it a day may have at most."""

    key: str
    serving: Amounts
    produce: Produce
    most: int


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenDay:
    """A day as it is eaten: its figures and extras, its containers and their vegetables and fruit."""

    day: Day
    containers: Sequence[Amounts]
    produce: Produce
    tolerance: Tolerance
    aims: DailyAims

    def with_extras(self, extras: Amounts, produce: Produce) -> EatenDay:
        """The same day with more eaten outside the containers."""
        return replace(
            self, day=replace(self.day, extras=total([self.day.extras, extras])), produce=self.produce + produce
        )

    @property
    def held(self) -> Amounts:
        """What is eaten in all."""
        return total([self.day.extras, *self.containers])

    @property
    def standings(self) -> tuple[Standing, ...]:
        """How it stands to its figures."""
        return standings(self.day, self.containers, self.tolerance)

    @property
    def aim_standings(self) -> tuple[AimStanding, ...]:
        """How it stands to the coach's aims for every day, but those that the day sets itself."""
        own = {nutrient.noun for nutrient in self.day.figures}
        return tuple(one for one in aims_standing(self.aims, self.held, self.produce) if one.name not in own)


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUp:
    """Servings by the key of their offer, the day with them, and whether nothing is missed any more."""

    servings: Mapping[str, int]
    day: EatenDay
    closes: bool


def fill_ups(day: EatenDay, offers: Sequence[Offer]) -> tuple[FillUp, ...]:
    """The best choices of at most two foods that bring the day nearer to its figures and aims, the best first.

    The gap of a day is the sum of its misses as shares of what is aimed at. A choice counts that makes it smaller and
    no single miss larger; among equal gaps, the one of fewer servings, then of less energy. Each choice of foods is
    proposed once, with the servings that suit best.
    """
    before = _misses(day)
    if not any(before.values()):
        return ()
    best: dict[frozenset[str], tuple[tuple[float, int, float], FillUp]] = {}
    for servings in _choices(offers):
        extras = total(offer.serving.times(count) for offer, count in servings)
        produce = sum((_times(offer.produce, count) for offer, count in servings), Produce())
        tried = day.with_extras(extras, produce)
        misses = _misses(tried)
        gap = sum(misses.values())
        if gap >= sum(before.values()) - _NOISE or any(misses[name] > before[name] + _NOISE for name in misses):
            continue
        foods = frozenset(offer.key for offer, _ in servings)
        rank = (round(gap, 6), sum(count for _, count in servings), extras[Nutrient.KCAL])
        if foods not in best or rank < best[foods][0]:
            counts = {offer.key: count for offer, count in servings}
            best[foods] = rank, FillUp(servings=counts, day=tried, closes=gap < _NOISE)
    return tuple(fill_up for _, fill_up in sorted(best.values(), key=lambda one: one[0])[:MOST_FILL_UPS])


def _choices(offers: Sequence[Offer]) -> Iterator[tuple[tuple[Offer, int], ...]]:
    for size in range(1, MOST_FOODS + 1):
        for foods in itertools.combinations(offers, size):
            for counts in itertools.product(*(range(1, offer.most + 1) for offer in foods)):
                yield tuple(zip(foods, counts, strict=True))


def _times(produce: Produce, count: int) -> Produce:
    return Produce(produce.grams * count, produce.at_least)


def _misses(day: EatenDay) -> dict[str, float]:
    """How far off each figure and each aim of the coach is, as a share of it; nothing where nobody can say."""
    found = {
        standing.nutrient.value: 0.0 if standing.unsure else abs(standing.miss) / max(standing.target, 1.0)
        for standing in day.standings
    }
    for aim in day.aim_standings:
        missed = abs(aim.amount - aim.aim) / max(aim.aim, 1.0) if aim.missed and aim.aim is not None else 0.0
        found.setdefault(f"aim {aim.name}", missed)
    return found
