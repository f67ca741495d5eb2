"""A shopping list as a PDF: set by Typst with the product's own fonts, the same bytes for the same list."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from pathlib import Path

import typst

_HERE = Path(__file__).parent


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """What to take of a food, and what it costs, in words."""

    take: str
    food: str
    detail: str
    price: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """What stands together in a shop."""

    title: str
    rows: list[Row]


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingPage:
    """A list to be printed, all of it in words; `total` is "" where nothing is known of the cost."""

    title: str
    total: str
    sections: list[Section]
    caution: str


def write(page: ShoppingPage) -> bytes:
    """The PDF. What the page says goes in as data, so nothing of it is taken for a command."""
    made: bytes = typst.compile(
        _HERE / "shopping.typ",
        font_paths=[_HERE / "fonts"],
        ignore_system_fonts=True,
        sys_inputs={"page": json.dumps(asdict(page))},
    )
    return made
