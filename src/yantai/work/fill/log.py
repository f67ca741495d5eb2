"""The log of a filling: what was noted at the scale, by whom, when, and whether it still counts."""

from __future__ import annotations

import uuid
from collections.abc import Mapping

from yantai.core.filling import FillEvent, Filling, Spot
from yantai.core.filling.facts import OF_A_PART, counting
from yantai.core.speaking import exact_weight
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.plan_view import shown_name
from yantai.work.batches.views import PlanView
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import core_fact, filling_of, read_facts
from yantai.work.fill.views import FillLogEntryView

_WORDS: Mapping[FillEvent, str] = {
    FillEvent.FILLED: "filled",
    FillEvent.LEFT_OUT: "left out on purpose",
    FillEvent.DECIDED: "decided which note is right",
    FillEvent.CORRECTED: "corrected",
    FillEvent.EVENED: "evened out over the client's others",
    FillEvent.TAKEN_BACK: "taken back",
    FillEvent.POT_WEIGHED: "put back on the scale",
    FillEvent.REST: "rest",
    FillEvent.SCOOP: "one scoop weighed",
    FillEvent.IN_BULK: "and those after it kept in bulk for another day",
}
_WITHOUT_GRAMS = (FillEvent.LEFT_OUT, FillEvent.EVENED, FillEvent.TAKEN_BACK, FillEvent.IN_BULK)


def read_fill_log(database: Database, who: SignedIn, batch_id: uuid.UUID) -> list[FillLogEntryView]:
    """What was noted at the scale, the newest first.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        plan, rows = stored.read_view(session, batch_id), read_facts(session, batch_id)
    counted = {fact.key for fact in counting(core_fact(row) for row in rows)}
    filling, known = filling_of(rows), {row.id: row for row in rows}
    return [
        _entry(plan, row, known, _state(row, filling, counted))
        for row in sorted(rows, key=lambda row: (row.happened_at, row.number), reverse=True)
    ]


def _entry(
    plan: PlanView, row: tables.FillFact, known: Mapping[uuid.UUID, tables.FillFact], state: str
) -> FillLogEntryView:
    of = known.get(row.of) if row.of else None
    told = [_WORDS[row.event]]
    if row.event not in _WITHOUT_GRAMS:
        told.append(exact_weight(row.grams))
    if row.unsure_g:
        told.append(f"give or take {exact_weight(row.unsure_g)}")
    if row.way is not None:
        told.append(row.way.value)
    if row.fate is not None:
        told.append(row.fate.value)
    if of is not None:
        told.append(f"{_place(plan, of)}, {_WORDS[of.event]}")
    return FillLogEntryView(
        id=row.id,
        happened_at=row.happened_at,
        arrived_at=row.made_at,
        made_by=row.made_by,
        device=row.device,
        place="" if of is not None else _place(plan, row),
        what=", ".join(told),
        asked_g=row.asked_g,
        text=row.text,
        state=state,
    )


def _place(plan: PlanView, row: tables.FillFact) -> str:
    """The container and the part of it, or the pot, as they are called now."""
    name = next((one.name for one in plan.components if one.id == row.component_id), "")
    if row.container_class_id is None:
        return name or "a component that the batch no longer has"
    container = next((one for one in plan.rows if one.id == row.container_class_id), None)
    if container is None:
        return ", ".join([one for one in (name, "a container that the plan no longer has") if one])
    return ", ".join([one for one in (name, f"{shown_name(container)}, {row.container}") if one])


def _state(row: tables.FillFact, filling: Filling, counted: set[str]) -> str:
    """Whether it still counts, in words; nothing where it plainly does."""
    key = str(row.id)
    if row.event is FillEvent.TAKEN_BACK:
        return ""
    if key not in counted:
        return "taken back"
    if row.event not in OF_A_PART or row.container_class_id is None or row.container is None:
        return ""
    here = filling.parts.get(Spot(str(row.container_class_id), row.container), {}).get(str(row.component_id))
    if here is None or here.stands.key == key:
        return ""
    return "beside another note" if any(one.key == key for one in here.others) else "replaced"
