"""Between which weights filling may stop: the band of one cell while the others hold what they should."""

from __future__ import annotations

import math

from yantai.core.portions.problem import MISS_NOISE, Container, Portions
from yantai.core.targets.targets import bands


def stop_band(container: Container, answer: Portions, index: int) -> tuple[float, float]:
    """The least and the most grams [g] of one cell with which no figure of the container leaves its band, and none that
    is outside gets further away; within what the container holds and carries, and within the least and the most of the
    cell. The planned grams always lie between; of what is left out there is nothing to fill. Cost ends nothing: it is
    cooked by then.

    `low = max over aims of x + (min(L, h) − h) / a` and `high = min of x + (max(U, h) − h) / a`, where `x` are the
    planned grams, `h` is what the container holds of a nutrient, `[L, U]` its band, and `a` what a gram of this cell
    brings.
    """
    cell, planned = container.cells[index], answer.grams[index]
    if cell.left_out:
        return 0.0, 0.0
    low, high = cell.minimum_g, cell.maximum_g
    for aim in bands(container.target, container.tolerance):
        per_g = cell.per_gram(aim.nutrient)
        held = answer.holds(aim.nutrient)
        if per_g <= _NOTHING:
            continue
        if aim.low > -math.inf:
            low = max(low, planned + (min(aim.low, held) - held - MISS_NOISE) / per_g)
        if aim.high < math.inf:
            high = min(high, planned + (max(aim.high, held) - held + MISS_NOISE) / per_g)
    if cell.fills and container.capacity_ml is not None:
        high = min(high, planned + max(container.capacity_ml - answer.volume_ml, 0.0) * cell.density_g_per_ml)
    if cell.fills and container.capacity_g is not None:
        filled = math.fsum(g for one, g in zip(container.cells, answer.grams, strict=True) if one.fills)
        high = min(high, planned + max(container.capacity_g - filled, 0.0))
    return min(max(low, 0.0), planned), max(min(high, MOST_OVER * max(planned, 1.0)), planned)


MOST_OVER = 2.0
"""A band ends at twice the planned grams where nothing else ends it: leaves, or what brings nothing that is aimed
at."""

_NOTHING = 1e-9
