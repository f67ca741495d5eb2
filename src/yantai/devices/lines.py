"""Lines that scales and thermometers print, read into readings.

Two protocols of scales: a line of ASCII again and again (status, gross or net, sign, digits, unit), and answers to a
request for the weight (`S S 512.5 g`). A line that is not understood whole is not read at all: half a number is a wrong
one. The same lines are read in the browser (web/src/devices/lines.ts), tried on the same recorded ones.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from yantai.core.quantities.units import celsius, grams
from yantai.devices.readings import State


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """What one line says: a weight [g] or a temperature [°C] where `state` is one. `is_steady` and `is_net` are None
    where the line does not say; `unit` is the one that it was printed in, "" where it has none."""

    state: State
    value: float | None = None
    is_steady: bool | None = None
    unit: str = ""
    is_net: bool | None = None
    battery_low: bool = False


CARAT_G = 0.2
"""A metric carat [g]: pocket scales are set to it by accident."""
_UNREADABLE = Line(state=State.UNREADABLE)
_BATTERY = re.compile(r"LO(W)?\W*(BAT.*)?|BAT(TERY)?(\W*LOW?)?", re.IGNORECASE)
_OVERLOAD = re.compile(r"-{3,}|E{3,}|H{3,}|[O0]\.?L|OVER.*", re.IGNORECASE)
_UNDERLOAD = re.compile(r"L{3,}|_{3,}|U\.?L|UNDER.*", re.IGNORECASE)
_PREFIX = re.compile(r"(ST|US|OL|UL|WT|GS|NT|N|G)(?=[^A-Z]|$)[:,\s]*", re.IGNORECASE)
_SUFFIX = re.compile(r"[,\s]+(ST|US|S|D|\?|BAT)$", re.IGNORECASE)
_WEIGHT = re.compile(r"([+-]?)\s*(\d[\d.,]*)\s*(kg|g|lb|oz|ct|pcs)?", re.IGNORECASE)
_POUNDS = re.compile(r"([+-]?)\s*(\d+)\s*lb[:\s]*(\d+(?:\.\d+)?)\s*oz", re.IGNORECASE)
_ANSWER = re.compile(r"(S|T|Z)\s+([SDIA+-])(?:\s+([+-]?\d+(?:\.\d+)?)\s*(kg|g|lb|oz|ct))?", re.IGNORECASE)
_HEAT = re.compile(r"(?:T\d*[:,\s]\s*)?([+-]?)\s*(\d+(?:[.,]\d+)?)[,\s]*°?\s*([CF])?(\W+BAT)?", re.IGNORECASE)
_NO_PROBE = re.compile(r"-{2,}|OPEN|[O0]\.?L", re.IGNORECASE)
_STEADY = {"ST": True, "S": True, "US": False, "D": False, "?": False}
_NET = {"NT": True, "N": True, "GS": False, "G": False}


def read_weight(line: str, silent_unit: str = "g") -> Line:
    """One line of a scale; a figure without a unit is one in `silent_unit`."""
    text = line.strip()
    if not text:
        return Line(state=State.SILENCE)
    if _BATTERY.fullmatch(text):
        return Line(state=State.BATTERY, battery_low=True)
    if _OVERLOAD.fullmatch(text):
        return Line(state=State.OVERLOAD)
    if _UNDERLOAD.fullmatch(text):
        return Line(state=State.UNDERLOAD)
    answer = _ANSWER.fullmatch(text)
    if answer is not None:
        return _answered(answer)
    return _printed(text, silent_unit)


def read_heat(line: str) -> Line:
    """One line of a thermometer; a figure without a unit is one in degrees Celsius."""
    text = line.strip()
    if not text:
        return Line(state=State.SILENCE)
    if _BATTERY.fullmatch(text):
        return Line(state=State.BATTERY, battery_low=True)
    if _NO_PROBE.fullmatch(text):
        return Line(state=State.NO_PROBE)
    found = _HEAT.fullmatch(text)
    if found is None:
        return _UNREADABLE
    sign, digits, unit, battery = found.groups()
    shown = float(digits.replace(",", ".")) * (-1 if sign == "-" else 1)
    return Line(
        state=State.TEMPERATURE,
        value=celsius(shown) if (unit or "").upper() == "F" else shown,
        unit=(unit or "").upper(),
        battery_low=battery is not None,
    )


def _answered(found: re.Match[str]) -> Line:
    command, told, digits, unit = found.groups()
    command, told = command.upper(), told.upper()
    if told == "I":
        return Line(state=State.BUSY)
    if command == "Z":
        return Line(state=State.ZEROED)
    if command == "T":
        return Line(state=State.TARED)
    if told in "+-":
        return Line(state=State.OVERLOAD if told == "+" else State.UNDERLOAD)
    if digits is None or told not in _STEADY:
        return _UNREADABLE
    return Line(
        state=State.WEIGHT, value=_in_grams(float(digits), unit.lower()), is_steady=_STEADY[told], unit=unit.lower()
    )


def _printed(text: str, silent_unit: str) -> Line:
    told: set[str] = set()
    while (found := _PREFIX.match(text)) is not None:
        told.add(found.group(1).upper())
        text = text[found.end() :]
    while (found := _SUFFIX.search(text)) is not None:
        told.add(found.group(1).upper())
        text = text[: found.start()]
    if "OL" in told:
        return Line(state=State.OVERLOAD)
    if "UL" in told:
        return Line(state=State.UNDERLOAD)
    weight = _weight_of(text.strip(), silent_unit)
    if weight is None:
        return _UNREADABLE
    value, unit = weight
    if unit == "pcs":
        return Line(state=State.PIECES)
    return Line(
        state=State.WEIGHT,
        value=value,
        is_steady=next((_STEADY[word] for word in told if word in _STEADY), None),
        unit=unit,
        is_net=next((_NET[word] for word in told if word in _NET), None),
        battery_low="BAT" in told,
    )


def _weight_of(text: str, silent_unit: str) -> tuple[float, str] | None:
    """The weight [g] that is printed, with its unit."""
    both = _POUNDS.fullmatch(text)
    if both is not None:
        sign, pounds, ounces = both.groups()
        value = grams(float(pounds), "lb") + grams(float(ounces), "oz")
        return (-value if sign == "-" else value), "lb oz"
    found = _WEIGHT.fullmatch(text)
    if found is None:
        return None
    sign, digits, printed = found.groups()
    unit = (printed or "").lower()
    number = _number(digits, unit or silent_unit)
    if number is None:
        return None
    value = number if unit == "pcs" else _in_grams(number, unit or silent_unit)
    return (-value if sign == "-" else value), unit


def _number(digits: str, unit: str) -> float | None:
    """The number, with a point or a comma for decimals; None where nobody can tell which it is."""
    if "," in digits and "." in digits:
        thousands = "," if digits.rindex(".") > digits.rindex(",") else "."
        digits = digits.replace(thousands, "")
    elif re.fullmatch(r"\d{1,3},\d{3}", digits) and unit not in ("kg", "lb"):
        return None
    digits = digits.replace(",", ".")
    return float(digits) if re.fullmatch(r"\d+(\.\d+)?", digits) else None


def _in_grams(number: float, unit: str) -> float:
    return number * CARAT_G if unit == "ct" else grams(number, unit)
