"""Changes of what a batch has: dishes, parts, rows, choices, shared pots."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace

from sqlalchemy import select

from yantai.core.errors import CoreError
from yantai.core.planning.choices import Choice, Option, possible_choices, spread_choices
from yantai.core.planning.dishes import Dish
from yantai.core.planning.fit import missed
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import Portioning
from yantai.store import tables
from yantai.work.batches import plans
from yantai.work.batches.copying import CopiedDish, copied_component, copied_part, copy_recipe, own_copy
from yantai.work.batches.desk import Desk, find_row
from yantai.work.batches.inputs import (
    MOST_DISHES,
    AddDish,
    AddPart,
    AddRow,
    Change,
    CookApart,
    MergeRow,
    PutRows,
    RemoveDish,
    RemovePart,
    RemoveRow,
    SetChoice,
    SetContainers,
    SetDish,
    SharePot,
    SplitPot,
    SplitRow,
    SpreadChoices,
    UsePot,
)
from yantai.work.batches.plans import container_name
from yantai.work.batches.rows import new_row, targets_of
from yantai.work.batches.sharing import dishes_of, why_not_shared
from yantai.work.common.errors import Invalid, Missing, located
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.recipes import load_recipe
from yantai.work.recipes.steps import copied_steps


def add_dish(desk: Desk, change: AddDish) -> list[Change]:
    """Add a recipe to the batch, with components of its own."""
    if len(desk.batch.dishes) >= MOST_DISHES:
        raise Invalid.at(
            f"{desk.pointer}/recipe_id", f"A batch has {MOST_DISHES} dishes at most. Make another batch for this one."
        )
    recipe = load_recipe(desk.session, change.recipe_id)
    if not any(component.served for component in recipe.components):
        raise Invalid.at(f"{desk.pointer}/recipe_id", f"{recipe.name} has no components yet: add one to it first.")
    copied = copy_recipe(desk.session, desk.who, recipe, new_id=desk.new_id)
    _put_in(desk, copied)
    copied.dish.name = change.name.strip() or recipe.name
    targets = targets_of(desk.session, change.eaters, pointer=f"{desk.pointer}/eaters")
    for number, eater in enumerate(change.eaters):
        row = new_row(desk.who, targets[eater.target_id], copied.dish.id, _last(desk.batch.classes), eater.count)
        row.id = desk.new_id(f"row/{number}")
        desk.batch.classes.append(row)
    desk.session.flush()
    return [RemoveDish(dish_id=copied.dish.id)]


def _put_in(desk: Desk, copied: CopiedDish) -> None:
    """Put a dish with its components behind those that there are."""
    after = _last(desk.batch.components)
    for number, component in enumerate(copied.components):
        component.position = after + number
    copied.dish.position = _last(desk.batch.dishes)
    desk.batch.components.extend(copied.components)
    desk.batch.dishes.append(copied.dish)
    desk.session.flush()


def _last(rows: Sequence[tables.Component | tables.Dish | tables.ContainerClass | tables.Part]) -> int:
    """The position behind all of these."""
    return max((row.position for row in rows), default=-1) + 1


def set_dish(desk: Desk, change: SetDish) -> list[Change]:
    """Change the name of a dish, and its groups."""
    dish = desk.dish(change.dish_id)
    before = SetDish(dish_id=dish.id, name=dish.name, groups=dict(dish.groups))
    used = {part.portioning.group for part in dish.parts} - {None}
    gone = sorted(str(group) for group in used - set(change.groups))
    if gone:
        raise Invalid.at(
            f"{desk.pointer}/groups",
            f"Parts of {dish.name} are still in {' and '.join(gone)}: take them out of it first.",
        )
    dish.name, dish.groups = change.name, dict(change.groups)
    return [before]


def remove_dish(desk: Desk, change: RemoveDish) -> list[Change]:
    """Take a dish with its containers out of the batch, or put it back. What was weighed of it stays in the log."""
    dish = _of_batch(desk, tables.Dish, change.dish_id, "dish")
    if dish.removed == change.removed:
        raise Invalid.at(
            f"{desk.pointer}/dish_id", f"{dish.name} is {'out of' if dish.removed else 'in'} the batch already."
        )
    if change.removed and len(desk.batch.dishes) == 1:
        raise Invalid.at(
            f"{desk.pointer}/dish_id", "A batch has at least one dish. Add another one first, or delete the batch."
        )
    dish.removed = change.removed
    return [RemoveDish(dish_id=dish.id, removed=not change.removed)]


def add_part(desk: Desk, change: AddPart) -> list[Change]:
    """Add a component to a dish: a copy of a recipe's, or one that the batch cooks anyway."""
    dish = desk.dish(change.dish_id)
    if (change.recipe_component_id is None) == (change.component_id is None):
        raise Invalid.at(f"{desk.pointer}/component_id", "Say which component: one of a recipe, or one of this batch.")
    if change.component_id is not None:
        component = desk.cooked(change.component_id)
        like = next(part for each in desk.batch.dishes for part in each.parts if part.component_id == component.id)
        if any(part.component_id == component.id for part in dish.parts):
            raise Invalid.at(f"{desk.pointer}/component_id", f"{dish.name} has {component.name} already.")
        portioning, share_g = replace(like.portioning, group=None, takes_g=None), like.share_g
    else:
        component, portioning, share_g = _from_recipe(desk, change.recipe_component_id)
    part = _removed_part(desk, dish, component)
    if part is None:
        part = tables.Part(
            id=desk.new_id("part"),
            workspace_id=desk.who.workspace_id,
            component_id=component.id,
            share_g=share_g,
            portioning=portioning,
        )
        part.position, part.removed = _last(dish.parts), False
        dish.parts.append(part)
    else:
        part.position, part.removed = _last(dish.parts), False
    desk.session.flush()
    return [RemovePart(dish_id=dish.id, component_id=component.id)]


