"""Bowls from parts: what a container takes of the groups of its dish, and choices spread over a client's containers."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from yantai.core.errors import CoreError
from yantai.core.planning.dishes import Dish

MOST_CHOICES = 5_000
"""Choices of one container that are looked at, at most."""

Choice = frozenset[str]
"""What a container takes of the groups of its dish, by component."""


def possible_choices(dish: Dish, left_out: frozenset[str] = frozenset()) -> list[Choice]:
    """Every way to take as many of each group as its containers take, without what is left out, in the order of the
    dish; none where a group has too few.

    Raises:
        CoreError: there are more than `MOST_CHOICES`.
    """
    allowed = {group: [key for key in dish.members(group) if key not in left_out] for group in dish.groups}
    count = math.prod(math.comb(len(allowed[group]), takes) for group, takes in dish.groups.items())
    if count > MOST_CHOICES:
        raise CoreError(
            f"these groups can be combined in {count:,} ways; the most that are compared is {MOST_CHOICES:,}. Take "
            "fewer of a group, or make it smaller",
            field="groups",
        )
    each = [itertools.combinations(allowed[group], takes) for group, takes in dish.groups.items()]
    return [frozenset(itertools.chain.from_iterable(one)) for one in itertools.product(*each)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Option:
    """A choice for one container: how far it misses the target (0 where it meets it), and how much of it is
    disliked."""

    chosen: Choice
    missed: float
    disliked: int = 0


def spread_choices(options: Sequence[Sequence[Option]], *, same: bool = False) -> list[Choice]:
    """A choice for each container of a client, from the options that each has, in order.

    The targets come first, then as little as can be of what is disliked, then variety: the parts are used as evenly as
    can be, by the least `Σ u²` over the uses `u` of every part; with `same` one choice for all of them instead. It is
    an assignment with convex costs, solved as three small whole-number programmes, one after the other; of equally
    good ones the choices that come first.

    Raises:
        CoreError: a container has no option, or, with `same`, they have none in common.
    """
    for number, each in enumerate(options):
        if not each:
            raise CoreError(f"nothing can be chosen for container {number + 1}", field="groups")
    if not options:
        return []
    if same:
        return [_same(options)] * len(options)
    flat = [(number, option) for number, each in enumerate(options) for option in each]
    parts = sorted({key for _, option in flat for key in option.chosen})
    most = len(options)
    # Columns: whether a container takes an option; then for each part its first, second, … use, which cost 1, 3, 5, …
    size = len(flat) + len(parts) * most
    one_each = np.zeros((len(options), size))
    for column, (number, _) in enumerate(flat):
        one_each[number, column] = 1
    uses = np.zeros((len(parts), size))
    for column, (_, option) in enumerate(flat):
        for key in option.chosen:
            uses[parts.index(key), column] = 1
    for row in range(len(parts)):
        uses[row, len(flat) + row * most : len(flat) + (row + 1) * most] = -1
    constraints = [LinearConstraint(one_each, 1, 1), LinearConstraint(uses, 0, 0)]
    rest = [0.0] * (len(parts) * most)
    costs = [
        [*(_rounded(option.missed) for _, option in flat), *rest],
        [*(float(option.disliked) for _, option in flat), *rest],
        [*([0.0] * len(flat)), *(2.0 * use + 1 for _ in parts for use in range(most))],
        [*(float(options[number].index(option)) for number, option in flat), *rest],
    ]
    found = np.zeros(size)
    for cost in costs:
        answer = milp(
            np.array(cost),
            constraints=constraints,
            integrality=np.ones(size, dtype=int),
            bounds=Bounds(0, 1),
        )
        if answer.x is None:
            raise ArithmeticError(f"choices could not be spread: HiGHS ended with {answer.status}")
        found = answer.x
        constraints.append(LinearConstraint(np.array([cost]), -np.inf, answer.fun + _SLACK))
    taken = dict(option for option, value in zip(flat, found, strict=False) if value > 0.5)
    return [taken[number].chosen for number in range(len(options))]


_SLACK = 1e-6


def _rounded(missed: float) -> float:
    """Misses that differ by less than anybody can weigh are the same."""
    return round(missed, 3)


def _same(options: Sequence[Sequence[Option]]) -> Choice:
    """The one choice that is best for all containers together."""
    by_choice: list[Mapping[Choice, Option]] = [{option.chosen: option for option in each} for each in options]
    common = [option.chosen for option in options[0] if all(option.chosen in each for each in by_choice)]
    if not common:
        raise CoreError(
            "no choice is possible for all of these containers: let them have different ones", field="groups"
        )

    def cost(chosen: Choice) -> tuple[float, int, int]:
        of_each = [each[chosen] for each in by_choice]
        missed = math.fsum(_rounded(option.missed) for option in of_each)
        return missed, sum(option.disliked for option in of_each), common.index(chosen)

    return min(common, key=cost)
