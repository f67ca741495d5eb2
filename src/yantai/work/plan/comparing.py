"""Two batches side by side: this plan against last time, or against another one of today."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from itertools import count

from yantai.store.database import Database
from yantai.work.batches import plan_view, stored
from yantai.work.batches.views import PlanComponentView, PlanRowView, PlanView
from yantai.work.common.who import SignedIn
from yantai.work.plan.views import ComparedCell, ComparedComponent, ComparedRow, ComparedView

_Key = tuple[str, str, str, int]
"""Client, meal, kind of day, and which of several such rows: of another dish, or one that came from another batch."""


def compare_batches(database: Database, who: SignedIn, batch_id: uuid.UUID, other_id: uuid.UUID) -> ComparedView:
    """A batch beside another one. Components are matched by name, containers by client, meal and kind of day.

    Raises:
        Missing: one of them is not here.
    """
    with stored.reading(database, who, lambda _: [batch_id, other_id]) as session:
        now, then = (stored.read_view(session, each) for each in (batch_id, other_id))
    names = list(dict.fromkeys([*_components(now), *_components(then)]))
    rows = list(dict.fromkeys([*_rows(now), *_rows(then)]))
    batch = then.batch
    return ComparedView(
        other=batch.name,
        cook_on=batch.cook_on,
        packed_at=batch.packed_at,
        components=[_component(name, now, then) for name in names],
        rows=[_row(names, now, then, _rows(now).get(key), _rows(then).get(key)) for key in rows],
    )


def _components(plan: PlanView) -> Mapping[str, PlanComponentView]:
    return {component.name: component for component in plan.components}


def _rows(plan: PlanView) -> Mapping[_Key, PlanRowView]:
    found: dict[_Key, PlanRowView] = {}
    for row in plan.rows:
        whose = (str(row.client_id), row.slot.casefold(), row.day_type.casefold())
        number = next(n for n in count() if (*whose, n) not in found)
        found[(*whose, number)] = row
    return found


def _component(name: str, now: PlanView, then: PlanView) -> ComparedComponent:
    here, there = _components(now).get(name), _components(then).get(name)
    return ComparedComponent(
        name=name,
        now_g=None if here is None else here.cooked_g,
        then_g=None if there is None else there.cooked_g,
        now_yield=None if here is None else here.yield_factor,
        then_yield=None if there is None else there.yield_factor,
    )


def _row(
    names: list[str], now: PlanView, then: PlanView, here: PlanRowView | None, there: PlanRowView | None
) -> ComparedRow:
    in_now, in_then = _grams(now, here), _grams(then, there)
    known = here or there
    assert known is not None, "the row comes from one of the two"
    return ComparedRow(
        name=plan_view.shown_name(known),
        now_count=here.count if here else 0,
        then_count=there.count if there else 0,
        cells=[ComparedCell(now_g=in_now.get(name), then_g=in_then.get(name)) for name in names],
        now=None if here is None else here.amounts,
        then=None if there is None else there.amounts,
    )


def _grams(plan: PlanView, row: PlanRowView | None) -> dict[str, float]:
    names = {component.id: component.name for component in plan.components}
    return {} if row is None else {names[cell.component_id]: cell.grams for cell in row.cells}
