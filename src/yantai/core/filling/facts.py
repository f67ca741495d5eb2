"""What happens at the scale: facts, which are only ever added, and what they come to together."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import NamedTuple

from yantai.core.errors import require_range


class FillEvent(StrEnum):
    """What can happen to a container, or to a pot that containers are filled from."""

    FILLED = "filled"
    LEFT_OUT = "left out"
    DECIDED = "decided"
    CORRECTED = "corrected"
    EVENED = "evened out"
    TAKEN_BACK = "taken back"
    POT_WEIGHED = "pot weighed"
    REST = "rest"
    SCOOP = "scoop weighed"
    IN_BULK = "kept in bulk"


OF_A_PART = (FillEvent.FILLED, FillEvent.LEFT_OUT, FillEvent.DECIDED, FillEvent.CORRECTED)
"""Those that say how much of a part a container holds."""
_SETTLING = (FillEvent.DECIDED, FillEvent.CORRECTED)
"""Those that stand for all that had come in before: about the note, not about what was moved."""


class Way(StrEnum):
    """How it was found out how much went in."""

    TARED = "tare after each"
    RUNNING = "running total"
    MINUS = "minus reading"
    COUNTED = "counted"
    SCOOPS = "scoops"
    CUPS = "cups"
    BY_EYE = "by eye"
    TYPED = "typed"


UNSURE_SHARE: Mapping[Way, float] = {Way.BY_EYE: 0.15, Way.SCOOPS: 0.10, Way.CUPS: 0.10}
"""How far what was not weighed may lie from what it is taken for, as a share of it, where nobody said otherwise: a rule
of thumb of this product, shown as assumed wherever it counts. A scale is taken at its word."""


class Fate(StrEnum):
    """What becomes of what is left in a pot."""

    CONTAINERS = "extra containers"
    CLIENT = "for a client"
    FREEZER = "freezer"
    THROWN_AWAY = "thrown away"


class Spot(NamedTuple):
    """One container: number `number`, from 1, of the containers of a row."""

    row: str
    number: int


MOST_G = 5000.0
"""The most of one part in one container that a fact can tell [g]."""
MOST_IN_A_POT_G = 1_000_000.0
"""The most in a pot [g]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FillFact:
    """Something that happened at the scale.

    Attributes:
        key: its own.
        spot, part: the container, and the part of it by the key of its first component; a fact of a pot has no spot,
            and its part is the component. What is kept in bulk for another day are the containers of a row from this
            one on.
        grams: how much of the part the container holds by it, whatever it held before [g]; what is left in a pot; what
            of a rest goes where; what one scoop weighs.
        unsure_g: how far that may be off [g].
        after: the fact about the same part that was known when this happened; None when none was.
        of: the fact that is taken back.
        second: when it happened [s], on any common clock.
    """

    key: str
    event: FillEvent
    spot: Spot | None = None
    part: str = ""
    grams: float = 0.0
    unsure_g: float = 0.0
    after: str | None = None
    of: str | None = None
    second: float = 0.0

    def __post_init__(self) -> None:
        most = MOST_G if self.spot is not None else MOST_IN_A_POT_G
        require_range("grams", self.grams, low=0, high=most, unit="g")
        require_range("unsure_g", self.unsure_g, low=0, high=most, unit="g")


@dataclass(frozen=True, slots=True, kw_only=True)
class PartFilled:
    """How much of a part a container holds [g].

    `others` tell something else and did not know of the one that `stands`: it is the one that happened last, until
    somebody decides.
    """

    stands: FillFact
    others: tuple[FillFact, ...] = ()

    @property
    def grams(self) -> float:
        """What it holds [g]."""
        return 0.0 if self.stands.event is FillEvent.LEFT_OUT else self.stands.grams

    @property
    def is_left_out(self) -> bool:
        """It stays out on purpose."""
        return self.stands.event is FillEvent.LEFT_OUT


@dataclass(frozen=True, slots=True, kw_only=True)
class Filling:
    """All that happened: what the containers hold by spot and part, which of them are evened out over the client's
    others, by the place of the fact in the order of happening, what is known of the pots, what a scoop of each part
    weighs [g], and from which number on the containers of a row are packed another day."""

    parts: Mapping[Spot, Mapping[str, PartFilled]] = field(default_factory=dict)
    evened: Mapping[Spot, float] = field(default_factory=dict)
    weighed_pots: Mapping[str, FillFact] = field(default_factory=dict)
    rests: Mapping[str, tuple[FillFact, ...]] = field(default_factory=dict)
    scoops: Mapping[str, float] = field(default_factory=dict)
    bulk_from: Mapping[str, int] = field(default_factory=dict)
    since: Mapping[str, Mapping[Spot, Mapping[str, PartFilled]]] = field(default_factory=dict)
    """What the containers held when a pot was weighed, by its component."""

    def is_in_bulk(self, spot: Spot) -> bool:
        """It is packed another day: what goes into it stays in the bulk."""
        return spot.number >= self.bulk_from.get(spot.row, spot.number + 1)

    def grams(self, spot: Spot, part: str) -> float | None:
        """What a container holds of a part [g]; None while nobody said."""
        held = self.parts.get(spot, {}).get(part)
        return None if held is None else held.grams