def _from_recipe(desk: Desk, key: uuid.UUID | None) -> tuple[tables.Component, Portioning, float]:
    source = desk.session.get(tables.Component, key)
    if source is None or source.recipe_id is None:
        raise Invalid.at(
            f"{desk.pointer}/recipe_component_id", "This component is in no recipe any more; choose another."
        )
    recipe = load_recipe(desk.session, source.recipe_id)
    larder = Larder.read(desk.session, recipe.components)
    original = find_row(recipe.components, source.id, "component")
    with located(desk.pointer):
        share_g = larder.component(original).expected_g
    component = copied_component(larder, desk.who, original)
    component.id, component.position = desk.new_id("component"), _last(desk.batch.components)
    for line in component.lines:
        line.id = desk.new_id(f"line/{line.position}")
    component.steps = copied_steps(desk.who, original.steps, desk.new_id)
    desk.batch.components.append(component)
    desk.session.flush()
    return component, replace(original.portioning, group=None), share_g


def _removed_part(desk: Desk, dish: tables.Dish, component: tables.Component) -> tables.Part | None:
    part = tables.Part
    query = select(part).where(part.dish_id == dish.id, part.component_id == component.id)
    return desk.session.scalar(query)


def remove_part(desk: Desk, change: RemovePart) -> list[Change]:
    """Take a component out of a dish, or put it back."""
    dish, component = desk.dish(change.dish_id), desk.component(change.component_id)
    part = _removed_part(desk, dish, component)
    if part is None or part.removed == change.removed:
        where = "in" if part is not None and not part.removed else "not in"
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} is {where} {dish.name}.")
    if change.removed and len(dish.parts) == 1:
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"Nothing would be left of {dish.name}. Take the dish out of the batch instead.",
        )
    if change.removed and desk.loaded.is_weighed(component) and len(dishes_of(desk.loaded, component)) == 1:
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is cooked and weighed. Take the weight back first, or leave it in and pin it at none.",
        )
    part.removed = change.removed
    return [RemovePart(dish_id=dish.id, component_id=component.id, removed=not change.removed)]


def add_row(desk: Desk, change: AddRow) -> list[Change]:
    """Add containers for a client's target to a dish."""
    dish = desk.dish(change.dish_id)
    targets = targets_of(desk.session, [change], pointer=f"{desk.pointer}/target_id")
    row = new_row(desk.who, targets[change.target_id], dish.id, _last(desk.batch.classes), change.count)
    row.id = desk.new_id("row")
    desk.batch.classes.append(row)
    desk.session.flush()
    return [RemoveRow(row_id=row.id)]


def remove_row(desk: Desk, change: RemoveRow) -> list[Change]:
    """Take containers out of the batch, or put them back with the pins they had."""
    row = _of_batch(desk, tables.ContainerClass, change.row_id, "containers")
    if row.removed == change.removed:
        raise Invalid.at(f"{desk.pointer}/row_id", f"These are {'out of' if row.removed else 'in'} the batch already.")
    if not change.removed and row.dish_id not in desk.loaded.dishes:
        raise Invalid.at(f"{desk.pointer}/row_id", "Their dish is out of the batch. Put that back first.")
    row.removed = change.removed
    return [RemoveRow(row_id=row.id, removed=not change.removed)]


