"""From what there is to how many containers it fills, and for whom."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.errors import CoreError
from yantai.core.planning.dishes import ContainerClass, Dish, pots_of
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import School
from yantai.core.portions import Sharing, solve

MOST_CONTAINERS = 100
_GRAM = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Filled:
    """Containers of each class, in order, and what is left of each component whose amount is known [g] by key."""

    counts: tuple[int, ...]
    left_g: Mapping[str, float]


def how_many(
    dishes: Mapping[str, Dish],
    classes: Sequence[ContainerClass],
    *,
    step_g: float = 1.0,
    sharing: Sharing = Sharing.FAIR,
) -> Filled:
    """How many containers the components fill when each gets the grams that its target wants.

    Known are the components that are weighed, and those whose raw amounts are fixed (on hand, whole packs): they give
    what is expected of them. Containers go round in the proportion of the counts of `classes`, so that the fewest
    are as many as can be; then one more of whoever has the least, as long as one more fits. Ranked, the first in
    rank get all of theirs before the next.

    Raises:
        CoreError: no amount is known, so any number would fit.
    """
    have = {
        key: part.portioned.cooked_g
        for key, part in pots_of(dishes).items()
        # What is split equally goes round whatever the number is.
        if part.stays_as_written and not _is_divided(key, dishes)
    }
    if not have:
        raise CoreError(
            "no amount is known yet: weigh a component, or fix what is on hand of it, to see how far it goes",
            field="components",
        )
    alone = plan(dishes, classes, step_g=step_g)
    takes: list[dict[str, float]] = []
    for each, question in zip(classes, alone.questions, strict=True):
        take: dict[str, float] = {}
        for draws, grams in zip(question.draws, solve(question.container).grams, strict=True):
            for key, share in draws.items():
                if key in have and dishes[each.dish].parts[key].is_cooked_here:
                    take[key] = grams * share
        takes.append(take)
    counts = [0] * len(classes)
    ranks = sorted({c.rank for c in classes}) if sharing is Sharing.RANKED else [None]
    for rank in ranks:
        turn = [n for n, c in enumerate(classes) if c.count and (rank is None or c.rank == rank)]
        _go_round(turn, classes, takes, have, counts, to_the_end=rank != ranks[-1])
    left = {
        key: there - math.fsum(n * take.get(key, 0.0) for n, take in zip(counts, takes, strict=True))
        for key, there in have.items()
    }
    return Filled(counts=tuple(counts), left_g=left)


def _is_divided(key: str, dishes: Mapping[str, Dish]) -> bool:
    return any(dish.parts[key].school is School.EQUAL_SPLIT for dish in dishes.values() if key in dish.parts)


def _go_round(
    turn: Sequence[int],
    classes: Sequence[ContainerClass],
    takes: Sequence[Mapping[str, float]],
    have: Mapping[str, float],
    counts: list[int],
    *,
    to_the_end: bool,
) -> None:
    """Give one container after the other to whoever has the smallest part of what they want, while it fits.

    One at a time in this order makes the smallest part as large as can be. With `to_the_end` nobody gets more than
    their count, because others are still to come.
    """
    open_to = set(turn)
    while open_to:
        n = min(open_to, key=lambda index: ((counts[index] + 1) / classes[index].count, index))
        most = classes[n].count if to_the_end else MOST_CONTAINERS
        if counts[n] >= most or not _fits(n, takes, have, counts) or not any(takes[n].values()):
            open_to.discard(n)
            continue
        counts[n] += 1


def _fits(index: int, takes: Sequence[Mapping[str, float]], have: Mapping[str, float], counts: Sequence[int]) -> bool:
    return all(
        math.fsum(
            (count + (n == index)) * take.get(key, 0.0)
            for n, (count, take) in enumerate(zip(counts, takes, strict=True))
        )
        <= there + _GRAM
        for key, there in have.items()
    )
