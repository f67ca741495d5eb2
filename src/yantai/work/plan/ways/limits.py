"""Limits that give way: of components, of the container, of pins."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict, replace

from sqlalchemy import select

from yantai.core.planning import plan as core
from yantai.core.planning.plan import Part
from yantai.core.portions import Hold, solve
from yantai.core.portions.ways import Way, moved, ways_out, with_room
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.batches import plans
from yantai.work.batches.inputs import Change, SetBounds, SetContainers, SetPin
from yantai.work.plan.views import WayView
from yantai.work.plan.ways.missed import (
    MissedRow,
    is_proven,
    then_words,
)


def limit_ways(missed: MissedRow) -> Iterator[WayView]:
    """Limits that give way, as far as the whole batch then keeps every hard condition."""
    question = missed.question
    for way in ways_out(question.container, question.answer):
        way = _of_the_house(missed, way) if way.index is None else way
        change = _limit_change(missed, way)
        if change is not None and is_proven(missed, *_with_limit(missed, way)):
            yield WayView(
                kind="room" if way.index is None else "limit",
                title=_limit_title(missed, way),
                detail=then_words(missed.names, question.answer, way.portions),
                moved=way.moved,
                changes=[change],
            )


def _of_the_house(missed: MissedRow, way: Way) -> Way:
    """The same with the smallest container of the house that is large enough, where there is one."""
    mixture = tables.Target.capacity_ml if way.hold is Hold.VOLUME else tables.Target.capacity_g
    sizes = missed.session.scalars(select(mixture).where(mixture >= way.now).distinct().order_by(mixture)).all()
    for size in sizes:
        assert size is not None
        tried = solve(with_room(missed.question.container, way.hold, size))
        if tried.met:
            return replace(way, now=size, portions=tried, moved=moved(missed.question.answer, tried))
    return way


def _with_limit(missed: MissedRow, way: Way) -> tuple[dict[str, core.Part], list[core.ContainerClass]]:
    """The components and classes of the batch with one limit moved."""
    parts = dict(missed.computed.parts)
    classes = list(plans.core_classes(missed.computed.loaded))
    mine = classes[missed.index]
    if way.index is None:
        by_volume = way.hold is Hold.VOLUME
        classes[missed.index] = replace(
            mine,
            capacity_ml=way.now if by_volume else mine.capacity_ml,
            capacity_g=mine.capacity_g if by_volume else way.now,
        )
        return parts, classes
    for key in missed.question.keys[way.index]:
        if way.hold in (Hold.AT_MOST, Hold.USUAL_MOST):
            parts[key] = _bounded(parts[key], maximum_g=way.now)
        elif way.hold is Hold.AT_LEAST:
            parts[key] = _bounded(parts[key], minimum_g=way.now)
        else:
            classes[missed.index] = replace(mine, pins={**mine.pins, key: way.now})
    return parts, classes


def _bounded(part: Part, **moved: float) -> Part:
    return replace(part, bounds=replace(part.bounds, **moved))


def _limit_title(missed: MissedRow, way: Way) -> str:
    if way.index is None:
        unit = "ml" if way.hold is Hold.VOLUME else "g"
        return f"A container of {way.now:,.0f} {unit} instead of {way.was:,.0f} {unit}"
    bound = {Hold.AT_MOST: " at most", Hold.USUAL_MOST: " at most", Hold.AT_LEAST: " at least"}.get(way.hold, "")
    return f"{missed.names[way.index]}{bound} {weight(way.now)} instead of {weight(way.was)}"


def _limit_change(missed: MissedRow, way: Way) -> Change | None:
    row = missed.row
    if way.index is None:
        room = {"capacity_ml": row.capacity_ml, "capacity_g": row.capacity_g}
        room["capacity_ml" if way.hold is Hold.VOLUME else "capacity_g"] = way.now
        return SetContainers(
            row_id=row.id,
            count=row.count,
            capacity_ml=room["capacity_ml"],
            capacity_g=room["capacity_g"],
            plate_g=row.plate_g,
            rank=row.rank,
        )
    keys = missed.question.keys[way.index]
    if len(keys) > 1:
        return None
    component = missed.computed.loaded.batch.components[
        [str(one.id) for one in missed.computed.loaded.batch.components].index(keys[0])
    ]
    if way.hold in (Hold.AT_MOST, Hold.USUAL_MOST, Hold.AT_LEAST):
        moved = "minimum_g" if way.hold is Hold.AT_LEAST else "maximum_g"
        return SetBounds(component_id=component.id, **{**asdict(component.bounds), moved: way.now})
    return SetPin(row_id=row.id, component_id=component.id, grams=way.now)
