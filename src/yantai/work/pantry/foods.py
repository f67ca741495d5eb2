"""Looking foods up."""

from __future__ import annotations

import uuid
from typing import Any

from sqlalchemy import Select, func, or_, select
from sqlalchemy.orm import Session

from yantai.core.foods.labels import READINGS, Label, audit, contradictions
from yantai.core.shopping.packs import covers_g
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Missing
from yantai.work.common.views import YieldView
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import audit_words, food_brief, food_composition, stored_yield
from yantai.work.pantry.index import food_index
from yantai.work.pantry.reference import plain
from yantai.work.pantry.views import (
    AuditView,
    EdibleView,
    FoodBrief,
    FoodDetail,
    FoodFacets,
    FoodPage,
    LabelView,
    MeasureView,
    MethodYieldView,
    OtherState,
    PackView,
    ReadingView,
)

_LABELS: Kept[LabelView] = Kept(LabelView)


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
    with database.reading(who.workspace_id) as session:
        rules = workspace_rules(read_workspace(session))
        total, foods = _find(session, text, limit, offset, group=group, state=state)
        return FoodPage(total=total, foods=[food_brief(food, rules) for food in foods])


def find_foods(session: Session, text: str, limit: int) -> list[FoodBrief]:
    """The best few foods for `text`."""
    rules = workspace_rules(read_workspace(session))
    return [food_brief(food, rules) for food in _find(session, text, limit, 0)[1]]


def food_detail(database: Database, who: SignedIn, food_id: uuid.UUID) -> FoodDetail:
    """Everything known of one food.

    Raises:
        Missing: there is no such food here.
    """
    with database.reading(who.workspace_id) as session:
        food = session.get(tables.Food, food_id)
        if food is None:
            raise Missing("There is no such food in your pantry.")
        return detail_view(session, food)


def detail_view(session: Session, food: tables.Food) -> FoodDetail:
    """Everything known of a food row."""
    rules = workspace_rules(read_workspace(session))
    measure, edible = tables.Measure, tables.EdiblePortion
    measures = session.scalars(select(measure).where(measure.food_id == food.id).order_by(measure.grams, measure.name))
    packs = session.scalars(select(tables.Pack).where(tables.Pack.food_id == food.id).order_by(tables.Pack.grams))
    portions = session.scalars(select(edible).where(edible.food_id == food.id))
    return FoodDetail(
        food=food_brief(food, rules),
        carbohydrate=rules.carbohydrate,
        alcohol_g=food.stated.alcohol_g,
        polyols_g=food.stated.polyols_g,
        stated_kcal=food.stated.stated_kcal,
        missing=sorted(food_composition(food, rules).at_least),
        diet_tags=food.diet_tags,
        source=food.source,
        source_detail=food.source_detail,
        note=food.note,
        other_names=other_names(food),
        measures=[
            MeasureView(name=m.name, grams=m.grams, source=m.source, note=m.note, own=m.workspace_id is not None)
            for m in measures
        ],
        packs=[_pack_view(pack) for pack in packs],
        yields=_yields(session, food),
        edible=[EdibleView(refuse_share=e.refuse_share, note=e.note, source=e.source) for e in portions],
        other_states=_other_states(session, food),
        label=None if food.label is None else _LABELS.from_json(food.label),
        audit=_audit_view(food),
        contradictions=[] if food.label is None else contradictions(Label.of(food.label)),
        version=food.version,
        used_in=_used_in(session, food),
    )


def other_names(food: tables.Food) -> str:
    """What an own food is also called: its search text beyond its name and state."""
    if food.workspace_id is None:
        return ""
    known = f"{plain(food.name)} {food.state} {food.method}".replace("-", " ").strip()
    return food.search_text.removeprefix(known).strip()


def _pack_view(pack: tables.Pack) -> PackView:
    used = covers_g(pack.grams, pack.drained_g)
    return PackView(
        name=pack.name,
        grams=pack.grams,
        drained_g=pack.drained_g,
        covers_g=used,
        price=pack.price,
        price_per_100g=None if pack.price is None or not used else 100 * pack.price / used,
        shop=pack.shop,
        seen_on=pack.seen_on,
        sold=pack.sold,
    )


def _audit_view(food: tables.Food) -> AuditView | None:
    found = audit(food.stated)
    if found is None:
        return None
    return AuditView(
        stated_kcal=found.stated_kcal,
        implied_kcal=found.implied_kcal,
        words=audit_words(food),
        readings=[
            ReadingView(words=READINGS[name], kcal=kcal, agrees=name == found.explained_by)
            for name, kcal in found.readings.items()
        ],
    )


def _used_in(session: Session, food: tables.Food) -> list[str]:
    """Names of recipes that hold the food."""
    query = (
        select(tables.Recipe.name)
        .join(tables.Component, tables.Component.recipe_id == tables.Recipe.id)
        .join(tables.Line, tables.Line.component_id == tables.Component.id)
        .where(tables.Line.food_id == food.id, tables.Recipe.archived_at.is_(None))
        .distinct()
        .order_by(tables.Recipe.name)
    )
    return list(session.scalars(query))


def _current() -> Select[tables.Food]:
    """Foods as they are now: older figures and what was taken off the lists are left out."""
    return select(tables.Food).where(tables.Food.superseded_by.is_(None), tables.Food.archived_at.is_(None))


def food_facets(database: Database, who: SignedIn) -> FoodFacets:
    """Groups and states with the number of foods in each."""
    with database.reading(who.workspace_id) as session:
        return FoodFacets(groups=_counts(session, tables.Food.food_group), states=_counts(session, tables.Food.state))


def _find(
    session: Session, text: str, limit: int, offset: int, *, group: str | None = None, state: str | None = None
) -> tuple[int, list[tables.Food]]:
    """How many foods fit, and this page of them.

    Words are looked up in the kitchen's index in memory: row-level security keeps the planner from search indexes,
    whose operators might tell of rows that are not to be seen, and a pass over 20,000 foods takes too long for a key.
    """
    food = tables.Food
    if not text.strip():
        query = _current().order_by(food.name, food.state, food.method)
        if group:
            query = query.where(food.food_group == group)
        if state:
            query = query.where(food.state == state)
        total = session.scalar(select(func.count()).select_from(query.order_by(None).subquery())) or 0
        return total, list(session.scalars(query.limit(limit).offset(offset)))
    keys = food_index(session).search(text, group=group or "", state=state or "")
    page = [uuid.UUID(key) for key in keys[offset : offset + limit]]
    found = {row.id: row for row in session.scalars(select(food).where(food.id.in_(page)))}
    return len(keys), [found[key] for key in page]


def _counts(session: Session, column: Any) -> dict[str, int]:
    current = tables.Food.superseded_by.is_(None), tables.Food.archived_at.is_(None)
    rows = session.execute(select(column, func.count()).where(*current).group_by(column).order_by(column))
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
