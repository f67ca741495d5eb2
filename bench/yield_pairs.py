"""Nutrient-balance yields of raw and cooked pairs against the factors the kitchen uses: docs/yield-pairs.md.

Run by hand: `.venv/bin/python -m bench.yield_pairs`. Only pairs whose factor is not itself the balance are
compared, so the two columns are independent.
"""

from __future__ import annotations

import csv
from collections.abc import Iterator
from dataclasses import dataclass
from importlib import resources
from pathlib import Path

from yantai.core.cooking.yields import balance_yield

ANIMAL = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")
FAR = 0.10
GREENS = "leafy and watery vegetables give sugars and salts to the water, and the two rows are of different crops"
EXPLAINED = {
    "vegetables": GREENS,
    "potatoes-roots": "the two rows are of different crops and sizes; solids leach into the water",
    "grains-pasta": "the table's cooked row is wetter or drier than this kitchen's; the measured pan decides",
    "legumes": "the table's cooked row is drained after soaking, which takes up more or less water by variety",
    "poultry": "cooked and raw rows are of different birds, and skin or juices are counted differently",
    "fish-shellfish": "samples were treated or of different fish",
}


@dataclass(frozen=True)
class Compared:
    """One pair: the balance computed from both entries, and the factor with its range."""

    food: str
    group: str
    method: str
    nutrient: str
    raw: float
    cooked: float
    factor: float
    low: float
    high: float
    source: str
    note: str

    @property
    def balance(self) -> float:
        return balance_yield(self.raw, self.cooked).expected

    @property
    def apart(self) -> float:
        return self.balance / self.factor - 1

    @property
    def why(self) -> str:
        """Why the two disagree: the row's own note, or what holds for its group."""
        told = any(word in self.note for word in ("balance", "rows", "row is", "solids", "brine"))
        return "; ".join(part for part in (self.note, "" if told else EXPLAINED.get(self.group, "")) if part)


def rows(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / f"{name}.csv").read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def compared() -> Iterator[Compared]:
    """Pairs whose factor was published or is a kitchen's range, with the balance from the two compositions."""
    foods = {row["food_id"]: row for row in rows("foods")}
    factors = {(row["food_id"], row["method"]): row for row in rows("yields") if row["food_id"]}
    for pair in rows("pairs"):
        factor = factors.get((pair["raw_id"], pair["method"]))
        if factor is None or factor["basis"] == "nutrient balance":
            continue
        raw, cooked = foods[pair["raw_id"]], foods[pair["cooked_id"]]
        if raw["group"] in ANIMAL:
            nutrient, amounts = "protein", (float(raw["protein_g"]), float(cooked["protein_g"]))
        elif raw["water_g"] and cooked["water_g"]:
            nutrient, amounts = "solids", (100 - float(raw["water_g"]), 100 - float(cooked["water_g"]))
        else:
            continue
        yield Compared(
            food=f"{raw['name']}, {raw['state']}",
            group=raw["group"],
            method=pair["method"],
            nutrient=nutrient,
            raw=amounts[0],
            cooked=amounts[1],
            factor=float(factor["yield_mean"]),
            low=float(factor["yield_low"]),
            high=float(factor["yield_high"]),
            source="published" if factor["basis"].startswith("published") else "kitchen range",
            note=pair["note"],
        )


def main() -> None:
    found = sorted(compared(), key=lambda one: (one.source != "published", one.group, one.food, one.method))
    far = [one for one in found if abs(one.apart) > FAR]
    lines = [
        "# Nutrient balance against the factors used",
        "",
        "`Y = nutrient per 100 g raw / nutrient per 100 g cooked`: protein for meat, fish and eggs, "
        "total solids for the",
        "rest. Made by `python -m bench.yield_pairs` from the reference data; only pairs whose "
        "factor is not itself the",
        f"balance stand here. {len(found)} pairs, {len(found) - len(far)} within {100 * FAR:.0f} %.",
        "",
        "| food | method | by | raw | cooked | balance | factor (range) | source | apart |",
        "|---|---|---|---|---|---|---|---|---|",
    ]
    for one in found:
        lines.append(
            f"| {one.food} | {one.method} | {one.nutrient} | {one.raw:.2f} | {one.cooked:.2f} | {one.balance:.3f} | "
            f"{one.factor:.2f} ({one.low:.2f}-{one.high:.2f}) | {one.source} | {100 * one.apart:+.0f} % |"
        )
    lines += ["", f"## The {len(far)} that disagree by more than {100 * FAR:.0f} %, and why", ""]
    lines += [f"- **{one.food}, {one.method}** ({100 * one.apart:+.0f} %): {one.why}." for one in far]
    lines += [
        "",
        "The expected yield takes the factor first and the balance where there is none; a measured pan replaces both.",
        "",
    ]
    Path("docs/yield-pairs.md").write_text("\n".join(lines), encoding="utf-8")
    print(f"{len(found)} pairs, {len(far)} far apart")


if __name__ == "__main__":
    main()
