"""The best order of work of a cook day.

One thread, and a limit counted in work instead of seconds: the same day gets the same order on any machine.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from itertools import permutations

from ortools.sat.python import cp_model

from yantai.core.errors import CoreError
from yantai.core.schedule.day import Day, Hold, obstacles
from yantai.core.schedule.model import Expression, Model, Variable
from yantai.core.schedule.order import Hands, Order, Placed, in_turn, is_begun, ready_at, waiting_of
from yantai.core.schedule.rule import first_placed

EFFORT = 0.2
"""How much work goes into the order of a day of forty tasks, in the solver's own units: about three seconds.

The same work on more tasks takes longer, so a longer day gets less of it."""

_USUAL_TASKS = 40

NEAR_MIN = 2
"""An order that moves less may be ready so much later [min] than the earliest one."""

LATE_COSTS = 20
"""A minute late at the stove weighs as much as so many minutes until all is ready."""

OTHER_HANDS_MIN = 10
"""That another person does a task, or that it is done elsewhere, weighs as much as if it moved by so many minutes."""


class NoOrder(CoreError):
    """There is no order of work that keeps to everything; the message says the way out."""

    def __init__(self, message: str) -> None:
        super().__init__(message, field="day")


def best_order(day: Day, *, effort: float = EFFORT, follows: Order | None = None) -> Order:
    """The order of work of a day: ready earliest, then least waiting of what is delicate, then fewest switches of
    hands, then work shared evenly, then each task as early as it can.

    After `follows` it moves as little as it must: of all orders that are ready at most `NEAR_MIN` later than the
    earliest one, the one whose tasks move by the fewest minutes.

    Raises:
        NoOrder: none keeps to everything, or none was found within the effort.
    """
    for reason in obstacles(day):
        raise NoOrder(reason)
    if not day.tasks:
        return Order(placed=(), ready=day.start, spare=0, waiting=0, switches=0)
    if follows is not None:
        follows = replace(follows, placed=tuple(one for one in follows.placed if one.task in day.by_key))
    model = Model(day)
    length = _length(model)
    like = None if follows is None else {one.task: one.start for one in follows.placed}
    effort *= min(1.0, _USUAL_TASKS / len(day.tasks))
    passes = max(4, min(60, 60 * _USUAL_TASKS**2 // len(day.tasks) ** 2)) if follows is None else 4
    placed = first_placed(day, passes=passes, like=like)
    if placed is not None or follows is not None:
        model.hint(placed if placed is not None else follows.placed if follows is not None else ())
    shares = iter((0.5, 0.2, 0.2, 0.1) if follows is None else (0.5, 0.5))
    solved, bound = _first(model, length, effort * next(shares))
    near = 0 if follows is None else NEAR_MIN
    model.cp.add(length <= round(solved.value(length)) + near)
    further = (_waiting, _switches, _uneven) if follows is None else (lambda one: _moves(one, follows),)
    for aim_of in further:
        aim = aim_of(model)
        model.hint(_placed(model, solved))
        model.cp.minimize(aim)
        solver = _solver(effort * next(shares))
        if solver.solve(model.cp) in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            solved = solver
            model.cp.add(aim <= round(solved.value(aim)))
    return _order(model, _placed(model, solved), bound, follows)


def _solver(effort: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = effort
    # Tried at 20 to 150 tasks: with these off an order as good is found in a third of the time.
    solver.parameters.cp_model_probing_level = 0
    solver.parameters.linearization_level = 0
    return solver


def _first(model: Model, length: Expression, effort: float) -> tuple[cp_model.CpSolver, int]:
    """The shortest order, and how much of its length no order can do without."""
    day = model.day
    by_then = day.ready_by is not None and day.now is None
    if by_then:
        model.cp.add(model.ready <= day.ready_by)
    model.cp.minimize(length)
    solver = _solver(effort)
    status = solver.solve(model.cp)
    if status == cp_model.INFEASIBLE:
        raise NoOrder(_WHY_NOT_BY_THEN if by_then else _WHY_NONE)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise NoOrder(_NOT_FOUND)
    return solver, round(solver.value(length)) - round(solver.best_objective_bound)


def _length(model: Model) -> Expression:
    """Until when all is ready; where there is a time for that, for how long before it there is work."""
    day = model.day
    late = LATE_COSTS * _sum(model.late)
    if day.ready_by is None or day.now is not None:
        return model.ready + late
    begins = model.cp.new_int_var(model.low, model.high, "begins")
    for task in day.tasks:
        if not task.ahead:
            model.cp.add(begins <= model.starts[task.key])
    return day.ready_by - begins + late


def _waiting(model: Model) -> Expression:
    """Minutes that components wait until all is ready, times how delicate they are."""
    terms: list[Expression] = []
    for pot in model.day.pots:
        of = [task for task in model.day.tasks if task.of == pot.key]
        if pot.delicate and of:
            at = model.cp.new_int_var(model.low, model.high + 2000, f"ready {pot.key}")
            model.cp.add_max_equality(at, [model.ends[task.key] + task.rest_min for task in of])
            terms.append(pot.delicate * (model.ready - at))
    return _sum(terms)


def _switches(model: Model) -> Expression:
    """Hands-on tasks, less those that the same person goes on to at once from another of the same component."""
    whole = [hand for hand in model.hands if hand.touch is None]
    stays: list[Variable] = []
    for one, other in permutations(whole, 2):
        if one.task.of != other.task.of or is_begun(other.task, model.day):
            continue
        for person in sorted(one.by.keys() & other.by.keys()):
            stay = model.cp.new_bool_var(f"{person} stays {one.task.key} {other.task.key}")
            model.cp.add_implication(stay, one.by[person])
            model.cp.add_implication(stay, other.by[person])
            model.cp.add(model.starts[other.task.key] == model.ends[one.task.key]).only_enforce_if(stay)
            stays.append(stay)
    return len(whole) - _sum(stays)


def _uneven(model: Model) -> Expression:
    """Minutes of work of who does most, each worth a task begun 50 minutes earlier."""
    most = model.cp.new_int_var(0, 100_000, "most")
    for person in model.day.people:
        mine = [hand.by[person.key] * hand.minutes for hand in model.hands if person.key in hand.by]
        model.cp.add(most >= _sum(mine))
    return 50 * most + _sum([model.starts[task.key] - model.low for task in model.day.tasks])


def _moves(model: Model, follows: Order) -> Expression:
    """Minutes by which tasks move from where they were, other hands and other machines."""
    terms: list[Expression] = []
    hands_before = {(one.task, hand.touch): hand.person for one in follows.placed for hand in one.hands}
    for task in model.day.tasks:
        before = follows.by_task.get(task.key)
        if before is None or is_begun(task, model.day):
            continue
        by = model.cp.new_int_var(0, 100_000, f"moves {task.key}")
        model.cp.add(by >= model.starts[task.key] - before.start)
        model.cp.add(by >= before.start - model.starts[task.key])
        terms.append(by)
        terms += [
            OTHER_HANDS_MIN * (1 - need[machine])
            for need, machine in zip(model.on[task.key], before.machines, strict=False)
            if machine in need
        ]
    for hand in model.hands:
        person = hands_before.get((hand.task.key, hand.touch))
        if person in hand.by:
            terms.append((OTHER_HANDS_MIN if hand.touch is None else 1) * (1 - hand.by[person]))
    return _sum(terms)


def _sum(terms: Sequence[Expression]) -> Expression:
    return cp_model.LinearExpr.sum(list(terms))


def _placed(model: Model, solved: cp_model.CpSolver) -> tuple[Placed, ...]:
    hands: dict[str, list[Hands]] = defaultdict(list)
    for hand in model.hands:
        key = hand.task.key
        person = next(person for person, is_at_it in hand.by.items() if solved.value(is_at_it))
        start = solved.value(hand.start)
        end = solved.value(model.ends[key]) if hand.touch is None else start + hand.minutes
        hands[key].append(Hands(person=person, start=start, end=end, touch=hand.touch))
    for task in model.day.tasks:
        hold = model.day.holds.get(task.key, Hold())
        if hold.done and task.hands_on and hold.person and hold.start is not None and hold.end is not None:
            hands[task.key] = [Hands(person=hold.person, start=hold.start, end=hold.end)]
    placed = [
        Placed(
            task=task.key,
            start=solved.value(model.starts[task.key]),
            end=solved.value(model.ends[task.key]),
            hands=tuple(sorted(hands[task.key], key=lambda one: (one.start, one.touch or 0))),
            machines=tuple(
                next(key for key, is_on in need.items() if solved.value(is_on)) for need in model.on[task.key]
            )
            or model.day.holds.get(task.key, Hold()).machines,
        )
        for task in model.day.tasks
    ]
    return in_turn(model.day, placed)


def _order(model: Model, placed: tuple[Placed, ...], bound: int, follows: Order | None) -> Order:
    day = model.day
    ends = {one.task: one.end for one in placed}
    ready = ready_at(day, ends)
    return Order(
        placed=placed,
        ready=ready,
        spare=max(0, bound),
        waiting=waiting_of(day, ends),
        switches=switches_of(day, placed),
        moved=0 if follows is None else moved_of(day, placed, follows),
    )


def switches_of(day: Day, placed: Sequence[Placed]) -> int:
    """How often somebody begins hands-on work that does not follow at once on work at the same component."""
    whole = [(hand, day.by_key[one.task].of) for one in placed for hand in one.hands if hand.touch is None]
    ended = {(hand.person, hand.end, of) for hand, of in whole}
    return sum((hand.person, hand.start, of) not in ended for hand, of in whole)


def moved_of(day: Day, placed: Sequence[Placed], follows: Order) -> int:
    """How many tasks that have not begun are elsewhere than in another order: when, by whom, or on what."""
    return sum(
        one.task in follows.by_task and _where(follows.by_task[one.task]) != _where(one)
        for one in placed
        if not is_begun(day.by_key[one.task], day)
    )


def _where(one: Placed) -> tuple[int, tuple[str, ...], tuple[str, ...]]:
    return one.start, tuple(hand.person for hand in one.hands if hand.touch is None), one.machines


_WHY_NONE = (
    "There is no order of work that keeps to everything: who is there and when, what is held, and what must not wait. "
    "Let go of what is held, let somebody stay longer, or take something out of the day."
)
_WHY_NOT_BY_THEN = "All cannot be ready by then. Begin earlier, take a later time, or take something out of the day."
_NOT_FOUND = (
    "No order of work was found in the time there is. Take a dish out of the day, or let more of it be done before."
)
