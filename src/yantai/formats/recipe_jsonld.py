"""Recipes as schema.org JSON-LD, alone or inside a web page. Text in it is text: markup is taken out, never run."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import isodate
from bs4 import BeautifulSoup

from yantai.core.cooking.steps import StepReading, read_step
from yantai.core.schedule.steps import Growth
from yantai.formats.documents import BadFile, LineDocument, RecipeDocument, StepDocument

LARGEST_CHARS = 2_000_000
MOST_ITEMS = 500
DEEPEST = 20


def write(recipe: RecipeDocument) -> dict[str, Any]:
    """The recipe as a schema.org Recipe.

    Ingredients are one flat list there, so components are lost from them; steps keep theirs as sections.
    """
    sections: dict[str, list[dict[str, Any]]] = {}
    for step in recipe.steps:
        sections.setdefault(step.component, []).append(_write_step(step))
    instructions: list[dict[str, Any]] = []
    for name, steps in sections.items():
        if name:
            instructions.append({"@type": "HowToSection", "name": name, "itemListElement": steps})
        else:
            instructions += steps
    minutes = sum((step.hands_on_min or 0) + (step.unattended_min or 0) for step in recipe.steps)
    document: dict[str, Any] = {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": recipe.name,
        "description": recipe.note,
        "recipeIngredient": [line.text for line in recipe.lines],
        "recipeInstructions": instructions,
    }
    if recipe.servings:
        document["recipeYield"] = recipe.servings
    if minutes:
        document["totalTime"] = _duration(minutes)
    return document


def read(text: str) -> RecipeDocument:
    """The first recipe in a JSON-LD text or in a web page that holds one.

    Raises:
        BadFile: it is no JSON, holds no recipe, or a part of it has the wrong form.
    """
    if len(text) > LARGEST_CHARS:
        raise BadFile(f"this is {len(text) / 1e6:.0f} MB; a recipe fits in {LARGEST_CHARS // 1_000_000} MB")
    recipe = next((one for data in _documents(text) if (one := _find(data, 0)) is not None), None)
    if recipe is None:
        raise BadFile("there is no schema.org Recipe in this text; paste the recipe as text instead")
    ingredients = recipe.get("recipeIngredient", recipe.get("ingredients", []))
    if isinstance(ingredients, str):
        ingredients = ingredients.splitlines()
    if not isinstance(ingredients, list):
        raise BadFile("the ingredients are neither a list nor a text", location="recipeIngredient")
    if len(ingredients) > MOST_ITEMS:
        raise BadFile(f"{len(ingredients)} ingredients are more than {MOST_ITEMS}", location="recipeIngredient")
    lines = tuple(LineDocument(text=clean) for ingredient in ingredients if (clean := _text(ingredient)))
    steps: list[StepDocument] = []
    _read_steps(recipe.get("recipeInstructions", []), "", steps, 0)
    return RecipeDocument(
        name=_text(recipe.get("name", "")) or "Recipe without a name",
        note=_text(recipe.get("description", "")),
        lines=lines,
        steps=tuple(steps[:MOST_ITEMS]),
        servings=_text(recipe.get("recipeYield", "")),
    )


def _documents(text: str) -> list[Any]:
    stripped = text.strip()
    if stripped.startswith("<"):
        scripts = BeautifulSoup(stripped, "html.parser").find_all("script", type="application/ld+json")
        sources = [script.get_text() for script in scripts]
    else:
        sources = [stripped]
    found = []
    for source in sources:
        try:
            found.append(json.loads(source))
        except (json.JSONDecodeError, RecursionError) as error:
            if len(sources) == 1:
                where = f"line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
                raise BadFile(f"this is not valid JSON{f': {where}' if where else ''}", location=where) from error
    return found


def _find(data: Any, depth: int) -> dict[str, Any] | None:
    """The first object of type Recipe, also inside @graph or lists."""
    if depth > DEEPEST:
        return None
    if isinstance(data, list):
        return next((found for one in data if (found := _find(one, depth + 1)) is not None), None)
    if not isinstance(data, dict):
        return None
    kinds = data.get("@type", "")
    if "Recipe" in (kinds if isinstance(kinds, list) else [kinds]):
        return data
    return _find(data.get("@graph", []), depth + 1)


def _text(value: Any) -> str:
    """Plain text of a string, number, first of a list, or an object's text or name; markup taken out."""
    if isinstance(value, list):
        return _text(value[0]) if value else ""
    if isinstance(value, dict):
        return _text(value.get("text") or value.get("name") or "")
    if isinstance(value, bool) or not isinstance(value, str | int | float):
        return ""
    text = str(value)
    if "<" in text or "&" in text:
        soup = BeautifulSoup(text, "html.parser")
        for hidden in soup.find_all(("script", "style", "iframe", "object")):
            hidden.decompose()
        text = soup.get_text(" ")
    return " ".join(text.split())


