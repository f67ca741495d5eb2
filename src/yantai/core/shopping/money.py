"""Money in hundredths, shared out so that the shares add up to the whole."""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction

from yantai.core.errors import require_range


def share_out(total_cents: int, weights: Sequence[float]) -> list[int]:
    """A sum in hundredths in proportion to `weights`, each share whole, all together exactly the sum.

    By the largest remainder: each gets its share rounded down, and the hundredths that are left go to those that lost
    most by it, the first of equals first (Hamilton's method). With no weight at all it is shared equally.

    >>> share_out(1000, [1, 1, 1])
    [334, 333, 333]
    >>> share_out(1634, [120, 120, 80])
    [613, 613, 408]
    """
    require_range("total_cents", total_cents, low=0, high=10**12, unit="hundredths")
    for weight in weights:
        require_range("weight", weight, low=0, high=1e12, unit="")
    if not weights:
        return []
    exact = [Fraction(weight) for weight in weights]
    whole = sum(exact)
    if not whole:
        exact, whole = [Fraction(1)] * len(weights), Fraction(len(weights))
    parts = [Fraction(total_cents) * part / whole for part in exact]
    shares = [math.floor(part) for part in parts]
    left = total_cents - sum(shares)
    by_loss = sorted(range(len(parts)), key=lambda index: (shares[index] - parts[index], index))
    for index in by_loss[:left]:
        shares[index] += 1
    return shares


def used_cents(paid_cents: int, used_g: float, bought_g: float) -> int:
    """What the used part of packs is worth of what was paid for them [hundredths], to the nearest hundredth.

    >>> used_cents(690, 250, 1000)
    173
    """
    require_range("bought_g", bought_g, low=1e-9, high=1e9, unit="g")
    share = min(Fraction(used_g) / Fraction(bought_g), Fraction(1))
    return round_half_up(Fraction(paid_cents) * share)


def round_half_up(value: Fraction) -> int:
    """To the nearest whole, half up, as money is rounded."""
    return math.floor(value + Fraction(1, 2))
