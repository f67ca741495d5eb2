"""Making a recipe larger or smaller. Everything scales, the sauce too, except what is marked not to."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.errors import CoreError, require_range

LARGEST_FACTOR = 100.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Scalable:
    """One line: grams as purchased [g], and whether it follows the size of the recipe."""

    purchased_g: float
    scales: bool = True


def scaled(lines: Sequence[Scalable], factor: float) -> list[float]:
    """Grams as purchased [g] of each line at `factor` times the recipe.

    >>> scaled([Scalable(purchased_g=500), Scalable(purchased_g=0.2, scales=False)], 1.5)
    [750.0, 0.2]
    """
    require_range("factor", factor, low=1 / LARGEST_FACTOR, high=LARGEST_FACTOR, unit="times the recipe")
    return [line.purchased_g * factor if line.scales else line.purchased_g for line in lines]


def factor_for(line_g: float, on_hand_g: float) -> float:
    """The factor by which a recipe uses up `on_hand_g` [g] of a line that takes `line_g` [g] as written.

    >>> factor_for(1000, 1340)
    1.34
    """
    if line_g <= 0:
        raise CoreError("this line has no weight yet, so nothing can be sized by it; give it one", field="line")
    require_range("on_hand_g", on_hand_g, low=0.1, high=1_000_000, unit="g")
    return on_hand_g / line_g


def factor_for_packs(line_g: float, pack_g: float, *, packs: int | None = None) -> tuple[float, int]:
    """The factor by which a recipe takes whole packs of `pack_g` [g] of a line, and how many packs that is.

    Without `packs` it is the next whole number of packs from what the recipe takes as written.

    >>> factor_for_packs(1000, 400)
    (1.2, 3)
    """
    require_range("pack_g", pack_g, low=0.1, high=100_000, unit="g in a pack")
    if packs is None:
        packs = max(math.ceil(line_g / pack_g - 1e-9), 1)
    return factor_for(line_g, packs * pack_g), packs
