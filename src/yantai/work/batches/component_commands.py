"""Changes of the components of a batch: schools, bounds, raw amounts, weights, lines, what stands in their place."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import asdict, replace
from typing import cast

from yantai.core.cooking.components import Component
from yantai.core.cooking.doubts import Doubt, believed_g
from yantai.core.cooking.scaling import factor_for_packs
from yantai.core.cooking.weighing import VesselWeight, impossible, net_weight_g
from yantai.core.planning.portioning import Portioning, School
from yantai.core.quantities.units import weighable_g
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.batches import plans
from yantai.work.batches.desk import Desk, find_row, food_of
from yantai.work.batches.inputs import (
    MOST_PARTS,
    AddLine,
    Change,
    RawAmount,
    RemoveLine,
    SetAside,
    SetBounds,
    SetComponent,
    SetLine,
    SetPacks,
    SetPlace,
    SetPot,
    SetPoured,
    SetRaw,
    SetSchool,
    SetSteps,
    SetWeighedParts,
    Vessel,
    Weigh,
    WeighPart,
    Withdraw,
)
from yantai.work.batches.loading import Loaded
from yantai.work.batches.sharing import dishes_of
from yantai.work.batches.views import WeighingView
from yantai.work.common.errors import Collector, Doubtful, Fault, Invalid, Mend, located
from yantai.work.recipes.checks import check_step
from yantai.work.recipes.inputs import ComponentInput, LineInput, StepInput
from yantai.work.recipes.steps import step_inputs, step_rows


def set_school(desk: Desk, change: SetSchool) -> list[Change]:
    """Change how a component gets into the containers of a dish."""
    part = desk.part(change.component_id, change.dish_id)
    component, was = desk.component(change.component_id), part.portioning
    before = SetSchool(
        component_id=component.id,
        dish_id=part.dish_id,
        school=was.school,
        unit_g=was.unit_g,
        unit_part=was.unit_part,
        plate_share=was.plate_share,
        eye_g=was.eye_g,
        pieces=component.pieces,
    )
    if change.school is School.BUILT_RAW and len(dishes_of(desk.loaded, component)) > 1:
        raise Invalid.at(
            f"{desk.pointer}/school",
            f"{component.name} is cooked in one pot for several dishes, so it cannot be built raw for one of them. "
            "Give this dish a pot of its own first.",
        )
    part.portioning = replace(
        was,
        school=change.school,
        unit_g=change.unit_g,
        unit_part=change.unit_part,
        plate_share=change.plate_share,
        eye_g=change.eye_g,
    )
    component.pieces = change.pieces
    with located(desk.pointer):
        plans.core_part(desk.loaded, part)
    return [before]


def set_bounds(desk: Desk, change: SetBounds) -> list[Change]:
    """Change the least and the most of a component per container of a dish."""
    part = desk.part(change.component_id, change.dish_id)
    before = SetBounds(
        component_id=change.component_id,
        dish_id=part.dish_id,
        minimum_g=part.portioning.minimum_g,
        maximum_g=part.portioning.maximum_g,
    )
    with located(desk.pointer):
        part.portioning = replace(part.portioning, minimum_g=change.minimum_g, maximum_g=change.maximum_g)
    return [before]


def set_place(desk: Desk, change: SetPlace) -> list[Change]:
    """Change where a component of a dish goes, its group, and what is set aside of its pot."""
    part = desk.part(change.component_id, change.dish_id)
    dish, was = desk.dish(part.dish_id), part.portioning
    if change.group is not None and change.group not in dish.groups:
        raise Invalid.at(
            f"{desk.pointer}/group",
            f"{dish.name} has no group “{change.group}”: say first how many of it a container takes.",
        )
    before = SetPlace(
        component_id=change.component_id,
        dish_id=part.dish_id,
        place=was.place,
        tub_ml=was.tub_ml,
        takes_g=was.takes_g,
        group=was.group,
    )
    part.portioning = replace(was, place=change.place, tub_ml=change.tub_ml, takes_g=change.takes_g, group=change.group)
    with located(desk.pointer):
        plans.core_part(desk.loaded, part)
    return [before]


def set_pot(desk: Desk, change: SetPot) -> list[Change]:
    """Change what holds for a component in all its dishes."""
    component = desk.component(change.component_id)
    before = SetPot(
        component_id=component.id,
        packed_raw=component.packed_raw,
        kit_text=component.kit_text,
        whole_pans=component.whole_pans,
    )
    if change.packed_raw != component.packed_raw and desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/packed_raw",
            f"{component.name} is weighed {'raw' if component.packed_raw else 'cooked'}. Take the weight back first.",
        )
    component.packed_raw, component.kit_text = change.packed_raw, change.kit_text.strip()
    component.whole_pans = change.whole_pans
    return [before]


def set_aside(desk: Desk, change: SetAside) -> list[Change]:
    """Take a component out of the day's plan, or back into it; nothing of it is lost."""
    component = desk.component(change.component_id)
    before = SetAside(component_id=component.id, aside=component.aside)
    if change.aside and desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is cooked and weighed, so it is in the plan. Take the weight back first.",
        )
    component.aside = change.aside
    left = [dish.name for dish in desk.batch.dishes if dish.parts and all(_is_aside(desk, part) for part in dish.parts)]
    if change.aside and left:
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"Nothing would be left of {' and '.join(left)}. Take the dish out of the batch instead.",
        )
    return [before]


