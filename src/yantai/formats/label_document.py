"""Labels for containers: what stands on one, the sheets and rolls they are printed on, and what no font can write."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

from fontTools.ttLib import TTFont

FONTS = Path(__file__).parent / "fonts"
MISSING = "□"
"""What stands for a character that no font here has."""

_LONGEST_WORD = 14
LONGEST_NAME = 48
"""Of a longer name a label has so much, and an ellipsis."""

DROPS = (
    "batch",
    "grams of each part",
    "how to reheat, in words",
    "the day of cooking",
    "the code",
    "macros",
    "the dish",
)
"""What a label that is too small for all of it leaves out, in this order. The client, the container's number, the day
to use it by, where it is kept, allergens and “reheat once, to 74 °C” are never left out."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """What stands on the label of one container, in words.

    `is_planned` where nobody has filled it: then its figures are those of the plan, and it says so. `mark` is the one
    letter that tells wraps apart.
    """

    client: str
    meal: str
    dish: str
    box: str
    cooked: str
    use_by_words: str
    use_by: str
    keep: str
    thaw: str
    reheat: str
    reheat_short: str
    parts: tuple[str, ...]
    macros: tuple[str, ...]
    energy: str
    grams: str
    allergens: tuple[str, ...]
    also: tuple[str, ...]
    is_planned: bool
    batch: str
    mark: str
    code: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelGrid:
    """Where labels lie [mm]: on sheets of `page_mm` in columns and rows, or one after another on a roll.

    A roll has one label to a page; with a `label_h_mm` of None it is cut as long as its text.
    """

    key: str
    name: str
    page_mm: tuple[float, float] | None
    label_w_mm: float
    label_h_mm: float | None
    columns: int = 1
    rows: int = 1
    left_mm: float = 0.0
    top_mm: float = 0.0
    gap_x_mm: float = 0.0
    gap_y_mm: float = 0.0

    @property
    def cells(self) -> int:
        """How many labels lie on a sheet."""
        return self.columns * self.rows

    def overhang_mm(self) -> float:
        """How far the grid reaches beyond its sheet; 0 where it fits."""
        if self.page_mm is None or self.label_h_mm is None:
            return 0.0
        right = self.left_mm + self.columns * self.label_w_mm + (self.columns - 1) * self.gap_x_mm
        bottom = self.top_mm + self.rows * self.label_h_mm + (self.rows - 1) * self.gap_y_mm
        return max(right - self.page_mm[0], bottom - self.page_mm[1], 0.0)


A4 = (210.0, 297.0)
GRIDS: Mapping[str, LabelGrid] = {
    grid.key: grid
    for grid in (
        LabelGrid(
            key="sheet-63x38", name="Sheet of 21, 63.5 × 38.1 mm", page_mm=A4, label_w_mm=63.5, label_h_mm=38.1,
            columns=3, rows=7, left_mm=7.25, top_mm=15.15, gap_x_mm=2.5,
        ),
        LabelGrid(
            key="sheet-99x38", name="Sheet of 14, 99.1 × 38.1 mm", page_mm=A4, label_w_mm=99.1, label_h_mm=38.1,
            columns=2, rows=7, left_mm=4.65, top_mm=15.15, gap_x_mm=2.5,
        ),
        LabelGrid(
            key="sheet-70x37", name="Sheet of 24, 70 × 37 mm", page_mm=A4, label_w_mm=70, label_h_mm=37,
            columns=3, rows=8, left_mm=0, top_mm=0.5,
        ),
        LabelGrid(key="roll-62", name="Roll, 62 mm wide", page_mm=None, label_w_mm=62, label_h_mm=None),
        LabelGrid(key="roll-100x62", name="Roll, 100 × 62 mm", page_mm=None, label_w_mm=100, label_h_mm=62),
        LabelGrid(key="roll-50x30", name="Roll, 50 × 30 mm", page_mm=None, label_w_mm=50, label_h_mm=30),
    )
}  # fmt: skip
"""Common sheets and rolls. Of a roll the printer's driver knows the size: it is the page."""


def printable(label: Label) -> tuple[Label, frozenset[str]]:
    """A label as the fonts can write it, and the characters that they cannot: `MISSING` stands for each."""
    lacking: set[str] = set()

    def written(text: str) -> str:
        kept = []
        for char in unicodedata.normalize("NFC", text):
            if char.isspace() or ord(char) in _known() or unicodedata.category(char) in ("Mn", "Cf", "Me"):
                kept.append(char)
            else:
                lacking.add(char)
                kept.append(MISSING)
        return "".join(kept)

    changed: dict[str, Any] = {
        name: written(_shortened(value) if name in ("client", "dish", "batch") else value)
        for name in Label.__dataclass_fields__
        if isinstance(value := getattr(label, name), str) and name != "code"
    }
    changed |= {name: tuple(map(written, getattr(label, name))) for name in ("parts", "macros", "allergens", "also")}
    return replace(label, **changed), frozenset(lacking)


def _shortened(name: str) -> str:
    """A name of a length that a label has room for; a word that is longer than a line breaks anywhere."""
    short = name if len(name) <= LONGEST_NAME else f"{name[: LONGEST_NAME - 1].rstrip()}…"
    return " ".join(word if len(word) <= _LONGEST_WORD else "\u200b".join(word) for word in short.split(" "))


@cache
def _known() -> frozenset[int]:
    """The characters that one of the fonts has."""
    return frozenset(char for path in sorted(FONTS.glob("*.ttf")) for char in _characters(path))


def _characters(path: Path) -> Iterable[int]:
    with TTFont(path, lazy=True) as font:
        return list(font.getBestCmap())
