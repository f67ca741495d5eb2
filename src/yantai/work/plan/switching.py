"""What counting by other rules would change, before it is chosen."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from yantai.core.errors import CoreError
from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import AIMED, Amounts, Nutrient
from yantai.core.speaking import energy
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, plans
from yantai.work.common.views import AmountsView
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.plan.kept import kept
from yantai.work.plan.views import SwitchedView
from yantai.work.recipes.larder import Larder

_SWITCHED: Kept[list[SwitchedView]] = Kept(list[SwitchedView])


def preview_switch(database: Database, who: SignedIn, rules: Rules) -> list[SwitchedView]:
    """What counting by `rules` would change: 100 g of each component, and each container of open batches.

    Only what moves is named. Packed batches keep their rules, so none of theirs is.
    """
    question = f"switch/{rules.energy}/{rules.carbohydrate}"
    return kept(database, who, question, _SWITCHED, lambda session: _found(session, rules))


def _found(session: Session, rules: Rules) -> list[SwitchedView]:
    now = workspace_rules(read_workspace(session))
    components = selectinload(tables.Recipe.components).selectinload(tables.Component.lines)
    recipes = session.scalars(
        select(tables.Recipe)
        .where(tables.Recipe.archived_at.is_(None))
        .options(components)
        .order_by(tables.Recipe.name)
    ).all()
    everything = [component for recipe in recipes for component in recipe.components]
    larders = [Larder.read(session, everything, rules=one) for one in (now, rules)]
    found = []
    for recipe in recipes:
        for component in recipe.components:
            pair = [_per_100g(larder, component) for larder in larders]
            found.append(_switched("component", f"{recipe.name}: {component.name}", pair))
    for batch in session.scalars(
        loading.batch_query().where(tables.Batch.packed_at.is_(None), tables.Batch.deleted_at.is_(None))
    ):
        found += _containers(session, batch, now, rules)
    return [one for one in found if one is not None]


def _containers(session: Session, batch: tables.Batch, now: Rules, rules: Rules) -> list[SwitchedView | None]:
    """Each class of containers as it is planned now, and as the same grams would count, which moves no food."""
    before = plans.compute(loading.loaded(session, batch, rules=now))
    after = loading.loaded(session, batch, rules=rules)
    held = {
        key: part.portioned.per_100g for dish in plans.core_dishes(after).values() for key, part in dish.parts.items()
    }
    found = []
    for index, (row, portions) in enumerate(plans.rows_of(before)):
        counted = plans.sum_of(held, before.plan.grams(index))
        name = f"{batch.name}: {plans.container_name(row)}"
        found.append(_switched("container", name, [portions.amounts, counted]))
    return found


def _per_100g(larder: Larder, component: tables.Component) -> Amounts | None:
    try:
        return larder.component(component).per_100g
    except CoreError:
        return None


def _as_shown(amounts: Amounts) -> list[str]:
    """The macros as whoever asks reads them: what does not move on the screen is not named."""
    return [
        energy(amounts[nutrient]) if nutrient is Nutrient.KCAL else f"{amounts[nutrient]:.1f}" for nutrient in AIMED
    ]


def _switched(kind: str, name: str, pair: list[Amounts | None]) -> SwitchedView | None:
    before, after = pair
    if before is None or after is None:
        return None
    if _as_shown(before) == _as_shown(after):
        return None
    return SwitchedView(kind=kind, name=name, before=AmountsView.of(before), after=AmountsView.of(after))