def split_row(desk: Desk, change: SplitRow) -> list[Change]:
    """Make a line of its own of some containers of a row."""
    row = desk.row(change.row_id)
    if change.count >= row.count:
        raise Invalid.at(
            f"{desk.pointer}/count",
            f"{container_name(row)} has {row.count}: a line of its own takes 1 to {max(row.count - 1, 1)} of them.",
        )
    split = _split(desk, row, change.count, "row")
    desk.session.flush()
    return [MergeRow(row_id=split.id, into_row_id=row.id)]


def _split(desk: Desk, row: tables.ContainerClass, count: int, what: str) -> tables.ContainerClass:
    fields = (
        "client_id",
        "dish_id",
        "slot",
        "day_type",
        "capacity_ml",
        "capacity_g",
        "plate_g",
        "rank",
        "helping",
        "figures",
    )
    split = tables.ContainerClass(
        id=desk.new_id(what),
        workspace_id=desk.who.workspace_id,
        count=count,
        position=_after(desk, row),
        chosen=list(row.chosen),
        taken=row.taken,
        removed=False,
        **{field: getattr(row, field) for field in fields},
    )
    split.pins = [
        tables.Pin(workspace_id=desk.who.workspace_id, component_id=pin.component_id, grams=pin.grams)
        for pin in row.pins
    ]
    row.count -= count
    desk.batch.classes.append(split)
    return split


def _after(desk: Desk, row: tables.ContainerClass) -> int:
    """The place behind a row: those that stand further down make room."""
    for other in desk.batch.classes:
        if other.position > row.position:
            other.position += 1
    return row.position + 1


def merge_row(desk: Desk, change: MergeRow) -> list[Change]:
    """Count the containers of a row among those of another one; what was said of the first alone ends."""
    row, into = desk.row(change.row_id), desk.row(change.into_row_id)
    same = (row.client_id, row.dish_id, row.slot, row.day_type) == (
        into.client_id,
        into.dish_id,
        into.slot,
        into.day_type,
    )
    if row is into or not same:
        raise Invalid.at(
            f"{desk.pointer}/into_row_id",
            "Only lines of the same client, meal, kind of day and dish can be put together: these differ.",
        )
    before = _containers(into)
    into.count += row.count
    if into.count > 100:
        raise Invalid.at(
            f"{desk.pointer}/into_row_id", f"One line has 100 containers at most; this would have {into.count}."
        )
    row.removed = True
    return [before, RemoveRow(row_id=row.id, removed=False)]


def _containers(row: tables.ContainerClass) -> SetContainers:
    return SetContainers(
        row_id=row.id,
        count=row.count,
        capacity_ml=row.capacity_ml,
        capacity_g=row.capacity_g,
        plate_g=row.plate_g,
        rank=row.rank,
        helping=row.helping,
    )


def set_choice(desk: Desk, change: SetChoice) -> list[Change]:
    """Say what the containers of a row take of the groups of their dish."""
    row = desk.row(change.row_id)
    dish = desk.dish(row.dish_id)
    before = SetChoice(row_id=row.id, chosen=[uuid.UUID(key) for key in row.chosen])
    grouped = {part.component_id: part.portioning.group for part in dish.parts if part.portioning.group}
    strange = [key for key in change.chosen if key not in grouped]
    if strange:
        raise Invalid.at(
            f"{desk.pointer}/chosen", f"{dish.name} has no such part to choose. Reload the page for the newest plan."
        )
    for group, takes in dish.groups.items():
        chosen = [key for key in set(change.chosen) if grouped[key] == group]
        if len(chosen) > takes:
            raise Invalid.at(
                f"{desk.pointer}/chosen",
                f"A container takes {takes} of {group}; {len(chosen)} are chosen. Leave some out.",
            )
    kept = desk.loaded.kept_out(row.client, dish)
    barred = [desk.component(key).name for key in change.chosen if kept.get(str(key))]
    if barred:
        raise Invalid.at(
            f"{desk.pointer}/chosen",
            f"{row.client.name} must not have {' and '.join(barred)}. Choose another part of the group.",
        )
    row.chosen = [str(key) for key in dict.fromkeys(change.chosen)]
    return [before]


