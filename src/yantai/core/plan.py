"""A whole batch: grams for every container, and back to what must be cooked and bought."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from yantai.core.components import Component
from yantai.core.edible import purchased_g
from yantai.core.errors import CoreError, require_range
from yantai.core.nutrients import Amounts
from yantai.core.portions import Cell, Container, Portions, solve
from yantai.core.portions.problem import DEFAULT_DENSITY_G_PER_ML, MAXIMUM_CELL_G
from yantai.core.targets import Target, Tolerance


@dataclass(frozen=True, slots=True, kw_only=True)
class Pan:
    """A component as this batch cooks it.

    Attributes:
        component: its lines; proportions while `raw_fixed` is false, else the very grams in the pan.
        share: its weight in the recipe as written [g cooked].
        raw_fixed: the raw amounts were typed or the pan was weighed, so they no longer follow the need.
    """

    component: Component
    share: float
    raw_fixed: bool = False
    minimum_g: float = 0.0
    maximum_g: float = MAXIMUM_CELL_G
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML

    @property
    def weighed(self) -> bool:
        """The cooked weight is off the scale."""
        return self.component.measured_g is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerClass:
    """Equal containers: one client, slot and day type. Keys of `pins` and `left_out` are pan keys."""

    target: Target
    tolerance: Tolerance
    count: int
    capacity_ml: float | None = None
    pins: Mapping[str, float] = field(default_factory=dict)
    left_out: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")


@dataclass(frozen=True, slots=True, kw_only=True)
class LineNeed:
    """One ingredient of a pan for this batch [g]."""

    name: str
    purchased_g: float
    edible_g: float
    cooked_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PanNeed:
    """The chain of one pan [g]: bought → edible → cooked → in containers, and what is left over.

    Attributes:
        needed_g: in all containers together.
        cooked_g: what this pan gives: measured, or expected of its raw amounts.
        spare_g: cooked less needed; negative when the pan is short.
        basis_g: edible weight the yield refers to.
        pan: the pan at the size of this batch.
    """

    needed_g: float
    cooked_g: float
    cooked_low_g: float
    cooked_high_g: float
    spare_g: float
    basis_g: float
    lines: tuple[LineNeed, ...]
    pan: Pan


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Portions of each container class, in order, and the needs of each pan by key."""

    portions: tuple[Portions, ...]
    needs: Mapping[str, PanNeed]


def plan(
    pans: Mapping[str, Pan],
    classes: tuple[ContainerClass, ...],
    *,
    step_g: float = 1.0,
    buffer_share: float = 0.0,
) -> Plan:
    """Compute a batch.

    Pans whose raw amounts are free are cooked to the need plus `buffer_share` of it (tasting, spill).
    A weighed pan is never portioned beyond its weight: when the containers would take more, every free
    cell of it gives up the same share, and the containers are solved again with what there is.

    Raises:
        CoreError: there are no pans, or a value is out of its range.
    """
    if not pans:
        raise CoreError("this recipe has no components: add one before planning with it", field="components")
    require_range("buffer_share", buffer_share, low=0, high=0.5, unit="of the need")
    held = {key: pan.component.per_100g for key, pan in pans.items()}
    ceilings = [{key: pan.maximum_g for key, pan in pans.items()} for _ in classes]
    while True:
        solved = tuple(
            _portion(pans, held, container, ceiling, step_g)
            for container, ceiling in zip(classes, ceilings, strict=True)
        )
        if not _lower_ceilings(pans, classes, solved, ceilings, step_g):
            break
    needs = {
        key: _need(pan, _needed_g(place, classes, solved), buffer_share)
        for place, (key, pan) in enumerate(pans.items())
    }
    return Plan(portions=solved, needs=needs)


def _portion(
    pans: Mapping[str, Pan],
    held: Mapping[str, Amounts],
    container: ContainerClass,
    ceiling: Mapping[str, float],
    step_g: float,
) -> Portions:
    cells = tuple(
        Cell(
            per_100g=held[key],
            share=pan.share,
            minimum_g=min(pan.minimum_g, ceiling[key]),
            maximum_g=ceiling[key],
            pinned_g=container.pins.get(key),
            left_out=key in container.left_out,
            density_g_per_ml=pan.density_g_per_ml,
        )
        for key, pan in pans.items()
    )
    return solve(
        Container(
            cells=cells,
            target=container.target,
            tolerance=container.tolerance,
            step_g=step_g,
            capacity_ml=container.capacity_ml,
        )
    )


def _needed_g(place: int, classes: tuple[ContainerClass, ...], solved: tuple[Portions, ...]) -> float:
    return math.fsum(p.grams[place] * c.count for p, c in zip(solved, classes, strict=True))


def _lower_ceilings(
    pans: Mapping[str, Pan],
    classes: tuple[ContainerClass, ...],
    solved: tuple[Portions, ...],
    ceilings: list[dict[str, float]],
    step_g: float,
) -> bool:
    """Lower the maximum of free cells of weighed pans that are short; True when any was lowered."""
    lowered = False
    for place, (key, pan) in enumerate(pans.items()):
        have = pan.component.measured_g
        if have is None or _needed_g(place, classes, solved) <= have + 1e-9:
            continue
        free = [n for n, c in enumerate(classes) if key not in c.pins and key not in c.left_out]
        of_free = math.fsum(solved[n].grams[place] * classes[n].count for n in free)
        of_fixed = _needed_g(place, classes, solved) - of_free
        share = max(have - of_fixed, 0.0) / of_free if of_free else 0.0
        for n in free:
            # A step at least is given up each time, so this ends.
            ceiling = max(math.floor(solved[n].grams[place] * share / step_g + 1e-9) * step_g, 0.0)
            if ceiling < solved[n].grams[place]:
                ceilings[n][key] = ceiling
                lowered = True
    return lowered


def _need(pan: Pan, needed_g: float, buffer_share: float) -> PanNeed:
    if not pan.raw_fixed and not pan.weighed:
        to_cook = needed_g * (1 + buffer_share)
        pan = replace(pan, component=pan.component.times(to_cook / pan.component.cooked_g)) if to_cook else pan
        if not to_cook:
            return _nothing_needed(pan)
    component = pan.component
    lines = tuple(
        LineNeed(
            name=line.name,
            purchased_g=purchased_g(line.edible_g, line.refuse_share),
            edible_g=line.edible_g,
            cooked_g=line.cooked_g(line.yield_range.expected),
        )
        for line in component.lines
    )
    return PanNeed(
        needed_g=needed_g,
        cooked_g=component.cooked_g,
        cooked_low_g=component.expected_low_g,
        cooked_high_g=component.expected_high_g,
        spare_g=component.cooked_g - needed_g,
        basis_g=component.basis_g,
        lines=lines,
        pan=pan,
    )


def _nothing_needed(pan: Pan) -> PanNeed:
    lines = tuple(LineNeed(name=line.name, purchased_g=0.0, edible_g=0.0, cooked_g=0.0) for line in pan.component.lines)
    return PanNeed(
        needed_g=0.0,
        cooked_g=0.0,
        cooked_low_g=0.0,
        cooked_high_g=0.0,
        spare_g=0.0,
        basis_g=0.0,
        lines=lines,
        pan=pan,
    )
