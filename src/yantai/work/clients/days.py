"""Days of clients: what a slot's share of a day comes to, and how a day stands with its containers and extras."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload
from sqlalchemy.orm.interfaces import ORMOption

from yantai.core.errors import CoreError
from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import Amounts, Nutrient, total
from yantai.core.targets import days as core
from yantai.core.targets.aims import PRODUCE_GROUPS, UNKNOWN_PRODUCE, DailyAims, Produce
from yantai.core.targets.closing import EatenDay
from yantai.core.targets.targets import Figures, Target, Tolerance
from yantai.core.targets.words import SIDES, whole_words
from yantai.store import tables
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.clients.views import (
    DailyAimView,
    DayExtraView,
    DayInstead,
    DayPart,
    DayTargetView,
    DayView,
    FillUpView,
    PlanTarget,
)
from yantai.work.common.errors import Collector
from yantai.work.common.views import AmountsView, GaugeView
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import food_composition


@dataclass(frozen=True, kw_only=True)
class Extra:
    """A food eaten on a day outside the containers [g]."""

    food: tables.Food
    grams: float


@dataclass(frozen=True, kw_only=True)
class ClientDay:
    """A client's day of one type as the core takes it, with its extras by name."""

    day_type: str
    day: core.Day
    extras: tuple[tuple[str, Amounts], ...]
    produce: Produce


ClientDays = Mapping[str, ClientDay]
"""The days of a client by the folded name of their type."""


def stored_days(client: tables.Client, rules: Rules) -> ClientDays:
    """The days that a client row has."""
    return {
        day.day_type.casefold(): client_day(
            day.day_type,
            day.figures,
            [Extra(food=extra.food, grams=extra.grams) for extra in day.extras],
            rules,
        )
        for day in client.days
    }


def client_day(day_type: str, figures: Figures, extras: Sequence[Extra], rules: Rules) -> ClientDay:
    """A day as the core takes it.

    Raises:
        CoreError: it aims at nothing, or a figure is out of its range.
    """
    held = tuple((extra.food.name, food_composition(extra.food, rules).in_grams(extra.grams)) for extra in extras)
    return ClientDay(
        day_type=day_type,
        day=core.Day(figures={**figures.aims, **figures.limits}, extras=total(amounts for _, amounts in held)),
        extras=held,
        produce=Produce(sum(extra.grams for extra in extras if extra.food.food_group in PRODUCE_GROUPS)),
    )


def effective_figures(target: TargetInput | tables.Target, days: ClientDays) -> Figures:
    """What a container shall hold: the target's own figures, or its share of the day it belongs to.

    A day that was taken away leaves nothing to have a share of; saving a client refuses that.
    """
    if target.day_share is None:
        return target.figures
    known = days.get(target.day_type.strip().casefold())
    shared = known.day.share(target.day_share) if known else {}
    return Figures(**{nutrient.value: value for nutrient, value in shared.items()})


def effective_target(target: TargetInput | tables.Target, days: ClientDays) -> Target:
    """The core's target of a container, its share of a day worked out.

    Raises:
        CoreError: a figure is out of its range, or the extras of the day leave nothing for the container.
    """
    figures = effective_figures(target, days)
    if target.day_share is not None and not any(figures.aims.values()):
        raise CoreError(
            f"the extras of the {target.day_type.strip()} day leave nothing for a container", field="day_share"
        )
    return Target.of(figures)


def check_days(session: Session, faults: Collector, payload: ClientInput) -> ClientDays:
    """The days as they were sent; what is wrong with them, and with shares of them, is noted."""
    rules = workspace_rules(read_workspace(session))
    foods = _foods(session, [extra.food_id for day in payload.days for extra in day.extras])
    found: dict[str, ClientDay] = {}
    for index, day in enumerate(payload.days):
        pointer = f"/days/{index}"
        day_type = faults.text(f"{pointer}/day_type", day.day_type, what="the kind of day").casefold()
        if day_type in found:
            faults.add(f"{pointer}/day_type", f"there is a {day_type} day already; change that one")
        extras = []
        for number, extra in enumerate(day.extras):
            food = foods.get(extra.food_id)
            if food is None:
                faults.add(f"{pointer}/extras/{number}/food_id", "this food is not in your pantry; choose another")
                continue
            with faults.located(f"{pointer}/extras/{number}"):
                extras.append(Extra(food=food, grams=extra.grams))
        with faults.located(pointer):
            found[day_type] = client_day(day.day_type.strip(), day.figures, extras, rules)
    for index, target in enumerate(payload.targets):
        _check_share(faults, f"/targets/{index}", target, found)
    return found


def _check_share(faults: Collector, pointer: str, target: TargetInput, days: ClientDays) -> None:
    if target.day_share is None:
        return
    if target.figures != Figures():
        faults.add(f"{pointer}/day_share", "give figures, or a share of the day, not both")
    if target.day_type.strip().casefold() not in days:
        kind = target.day_type.strip() or core.ANY_DAY
        faults.add(f"{pointer}/day_share", f"there is no {kind} day to take a share of; add one, or give figures")
        return
    with faults.located(pointer):
        effective_target(target, days)


def _foods(session: Session, ids: Iterable[uuid.UUID]) -> dict[uuid.UUID, tables.Food]:
    return {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(set(ids))))}


