"""Sums and differences typed in a weight field."""

from __future__ import annotations

from yantai.core.errors import CoreError
from yantai.core.quantities.grammar import Unreadable, read_quantity
from yantai.core.quantities.quantity import Kind
from yantai.core.quantities.units import grams
from yantai.core.quantities.writing import plain_text
from yantai.core.speaking import exact_weight

LONGEST_SUM = 400
"""Characters of a typed sum; fifty weighings fit."""
_UNIT_WANTED = "give the weight in g, kg, oz or lb"


def weight_g(text: str, *, unit: str = "g") -> float:
    """The weight [g] of what was typed in a weight field: a number, a sum, or a weighing by difference.

    A bare number is in `unit`. Here a minus always takes away: "812-764" is what left the bottle.

    Raises:
        CoreError: it is no weight, or nothing is left of it.

    >>> weight_g("412+380-35")
    757.0
    >>> round(weight_g("1 lb 2 oz - 35 g"), 3)
    475.291
    """
    total = sum(_terms(text, unit))
    if total < 0:
        raise CoreError(
            f"“{text.strip()}” leaves {exact_weight(total)}: are before and after exchanged?",
            field="weight",
        )
    return total


def weighings_g(text: str) -> list[tuple[float, float]]:
    """The weighings of what was typed for one on the scale: gross and what was taken off it [g], one for each plus.

    Raises:
        CoreError: it is no weight.

    >>> weighings_g("1490+1502-310")
    [(1490.0, 0.0), (1502.0, 310.0)]
    """
    found: list[tuple[float, float]] = []
    for term in _terms(text, "g"):
        if term >= 0 or not found:
            found.append((term, 0.0))
        else:
            gross, off = found[-1]
            found[-1] = gross, off - term
    return found


def _terms(text: str, unit: str) -> list[float]:
    """The signed weights [g] of a sum."""
    if len(text) > LONGEST_SUM:
        raise CoreError(f"{len(text):,} characters are no weight; {LONGEST_SUM} fit", field="weight")
    plain = plain_text(text)
    signs = [1] + [-1 if char == "-" else 1 for char in plain if char in "+-"]
    parts = plain.replace("-", "+").split("+")
    terms = []
    for sign, part in zip(signs, parts, strict=True):
        try:
            quantity = read_quantity(part)
        except Unreadable as error:
            raise CoreError(
                f"“{text.strip()}” is not a weight; type digits, a sum like 412+380, or before and after like 812-764",
                field="weight",
            ) from error
        if quantity.kind is Kind.MASS:
            terms.append(sign * grams(quantity.amount, quantity.unit))
        elif quantity.unit == "piece" and not quantity.size and quantity.each is None:
            terms.append(sign * grams(quantity.amount, unit))
        else:
            raise CoreError(f"“{part.strip()}” is not a weight; {_UNIT_WANTED}", field="weight")
    return terms
