"""Sheets as a PDF: set by Typst with the product's own fonts, the same bytes for the same sheets."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path

import typst

from yantai.formats.label_document import FONTS
from yantai.formats.sheet_document import KitchenSheet, ListSheet, Paper, Sheet, WeekSheet

_KINDS = {WeekSheet: "week", ListSheet: "list", KitchenSheet: "kitchen"}


def set_sheets(sheets: Sequence[Sheet], paper: Paper) -> bytes:
    """The PDF, each sheet on pages of its own. What they say goes in as data, so nothing of it is taken for a
    command."""
    data = {"paper": paper.value, "sheets": [{"kind": _KINDS[type(sheet)], **asdict(sheet)} for sheet in sheets]}
    made: bytes = typst.compile(
        Path(__file__).parent / "sheets.typ",
        font_paths=[FONTS],
        ignore_system_fonts=True,
        sys_inputs={"page": json.dumps(data)},
    )
    return made
