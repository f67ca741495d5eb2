"""All ways out for one row, the smallest first."""

from __future__ import annotations

import math
import uuid
from collections.abc import Iterator
from dataclasses import replace

from sqlalchemy.orm import Session

from yantai.core.foods.nutrients import AIMED
from yantai.core.portions import solve
from yantai.core.portions.ways import moved, reachable_target
from yantai.core.targets.words import whole_words
from yantai.formats.kept import Kept
from yantai.store.database import Database
from yantai.work.batches import loading, plans
from yantai.work.batches.commands import as_it_is
from yantai.work.batches.inputs import SetTarget
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn
from yantai.work.plan.kept import kept
from yantai.work.plan.views import WayView
from yantai.work.plan.ways.limits import limit_ways
from yantai.work.plan.ways.missed import MissedRow, is_proven, then_words
from yantai.work.plan.ways.recipe import recipe_ways
from yantai.work.plan.ways.sides import (
    own_side_ways,
    strange_side_ways,
)
from yantai.work.plan.ways.swaps import batch_ways, swap_ways

_WAYS: Kept[list[WayView]] = Kept(list[WayView])
_HUNDREDTH = 0.011
_ORDER = ("limit", "amount", "component", "food", "own extra", "room", "move", "extra")
"""Ways out as a cook would think of them, what is in the dish first and foods strange to it last."""


def read_ways(database: Database, who: SignedIn, batch_id: uuid.UUID, row_id: uuid.UUID) -> list[WayView]:
    """Changes that let the containers of one row meet their target, each proven, the smallest first.

    Raises:
        Missing: there is no such batch or row here.
    """
    return kept(
        database, who, f"ways/{batch_id}/{row_id}", _WAYS, lambda session: _found(session, who, batch_id, row_id)
    )


def _found(session: Session, who: SignedIn, batch_id: uuid.UUID, row_id: uuid.UUID) -> list[WayView]:
    loaded = loading.load(session, batch_id)
    if loaded.batch.packed_at is not None:
        return []
    computed = plans.compute(loaded)
    classes = loaded.batch.classes
    index = next((n for n, row in enumerate(classes) if row.id == row_id), None)
    if index is None:
        raise Missing("This batch has no such containers. Reload the page for the newest plan.")
    missed = MissedRow(session=session, who=who, computed=computed, index=index)
    if missed.question.answer.met:
        return []
    found = [
        *limit_ways(missed),
        *own_side_ways(missed),
        *recipe_ways(missed),
        *swap_ways(missed),
        *batch_ways(missed),
        *strange_side_ways(missed),
    ]
    ordered = sorted(found, key=lambda way: (_ORDER.index(way.kind), way.moved))
    return [*ordered, *budget_ways(missed), *target_ways(missed)]


def budget_ways(missed: MissedRow) -> Iterator[WayView]:
    """The least budget of all containers with which this row meets its target, within its other limits."""
    container, batch = missed.question.container, missed.computed.loaded.batch
    if batch.budget is None or container.budget is None:
        return
    free = solve(replace(container, budget=None))
    if not free.met:
        return
    low, high = batch.budget, math.ceil(100 * free.cost) / 100
    # What a larger budget meets a yet larger one meets too, so the least is found by halving, to the hundredth.
    while high - low > _HUNDREDTH:
        middle = round((low + high) / 2, 2)
        if middle in (low, high):
            break
        low, high = (low, middle) if solve(replace(container, budget=middle)).met else (middle, high)
    tried = solve(replace(container, budget=high))
    classes = [replace(each, budget=high) for each in missed.computed.classes]
    if not tried.met or not is_proven(missed, missed.computed.dishes, classes):
        return
    yield WayView(
        kind="budget",
        title=f"A budget of {high:,.2f} a container instead of {batch.budget:,.2f}",
        detail=f"For all containers of this batch. {then_words(missed.names, missed.question.answer, tried)}",
        moved=moved(missed.question.answer, tried),
        changes=[as_it_is(batch).model_copy(update={"budget": high})],
    )


def target_ways(missed: MissedRow) -> Iterator[WayView]:
    """The nearest target that these containers can meet."""
    row, question = missed.row, missed.question
    eased = {nutrient.value: value for nutrient, value in reachable_target(question.container, question.answer).items()}
    # A limit that is missed stays missed, whatever is aimed at.
    if not eased or any(miss and of not in AIMED for of, miss in question.answer.misses.items()):
        return
    figures = {**row.figures.by_name, **eased}
    told = []
    for nutrient in AIMED:
        if nutrient.value in eased:
            now, was = (whole_words(nutrient, value) for value in (eased[nutrient.value], row.figures[nutrient] or 0.0))
            told.append(f"{now} {nutrient.noun} instead of {was}")
    yield WayView(
        kind="target",
        title=f"Aim at {', '.join(told)}",
        detail="In this batch only; the grams stay as they are.",
        moved=0.0,
        changes=[SetTarget(row_id=row.id, **figures)],
    )
