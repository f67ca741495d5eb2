"""A batch on its cook day as it is shown."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping
from dataclasses import replace
from datetime import datetime

from yantai.core.schedule.cautions import COLD_MIN, RICE_COLD_MIN
from yantai.core.schedule.cooked import Planned
from yantai.core.schedule.day import Day
from yantai.core.schedule.live import CookEvent, counting
from yantai.core.schedule.order import Order
from yantai.core.schedule.safety import is_hot_enough
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.cook.inputs import DAY_MIN
from yantai.work.cook.lanes import apart_minutes, lanes_of, prompts_of
from yantai.work.cook.order import CookJob, core_of, find_order, readings_of
from yantai.work.cook.pots import Pot
from yantai.work.cook.stove import scales_of, until_g
from yantai.work.cook.views import (
    CookDayView,
    CookStepView,
    CookView,
    CoolingView,
    LiveView,
    OrderView,
    PromptView,
    ReadingView,
    TimerView,
)


def read_cooking(
    database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime, zone: str | None = None
) -> CookView:
    """A batch on its cook day, with its order of work: the one that is known, or one found now.

    Raises:
        Missing: there is no such batch.
    """
    found = find_order(database, who, batch_id, now, zone)
    job, day, order = found.job, found.day, found.order
    if job is None:
        return CookView(
            day=None, kitchen=None, order=None, trouble="", impossible=[], asks=[], live=None, now_s=0, let_go=[]
        )
    shown = None if order is None or day is None else _order(job, day, order)
    return CookView(
        day=_told(job),
        kitchen=job.kitchen,
        order=None if shown is None else job.clock.shown(shown),
        trouble=found.trouble,
        impossible=list(job.impossible),
        asks=[ask for pot in job.pots for ask in pot.asks],
        live=None if shown is None else _live(job, shown, found.planned_ready),
        now_s=job.clock.seconds(now),
        let_go=list(found.let_go),
        late=_late(job, order, now),
    )


def _told(job: CookJob) -> CookDayView:
    """The day with all that is assumed about it."""
    if not job.clock.is_assumed:
        return job.settings
    zone = f"Times are in {job.clock.zone.key}: the kitchen’s time zone is not set in Settings."
    return replace(job.settings, assumed=[*job.settings.assumed, zone])


def _late(job: CookJob, order: Order | None, now: datetime) -> str:
    """What is past already before anybody has begun: an order from a minute that is over is no plan."""
    minute, ready_by = job.clock.minute(now), job.day.ready_by
    if job.progress.begun is not None or not job.day.tasks:
        return ""
    if minute >= DAY_MIN:
        return "The day of this batch is over. Set another day in its plan, or begin to cook now."
    time = f"{job.clock.moment(minute).astimezone(job.clock.zone):%H:%M}"
    if ready_by is not None and ready_by <= minute:
        ready = f"{job.clock.moment(ready_by).astimezone(job.clock.zone):%H:%M}"
        return f"It is {time}, and all was to be ready at {ready}. Set a later time to be ready, or another day."
    begins = job.day.start if order is None else min((one.start for one in order.placed), default=job.day.start)
    if max(begins, job.day.start) < minute:
        return f"It is {time}, later than this order begins. Begin to cook, and the rest is put in order from now."
    return ""


def _order(job: CookJob, day: Day, order: Order) -> OrderView:
    by_task = job.by_task
    ahead = {task.key for task in day.tasks if task.ahead}
    pots = {pot.cooked.key: pot for pot in job.pots}
    names = {key: pot.cooked.name for key, pot in pots.items()}
    return OrderView(
        begins_min=min((one.start for one in order.placed if one.task not in ahead), default=day.start),
        ready_min=order.ready,
        spare_min=order.spare,
        hands_min=sum(hand.end - hand.start for one in order.placed for hand in one.hands),
        apart_min=apart_minutes(job.day, job.planned),
        steps=list(_steps(job, order, by_task, pots)),
        lanes=lanes_of(day, order, job.items, by_task, names),
        prompts=prompts_of(day, order, by_task, job.progress, pots),
    )


def _steps(
    job: CookJob, order: Order, by_task: Mapping[str, Planned], pots: Mapping[str, Pot]
) -> Iterator[CookStepView]:
    for one in order.placed:
        of, state = by_task[one.task], job.progress.of(one.task)
        pot = pots.get(of.component)
        is_written = pot is not None and not of.step.proposed
        yield CookStepView(
            key=one.task,
            step_id=uuid.UUID(of.step.key) if is_written else None,
            component_id=None if pot is None else pot.component_id,
            component="" if pot is None else pot.cooked.name,
            says=of.step.says,
            round=of.round.number,
            rounds=of.round.of,
            grams=of.round.grams,
            pieces=of.round.pieces,
            start_min=one.start,
            end_min=one.end,
            is_hands_on=of.task.hands_on,
            on=of.on,
            temperature_c=of.task.temperature_c,
            rest_min=of.task.rest_min,
            is_ahead=of.task.ahead,
            core_c=core_of(of, pot),
            done_when=of.step.done_when,
            until_g=until_g(of, pot),
            proposed=of.step.proposed,
            assumed=[*of.assumed, *(() if pot is None else pot.assumed.get(of.step.key, ()))],
            cautions=[] if pot is None else pot.cautions.get(of.step.key, []),
            begun_min=state.begun,
            done_min=state.done,
            is_held=state.held is not None and state.begun is None,
        )


def _live(job: CookJob, shown: OrderView, planned_ready: int | None) -> LiveView | None:
    if job.progress.begun is None:
        return None
    leads = {one.task.key for one in job.planned if one.step.is_lead}
    done = [
        step for step in shown.steps if step.done_min is not None or (step.key in leads and step.begun_min is not None)
    ]
    return job.clock.shown(
        LiveView(
            noted=job.last_fact,
            begun_min=job.progress.begun,
            steps=len(shown.steps),
            steps_done=len(done),
            planned_ready_min=planned_ready,
            timers=[*_timers(job, shown.prompts), *_own_timers(job)],
            readings=list(_readings(job)),
            cooling=list(_cooling(job)),
            scales=list(scales_of(job)),
        )
    )


def _timers(job: CookJob, prompts: list[PromptView]) -> Iterator[TimerView]:
    """What goes on by itself and wants somebody at a minute: the next time of each."""
    seen: set[str] = set()
    by_task = job.by_task
    for prompt in prompts:
        if not prompt.goes_on or prompt.task in seen or by_task[prompt.task].task.hands_on:
            continue
        seen.add(prompt.task)
        yield TimerView(
            key=prompt.key,
            task=prompt.task,
            name=prompt.component or prompt.says,
            says=prompt.says,
            at_min=prompt.at_min,
            is_own=False,
        )


def _own_timers(job: CookJob) -> Iterator[TimerView]:
    for fact in job.progress.timers:
        state = job.progress.of(fact.key)
        if state.done is None and not state.is_skipped:
            at = fact.minute + (fact.minutes or 0) + state.longer_min
            yield TimerView(key=fact.key, task=fact.key, name=fact.says, says="", at_min=at, is_own=True)


def _readings(job: CookJob) -> Iterator[ReadingView]:
    """The core temperatures that were read, each with whether it was hot enough by then."""
    pots = {pot.cooked.key: pot for pot in job.pots}
    by = {str(row.id): row.made_by for row in job.rows}
    for fact in counting(job.facts):
        if fact.event is not CookEvent.TEMPERATURE or fact.celsius is None:
            continue
        pot = pots.get(fact.task)
        wanted = [core_of(one, pot) or 0.0 for one in job.planned if one.component == fact.task]
        core_c = max(wanted, default=0.0)
        until = [one for one in readings_of(job.facts, fact.task, 0) if one.minute <= fact.minute]
        yield ReadingView(
            component_id=fact.task,
            component="" if pot is None else pot.cooked.name,
            celsius=fact.celsius,
            at_min=fact.minute,
            is_enough=not core_c or is_hot_enough(until, core_c),
            made_by=by[fact.key],
        )


def _cooling(job: CookJob) -> Iterator[CoolingView]:
    """What left the heat, and until when it has to be in the fridge."""
    cold = {fact.task: fact.minute for fact in counting(job.facts) if fact.event is CookEvent.IN_FRIDGE}
    for pot in job.pots:
        heated = [
            one for one in job.planned if one.component == pot.cooked.key and one.step.on and not one.step.is_lead
        ]
        ends = [job.progress.of(one.task.key).done for one in heated]
        over = [end for end in ends if end is not None]
        if not heated or len(over) < len(heated):
            continue
        within = RICE_COLD_MIN if pot.is_rice else COLD_MIN
        yield CoolingView(
            component_id=pot.cooked.key,
            component=pot.cooked.name,
            start_min=max(over),
            end_min=max(over) + within,
            done_min=cold.get(pot.cooked.key),
        )
