"""What would let a container meet its target: limits, extras, amounts, foods, another batch, the target itself."""

from __future__ import annotations

import itertools
import uuid
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, cast

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from yantai.core import plan as core
from yantai.core.components import Component, Line
from yantai.core.counts import how_many
from yantai.core.errors import CoreError
from yantai.core.exclusions import Named, keeps_out
from yantai.core.nutrients import Amounts
from yantai.core.portioning import School
from yantai.core.portions import Hold, Portions, Sharing, solve
from yantai.core.portions.reach import Shares, reach_map
from yantai.core.portions.ways import Way, can_meet, extras, moved, reachable_target, ways_out, with_room
from yantai.core.speaking import weight
from yantai.core.yields import UNCHANGED
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.batches import copied_component
from yantai.work.change_pots import component_change
from yantai.work.errors import Closed, Missing, located
from yantai.work.figures import NOUNS, core_target, target_figures, whole_words
from yantai.work.inputs import AddExtra, Change, MoveRow, SetBounds, SetContainers, SetLine, SetPin, SetTarget
from yantai.work.kitchen import Larder, contents, food_composition, kept_from, kept_out, named
from yantai.work.recipes import read_recipes
from yantai.work.views import FilledRow, FilledView, PointView, ReachView, WayView

_FACTORS = (0.9, 1.1, 0.75, 1.25, 0.5, 1.5, 2.0)
"""By how much an amount of the recipe is tried, the smallest change first."""

_READY = ("as-sold", "canned-drained", "cooked")
_EATEN_RAW = ("fruit", "vegetables", "nuts-seeds", "fats-oils")
_NO_EXTRA = ("herbs-spices", "sweeteners-baking", "protein-powders")
_STRANGE = "granola powder popcorn wine beer sake vinegar stock frozen dried"
"""Words of foods that nobody puts beside a meal to make its macros right."""
_MOST_OF_A_KIND = 2
_MOST_TRIED = 6
"""Ways of a kind that are proven by solving the whole batch again: with short pots that takes a while."""
_ORDER = ("limit", "amount", "component", "food", "own extra", "room", "move", "extra")
"""Ways out as a cook would think of them, what is in the dish first and foods strange to it last."""
_MOST_BATCHES = 10
_EXTRA = "extra"


@dataclass(frozen=True, kw_only=True)
class _Missed:
    """A row that misses its target, with what it was computed from."""

    session: Session
    who: SignedIn
    computed: plans.Computed
    place: int

    @property
    def row(self) -> tables.ContainerClass:
        return self.computed.loaded.batch.classes[self.place]

    @property
    def question(self) -> core.Question:
        return self.computed.plan.questions[self.place]

    @property
    def names(self) -> list[str]:
        """The components of each cell of the question."""
        known = {str(component.id): component.name for component in self.computed.loaded.batch.components}
        return [" and ".join(known[key] for key in keys) for keys in self.question.keys]


