"""Loading the shipped reference foods; see yantai/reference/PROVENANCE.md for their sources."""

from __future__ import annotations

import csv
import json
import unicodedata
import uuid
from collections.abc import Iterator
from hashlib import sha256
from importlib import resources
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.foods.matching import Usual
from yantai.core.foods.nutrients import STATED
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.pantry.composition import WATER_REFERENCE

_NAMESPACE = uuid.UUID("6f0c1c53-2a5e-4c3b-9d53-0d6f0c6b7a10")
_WEAK_SOURCES = ("Generic label estimate (unverified)",)
_WEAK_FOODS = {
    "whey-protein-powder-dry",
    "black-beans-canned-drained",
    "potato-fries-oven-baked",
    "pork-belly-raw",
}
"""Rows that PROVENANCE.md lists as weak one by one."""

_HEADINGS = {"stated_kcal": "energy_kcal"}
_PROTEIN_BALANCED = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")

_WATER: dict[str, Any] = {
    "reference": WATER_REFERENCE,
    "name": "Water",
    "food_group": "water",
    "state": "as-sold",
    "method": "",
    **dict.fromkeys(STATED, 0.0),
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
    """Write all reference foods with their measures, yields, pairs and edible portions; how many foods were written.

    Nothing is written where these very rows are loaded already. Otherwise changed rows are brought up to date, and
    recipes, which refer to them, stay as they are.
    """
    foods = [{"id": reference_id(str(row["reference"])), **row} for row in _foods()]
    others = {
        tables.Measure: list(_measures()),
        tables.YieldFactor: list(_yields()),
        tables.RawCookedPair: list(_pairs()),
        tables.EdiblePortion: list(_edible()),
    }
    # Of the rows as they are written, not of the files: another reading of the same files is another version.
    told = json.dumps([foods, *others.values()], default=str, sort_keys=True)
    digest = sha256(told.encode()).hexdigest()
    load = tables.ReferenceLoad
    with database.loading_reference() as session:
        if session.scalar(select(load.digest).order_by(load.number.desc()).limit(1)) == digest:
            return 0
        statement = insert(tables.Food)
        changed = {key: statement.excluded[key] for key in foods[0] if key not in ("id", "reference")}
        session.execute(statement.on_conflict_do_update(index_elements=["reference"], set_=changed), foods)
        for table, rows in others.items():
            _replace(session, table, rows)
        session.execute(insert(load), {"digest": digest})
    return len(foods)


def _replace(session: Session, table: type[tables.Row], rows: list[dict[str, Any]]) -> None:
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
            **{name: _number(row.get(_HEADINGS.get(name, name), "")) for name in STATED},
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