def _is_aside(desk: Desk, part: tables.Part) -> bool:
    return desk.component(part.component_id).aside


def set_raw(desk: Desk, change: SetRaw) -> list[Change]:
    """Fix raw amounts, or let them follow the need again."""
    component = desk.cooked(change.component_id)
    if not change.fixed and desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/fixed",
            f"{component.name} is weighed: its raw amounts are what went into the pan. Take the weight back first.",
        )
    before = _raw_state(component)
    if change.fixed:
        _fix_raw(desk, component)
    component.raw_fixed = change.fixed
    for number, amount in enumerate(change.lines):
        line = find_row(component.lines, amount.line_id, "ingredient")
        if not 0 <= amount.purchased_g <= 1_000_000:
            raise Invalid.at(
                f"{desk.pointer}/lines/{number}/purchased_g",
                f"{weight(amount.purchased_g)}; give from 0 to {weight(1_000_000)}.",
            )
        line.purchased_g = amount.purchased_g
    with located(desk.pointer):
        desk.loaded.larder.component(component)
    return [before]


def set_packs(desk: Desk, change: SetPacks) -> list[Change]:
    """Fix the raw amounts so that one ingredient takes whole packs."""
    component = desk.cooked(change.component_id)
    if desk.loaded.is_weighed(component):
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} is weighed: it is cooked already.")
    before = _raw_state(component)
    index = component.lines.index(find_row(component.lines, change.line_id, "ingredient"))
    sized = plans.compute(desk.loaded).need(component).lines
    if not sized[index].purchased_g:
        raise Invalid.at(f"{desk.pointer}/line_id", f"The plan needs none of {component.name} yet.")
    with located(desk.pointer):
        factor, _ = factor_for_packs(sized[index].purchased_g, change.pack_g, packs=change.packs)
    for line, now in zip(component.lines, sized, strict=True):
        line.purchased_g = now.purchased_g * factor
    component.raw_fixed = True
    return [before]


def _raw_state(component: tables.Component) -> SetRaw:
    lines = [RawAmount(line_id=line.id, purchased_g=line.purchased_g) for line in component.lines]
    return SetRaw(component_id=component.id, fixed=component.raw_fixed, lines=lines)


def _fix_raw(desk: Desk, component: tables.Component) -> None:
    """Write the amounts the plan shows now into the component, so that they no longer follow the need."""
    if component.raw_fixed:
        return
    need = plans.compute(desk.loaded).need(component)
    if need.cooked_g:
        for line, sized in zip(component.lines, need.lines, strict=True):
            line.purchased_g = weighable_g(sized.purchased_g)
    component.raw_fixed = True


def weigh(desk: Desk, change: Weigh) -> list[Change]:
    """Record a cooked weight; an unlikely one has to be confirmed."""
    component = desk.cooked(change.component_id)
    before = desk.loaded.weighings.get(component.id)
    raw_before, parts_before = _raw_state(component), _weighed_parts(component)
    given = [*parts_before.vessels, *change.vessels] if change.with_parts else change.vessels
    vessels = []
    for number, vessel in enumerate(given, len(change.vessels) - len(given)):
        # Of the parts before those that were typed a fault is told at the first of these.
        with located(f"{desk.pointer}/vessels/{max(number, 0)}"):
            vessels.append(VesselWeight(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g))
    with located(desk.pointer):
        cooked = net_weight_g(vessels, change.removed_g)
    _fix_raw(desk, component)
    with located(desk.pointer):
        part = plans.pot_of(desk.loaded, component)
    _refuse_unlikely(desk, component, part, vessels, cooked, change.removed_g)
    _record(desk, component, change.model_copy(update={"vessels": list(given)}), cooked, part)
    component.weighed_parts = []
    again = [parts_before] if parts_before.vessels else []
    if before is None:
        return [Withdraw(component_id=component.id), *again, raw_before]
    return [*_as_before(component, before), *again]


