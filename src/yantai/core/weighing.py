"""The weigh-in of a cooked component."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.components import MAXIMUM_WEIGHT_G, Component
from yantai.core.errors import CoreError, require_range
from yantai.core.speaking import weight
from yantai.core.yields import MAXIMUM_YIELD


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
