"""What the kitchen has learned: every food and component with weighings, by method."""

from __future__ import annotations

import uuid
from collections import defaultdict

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from yantai.core.cooking.learned import Learned, learn
from yantai.core.cooking.yields import YieldRange
from yantai.core.errors import CoreError
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.views import YieldView
from yantai.work.common.who import SignedIn
from yantai.work.learn.views import LearnedView, MeasuredView
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.measured import counting


def list_yields(database: Database, who: SignedIn) -> list[LearnedView]:
    """Foods and recipe components that were weighed here, by name, with every weighing that counts."""
    with database.reading(who.workspace_id) as session:
        weighed = _weighings(session)
        by_food: dict[tuple[uuid.UUID, str], list[_Weighed]] = defaultdict(list)
        by_component: dict[uuid.UUID, list[_Weighed]] = defaultdict(list)
        for row, batch in weighed:
            if row.food_id is not None:
                by_food[row.food_id, row.method].append((row, batch))
            if row.recipe_component_id is not None:
                by_component[row.recipe_component_id].append((row, batch))
        return [*_foods(session, by_food), *_components(session, by_component)]


_Weighed = tuple[tables.Weighing, str]


def _weighings(session: Session) -> list[_Weighed]:
    """The counting weighing of each pan with the name of its batch, oldest first."""
    weighing, batch = tables.Weighing, tables.Batch
    query = (
        select(weighing, batch.name)
        .join(batch, batch.id == weighing.batch_id)
        .order_by(weighing.component_id, weighing.number)
    )
    names = {each[0]: each[1] for each in session.execute(query)}
    rows = [(row, names[row]) for row in counting(names) if row.yield_factor]
    return sorted(rows, key=lambda pair: (pair[0].weighed_at, pair[0].number))


def _foods(session: Session, measured: dict[tuple[uuid.UUID, str], list[_Weighed]]) -> list[LearnedView]:
    ids = {food_id for food_id, _ in measured}
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(ids)))}
    larder = Larder.of_foods(session, foods)
    found = []
    for (food_id, method), rows in measured.items():
        food = foods[food_id]
        prior = larder.food_prior(food, method)
        learned = learn(prior, [row.yield_factor or 0.0 for row, _ in rows])
        found.append(_view("food", food.id, food.name, food.state, method, prior, learned, rows))
    return sorted(found, key=lambda view: (view.name, view.method))


def _components(session: Session, measured: dict[uuid.UUID, list[_Weighed]]) -> list[LearnedView]:
    component, recipe = tables.Component, tables.Recipe
    query = (
        select(component, recipe.name)
        .join(recipe, recipe.id == component.recipe_id)
        .where(component.id.in_(measured))
        .options(selectinload(component.lines))
    )
    rows = session.execute(query).all()
    larder = Larder.read(session, [one for one, _ in rows])
    found = []
    for one, recipe_name in rows:
        try:
            prior = larder.prior(one)
        except CoreError:
            continue  # a recipe that makes no sense now has no expectation to learn against
        learned = learn(prior, [row.yield_factor or 0.0 for row, _ in measured[one.id]])
        found.append(_view("component", one.id, one.name, recipe_name, one.method, prior, learned, measured[one.id]))
    return sorted(found, key=lambda view: (view.name, view.detail))


def _view(
    kind: str,
    key: uuid.UUID,
    name: str,
    detail: str,
    method: str,
    prior: YieldRange,
    learned: Learned,
    rows: list[_Weighed],
) -> LearnedView:
    return LearnedView(
        kind=kind,
        id=key,
        name=name,
        detail=detail,
        method=method,
        prior=YieldView.of(prior),
        estimate=YieldView.of(learned.estimate),
        prior_share=learned.prior_share,
        measured=[
            MeasuredView(yield_factor=row.yield_factor or 0.0, weight=weight, weighed_at=row.weighed_at, batch=batch)
            for (row, batch), weight in zip(rows, learned.weights, strict=True)
        ],
    )
