"""Loading the shipped reference foods; see yantai/reference/PROVENANCE.md for their sources."""

from __future__ import annotations

import csv
import unicodedata
import uuid
from collections.abc import Iterator
from importlib import resources
from typing import Any

from sqlalchemy import delete
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.matching import Usual
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.kitchen import WATER_REFERENCE

_NAMESPACE = uuid.UUID("6f0c1c53-2a5e-4c3b-9d53-0d6f0c6b7a10")
_WEAK_SOURCES = ("Generic label estimate (unverified)",)
_WEAK_FOODS = {
    "whey-protein-powder-dry",
    "black-beans-canned-drained",
    "potato-fries-oven-baked",
    "pork-belly-raw",
}
"""Rows that PROVENANCE.md lists as weak one by one."""

_PROTEIN_BALANCED = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")

_WATER: dict[str, Any] = {
    "reference": WATER_REFERENCE,
    "name": "Water",
    "food_group": "water",
    "state": "as-sold",
    "method": "",
    "stated_kcal": 0.0,
    **dict.fromkeys(("protein_g", "carbohydrate_g", "fat_g", "fibre_g", "sugars_g"), 0.0),
    **dict.fromkeys(("saturated_g", "sodium_mg", "alcohol_g"), 0.0),
    "allergens": [],
    "diet_tags": ["vegan", "vegetarian", "pescatarian"],
    "source": "Yantai",
    "source_detail": "Water has no macros; the minerals of tap water are left out.",
    "note": "",
    "weak": False,
    "search_text": "water tap stock pot",
}


def reference_id(reference: str) -> uuid.UUID:
    """The id of a reference food: the same in every installation."""
    return uuid.uuid5(_NAMESPACE, reference)


def plain(text: str) -> str:
    """Lower case without accents, for searching."""
    folded = unicodedata.normalize("NFKD", text.casefold())
    return "".join(char for char in folded if not unicodedata.combining(char))


def load_reference(database: Database) -> int:
    """Write all reference foods with their measures, yields, pairs and edible portions; how many foods.

    Running it again brings changed rows up to date and leaves recipes, which refer to them, as they are.
    """
    with database.loading_reference() as session:
        foods = [{"id": reference_id(str(row["reference"])), **row} for row in _foods()]
        statement = insert(tables.Food)
        changed = {key: statement.excluded[key] for key in foods[0] if key not in ("id", "reference")}
        session.execute(statement.on_conflict_do_update(index_elements=["reference"], set_=changed), foods)
        _replace(session, tables.Measure, _measures())
        _replace(session, tables.YieldFactor, _yields())
        _replace(session, tables.RawCookedPair, _pairs())
        _replace(session, tables.EdiblePortion, _edible())
    return len(foods)


def _replace(session: Session, table: type[tables.Row], rows: Iterator[dict[str, Any]]) -> None:
    session.execute(delete(table))
    session.execute(insert(table), [{"id": uuid.uuid4(), **row} for row in rows])


def _read(name: str) -> Iterator[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    yield from csv.DictReader(text.splitlines())


def _number(text: str) -> float | None:
    return float(text) if text else None


def _words(text: str) -> list[str]:
    return [word for word in text.split(";") if word]


def _foods() -> Iterator[dict[str, Any]]:
    yield _WATER
    for row in _read("foods.csv"):
        aliases = " ".join(_words(row["aliases"]))
        yield {
            "reference": row["food_id"],
            "name": row["name"],
            "food_group": row["group"],
            "state": row["state"],
            "method": row["method"],
            "stated_kcal": _number(row["energy_kcal"]),
            "protein_g": _number(row["protein_g"]),
            "carbohydrate_g": _number(row["carbohydrate_g"]),
            "fat_g": _number(row["fat_g"]),
            "fibre_g": _number(row["fibre_g"]),
            "sugars_g": _number(row["sugars_g"]),
            "saturated_g": _number(row["saturated_g"]),
            "sodium_mg": _number(row["sodium_mg"]),
            "alcohol_g": _number(row["alcohol_g"]),
            "allergens": _words(row["allergens"]),
            "diet_tags": _words(row["diet_tags"]),
            "source": row["source"],
            "source_detail": row["source_ref"],
            "note": row["note"],
            "weak": row["source"] in _WEAK_SOURCES or row["food_id"] in _WEAK_FOODS,
            "search_text": plain(f"{row['name']} {aliases} {row['state']} {row['method']}").replace("-", " "),
        }


def read_usual() -> list[Usual]:
    """What plain words usually mean in cooking; the key is the id of a reference food."""
    return [
        Usual(
            words=row["words"],
            key=str(reference_id(row["food_id"])),
            optional=row["optional"],
            sure=row["asks"] != "ask",
        )
        for row in _read("usual.csv")
    ]


def _measures() -> Iterator[dict[str, Any]]:
    # Water is weighed by its volume: a millilitre is a gram.
    water = {"food_id": WATER_REFERENCE, "measure": "ml", "grams": "1", "source": "Yantai", "note": ""}
    for row in (water, *_read("measures.csv"), *_read("kitchen_measures.csv")):
        yield {
            "food_id": reference_id(row["food_id"]),
            "name": row["measure"],
            "grams": float(row["grams"]),
            "source": row.get("source", "standard kitchen average"),
            "note": row["note"],
        }


def _yields() -> Iterator[dict[str, Any]]:
    for row in _read("yields.csv"):
        yield {
            "food_id": reference_id(row["food_id"]) if row["food_id"] else None,
            "food_group": row["group"] or None,
            "method": row["method"],
            "low": float(row["yield_low"]),
            "expected": float(row["yield_mean"]),
            "high": float(row["yield_high"]),
            "basis": row["basis"],
            "note": row["note"],
        }


def _pairs() -> Iterator[dict[str, Any]]:
    # Protein is the balance of meat, fish and eggs; solids that of everything else.
    animal = {row["food_id"] for row in _read("foods.csv") if row["group"] in _PROTEIN_BALANCED}
    for row in _read("pairs.csv"):
        yield {
            "raw_food_id": reference_id(row["raw_id"]),
            "cooked_food_id": reference_id(row["cooked_id"]),
            "method": row["method"],
            "balance_yield": _number(row["yield_protein_basis"] if row["raw_id"] in animal else row["yield_dry_basis"]),
            "note": row["note"],
        }


def _edible() -> Iterator[dict[str, Any]]:
    for row in _read("edible.csv"):
        yield {
            "food_id": reference_id(row["food_id"]),
            "refuse_share": float(row["refuse_pct"]) / 100,
            "note": row["note"],
            "source": row["source"],
        }