def read_ways(database: Database, who: SignedIn, batch_id: uuid.UUID, row_id: uuid.UUID) -> list[WayView]:
    """Changes that let the containers of one row meet their target, each proven, the smallest first.

    Raises:
        Missing: there is no such batch or row here.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id)
        if loaded.batch.packed_at is not None:
            return []
        computed = plans.compute(loaded)
        classes = loaded.batch.classes
        place = next((n for n, row in enumerate(classes) if row.id == row_id), None)
        if place is None:
            raise Missing("This batch has no such containers. Reload the page for the newest plan.")
        missed = _Missed(session=session, who=who, computed=computed, place=place)
        if missed.question.answer.met:
            return []
        found = [
            *_limits(missed),
            *_own_extras(missed),
            *_recipe(missed),
            *_swaps(missed),
            *_other_batches(missed),
            *_strange_extra(missed),
        ]
        return [*sorted(found, key=lambda way: (_ORDER.index(way.kind), way.moved)), *_target(missed)]


def _compute_open(session: Session, batch_id: uuid.UUID) -> plans.Computed:
    """What could still be decided by; of a packed batch nothing can."""
    loaded = plans.load(session, batch_id)
    if loaded.batch.packed_at is not None:
        raise Closed("This batch is packed. Open it again to see what it could be.")
    return plans.compute(loaded)


def read_reach(database: Database, who: SignedIn, batch_id: uuid.UUID) -> ReachView:
    """The reach map of a batch: what its components can give together, and where the targets lie.

    Raises:
        Missing: there is no such batch here.
        Closed: it is packed.
    """
    with database.workspace(who.workspace_id) as session:
        computed = _compute_open(session, batch_id)
    batch = computed.loaded.batch
    held = [computed.need(component).pan.dish.per_100g for component in batch.components]
    found = reach_map(held, [core_target(row) for row in batch.classes])
    names = [plans.container_name(row) for row in batch.classes]
    return ReachView(
        components=[
            _point(component.name, shares, None)
            for component, shares in zip(batch.components, found.components, strict=True)
            if shares is not None
        ],
        hull=_among_shown(found.components, found.hull),
        targets=[
            _point(name, shares, inside)
            for name, shares, inside in zip(names, found.targets, found.inside, strict=True)
            if shares is not None
        ],
    )


def read_filled(database: Database, who: SignedIn, batch_id: uuid.UUID) -> FilledView:
    """How many containers the amounts that are weighed or fixed fill, and for whom.

    Raises:
        Missing: there is no such batch here.
        Invalid: no amount is known.
        Closed: it is packed.
    """
    with database.workspace(who.workspace_id) as session:
        computed = _compute_open(session, batch_id)
    batch = computed.loaded.batch
    with located(""):
        found = how_many(
            computed.pans,
            plans.core_classes(computed.loaded),
            step_g=batch.step_g,
            sharing=Sharing(batch.sharing),
        )
    names = {str(component.id): component.name for component in batch.components}
    return FilledView(
        rows=[
            FilledRow(row_id=row.id, name=plans.container_name(row), planned=row.count, fills=count)
            for row, count in zip(batch.classes, found.counts, strict=True)
        ],
        left=[f"{weight(left)} {names[key]}" for key, left in found.left_g.items() if left >= 0.5],
    )


def _among_shown(components: tuple[Shares | None, ...], hull: tuple[int, ...]) -> list[int]:
    """Places of the hull among the components that have a point at all."""
    shown = [place for place, shares in enumerate(components) if shares is not None]
    return [shown.index(place) for place in hull]


def _point(name: str, shares: Shares, inside: bool | None) -> PointView:
    x, y = shares.at
    return PointView(
        name=name,
        protein=shares.protein,
        carbohydrate=shares.carbohydrate,
        fat=shares.fat,
        x=x,
        y=y,
        inside=inside,
    )


def _then(names: list[str], now: Portions, then: Portions) -> str:
    """Which grams move, in words."""
    told = [
        f"{name} {weight(after)} instead of {weight(before)}"
        for name, before, after in zip(names, now.grams, then.grams, strict=False)
        if abs(before - after) >= 0.5
    ]
    return f"Then {', '.join(told)}." if told else "No other grams move."


def _limits(missed: _Missed) -> Iterator[WayView]:
    """Limits that give way, as far as the whole batch then keeps every hard condition."""
    question = missed.question
    for way in ways_out(question.container, question.answer):
        way = _of_the_house(missed, way) if way.place is None else way
        change = _limit_change(missed, way)
        if change is not None and _is_proven(missed, *_with_limit(missed, way)):
            yield WayView(
                kind="room" if way.place is None else "limit",
                title=_limit_title(missed, way),
                detail=_then(missed.names, question.answer, way.portions),
                moved=way.moved,
                changes=[change],
            )


def _of_the_house(missed: _Missed, way: Way) -> Way:
    """The same with the smallest container of the house that is large enough, where there is one."""
    column = tables.Target.capacity_ml if way.hold is Hold.VOLUME else tables.Target.capacity_g
    sizes = missed.session.scalars(select(column).where(column >= way.now).distinct().order_by(column)).all()
    for size in sizes:
        assert size is not None
        tried = solve(with_room(missed.question.container, way.hold, size))
        if tried.met:
            return replace(way, now=size, portions=tried, moved=moved(missed.question.answer, tried))
    return way


def _with_limit(missed: _Missed, way: Way) -> tuple[dict[str, core.Pan], list[core.ContainerClass]]:
    """The pans and classes of the batch with one limit moved."""
    pans = dict(missed.computed.pans)
    classes = list(plans.core_classes(missed.computed.loaded))
    mine = classes[missed.place]
    if way.place is None:
        by_volume = way.hold is Hold.VOLUME
        classes[missed.place] = replace(
            mine,
            capacity_ml=way.now if by_volume else mine.capacity_ml,
            capacity_g=mine.capacity_g if by_volume else way.now,
        )
        return pans, classes
    for key in missed.question.keys[way.place]:
        if way.hold in (Hold.AT_MOST, Hold.USUAL_MOST):
            pans[key] = replace(pans[key], maximum_g=way.now)
        elif way.hold is Hold.AT_LEAST:
            pans[key] = replace(pans[key], minimum_g=way.now)
        else:
            classes[missed.place] = replace(mine, pins={**mine.pins, key: way.now})
    return pans, classes


def _is_proven(missed: _Missed, pans: Mapping[str, core.Pan], classes: Sequence[core.ContainerClass]) -> bool:
    """With the whole batch solved again this row meets its target, none that did misses it, and no pot is overdrawn
    more than it was."""
    batch, before = missed.computed.loaded.batch, missed.computed.plan
    after = plans.solve_batch(batch, pans, classes)
    kept = all(
        late.met or not early.met
        for row, early, late in zip(batch.classes, before.portions, after.portions, strict=True)
        if row.count
    )
    overdrawn = any(grams > before.lacking_g.get(key, 0.0) + 0.05 for key, grams in after.lacking_g.items())
    return kept and after.portions[missed.place].met and not overdrawn


def _limit_title(missed: _Missed, way: Way) -> str:
    if way.place is None:
        unit = "ml" if way.hold is Hold.VOLUME else "g"
        return f"A container of {way.now:,.0f} {unit} instead of {way.was:,.0f} {unit}"
    bound = {Hold.AT_MOST: " at most", Hold.USUAL_MOST: " at most", Hold.AT_LEAST: " at least"}.get(way.hold, "")
    return f"{missed.names[way.place]}{bound} {weight(way.now)} instead of {weight(way.was)}"


def _limit_change(missed: _Missed, way: Way) -> Change | None:
    row = missed.row
    if way.place is None:
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
    keys = missed.question.keys[way.place]
    if len(keys) > 1:
        return None
    component = missed.computed.loaded.batch.components[
        [str(one.id) for one in missed.computed.loaded.batch.components].index(keys[0])
    ]
    if way.hold in (Hold.AT_MOST, Hold.USUAL_MOST, Hold.AT_LEAST):
        most = component.maximum_g if way.hold is Hold.AT_LEAST else way.now
        least = way.now if way.hold is Hold.AT_LEAST else component.minimum_g
        return SetBounds(component_id=component.id, minimum_g=least, maximum_g=most)
    return SetPin(row_id=row.id, component_id=component.id, grams=way.now)


def _own_extras(missed: _Missed) -> Iterator[WayView]:
    """Foods that the client eats beside the containers anyway."""
    extra = tables.DayExtra
    query = (
        select(tables.Food)
        .join(extra, extra.food_id == tables.Food.id)
        .where(extra.day_id.in_(select(tables.Day.id).where(tables.Day.client_id == missed.row.client_id)))
    )
    foods = list(dict.fromkeys(missed.session.scalars(query.order_by(tables.Food.name))))
    yield from itertools.islice(_added(missed, foods, "own extra"), _MOST_OF_A_KIND)


def _strange_extra(missed: _Missed) -> Iterator[WayView]:
    """One food of the kitchen or the reference that is eaten as it is."""
    food = tables.Food
    query = select(food).where(
        food.superseded_by.is_(None),
        food.archived_at.is_(None),
        food.weak.is_(False),
        food.food_group.not_in(_NO_EXTRA),
        or_(food.state.in_(_READY), (food.state == "raw") & food.food_group.in_(_EATEN_RAW)),
    )
    strange = _STRANGE.split()
    foods = [
        one
        for one in missed.session.scalars(query.order_by(food.name))
        if not any(keeps_out(word, Named(names=(one.name,))) for word in strange)
    ]
    yield from itertools.islice(_added(missed, foods, "extra"), 1)


def _added(missed: _Missed, foods: Sequence[tables.Food], kind: str) -> Iterator[WayView]:
    """Each of these foods that meets the target beside the components, without what this client must avoid."""
    client, question = missed.row.client, missed.question
    offered = [
        one
        for one in foods
        if not kept_from(client, one) and not any(keeps_out(word, named(one)) for word in client.dislikes)
    ]
    rules = missed.computed.loaded.larder.rules
    held = [food_composition(one, rules) for one in offered]
    for extra in itertools.islice(extras(question.container, question.answer, held), _MOST_TRIED):
        chosen = offered[extra.offer]
        if _is_proven(missed, *_with_extra(missed, chosen, extra.grams)):
            yield WayView(
                kind=kind,
                title=f"Add {weight(extra.grams)} of {chosen.name}",
                detail=_then(missed.names, question.answer, extra.portions),
                moved=extra.moved,
                changes=[AddExtra(row_id=missed.row.id, food_id=chosen.id, grams=extra.grams)],
            )


def _with_extra(
    missed: _Missed, food: tables.Food, grams: float
) -> tuple[dict[str, core.Pan], list[core.ContainerClass]]:
    """The pans and classes of the batch with some of a food beside the components of this row."""
    composition = food_composition(food, missed.computed.loaded.larder.rules)
    line = Line(name=food.name, purchased_g=100, composition=composition, yield_range=UNCHANGED)
    pan = core.Pan(
        component=Component(name=food.name, lines=(line,), cooked=False),
        share=1,
        school=School.BY_EYE,
        density_g_per_ml=1.0,
    )
    classes = list(plans.core_classes(missed.computed.loaded))
    mine = classes[missed.place]
    classes[missed.place] = replace(mine, pins={**mine.pins, _EXTRA: grams})
    return {**missed.computed.pans, _EXTRA: pan}, classes


def _recipe(missed: _Missed) -> Iterator[WayView]:
    """Another amount or another food in a component that is not cooked yet."""
    amounts, foods = [], []
    for component in missed.computed.loaded.batch.components:
        pan = missed.computed.pans[str(component.id)]
        if pan.stays_as_written or (str(component.id),) not in missed.question.keys:
            continue
        amounts += _other_amounts(missed, component, pan)
        foods += _other_foods(missed, component, pan)
    for ways in (amounts, foods):
        nearest = sorted(ways, key=lambda one: one.moved)[:_MOST_TRIED]
        proven = (way for way in nearest if _keeps_the_others(missed, way))
        for _, way in zip(range(_MOST_OF_A_KIND), proven, strict=False):
            yield way.view


@dataclass(frozen=True, kw_only=True)
class _Recast:
    """A component with one line changed, and the way that it makes."""

    key: str
    pan: core.Pan
    view: WayView

    @property
    def moved(self) -> float:
        return self.view.moved


def _recast(missed: _Missed, component: tables.Component, pan: core.Pan, place: int, line: Line) -> Portions | None:
    """The container of the row with one line of a component changed; None where it still misses."""
    question = missed.question
    lines = (*pan.component.lines[:place], line, *pan.component.lines[place + 1 :])
    changed = replace(pan, component=replace(pan.component, lines=lines))
    cell = question.keys.index((str(component.id),))
    cells = list(question.container.cells)
    cells[cell] = replace(cells[cell], per_100g=changed.dish.per_100g)
    container = replace(question.container, cells=tuple(cells))
    if not can_meet(container):
        return None
    tried = solve(container)
    return tried if tried.met else None


def _other_amounts(missed: _Missed, component: tables.Component, pan: core.Pan) -> list[_Recast]:
    found = []
    for place, (row, line) in enumerate(zip(component.lines, pan.component.lines, strict=True)):
        if row.food_id is None or not line.amounts.known[0]:
            continue
        for factor in _FACTORS:
            sized = line.times(factor)
            tried = _recast(missed, component, pan, place, sized)
            if tried is None:
                continue
            share = abs(factor - 1) * line.edible_g / pan.component.in_pan_g
            way = WayView(
                kind="amount",
                title=f"{abs(factor - 1):.0%} {'more' if factor > 1 else 'less'} {line.name} in {component.name}",
                detail=_then(missed.names, missed.question.answer, tried),
                moved=moved(missed.question.answer, tried) + share,
                changes=[
                    SetLine(
                        component_id=component.id,
                        line_id=row.id,
                        food_id=row.food_id,
                        purchased_g=round(sized.purchased_g, 3),
                    )
                ],
            )
            lines = (*pan.component.lines[:place], sized, *pan.component.lines[place + 1 :])
            changed = replace(pan, component=replace(pan.component, lines=lines))
            found.append(_Recast(key=str(component.id), pan=changed, view=way))
            break
    return found


def _other_foods(missed: _Missed, component: tables.Component, pan: core.Pan) -> list[_Recast]:
    """The main food of a component replaced by another of its group in the same state, with the same yield."""
    larder = missed.computed.loaded.larder
    main = larder.main_food(component)
    place = next((n for n, row in enumerate(component.lines) if main is not None and row.food_id == main.id), None)
    if main is None or place is None:
        return []
    eating = _eating(missed, component)
    food = tables.Food
    same = select(food).where(
        food.superseded_by.is_(None),
        food.archived_at.is_(None),
        food.weak.is_(False),
        food.food_group == main.food_group,
        food.state == main.state,
        food.id != main.id,
    )
    found = []
    line = pan.component.lines[place]
    for other in missed.session.scalars(same.order_by(food.name)):
        if any(kept_from(client, other) for client in eating):
            continue
        composition: Amounts = food_composition(other, larder.rules)
        swapped = replace(line, name=other.name, composition=composition)
        tried = _recast(missed, component, pan, place, swapped)
        if tried is None:
            continue
        way = WayView(
            kind="food",
            title=f"{other.name} instead of {main.name}",
            detail=f"{_then(missed.names, missed.question.answer, tried)} For all containers, at the same yield.",
            moved=moved(missed.question.answer, tried) + line.edible_g / pan.component.in_pan_g,
            changes=[
                SetLine(
                    component_id=component.id,
                    line_id=component.lines[place].id,
                    food_id=other.id,
                    purchased_g=component.lines[place].purchased_g,
                )
            ],
        )
        lines = (*pan.component.lines[:place], swapped, *pan.component.lines[place + 1 :])
        changed = replace(pan, component=replace(pan.component, lines=lines))
        found.append(_Recast(key=str(component.id), pan=changed, view=way))
    return found


def _swaps(missed: _Missed) -> Iterator[WayView]:
    """A component of another recipe, of the same role, in the place of one that is not cooked yet."""
    loaded = missed.computed.loaded
    recipes = [recipe for recipe in read_recipes(missed.session) if recipe.id != loaded.batch.recipe_id]
    larder = Larder.read(missed.session, [part for recipe in recipes for part in recipe.components])
    found = []
    for component in loaded.batch.components:
        pan = missed.computed.pans[str(component.id)]
        if pan.stays_as_written or (str(component.id),) not in missed.question.keys:
            continue
        eating = _eating(missed, component)
        for recipe in recipes:
            for part in recipe.components:
                alike = part.served and part.role == component.role
                made_of = {"": contents(part.name, larder.foods_of(part.lines))}
                if alike and not any(kept_out(client, recipe.name, made_of)[""] for client in eating):
                    found += _swap(missed, component, pan, recipe, part, larder)
    nearest = sorted(found, key=lambda one: one.moved)[:_MOST_TRIED]
    proven = (way for way in nearest if _keeps_the_others(missed, way))
    for _, way in zip(range(_MOST_OF_A_KIND), proven, strict=False):
        yield way.view


def _eating(missed: _Missed, component: tables.Component) -> list[tables.Client]:
    """The clients of the batch who get this component: what takes its place must not be kept from any of them."""
    loaded = missed.computed.loaded
    clients = {row.client_id: row.client for row in loaded.batch.classes}
    return [client for client in clients.values() if not loaded.kept_out(client)[str(component.id)]]


def _swap(
    missed: _Missed,
    component: tables.Component,
    pan: core.Pan,
    recipe: tables.Recipe,
    part: tables.Component,
    larder: Larder,
) -> list[_Recast]:
    try:
        other = plans.pan_of(larder, part, share_g=pan.share)
    except CoreError:
        # What another recipe cannot make of itself now is no way out here.
        return []
    question = missed.question
    place = question.keys.index((str(component.id),))
    cells = list(question.container.cells)
    if other.school not in (School.BY_COMPONENT, School.PIECES, School.FIXED_MEASURE):
        return []
    cells[place] = replace(
        cells[place],
        per_100g=other.dish.per_100g,
        minimum_g=other.minimum_g,
        maximum_g=other.most_g,
        density_g_per_ml=other.density_g_per_ml,
        step_g=other.one_g * other.unit_part if other.is_counted and other.one_g is not None else None,
    )
    container = replace(question.container, cells=tuple(cells))
    if not can_meet(container):
        return []
    tried = solve(container)
    if not tried.met:
        return []
    names = list(missed.names)
    names[place] = part.name
    share = question.answer.grams[place] / max(sum(question.answer.grams), 1.0)
    copied = copied_component(larder, missed.who, part)
    view = WayView(
        kind="component",
        title=f"{part.name} from “{recipe.name}” instead of {component.name}",
        detail=f"{_then(names, question.answer, tried)} For all containers of this batch.",
        moved=moved(question.answer, tried) + share,
        changes=[component_change(copied, into=component.id)],
    )
    return [_Recast(key=str(component.id), pan=other, view=view)]


def _keeps_the_others(missed: _Missed, way: _Recast) -> bool:
    pans = {**missed.computed.pans, way.key: way.pan}
    return _is_proven(missed, pans, plans.core_classes(missed.computed.loaded))


def _other_batches(missed: _Missed) -> Iterator[WayView]:
    """Other open batches in which these containers would meet their target without costing another's."""
    batch = missed.computed.loaded.batch
    query = (
        plans.batch_query()
        .where(tables.Batch.packed_at.is_(None), tables.Batch.id != batch.id, tables.Batch.cook_on >= batch.cook_on)
        .order_by(tables.Batch.cook_on)
        .limit(_MOST_BATCHES)
    )
    for other in missed.session.scalars(query).unique():
        computed = plans.compute(plans.loaded(missed.session, other))
        here = plans.core_classes(computed.loaded)
        moving = plans.core_class(computed.loaded, missed.row, with_pins=False)
        after = plans.solve_batch(other, computed.pans, (*here, moving)).portions
        kept = all(late.met or not early.met for early, late in zip(computed.plan.portions, after, strict=False))
        if after[-1].met and kept:
            yield WayView(
                kind="move",
                title=f"Cook these with “{other.name}” instead",
                detail=f"{other.recipe.name} on {other.cook_on:%a %-d %B} meets the target.",
                moved=1.0,
                changes=[MoveRow(row_id=missed.row.id, to_batch_id=other.id)],
            )
            return


def _target(missed: _Missed) -> Iterator[WayView]:
    row, question = missed.row, missed.question
    eased = {nutrient.value: value for nutrient, value in reachable_target(question.container, question.answer).items()}
    if not eased:
        return
    figures = {**target_figures(row), **eased}
    told = []
    for nutrient, miss in question.answer.misses.items():
        if miss and nutrient.value in eased:
            now, was = (whole_words(nutrient, value) for value in (eased[nutrient.value], getattr(row, nutrient.value)))
            told.append(f"{now} {NOUNS[nutrient][0]} instead of {was}")
    yield WayView(
        kind="target",
        title=f"Aim at {', '.join(told)}",
        detail="In this batch only; the grams stay as they are.",
        moved=0.0,
        changes=[SetTarget(row_id=row.id, **cast(Any, figures))],
    )
