"""Whether a recipe as written can fill one container to a target, and how near it comes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.planning.plan import ContainerClass, Part, containers, plan
from yantai.core.planning.portioning import School
from yantai.core.portions import Portions, least_miss
from yantai.core.targets.targets import bands

MOST_CONTAINERS = 40
"""Into how many containers a component that is split equally is tried to be divided, at most."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """The best container of a recipe for one target.

    Attributes:
        portions: its grams and misses.
        missed: the weighted miss `Σ w (e / σ)²` of docs/engine.md; 0 when every figure lies inside its band.
        containers: into how many the equally split components are divided, None where there are none.
    """

    portions: Portions
    missed: float
    containers: int | None = None

    @property
    def met(self) -> bool:
        """Every figure lies inside its band."""
        return self.portions.met


def fits(parts: Mapping[str, Part], classes: Sequence[ContainerClass], *, step_g: float = 5.0) -> tuple[Fit, ...]:
    """The best container of these components, cooked in any amount, for each class on its own.

    Nothing is short: each component is cooked to the need. Components split equally are divided by every number of
    containers up to `MOST_CONTAINERS`, and the best counts.

    Raises:
        CoreError: there are no components, or a value is out of its range.
    """
    alone = [replace(each, count=1) for each in classes]
    if any(part.school is School.EQUAL_SPLIT for part in parts.values()):
        return tuple(_best_split(parts, each, step_g) for each in alone)
    answers = plan(parts, alone, step_g=step_g).portions
    return tuple(Fit(portions=answer, missed=missed(each, answer)) for each, answer in zip(alone, answers, strict=True))


def missed(each: ContainerClass, portions: Portions) -> float:
    """The weighted miss of a container of this class."""
    return sum(
        aim.priority * (portions.misses[aim.nutrient] / aim.scale) ** 2 for aim in bands(each.target, each.tolerance)
    )


def _best_split(parts: Mapping[str, Part], each: ContainerClass, step_g: float) -> Fit:
    """The best division, looked for from the most promising on; of equally good ones that of the fewest containers."""
    divided = [replace(each, count=count) for count in range(1, MOST_CONTAINERS + 1)]
    bounds = [least_miss(containers(parts, [one], step_g=step_g)[0]) for one in divided]
    best: Fit | None = None
    for bound, one in sorted(zip(bounds, divided, strict=True), key=lambda pair: (pair[0], pair[1].count)):
        if best is not None and best.missed <= bound:
            break
        answer = plan(parts, [one], step_g=step_g).portions[0]
        found = Fit(portions=answer, missed=missed(each, answer), containers=one.count)
        if best is None or found.missed < best.missed:
            best = found
    assert best is not None, "there is always a division by one"
    return best
