"""The names of all foods of a kitchen in memory: for reading lines, and for words that are not spelt right."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.foods.energy import Rules
from yantai.core.foods.matching import FoodIndex, FoodName, Usual
from yantai.core.foods.nutrients import Nutrient
from yantai.store import tables
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import food_composition
from yantai.work.pantry.reference import read_usual

_INDEXES: dict[tuple[object, ...], FoodIndex] = {}
_MOST_INDEXES = 16


def food_index(session: Session) -> FoodIndex:
    """All foods of the workspace by their names, kept until `touch_foods` is called."""
    food, word = tables.Food, tables.FoodWord
    workspace = read_workspace(session)
    rules = workspace_rules(workspace)
    key = (workspace.id, workspace.foods_version, rules)
    kept = _INDEXES.get(key)
    if kept is None:
        current = food.superseded_by.is_(None), food.archived_at.is_(None)
        rows = session.scalars(select(food).where(*current)).all()
        words = session.execute(select(word.words, word.food_id).order_by(word.words)).all()
        usual = [*read_usual(), *(Usual(words=row.words, key=str(row.food_id), answered=True) for row in words)]
        kept = FoodIndex([_food_name(row, rules) for row in rows], usual)
        while len(_INDEXES) >= _MOST_INDEXES:
            _INDEXES.pop(next(iter(_INDEXES)))
        _INDEXES[key] = kept
    return kept


def touch_foods(session: Session) -> None:
    """Note that foods, or what words mean, have changed here, so that every process builds its index anew."""
    workspace = read_workspace(session)
    # Counted in the database, so that two changes at once count as two.
    workspace.foods_version = tables.Workspace.foods_version + 1
    session.flush()


def _food_name(food: tables.Food, rules: Rules) -> FoodName:
    held = food_composition(food, rules)
    return FoodName(
        key=str(food.id),
        name=food.name,
        group=food.food_group,
        aliases=(food.search_text,),
        state=food.state,
        method=food.method,
        kcal=held[Nutrient.KCAL],
        protein_g=held[Nutrient.PROTEIN],
        own=food.workspace_id is not None,
    )