def day_rows(workspace_id: uuid.UUID, payload: ClientInput) -> list[tables.Day]:
    """The days as rows."""
    return [
        tables.Day(
            workspace_id=workspace_id,
            position=position,
            day_type=day.day_type.strip(),
            extras=[
                tables.DayExtra(workspace_id=workspace_id, position=number, food_id=extra.food_id, grams=extra.grams)
                for number, extra in enumerate(day.extras)
            ],
            figures=day.figures,
        )
        for position, day in enumerate(payload.days)
    ]


def with_days() -> ORMOption:
    """What a query of clients has to load for their days."""
    client, day = tables.Client, tables.Day
    return selectinload(client.days).selectinload(day.extras).joinedload(tables.DayExtra.food)


def day_target_view(day: tables.Day, rules: Rules) -> DayTargetView:
    """The view of a stored day."""
    return DayTargetView(
        day_type=day.day_type,
        **day.figures.by_name,
        extras=[
            DayExtraView(
                food_id=extra.food_id,
                name=extra.food.name,
                grams=extra.grams,
                amounts=AmountsView.of(food_composition(extra.food, rules).in_grams(extra.grams)),
            )
            for extra in day.extras
        ],
    )


@dataclass(frozen=True, kw_only=True)
class Eaten:
    """A container of a day: as it is planned, or as its target says. `instead` are others of the same meal, which
    another day gets."""

    kind: str
    name: str
    amounts: Amounts
    produce: Produce = UNKNOWN_PRODUCE
    instead: tuple[Eaten, ...] = ()


def as_targeted(name: str, figures: Figures) -> Eaten:
    """A container that holds just what its target says."""
    return Eaten(kind="target", name=name, amounts=core.as_targeted({**figures.aims, **figures.limits}))


def eaten_day(day: ClientDay, eaten: Sequence[Eaten], tolerance: Tolerance, aims: DailyAims) -> EatenDay:
    """A day with these containers as the core takes it."""
    return EatenDay(
        day=day.day,
        containers=[one.amounts for one in eaten],
        produce=sum((one.produce for one in eaten), day.produce),
        tolerance=tolerance,
        aims=aims,
    )


def day_view(
    day: ClientDay,
    eaten: Sequence[Eaten],
    whole: EatenDay,
    fill_ups: Sequence[FillUpView] = (),
    *,
    client_id: uuid.UUID | None,
    client: str,
) -> DayView:
    """How one day stands with these containers, which make up the `whole`."""
    return DayView(
        client_id=client_id,
        client=client,
        day_type=day.day_type,
        target=_figures_view(day.day.figures),
        left=_figures_view(day.day.left),
        parts=[
            *(DayPart(kind="extra", name=name, amounts=AmountsView.of(amounts)) for name, amounts in day.extras),
            *(DayPart(kind=one.kind, name=one.name, amounts=AmountsView.of(one.amounts)) for one in eaten),
        ],
        total=AmountsView.of(whole.held),
        gauges=[
            GaugeView(
                nutrient=standing.nutrient,
                side=SIDES.get(standing.nutrient, "aim"),
                target=standing.target,
                tolerance=standing.tolerance,
                amount=standing.amount,
                off=standing.amount - standing.target,
                miss=standing.miss,
                known=not standing.unsure,
                at_least=standing.at_least,
            )
            for standing in whole.standings
        ],
        aims=[DailyAimView(**asdict(standing)) for standing in whole.aim_standings],
        instead=[
            DayInstead(name=other.name, total=AmountsView.of(_with(day, eaten, place, other)))
            for place, one in enumerate(eaten)
            for other in one.instead
        ],
        fill_ups=list(fill_ups),
        notes=_notes(day),
    )


def _with(day: ClientDay, eaten: Sequence[Eaten], place: int, other: Eaten) -> Amounts:
    """What the day holds with another container in the place of one."""
    return total([day.day.extras, *(one.amounts for one in (*eaten[:place], other, *eaten[place + 1 :]))])


def _notes(day: ClientDay) -> list[str]:
    beyond = [
        f"{whole_words(nutrient, value)} {nutrient.noun}" for nutrient, value in day.day.over.items() if value >= 0.5
    ]
    return [f"The extras alone hold {', '.join(beyond)} more than the whole day shall."] if beyond else []


def _figures_view(figures: Mapping[Nutrient, float]) -> PlanTarget:
    return PlanTarget.of(Figures(**{nutrient.value: value for nutrient, value in figures.items()}))


def share_note(targets: Iterable[TargetInput | tables.Target], day_type: str) -> str | None:
    """What to say when the slots of a day take less or more than all that is left."""
    shares = [target.day_share for target in targets if target.day_type.strip().casefold() == day_type.casefold()]
    known = [share for share in shares if share is not None]
    together = sum(known)
    if not known or abs(together - 1) < 0.005:
        return None
    if together < 1:
        # Meals with figures of their own take the rest; how far they do, the day itself shows.
        if len(known) < len(shares):
            return None
        return f"The meals take {100 * together:.0f} % of what is left; {100 - 100 * together:.0f} % belong to no meal."
    return f"The meals take {100 * together:.0f} % of what is left: {100 * together - 100:.0f} % too much."
