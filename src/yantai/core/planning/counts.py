"""From what there is to how many containers it fills, and for whom."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.errors import CoreError
from yantai.core.planning.plan import ContainerClass, Part, plan
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
    parts: Mapping[str, Part],
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
        for key, part in parts.items()
        # What is split equally goes round whatever the number is.
        if part.stays_as_written and part.school is not School.EQUAL_SPLIT
    }
    if not have:
        raise CoreError(
            "no amount is known yet: weigh a component, or fix what is on hand of it, to see how far it goes",
            field="components",
        )
    alone = plan(parts, classes, step_g=step_g)
    each = [solve(question.container).grams for question in alone.questions]
    keys = [question.keys for question in alone.questions]
    takes = [
        {
            key: grams * _share(parts, group, key)
            for group, grams in zip(keys[n], each[n], strict=True)
            for key in group
            if key in have
        }
        for n in range(len(classes))
    ]
    counts = [0] * len(classes)
    ranks = sorted({c.rank for c in classes}) if sharing is Sharing.RANKED else [None]
    for rank in ranks:
        turn = [n for n, c in enumerate(classes) if c.count and (rank is None or c.rank == rank)]
        _go_round(turn, classes, takes, have, counts, to_the_end=rank != ranks[-1])
    left = {
        key: there - math.fsum(n * take[key] for n, take in zip(counts, takes, strict=True))
        for key, there in have.items()
    }
    return Filled(counts=tuple(counts), left_g=left)


def _share(parts: Mapping[str, Part], group: tuple[str, ...], key: str) -> float:
    """The share of one component in a mixture."""
    if len(group) == 1:
        return 1.0
    weighed = all(parts[one].weighed for one in group)
    weights = {one: parts[one].portioned.cooked_g if weighed else parts[one].share for one in group}
    return weights[key] / math.fsum(weights.values())


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
        math.fsum((count + (n == index)) * take[key] for n, (count, take) in enumerate(zip(counts, takes, strict=True)))
        <= there + _GRAM
        for key, there in have.items()
    )
