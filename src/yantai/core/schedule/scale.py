"""The scale as a clock: what is cooked down, or taken up, to a weight, and about when it gets there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.errors import require_range

NEAR_SHARE = 0.02
"""Within so much of its weight it is there: closer than a kitchen scale and a ladle can tell."""

SHORTEST_S = 60.0
"""Two readings closer in time than this say nothing about how fast it goes [s]."""

LONGEST_MIN = 12 * 60
"""What would take longer than this is not on its way [min]."""

HEAVIEST_G = 200_000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """What is in the vessel, without it [g], and when, in seconds of any one clock."""

    second: float
    net_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Going:
    """How far something is from its weight.

    Attributes:
        left_g: how much still has to go [g]; negative, how much has to be added.
        is_there: whether it is near enough.
        per_min_g: what it loses in a minute [g], None before there are two readings.
        in_min: about how many minutes after the last reading it is there; None where nobody can say.
    """

    left_g: float
    is_there: bool
    per_min_g: float | None
    in_min: float | None


def towards(wanted_g: float, readings: Sequence[Weighed]) -> Going | None:
    """How far the last of `readings` is from `wanted_g`; None before there is one.

    What boils at one setting loses about the same each minute, so the line through the last reading and the newest
    that is far enough before it is followed to the weight that is wanted. Where it goes the other way, or hardly
    moves, there is no time to tell.

    Raises:
        OutOfRange: the weight that is wanted cannot be.

    >>> towards(2400, [Weighed(second=0, net_g=3220), Weighed(second=600, net_g=2810)])
    Going(left_g=410, is_there=False, per_min_g=41.0, in_min=10.0)
    """
    require_range("weight", wanted_g, low=1, high=HEAVIEST_G, unit="g")
    if not readings:
        return None
    last = max(readings, key=lambda one: one.second)
    left, per_min = last.net_g - wanted_g, _per_minute(readings, last)
    is_there = abs(left) <= wanted_g * NEAR_SHARE
    ahead = left / per_min if per_min and not is_there else 0.0
    return Going(
        left_g=left,
        is_there=is_there,
        per_min_g=per_min,
        in_min=ahead if 0 < ahead <= LONGEST_MIN else None,
    )


def _per_minute(readings: Sequence[Weighed], last: Weighed) -> float | None:
    before = [one for one in readings if last.second - one.second >= SHORTEST_S]
    if not before:
        return None
    earlier = max(before, key=lambda one: one.second)
    return (earlier.net_g - last.net_g) / (last.second - earlier.second) * 60
