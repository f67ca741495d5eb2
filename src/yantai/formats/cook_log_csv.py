"""The log of a cook day as CSV: one row for each thing that was noted."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from yantai.formats.tables import unformulated

HEADINGS = (
    "happened",
    "component",
    "step",
    "what",
    "celsius",
    "enough",
    "grams",
    "vessel_g",
    "who",
    "noted_by",
    "device",
    "arrived",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LogRow:
    """Something that was noted: when it happened and when it arrived, and, of a core temperature, if it was enough;
    what the scale showed with the vessel, and what that weighs empty [g]."""

    happened: datetime
    arrived: datetime
    component: str
    step: str
    what: str
    celsius: float | None
    enough: bool | None
    grams: float | None
    vessel_g: float | None
    who: str
    noted_by: str
    device: str


def write(rows: Iterable[LogRow]) -> str:
    """The rows as CSV text."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADINGS)
    for row in rows:
        celsius = "" if row.celsius is None else f"{row.celsius:.1f}"
        enough = "" if row.enough is None else str(row.enough).lower()
        weighed = ["" if grams is None else f"{grams:.0f}" for grams in (row.grams, row.vessel_g)]
        told = [unformulated(text) for text in (row.who, row.noted_by, row.device)]
        happened, arrived = row.happened.isoformat(timespec="seconds"), row.arrived.isoformat(timespec="seconds")
        of = [unformulated(row.component), unformulated(row.step), row.what]
        writer.writerow([happened, *of, celsius, enough, *weighed, *told, arrived])
    return out.getvalue()
