"""What a computed plan leaves to decide before anything is cooked, in words."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from yantai.core.foods.nutrients import Nutrient
from yantai.core.planning.dishes import ContainerClass, Dish, pots_of, untold
from yantai.core.planning.plan import ComponentNeed, Plan
from yantai.core.portions import Portions
from yantai.core.portions.words import binding_words
from yantai.core.speaking import exact_weight, weight
from yantai.core.targets.words import conflict_words, missed_words

SHORT_FROM_G = 0.5
"""A component is short from here on [g]; less is the rounding of the scale."""

_MOST_LIMITS = 3
"""Limits named in a sentence; they come the most worthwhile first."""


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenPoint:
    """Something to decide: about container class number `row`, or about the component with this key."""

    title: str
    detail: str
    row: int | None = None
    component: str | None = None


def to_settle(
    plan: Plan,
    dishes: Mapping[str, Dish],
    classes: Sequence[ContainerClass],
    names: Sequence[str],
    *,
    step_g: float,
    weighed: Mapping[str, Sequence[float]],
) -> list[OpenPoint]:
    """Pots weighed twice, components that are short, containers that have not chosen or have nothing in them, targets
    not met or at odds, containers too full, figures nobody knows.

    `names` are those of the container classes, `step_g` [g] is the step of the scale, `weighed` are the weights [g] of
    each component that nobody chose between, the one that counts last.
    """
    parts = pots_of(dishes)
    found = [_weighed_twice(parts[key].component.name, key, grams) for key, grams in weighed.items() if len(grams) > 1]
    found += [_short(key, need) for key, need in plan.needs.items() if need.spare_g < -SHORT_FROM_G]
    for row, (each, portions) in enumerate(zip(classes, plan.portions, strict=True)):
        if plan.counts[row]:
            found += _of_row(row, names[row], each, plan, portions, dishes[each.dish])
    return [*found, *_contradictions(plan, dishes, classes, step_g)]


def _of_row(
    row: int, name: str, each: ContainerClass, plan: Plan, portions: Portions, dish: Dish
) -> Iterator[OpenPoint]:
    yield from _choice(row, name, each, dish)
    if all(key in each.left_out for key in dish.taken(each)):
        yield OpenPoint(
            title=f"{name}: nothing is in it",
            detail=f"Every part of {dish.name or 'the recipe'} is left out for these containers. Give them another "
            "dish, or choose other parts.",
            row=row,
        )
        return
    silent = untold(dish, each)
    if silent:
        yield _untold(row, name, [dish.parts[key].component.name for key in silent])
    conflict = conflict_words(plan.questions[row].container.target)
    if conflict:
        yield OpenPoint(title=f"{name}: target at odds", detail=conflict, row=row)
    # What is missed before everything is chosen says nothing of the target.
    elif not portions.inside and not dish.open_groups(each):
        yield _missed(row, name, each, portions, dish)
    if portions.is_overfull:
        yield _overfull(row, name, each, portions)
    if portions.unknown:
        yield _unknown(row, name, portions, dish)


def _weighed_twice(name: str, key: str, weighed: Sequence[float]) -> OpenPoint:
    *others, counts = (exact_weight(grams) for grams in weighed)
    return OpenPoint(
        title=f"{name}: weighed more than once",
        detail=f"It was {' and '.join(others)}, then {counts}. The later weight counts until you say which is right.",
        component=key,
    )


def _short(key: str, need: ComponentNeed) -> OpenPoint:
    why = "The pan was weighed" if need.part.weighed else "Its raw amounts are fixed and should give"
    mend = "free or lower a pin, or add to the pan and weigh again" if need.part.weighed else "raise a raw amount"
    return OpenPoint(
        title=f"{need.part.component.name}: {weight(-need.spare_g)} short",
        detail=f"{why} {weight(need.cooked_g)}; the containers take {weight(need.needed_g)}. To mend it, {mend}.",
        component=key,
    )


def _choice(row: int, name: str, each: ContainerClass, dish: Dish) -> Iterator[OpenPoint]:
    """Groups of which it is not said, or not possible, what goes in."""
    to_choose, takings, chosen = [], [], []
    for group in dish.open_groups(each):
        takes, members = dish.groups[group], dish.members(group)
        possible = [dish.parts[key].component.name for key in members if key not in each.left_out]
        if len(possible) < takes:
            yield OpenPoint(
                title=f"{name}: {group} not chosen",
                detail=f"These containers take {takes} of {group}, and only {', '.join(possible) or 'none'} may go in. "
                "Add a part to the group, or give them another dish.",
                row=row,
            )
            continue
        to_choose.append(group)
        takings.append(f"{takes} of {', '.join(possible)}")
        chosen += [dish.parts[key].component.name for key in members if key in each.chosen]
    if to_choose:
        has = f"It has {' and '.join(chosen)}. " if chosen else ""
        yield OpenPoint(
            title=f"{name}: {', '.join(to_choose)} not chosen",
            detail=f"{has}These containers take {'; '.join(takings)}. Choose, or let the choices be spread.",
            row=row,
        )
    barred = [dish.parts[key].component.name for key in dish.parts if key in each.chosen & each.left_out]
    if barred:
        yield OpenPoint(
            title=f"{name}: {' and '.join(barred)} is chosen, and must not go in",
            detail="It is left out, so nothing of that group is in the container. Choose another part of it.",
            row=row,
        )


def _missed(row: int, name: str, each: ContainerClass, portions: Portions, dish: Dish) -> OpenPoint:
    wanted = each.target
    off = {
        of: portions.holds(of) - ((wanted[of] if isinstance(of, Nutrient) else each.budget) or 0.0)
        for of, miss in portions.misses.items()
        if miss
    }
    names = [part.component.name for part in dish.parts.values()]
    held = [binding_words(binding, names) for binding in portions.bindings[:_MOST_LIMITS]]
    detail = "No mix of these components comes nearer. Change the target, or the recipe."
    if held:
        detail = f"What holds it: {'; '.join(held)}. Free or move one of these, or change the target."
    return OpenPoint(title=f"{name}: {', '.join(missed_words(off))}", detail=detail, row=row)


def _untold(row: int, name: str, components: Sequence[str]) -> OpenPoint:
    return OpenPoint(
        title=f"{name}: no target",
        detail=f"Nothing says how much {' and '.join(components)} goes in. Give these containers a target, pin the "
        "grams, or portion by equal split, plate shares, by eye or as units built raw.",
        row=row,
    )


def _overfull(row: int, name: str, each: ContainerClass, portions: Portions) -> OpenPoint:
    by_volume = portions.overfull_ml > 0
    fills = f"{portions.volume_ml:,.0f} ml" if by_volume else weight(math.fsum(portions.grams))
    holds = f"{each.capacity_ml:,.0f} ml" if by_volume else weight(each.capacity_g or 0)
    return OpenPoint(
        title=f"{name}: does not fit",
        detail=f"The pinned grams and least amounts fill about {fills} of a container for {holds}. Lower one, or "
        "give a larger container.",
        row=row,
    )


def _unknown(row: int, name: str, portions: Portions, dish: Dish) -> OpenPoint:
    """Figures that nobody can say to be met, and the foods that do not state them."""
    nouns = sorted(nutrient.noun for nutrient in portions.unknown)
    silent = sorted(
        {
            line.name
            for part, grams in zip(dish.parts.values(), portions.grams, strict=True)
            if grams
            for line in part.component.lines
            if portions.unknown & line.amounts.at_least
        }
    )
    return OpenPoint(
        title=f"{name}: {' and '.join(nouns)} not known",
        detail=f"No figure is stated for {', '.join(silent)}, so what the container holds is at least what is shown. "
        "Add the figure to the food, or leave the target open.",
        row=row,
    )


def _contradictions(
    plan: Plan, dishes: Mapping[str, Dish], classes: Sequence[ContainerClass], step_g: float
) -> Iterator[OpenPoint]:
    """Parts whose least and most leave no step of the scale between them, each once."""
    found = {
        (each.dish, keys[index]): None
        for each, keys, portions in zip(classes, plan.keys, plan.portions, strict=True)
        for index in portions.contradictions
    }
    for name, key in found:
        part = dishes[name].parts[key]
        yield OpenPoint(
            title=f"{part.component.name}: its least and its most leave nothing between",
            detail=f"No step of {exact_weight(step_g)} lies from {exact_weight(part.bounds.minimum_g)} to "
            f"{exact_weight(part.bounds.maximum_g or 0)} per container. Move one of them, or weigh to a finer step.",
            component=key,
        )