def weigh_part(desk: Desk, change: WeighPart) -> list[Change]:
    """Note what of a pot is on the scale while the rest is still to come. The pot is not weighed by it."""
    component = desk.cooked(change.component_id)
    before, raw_before = _weighed_parts(component), _raw_state(component)
    with located(f"{desk.pointer}/vessel"):
        VesselWeight(gross_g=change.vessel.gross_g, vessel_g=change.vessel.vessel_g)
    if len(before.vessels) >= MOST_PARTS:
        raise Invalid.at(
            f"{desk.pointer}/vessel", f"{component.name} is on record in {MOST_PARTS} parts. Weigh it whole."
        )
    _fix_raw(desk, component)
    component.weighed_parts = [*component.weighed_parts, change.vessel.model_dump(mode="json")]
    return [before, raw_before]


def set_weighed_parts(desk: Desk, change: SetWeighedParts) -> list[Change]:
    """Say which parts of a pot were weighed so far."""
    component = desk.cooked(change.component_id)
    before = _weighed_parts(component)
    for number, vessel in enumerate(change.vessels):
        with located(f"{desk.pointer}/vessels/{number}"):
            VesselWeight(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g)
    component.weighed_parts = [vessel.model_dump(mode="json") for vessel in change.vessels]
    return [before]


def _weighed_parts(component: tables.Component) -> SetWeighedParts:
    vessels = [Vessel(**vessel) for vessel in component.weighed_parts]
    return SetWeighedParts(component_id=component.id, vessels=vessels)


def _as_before(component: tables.Component, before: WeighingView) -> list[Change]:
    """The weighing that counted until now, and those nobody had chosen between, as changes that bring them back."""
    return [
        Weigh(
            component_id=component.id,
            vessels=[Vessel(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g) for vessel in reading.vessels],
            removed_g=reading.removed_g,
            corrects=number == 0,
        )
        for number, reading in enumerate([*before.others, before])
    ]


def _refuse_unlikely(
    desk: Desk,
    component: tables.Component,
    part: Component,
    vessels: Sequence[VesselWeight],
    cooked_g: float,
    removed_g: float,
) -> None:
    if desk.confirmed:
        why = impossible(part, cooked_g)
        if why:
            raise Invalid.at(f"{desk.pointer}/vessels/0/gross_g", why)
        return
    why = impossible(part, cooked_g)
    found = plans.weighing_doubt(desk.loaded, component, vessels, removed_g)
    causes = [] if found is None else found.causes
    mends = [
        Mend(cause.words, [{"gross_g": vessel.gross_g, "vessel_g": vessel.vessel_g} for vessel in cause.vessels])
        for cause in causes
        if cause.vessels is not None
    ]
    if why:
        raise Invalid(why, [Fault(f"{desk.pointer}/vessels/0/gross_g", why)], mends)
    if found is not None:
        raise Doubtful(_doubt_words(part, cooked_g, found), mends=mends)


def _doubt_words(part: Component, cooked_g: float, found: Doubt) -> str:
    """Why a weight is questioned, with the likeliest causes that nobody can undo but the cook."""
    untold = " ".join(cause.words for cause in found.causes[:_MOST_UNTOLD] if cause.vessels is None)
    low, high = believed_g(part)
    expected = f"the {weight(low)} to {weight(high)} expected of {weight(part.basis_g)} raw"
    where = "is outside" if found.outside else "is inside"
    but = "It may be:" if found.outside else "but something else explains it better:"
    told = f"{but} {untold or found.causes[0].words}"
    between = ". " if found.outside else ", "
    return f"{weight(cooked_g)} {where} {expected}{between}{told} If it is right, record it anyway."


