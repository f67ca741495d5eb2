"""Plans as they were computed, by the version of their batch: whoever shows a plan reads it here.

A command stores the plan that it leads to. What a plan depends on besides its batch (rules, foods, clients, yields
measured elsewhere) is told by its basis: where that is another now, the first who reads computes the plan once more.
"""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from hashlib import sha256
from typing import Any

from sqlalchemy import delete, or_, select, true
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session
from sqlalchemy.sql.selectable import LateralFromClause

from yantai.core.foods.nutrients import NUTRIENTS
from yantai.core.planning.plan import ENGINE
from yantai.core.planning.stage import next_step
from yantai.core.speaking import spoken
from yantai.formats.kept import Kept
from yantai.formats.plan_document import PlanDocument
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, plan_view, plans
from yantai.work.batches.document import batch_document
from yantai.work.batches.loading import basis_of
from yantai.work.batches.views import BatchBrief, PlanView
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn

_VIEW: Kept[PlanView] = Kept(PlanView)
_DOCUMENT: Kept[PlanDocument] = Kept(PlanDocument)
_BRIEF: Kept[BatchBrief] = Kept(BatchBrief)
_SHAPE = sha256(f"{_VIEW.schema}{_DOCUMENT.schema}{_BRIEF.schema}".encode()).hexdigest()[:12]
_TRIES = 3


@contextmanager
def reading(
    database: Database, who: SignedIn, wanted: Callable[[Session], Collection[uuid.UUID] | None]
) -> Iterator[Session]:
    """One moment of the workspace, in which the plans of the wanted batches are at hand; of all batches for None.

    Those that are not are computed first. Where others keep changing what they are computed from, the last try holds
    their batches still.

    Raises:
        Missing: one of them is not here.
    """
    for _ in range(_TRIES):
        with database.reading(who.workspace_id) as session:
            lacking = _lacking(session, wanted(session))
            if not lacking:
                yield session
                return
        with database.workspace(who.workspace_id) as session:
            for batch_id in sorted(lacking):
                renew(session, batch_id)
    with database.workspace(who.workspace_id) as session:
        for batch_id in sorted(_lacking(session, wanted(session))):
            renew(session, batch_id)
        yield session


def read_view(session: Session, batch_id: uuid.UUID) -> PlanView:
    """What a batch shows, within `reading`."""
    return read_views(session, [batch_id])[0]


def read_views(session: Session, batch_ids: Sequence[uuid.UUID]) -> list[PlanView]:
    """What some batches show, in that order, within `reading`: one query, however many there are."""
    batch, plan = tables.Batch, _plan_of(tables.Batch)
    query = select(batch.id, batch.packed_at, plan.c.view, plan.c.engine).join(plan, true())
    rows = {row.id: row for row in session.execute(query.where(batch.id.in_(batch_ids)))}
    found = []
    for row in (rows[batch_id] for batch_id in batch_ids):
        if row.packed_at is not None:
            found.append(_VIEW.from_json(_with_new_nutrients(json.loads(row.view))))
        else:
            shown = _VIEW.from_text(row.view)
            found.append(replace(shown, batch=replace(shown.batch, engine_older=row.engine != ENGINE)))
    return found


def read_document(session: Session, batch_id: uuid.UUID) -> PlanDocument:
    """A batch as an open plan document, within `reading`."""
    batch, plan = tables.Batch, _plan_of(tables.Batch)
    query = select(plan.c.document).select_from(batch).join(plan, true()).where(batch.id == batch_id)
    return _DOCUMENT.from_text(session.scalars(query).one())


def read_briefs(session: Session) -> list[BatchBrief]:
    """Every batch that is not deleted in a line, within `reading`: one query, however many there are."""
    batch, plan = tables.Batch, _plan_of(tables.Batch)
    query = select(batch.id, plan.c.brief).join(plan, true()).where(batch.deleted_at.is_(None))
    rows = session.execute(query).all()
    # One that was packed before lines were stored has only its view.
    return [_BRIEF.from_text(brief) if brief else _brief(read_view(session, key)) for key, brief in rows]


def current_view(session: Session, batch_id: uuid.UUID) -> PlanView:
    """What a batch shows, for a transaction that changes it anyway."""
    return current_views(session, [batch_id])[0]


def current_views(session: Session, batch_ids: Sequence[uuid.UUID]) -> list[PlanView]:
    """What some batches show, for a transaction that changes something anyway, or within `reading`."""
    for lacking in sorted(_lacking(session, batch_ids)):
        renew(session, lacking)
    return read_views(session, batch_ids)


