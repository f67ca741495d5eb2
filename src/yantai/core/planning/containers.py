"""Whether there are containers enough in the house for what is planned, by their size."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from yantai.core.errors import require_range

KIND_ML = (20.0, 20_000.0)
"""What one container may hold [ml]: from a tub for a dressing to one for the bulk of a pot."""
MOST_OWNED = 2000
"""So many of a kind a kitchen may own."""


class ContainerMove(StrEnum):
    """What becomes of a container that is the kitchen's own."""

    OUT = "went out"
    BACK = "came back"
    LOST = "lost"


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A kind of container: what one holds [ml], and how many are empty in the house."""

    key: str
    ml: float
    there: int

    def __post_init__(self) -> None:
        require_range("ml", self.ml, low=KIND_ML[0], high=KIND_ML[1], unit="ml")
        require_range("there", self.there, low=0, high=MOST_OWNED, unit="containers")


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """Equal containers that are to be filled: how many, what goes into one [ml], and the size they were planned for
    [ml]; None where nobody said one."""

    key: str
    count: int
    volume_ml: float
    capacity_ml: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Served:
    """What there is for them: how many of which kind, and how many find none. `is_assumed` where nobody said a size:
    any that holds it is taken, the smallest first."""

    of: Mapping[str, int] = field(default_factory=dict)
    lacks: int = 0
    is_assumed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Larger:
    """A kind that would hold what finds no container of its own size, and how many of it nobody takes."""

    kind: Kind
    free: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SetOut:
    """The containers of the house over all that is wanted: what each gets, and what stays free of each kind."""

    served: Mapping[str, Served]
    free: Mapping[str, int]


def set_out(kinds: Sequence[Kind], wanted: Sequence[Wanted]) -> SetOut:
    """Give what is wanted its containers, in the given order; as many get one as can.

    Those of a size get kinds of just that size, which nothing else they could take. What has no size takes, the
    largest first, the smallest kind that holds it: what holds more holds less too, so none is lost to another that
    way.

    >>> boxes = [Kind(key="box", ml=900, there=6)]
    >>> set_out(boxes, [Wanted(key="Ada", count=8, volume_ml=700, capacity_ml=900)]).served["Ada"].lacks
    2
    """
    free = {kind.key: kind.there for kind in kinds}
    served: dict[str, Served] = {}
    sized = [one for one in wanted if one.capacity_ml is not None]
    others = sorted((one for one in wanted if one.capacity_ml is None), key=lambda one: -one.volume_ml)
    for one in sized:
        served[one.key] = _take(free, [kind for kind in kinds if kind.ml == one.capacity_ml], one)
    for one in others:
        holding = sorted((kind for kind in kinds if kind.ml >= one.volume_ml), key=lambda kind: kind.ml)
        served[one.key] = _take(free, holding, one)
    return SetOut(served=served, free=free)


def larger(kinds: Sequence[Kind], found: SetOut, one: Wanted) -> list[Larger]:
    """Kinds of another size that hold it and of which some stay free, the smallest first."""
    return [
        Larger(kind=kind, free=found.free[kind.key])
        for kind in sorted(kinds, key=lambda kind: (kind.ml, kind.key))
        if kind.ml >= one.volume_ml and kind.ml != one.capacity_ml and found.free[kind.key] > 0
    ]


def _take(free: dict[str, int], kinds: Sequence[Kind], one: Wanted) -> Served:
    still, taken = one.count, {}
    for kind in kinds:
        got = min(still, free[kind.key])
        if got:
            taken[kind.key] = got
            free[kind.key] -= got
            still -= got
    return Served(of=taken, lacks=still, is_assumed=one.capacity_ml is None)
