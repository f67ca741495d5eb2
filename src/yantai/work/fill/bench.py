"""A batch as the core fills it. What does not depend on what is filled is kept in memory, by all that it depends on."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.filling import Bench, FillFact, Filling, Spot, what_is_filled
from yantai.core.foods.nutrients import Amounts, total
from yantai.core.planning.plan import Plan, Question
from yantai.core.quantities.units import millilitres
from yantai.store import tables
from yantai.work.batches import loading, plans, stored
from yantai.work.batches.views import PlanView
from yantai.work.common.workspace import read_workspace

_MOST_KEPT = 16
_lock = threading.Lock()
_kept: OrderedDict[tuple[object, ...], Laid] = OrderedDict()


@dataclass(frozen=True, kw_only=True)
class Laid:
    """A batch laid out to be filled: what the core needs, the plan as it is shown, and what this kitchen's cup holds
    [ml]."""

    bench: Bench
    view: PlanView
    cup_ml: float


def lay_out(session: Session, batch_id: uuid.UUID) -> Laid:
    """The batch of a plan that is at hand (`stored.reading`). Its figures are those of the stored plan: of a packed
    batch nothing that was edited since moves one."""
    plan, batch = tables.StoredPlan, tables.Batch
    query = (
        select(plan.id, plan.basis, plan.made_at, batch.version, batch.packed_at)
        .join(batch, batch.id == plan.batch_id)
        .where(plan.batch_id == batch_id, plan.version == batch.version)
    )
    key = (batch_id, stored.units_spoken(), *sorted(str(tuple(row)) for row in session.execute(query)))
    with _lock:
        known = _kept.get(key)
        if known is not None:
            _kept.move_to_end(key)
            return known
    made = _laid(session, batch_id)
    with _lock:
        _kept[key] = made
        while len(_kept) > _MOST_KEPT:
            _kept.popitem(last=False)
    return made


def _laid(session: Session, batch_id: uuid.UUID) -> Laid:
    computed = plans.compute(loading.load(session, batch_id))
    view = stored.read_view(session, batch_id)
    batch = computed.loaded.batch
    held = {str(component.id): component.per_100g.amounts for component in view.components}
    found = computed.plan if batch.packed_at is None else _as_packed(computed.plan, held)
    return Laid(
        bench=Bench(
            dishes=computed.dishes,
            classes=computed.classes,
            rows=[str(row.id) for row in batch.classes],
            clients=[str(row.client_id) for row in batch.classes],
            plan=found,
            step_g=batch.step_g,
            sharing=batch.sharing,
            leftover=batch.leftover,
        ),
        view=view,
        cup_ml=millilitres(1, "cup", read_workspace(session).spoons),
    )


def _as_packed(plan: Plan, held: dict[str, Amounts]) -> Plan:
    """The same with what 100 g of each component held when the batch was packed."""
    questions = []
    for question in plan.questions:
        cells = tuple(
            replace(
                cell,
                per_100g=held[next(iter(draws))]
                if len(draws) == 1
                else total(held[key].times(share) for key, share in draws.items()),
            )
            for cell, draws in zip(question.container.cells, question.draws, strict=True)
        )
        questions.append(
            Question(container=replace(question.container, cells=cells), answer=question.answer, draws=question.draws)
        )
    return replace(plan, questions=tuple(questions))


def read_facts(session: Session, batch_id: uuid.UUID) -> Sequence[tables.FillFact]:
    """What was noted at the scale, in the order in which it came in."""
    fact = tables.FillFact
    return session.scalars(select(fact).where(fact.batch_id == batch_id).order_by(fact.number)).all()


def core_fact(row: tables.FillFact) -> FillFact:
    """The same as the core knows it."""
    spot = None
    if row.container_class_id is not None and row.container is not None:
        spot = Spot(str(row.container_class_id), row.container)
    return FillFact(
        key=str(row.id),
        event=row.event,
        spot=spot,
        part="" if row.component_id is None else str(row.component_id),
        grams=row.grams,
        unsure_g=row.unsure_g,
        after=None if row.after is None else str(row.after),
        of=None if row.of is None else str(row.of),
        second=row.happened_at.timestamp(),
    )


def filling_of(rows: Sequence[tables.FillFact]) -> Filling:
    """What all facts come to."""
    return what_is_filled([core_fact(row) for row in rows])
