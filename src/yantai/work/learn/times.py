"""How long steps take here against what was stated for them, and how fast the people of the kitchens are."""

from __future__ import annotations

from collections import defaultdict

from sqlalchemy import select

from yantai.core.schedule.learned import learn_pace
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.cook.times import MOST_READ, took_of
from yantai.work.learn.views import LearnedTimesView, PersonPaceView, StepTimeView, TookView


def list_times(database: Database, who: SignedIn) -> LearnedTimesView:
    """What the newest cook days say, by step and by person, what is furthest from the stated minutes first."""
    time, batch = tables.StepTime, tables.Batch
    person, kitchen = tables.KitchenPerson, tables.Kitchen
    with database.reading(who.workspace_id) as session:
        rows = session.execute(
            select(time, batch.name)
            .join(batch, batch.id == time.batch_id)
            .order_by(time.happened_at.desc(), time.batch_id, time.task)
            .limit(MOST_READ)
        ).all()
        people = {
            one.id: (one, name)
            for one, name in session.execute(
                select(person, kitchen.name).join(kitchen, kitchen.id == person.kitchen_id)
            ).all()
        }
    pace = learn_pace([took_of(row) for row, _ in rows], {str(key): one.pace for key, (one, _) in people.items()})
    of_step: dict[str, list[TookView]] = defaultdict(list)
    says: dict[str, str] = {}
    for row, batch_name in rows:
        by = people.get(row.person_id) if row.person_id is not None else None
        says.setdefault(row.learns, row.says)
        of_step[row.learns].append(
            TookView(
                planned_min=row.planned_min,
                took_min=row.took_min,
                happened_at=row.happened_at,
                batch=batch_name,
                person="" if by is None else by[0].name,
            )
        )
    steps = [
        StepTimeView(
            key=key,
            says=says[key],
            factor=known.factor,
            stated_share=known.stated_share,
            took=of_step[key],
        )
        for key, known in pace.steps.items()
    ]
    return LearnedTimesView(
        steps=sorted(steps, key=lambda one: (-abs(one.factor - 1), one.says, one.key)),
        people=[
            PersonPaceView(
                id=key,
                name=one.name,
                kitchen=name,
                stated=one.pace,
                pace=pace.people[str(key)].factor,
                tasks=pace.people[str(key)].count,
            )
            for key, (one, name) in sorted(people.items(), key=lambda each: (each[1][1], each[1][0].name))
            if str(key) in pace.people
        ],
    )
