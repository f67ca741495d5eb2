"""The plan of a batch: rows to the core's question, and its answer."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from sqlalchemy.orm import Session

from yantai.core.cooking.components import Component
from yantai.core.cooking.doubts import Doubt, doubt
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.foods.nutrients import Amounts, total
from yantai.core.planning import dishes as core
from yantai.core.planning.plan import ComponentNeed, Plan, plan
from yantai.core.portions import Portions
from yantai.core.targets.targets import Target
from yantai.store import tables
from yantai.work.batches import loading
from yantai.work.batches.loading import (
    Loaded,
)
from yantai.work.common.errors import Closed, located
from yantai.work.pantry.market import Market
from yantai.work.recipes.parts import part_of


@dataclass(frozen=True, kw_only=True)
class Computed:
    """The same with the core's answer."""

    loaded: Loaded
    dishes: dict[str, core.Dish]
    classes: tuple[core.ContainerClass, ...]
    plan: Plan

    def need(self, component: tables.Component) -> ComponentNeed:
        """The chain of one component."""
        return self.plan.needs[str(component.id)]

    def part(self, dish: uuid.UUID, component: uuid.UUID) -> core.Part:
        """A component as one dish has it."""
        return self.dishes[str(dish)].parts[str(component)]

    @property
    def components(self) -> list[tables.Component]:
        """The components that are in the day's plan, in order."""
        return [component for component in self.loaded.batch.components if str(component.id) in self.plan.needs]


def compute(loaded: Loaded) -> Computed:
    """Run the core on a batch.

    Raises:
        Invalid: a value of the batch is out of range.
    """
    dishes, classes = core_dishes(loaded), core_classes(loaded)
    with located(""):
        if loaded.market is not None:
            dishes = priced(loaded.batch, dishes, classes, loaded.market)
        answer = solve_batch(loaded.batch, dishes, classes)
    return Computed(loaded=loaded, dishes=dishes, classes=classes, plan=answer)


def priced(
    batch: tables.Batch, dishes: Mapping[str, core.Dish], classes: Sequence[core.ContainerClass], market: Market
) -> dict[str, core.Dish]:
    """The same dishes with what 100 g of each food cost: of the packs that cover what the pots need while cost decides
    nothing. `market` has to know the foods of the dishes."""
    free = solve_batch(batch, dishes, [replace(each, budget=None) for each in classes])
    grams: dict[Any, float] = defaultdict(float)
    for need in free.needs.values():
        for line, sized in zip(need.part.component.lines, need.lines, strict=True):
            if line.bought is not None:
                grams[line.bought] += sized.purchased_g
    prices = {key: market.price(key, needed_g) for key, needed_g in grams.items()}
    return {
        name: replace(
            dish,
            parts={key: replace(part, component=part.component.priced(prices)) for key, part in dish.parts.items()},
        )
        for name, dish in dishes.items()
    }


def is_cooked(computed: Computed, component: tables.Component) -> bool:
    """A pot of this batch gives some of a component: it is weighed before the batch is packed.

    What is only added at eating, and a part of a group that nobody chose, come out of none.
    """
    need = computed.need(component)
    chosen = any(
        part.group is None and part.is_cooked_here
        for dish in computed.dishes.values()
        for key, part in dish.parts.items()
        if key == str(component.id)
    )
    return chosen or need.needed_g > 0 or computed.loaded.is_weighed(component)


def core_dishes(loaded: Loaded) -> dict[str, core.Dish]:
    """The dishes of a batch as the core takes them, by their ids.

    Raises:
        Invalid: a component makes no sense, or a dish has something of it that it cannot have.
    """
    found = {}
    for dish in loaded.batch.dishes:
        parts = {}
        for part in loaded.parts_of(dish):
            component = loaded.components[part.component_id]
            with located(f"/components/{component.name}"):
                parts[str(component.id)] = core_part(loaded, part)
        with located(f"/dishes/{dish.name}"):
            found[str(dish.id)] = core.Dish(name=dish.name, parts=parts, groups=dish.groups)
    return found


def solve_batch(batch: tables.Batch, dishes: Mapping[str, core.Dish], classes: Sequence[core.ContainerClass]) -> Plan:
    """The core's answer for these dishes and classes by the rules of a batch."""
    return plan(
        dishes,
        classes,
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sure_share=batch.sure_share,
        sharing=batch.sharing,
        leftover=batch.leftover,
    )


