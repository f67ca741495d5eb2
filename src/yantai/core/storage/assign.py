"""The eating calendar of a client as a small integer program (domain, section 9).

One container of each meal a day, on a day of the type it was planned for, never beyond its shelf life. Of all calendars
that keep to this, the first of those that are best in turn by: containers without a day, no days left out, containers
that are frozen (what changes in the freezer counts twice), tubs beside them that would not last, the same dish twice
running, what keeps least eaten first, and what is frozen eaten last.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from math import floor

from ortools.sat.python import cp_model

from yantai.core.errors import CoreError
from yantai.core.storage.calendar import FIRST_FROM_FREEZER, LONGEST_DAYS, Calendar, Eaten, Store, ToEat, Weeks, check
from yantai.core.storage.shelf import Freezes
from yantai.core.targets.days import ANY_DAY

_ML = 1000
_WORK = 2.0
"""The most work for one aim, in the solver's own units: a calendar of fifty containers takes a hundredth of it."""


def eating_calendar(classes: Sequence[ToEat], weeks: Weeks, fixed: Sequence[Eaten] = ()) -> Calendar:
    """The best calendar of one client. What is `fixed` stays where it is, whatever it breaks.

    Raises:
        CoreError: what is fixed is no container of these classes, or no calendar was found within the work allowed.
    """
    check(classes, fixed)
    if not any(one.count for one in classes):
        return Calendar(eaten=())
    model = _Model(classes, weeks, fixed)
    for aim in (
        model.without_day,
        model.late,
        model.frozen,
        model.tubs,
        model.running,
        model.delicate_late,
        model.fridge_late,
    ):
        model.settle(aim())
    return model.calendar()


_Linear = cp_model.LinearExprT


