"""Whether to believe a cooked weight, and what would explain it.

A weight outside the expected range is always questioned. One inside is questioned where a slip explains it better than
the pan itself does. Both are compared as likelihoods of ln(weight):

    honest pan      prior 0.80, density of a log-normal round the expected weight whose range holds 98 of 100 pans
    a slip          its prior times the density that the honest pan gives to the weight without the slip;
                    for the raw weight, the density of a scale round the very weight that went in

Priors are guesses of how often each slip happens at a kitchen scale; what they do to honest and wrong weighings is
measured in docs/scale-doubts.md.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.cooking.components import Component
from yantai.core.cooking.learned import PAN_TO_PAN, RANGE_Z
from yantai.core.cooking.weighing import VesselWeight, net_weight_g
from yantai.core.errors import CoreError
from yantai.core.quantities.units import grams
from yantai.core.speaking import weight

LEAST_SPREAD = 0.008
"""The narrowest standard deviation of ln(weight) of an honest pan: no scale and no rest of sauce is more exact."""
SCALE_SPREAD = 0.003
"""Standard deviation of ln(weight) round a weight that was typed again: a few grams in a kilogram."""

PRIOR_RAW = 0.03
PRIOR_VESSEL = 0.12
"""Of a known vessel left on; of each, since nobody says which one was used."""
PRIOR_BONES = 0.05
PRIOR_UNIT = 0.01
"""Of each slip of unit or digit."""
PRIOR_OTHER = 0.01
"""Of each other component standing on the scale."""
PRIOR_UNTOLD = 0.02
"""Of each cause that cannot be computed, spread evenly over a factor of ten."""
_EVENLY = 1 / math.log(10)
_SLIGHT = 0.002
"""A computed cause is told from this share of all likelihood on."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """What may be behind an unlikely weight.

    Attributes:
        words: the cause in a sentence.
        fit: its share of the likelihood of all that was considered, the honest pan among it; from 0 to 1.
        vessels: the weighing as it would be without the slip, None when only the cook can know.
    """

    words: str
    fit: float
    vessels: tuple[VesselWeight, ...] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Doubt:
    """Why a weight is questioned. `outside` says that it lies beyond the expected range."""

    outside: bool
    causes: tuple[Cause, ...]


def doubt(
    component: Component,
    vessels: Sequence[VesselWeight],
    *,
    removed_g: float = 0.0,
    known_vessels: Mapping[str, float] | None = None,
    others: Mapping[str, Component] | None = None,
) -> Doubt | None:
    """Why a weighing is questioned, with its causes, the likeliest first; None where it is believed.

    `known_vessels` are empty weights of the kitchen's pans [g] by name; `others` the batch's other components.
    """
    cooked_g = net_weight_g(vessels, removed_g)
    outside = is_outside(component, cooked_g)
    computed = [
        *_raw(component, cooked_g),
        *_left_on(component, vessels, removed_g, known_vessels or {}),
        *_wrong_unit(component, vessels, removed_g),
        *(_bones(component, cooked_g, vessels) if not removed_g else ()),
        *_others(others or {}, cooked_g),
    ]
    honest = (1 - PRIOR_RAW - PRIOR_VESSEL - PRIOR_BONES) * _density(component, cooked_g)
    likeliest = max((cause.fit for cause in computed), default=0.0)
    if not outside and likeliest <= honest:
        return None
    told = [*computed, *(_untold(component, vessels, cooked_g) if outside else ())]
    whole = honest + math.fsum(cause.fit for cause in told)
    found = [replace(cause, fit=cause.fit / whole) for cause in told]
    found = [cause for cause in found if cause.fit >= _SLIGHT]
    return Doubt(outside=outside, causes=tuple(sorted(found, key=lambda cause: -cause.fit)))


def is_outside(component: Component, cooked_g: float) -> bool:
    """`cooked_g` [g] lies outside what is believed of the pan."""
    low, high = believed_g(component)
    return not low <= cooked_g <= high


def believed_g(component: Component) -> tuple[float, float]:
    """From what weight to what [g] a pan is believed: the expected range, at least as wide as pans and scales differ.

    A single yield that the coach gave has no range of its own: it is taken to differ from pan to pan like any other.
    """
    low, middle, high = component.expected_low_g, component.expected_g, component.expected_high_g
    single = component.cooked and high - low < 1e-9 * middle
    least = math.exp(RANGE_Z * (PAN_TO_PAN if single else LEAST_SPREAD))
    return min(low, middle / least), max(high, middle * least)


def _density(component: Component, cooked_g: float) -> float:
    """The density of ln(weight) at a weight of an honest pan: log-normal, with a width of its own to either side."""
    if cooked_g <= 0:
        return 0.0
    low, high = believed_g(component)
    middle = component.expected_g
    far = middle / low if cooked_g < middle and low > 0 else high / middle
    spread = math.log(far) / RANGE_Z
    z = math.log(cooked_g / middle) / spread
    return math.exp(-min(z * z, 1000.0) / 2) / (spread * math.sqrt(2 * math.pi))


def _raw(component: Component, cooked_g: float) -> Iterator[Cause]:
    """The very weight that went in: all of it, the food alone, or the food as it was bought."""
    weights = {component.in_pan_g, component.basis_g, sum(line.purchased_g for line in component.lines)}
    near = min(weights, key=lambda weight: abs(math.log(cooked_g / weight)))
    z = math.log(cooked_g / near) / SCALE_SPREAD
    likely = math.exp(-min(z * z, 1000.0) / 2) / (SCALE_SPREAD * math.sqrt(2 * math.pi))
    yield Cause(
        words=f"This is the raw weight, {weight(near)}: the cooked one comes after resting and draining.",
        fit=PRIOR_RAW * likely,
    )


def _left_on(
    component: Component, vessels: Sequence[VesselWeight], removed_g: float, known: Mapping[str, float]
) -> Iterator[Cause]:
    """A vessel of the kitchen that was not taken off, tried for each weighing without an empty vessel."""
    untared = [index for index, vessel in enumerate(vessels) if not vessel.vessel_g]
    gross_g = net_weight_g(vessels, removed_g)
    for name, empty_g in known.items():
        for index in untared:
            if empty_g >= vessels[index].gross_g or empty_g <= 0:
                continue
            corrected = list(vessels)
            corrected[index] = VesselWeight(gross_g=vessels[index].gross_g, vessel_g=empty_g)
            net_g = gross_g - empty_g
            if net_g <= 0:
                continue
            # Of ln(gross), not of ln(net): the same slip of a gram is a larger one of the food alone.
            likely = _density(component, net_g) * gross_g / net_g
            yield Cause(
                words=f"{name} was left on: less its {weight(empty_g)} it is {weight(net_g)}.",
                fit=PRIOR_VESSEL / len(untared) * likely,
                vessels=tuple(corrected),
            )


_SLIPS = (
    (grams(1, "oz"), "Ounces typed as grams"),
    (grams(1, "lb"), "Pounds typed as grams"),
    (1000.0, "Kilograms typed as grams"),
    (10.0, "A digit is missing"),
    (0.1, "A digit too many"),
    (1 / grams(1, "oz"), "Grams on a scale that was set to ounces and turned again"),
)


def _wrong_unit(component: Component, vessels: Sequence[VesselWeight], removed_g: float) -> Iterator[Cause]:
    """A slip in what stood on the scale; bone and skin that were weighed off are taken as they are typed."""
    for factor, words in _SLIPS:
        try:
            corrected = tuple(
                VesselWeight(gross_g=vessel.gross_g * factor, vessel_g=vessel.vessel_g * factor) for vessel in vessels
            )
            net = net_weight_g(corrected, removed_g)
        except CoreError:
            continue
        yield Cause(
            words=f"{words}: it would be {weight(net)}.", fit=PRIOR_UNIT * _density(component, net), vessels=corrected
        )


def _bones(component: Component, cooked_g: float, vessels: Sequence[VesselWeight]) -> Iterator[Cause]:
    bones = component.left_on_g
    if not bones or bones >= cooked_g:
        return
    net_g = cooked_g - bones
    fit = PRIOR_BONES * _density(component, net_g) * cooked_g / net_g
    words = f"Bone or skin of about {weight(bones)} is still on it: without it {weight(net_g)}."
    fullest = max(range(len(vessels)), key=lambda index: vessels[index].net_g)
    if bones >= vessels[fullest].net_g:
        # Spread over several vessels nobody can say how much lies in which.
        yield Cause(words=words, fit=fit)
        return
    corrected = list(vessels)
    corrected[fullest] = VesselWeight(gross_g=vessels[fullest].gross_g, vessel_g=vessels[fullest].vessel_g + bones)
    yield Cause(words=words, fit=fit, vessels=tuple(corrected))


def _others(others: Mapping[str, Component], cooked_g: float) -> Iterator[Cause]:
    for name, other in others.items():
        yield Cause(
            words=f"{name} stood on the scale: it should weigh about {weight(other.expected_g)}.",
            fit=PRIOR_OTHER * _density(other, cooked_g),
        )


def _untold(component: Component, vessels: Sequence[VesselWeight], cooked_g: float) -> Iterator[Cause]:
    """Causes that only the cook can know, each as likely as any other."""
    evenly = PRIOR_UNTOLD * _EVENLY
    if cooked_g < component.expected_low_g:
        yield Cause(words="A part is still in another vessel: add a second weighing.", fit=2 * evenly)
        yield Cause(words="It cooked longer or hotter than usual, and more of it boiled off.", fit=evenly)
    else:
        if not any(vessel.vessel_g for vessel in vessels):
            yield Cause(
                words="The pan was not taken off: type its empty weight, or tare before weighing.", fit=2 * evenly
            )
        if cooked_g > 1.02 * component.in_pan_g:
            words = "More came out than went in: something was added at the stove and not noted, or a lid dripped."
            yield Cause(words=words, fit=1.5 * evenly)
        else:
            words = "Water or stock was added that the recipe does not list, or it is not cooked through yet."
            yield Cause(words=words, fit=evenly)
    yield Cause(words="Another component stood on the scale.", fit=evenly / 2)
