"""Another food in the place of one, in the plans of several batches: tried before it is offered, or as bought."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import LineRole
from yantai.core.errors import CoreError
from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import Nutrient
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, plans
from yantai.work.batches.commands import apply_changes, change_within
from yantai.work.batches.inputs import Change, SetLine
from yantai.work.clients.kept_out import kept_from
from yantai.work.common.errors import Missing, WorkError
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import cookable, food_composition, root_id
from yantai.work.shop.views import SubstituteView

MOST_TRIED = 8
MOST_OFFERED = 4


def swap(
    session: Session, who: SignedIn, batch_ids: Sequence[uuid.UUID], food_id: uuid.UUID, other: tables.Food,
    now: datetime, told: uuid.UUID,
) -> list[str]:  # fmt: skip
    """Put another food into the plans of batches because it was bought; what came of it, a sentence a batch.

    A batch in which it cannot be, for what is in the pan or for what somebody must avoid, stays as it was.
    """
    sentences = []
    for batch_id in sorted(batch_ids):
        loaded = loading.load(session, batch_id, lock=True)
        name = loaded.batch.name
        changes = _changes(loaded, food_id, other)
        if not changes:
            continue
        avoided = _kept_from(loaded, food_id, other)
        if avoided:
            sentences.append(f"“{name}” stays as it was: {avoided}.")
            continue
        try:
            with session.begin_nested():
                change_within(session, who, batch_id, changes, now, told=told)
        except WorkError as error:
            sentences.append(f"“{name}” stays as it was. {error}")
            continue
        # By the rule of the engine, which knows noise from a miss and counts what does not fit.
        portions = plans.rows_of(plans.compute(loading.load(session, batch_id)))
        missed = sum(row.count for row, one in portions if not one.met)
        met = "all its containers meet their targets" if not missed else f"{missed} of its containers miss a target now"
        sentences.append(f"“{name}” is planned with {other.name}: {met}.")
    return sentences


def substitutes(
    database: Database, who: SignedIn, batch_ids: Sequence[uuid.UUID], food_id: uuid.UUID, now: datetime
) -> list[SubstituteView]:
    """Foods of the same group and state that could be bought instead, the nearest first, each tried in every plan.

    Only those are told with which every container that meets its target still does, and which nobody who gets them must
    avoid.

    Raises:
        Missing: there is no such food, or batch.
    """
    with database.trial(who.workspace_id) as session:
        food = session.get(tables.Food, food_id)
        if food is None:
            raise Missing("There is no such food in your pantry.")
        rules = workspace_rules(read_workspace(session))
        of_batches = [loading.load(session, batch_id) for batch_id in batch_ids]
        using = [one.batch.id for one in of_batches if _changes(one, food_id, food)]
        candidates = _candidates(session, food, rules)
        own = _per_100g(food, rules)
        candidates_shown = {
            other.id: SubstituteView(
                food_id=other.id,
                name=other.name,
                state=other.state,
                grams=0.0,
                detail=f"{_per_100g(other, rules)} per 100 g; {food.name} {own}",
            )
            for other in candidates
        }
    offered: list[SubstituteView] = []
    for other_id in candidates_shown:
        grams = []
        for batch_id in using:
            with tried(database, who, batch_id, another_food(food_id, other_id), now) as trial:
                if trial is not None:
                    grams.append(trial.after_g.get(other_id, 0.0))
        if grams and len(grams) == len(using):
            offered.append(replace(candidates_shown[other_id], grams=sum(grams)))
        if len(offered) == MOST_OFFERED:
            break
    return offered


@dataclass(frozen=True, kw_only=True)
class Trial:
    """What a batch is after changes that were tried: what it needs of each food before and then [g as purchased]."""

    before_g: Mapping[uuid.UUID, float]
    after_g: Mapping[uuid.UUID, float]
    changes: Sequence[Change]
    computed: plans.Computed
    session: Session


Attempt = Callable[[Session, loading.Loaded], Sequence[Change]]
"""The changes that are tried of a batch; none where there is nothing to try."""


@contextmanager
def tried(
    database: Database, who: SignedIn, batch_id: uuid.UUID, attempt: Attempt, now: datetime
) -> Iterator[Trial | None]:
    """A batch as it would be after some changes; None where they cannot be, a container would miss its target then, or
    a pot would be short. Nothing of it is kept."""
    with database.trial(who.workspace_id) as session:
        yield _trial(session, who, loading.load(session, batch_id), attempt, now)


def _trial(session: Session, who: SignedIn, before: loading.Loaded, attempt: Attempt, now: datetime) -> Trial | None:
    early = plans.compute(before)
    met, short, before_g = _met(early), _short(early), _grams(early)
    changes = attempt(session, before)
    if not changes:
        return None
    try:
        after, _ = apply_changes(session, who, before, changes, now, confirmed=False)
        computed = plans.compute(after)
    except (WorkError, CoreError):
        return None
    if not met <= _met(computed) or not _short(computed) <= short:
        return None
    return Trial(before_g=before_g, after_g=_grams(computed), changes=changes, computed=computed, session=session)


def _grams(computed: plans.Computed) -> dict[uuid.UUID, float]:
    """What the pots of a batch need of each food [g as purchased], water left out."""
    grams: dict[uuid.UUID, float] = defaultdict(float)
    for component in computed.components:
        for line, sized in zip(component.lines, computed.need(component).lines, strict=True):
            food = None if line.food_id is None else computed.loaded.larder.foods.get(line.food_id)
            if food is not None and cookable(food).role is not LineRole.WATER:
                grams[root_id(food)] += sized.purchased_g
    return grams


def another_food(food_id: uuid.UUID, other_id: uuid.UUID) -> Attempt:
    """Another food in the place of one; nothing where somebody who gets it must avoid it."""

    def changes(session: Session, before: loading.Loaded) -> Sequence[Change]:
        other = session.get_one(tables.Food, other_id)
        return [] if _kept_from(before, food_id, other) else _changes(before, food_id, other)

    return changes


def _short(computed: plans.Computed) -> set[uuid.UUID]:
    """The pots that do not suffice for what the containers take."""
    return {one.id for one in computed.components if computed.need(one).spare_g < -_LACKS_G}


_LACKS_G = 0.05


def _met(computed: plans.Computed) -> set[uuid.UUID]:
    return {row.id for row, portions in plans.rows_of(computed) if portions.met}


def _changes(loaded: loading.Loaded, food_id: uuid.UUID, other: tables.Food) -> list[Change]:
    """A batch's lines of a food as those of another, of the pots that are not weighed yet."""
    if loaded.batch.packed_at is not None:
        return []
    return [
        SetLine(component_id=component.id, line_id=line.id, food_id=other.id, purchased_g=line.purchased_g)
        for component in loaded.batch.components
        if component.id not in loaded.weighings
        for line in component.lines
        if _is_of(loaded, line, food_id)
    ]


