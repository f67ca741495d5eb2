"""Foods as CSV: any table after its columns are matched, and the public food-composition layouts by themselves."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from yantai.core.errors import CoreError
from yantai.core.foods.energy import Carbohydrate
from yantai.core.foods.labels import LABEL_FIGURES, SODIUM_MG_PER_G_SALT, Label
from yantai.core.foods.nutrients import Stated
from yantai.formats import tables
from yantai.formats.documents import BadFile

_NAMED: Mapping[str, tuple[str, ...]] = {
    "name": ("name", "food", "foodname", "fooddescription", "description", "shrtdesc", "longdesc", "product"),
    "group": ("group", "foodgroup", "category", "fdgrpdesc"),
    "state": ("state",),
    "kcal": ("energykcal", "kcal", "calories", "energkcal", "energykcalkcal", "enerckcal"),
    "kj": ("energykj", "kj", "enerckj"),
    "protein_g": ("proteing", "protein", "procntg", "procnt", "prot"),
    "carbohydrate_g": ("carbohydrateg", "carbohydrate", "carbohydrates", "carbs", "carbohydrtg", "choavlg", "chocdfg",
                       "choavl", "chocdf", "carbohydratebydifferenceg"),
    "fat_g": ("fatg", "fat", "totalfat", "lipidtotg", "fatceg", "totallipidg", "totallipidfatg"),
    "fibre_g": ("fibreg", "fibre", "fiber", "fiberg", "fibertdg", "fibtgg", "fibtg", "fibertotaldietaryg"),
    "sugars_g": ("sugarsg", "sugars", "sugar", "sugartotg", "sugarg", "sugarstotalg"),
    "saturated_g": ("saturatedg", "saturated", "saturates", "fasatg", "saturatedfat", "fattyacidstotalsaturatedg"),
    "salt_g": ("saltg", "salt"),
    "sodium_mg": ("sodiummg", "sodium", "namg", "sodiumnamg"),
    "alcohol_g": ("alcoholg", "alcohol", "alcg"),
    "polyols_g": ("polyolsg", "polyols", "polylg"),
    "serving_g": ("servingg", "serving", "per"),
}  # fmt: skip
FIELDS: Mapping[str, tuple[str, ...]] = {
    **{name: (name.replace("_", ""), name.partition("_")[0]) for name in LABEL_FIGURES},
    **_NAMED,
}
"""Fields, with the headings that mean them when letters and digits alone count."""

LAYOUTS = (
    ("food-composition table, abbreviated columns", frozenset(("ndbno", "shrtdesc", "energkcal"))),
    ("food-composition table, component tags", frozenset(("procntg", "enerckcal"))),
    ("reference foods of this application", frozenset(("foodid", "energykcal", "carbohydrateg"))),
)
NEEDED = ("name", "protein_g", "carbohydrate_g", "fat_g")


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodRow:
    """One usable line of a file."""

    line: int
    name: str
    group: str
    state: str
    stated: Stated


@dataclass(frozen=True, slots=True, kw_only=True)
class BadRow:
    """One line that cannot be used: where, and why in a sentence."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodTable:
    """A file of foods with the columns it was read by."""

    headings: list[str]
    columns: dict[str, str]
    layout: str
    rows: list[FoodRow]
    bad: list[BadRow]


def read(
    text: str,
    *,
    columns: Mapping[str, str] | None = None,
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL,
    state: str = "as-sold",
    group: str = "own",
) -> FoodTable:
    """Read foods per 100 g, or per the grams of a serving column.

    `columns` maps fields to headings; without it they are matched by name. `carbohydrate`, `state` and `group`
    hold for rows that do not say their own. Every line that makes no sense is reported.

    Raises:
        BadFile: it is no CSV, or a needed column is missing.
    """
    headings, found = tables.rows(text)
    known = {_letters(heading): heading for heading in headings}
    matched = {field: known[word] for field, words in FIELDS.items() for word in reversed(words) if word in known}
    chosen = {field: heading for field, heading in (columns or {}).items() if heading} or matched
    wrong = [heading for heading in chosen.values() if heading not in headings]
    if wrong:
        raise BadFile(f"there is no column “{wrong[0]}” in this file", location="line 1")
    layout = next((name for name, marks in LAYOUTS if marks <= known.keys()), "")
    missing = [field for field in NEEDED if field not in chosen]
    if missing:
        return FoodTable(headings=headings, columns=chosen, layout=layout, rows=[], bad=[])
    rows: list[FoodRow] = []
    bad: list[BadRow] = []
    for line, cells in found:
        row = _row(line, cells, chosen, carbohydrate, state, group)
        if isinstance(row, FoodRow):
            rows.append(row)
        else:
            bad.append(row)
    return FoodTable(headings=headings, columns=chosen, layout=layout, rows=rows, bad=bad)


def _row(
    line: int,
    cells: Mapping[str, str],
    columns: Mapping[str, str],
    carbohydrate: Carbohydrate,
    state: str,
    group: str,
) -> FoodRow | BadRow:
    name = " ".join(cells.get(columns["name"], "").split())[:200]
    if not name:
        return BadRow(line=line, column=columns["name"], message="This line has no name.")
    figures: dict[str, float | None] = {}
    for field in FIELDS:
        if field in ("name", "group", "state") or field not in columns:
            continue
        written = cells.get(columns[field], "")
        try:
            figures[field] = tables.number(written)
        except ValueError:
            return BadRow(line=line, column=columns[field], message=f"“{written}” is not a number.")
    empty = next((field for field in NEEDED[1:] if figures.get(field) is None), None)
    if empty is not None:
        return BadRow(
            line=line, column=columns[empty], message="This figure is missing; without it nothing can be planned."
        )
    if figures.get("sodium_mg") is None and figures.get("salt_g") is not None:
        figures["sodium_mg"] = (figures.pop("salt_g") or 0.0) * SODIUM_MG_PER_G_SALT
    figures.pop("salt_g", None)
    serving = figures.pop("serving_g", None) or 100.0
    try:
        label = Label(serving_g=serving, carbohydrate=carbohydrate, **figures)  # type: ignore[arg-type]
    except CoreError as error:
        column = columns.get(error.field, columns.get("serving_g", columns["protein_g"]))
        return BadRow(line=line, column=column, message=f"{error}.")
    return FoodRow(
        line=line,
        name=name,
        group=cells.get(columns.get("group", ""), "") or group,
        state=cells.get(columns.get("state", ""), "") or state,
        stated=label.per_100g(),
    )


def _letters(heading: str) -> str:
    return re.sub(r"[^a-z0-9]", "", heading.casefold())
