"""What was really eaten of containers, and what is left in them again and again."""

from __future__ import annotations

import math
import statistics
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.nutrients import Amounts, total

MOST_PART_G = 5000.0
"""No part of one container weighs more [g]."""
SCALE_G = 1.0
"""So much more than was in a container may be weighed as left: it is what a scale may be off [g]."""
LEFT_SHARE = 0.25
"""A part counts as left where a quarter of it was, or more: less stays on any plate. A rule of this house."""
LEAST_BOXES = 3
"""Fewer containers with a part tell nothing of a habit. A rule of this house."""
HABIT_SHARE = 0.5
"""A habit is what is left in at least half of the containers that had it. A rule of this house."""


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldPart:
    """A part of a container: its weight [g] and what that holds. What lies beside the container is eaten with it, and
    not weighed with what is left in it."""

    key: str
    grams: float
    amounts: Amounts
    is_beside: bool = False

    def __post_init__(self) -> None:
        require_range("grams", self.grams, low=0, high=MOST_PART_G, unit="g")


@dataclass(frozen=True, slots=True, kw_only=True)
class PartLeft:
    """A part that was in a container, and what of it was left [g], as told by part."""

    name: str
    held_g: float
    left_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Habit:
    """A part that is left in `times` of the `of` containers that had it; `eaten_g` is what is eaten of it where
    some is left, in the middle one of those [g]."""

    name: str
    times: int
    of: int
    eaten_g: float


def left_by_part(
    parts: Sequence[HeldPart], *, left_g: float = 0.0, by_part: Mapping[str, float] | None = None
) -> dict[str, float]:
    """What was left of each part [g]: as told, or of all that was in the container alike by weight.

    Raises:
        CoreError: more is left than there was, or of something that was not in it.
    """
    if by_part:
        held = {part.key: part.grams for part in parts}
        for key, grams in by_part.items():
            if key not in held:
                raise CoreError("this was not in the container", field="left_parts")
            if grams > held[key] + SCALE_G:
                raise CoreError("more of it is left than there was", field="left_parts")
        return {key: min(grams, held[key]) for key, grams in by_part.items() if grams > 0}
    inside = [part for part in parts if not part.is_beside]
    there = math.fsum(part.grams for part in inside)
    if left_g > there + SCALE_G:
        raise CoreError("more is left than there was", field="left_g")
    share = min(left_g / there, 1.0) if there else 0.0
    return {part.key: part.grams * share for part in inside if share and part.grams}


def eaten_amounts(parts: Sequence[HeldPart], left: Mapping[str, float]) -> Amounts:
    """What was eaten of a container: of each part what was not left.

    By hand: 200 g of rice with 260 kcal, of which 50 g were left, and 100 g of chicken with 165 kcal:
    260 * 150/200 + 165 = 360 kcal.
    """
    return total(
        part.amounts.times(1 - left.get(part.key, 0.0) / part.grams) if part.grams else part.amounts for part in parts
    )


def habits(told: Iterable[PartLeft]) -> list[Habit]:
    """What is left again and again, the most often first. A container of which only the whole was told says nothing of
    its parts, and is not given here."""
    by_name: dict[str, list[PartLeft]] = defaultdict(list)
    for one in told:
        if one.held_g > 0:
            by_name[one.name].append(one)
    found = []
    for name, boxes in by_name.items():
        left = [one for one in boxes if one.left_g >= LEFT_SHARE * one.held_g]
        if left and len(boxes) >= LEAST_BOXES and len(left) >= HABIT_SHARE * len(boxes):
            eaten = statistics.median(one.held_g - one.left_g for one in left)
            found.append(Habit(name=name, times=len(left), of=len(boxes), eaten_g=eaten))
    return sorted(found, key=lambda one: (-one.times / one.of, -one.of, one.name))