def _kept_from(loaded: loading.Loaded, food_id: uuid.UUID, other: tables.Food) -> str:
    """Who of those that get it must avoid the other food, and why; "" where nobody must."""
    for component in loaded.batch.components:
        if any(_is_of(loaded, line, food_id) for line in component.lines):
            for client in loaded.eating(component):
                words = kept_from(client, other)
                if words:
                    return f"{client.name} must not have {other.name} ({', '.join(words)})"
    return ""


def _is_of(loaded: loading.Loaded, line: tables.Line, food_id: uuid.UUID) -> bool:
    food = None if line.food_id is None else loaded.larder.foods.get(line.food_id)
    return food is not None and root_id(food) == food_id


def _candidates(session: Session, food: tables.Food, rules: Rules) -> list[tables.Food]:
    """Other foods of its group and state, those with the nearest macros first."""
    row = tables.Food
    same = select(row).where(
        row.superseded_by.is_(None), row.archived_at.is_(None), row.weak.is_(False),
        row.food_group == food.food_group, row.state == food.state, row.id != food.id,
    )  # fmt: skip
    own = food_composition(food, rules)

    def apart(other: tables.Food) -> float:
        held = food_composition(other, rules)
        macros = (Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT)
        return sum((held[one] - own[one]) ** 2 for one in macros)

    return sorted(session.scalars(same), key=lambda other: (apart(other), other.name))[:MOST_TRIED]


def _per_100g(food: tables.Food, rules: Rules) -> str:
    held = food_composition(food, rules)
    return f"P {held[Nutrient.PROTEIN]:.0f} F {held[Nutrient.FAT]:.0f} C {held[Nutrient.CARBOHYDRATE]:.0f}"
