"""Two batches side by side: this plan against last time, or against another one of today."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from itertools import count

from yantai.core.portions import Portions
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.views import AmountsView, ComparedCell, ComparedComponent, ComparedRow, ComparedView

_Row = tuple[tables.ContainerClass, Portions]
_Key = tuple[str, str, str, int]
"""Client, meal, kind of day, and which of several such rows: a row that came from another batch may be a second one."""


def compare_batches(database: Database, who: SignedIn, batch_id: uuid.UUID, other_id: uuid.UUID) -> ComparedView:
    """A batch beside another one. Components are matched by name, containers by client, meal and kind of day.

    Raises:
        Missing: one of them is not here.
    """
    with database.workspace(who.workspace_id) as session:
        now = plans.compute(plans.load(session, batch_id))
        then = plans.compute(plans.load(session, other_id))
    names = list(dict.fromkeys([*_components(now), *_components(then)]))
    rows = list(dict.fromkeys([*_rows(now), *_rows(then)]))
    batch = then.loaded.batch
    return ComparedView(
        other=batch.name,
        cook_on=batch.cook_on,
        packed_at=batch.packed_at,
        components=[_component(name, now, then) for name in names],
        rows=[_row(names, now, then, _rows(now).get(key), _rows(then).get(key)) for key in rows],
    )


def _components(computed: plans.Computed) -> Mapping[str, tables.Component]:
    return {component.name: component for component in computed.loaded.batch.components}


def _rows(computed: plans.Computed) -> Mapping[_Key, _Row]:
    found: dict[_Key, _Row] = {}
    for row, portions in zip(computed.loaded.batch.classes, computed.plan.portions, strict=True):
        whose = (str(row.client_id), row.slot.casefold(), row.day_type.casefold())
        number = next(n for n in count() if (*whose, n) not in found)
        found[(*whose, number)] = (row, portions)
    return found


def _component(name: str, now: plans.Computed, then: plans.Computed) -> ComparedComponent:
    here, there = _components(now).get(name), _components(then).get(name)
    return ComparedComponent(
        name=name,
        now_g=None if here is None else now.need(here).cooked_g,
        then_g=None if there is None else then.need(there).cooked_g,
        now_yield=None if here is None else now.need(here).pan.component.yield_factor,
        then_yield=None if there is None else then.need(there).pan.component.yield_factor,
    )


def _row(
    names: list[str], now: plans.Computed, then: plans.Computed, here: _Row | None, there: _Row | None
) -> ComparedRow:
    in_now, in_then = _grams(now, here), _grams(then, there)
    known = here or there
    assert known is not None, "the row comes from one of the two"
    return ComparedRow(
        name=plans.container_name(known[0]),
        now_count=here[0].count if here else 0,
        then_count=there[0].count if there else 0,
        cells=[ComparedCell(now_g=in_now.get(name), then_g=in_then.get(name)) for name in names],
        now=None if here is None else AmountsView.of(here[1].amounts),
        then=None if there is None else AmountsView.of(there[1].amounts),
    )


def _grams(computed: plans.Computed, row: _Row | None) -> dict[str, float]:
    return {} if row is None else dict(zip(_components(computed), row[1].grams, strict=True))
