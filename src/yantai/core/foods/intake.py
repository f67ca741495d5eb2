"""From a written ingredient line to a food and grams, with everything that was assumed or is unclear."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import pairwise

from yantai.core.errors import NoSuchUnit
from yantai.core.foods.edible import MAXIMUM_REFUSE_SHARE
from yantai.core.foods.kitchen_words import words_of
from yantai.core.foods.matching import FoodIndex, Match, Matched
from yantai.core.quantities import (
    STATED_APART,
    Disagreement,
    InGrams,
    Kind,
    LineReading,
    Measure,
    Quantity,
    apart,
    disagreements,
    read_line,
    to_grams,
)
from yantai.core.quantities.units import Spoons


class Flag(StrEnum):
    """What a line leaves to the coach."""

    UNSURE_FOOD = "unsure-food"
    UNKNOWN_FOOD = "unknown-food"
    NO_AMOUNT = "no-amount"
    NO_MEASURE = "no-measure"
    TWO_READINGS = "two-readings"
    TO_TASTE = "to-taste"
    DISAGREE = "disagree"
    ASSUMED = "assumed"
    RANGE = "range"


NEAR_ONE = 1.8
"""Within this factor a weight is taken for that of one piece: pieces of a kind differ, but rarely twofold."""
ASKED = frozenset((Flag.UNSURE_FOOD, Flag.UNKNOWN_FOOD, Flag.NO_AMOUNT, Flag.NO_MEASURE, Flag.TWO_READINGS))
"""Flags with which a line is not taken before the coach has answered."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """What a line is taken to mean.

    Attributes:
        matches: foods that fit, best first; the first is proposed.
        amount: the weight of the proposed food [g], None when it has to be asked for.
        trouble: why there is no weight, in words.
        refuse_share: what is trimmed off the weight, where the line states it before and after (0 to 0.95).
        disagreements: pairs of stated quantities that differ, with both readings.
    """

    reading: LineReading
    matches: tuple[Match, ...]
    amount: InGrams | None
    flags: frozenset[Flag]
    trouble: str = ""
    refuse_share: float = 0.0
    disagreements: tuple[Disagreement, ...] = ()

    @property
    def asks(self) -> bool:
        """The coach has to answer something before the line can be used."""
        return bool(self.flags & ASKED)


def propose(
    reading: LineReading,
    index: FoodIndex,
    measures: Mapping[str, Sequence[Measure]],
    *,
    spoons: Spoons = Spoons.US,
    answer: str | None = None,
) -> Proposal:
    """What `reading` most likely means; `measures` are those of each food by its key.

    `answer` is the key of the food that the coach chose, where the line was asked about.
    """
    found = _without_measure(
        index.match(reading.food, state=reading.state, note=reading.note), reading, index, measures
    )
    if answer is not None:
        found = Matched(matches=(Match(key=answer, score=1.0),), sure=True)
    key = found.matches[0].key if found.matches else None
    flags = set()
    if key is None:
        flags.add(Flag.UNKNOWN_FOOD)
    elif not found.sure:
        flags.add(Flag.UNSURE_FOOD)
    amount, trouble, differ = weigh(reading, measures.get(key or "", ()), spoons=spoons)
    refuse_share = 0.0
    if reading.prepared is not None and amount is not None:
        amount, refuse_share = _prepared(reading, reading.prepared, amount)
    if reading.to_taste:
        flags.add(Flag.TO_TASTE)
    elif not reading.quantities:
        flags.add(Flag.NO_AMOUNT)
    elif amount is None:
        flags.add(Flag.NO_MEASURE)
    if reading.other_way:
        flags.add(Flag.TWO_READINGS)
        trouble = f"this can be {reading.quantities[0]} or {reading.other_way}; give the grams that are meant"
    if reading.unread:
        flags.add(Flag.TWO_READINGS)
        trouble = f"a number of “{reading.unread}” is not understood; give the grams that are meant"
    if _weights_apart(reading):
        flags.add(Flag.TWO_READINGS)
        trouble = "the weights of this line do not agree; give the grams that are meant"
    each = _may_be_each(reading, measures.get(key or "", ()), spoons)
    if each is not None:
        flags.add(Flag.TWO_READINGS)
        trouble = f"this can be {reading.quantities[0]} each or in all; give the grams that are meant"
        amount = each
    if differ:
        flags.add(Flag.DISAGREE)
    if amount is not None and amount.assumed:
        flags.add(Flag.ASSUMED)
    if reading.quantities and reading.quantities[0].low < reading.quantities[0].high:
        flags.add(Flag.RANGE)
    return Proposal(
        reading=reading,
        matches=found.matches,
        amount=amount,
        flags=frozenset(flags),
        trouble=trouble,
        refuse_share=refuse_share,
        disagreements=tuple(differ),
    )


def _prepared(reading: LineReading, left: Quantity, amount: InGrams) -> tuple[InGrams, float]:
    """The weight and what is trimmed off it, of a line that states both weights: "1 kg potatoes (850 g peeled)".

    A can that says what it drains to is a weight of the drained food.
    """
    left_g = to_grams(left, ()).grams
    first = reading.quantities[0]
    if reading.state == "canned-drained":
        packs = first.amount if first.each is not None and left_g <= to_grams(first.each, ()).grams else 1.0
        drained_g = packs * left_g
        return InGrams(low=drained_g, grams=drained_g, high=drained_g, how="drained, as the line says"), 0.0
    return amount, min(1 - left_g / amount.grams, MAXIMUM_REFUSE_SHARE)


def _weights_apart(reading: LineReading) -> bool:
    """Whether two weights are stated that cannot be the same: "8 oz (300 g)"."""
    stated = [
        to_grams(quantity, ()).grams
        for quantity in reading.quantities
        if quantity.kind is Kind.MASS and quantity.each is None
    ]
    return any(apart(first, second) > STATED_APART for first, second in pairwise(stated))


def _may_be_each(reading: LineReading, measures: Sequence[Measure], spoons: Spoons) -> InGrams | None:
    """The weight of all, where the one beside a count fits a single piece far better: "12 breasts 6 oz"; else None."""
    if len(reading.quantities) != 2:
        return None
    stated, count = reading.quantities
    if stated.kind is not Kind.MASS or count.kind is not Kind.COUNT or count.low < 2 or count.each is not None:
        return None
    try:
        one = to_grams(count, measures, words=reading.words, spoons=spoons).grams / count.amount
    except NoSuchUnit:
        return None
    weight = to_grams(stated, ()).grams
    if not one / NEAR_ONE <= weight <= one * NEAR_ONE or weight >= one * count.amount / NEAR_ONE:
        return None
    return to_grams(replace(count, each=stated), ())


def still_says(text: str, grams: float, measures: Sequence[Measure], *, spoons: Spoons) -> bool:
    """Whether a line, as it was written, states `grams` [g] of a food with these measures.

    It does not where the coach gave the weight, or changed it since. Half a percent apart is the same: weights are
    rounded when a line is taken.

    >>> [still_says("1 kg turkey mince", grams, (), spoons=Spoons.US) for grams in (1000, 1200)]
    [True, False]
    """
    reading = read_line(text)
    amount, _, _ = weigh(reading, measures, spoons=spoons)
    if amount is not None and reading.prepared is not None:
        amount, _ = _prepared(reading, reading.prepared, amount)
    return amount is not None and abs(amount.grams - grams) <= max(0.005 * amount.grams, 0.1)


def _without_measure(
    found: Matched, reading: LineReading, index: FoodIndex, measures: Mapping[str, Sequence[Measure]]
) -> Matched:
    """The match of "2 ladles olive oil" without the ladle, a measure of that very food that no grammar knows."""
    first, _, rest = reading.food.partition(" ")
    if found.sure or not found.matches or not rest or not reading.quantities:
        return found
    key = found.matches[0].key
    if not any(words_of(measure.name) == words_of(first) for measure in measures.get(key, ())):
        return found
    again = index.match(rest, state=reading.state, note=reading.note)
    return again if again.sure and again.matches[0].key == key else found


def weigh(
    reading: LineReading, measures: Sequence[Measure], *, spoons: Spoons
) -> tuple[InGrams | None, str, list[Disagreement]]:
    """The weight of what a line states, for a food with these measures; why there is none; what disagrees.

    "To taste" is zero grams: it is kept as a line, and weighed when it is known.
    """
    differ = disagreements(reading.quantities, measures, words=reading.words, spoons=spoons)
    if reading.to_taste:
        return InGrams(low=0, grams=0, high=0, how="to taste, not counted until it is weighed", assumed=True), "", []
    trouble = "no amount is written; type one" if not reading.quantities else ""
    for quantity in reading.quantities:
        try:
            return to_grams(quantity, measures, words=reading.words, spoons=spoons), "", differ
        except NoSuchUnit as error:
            trouble = trouble or str(error)
    return None, trouble, differ
