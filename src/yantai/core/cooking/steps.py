"""A written step taken apart: how long with and without hands, how hot, on what, how long ahead."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.quantities.units import celsius
from yantai.core.quantities.writing import plain_text

OVERNIGHT_MIN = 480.0
LEAST_LEAD_MIN = 30.0
LEAST_CORE_C = 45.0
"""What is said of the food's own temperature below this [°C] is how cold it is to be."""
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
    r"\b(bake|roast|simmer|boil|rest|soak|marinate|chill|cool|steam|poach|prove|proof|preheat|slow[- ]cook|braise|"
    r"freeze|stand|leave|cover|thaw|press)\w*\b"
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


_EVERY = re.compile(rf"\bevery\s+{_DURATION.pattern}")
_AT_MOST = re.compile(rf"\b(?:up to|at most|no (?:longer|more) than|or)\s+(?:{_DURATION.pattern}|(overnight)\b)")
_EACH_SIDE = re.compile(r"\b(?:each|per|a|every) side\b|\bboth sides\b|\bside\b[^.;]*\bother side\b")
_HALFWAY = re.compile(
    r"\b(?:turn|flip|rotat|stir|shak|toss|bast)\w*\b[^.;]*?\b(?:once|half[- ]?way|midway|half the time)\b"
)
_NOW_AND_THEN = re.compile(
    r"\b(?:occasionally|from time to time|now and then|regularly|often|frequently|every few minutes|once in a while)\b"
)
_UNTIL = re.compile(r"\b(?:until|till)\s+(.+?)(?=\s*(?:[.,;]|\bthen\b|$))", re.IGNORECASE)
_COOKS = re.compile(
    r"\b(bake|roast|simmer|boil|fry|grill|broil|braise|poach|steam|sear|saute|char|slow[- ]cook|pressure[- ]cook|toast)"
    r"\w*\b"
)
_IN_OVEN = re.compile(r"\b(bake|roast)\w*\b")


class Ask(StrEnum):
    """What a step leaves open."""

    TIME = "time"
    OVEN = "oven"
    OFTEN = "often"


