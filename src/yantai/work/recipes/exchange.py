"""Saved recipes as open files."""

from __future__ import annotations

import json
import uuid

from yantai.formats import recipe_csv, recipe_jsonld
from yantai.formats.documents import (
    ComponentDocument,
    LineDocument,
    RecipeDocument,
    StepDocument,
)
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.recipes import load_recipe
from yantai.work.recipes.steps import step_values


def export_jsonld(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> str:
    """A recipe as schema.org JSON-LD."""
    return json.dumps(recipe_jsonld.write(_exported(database, who, recipe_id)), ensure_ascii=False, indent=2)


def export_csv(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> str:
    """A recipe as CSV."""
    return recipe_csv.write(_exported(database, who, recipe_id))


def _exported(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> RecipeDocument:
    with database.reading(who.workspace_id) as session:
        recipe = load_recipe(session, recipe_id)
        names: dict[uuid.UUID | None, str] = {component.id: component.name for component in recipe.components}
        larder = Larder.read(session, recipe.components)
        lines = []
        for component in recipe.components:
            for line in component.lines:
                name, state = larder.line_name(line), larder.line_state(line)
                lines.append(
                    LineDocument(
                        text=line.text or f"{line.purchased_g:.10g} g {name}, {state}",
                        component=component.name,
                        food=name,
                        state=state,
                        grams=line.purchased_g,
                        refuse_share=line.refuse_share,
                        retained_share=line.retained_share,
                        yield_factor=line.yield_factor,
                    )
                )
        return RecipeDocument(
            name=recipe.name,
            note=recipe.note,
            lines=tuple(lines),
            components=tuple(
                ComponentDocument(name=one.name, role=one.role, method=one.method) for one in recipe.components
            ),
            steps=tuple(
                StepDocument(component=names.get(step.component_id, ""), **step_values(step)) for step in recipe.steps
            ),
        )
