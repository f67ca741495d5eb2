"""The steps of a component of a batch: those that somebody wrote, or those that are proposed, to be written down."""

from __future__ import annotations

import uuid
from collections.abc import Iterator

from yantai.core.schedule.kitchen import KIND_WORDS, Kind
from yantai.core.schedule.steps import Growth, Step, ungrown
from yantai.store.database import Database
from yantai.work.batches import loading, stored
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.cook.pots import pots_of
from yantai.work.cook.views import PotStepsView
from yantai.work.recipes.steps import step_view
from yantai.work.recipes.views import StepView


def read_steps(database: Database, who: SignedIn, batch_id: uuid.UUID, component_id: uuid.UUID) -> PotStepsView:
    """How a component of a batch is made. What is proposed is told for the amount that the component was written for,
    as it would be written.

    Raises:
        Missing: there is no such batch, or nothing of this component is to be cooked.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        loaded = loading.load(session, batch_id)
        pots = pots_of(loaded, stored.read_view(session, batch_id))
        pot = next((one for one in pots if one.component_id == component_id), None)
        if pot is None:
            raise Missing("Nothing of this component is to be cooked any more.")
        row = loaded.components[component_id]
        if not pot.is_proposed:
            shown = [step_view(step, row.name) for step in row.steps]
        else:
            factor = pot.cooked.raw_g / pot.written_raw_g if pot.written_raw_g else 1.0
            shown = [one for step in pot.cooked.steps for one in _proposed(step, component_id, row.name, factor)]
        return PotStepsView(component_id=component_id, component=row.name, is_proposed=pot.is_proposed, steps=shown)


def _proposed(step: Step, component_id: uuid.UUID, name: str, factor: float) -> Iterator[StepView]:
    """A step as it would be written: water that comes to the boil in its minutes, its rest as a step of its own."""
    heats = 0.0 if step.on is Kind.OVEN else step.preheat_min
    yield StepView(
        id=_id(component_id, step.key),
        text=step.plain or step.says,
        component_id=component_id,
        component=name,
        hands_on_min=_minutes(step, step.hands_min, factor),
        unattended_min=_minutes(step, step.unattended_min, factor, heats),
        every_min=step.every_min,
        temperature_c=step.temperature_c,
        equipment="" if step.on is None else KIND_WORDS[step.on],
        growth=step.growth,
        load_g=step.load_g,
        lead_min=step.lead_min,
        lead_most_min=step.lead_most_min,
        core_c=step.core_c,
        done_when=step.done_when,
        after=None if step.after is None else [_id(component_id, key) for key in step.after],
        trouble="",
    )
    if step.rest_min:
        yield _rest(step, component_id, name)


def _rest(step: Step, component_id: uuid.UUID, name: str) -> StepView:
    return StepView(
        id=_id(component_id, f"{step.key}/rest"),
        text=f"Let {name} rest.",
        component_id=component_id,
        component=name,
        hands_on_min=None,
        unattended_min=step.rest_min,
        every_min=None,
        temperature_c=None,
        equipment="",
        growth=Growth.FIXED,
        load_g=None,
        lead_min=None,
        lead_most_min=None,
        core_c=None,
        done_when="",
        after=[_id(component_id, step.key)],
        trouble="",
    )


def _minutes(step: Step, minutes: float, factor: float, more: float = 0.0) -> float | None:
    return round(ungrown(minutes, step.growing, factor) + more, 1) if minutes or more else None


def _id(component_id: uuid.UUID, key: str) -> uuid.UUID:
    """The same each time it is proposed."""
    return uuid.uuid5(component_id, key)