def _record(
    desk: Desk,
    component: tables.Component,
    change: Weigh | Withdraw,
    cooked_g: float | None,
    part: Component | None,
) -> None:
    """Add a row to the log, with what the history of yields needs to know of this pan."""
    main = desk.loaded.larder.main_food(component)
    weighed = change if isinstance(change, Weigh) else None
    desk.session.add(
        tables.Weighing(
            workspace_id=desk.who.workspace_id,
            batch_id=desk.batch.id,
            component_id=component.id,
            account_id=desk.who.account_id,
            weighed_by="" if desk.who.rights is None else desk.who.name,
            weighed_at=desk.happened_at,
            cooked_g=cooked_g,
            vessels=[{"gross_g": vessel.gross_g, "vessel_g": vessel.vessel_g} for vessel in weighed.vessels]
            if weighed
            else [],
            removed_g=weighed.removed_g if weighed else 0.0,
            corrects=weighed is not None and weighed.corrects,
            # What is packed raw tells nothing of how it cooks.
            yield_factor=None if part is None or cooked_g is None or component.packed_raw else cooked_g / part.basis_g,
            food_id=None if main is None else main.superseded_by or main.id,
            method=component.method,
            recipe_component_id=component.recipe_component_id,
        )
    )


def withdraw(desk: Desk, change: Withdraw) -> list[Change]:
    """Take a cooked weight back."""
    component = desk.component(change.component_id)
    before = desk.loaded.weighings.get(component.id)
    if before is None:
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} has no weight to take back.")
    _record(desk, component, change, None, None)
    return _as_before(component, before)


def add_line(desk: Desk, change: AddLine) -> list[Change]:
    """Log an ingredient that was added at the stove."""
    component = desk.cooked(change.component_id)
    food = food_of(desk, change.food_id)
    raw_before = _raw_state(component)
    _fix_raw(desk, component)
    line = tables.Line(
        id=desk.new_id("line"),
        workspace_id=desk.who.workspace_id,
        position=len(component.lines),
        food_id=food.id,
        purchased_g=change.purchased_g,
        refuse_share=0,
        retained_share=1,
        added_at=desk.happened_at,
        added_by=desk.who.name,
    )
    component.lines.append(line)
    return [RemoveLine(component_id=component.id, line_id=line.id), raw_before]


def set_line(desk: Desk, change: SetLine) -> list[Change]:
    """Change the amount or the food of a line that is not in the pan yet."""
    component = desk.cooked(change.component_id)
    line = find_row(component.lines, change.line_id, "ingredient")
    if component.raw_fixed or line.food_id is None:
        raise Invalid.at(
            f"{desk.pointer}/line_id",
            f"{component.name} is in the pan already, or its raw amounts are fixed: add to it at the stove instead.",
        )
    before = SetLine(component_id=component.id, line_id=line.id, food_id=line.food_id, purchased_g=line.purchased_g)
    with located(desk.pointer):
        was_g = desk.loaded.larder.component(component).expected_g
        line.food_id, line.purchased_g = food_of(desk, change.food_id).id, change.purchased_g
        larder = desk.loaded.with_foods(desk.session).larder
        now_g = larder.component(component).expected_g
    # More of a component in the recipe is more of it on the plate.
    for part in parts_of(desk.loaded, component):
        part.share_g = part.share_g * now_g / was_g
    return [before]


def set_component(desk: Desk, change: SetComponent) -> list[Change]:
    """Put another component in the place of one that is not in the pan yet."""
    component, replacement = desk.cooked(change.component_id), change.component
    if component.raw_fixed or desk.loaded.is_weighed(component):
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is in the pan already, or its raw amounts are fixed: it stays what it is.",
        )
    if (
        len(change.line_ids) != len(replacement.lines)
        or any(line.source_id for line in replacement.lines)
        or not replacement.lines
    ):
        raise Invalid.at(f"{desk.pointer}/line_ids", "A component of a batch has foods, each line with an id.")
    parts = parts_of(desk.loaded, component)
    if len(parts) != 1:
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is cooked in one pot for several dishes. Give this dish a pot of its own first.",
        )
    before = component_change(component, parts[0].portioning)
    for name in POT_FIELDS:
        setattr(component, name, getattr(replacement, name))
    with located(desk.pointer):
        # Which group it is one of, and what is set aside, are the dish's and not the component's.
        parts[0].portioning = replace(
            replacement.portioning, group=parts[0].portioning.group, takes_g=parts[0].portioning.takes_g
        )
    component.recipe_component_id = change.recipe_component_id
    component.lines = [
        tables.Line(
            id=line_id,
            workspace_id=desk.who.workspace_id,
            position=position,
            food_id=food_of(desk, cast(uuid.UUID, line.food_id)).id,
            **{name: getattr(line, name) for name in LINE_FIELDS},
        )
        for position, (line_id, line) in enumerate(zip(change.line_ids, replacement.lines, strict=True))
    ]
    component.steps = _steps(desk, component, change.steps)
    return [before]


