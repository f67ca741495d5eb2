"""What users may send, by type: one text, one number, one whole number, one weight. Every input is made of these.

The methods are how pydantic, which only the API knows, asks a type for its schema; here nothing of it is imported.
"""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Callable
from typing import Annotated, Any

from yantai.core.quantities import weighings_g, weight_g

LONGEST_LINE = 500
LONGEST_NOTE = 5_000
LONGEST_FILE = 16 * 1024 * 1024
LARGEST = 1e9
"""No weight, macro, volume or minute of a kitchen comes near it."""
SMALLEST = 1e-9
"""What lies nearer to zero, and is not zero, is a slip or an attack."""

Schema = dict[str, Any]


def _around(check: Callable[[Any, Any], Any], inner: Any) -> Schema:
    return {"type": "function-wrap", "function": {"type": "no-info", "function": check}, "schema": inner}


class TypedText:
    """A text of at most `longest` characters without control characters; with `lines` it may have line breaks."""

    def __init__(self, longest: int, *, lines: bool = False) -> None:
        self.longest, self.lines = longest, lines

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> Schema:
        return _around(self._checked, handler(source))

    def __get_pydantic_json_schema__(self, _schema: Any, _handler: Any) -> Schema:
        return {"type": "string", "maxLength": self.longest}

    def _checked(self, value: Any, read: Callable[[Any], str]) -> str:
        text = read(value)
        if len(text) > self.longest:
            raise ValueError(f"this has {len(text):,} characters; {self.longest:,} fit")
        allowed = "\n\r\t" if self.lines else "\t"
        wrong = next((char for char in text if char not in allowed and _is_unreadable(char)), None)
        if wrong is not None:
            raise ValueError(f"there is a character in it that cannot be read (U+{ord(wrong):04X}); take it out")
        return text


def _is_unreadable(char: str) -> bool:
    """Control characters, and halves of characters that stand alone."""
    return char < " " or char == "\x7f" or unicodedata.category(char) in ("Cc", "Cs")


class TypedNumber:
    """A number that a kitchen may have: finite, at most `LARGEST`, no nearer to zero than `SMALLEST` unless it is 0."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> Schema:
        return _around(self._checked, handler(source))

    def _checked(self, value: Any, read: Callable[[Any], float]) -> float:
        if isinstance(value, int) and abs(value) > LARGEST:
            raise ValueError(_too_large())
        number = read(value)
        if not math.isfinite(number) or abs(number) > LARGEST:
            raise ValueError(_too_large())
        if number and abs(number) < SMALLEST:
            raise ValueError("this is as good as nothing; type 0, or the figure that is meant")
        return number


def _too_large() -> str:
    return f"this is no number between {-LARGEST:,.0f} and {LARGEST:,.0f}; check the digits"


class TypedWeight(TypedNumber):
    """A weight [g] that may come as it was typed: "412+380-35", "812-764" or "1.2 kg" are read into grams."""

    def _checked(self, value: Any, read: Callable[[Any], float]) -> float:
        return super()._checked(weight_g(value) if isinstance(value, str) else value, read)

    def __get_pydantic_json_schema__(self, _schema: Any, _handler: Any) -> Schema:
        return {"anyOf": [{"type": "number"}, {"type": "string"}]}


class EachWeighing:
    """Weighings of which one may be typed as a sum, "1490+1502+1478": each stays a weighing of its own."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> Schema:
        read = {"type": "no-info", "function": _apart}
        return {"type": "function-before", "function": read, "schema": handler(source)}


def _apart(vessels: Any) -> Any:
    if not isinstance(vessels, list):
        return vessels
    found: list[Any] = []
    for one in vessels:
        gross = one.get("gross_g") if isinstance(one, dict) else None
        if not isinstance(gross, str) or "+" not in gross:
            found.append(one)
            continue
        weighings = weighings_g(gross)
        fullest = max(range(len(weighings)), key=lambda place: weighings[place][0])
        typed = one.get("vessel_g") or 0
        vessel = weight_g(typed) if isinstance(typed, str) else typed
        # One empty weight for all of them: it comes off the one that surely stood in it.
        found += [
            {**one, "gross_g": weight, "vessel_g": off + (vessel if place == fullest else 0)}
            for place, (weight, off) in enumerate(weighings)
        ]
    return found


Text = Annotated[str, TypedText(LONGEST_LINE)]
"""A line of text."""
Note = Annotated[str, TypedText(LONGEST_NOTE, lines=True)]
"""A text of several lines."""
FileText = Annotated[str, TypedText(LONGEST_FILE, lines=True)]
"""A whole file, or a pasted page."""
Number = Annotated[float, TypedNumber()]
Whole = Annotated[int, TypedNumber()]
Weight = Annotated[float, TypedWeight()]
"""Grams [g], as a number or as typed in a weight field."""
