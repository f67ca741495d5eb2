"""The weigh-in of a cooked component, and whether to believe it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.components import MAXIMUM_WEIGHT_G, Component
from yantai.core.errors import CoreError, require_range
from yantai.core.units import grams
from yantai.core.yields import MAXIMUM_YIELD

MARGIN = 0.15
"""A weight is questioned when more than this share beyond its expected range."""


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
                f"the empty vessel, {self.vessel_g:,.0f} g, weighs as much as the full one, "
                f"{self.gross_g:,.0f} g: are the two exchanged, or was the scale tared already (then leave "
                "the vessel empty)?",
                field="vessel_g",
            )

    @property
    def net_g(self) -> float:
        """Food [g] in the vessel."""
        return self.gross_g - self.vessel_g


def net_weight_g(vessels: Sequence[VesselWeight]) -> float:
    """Cooked weight [g]: several weighings of one component add up.

    >>> net_weight_g([VesselWeight(gross_g=3004, vessel_g=1312)])
    1692
    """
    if not vessels:
        raise CoreError("weigh at least one vessel", field="vessels")
    return sum(vessel.net_g for vessel in vessels)


def impossible(component: Component, cooked_g: float) -> str | None:
    """Why `cooked_g` [g] cannot be this component, or None.

    No food takes up more than eight times its weight, and nothing cooks away to a twentieth.
    """
    factor = cooked_g / component.basis_g
    if factor > MAXIMUM_YIELD:
        return (
            f"{cooked_g:,.0f} g cooked from {component.basis_g:,.0f} g raw is {factor:.1f} times as much; "
            "nothing takes up that much water. Check the decimal point, the unit, and which pan stood on the "
            "scale."
        )
    if factor < 0.05:
        return (
            f"{cooked_g:,.0f} g cooked from {component.basis_g:,.0f} g raw keeps only {100 * factor:.1f} %. "
            "Was it typed in kilograms or ounces? Type grams, or weigh again."
        )
    return None


def doubts(component: Component, cooked_g: float, *, vessel_noted: bool) -> list[str]:
    """Likely causes when `cooked_g` [g] lies well outside the expected range; empty when believable."""
    low, high = component.expected_low_g * (1 - MARGIN), component.expected_high_g * (1 + MARGIN)
    if low <= cooked_g <= high:
        return []
    causes = []
    if low <= grams(cooked_g, "oz") <= high:
        causes.append(f"Ounces typed as grams: {cooked_g:,.0f} oz are {grams(cooked_g, 'oz'):,.0f} g.")
    if abs(cooked_g / component.basis_g - 1) < 0.03:
        causes.append("This is the raw weight: the cooked one comes after resting and draining.")
    if cooked_g > high:
        if not vessel_noted:
            causes.append("The pan was not taken off: type its empty weight, or tare before weighing.")
        causes.append("Water or stock was added that the recipe does not list, or a lid dripped back.")
    else:
        causes.append("A part is still in another vessel: add a second weighing.")
    causes.append("Another component stood on the scale.")
    return causes