def spread(desk: Desk, change: SpreadChoices) -> list[Change]:
    """Choose for the containers of a dish; rows whose containers get different choices fall into lines."""
    row_of = desk.dish(change.dish_id)
    dish = plans.core_dishes(desk.loaded)[str(row_of.id)]
    if not dish.groups:
        raise Invalid.at(f"{desk.pointer}/dish_id", f"{dish.name} has no groups, so there is nothing to choose.")
    rows = [row for row in desk.batch.classes if row.dish_id == row_of.id and row.count]
    if change.client_id is not None:
        rows = [row for row in rows if row.client_id == change.client_id]
    if not rows:
        raise Invalid.at(f"{desk.pointer}/client_id", f"No containers of {dish.name} are planned for this client.")
    inverse: list[Change] = []
    for client_id in dict.fromkeys(row.client_id for row in rows):
        own = [row for row in rows if row.client_id == client_id]
        options = [_options(desk, dish, row) for row in own]
        each = [of_row for row, of_row in zip(own, options, strict=True) for _ in range(row.count)]
        with located(f"{desk.pointer}/dish_id"):
            chosen = spread_choices(each, same=change.same)
        for row in own:
            inverse = _choose(desk, row, [chosen.pop(0) for _ in range(row.count)]) + inverse
    desk.session.flush()
    return inverse


def _options(desk: Desk, dish: Dish, row: tables.ContainerClass) -> list[Option]:
    """What a container of a row could take, how near to its target that comes, and how much of it is not liked."""
    each = plans.core_class(desk.loaded, row)
    unloved = {key for key, why in desk.loaded.disliked(row.client, desk.dish(row.dish_id)).items() if why}
    try:
        choices = possible_choices(dish, each.left_out)
        tried = [replace(each, count=1, chosen=chosen) for chosen in choices]
        answers = plan({str(row.dish_id): dish}, tried, step_g=desk.batch.step_g).portions if tried else ()
    except CoreError as error:
        raise Invalid.at(f"{desk.pointer}/dish_id", str(error)) from error
    if not choices:
        raise Invalid.at(
            f"{desk.pointer}/dish_id",
            f"{container_name(row)}: too few parts of a group may go in. Add one to it, or give them another dish.",
        )
    return [
        Option(chosen=one.chosen, missed=missed(one, answer), disliked=len(one.chosen & unloved))
        for one, answer in zip(tried, answers, strict=True)
    ]


def _choose(desk: Desk, row: tables.ContainerClass, chosen: Sequence[Choice]) -> list[Change]:
    """Give the containers of a row their choices: the row takes the first, lines of its own the others."""
    counts = {choice: chosen.count(choice) for choice in dict.fromkeys(chosen)}
    first, *others = counts
    inverse: list[Change] = [SetChoice(row_id=row.id, chosen=[uuid.UUID(key) for key in row.chosen])]
    after = row
    for number, choice in enumerate(others):
        split = _split(desk, row, counts[choice], f"row/{row.id}/{number}")
        split.position = after.position + 1 if number else split.position
        split.chosen = _in_order(desk, row, choice)
        inverse = [MergeRow(row_id=split.id, into_row_id=row.id), *inverse]
    row.chosen = _in_order(desk, row, first)
    return inverse


def _in_order(desk: Desk, row: tables.ContainerClass, choice: Choice) -> list[str]:
    return [str(part.component_id) for part in desk.dish(row.dish_id).parts if str(part.component_id) in choice]


def share_pot(desk: Desk, change: SharePot) -> list[Change]:
    """Cook one component in the pot of another one that is made of the same."""
    component, kept = desk.cooked(change.component_id), desk.cooked(change.with_component_id)
    why = why_not_shared(desk.loaded, component, kept)
    mine, theirs = dishes_of(desk.loaded, component), dishes_of(desk.loaded, kept)
    if component is kept or {dish.id for dish in mine} & {dish.id for dish in theirs}:
        why = "one dish has both"
    if why:
        raise Invalid.at(
            f"{desk.pointer}/with_component_id",
            f"{component.name} and {kept.name} cannot be cooked in one pot: {why}. Make them the same, or cook both.",
        )
    return use_pot(
        desk, UsePot(component_id=component.id, with_component_id=kept.id, dish_ids=[dish.id for dish in mine])
    )