def set_steps(desk: Desk, change: SetSteps) -> list[Change]:
    """Say how a component is made."""
    component = desk.component(change.component_id)
    faults, known = Collector(), {step.id for step in change.steps if step.id is not None}
    for index, step in enumerate(change.steps):
        check_step(faults, f"{desk.pointer}/steps/{index}", step, known)
    faults.check()
    before = SetSteps(component_id=component.id, steps=step_inputs(component.steps))
    component.steps = _steps(desk, component, change.steps)
    return [before]


def _steps(desk: Desk, component: tables.Component, steps: Sequence[StepInput]) -> list[tables.Step]:
    """Rows of steps, by the ids that they are sent with: a log that is replayed makes the same ones."""
    known = {step.id: step for step in component.steps}
    named = [
        step if step.id is not None else step.model_copy(update={"id": desk.new_id(f"step/{component.id}/{number}")})
        for number, step in enumerate(steps)
    ]
    return step_rows(desk.who, named, {component.id: component.name}, known)


def parts_of(loaded: Loaded, component: tables.Component) -> list[tables.Part]:
    """A component as each of its dishes has it."""
    return [part for dish in loaded.batch.dishes for part in dish.parts if part.component_id == component.id]


_MOST_UNTOLD = 4

POT_FIELDS = (
    "name", "role", "method", "density_g_per_ml", "yield_low", "yield_expected",
    "yield_high", "poured_fat_g", "pieces", "pan_capacity_g", "lid", "cook_min",
    "packed_raw", "kit_text", "whole_pans",
)  # fmt: skip
"""What a component is, apart from its lines, how it is portioned and where it comes from."""

LINE_FIELDS = (
    "purchased_g", "refuse_share", "refuse_after", "retained_share", "yield_factor", "text", "weighed_state", "counted",
    "scales", "unfolded", "dismissed",
)  # fmt: skip


def component_change(
    component: tables.Component,
    portioning: Portioning,
    *,
    into: uuid.UUID | None = None,
    recipe_component_id: uuid.UUID | None = None,
) -> SetComponent:
    """The change that puts this component, as it is, into the place of `into`, or of itself."""
    return SetComponent(
        component_id=into or component.id,
        component=ComponentInput(
            **{name: getattr(component, name) for name in POT_FIELDS},
            **{name: value for name, value in asdict(portioning).items() if name != "takes_g"},
            lines=[
                LineInput(
                    food_id=line.food_id,
                    **{name: getattr(line, name) for name in LINE_FIELDS if getattr(line, name) is not None},
                )
                for line in component.lines
            ],
        ),
        steps=step_inputs(component.steps),
        line_ids=[line.id or uuid.uuid4() for line in component.lines],
        recipe_component_id=recipe_component_id or component.recipe_component_id,
    )


def remove_line(desk: Desk, change: RemoveLine) -> list[Change]:
    """Take out what was added at the stove."""
    component = desk.component(change.component_id)
    line = find_row(component.lines, change.line_id, "ingredient")
    if line.added_at is None or line.food_id is None:
        raise Invalid.at(
            f"{desk.pointer}/line_id",
            "Only what was added at the stove can be taken out here; change the recipe for the rest.",
        )
    component.lines = [other for other in component.lines if other is not line]
    return [AddLine(component_id=component.id, food_id=line.food_id, purchased_g=line.purchased_g)]


def set_poured(desk: Desk, change: SetPoured) -> list[Change]:
    """Record the fat that was poured off."""
    component = desk.cooked(change.component_id)
    raw_before, before = _raw_state(component), component.poured_fat_g
    _fix_raw(desk, component)
    component.poured_fat_g = change.poured_fat_g
    with located(desk.pointer):
        desk.loaded.larder.component(component)
    return [SetPoured(component_id=component.id, poured_fat_g=before), raw_before]
