"""How long steps took on the days before: read for the next day, and kept when a day's facts change."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from sqlalchemy import delete, or_, select
from sqlalchemy.orm import Session

from yantai.core.schedule.cooked import Planned
from yantai.core.schedule.learned import Pace, Took, learn_pace
from yantai.core.schedule.live import TaskState
from yantai.core.schedule.propose import NO_TIME
from yantai.core.schedule.steps import Step
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.cook.clock import DayClock
from yantai.work.cook.pots import Pot

MOST_READ = 600
"""So many of the newest tasks are learned from; what is older tells little of today."""


def learns(step: Step, component: str) -> str:
    """What a step's minutes tell about: a row of the usual times, or a step of this component.

    `component` is the one of the recipe, so that every batch of it learns the same.
    """
    if step.proposed and step.proposed != NO_TIME:
        return f"usual/{step.proposed}"
    said = step.key if step.proposed else " ".join(step.says.casefold().split())
    return f"{component}/{said}"


def read_pace(
    session: Session, pots: Sequence[Pot], people: Mapping[str, float], *, except_batch: uuid.UUID | None = None
) -> Pace:
    """What other batches say of the steps of `pots` and of `people` with their stated paces.

    A day does not learn from itself: `except_batch` is left out.
    """
    wanted = {learns(step, pot.learns_as) for pot in pots for step in pot.cooked.steps}
    return learn_pace(_read(session, wanted, people, except_batch), people)


def _read(
    session: Session, steps: Collection[str], people: Collection[str], except_batch: uuid.UUID | None
) -> list[Took]:
    time = tables.StepTime
    query = (
        select(time)
        .where(or_(time.learns.in_(steps), time.person_id.in_([uuid.UUID(key) for key in people])))
        .order_by(time.happened_at.desc(), time.batch_id, time.task)
        .limit(MOST_READ)
    )
    if except_batch is not None:
        query = query.where(time.batch_id != except_batch)
    return [took_of(row) for row in session.scalars(query)]


def took_of(row: tables.StepTime) -> Took:
    """A row as the core knows it."""
    return Took(
        step=row.learns,
        person=None if row.person_id is None else str(row.person_id),
        planned_min=row.planned_min,
        took_min=row.took_min,
    )


def with_learned(pots: Iterable[Pot], pace: Pace) -> list[Pot]:
    """The pots with their steps as long as they took here before; that is told at each step."""
    return [_with_learned(pot, pace) for pot in pots]


def _with_learned(pot: Pot, pace: Pace) -> Pot:
    steps: list[Step] = []
    assumed = dict(pot.assumed)
    for step in pot.cooked.steps:
        known = None if step.is_lead else pace.steps.get(learns(step, pot.learns_as))
        if known is None:
            steps.append(step)
            continue
        steps.append(
            replace(step, hands_min=step.hands_min * known.factor, unattended_min=step.unattended_min * known.factor)
        )
        times = "once" if known.count == 1 else f"{known.count} times"
        told = f"{known.factor:.2f} times the stated minutes, learned from what it took here {times}"
        assumed[step.key] = [*assumed.get(step.key, ()), told]
    return replace(pot, cooked=replace(pot.cooked, steps=tuple(steps)), assumed=assumed)


def keep_times(
    session: Session,
    who: SignedIn,
    batch_id: uuid.UUID,
    stated: Sequence[Planned],
    measured: Mapping[str, TaskState],
    pots: Sequence[Pot],
    clock: DayClock,
) -> None:
    """Keep how long each task of a day that was `measured` took against `stated`, its tasks before anything was
    learned, in place of what was kept of the day before: a mark that was taken back is taken back here too."""
    time = tables.StepTime
    session.execute(delete(time).where(time.batch_id == batch_id))
    session.add_all(_rows(who, batch_id, stated, measured, {pot.cooked.key: pot for pot in pots}, clock))


def _rows(
    who: SignedIn,
    batch_id: uuid.UUID,
    stated: Sequence[Planned],
    measured: Mapping[str, TaskState],
    pots: Mapping[str, Pot],
    clock: DayClock,
) -> Iterator[tables.StepTime]:
    for one in stated:
        state, pot = measured.get(one.task.key), pots.get(one.component)
        if state is None or state.done is None or state.begun is None or pot is None or one.step.is_lead:
            continue
        person = state.person if one.task.hands_on else None
        took = Took(
            step=learns(one.step, pot.learns_as),
            person=person,
            planned_min=one.task.minutes,
            took_min=state.done - state.begun + state.worked_min,
        )
        if took.is_measured:
            yield tables.StepTime(
                workspace_id=who.workspace_id,
                batch_id=batch_id,
                task=one.task.key,
                learns=took.step,
                says=f"{one.step.proposed.partition(': ')[2] or one.step.says}",
                person_id=None if person is None else uuid.UUID(person),
                planned_min=took.planned_min,
                took_min=took.took_min,
                happened_at=clock.moment(state.done),
            )
