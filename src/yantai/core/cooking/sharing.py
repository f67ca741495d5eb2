"""Whether two components are the same food, so that one pot can be cooked of both."""

from __future__ import annotations

import math
from dataclasses import replace

from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED, YieldRange, YieldSource

NEAR = 0.005
"""Shares of a pot this near are the same: half a gram in a hundred, less than salt is measured by."""


def why_apart(one: Component, other: Component) -> str | None:
    """Why two components cannot be cooked in one pot; None where they are made of the same in the same proportions.

    >>> from yantai.core.cooking.yields import UNCHANGED
    >>> from yantai.core.foods.nutrients import NOTHING
    >>> def rice(grams, salt):
    ...     lines = {"rice": grams, "salt": salt}
    ...     made = (Line(name=n, purchased_g=g, composition=NOTHING, yield_range=UNCHANGED) for n, g in lines.items())
    ...     return Component(name="Rice", lines=tuple(made))
    >>> why_apart(rice(300, 3), rice(600, 6))
    >>> why_apart(rice(300, 3), rice(300, 30))
    'salt is 1.0 % of one and 9.1 % of the other'
    """
    shares, others = _shares(one), _shares(other)
    for line in [*shares, *others]:
        if line not in others or line not in shares:
            return f"only one of them has {line.name}" + ("" if _is_known(line, shares, others) else " like this")
    apart = max(shares, key=lambda line: abs(math.log(shares[line] / others[line])))
    if any(abs(share - others[line]) > NEAR for line, share in shares.items()):
        return f"{apart.name} is {100 * shares[apart]:.1f} % of one and {100 * others[apart]:.1f} % of the other"
    if _own(one.set_yield) != _own(other.set_yield):
        return "they have different yields of their own"
    if one.cooked != other.cooked:
        return "only one of them is cooked"
    poured = [each.poured_fat_g / each.in_pan_g for each in (one, other)]
    if abs(poured[0] - poured[1]) > NEAR:
        return "fat is poured off one of them"
    pieces = [(each.pieces or 0) / each.in_pan_g for each in (one, other)]
    if not math.isclose(pieces[0], pieces[1], rel_tol=NEAR):
        return "they are cut into pieces of different sizes"
    return None


def _shares(component: Component) -> dict[Line, float]:
    """The share of each line in what goes into the pan, by what one gram of it is; a yield only where it was set."""
    found: dict[Line, float] = {}
    for line in component.lines:
        unit = replace(line, purchased_g=1.0, scales=True, yield_range=_own(line.yield_range) or UNCHANGED)
        found[unit] = found.get(unit, 0.0) + (line.edible_g + line.left_on_g) / component.in_pan_g
    return {line: share for line, share in found.items() if share > 0}


def _own(known: YieldRange | None) -> YieldRange | None:
    """A yield that the coach set; what is expected or was measured here holds for both pots."""
    return known if known is not None and known.source is YieldSource.COACH else None


def _is_known(line: Line, shares: dict[Line, float], others: dict[Line, float]) -> bool:
    """Its name is in one of them only."""
    names = [{each.name for each in some} for some in (shares, others)]
    return not all(line.name in some for some in names)
