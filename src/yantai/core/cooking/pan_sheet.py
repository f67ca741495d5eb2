"""Grams for each container from one weighed pan, for who cooks alone (domain, section 9).

All that went into the pan raw is in it cooked, whatever water left it. So a container that gets the planned share of
the pan gets the planned macros, however much the pan weighs:

    grams = weight of the pan × planned grams / planned weight of the pan
"""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, floor

from yantai.core.errors import require_range

MOST_ROWS = 9
_STEPS_G = (5, 10, 20, 25, 50, 100, 200, 250, 500, 1000)
_FEW = 0.1
LARGEST_PAN_G = 1_000_000.0


def shares_of_pan(pan_g: float, planned_pan_g: float, planned_g: Sequence[float]) -> tuple[int, ...]:
    """Whole grams for one container of each kind when the pan weighs `pan_g`; rounded down, so that the pan suffices.

    Raises:
        OutOfRange: the pan weighs nothing, or more than a pan can.

    >>> shares_of_pan(880, 800, [200, 150])
    (220, 165)
    """
    require_range("pan_g", pan_g, low=1, high=LARGEST_PAN_G, unit="g")
    require_range("planned_pan_g", planned_pan_g, low=1, high=LARGEST_PAN_G, unit="g")
    return tuple(floor(pan_g * grams / planned_pan_g + 1e-6) for grams in planned_g)


def weights_to_list(low_g: float, high_g: float) -> tuple[int, ...]:
    """Round weights of a pan for a table on paper, from below the least to above the most that is expected, at most
    `MOST_ROWS` of them; a pan whose weight is known has a tenth on both sides.

    >>> weights_to_list(710, 890)
    (700, 725, 750, 775, 800, 825, 850, 875, 900)
    """
    if high_g - low_g < _FEW * low_g:
        low_g, high_g = low_g * (1 - _FEW / 2), high_g * (1 + _FEW / 2)
    for step in _STEPS_G:
        first, last = floor(low_g / step), ceil(high_g / step)
        if last - first < MOST_ROWS:
            return tuple(step * at for at in range(max(first, 1), last + 1))
    step = ceil((high_g - low_g) / (MOST_ROWS - 1))
    return tuple(round(low_g + step * at) for at in range(MOST_ROWS))
