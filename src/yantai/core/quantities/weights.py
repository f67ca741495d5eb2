"""Sums and differences typed in a weight field."""

from __future__ import annotations

from yantai.core.errors import CoreError
from yantai.core.quantities.grammar import Unreadable, plain_text, read_quantity
from yantai.core.quantities.quantity import Kind
from yantai.core.units import grams

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
    plain = plain_text(text)
    signs = [1] + [-1 if char == "-" else 1 for char in plain if char in "+-"]
    parts = plain.replace("-", "+").split("+")
    total = 0.0
    for sign, part in zip(signs, parts, strict=True):
        try:
            quantity = read_quantity(part)
        except Unreadable as error:
            raise CoreError(
                f"“{text.strip()}” is not a weight; type digits, a sum like 412+380, or before and after like 812-764",
                field="weight",
            ) from error
        if quantity.kind is Kind.MASS:
            total += sign * grams(quantity.amount, quantity.unit)
        elif quantity.unit == "piece" and not quantity.size and quantity.each is None:
            total += sign * grams(quantity.amount, unit)
        else:
            raise CoreError(f"“{part.strip()}” is not a weight; {_UNIT_WANTED}", field="weight")
    if total < 0:
        raise CoreError(
            f"“{text.strip()}” leaves {total:g} g: are before and after exchanged?",
            field="weight",
        )
    return total
