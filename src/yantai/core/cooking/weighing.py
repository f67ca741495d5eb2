"""The weigh-in of a cooked component."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.cooking.components import MAXIMUM_WEIGHT_G, Component
from yantai.core.cooking.yields import MAXIMUM_YIELD
from yantai.core.errors import CoreError, require_range
from yantai.core.speaking import weight

SAME_WITHIN_G = 1.0
"""Two readings of a pot this near [g] are one weight: the step of the common kitchen scale."""


@dataclass(frozen=True, slots=True, kw_only=True)
class VesselWeight:
    """One vessel on the scale [g]: `gross_g` with the food, `vessel_g` empty (0 when tared)."""

    gross_g: float
    vessel_g: float = 0.0

    def __post_init__(self) -> None:
        require_range("gross_g", self.gross_g, low=0.1, high=MAXIMUM_WEIGHT_G, unit="g")
        require_range("vessel_g", self.vessel_g, low=0, high=MAXIMUM_WEIGHT_G, unit="g")
        if self.vessel_g >= self.gross_g:
            raise CoreError(
                f"the empty vessel, {weight(self.vessel_g)}, weighs as much as the full one, "
                f"{weight(self.gross_g)}: are the two exchanged, or was the scale tared already (then leave "
                "the vessel empty)?",
                field="vessel_g",
            )

    @property
    def net_g(self) -> float:
        """Food [g] in the vessel."""
        return self.gross_g - self.vessel_g


def net_weight_g(vessels: Sequence[VesselWeight], removed_g: float = 0.0) -> float:
    """Cooked weight [g]: several weighings of one component add up; bone and skin `removed_g` [g] come off.

    >>> net_weight_g([VesselWeight(gross_g=3004, vessel_g=1312)])
    1692.0
    """
    if not vessels:
        raise CoreError("weigh at least one vessel", field="vessels")
    net = sum(vessel.net_g for vessel in vessels)
    if not 0 <= removed_g < net:
        raise CoreError(
            f"{weight(removed_g)} of bone or skin off {weight(net)} on the scale leaves no food; weigh "
            "what came off again",
            field="removed_g",
        )
    return net - removed_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """A cooked weight [g] as it was recorded, None where one was taken back; `corrects` those before it, which were
    known to whoever weighed; `at` is when the pot stood on the scale [s], which may be long before it was recorded."""

    cooked_g: float | None
    corrects: bool = False
    at: float = 0.0


def undecided(readings: Sequence[Reading]) -> list[int]:
    """Indices of the weighings of one pot that nobody chose between, in the order in which it stood on the scale, the
    one that counts last; none where it has none. `readings` come in the order in which they were recorded.

    Two helpers may weigh the same pot without knowing of each other: both are kept, and the one weighed later counts
    until somebody says which is right, also where a tablet hands in the earlier one afterwards. What reads the same
    within a step of a kitchen scale is no contradiction.

    >>> undecided([Reading(cooked_g=900), Reading(cooked_g=1000, corrects=True), Reading(cooked_g=1100)])
    [1, 2]
    >>> undecided([Reading(cooked_g=900, at=600), Reading(cooked_g=1000, at=60)])
    [1, 0]
    """
    found: list[int] = []
    for index, reading in enumerate(readings):
        if reading.cooked_g is None:
            found = []
        elif reading.corrects:
            found = [index]
        else:
            found = [*(at for at in found if _apart(readings[at], reading)), index]
    return sorted(found, key=lambda index: (readings[index].at, index))


def _apart(one: Reading, other: Reading) -> bool:
    return abs((one.cooked_g or 0.0) - (other.cooked_g or 0.0)) > SAME_WITHIN_G


def impossible(component: Component, cooked_g: float) -> str | None:
    """Why `cooked_g` [g] cannot be this component, or None.

    No food takes up more than eight times its weight, and nothing cooks away to a twentieth.
    """
    factor = cooked_g / component.basis_g
    if factor > MAXIMUM_YIELD:
        return (
            f"{weight(cooked_g)} cooked from {weight(component.basis_g)} raw is {factor:.1f} times as much; "
            "nothing takes up that much water. Check the decimal point, the unit, and which pan stood on the "
            "scale."
        )
    if factor < 0.05:
        return (
            f"{weight(cooked_g)} cooked from {weight(component.basis_g)} raw keeps only {100 * factor:.1f} %. "
            "Was it typed in kilograms or ounces? Type grams, or weigh again."
        )
    return None
