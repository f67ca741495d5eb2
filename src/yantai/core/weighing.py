"""The weigh-in of a cooked component, whether to believe it, and what would explain it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.components import MAXIMUM_WEIGHT_G, Component
from yantai.core.errors import CoreError, require_range
from yantai.core.history import RANGE_Z
from yantai.core.units import grams
from yantai.core.yields import MAXIMUM_YIELD

MARGIN = 0.15
"""A weight is questioned when more than this share beyond its expected range."""
LEAST_SPREAD = 0.03
"""The narrowest standard deviation of ln(weight) by which causes are ranked."""


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


def net_weight_g(vessels: Sequence[VesselWeight], removed_g: float = 0.0) -> float:
    """Cooked weight [g]: several weighings of one component add up; bone and skin `removed_g` [g] come off.

    >>> net_weight_g([VesselWeight(gross_g=3004, vessel_g=1312)])
    1692
    """
    if not vessels:
        raise CoreError("weigh at least one vessel", field="vessels")
    net = sum(vessel.net_g for vessel in vessels)
    if not 0 <= removed_g < net:
        raise CoreError(
            f"{removed_g:,.0f} g of bone or skin off {net:,.0f} g on the scale leaves no food; weigh "
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """What may be behind an unlikely weight.

    Attributes:
        words: the cause in a sentence.
        fit: how well it explains the number, from 0 to 1: 1 when the corrected weight is just what was expected.
        vessels: the weighing as it would be without the slip, None when only the cook can know.
    """

    words: str
    fit: float
    vessels: tuple[VesselWeight, ...] | None = None


def is_doubtful(component: Component, cooked_g: float) -> bool:
    """`cooked_g` [g] lies well outside what the lines lead to."""
    low, high = component.expected_low_g * (1 - MARGIN), component.expected_high_g * (1 + MARGIN)
    return not low <= cooked_g <= high


def causes(
    component: Component,
    vessels: Sequence[VesselWeight],
    *,
    removed_g: float = 0.0,
    known_vessels: Mapping[str, float] | None = None,
    others: Mapping[str, Component] | None = None,
) -> list[Cause]:
    """Likely causes of an unlikely weighing, the best explanation first; empty when it is believable.

    Each cause that can be undone is tried: the weighing is corrected by it, and `fit` is how near the
    corrected weight comes to the middle of the expected range, exp(-z²/2) with z in standard deviations of
    ln(weight). Causes that cannot be computed follow with the fit they usually deserve.

    `known_vessels` are empty weights of the kitchen's pans [g] by name; `others` the batch's other components.
    """
    cooked_g = net_weight_g(vessels, removed_g)
    if not is_doubtful(component, cooked_g):
        return []
    found = [
        *_left_on(component, vessels, removed_g, known_vessels or {}),
        *_wrong_unit(component, vessels, removed_g),
        *(_bones(component, cooked_g, vessels) if not removed_g else ()),
    ]
    found = [cause for cause in found if cause.fit > 0.02]
    if abs(cooked_g / component.basis_g - 1) < 0.03 or abs(cooked_g / component.in_pan_g - 1) < 0.02:
        found.append(Cause(words="This is the raw weight: the cooked one comes after resting and draining.", fit=0.6))
    for name, other in (others or {}).items():
        fit = _fit(other, cooked_g)
        if fit > 0.3:
            found.append(Cause(words=f"{name} stood on the scale: it should weigh about {other.expected_g:,.0f} g.",
                               fit=0.7 * fit))  # fmt: skip
    if cooked_g > component.expected_high_g:
        if not any(vessel.vessel_g for vessel in vessels):
            found.append(
                Cause(words="The pan was not taken off: type its empty weight, or tare before weighing.", fit=0.3)
            )
        if cooked_g > 1.02 * component.in_pan_g:
            found.append(
                Cause(
                    words=(
                        "More came out than went in: something was added at the stove and not noted, or a lid dripped."
                    ),
                    fit=0.25,
                )
            )
        else:
            found.append(
                Cause(words="Water or stock was added that the recipe does not list, or a lid dripped back.", fit=0.1)
            )
    else:
        found.append(Cause(words="A part is still in another vessel: add a second weighing.", fit=0.2))
    if not any("stood on the scale" in cause.words for cause in found):
        found.append(Cause(words="Another component stood on the scale.", fit=0.05))
    return sorted(found, key=lambda cause: -cause.fit)


def _fit(component: Component, cooked_g: float) -> float:
    """exp(-z²/2): how near a weight comes to the middle of what a component should weigh."""
    if cooked_g <= 0:
        return 0.0
    low, high = component.expected_low_g, component.expected_high_g
    spread = LEAST_SPREAD
    if 0 < low < high:
        spread = max(math.log(high / low) / (2 * RANGE_Z), LEAST_SPREAD)
    z = math.log(cooked_g / component.expected_g) / spread
    return math.exp(-min(z * z, 100.0) / 2)


def _left_on(
    component: Component, vessels: Sequence[VesselWeight], removed_g: float, known: Mapping[str, float]
) -> list[Cause]:
    """A pan of the kitchen that was not taken off, tried for each weighing without an empty vessel."""
    found = []
    for name, empty_g in known.items():
        for place, vessel in enumerate(vessels):
            if vessel.vessel_g or empty_g >= vessel.gross_g:
                continue
            corrected = list(vessels)
            corrected[place] = VesselWeight(gross_g=vessel.gross_g, vessel_g=empty_g)
            net = sum(one.net_g for one in corrected) - removed_g
            found.append(
                Cause(
                    words=f"{name} was left on: less its {empty_g:,.0f} g it is {net:,.0f} g.",
                    fit=_fit(component, net),
                    vessels=tuple(corrected),
                )
            )
    return found


_SLIPS = (
    (grams(1, "oz"), "Ounces typed as grams"),
    (grams(1, "lb"), "Pounds typed as grams"),
    (1000.0, "Kilograms typed as grams"),
    (10.0, "A digit is missing"),
    (0.1, "A digit too many"),
    (1 / grams(1, "oz"), "Grams on a scale that was set to ounces and turned again"),
)


def _wrong_unit(component: Component, vessels: Sequence[VesselWeight], removed_g: float) -> list[Cause]:
    """A slip in what stood on the scale; bone and skin that were weighed off are taken as they are typed."""
    found = []
    for factor, words in _SLIPS:
        try:
            corrected = tuple(
                VesselWeight(gross_g=vessel.gross_g * factor, vessel_g=vessel.vessel_g * factor) for vessel in vessels
            )
            net = net_weight_g(corrected, removed_g)
        except CoreError:
            continue
        found.append(Cause(words=f"{words}: it would be {net:,.0f} g.", fit=_fit(component, net), vessels=corrected))
    return found


def _bones(component: Component, cooked_g: float, vessels: Sequence[VesselWeight]) -> list[Cause]:
    bones = component.left_on_g
    if not bones or bones >= cooked_g:
        return []
    fit = _fit(component, cooked_g - bones)
    words = f"Bone or skin of about {bones:,.0f} g is still on it: without it {cooked_g - bones:,.0f} g."
    fullest = max(range(len(vessels)), key=lambda place: vessels[place].net_g)
    if bones >= vessels[fullest].net_g:
        # Spread over several vessels nobody can say how much lies in which.
        return [Cause(words=words, fit=0.9 * fit)]
    corrected = list(vessels)
    corrected[fullest] = VesselWeight(gross_g=vessels[fullest].gross_g, vessel_g=vessels[fullest].vessel_g + bones)
    return [Cause(words=words, fit=0.9 * fit, vessels=tuple(corrected))]
