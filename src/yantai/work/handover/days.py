"""The days of a client with all that is eaten on them: containers, extras, and meals that come from elsewhere."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import Amounts, total
from yantai.core.storage.calendar import Store
from yantai.core.targets.days import ANY_DAY, Standing, slots_of_day, standings
from yantai.store import tables
from yantai.work.clients.days import ClientDays, as_targeted, effective_figures, stored_days
from yantai.work.fill.views import FillContainerView
from yantai.work.handover.laid import Laid, Spot


@dataclass(frozen=True, kw_only=True)
class Served:
    """A container on its day: where it waits, and its amounts, as filled or as planned."""

    spot: Spot
    shown: FillContainerView
    store: Store

    @property
    def amounts(self) -> Amounts:
        """What it holds."""
        return self.shown.amounts.amounts


@dataclass(frozen=True, kw_only=True)
class Beside:
    """What belongs to a day and is in no container of this batch: a food, or a meal of which only the target is
    known."""

    name: str
    amounts: Amounts
    is_meal: bool


@dataclass(frozen=True, kw_only=True)
class EatingDay:
    """A day of a client: what is eaten, and how all of it stands to the day; nothing of the latter where the client has
    no day of this type. `thaw` are containers that go into the fridge on its evening."""

    on: date
    day_type: str
    served: tuple[Served, ...]
    beside: tuple[Beside, ...]
    total: Amounts
    standings: tuple[Standing, ...]
    thaw: tuple[Served, ...]


_MEALS = ("breakfast", "snack", "lunch", "dinner", "supper")


def meal_order(slot: str) -> int:
    """The usual order of meals in a day; others come after them."""
    return next((index for index, meal in enumerate(_MEALS) if meal in slot.casefold()), len(_MEALS))


def eating_days(
    laid: Laid, client: tables.Client, containers: Sequence[FillContainerView], rules: Rules
) -> list[EatingDay]:
    """Every day of a client's calendar, from the first evening of thawing on; days between without a meal too."""
    on_day: dict[date, list[Served]] = defaultdict(list)
    thaw: dict[date, list[Served]] = defaultdict(list)
    for one in containers:
        placement = laid.placements.get((one.row_id, one.number))
        if one.client_id != client.id or placement is None or placement.eaten_on is None or placement.store is None:
            continue
        served = Served(spot=(one.row_id, one.number), shown=one, store=placement.store)
        on_day[placement.eaten_on].append(served)
        if placement.store is Store.FREEZER:
            thaw[placement.eaten_on - timedelta(days=1)].append(served)
    if not on_day:
        return []
    known = stored_days(client, rules)
    first, last = min(*on_day, *thaw) if thaw else min(on_day), max(on_day)
    return [
        _day(client, known, date.fromordinal(ordinal), on_day, thaw)
        for ordinal in range(first.toordinal(), last.toordinal() + 1)
    ]


def _day(
    client: tables.Client,
    known: ClientDays,
    on: date,
    on_day: Mapping[date, list[Served]],
    thaw: Mapping[date, list[Served]],
) -> EatingDay:
    served = sorted(on_day.get(on, ()), key=lambda one: meal_order(one.shown.slot))
    given = client.week[on.weekday()] if any(client.week) else None
    kinds = [one.shown.day_type for one in served if one.shown.day_type.casefold() != ANY_DAY]
    day_type = given or next(iter(kinds), "")
    day = known.get(day_type.casefold() or ANY_DAY) or known.get(ANY_DAY)
    beside: list[Beside] = []
    stands: tuple[Standing, ...] = ()
    held = [one.amounts for one in served]
    if day is not None and served:
        beside = [Beside(name=name, amounts=amounts, is_meal=False) for name, amounts in day.extras]
        beside += _other_meals(client, known, day_type or ANY_DAY, {one.shown.slot.casefold() for one in served})
        meals = [one.amounts for one in beside if one.is_meal]
        stands = standings(day.day, [*held, *meals], client.tolerance)
    return EatingDay(
        on=on,
        day_type=day_type,
        served=tuple(served),
        beside=tuple(beside),
        total=total([*held, *(one.amounts for one in beside)]),
        standings=stands,
        thaw=tuple(thaw.get(on, ())),
    )


def _other_meals(client: tables.Client, known: ClientDays, day_type: str, there: set[str]) -> list[Beside]:
    """Meals of the day that this batch has no container for: each as its target says."""
    targets = list(client.targets)
    places = slots_of_day([(one.slot, one.day_type) for one in targets], day_type)
    return [
        Beside(
            name=f"{targets[place].slot}, not from this batch",
            amounts=as_targeted(targets[place].slot, effective_figures(targets[place], known)).amounts,
            is_meal=True,
        )
        for place in places
        if targets[place].slot.casefold() not in there
    ]
