"""Recipes as CSV: one row an ingredient or a step, with all the figures a component needs."""

from __future__ import annotations

import csv
import io

from yantai.core.cooking.steps import read_step
from yantai.core.schedule.steps import Growth
from yantai.formats import tables
from yantai.formats.documents import BadFile, ComponentDocument, LineDocument, RecipeDocument, StepDocument

HEADINGS = (
    "recipe", "component", "role", "method", "kind", "text", "food", "state", "grams", "refuse_percent",
    "stays_percent", "yield", "hands_on_min", "unattended_min", "temperature_c", "equipment", "lead_min",
    "lead_most_min", "every_min", "growth", "load_g", "core_c", "done_when", "note",
)  # fmt: skip


def write(recipe: RecipeDocument) -> str:
    """The recipe as CSV text."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, HEADINGS, lineterminator="\n")
    writer.writeheader()
    cooked = {component.name: component for component in recipe.components}
    if recipe.note or not (recipe.lines or recipe.steps):
        writer.writerow({"recipe": recipe.name, "kind": "note", "note": recipe.note})
    for line in recipe.lines:
        of = cooked.get(line.component, ComponentDocument(name=line.component))
        writer.writerow(
            {
                "recipe": recipe.name, "component": line.component, "role": of.role, "method": of.method,
                "kind": "ingredient", "text": line.text, "food": line.food, "state": line.state,
                "grams": _figure(line.grams), "refuse_percent": _figure(100 * line.refuse_share),
                "stays_percent": _figure(100 * line.retained_share), "yield": _figure(line.yield_factor),
            }
        )  # fmt: skip
    for step in recipe.steps:
        writer.writerow(
            {
                "recipe": recipe.name, "component": step.component, "kind": "step", "text": step.text,
                "hands_on_min": _figure(step.hands_on_min), "unattended_min": _figure(step.unattended_min),
                "temperature_c": _figure(step.temperature_c), "equipment": step.equipment,
                "lead_min": _figure(step.lead_min), "lead_most_min": _figure(step.lead_most_min),
                "every_min": _figure(step.every_min), "growth": step.growth or "", "load_g": _figure(step.load_g),
                "core_c": _figure(step.core_c), "done_when": step.done_when,
            }
        )  # fmt: skip
    return out.getvalue()


def read(text: str) -> RecipeDocument:
    """The recipe of a CSV text: our own layout, or any table with a column of ingredients.

    Raises:
        BadFile: it has no ingredients, or a figure in it is none.
    """
    headings, found = tables.rows(text)
    by_name = {heading.casefold(): heading for heading in headings}
    text_column = next((by_name[name] for name in ("text", "ingredient", "ingredients", "line") if name in by_name), "")
    if not text_column and "food" not in by_name:
        raise BadFile("no column is called text, ingredient or food", location="line 1")
    lines: list[LineDocument] = []
    steps: list[StepDocument] = []
    components: dict[str, ComponentDocument] = {}
    name = note = ""
    for number, row in found:
        cell = _Cells(number, {key.casefold(): value for key, value in row.items()})
        name = name or cell.text("recipe")
        kind = cell.text("kind") or "ingredient"
        component = cell.text("component")
        if kind == "note":
            note = cell.text("note")
        elif kind == "step":
            steps.append(_step(cell, component))
        else:
            components.setdefault(
                component,
                ComponentDocument(name=component, role=cell.text("role"), method=cell.text("method")),
            )
            lines.append(_line(cell, component, row.get(text_column, "")))
    if not lines:
        raise BadFile("there is no ingredient in this file")
    return RecipeDocument(
        name=name or "Recipe without a name",
        note=note,
        lines=tuple(lines),
        steps=tuple(steps),
        components=tuple(components.values()),
    )


class _Cells:
    """One row, read by heading; a cell that is no figure says where it stands."""

    def __init__(self, line: int, values: dict[str, str]) -> None:
        self.line = line
        self.values = values

    def text(self, heading: str) -> str:
        return self.values.get(heading, "")

    def figure(self, heading: str) -> float | None:
        try:
            return tables.number(self.text(heading))
        except ValueError:
            raise BadFile(
                f"“{self.text(heading)}” under {heading} is not a number", location=f"line {self.line}"
            ) from None

    def growth(self, heading: str) -> Growth | None:
        text = self.text(heading).strip().casefold()
        if text and text not in tuple(Growth):
            known = ", ".join(Growth)
            raise BadFile(f"“{text}” under {heading} is none of {known}", location=f"line {self.line}")
        return Growth(text) if text else None


def _line(cell: _Cells, component: str, text: str) -> LineDocument:
    grams = cell.figure("grams")
    food = cell.text("food")
    refuse, stays = cell.figure("refuse_percent"), cell.figure("stays_percent")
    return LineDocument(
        text=text or (f"{grams:.10g} g {food}" if grams is not None else food),
        component=component,
        food=food,
        state=cell.text("state"),
        grams=grams,
        refuse_share=0.0 if refuse is None else refuse / 100,
        retained_share=1.0 if stays is None else stays / 100,
        yield_factor=cell.figure("yield"),
    )


def _step(cell: _Cells, component: str) -> StepDocument:
    read = read_step(cell.text("text"))
    return StepDocument(
        text=cell.text("text"),
        component=component,
        hands_on_min=cell.figure("hands_on_min"),
        unattended_min=cell.figure("unattended_min"),
        temperature_c=cell.figure("temperature_c"),
        equipment=cell.text("equipment") or read.equipment,
        lead_min=cell.figure("lead_min"),
        lead_most_min=cell.figure("lead_most_min"),
        every_min=cell.figure("every_min"),
        growth=cell.growth("growth"),
        load_g=cell.figure("load_g"),
        core_c=cell.figure("core_c"),
        done_when=cell.text("done_when"),
    )


def _figure(value: float | None) -> str:
    return "" if value is None else f"{value:.6f}".rstrip("0").rstrip(".")
