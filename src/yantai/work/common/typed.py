"""What users may send, by type: a text, a number, a whole number, a weight as it was typed, and ranges with units.

Every input is made of these.
"""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import BaseModel, GetCoreSchemaHandler, ValidationInfo
from pydantic_core import CoreSchema, core_schema

from yantai.core.errors import OutOfRange, require_range
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.quantities import weighings_g, weight_g

LONGEST_NAME = 200
LONGEST_LINE = 500
LONGEST_NOTE = 5_000
LONGEST_FILE = 16 * 1024 * 1024
LARGEST = 1e9
"""No weight, macro, volume or minute of a kitchen comes near it."""
SMALLEST = 1e-9
"""What lies nearer to zero, and is not zero, is a slip or an attack."""

JsonSchema = dict[str, Any]


class TypedText:
    """A text of at most `longest` characters without control characters; with `lines` it may have line breaks."""

    def __init__(self, longest: int, *, lines: bool = False) -> None:
        self.longest, self.lines = longest, lines

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_wrap_validator_function(self._checked, handler(source))

    def __get_pydantic_json_schema__(self, _schema: Any, _handler: Any) -> JsonSchema:
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


class TypedName(TypedText):
    """The name of something, in the words of `what`: not empty, without spaces around it."""

    def __init__(self, what: str) -> None:
        super().__init__(LONGEST_NAME)
        self.what = what

    def _checked(self, value: Any, read: Callable[[Any], str]) -> str:
        text = super()._checked(value, read).strip()
        if not text:
            raise ValueError(f"give {self.what}")
        return text


class TypedEmail(TypedText):
    """An e-mail address, or none."""

    def __init__(self) -> None:
        super().__init__(LONGEST_NAME)

    def _checked(self, value: Any, read: Callable[[Any], str]) -> str:
        text = super()._checked(value, read).strip()
        if not text.isascii():
            raise ValueError("letters beyond plain ones in an address are not taken by every mail server; leave it out")
        if text and _EMAIL.fullmatch(text) is None:
            raise ValueError("this is no e-mail address; one looks like mara@port-alder.example")
        return text


_EMAIL = re.compile(r"[^@\s,;<>\"()]+@[^@\s,;<>\"()]+\.[^@\s,;<>\"().]+")


def _is_unreadable(char: str) -> bool:
    """Control characters, and halves of characters that stand alone."""
    return char < " " or char == "\x7f" or unicodedata.category(char) in ("Cc", "Cs")


class TypedNumber:
    """A number that a kitchen may have: finite, at most `LARGEST`, no nearer to zero than `SMALLEST` unless it is 0."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_wrap_validator_function(self._checked, handler(source))

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

    def __get_pydantic_json_schema__(self, _schema: Any, _handler: Any) -> JsonSchema:
        return {"anyOf": [{"type": "number"}, {"type": "string"}]}


class EachWeighing:
    """Weighings of which one may be typed as a sum, "1490+1502+1478": each stays a weighing of its own."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_before_validator_function(_apart, handler(source))


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
        fullest = max(range(len(weighings)), key=lambda index: weighings[index][0])
        typed = one.get("vessel_g") or 0
        vessel = weight_g(typed) if isinstance(typed, str) else typed
        # One empty weight for all of them: it comes off the one that surely stood in it.
        found += [
            {**one, "gross_g": weight, "vessel_g": off + (vessel if index == fullest else 0)}
            for index, (weight, off) in enumerate(weighings)
        ]
    return found


@dataclass(frozen=True)
class Range:
    """From `low` to `high`, in the unit in which a fault is told; None is left alone.

    What is sent is refused outside of it. A draft that is computed while it is typed may be `late`: then it is told
    when the draft is saved, by `late_faults`.
    """

    low: float
    high: float
    unit: str
    late: bool = False

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        schema = handler(source)
        return schema if self.late else core_schema.with_info_after_validator_function(self._checked, schema)

    def _checked(self, value: float | None, info: ValidationInfo) -> float | None:
        return self.check(info.field_name or "value", value)

    def check(self, field: str, value: float | None) -> float | None:
        """`value`, where it lies inside.

        Raises:
            OutOfRange: it does not.
        """
        return None if value is None else require_range(field, value, low=self.low, high=self.high, unit=self.unit)


def late_faults(draft: BaseModel) -> Iterator[OutOfRange]:
    """The figures of a draft that lie outside their ranges."""
    for name, field in type(draft).model_fields.items():
        for range_ in field.metadata:
            if isinstance(range_, Range):
                try:
                    range_.check(name, getattr(draft, name))
                except OutOfRange as error:
                    yield error


Text = Annotated[str, TypedText(LONGEST_LINE)]
"""A line of text."""
Note = Annotated[str, TypedText(LONGEST_NOTE, lines=True)]
"""A text of several lines."""
FileText = Annotated[str, TypedText(LONGEST_FILE, lines=True)]
"""A whole file, or a pasted page."""
EmailText = Annotated[str, TypedEmail()]
"""An e-mail address, or nothing."""
Number = Annotated[float, TypedNumber()]
Whole = Annotated[int, TypedNumber()]
Weight = Annotated[float, TypedWeight()]
"""Grams [g], as a number or as typed in a weight field."""

CellGrams = Annotated[Weight, Range(0.1, MAXIMUM_CELL_G, "g")]
"""Grams [g] of one food in one container, or eaten beside it."""
LinkDays = Annotated[Whole, Range(1, 366, "days")]
"""How long a link works [days]."""
Bound = Annotated[Weight, Range(0, MAXIMUM_CELL_G, "g")]
"""The least or the most [g] of a component in one container."""
