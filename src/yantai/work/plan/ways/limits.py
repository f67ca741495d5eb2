"""Limits that give way: of components, of the container, of pins."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from sqlalchemy import select

from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.portions import Hold, solve
from yantai.core.portions.ways import Way, moved, ways_out, with_room
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.batches.inputs import Change, SetBounds, SetContainers, SetPin, SetPlace
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


def _with_limit(missed: MissedRow, way: Way) -> tuple[dict[str, Dish], list[ContainerClass]]:
    """The dishes and classes of the batch with one limit moved."""
    dishes = dict(missed.computed.dishes)
    classes = list(missed.computed.classes)
    mine = classes[missed.index]
    if way.index is None:
        by_volume = way.hold is Hold.VOLUME
        classes[missed.index] = replace(
            mine,
            capacity_ml=way.now if by_volume else mine.capacity_ml,
            capacity_g=mine.capacity_g if by_volume else way.now,
        )
        return dishes, classes
    parts = dict(missed.dish.parts)
    for key in missed.question.keys[way.index]:
        if way.hold is Hold.TUB:
            parts[key] = replace(parts[key], tub_ml=_tub_ml(parts[key], way.now))
        elif way.hold in (Hold.AT_MOST, Hold.USUAL_MOST):
            parts[key] = _bounded(parts[key], maximum_g=way.now)
        elif way.hold is Hold.AT_LEAST:
            parts[key] = _bounded(parts[key], minimum_g=way.now)
        else:
            classes[missed.index] = replace(mine, pins={**mine.pins, key: way.now})
    dishes[str(missed.row.dish_id)] = replace(missed.dish, parts=parts)
    return dishes, classes


def _tub_ml(part: Part, grams: float) -> float:
    """The tub that so many grams [g] of a part fit into [ml]."""
    return math.ceil(grams / part.density_g_per_ml)


def _bounded(part: Part, **moved: float) -> Part:
    return replace(part, bounds=replace(part.bounds, **moved))


def _limit_title(missed: MissedRow, way: Way) -> str:
    if way.index is None:
        unit = "ml" if way.hold is Hold.VOLUME else "g"
        return f"A container of {way.now:,.0f} {unit} instead of {way.was:,.0f} {unit}"
    if way.hold is Hold.TUB:
        part = missed.dish.parts[missed.question.keys[way.index][0]]
        return f"A tub of {_tub_ml(part, way.now):,.0f} ml for {missed.names[way.index]}"
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
            helping=row.helping,
        )
    keys = missed.question.keys[way.index]
    if len(keys) > 1:
        return None
    part = next(each for each in missed.computed.loaded.dishes[row.dish_id].parts if str(each.component_id) == keys[0])
    if way.hold is Hold.TUB:
        how = part.portioning
        return SetPlace(
            component_id=part.component_id,
            dish_id=row.dish_id,
            place=how.place,
            tub_ml=_tub_ml(missed.dish.parts[keys[0]], way.now),
            takes_g=how.takes_g,
            group=how.group,
        )
    if way.hold in (Hold.AT_MOST, Hold.USUAL_MOST, Hold.AT_LEAST):
        moved = "minimum_g" if way.hold is Hold.AT_LEAST else "maximum_g"
        bounds = {"minimum_g": part.portioning.minimum_g, "maximum_g": part.portioning.maximum_g, moved: way.now}
        return SetBounds(component_id=part.component_id, dish_id=row.dish_id, **bounds)
    return SetPin(row_id=row.id, component_id=part.component_id, grams=way.now)
