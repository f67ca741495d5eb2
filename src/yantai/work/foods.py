"""Looking foods up."""

from __future__ import annotations

import re
import uuid
from typing import Any

from sqlalchemy import ColumnElement, Select, and_, case, false, func, or_, select, true
from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts import SignedIn
from yantai.work.errors import Missing
from yantai.work.kitchen import food_brief, food_composition, stored_yield
from yantai.work.reference_foods import plain
from yantai.work.views import (
    EdibleView,
    FoodBrief,
    FoodDetail,
    FoodFacets,
    FoodPage,
    MeasureView,
    MethodYieldView,
    OtherState,
    YieldView,
)

LIKE_ENOUGH = 0.45
"""Trigram word similarity from which a misspelt word still finds a food: "chiken" scores 0.56."""


def search_foods(
    database: Database,
    who: SignedIn,
    *,
    text: str = "",
    group: str | None = None,
    state: str | None = None,
    limit: int = 50,
    offset: int = 0,
) -> FoodPage:
    """Foods whose name or other names fit `text`, best first: words by their beginnings, slips forgiven."""
    with database.workspace(who.workspace_id) as session:
        query = select(tables.Food)
        if group:
            query = query.where(tables.Food.food_group == group)
        if state:
            query = query.where(tables.Food.state == state)
        total, foods = _find(session, query, text, limit, offset)
        return FoodPage(total=total, foods=[food_brief(food) for food in foods])


def find_foods(session: Session, text: str, limit: int) -> list[FoodBrief]:
    """The best few foods for `text`."""
    return [food_brief(food) for food in _find(session, select(tables.Food), text, limit, 0)[1]]


def food_detail(database: Database, who: SignedIn, food_id: uuid.UUID) -> FoodDetail:
    """Everything known of one food.

    Raises:
        Missing: there is no such food here.
    """
    with database.workspace(who.workspace_id) as session:
        food = session.get(tables.Food, food_id)
        if food is None:
            raise Missing("There is no such food in your pantry.")
        measures = session.scalars(
            select(tables.Measure).where(tables.Measure.food_id == food_id).order_by(tables.Measure.grams)
        )
        edible = session.scalars(select(tables.EdiblePortion).where(tables.EdiblePortion.food_id == food_id))
        return FoodDetail(
            food=food_brief(food),
            stated_kcal=food.stated_kcal,
            missing=sorted(food_composition(food).at_least),
            diet_tags=food.diet_tags,
            source=food.source,
            source_detail=food.source_detail,
            note=food.note,
            measures=[MeasureView(name=m.name, grams=m.grams, source=m.source, note=m.note) for m in measures],
            yields=_yields(session, food),
            edible=[EdibleView(refuse_share=e.refuse_share, note=e.note, source=e.source) for e in edible],
            other_states=_other_states(session, food),
        )


def food_facets(database: Database, who: SignedIn) -> FoodFacets:
    """Groups and states with the number of foods in each."""
    with database.workspace(who.workspace_id) as session:
        return FoodFacets(groups=_counts(session, tables.Food.food_group), states=_counts(session, tables.Food.state))


def _find(
    session: Session, query: Select[tables.Food], text: str, limit: int, offset: int
) -> tuple[int, list[tables.Food]]:
    food = tables.Food
    words = re.findall(r"[a-z0-9]+", plain(text))
    if not words and text.strip():
        return 0, []
    if not words:
        total = session.scalar(select(func.count()).select_from(query.subquery())) or 0
        return total, list(
            session.scalars(query.order_by(food.name, food.state, food.method).limit(limit).offset(offset))
        )
    text = " ".join(words)
    session.execute(select(func.set_config("pg_trgm.word_similarity_threshold", str(LIKE_ENOUGH), true())))
    beginnings = func.to_tsquery("english", " & ".join(f"{word}:*" for word in words))
    hit: ColumnElement[bool] = food.search_vector.op("@@")(beginnings)
    # `<%` takes the trigram index; each word has to be found, spelt rightly or nearly.
    alike = and_(true(), *(food.search_text.op("%>")(word) for word in words)) if len(text) > 2 else false()
    name = func.lower(food.name)
    rank: list[Any] = [
        case((hit, 0), else_=1),
        case((name.startswith(words[0], autoescape=True), 0), else_=1),
        func.word_similarity(text, food.search_text).desc(),
        case((food.state.in_(("raw", "dry", "as-sold")), 0), else_=1),
        func.length(food.name),
        food.name,
        food.state,
        food.method,
    ]
    found = query.where(or_(hit, alike))
    total = session.scalar(select(func.count()).select_from(found.subquery())) or 0
    return total, list(session.scalars(found.order_by(*rank).limit(limit).offset(offset)))


def _counts(session: Session, column: Any) -> dict[str, int]:
    rows = session.execute(select(column, func.count()).group_by(column).order_by(column))
    return dict(rows.all())


def _yields(session: Session, food: tables.Food) -> list[MethodYieldView]:
    """Own factors by method, and the group's for methods without an own one. Only uncooked food has any."""
    if food.state == "cooked":
        return []
    factor = tables.YieldFactor
    query = select(factor).where(or_(factor.food_id == food.id, factor.food_group == food.food_group))
    own_first = sorted(session.scalars(query), key=lambda row: (row.method, row.food_id is None))
    found: dict[str, MethodYieldView] = {}
    for row in own_first:
        view = MethodYieldView(
            method=row.method, of_group=row.food_id is None, expected=YieldView.of(stored_yield(row))
        )
        found.setdefault(row.method, view)
    return list(found.values())


def _other_states(session: Session, food: tables.Food) -> list[OtherState]:
    pair, other = tables.RawCookedPair, tables.Food
    cooked = select(pair.cooked_food_id).where(pair.raw_food_id == food.id)
    raw = select(pair.raw_food_id).where(pair.cooked_food_id == food.id)
    query = select(other).where(or_(other.id.in_(cooked), other.id.in_(raw))).order_by(other.state, other.method)
    return [OtherState(id=f.id, name=f.name, state=f.state, method=f.method) for f in session.scalars(query)]