NOTHING_FILLED = Filling()


def counting(facts: Iterable[FillFact]) -> list[FillFact]:
    """The facts that were not taken back, in the order in which they came in. One that takes back another can itself
    be taken back by one that came later."""
    given = list(facts)
    taken_back: set[str | None] = set()
    for fact in reversed(given):
        if fact.event is FillEvent.TAKEN_BACK and fact.key not in taken_back:
            taken_back.add(fact.of)
    return [fact for fact in given if fact.event is not FillEvent.TAKEN_BACK and fact.key not in taken_back]


def what_is_filled(facts: Sequence[FillFact]) -> Filling:
    """What all facts come to, given in the order in which they came in.

    Of what two tell of one part of a container without knowing of each other, one counts, never both: the same grams
    noted on two tablets are in there once. What one knew of, it replaces.
    """
    counted = counting(facts)
    weighed: dict[str, FillFact] = {}
    rests: dict[str, list[FillFact]] = {}
    scoops: dict[str, FillFact] = {}
    bulk: dict[str, FillFact] = {}
    for fact in counted:
        if fact.event is FillEvent.POT_WEIGHED:
            weighed[fact.part] = max(weighed.get(fact.part, fact), fact, key=_when)
        elif fact.event is FillEvent.REST:
            rests.setdefault(fact.part, []).append(fact)
        elif fact.event is FillEvent.SCOOP:
            scoops[fact.part] = max(scoops.get(fact.part, fact), fact, key=_when)
        elif fact.event is FillEvent.IN_BULK and fact.spot is not None:
            bulk[fact.spot.row] = max(bulk.get(fact.spot.row, fact), fact, key=_when)
    return Filling(
        parts=_parts(facts, counted),
        evened={f.spot: f.second for f in counted if f.event is FillEvent.EVENED and f.spot is not None},
        weighed_pots=weighed,
        rests={part: tuple(of_it) for part, of_it in rests.items()},
        scoops={part: fact.grams for part, fact in scoops.items()},
        bulk_from={row: fact.spot.number for row, fact in bulk.items() if fact.spot is not None},
        since={part: _parts_at(facts, pot.second) for part, pot in weighed.items()},
    )


def _when(fact: FillFact) -> float:
    return fact.second


def _parts(all_facts: Iterable[FillFact], counted: Iterable[FillFact]) -> dict[Spot, dict[str, PartFilled]]:
    """What the containers hold by the facts that count; `all_facts` tell what each of them knew of."""
    knew = {fact.key: fact.after for fact in all_facts}
    heads: dict[tuple[Spot, str], list[FillFact]] = {}
    for fact in counted:
        if fact.event not in OF_A_PART or fact.spot is None:
            continue
        here = heads.setdefault((fact.spot, fact.part), [])
        if fact.event in _SETTLING:
            here.clear()
        else:
            known = _known_to(fact, knew)
            here[:] = [head for head in here if head.key not in known]
        here.append(fact)
    found: dict[Spot, dict[str, PartFilled]] = {}
    for (spot, part), here in heads.items():
        stands = max(here, key=_when)
        others = tuple(head for head in here if head is not stands)
        found.setdefault(spot, {})[part] = PartFilled(stands=stands, others=others)
    return found


def _known_to(fact: FillFact, knew: Mapping[str, str | None]) -> set[str]:
    """The facts that somebody knew of who noted one: the last one of the part, and all that this one replaced."""
    known: set[str] = set()
    at = fact.after
    while at is not None and at not in known:
        known.add(at)
        at = knew.get(at)
    return known


def _parts_at(facts: Sequence[FillFact], second: float) -> dict[Spot, dict[str, PartFilled]]:
    """What the containers held at some time, as far as is known now: later notes that settle an earlier figure are
    about the same grams, so they count; what was moved later does not."""
    told = {(fact.spot, fact.part) for fact in facts if fact.second <= second and fact.event in OF_A_PART}
    given = [
        fact for fact in facts if fact.second <= second or (fact.event in _SETTLING and (fact.spot, fact.part) in told)
    ]
    return _parts(facts, counting(given))


def unsure_together_g(unsure_g: Iterable[float]) -> float:
    """How far a sum of figures may be off [g] when each may be off by so much, and none knows of the others:
    the root of the sum of squares."""
    return math.sqrt(math.fsum(one * one for one in unsure_g))