class _Model:
    def __init__(self, classes: Sequence[ToEat], weeks: Weeks, fixed: Sequence[Eaten]) -> None:
        self.classes, self.weeks, self.fixed = classes, weeks, fixed
        self.cp = cp_model.CpModel()
        self.by_key = {one.key: one for one in classes}
        self.left = {one.key: one.count - sum(done.key == one.key for done in fixed) for one in classes}
        self.days = range(weeks.first, _last_day(classes, weeks, fixed) + 1)
        self.x: dict[tuple[str, Store, int], cp_model.IntVar] = {}
        self.types: dict[int, dict[str, cp_model.IntVar]] = {}
        self._containers()
        self._meals()
        self._day_types()
        self._fridge()
        self.solver = _solver()

    def _containers(self) -> None:
        for one in self.classes:
            for day in self.days:
                for store in Store:
                    if one.fits(self.weeks.day_type(day)) and one.may_wait(store, day):
                        self.x[one.key, store, day] = self.cp.new_bool_var("")
            placed = [x for (key, _, _), x in self.x.items() if key == one.key]
            self.cp.add(sum(placed) <= self.left[one.key])

    def _meals(self) -> None:
        taken = {(self.by_key[done.key].slot, done.day) for done in self.fixed}
        of_meal: dict[tuple[str, int], list[cp_model.IntVar]] = defaultdict(list)
        for (key, _, day), x in self.x.items():
            of_meal[self.by_key[key].slot, day].append(x)
        for meal, xs in of_meal.items():
            self.cp.add(sum(xs) <= (0 if meal in taken else 1))

    def _day_types(self) -> None:
        """A day that nobody gave a type is of one: that of what is eaten on it."""
        kinds = sorted({one.day_type for one in self.classes if one.day_type != ANY_DAY})
        set_by_hand: dict[int, set[str]] = defaultdict(set)
        for done in self.fixed:
            set_by_hand[done.day].add(self.by_key[done.key].day_type)
        for day in self.days if kinds else ():
            if self.weeks.day_type(day) is not None:
                continue
            self.types[day] = {kind: self.cp.new_bool_var("") for kind in kinds}
            self.cp.add_at_most_one(self.types[day].values())
            for kind in set_by_hand[day] & set(kinds):
                if len(set_by_hand[day] & set(kinds)) == 1:
                    self.cp.add(self.types[day][kind] == 1)
        for (key, _, day), x in self.x.items():
            kind = self.by_key[key].day_type
            if kind != ANY_DAY and day in self.types:
                self.cp.add(x <= self.types[day][kind])

    def _fridge(self) -> None:
        if self.weeks.fridge_l is None:
            return
        room = floor(self.weeks.fridge_l * _ML)
        for night in range(1, self.days.stop):
            here = [
                round(self.by_key[key].litres * _ML) * x
                for (key, store, day), x in self.x.items()
                if _is_in_fridge(store, day, night)
            ]
            by_hand = sum(
                round(self.by_key[done.key].litres * _ML)
                for done in self.fixed
                if _is_in_fridge(done.store, done.day, night)
            )
            # What somebody put there by hand stays, however full it is; nothing comes on top then.
            self.cp.add(sum(here) <= max(room - by_hand, 0))

    def without_day(self) -> _Linear:
        return sum(self.left.values()) - sum(self.x.values())

    def late(self) -> _Linear:
        return sum(day * x for (_, _, day), x in self.x.items())

    def frozen(self) -> _Linear:
        return sum(
            (2 if self.by_key[key].freezes is Freezes.WITH_CARE else 1) * x
            for (key, store, _), x in self.x.items()
            if store is Store.FREEZER
        )

    def tubs(self) -> _Linear:
        return sum(x for (key, _, day), x in self.x.items() if _outlasts(self.by_key[key], day))

    def running(self) -> _Linear:
        """The same dish at the same meal on the day after, or twice on one day."""
        on_day: dict[tuple[str, int], list[_Linear]] = defaultdict(list)
        there: dict[tuple[str, str, int], cp_model.IntVar] = {}
        every = [(key, day, x) for (key, _, day), x in self.x.items()] + [(d.key, d.day, 1) for d in self.fixed]
        for key, day, x in every:
            one = self.by_key[key]
            on_day[one.dish, day].append(x)
            self.cp.add(x <= there.setdefault((one.dish, one.slot, day), self.cp.new_bool_var("")))
        again: list[cp_model.IntVar] = []
        for (dish, slot, day), here in there.items():
            if (dish, slot, day + 1) in there:
                again.append(self.cp.new_bool_var(""))
                self.cp.add(here + there[dish, slot, day + 1] - 1 <= again[-1])
        for xs in on_day.values():
            again.append(self.cp.new_int_var(0, len(xs), ""))
            self.cp.add(sum(xs) - 1 <= again[-1])
        return sum(again)

    def delicate_late(self) -> _Linear:
        return -sum(day * self.by_key[key].keeps * x for (key, _, day), x in self.x.items())

    def fridge_late(self) -> _Linear:
        return sum(day * x for (_, store, day), x in self.x.items() if store is Store.FRIDGE)

    def settle(self, aim: _Linear) -> None:
        """The least of an aim, which stays so for those that come after it."""
        self.cp.minimize(aim)
        solver = _solver()
        if solver.solve(self.cp) != cp_model.OPTIMAL:
            raise CoreError("no calendar was found for these containers", field="calendar")
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        for x in self.x.values():
            self.cp.add_hint(x, solver.value(x))
        self.cp.add(aim <= solver.value(aim))
        self.solver = solver

    def calendar(self) -> Calendar:
        placed: dict[str, list[tuple[int, Store]]] = defaultdict(list)
        for (key, store, day), x in self.x.items():
            if self.solver.value(x):
                placed[key].append((day, store))
        eaten = list(self.fixed)
        for one in self.classes:
            taken = {done.number for done in self.fixed if done.key == one.key}
            free = [number for number in range(1, one.count + 1) if number not in taken]
            eaten += [
                Eaten(key=one.key, number=number, day=day, store=store)
                for number, (day, store) in zip(free, sorted(placed[one.key]), strict=False)
            ]
        return Calendar(
            eaten=tuple(sorted(eaten, key=lambda one: (one.day, one.key, one.number))),
            day_types={
                day: kind
                for day, kinds in self.types.items()
                for kind, x in kinds.items()
                if self.solver.value(x) and any(self.by_key[o.key].day_type == kind for o in eaten if o.day == day)
            },
            without_day={key: count - len(placed[key]) for key, count in self.left.items() if count > len(placed[key])},
        )


def _is_in_fridge(store: Store, day: int, night: int) -> bool:
    """In the night before day `night` it stands in the fridge: it waits there, or thaws."""
    return day >= night if store is Store.FRIDGE else day == night


def _outlasts(one: ToEat, day: int) -> bool:
    return one.tub_days is not None and day > one.tub_days


def _last_day(classes: Sequence[ToEat], weeks: Weeks, fixed: Sequence[Eaten]) -> int:
    """A day by which every container can be eaten: each taken on the first day that is free for it, and some more for
    what is fixed and for what has to wait for its thawing."""
    left: dict[str, Counter[str]] = defaultdict(Counter)
    for one in classes:
        left[one.slot][one.day_type] += one.count
    day = weeks.first
    while any(kinds.total() for kinds in left.values()) and day < LONGEST_DAYS:
        most = Counter[str]()
        for kinds in left.values():
            most |= kinds
        del most[ANY_DAY]
        kind = weeks.day_type(day) or next((kind for kind, _ in most.most_common(1)), ANY_DAY)
        for kinds in left.values():
            eaten = kind if kinds[kind] else ANY_DAY
            kinds[eaten] = max(kinds[eaten] - 1, 0)
        day += 1
    return min(day - 1 + len(fixed) + FIRST_FROM_FREEZER, LONGEST_DAYS)


def _solver() -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 7
    solver.parameters.max_deterministic_time = _WORK
    return solver