def core_classes(loaded: Loaded) -> tuple[core.ContainerClass, ...]:
    """The rows of a batch as the core takes them."""
    return tuple(core_class(loaded, row) for row in loaded.batch.classes)


def sum_of(per_100g: Mapping[str, Amounts], grams: Mapping[str, float]) -> Amounts:
    """What a container of these grams [g] of each component holds."""
    return total(per_100g[key].in_grams(amount) for key, amount in grams.items())


def rows_of(computed: Computed) -> list[tuple[tables.ContainerClass, Portions]]:
    """Each row with the portions of its containers."""
    return list(zip(computed.loaded.batch.classes, computed.plan.portions, strict=True))


def container_name(row: tables.ContainerClass) -> str:
    """Whose containers these are, for which meal and kind of day."""
    return row_name(row.client.name, row.slot, row.day_type)


def row_name(client: str, slot: str, day_type: str) -> str:
    """Whose containers, for which meal and kind of day."""
    return f"{client}, {slot}" + ("" if day_type == "any" else f" on {day_type} days")


def core_part(loaded: Loaded, part: tables.Part) -> core.Part:
    """A part of a dish as the core takes it.

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    weighing = loaded.weighings.get(part.component_id)
    return part_of(
        loaded.larder,
        loaded.components[part.component_id],
        part.portioning,
        share_g=part.share_g,
        measured_g=weighing.cooked_g if weighing else None,
    )


def core_class(loaded: Loaded, row: tables.ContainerClass, *, dish: tables.Dish | None = None) -> core.ContainerClass:
    """A row as the core takes it, with what its client must not have left out.

    With a `dish` of `loaded` it is a row of another batch, as it would be with that dish, without its pins.
    """
    pins = {str(pin.component_id): pin.grams for pin in row.pins} if dish is None else {}
    chosen = frozenset(row.chosen) if dish is None else frozenset[str]()
    dish = dish or loaded.dishes[row.dish_id]
    left_out = frozenset(key for key, why in loaded.kept_out(row.client, dish).items() if why)
    at_most = loaded.at_most(row.client, dish)
    pins = {key: grams for key, grams in pins.items() if uuid.UUID(key) not in loaded.aside}
    if row.packed_g is not None:
        # What was packed stays as it was packed, whatever became of the client since.
        pins, left_out, at_most = row.packed_g, frozenset(), {}
    with located(f"/rows/{row.id}"):
        return core.ContainerClass(
            dish=str(dish.id),
            target=Target.of(row.figures),
            tolerance=row.client.tolerance,
            count=row.count,
            capacity_ml=row.capacity_ml,
            capacity_g=row.capacity_g,
            plate_g=row.plate_g,
            rank=row.rank,
            helping=row.helping,
            chosen=chosen,
            pins=pins,
            left_out=left_out,
            budget=None if loaded.market is None else loaded.batch.budget,
            at_most=at_most,
        )


def pot_of(loaded: Loaded, component: tables.Component) -> Component:
    """A component as it stands on the scale: cooked, or raw where it is packed so.

    Raises:
        CoreError: it makes no sense.
    """
    made = loaded.larder.component(component)
    return made.as_kit if component.packed_raw else made


def weighing_doubt(
    loaded: Loaded, component: tables.Component, vessels: Sequence[VesselWeight], removed_g: float
) -> Doubt | None:
    """Why a weighing of a component is questioned; None where it is believed."""
    return doubt(
        pot_of(loaded, component),
        vessels,
        removed_g=removed_g,
        known_vessels=loaded.vessels,
        others={
            other.name: pot_of(loaded, other)
            for other in loaded.batch.components
            if other.id != component.id and other.raw_fixed
        },
    )


NOTHING_DECIDED = "This batch is packed. Open it again to see what it could be."


def compute_open(session: Session, batch_id: uuid.UUID) -> Computed:
    """What could still be decided by; of a packed batch nothing can."""
    loaded = loading.load(session, batch_id)
    if loaded.batch.packed_at is not None:
        raise Closed(NOTHING_DECIDED)
    return compute(loaded)