def renew(session: Session, batch_id: uuid.UUID) -> None:
    """Compute the plan of a batch and store it. The batch is locked, and nothing of it is changed."""
    computed = plans.compute(loading.load(session, batch_id, lock=True))
    keep(session, computed, plan_view.plan_view(computed))


def keep(session: Session, computed: plans.Computed, shown: PlanView) -> None:
    """Store the plan of a batch that is locked, in place of older ones: nothing stands on those."""
    plan, batch = tables.StoredPlan, computed.loaded.batch
    values = {
        "basis": _from_state(computed.loaded.basis),
        "engine": ENGINE,
        "view": _VIEW.to_text(shown),
        "document": _DOCUMENT.to_text(batch_document(computed)),
        "brief": _BRIEF.to_text(_brief(shown)),
    }
    session.flush()
    session.execute(delete(plan).where(plan.batch_id == batch.id, plan.version != batch.version))
    key = {"workspace_id": batch.workspace_id, "batch_id": batch.id, "version": batch.version, "spoken": units_spoken()}
    statement = insert(plan).values(id=uuid.uuid4(), **key, **values)
    session.execute(statement.on_conflict_do_update(index_elements=["batch_id", "version", "spoken"], set_=values))


def _plan_of(batch: type[tables.Batch]) -> LateralFromClause:
    """The stored plan of a batch at its version, in the units that are spoken; a packed one as it was packed."""
    plan = tables.StoredPlan
    in_units = plan.spoken == units_spoken()
    return (
        select(plan.id, plan.basis, plan.engine, plan.brief, plan.view, plan.document)
        .where(plan.batch_id == batch.id, plan.version == batch.version)
        .where(or_(in_units, batch.packed_at.is_not(None)))
        .order_by(in_units.desc())
        .limit(1)
        .lateral("plan")
    )


def _lacking(session: Session, wanted: Collection[uuid.UUID] | None) -> list[uuid.UUID]:
    """Those of the wanted batches, or of all, whose plan is not stored, or was computed from what is another by now."""
    batch, plan = tables.Batch, _plan_of(tables.Batch)
    query = select(batch.id, batch.packed_at, plan.c.id, plan.c.basis, basis_of(batch)).outerjoin(plan, true())
    query = query.where(batch.deleted_at.is_(None) if wanted is None else batch.id.in_(set(wanted)))
    rows = session.execute(query).all()
    if wanted is not None and len(rows) < len(set(wanted)):
        raise Missing("There is no such batch. It may have been removed in another window.")
    return [
        key for key, packed_at, stored, then, now in rows
        if stored is None or (packed_at is None and then != _from_state(now))
    ]  # fmt: skip


def _from_state(basis: str) -> str:
    """What a plan was computed from, and how its view is kept: one of another shape is computed anew."""
    return f"{_SHAPE} {basis}"


def units_spoken() -> str:
    """The units in which sentences are told now."""
    units = spoken()
    return f"{units.mass} {units.energy} {units.temperature}"


def _with_new_nutrients(kept: Any) -> Any:
    """What was packed before a nutrient was counted says of it that its amount is not known."""
    if isinstance(kept, list):
        return [_with_new_nutrients(each) for each in kept]
    if not isinstance(kept, dict):
        return kept
    known = {key: _with_new_nutrients(value) for key, value in kept.items()}
    if "at_least" in known and "ranges" in known:
        new = [nutrient.value for nutrient in NUTRIENTS if nutrient.value not in known]
        known |= {**dict.fromkeys(new, 0.0), "at_least": sorted({*known["at_least"], *new})}
    return known


def _brief(shown: PlanView) -> BatchBrief:
    batch = shown.batch
    packed = batch.packed_at is not None
    components = sum(component.to_weigh for component in shown.components)
    open_points = 0 if packed else len(shown.to_settle)
    weighed = sum(component.weighing is not None for component in shown.components)
    return BatchBrief(
        id=batch.id,
        name=batch.name,
        dishes=[dish.name for dish in shown.dishes],
        cook_on=batch.cook_on,
        clients=len({row.client_id for row in shown.rows if row.count}),
        containers=sum(row.count for row in shown.rows),
        components=components,
        weighed=weighed,
        packed_at=batch.packed_at,
        put_away_at=batch.put_away_at,
        next_step=next_step(packed=packed, open_points=open_points, weighed=weighed, components=components),
        to_settle=open_points,
    )
