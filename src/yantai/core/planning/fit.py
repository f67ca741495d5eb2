"""Whether a recipe as written can fill one container to a target, and how near it comes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.errors import CoreError
from yantai.core.planning.cells import Asked
from yantai.core.planning.choices import possible_choices
from yantai.core.planning.dishes import ONE, ContainerClass, Dish
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import School
from yantai.core.portions import Portions, least_miss
from yantai.core.targets.targets import bands

MOST_CONTAINERS = 40
"""Into how many containers a component that is split equally is tried to be divided, at most."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """The best container of a dish for one target.

    Attributes:
        portions: its grams and misses, in the order of the dish's parts.
        missed: the weighted miss `Σ w (e / σ)²` of docs/engine.md; 0 when every figure lies inside its band.
        containers: into how many the equally split components are divided, None where there are none.
        chosen: what it takes of the groups of the dish.
    """

    portions: Portions
    missed: float
    containers: int | None = None
    chosen: frozenset[str] = frozenset()

    @property
    def met(self) -> bool:
        """Every figure lies inside its band."""
        return self.portions.met


def fits(
    dish: Dish,
    classes: Sequence[ContainerClass],
    *,
    step_g: float = 5.0,
    disliked: Sequence[frozenset[str]] | None = None,
) -> tuple[Fit, ...]:
    """The best container of this dish, cooked in any amount, for each class on its own.

    Nothing is short: each component is cooked to the need. Components split equally are divided by every number of
    containers up to `MOST_CONTAINERS`, and the best counts. Of a dish with groups the best choice counts: one that
    meets the target, of those the one with the fewest parts in `disliked` (keys for each class), then the nearest.

    Raises:
        CoreError: there are no components, a value is out of its range, or no choice is possible.
    """
    alone = [replace(each, count=1) for each in classes]
    if not dish.groups:
        return _fits(dish, alone, step_g)
    unloved = disliked or [frozenset()] * len(alone)
    return tuple(_best_choice(dish, each, without, step_g) for each, without in zip(alone, unloved, strict=True))


def _best_choice(dish: Dish, each: ContainerClass, disliked: frozenset[str], step_g: float) -> Fit:
    tried = [replace(each, chosen=chosen) for chosen in possible_choices(dish, each.left_out)]
    if not tried:
        raise CoreError("too few parts of a group may go into these containers", field="groups")
    found = [replace(fit, chosen=one.chosen) for fit, one in zip(_fits(dish, tried, step_g), tried, strict=True)]
    return min(found, key=lambda fit: (not fit.met, len(fit.chosen & disliked), fit.missed, sorted(fit.chosen)))


def _fits(dish: Dish, alone: Sequence[ContainerClass], step_g: float) -> tuple[Fit, ...]:
    dishes = {ONE: dish}
    if any(part.school is School.EQUAL_SPLIT for part in dish.parts.values()):
        return tuple(_best_split(dishes, each, step_g) for each in alone)
    answers = plan(dishes, alone, step_g=step_g).portions
    return tuple(Fit(portions=answer, missed=missed(each, answer)) for each, answer in zip(alone, answers, strict=True))


def missed(each: ContainerClass, portions: Portions) -> float:
    """The weighted miss of a container of this class."""
    return sum(
        aim.priority * (portions.misses[aim.nutrient] / aim.scale) ** 2 for aim in bands(each.target, each.tolerance)
    )


def _best_split(dishes: Mapping[str, Dish], each: ContainerClass, step_g: float) -> Fit:
    """The best division, looked for from the most promising on; of equally good ones that of the fewest containers."""
    divided = [replace(each, count=count) for count in range(1, MOST_CONTAINERS + 1)]
    bounds = [least_miss(Asked(dishes, [one], step_g=step_g).containers[0]) for one in divided]
    best: Fit | None = None
    for bound, one in sorted(zip(bounds, divided, strict=True), key=lambda pair: (pair[0], pair[1].count)):
        if best is not None and best.missed <= bound:
            break
        answer = plan(dishes, [one], step_g=step_g).portions[0]
        found = Fit(portions=answer, missed=missed(each, answer), containers=one.count)
        if best is None or found.missed < best.missed:
            best = found
    assert best is not None, "there is always a division by one"
    return best