def _read_steps(value: Any, component: str, steps: list[StepDocument], depth: int) -> None:
    if depth > DEEPEST:
        return
    if isinstance(value, str):
        for line in value.splitlines():
            if clean := _text(line):
                steps.append(_read_step({"text": clean}, component))
    elif isinstance(value, list):
        for one in value:
            _read_steps(one, component, steps, depth + 1)
    elif isinstance(value, dict):
        kind = value.get("@type", "")
        if "itemListElement" in value and not value.get("text"):
            name = _text(value.get("name", "")) if kind == "HowToSection" else component
            _read_steps(value["itemListElement"], name, steps, depth + 1)
        elif _text(value):
            steps.append(_read_step(value, component))


def _read_step(value: dict[str, Any], component: str) -> StepDocument:
    """A step; stated times win over those in its text."""
    text = _text(value)
    read = read_step(text)
    hands_on, whole = _minutes(value.get("performTime")), _minutes(value.get("totalTime"))
    stated = hands_on is not None or whole is not None
    unattended = None if whole is None else max(whole - (hands_on or 0.0), 0.0) or None
    return StepDocument(
        text=text,
        component=component,
        hands_on_min=hands_on if stated else read.hands_on_min,
        unattended_min=unattended if stated else read.unattended_min,
        temperature_c=read.temperature_c,
        equipment=_text(value.get("tool", "")) or read.equipment,
        lead_min=read.lead_min,
        **_told(value.get("additionalProperty"), read),
    )


_FIGURES = ("every_min", "load_g", "lead_most_min", "core_c")
_WORDS = ("growth", "done_when")
"""What the vocabulary has no word for: properties by their own names, which other readers leave alone."""


def _told(properties: Any, read: StepReading) -> dict[str, Any]:
    """What a step says beyond the vocabulary: as properties, or, without them, as its text does."""
    found: dict[str, Any] = {}
    for one in properties if isinstance(properties, list) else []:
        name, value = (one.get("name"), one.get("value")) if isinstance(one, dict) else (None, None)
        if name in _FIGURES and isinstance(value, int | float) and not isinstance(value, bool):
            found[name] = float(value)
        elif name == "growth" and value in tuple(Growth):
            found[name] = Growth(value)
        elif name == "done_when" and isinstance(value, str):
            found[name] = _text(value)
    if found:
        return found
    return {
        "every_min": read.every_min,
        "lead_most_min": read.lead_most_min,
        "core_c": read.core_c,
        "done_when": read.done_when,
    }


def _write_step(step: StepDocument) -> dict[str, Any]:
    written: dict[str, Any] = {"@type": "HowToDirection", "text": step.text}
    if step.hands_on_min is not None:
        written["performTime"] = _duration(step.hands_on_min)
    if step.hands_on_min is not None or step.unattended_min is not None:
        written["totalTime"] = _duration((step.hands_on_min or 0) + (step.unattended_min or 0))
    if step.equipment:
        written["tool"] = step.equipment
    more = [
        {"@type": "PropertyValue", "name": name, "value": value}
        for name in (*_FIGURES, *_WORDS)
        if (value := getattr(step, name)) not in (None, "")
    ]
    if more:
        written["additionalProperty"] = more
    return written


def _duration(minutes: float) -> str:
    return str(isodate.duration_isoformat(timedelta(minutes=minutes)))


def _minutes(value: Any) -> float | None:
    if not isinstance(value, str):
        return None
    try:
        duration = isodate.parse_duration(value)
    except (isodate.ISO8601Error, ValueError, OverflowError):
        return None
    return duration.total_seconds() / 60 if isinstance(duration, timedelta) else None
