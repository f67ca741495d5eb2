"""Labels as a PDF: set by Typst in black with the product's own fonts, the same bytes for the same labels."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from functools import cache
from pathlib import Path

import segno
import typst

from yantai.formats.label_document import DROPS, FONTS, Label, LabelGrid, printable

_HERE = Path(__file__).parent
_SIZES = (10.5, 8.8, 7.4, 6.4, 5.6)
"""Sizes of letters that are tried [pt]: the largest that fit are taken."""

_SMALL_MM, _INSET_MM, _SMALL_INSET_MM = 35.0, 2.2, 1.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """How a label came out: how many of `DROPS` it left out, whether the rest fits, and what no font could write."""

    dropped: int
    fits: bool
    lacking: frozenset[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Printed:
    """Labels that are set, and how each came out."""

    pdf: bytes
    fits: tuple[Fit, ...]


def set_labels(labels: Sequence[Label], grid: LabelGrid, *, start: int = 1, title: str = "Labels") -> Printed:
    """Labels on sheets or on a roll; the first one in cell `start` of a sheet that was used in part.

    What a label says goes in as data, so nothing of it is taken for a command.
    """
    written = [printable(label) for label in labels]
    compiler = _compiler(labels, [label for label, _ in written], grid, start, title)
    pdf = _only_file(compiler.compile())
    found = {one["value"]["index"]: one["value"] for one in json.loads(compiler.query("<fit>"))}
    return Printed(
        pdf=pdf,
        fits=tuple(
            Fit(dropped=found[index]["level"], fits=found[index]["fits"], lacking=lacking)
            for index, (_, lacking) in enumerate(written)
        ),
    )


def preview(labels: Sequence[Label], grid: LabelGrid, *, start: int = 1) -> bytes:
    """The first page of the same as a PNG."""
    written = [printable(label)[0] for label in labels[: grid.cells]]
    pages = _compiler(labels, written, grid, start, "Labels").compile(format="png", ppi=144)
    return _only_file(pages)


def ruler_page(grid: LabelGrid) -> bytes:
    """The edges of every label of a grid, with rulers."""
    says = ["Print at 100 %, without fitting to the page. The rulers are in millimetres."]
    data = {"grid": _grid(grid), "title": f"Test page, {grid.name}", "says": says}
    return _only_file(
        typst.compile(
            _HERE / "label_test.typ",
            font_paths=[FONTS],
            ignore_system_fonts=True,
            sys_inputs={"page": json.dumps(data)},
        )
    )


def _only_file(made: bytes | list[bytes] | None) -> bytes:
    """What was set, or its first page where there is a file for each."""
    first = made[0] if isinstance(made, list) else made
    if first is None:
        raise TypeError("nothing was set")
    return first


def _compiler(
    labels: Sequence[Label], written: Sequence[Label], grid: LabelGrid, start: int, title: str
) -> typst.Compiler:
    shown = [
        {**asdict(label), "code_svg": _code(original.code)} for label, original in zip(written, labels, strict=False)
    ]
    data = {
        "grid": _grid(grid),
        "title": title,
        "start": start,
        "drops": list(DROPS),
        "sizes": _SIZES,
        "labels": shown,
    }
    return typst.Compiler(
        _HERE / "labels.typ",
        font_paths=[FONTS],
        ignore_system_fonts=True,
        sys_inputs={"page": json.dumps(data)},
    )


def _grid(grid: LabelGrid) -> dict[str, object]:
    least = min(grid.label_w_mm, grid.label_h_mm or grid.label_w_mm)
    return {**asdict(grid), "inset": _SMALL_INSET_MM if least < _SMALL_MM else _INSET_MM}


@cache
def _code(text: str) -> str:
    """A code that a phone reads, as a drawing. Any mask is read; looking for the best one takes most of the time."""
    drawn: str = segno.make(text, error="m", mask=2).svg_inline(border=1, omitsize=True)
    return drawn
