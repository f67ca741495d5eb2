"""A written step taken apart: how long with and without hands, how hot, on what, how long ahead."""

from __future__ import annotations

import re
from dataclasses import dataclass

from yantai.core.quantities.units import celsius
from yantai.core.quantities.writing import plain_text

OVERNIGHT_MIN = 480.0
APART_SHARE = 0.05
"""Two oven temperatures of one step disagree when more than this share apart."""

_TEMPERATURE = re.compile(r"(\d{2,3})\s*(?:°|degrees?|deg)?\s*(c|f|celsius|fahrenheit)\b(?!\w)")
_OVEN_LEAST_C = 100.0
"""Food that holds water gets no hotter than this [°C], so what is stated above it is the oven's."""
_TO_REACH = re.compile(
    r"\b(?:to|until|till|reach\w*|reads?|below|under|above|over|least|inside|internal|core|cent(?:re|er)|middle|"
    r"thickest|thermometer|probe|fridge)\b[^.;]*$"
)
_INSIDE = re.compile(r"\s*(?:(?:in|at|on) )?(?:the )?(?:inside|internal|core|cent(?:re|er)|middle|thickest|deepest)\b")
_GAS_MARK = re.compile(r"gas (?:mark )?(\d{1,2})\b")
_DURATION = re.compile(
    r"(\d+(?:\.\d+)?)(?:\s*(?:-|to)\s*(\d+(?:\.\d+)?))?\s*"
    r"(hours?|hrs?|h|minutes?|mins?|min|m|seconds?|secs?)\b(?!\w)"
)
_UNATTENDED = re.compile(
    r"\b(bake|roast|simmer|boil|rest|soak|marinate|chill|cool|steam|prove|proof|preheat|slow[- ]cook|braise|freeze|"
    r"stand|leave|cover|thaw|press)\w*\b"
)
_AHEAD = re.compile(r"\b(soak|marinate|thaw|defrost|chill|press|brine)\w*\b")
_EQUIPMENT = (
    ("rice cooker", ("rice cooker",)),
    ("slow cooker", ("slow cooker", "slow-cook")),
    ("pressure cooker", ("pressure cook",)),
    ("air fryer", ("air fry", "air-fry")),
    ("oven", ("oven", "bake", "roast", "tray", "preheat")),
    ("grill", ("grill", "broil")),
    ("blender", ("blend", "blitz", "food processor")),
    ("hob", ("pan", "pot", "fry", "simmer", "boil", "saute", "sear", "hob", "wok", "steam")),
    ("fridge", ("fridge", "chill", "marinate", "refrigerat")),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class StepReading:
    """What a step says; None where it says nothing.

    Attributes:
        hands_on_min, unattended_min: minutes [min] with and without hands.
        temperature_c: oven temperature [°C].
        temperatures_apart: two stated temperatures that differ [°C], else None.
        lead_min: how long before cooking it has to begin [min].
    """

    text: str
    hands_on_min: float | None
    unattended_min: float | None
    temperature_c: float | None
    temperatures_apart: tuple[float, float] | None
    equipment: str
    lead_min: float | None


def temperatures_c(text: str) -> list[float]:
    """Oven temperatures [°C] in a text, of either degree or by gas mark, in the order they stand.

    A gas mark n is 25 °F apart from the next, mark 1 being 275 °F. What the food is to reach inside, or to cool to, is
    no oven's.

    >>> [round(value) for value in temperatures_c("Roast at 200 °C (400 °F) for 20 minutes, to 74 °C inside")]
    [200, 204]
    """
    plain = plain_text(text)
    found = []
    before = 0
    for match in _TEMPERATURE.finditer(plain):
        value = float(match.group(1))
        value = celsius(value) if match.group(2).startswith("f") else value
        if not _is_of_the_food(value, plain[before : match.start()], plain[match.end() :]):
            found.append((match.start(), value))
        before = match.end()
    for match in _GAS_MARK.finditer(plain):
        found.append((match.start(), celsius(250 + 25 * float(match.group(1)))))
    return [value for _, value in sorted(found)]


def _is_of_the_food(value: float, before: str, after: str) -> bool:
    """Whether a temperature [°C] is one that the food is to have: no food gets as hot as the oven it is baked in."""
    return value < _OVEN_LEAST_C and bool(_TO_REACH.search(before) or _INSIDE.match(after))


def minutes(text: str) -> float | None:
    """All durations in a text together [min]; the middle of a range; None when there is none.

    >>> minutes("simmer 1 h 20 min"), minutes("bake for 25-30 minutes"), minutes("stir")
    (80.0, 27.5, None)
    """
    total, found = 0.0, False
    for match in _DURATION.finditer(plain_text(text)):
        low = float(match.group(1))
        high = float(match.group(2)) if match.group(2) else low
        factor = {"h": 60.0, "m": 1.0, "s": 1 / 60}[match.group(3)[0]]
        total, found = total + (low + high) / 2 * factor, True
    return total if found else None


def read_step(text: str) -> StepReading:
    """Take one step apart.

    >>> step = read_step("Bake on two trays at 210 °C, 18 minutes.")
    >>> step.temperature_c, step.unattended_min, step.equipment
    (210.0, 18.0, 'oven')
    """
    plain = plain_text(text)
    heat = temperatures_c(text)
    lasts = minutes(text)
    if lasts is None and "overnight" in plain:
        lasts = OVERNIGHT_MIN
    unattended = bool(_UNATTENDED.search(plain))
    apart = None
    # "180 °C, fan 160 °C" are two ovens, not two temperatures of one.
    if (
        len(heat) > 1
        and not re.search(r"\bfan\b|\bconvection\b", plain)
        and max(heat[:2]) - min(heat[:2]) > APART_SHARE * max(heat[:2])
    ):
        apart = (heat[0], heat[1])
    return StepReading(
        text=text.strip(),
        hands_on_min=None if unattended else lasts,
        unattended_min=lasts if unattended else None,
        temperature_c=heat[0] if heat else None,
        temperatures_apart=apart,
        equipment=next((name for name, words in _EQUIPMENT if any(word in plain for word in words)), ""),
        lead_min=lasts if lasts is not None and lasts >= 30 and _AHEAD.search(plain) else None,
    )
