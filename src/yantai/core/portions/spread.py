"""Leftovers of weighed pots into the containers, as far as the bands and every hard limit leave freedom.

Grams are only added to what the containers have anyway. So no miss grows: what lies below a band comes nearer to it,
and nothing goes further above one. Steps are handed out to whoever got the least so far, many at once at first.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from yantai.core.portions.demand import Demand
from yantai.core.portions.problem import Container, Portions, portions
from yantai.core.portions.relaxed import Vector, step_bounds

_LARGEST_CHUNK = 64
"""Steps that are handed out at once at first; then half as many, down to single ones."""
_GRAM = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class _Freedom:
    """What one container can take more of its n cells in question.

    Attributes:
        rows, limits: linear conditions on the grams that are added (r, n) and (r,).
        most: the most of each cell more [g] (n,).
        step: (n,) [g].
    """

    indices: tuple[int, ...]
    rows: Vector
    limits: Vector
    most: Vector
    step: Vector


def spread_out(
    demands: Sequence[Demand], kept: Sequence[Portions], left_g: Sequence[float], surplus: set[int]
) -> list[Portions]:
    """The containers with what the pots at the places `surplus` have left over added to them; `left_g` is what they
    leave of each pot [g], infinite where it is not known."""
    left = list(left_g)
    freedoms = [_freedom(demand, portion, surplus) for demand, portion in zip(demands, kept, strict=True)]
    added = [np.zeros(len(freedom.indices)) for freedom in freedoms]
    chunk = _LARGEST_CHUNK
    while chunk:
        _hand_out(demands, freedoms, added, left, chunk)
        chunk //= 2
    return [
        _with_more(demand.container, portion, freedom, more)
        for demand, portion, freedom, more in zip(demands, kept, freedoms, added, strict=True)
    ]


def _freedom(demand: Demand, portion: Portions, surplus: set[int]) -> _Freedom:
    container = demand.container
    indices = tuple(
        index
        for index, draws in demand.cells
        if any(pot in surplus for pot, _ in draws)
        and demand.count
        and container.cells[index].fixed_g is None
        and container.cells[index].maximum_g > 0
    )
    cells = [container.cells[index] for index in indices]
    step = np.array([container.step_of(cell) for cell in cells])
    highest = np.array([step_bounds(cell, container.step_of(cell))[1] for cell in cells])
    rows = [[cell.per_gram(aim.nutrient) for cell in cells] for aim in container.aims if aim.high < math.inf]
    limits = [max(aim.high - portion.holds(aim.nutrient), 0.0) for aim in container.aims if aim.high < math.inf]
    if container.capacity_ml is not None:
        rows.append([1 / cell.density_g_per_ml if cell.fills else 0.0 for cell in cells])
        limits.append(max(container.capacity_ml - portion.volume_ml, 0.0))
    if container.capacity_g is not None:
        rows.append([1.0 if cell.fills else 0.0 for cell in cells])
        filled = (g for cell, g in zip(container.cells, portion.grams, strict=True) if cell.fills)
        limits.append(max(container.capacity_g - math.fsum(filled), 0.0))
    return _Freedom(
        indices=indices,
        rows=np.array(rows).reshape(len(rows), len(cells)),
        limits=np.array(limits),
        most=np.maximum(highest - np.array([portion.grams[index] for index in indices]), 0.0),
        step=step,
    )


def _hand_out(
    demands: Sequence[Demand], freedoms: Sequence[_Freedom], added: list[Vector], left: list[float], chunk: int
) -> None:
    """So many steps at once to whoever got the least so far, as long as that fits somewhere."""
    open_to = {(n, at) for n, freedom in enumerate(freedoms) for at in range(len(freedom.indices))}
    while open_to:
        n, at = min(open_to, key=lambda one: (added[one[0]][one[1]], one))
        index, more = freedoms[n].indices[at], added[n].copy()
        more[at] += chunk * freedoms[n].step[at]
        whole = demands[n].count * chunk * float(freedoms[n].step[at])
        takes = {pot: whole * share for pot, share in demands[n].cells[index][1]}
        if any(grams > left[pot] + _GRAM for pot, grams in takes.items()) or not _fits(freedoms[n], more):
            open_to.discard((n, at))
            continue
        added[n] = more
        for pot, grams in takes.items():
            left[pot] -= grams


def _fits(freedom: _Freedom, added: Vector) -> bool:
    return bool((freedom.rows @ added <= freedom.limits + _GRAM).all() and (added <= freedom.most + _GRAM).all())


def _with_more(container: Container, kept: Portions, freedom: _Freedom, added: Vector) -> Portions:
    if not added.any():
        return kept
    grams = list(kept.grams)
    for index, more in zip(freedom.indices, added.tolist(), strict=True):
        grams[index] += more
    found = portions(container, tuple(grams), kept.bindings)
    limits = [
        now if a != b else was for was, now, a, b in zip(kept.limits, found.limits, kept.grams, grams, strict=True)
    ]
    return replace(found, limits=tuple(limits))