ASKED = {
    Ask.TIME: "How long does it take?",
    Ask.OVEN: "How hot is the oven?",
    Ask.OFTEN: "How often, in minutes?",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class StepReading:
    """What a step says; None where it says nothing.

    Attributes:
        hands_on_min, unattended_min: minutes [min] with and without hands.
        temperature_c: oven temperature [°C].
        temperatures_apart: two stated temperatures that differ [°C], else None.
        lead_min, lead_most_min: how long before cooking it has to begin at least, and at most [min].
        every_min: how often it wants hands while it goes on by itself [min].
        core_c: what the middle of the food must reach [°C].
        done_when: how one sees that it is done.
        range_min: the least and the most that is said, where that is a range; its middle is in the minutes.
        asks: what it leaves open.
    """

    text: str
    hands_on_min: float | None
    unattended_min: float | None
    temperature_c: float | None
    temperatures_apart: tuple[float, float] | None
    equipment: str
    lead_min: float | None
    lead_most_min: float | None
    every_min: float | None
    core_c: float | None
    done_when: str
    range_min: tuple[float, float] | None
    asks: tuple[Ask, ...]


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
    found = _durations(plain_text(text))
    return None if found is None else sum(found) / 2


def _durations(plain: str) -> tuple[float, float] | None:
    """The least and the most of all durations in a plain text together [min]."""
    found = [_lasts(match.group(1), match.group(2), match.group(3)) for match in _DURATION.finditer(plain)]
    return (sum(low for low, _ in found), sum(high for _, high in found)) if found else None


def _lasts(low: str, high: str | None, unit: str) -> tuple[float, float]:
    factor = {"h": 60.0, "m": 1.0, "s": 1 / 60}[unit[0]]
    return float(low) * factor, float(high or low) * factor


def read_step(text: str) -> StepReading:
    """Take one step apart.

    >>> step = read_step("Bake on two trays at 210 °C, 18 minutes.")
    >>> step.temperature_c, step.unattended_min, step.equipment
    (210.0, 18.0, 'oven')
    >>> step = read_step("Roast at 200 °C for 25-30 min, turning once, to 74 °C inside.")
    >>> step.unattended_min, step.every_min, step.core_c, step.range_min
    (27.5, 13.75, 74.0, (25.0, 30.0))
    """
    plain = plain_text(text)
    heat = temperatures_c(text)
    every, at_most = _EVERY.search(plain), _AT_MOST.search(plain)
    # How often it is stirred, and for how long it may stand, are no part of how long it takes.
    rest = _AT_MOST.sub(" ", _EVERY.sub(" ", plain))
    durations = _durations(rest)
    if durations is None and "overnight" in plain:
        durations = (OVERNIGHT_MIN, OVERNIGHT_MIN)
    sides = 2 if _EACH_SIDE.search(plain) else 1
    low, high = (None, None) if durations is None else (durations[0] * sides, durations[1] * sides)
    lasts = None if low is None or high is None else (low + high) / 2
    unattended = bool(_UNATTENDED.search(plain))
    is_ahead = low is not None and low >= LEAST_LEAD_MIN and bool(_AHEAD.search(plain))
    every_min = _every(every, plain, lasts, sides)
    return StepReading(
        text=text.strip(),
        hands_on_min=None if unattended else lasts,
        unattended_min=lasts if unattended else None,
        temperature_c=heat[0] if heat else None,
        temperatures_apart=_apart(heat, plain),
        equipment=next((name for name, words in _EQUIPMENT if any(word in plain for word in words)), ""),
        lead_min=low if is_ahead else None,
        lead_most_min=_most(at_most, low, high) if is_ahead else None,
        every_min=every_min,
        core_c=_core_c(plain),
        done_when=_done_when(text),
        range_min=None if low is None or high is None or low == high else (low, high),
        asks=tuple(_asks(plain, lasts, heat, every_min)),
    )


def _every(every: re.Match[str] | None, plain: str, lasts: float | None, sides: int) -> float | None:
    """How often it wants hands [min]: as it says, or once in the middle."""
    if every is not None:
        return sum(_lasts(every.group(1), every.group(2), every.group(3))) / 2
    if lasts is not None and (sides > 1 or _HALFWAY.search(plain)):
        return lasts / 2
    return None


def _most(at_most: re.Match[str] | None, low: float | None, high: float | None) -> float | None:
    if at_most is None:
        return None if low == high else high
    if at_most.group(4):
        return OVERNIGHT_MIN
    return _lasts(at_most.group(1), at_most.group(2), at_most.group(3))[1]


def _apart(heat: list[float], plain: str) -> tuple[float, float] | None:
    # "180 °C, fan 160 °C" are two ovens, not two temperatures of one.
    if len(heat) < 2 or re.search(r"\bfan\b|\bconvection\b", plain):
        return None
    return (heat[0], heat[1]) if max(heat[:2]) - min(heat[:2]) > APART_SHARE * max(heat[:2]) else None


def _core_c(plain: str) -> float | None:
    """What the food must reach inside [°C]; what it is cooled or thawed to is below that."""
    before = 0
    for match in _TEMPERATURE.finditer(plain):
        value = float(match.group(1))
        value = celsius(value) if match.group(2).startswith("f") else value
        if value >= LEAST_CORE_C and _is_of_the_food(value, plain[before : match.start()], plain[match.end() :]):
            return value
        before = match.end()
    return None


def _done_when(text: str) -> str:
    """How one sees that it is done, in the words of the text; what a thermometer says is no look."""
    for match in _UNTIL.finditer(text):
        if not _TEMPERATURE.search(plain_text(match.group(1))):
            return match.group(1).strip()
    return ""


def _asks(plain: str, lasts: float | None, heat: list[float], every_min: float | None) -> Iterator[Ask]:
    if lasts is None and _COOKS.search(plain):
        yield Ask.TIME
    if lasts is not None and not heat and _IN_OVEN.search(plain):
        yield Ask.OVEN
    if every_min is None and _NOW_AND_THEN.search(plain):
        yield Ask.OFTEN