def use_pot(desk: Desk, change: UsePot) -> list[Change]:
    """Let dishes take a component from another pot of the batch; their pins of it go along."""
    component, other = desk.component(change.component_id), desk.component(change.with_component_id)
    for dish_id in change.dish_ids:
        dish = desk.dish(dish_id)
        part = desk.part(component.id, dish.id)
        if any(each.component_id == other.id for each in dish.parts):
            raise Invalid.at(f"{desk.pointer}/dish_ids", f"{dish.name} has {other.name} already.")
        part.component_id = other.id
        for row in desk.batch.classes:
            if row.dish_id != dish.id:
                continue
            row.chosen = [str(other.id) if key == str(component.id) else key for key in row.chosen]
            for pin in row.pins:
                if pin.component_id == component.id:
                    pin.component_id = other.id
    desk.session.flush()
    return [UsePot(component_id=other.id, with_component_id=component.id, dish_ids=change.dish_ids)]


def split_pot(desk: Desk, change: SplitPot) -> list[Change]:
    """Give a dish a pot of its own of a component that several dishes share."""
    component, dish = desk.cooked(change.component_id), desk.dish(change.dish_id)
    desk.part(component.id, dish.id)
    if len(dishes_of(desk.loaded, component)) < 2:
        raise Invalid.at(
            f"{desk.pointer}/component_id", f"Only {dish.name} has {component.name}, so its pot is its own."
        )
    if desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is cooked in one pot and weighed. Take the weight back first.",
        )
    own = _own_copy(desk, component)
    return use_pot(desk, UsePot(component_id=component.id, with_component_id=own.id, dish_ids=[dish.id]))


def _own_copy(desk: Desk, component: tables.Component) -> tables.Component:
    own = own_copy(desk.who, component, desk.new_id)
    own.position = _last(desk.batch.components)
    desk.batch.components.append(own)
    desk.session.flush()
    return own


def cook_apart(desk: Desk, change: CookApart) -> list[Change]:
    """Cook a component apart for some rows: they get a dish of their own that shares all other pots."""
    component, rows = desk.cooked(change.component_id), [desk.row(row_id) for row_id in change.row_ids]
    dish = desk.dish(rows[0].dish_id)
    if any(row.dish_id != dish.id for row in rows):
        raise Invalid.at(
            f"{desk.pointer}/row_ids",
            "These containers are of different dishes. Cook apart for one dish after the other.",
        )
    desk.part(component.id, dish.id)
    if desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is cooked and weighed already. Take the weight back first.",
        )
    own = _own_copy(desk, component)
    # First in the order of work: before anything that could touch it.
    own.position = min(each.position for each in desk.batch.components) - 1
    names = " and ".join(dict.fromkeys(row.client.name for row in rows))
    own.name = f"{component.name} for {names}"
    apart = tables.Dish(
        id=desk.new_id("dish"),
        workspace_id=desk.who.workspace_id,
        position=dish.position,
        name=f"{dish.name} for {names}",
        recipe_id=dish.recipe_id,
        recipe_version=dish.recipe_version,
        groups=dict(dish.groups),
        removed=False,
        parts=[copied_part(desk.who, part, desk.new_id(f"part/{part.component_id}")) for part in dish.parts],
    )
    for each in desk.batch.dishes:
        if each.position >= dish.position:
            each.position += 1
    desk.batch.dishes.append(apart)
    desk.session.flush()
    inverse = put_rows(desk, PutRows(row_ids=change.row_ids, dish_id=apart.id))
    back = use_pot(desk, UsePot(component_id=component.id, with_component_id=own.id, dish_ids=[apart.id]))
    return [*back, *inverse, RemoveDish(dish_id=apart.id)]


def put_rows(desk: Desk, change: PutRows) -> list[Change]:
    """Give rows another dish of the batch; pins and choices stay where it has the same components."""
    rows, dish = [desk.row(row_id) for row_id in change.row_ids], desk.dish(change.dish_id)
    before = {row.dish_id for row in rows}
    if len(before) != 1:
        raise Invalid.at(
            f"{desk.pointer}/row_ids", "These containers are of different dishes. Move one dish after the other."
        )
    for row in rows:
        row.dish_id = dish.id
    desk.session.flush()
    return [PutRows(row_ids=change.row_ids, dish_id=before.pop())]


def _of_batch(desk: Desk, kind: type, key: uuid.UUID, what: str):  # type: ignore[no-untyped-def]
    """A row of the batch, also one that is out of it."""
    found = desk.session.get(kind, key)
    if found is None or found.batch_id != desk.batch.id:
        raise Missing(f"This batch has no such {what}. Reload the page for the newest plan.")
    return found
