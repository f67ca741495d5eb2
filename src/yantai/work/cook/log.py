"""The log of a cook day: what was noted, by whom, when; and how long it took."""

from __future__ import annotations

import uuid
from collections.abc import Iterator

from yantai.core.schedule.live import CookEvent, counting
from yantai.core.schedule.safety import is_hot_enough
from yantai.formats import cook_log_csv
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.common.who import SignedIn
from yantai.work.cook.lanes import name_of
from yantai.work.cook.order import CookJob, core_of, read_job, readings_of
from yantai.work.cook.views import CookLogView, LogEntryView

_WORDS = {
    CookEvent.DAY_BEGUN: "cooking begins",
    CookEvent.BEGUN: "begun",
    CookEvent.TOUCHED: "turned, stirred or put in",
    CookEvent.DONE: "done",
    CookEvent.LATER: "put off",
    CookEvent.LONGER: "given longer",
    CookEvent.STOPPED: "stopped, the rest later",
    CookEvent.SKIPPED: "left out",
    CookEvent.HELD: "held at a time",
    CookEvent.FREED: "let go",
    CookEvent.ADDED: "added",
    CookEvent.TIMER: "timer set",
    CookEvent.HEATED: "switched on",
    CookEvent.TEMPERATURE: "core temperature",
    CookEvent.OFF_HEAT: "off the heat",
    CookEvent.IN_FRIDGE: "in the fridge",
    CookEvent.TAKEN_BACK: "taken back",
    CookEvent.WEIGHED: "on the scale",
}


def read_log(database: Database, who: SignedIn, batch_id: uuid.UUID, zone: str | None = None) -> CookLogView:
    """What was noted on a cook day, the first first, and how long it took.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        job = read_job(session, batch_id, zone)
        containers = sum(row.count for row in stored.read_view(session, batch_id).rows)
    if job is None:
        return CookLogView(entries=[], took_min=None, hands_min=0, container_min=None, planned_hands_min=0)
    counted = {fact.key for fact in counting(job.facts)}
    entries = [_entry(job, row) for row in sorted(job.rows, key=lambda row: row.happened_at) if str(row.id) in counted]
    begun = job.progress.begun
    done = [state.done for state in job.progress.tasks.values() if state.done is not None]
    took = max(done) - begun if begun is not None and done else None
    by_task = job.by_task
    hands = planned = 0
    for key, state in job.progress.tasks.items():
        of = by_task.get(key)
        if of is None or state.done is None or state.begun is None or not of.task.hands_on:
            continue
        hands += state.done - state.begun + state.worked_min
        planned += of.task.minutes
    return CookLogView(
        entries=entries,
        took_min=took,
        hands_min=hands,
        container_min=took / containers if took is not None and containers else None,
        planned_hands_min=planned,
    )


def export_log(database: Database, who: SignedIn, batch_id: uuid.UUID, zone: str | None = None) -> str:
    """The same as CSV."""
    found = read_log(database, who, batch_id, zone)
    return cook_log_csv.write(
        cook_log_csv.LogRow(
            happened=one.happened_at,
            arrived=one.arrived_at,
            component=one.component,
            step=one.says,
            what=one.what,
            celsius=one.celsius,
            enough=one.is_enough,
            grams=one.grams,
            vessel_g=one.vessel_g,
            who=one.person,
            noted_by=one.made_by,
            device=one.device,
        )
        for one in found.entries
    )


def _entry(job: CookJob, row: tables.CookFact) -> LogEntryView:
    names = {pot.cooked.key: pot.cooked.name for pot in job.pots}
    machines = {machine.key: machine.name for machine in job.day.machines}
    people = {person.id: person.name for person in job.kitchen.people}
    of = job.by_task.get(row.task)
    component = names.get(row.task) or ("" if of is None else names.get(of.component, ""))
    return LogEntryView(
        id=row.id,
        happened_at=row.happened_at,
        arrived_at=row.made_at,
        component=component,
        says=row.text or ("" if of is None else name_of(of)) or machines.get(row.task, ""),
        what=_WORDS[row.event],
        minutes=None if row.event is CookEvent.HELD else row.minutes,
        celsius=row.celsius,
        is_enough=_is_enough(job, row) if row.event is CookEvent.TEMPERATURE else None,
        grams=row.grams,
        vessel_g=row.vessel_g,
        person="" if row.person_id is None else people.get(row.person_id, ""),
        made_by=row.made_by,
        device=row.device,
    )


def _is_enough(job: CookJob, row: tables.CookFact) -> bool:
    """Whether a core temperature was enough by then, with those that were read before it."""
    minute = job.clock.minute(row.happened_at)
    until = [one for one in readings_of(job.facts, row.task, 0) if one.minute <= minute]
    wanted = max(_wanted(job, row.task), default=0.0)
    return not wanted or is_hot_enough(until, wanted)


def _wanted(job: CookJob, component: str) -> Iterator[float]:
    """What each step of a component on the heat has to reach inside [°C]."""
    for pot in job.pots:
        if pot.cooked.key == component:
            yield from (core_of(one, pot) or 0.0 for one in job.planned if one.component == component)
