"""General times, hand work and equipment, as the reference data states them; its provenance says how sure they are."""

from __future__ import annotations

import csv
from collections.abc import Iterator
from functools import cache
from importlib import resources

from yantai.core.schedule.kitchen import Fare, Item, Kind
from yantai.core.schedule.propose import PrepRow, TimeRow, Times
from yantai.core.schedule.steps import Growth


def _rows(name: str) -> Iterator[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    yield from csv.DictReader(text.splitlines())


def _number(text: str) -> float | None:
    return float(text) if text else None


@cache
def usual_times() -> Times:
    """Minutes on the heat, and hand work by weight."""
    return Times(
        cooking=tuple(
            TimeRow(
                key=row["key"],
                food=row["food_id"],
                group=row["food_group"],
                form=row["form"],
                method=row["method"],
                on=None if row["equipment"] == "none" else Kind(row["equipment"]),
                setting_c=_number(row["setting_c"]),
                minutes=float(row["minutes_typical"]),
                attended=float(row["attended"]),
                every_min=_number(row["attention_every_min"]),
                preheat_min=float(row["preheat_min"]),
                rest_min=float(row["rest_min"]),
                growth=Growth(row["scales"]),
                load_g=_number(row["load_g"]),
                done_when=row["done_when"],
                core_c=_number(row["core_c"]),
                lead=row["lead"],
                lead_min=_number(row["lead_min_minutes"]),
                lead_most_min=_number(row["lead_max_minutes"]),
            )
            for row in _rows("times.csv")
        ),
        hands=tuple(
            PrepRow(
                key=row["key"],
                task=row["task"],
                food=row["food_id"],
                group=row["food_group"],
                base_min=float(row["minutes_base"]),
                per_kg_min=_number(row["minutes_per_kg"]),
                per_piece_min=_number(row["minutes_per_piece"]),
                piece=row["piece"],
                knife=row["knife"] == "yes",
                risk=row["raw_risk"],
            )
            for row in _rows("prep.csv")
        ),
    )


_HEATED = ("oven", "grill", "air-fryer")


@cache
def catalogue() -> tuple[tuple[Item, str], ...]:
    """Usual equipment with a note on each."""
    return tuple(
        (
            Item(
                key=row["key"],
                kind=Kind(row["kind"]),
                name=row["key"].replace("-", " "),
                places=int(row["shelves_rings"] or 1),
                capacity_l=_number(row["capacity_l"]),
                loads_g=tuple(
                    (fare, float(row[f"load_g_{fare}"]) / _shelves(row))
                    for fare in (Fare.MEAT, Fare.VEGETABLES, Fare.GRAIN)
                    if row[f"load_g_{fare}"]
                ),
                most_c=_number(row["temp_max_c"]) if row["kind"] in _HEATED else None,
            ),
            row["note"],
        )
        for row in _rows("equipment.csv")
    )


def _shelves(row: dict[str, str]) -> int:
    """The table states what goes into a full oven; ours is what goes on a shelf."""
    return int(row["shelves_rings"]) if row["kind"] == "oven" else 1
