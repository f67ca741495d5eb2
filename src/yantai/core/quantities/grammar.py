"""The grammar of a quantity."""

from __future__ import annotations

import re
from dataclasses import replace
from fractions import Fraction
from functools import cache
from typing import Any

from lark import Lark, Token, Transformer, UnexpectedInput
from lark.exceptions import VisitError

from yantai.core.errors import CoreError
from yantai.core.quantities.quantity import SIZES, UNIT_OF_WORD, Kind, Quantity
from yantai.core.quantities.units import grams, millilitres
from yantai.core.quantities.writing import any_of, plain_text, spoons_in_words

_WORD_NUMBERS: dict[str, int | Fraction] = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20,
    "thirty": 30, "forty": 40, "fifty": 50, "half": Fraction(1, 2), "quarter": Fraction(1, 4),
}  # fmt: skip
_SHORT_SIZES = {"med": "medium", "lg": "large", "lge": "large", "lrg": "large", "sm": "small", "sml": "small"}


_GRAMMAR = rf"""
start: (ABOUT | HEAPED)* body
?body: run | plus | dash | ranged | packed
run: term+ UNIT?
plus: term (_PLUS term)+
dash: term _DASH term
ranged: term _TO term
packed: term (_TIMES | _OF) term UNIT?
term: number (HEAPED | ABOUT | _LEVEL)? SIZE? UNIT?
number: WORD_NUMBER+ | DECIMAL FRACTION? | DECIMAL WORD_NUMBER | FRACTION

ABOUT.6: /(about|around|approx|approximately|roughly|circa|ca|~|at\s+least|scant|good|generous)\.?(?![a-z])/
_LEVEL.6: /(level|big|thick|thin|decent)(?![a-z])/
HEAPED.6: /(heaped|heaping|rounded)(?![a-z])/
_TIMES.5: /(x|times)(?=[\s\d])/
_OF.5: /of(\s+(about|around|approximately|approx\.?|~))?(?=\s*\d)/
_TO.5: /(to|or)(?![a-z])/
_PLUS.5: /\+|(plus|and)(?![a-z])|&/
_DASH.5: /-|(minus|less)(?![a-z])/
SIZE.4: /{any_of((*SIZES, *_SHORT_SIZES))}/
UNIT.3: /{any_of(UNIT_OF_WORD)}/
WORD_NUMBER.4: /{any_of(_WORD_NUMBERS)}/
FRACTION.3: /\d+\s*\/\s*\d+/
DECIMAL.2: /\d+(\.\d+)?|\.\d+/
%import common.WS
%ignore WS
"""


class Unreadable(CoreError):
    """A text that is no quantity."""

    def __init__(self, text: str) -> None:
        self.text = text
        super().__init__(
            f"“{text}” is not a quantity; write it as “1.2 kg”, “2 tbsp”, “1 1/2 cups”, “3 large” or “812 - 764 g”",
            field="quantity",
        )


class _Build(Transformer[Token, Quantity]):
    """Turns a parse tree into a quantity; a term without a unit counts pieces until another term gives its unit."""

    def number(self, parts: list[Token]) -> float:
        if parts[-1].type == "WORD_NUMBER":
            # "half a", "two dozen", "2 dozen": words multiply.
            value = Fraction(1)
            for part in parts:
                value *= Fraction(part) if part.type == "DECIMAL" else _WORD_NUMBERS[part.rstrip(".")]
            return float(value)
        return float(sum(Fraction(re.sub(r"\s", "", part)) for part in parts))

    def term(self, parts: list[Any]) -> Quantity:
        number, *words = parts
        said = {token.type: str(token).rstrip(".") for token in words}
        size = said.get("SIZE", "")
        heaped = "HEAPED" in said
        return Quantity(
            low=number,
            high=number,
            unit=_unit(said["UNIT"]) if "UNIT" in said else "piece",
            size=_SHORT_SIZES.get(size, size),
            heaped=heaped,
            about=heaped or "ABOUT" in said,
        )

    def run(self, parts: list[Any]) -> Quantity:
        terms = [part for part in parts if isinstance(part, Quantity)]
        units = [part for part in parts if isinstance(part, Token)]
        if len(terms) == 2 and _is_bare(terms[0]) and terms[1].kind is not Kind.COUNT:
            return _packed(terms[0], terms[1], units)  # "2 400 g cans"
        if units and len(terms) == 1 and terms[0].kind is not Kind.COUNT:
            return _packed(_ONE, terms[0], units)  # "14 oz can"
        if units:
            raise Unreadable(" ".join(str(part) for part in parts))
        if len(terms) > 1 and any(_is_bare(term) for term in terms):
            raise Unreadable(" ".join(str(term) for term in terms))
        return terms[0] if len(terms) == 1 else _combined(terms[0], terms[1:], 1)

    def plus(self, parts: list[Quantity]) -> Quantity:
        last = parts[-1]
        return _combined(_sharing_unit(parts[0], last), [_sharing_unit(part, last) for part in parts[1:]], 1)

    def dash(self, parts: list[Quantity]) -> Quantity:
        first, second = _sharing_unit(parts[0], parts[1]), parts[1]
        # "2-3 cups" runs up, "812 - 764 g" is a weighing before and after.
        rising = first.unit == second.unit and first.low < second.low
        return _span(first, second) if rising else _combined(first, [second], -1)

    def ranged(self, parts: list[Quantity]) -> Quantity:
        return _span(_sharing_unit(parts[0], parts[1]), parts[1])

    def packed(self, parts: list[Any]) -> Quantity:
        count, each, *unit = parts
        return _packed(count, each, unit)

    def start(self, parts: list[Any]) -> Quantity:
        *words, quantity = parts
        said = {token.type for token in words}
        assert isinstance(quantity, Quantity)
        return replace(quantity, about=bool(said) or quantity.about, heaped="HEAPED" in said or quantity.heaped)


_ONE = Quantity(low=1, high=1, unit="piece")


def _unit(word: str) -> str:
    return UNIT_OF_WORD[re.sub(r"\s+", " ", word.rstrip("."))]


def _is_bare(quantity: Quantity) -> bool:
    return quantity.unit == "piece" and not quantity.size and quantity.each is None


def _sharing_unit(quantity: Quantity, other: Quantity) -> Quantity:
    """A bare number takes the unit that stands once behind the last."""
    return replace(quantity, unit=other.unit, size=other.size) if _is_bare(quantity) else quantity


def _span(first: Quantity, second: Quantity) -> Quantity:
    if first.unit != second.unit or first.low > second.low:
        raise Unreadable(f"{first} to {second}")
    return replace(second, low=first.low, high=second.high)


def _packed(count: Quantity, each: Quantity, unit: list[Token]) -> Quantity:
    counts = count.kind is Kind.COUNT and count.each is None
    if not counts or each.kind is Kind.COUNT or (unit and not _is_bare(count)):
        raise Unreadable(f"{count} x {each}")
    return replace(count, unit=_unit(unit[0]) if unit else count.unit, each=each)


def _combined(first: Quantity, others: list[Quantity], sign: int) -> Quantity:
    """Sum or difference of quantities of one kind, in grams, millilitres or the unit they share."""
    if any(other.kind is not first.kind for other in others):
        raise Unreadable(" and ".join(str(quantity) for quantity in (first, *others)))
    if all(other.unit == first.unit for other in others):
        unit, amounts = first.unit, [(q.low, q.high) for q in (first, *others)]
    elif {q.unit for q in (first, *others)} <= {"lb", "oz"}:
        # Stays what it is, so that a metric weight beside it is trusted first.
        unit, amounts = "oz", [(_ounces(q.low, q.unit), _ounces(q.high, q.unit)) for q in (first, *others)]
    elif first.kind is Kind.MASS:
        unit, amounts = "g", [(grams(q.low, q.unit), grams(q.high, q.unit)) for q in (first, *others)]
    elif first.kind is Kind.VOLUME and not {q.unit for q in (first, *others)} & {"cup", "tbsp", "tsp"}:
        unit, amounts = "ml", [(millilitres(q.low, q.unit), millilitres(q.high, q.unit)) for q in (first, *others)]
    elif first.kind is Kind.VOLUME and sign > 0:
        # Cups and spoons differ by kitchen (four teaspoons make an Australian tablespoon): each is turned by itself.
        return replace(first, more=tuple(others))
    elif first.kind is Kind.VOLUME:
        # A difference needs one unit: 16 tablespoons and 48 teaspoons of a kitchen make about its cup.
        unit, amounts = "cup", [(q.low * _CUPS[q.unit], q.high * _CUPS[q.unit]) for q in (first, *others)]
    else:
        raise Unreadable(" and ".join(str(quantity) for quantity in (first, *others)))
    low = amounts[0][0] + sign * sum(pair[0] for pair in amounts[1:])
    high = amounts[0][1] + sign * sum(pair[1] for pair in amounts[1:])
    if low < 0:
        raise Unreadable(f"{first} - {others[0]}")
    return Quantity(low=low, high=high, unit=unit)


def _ounces(amount: float, unit: str) -> float:
    return amount * 16 if unit == "lb" else amount


_CUPS = {"cup": 1.0, "tbsp": 1 / 16, "tsp": 1 / 48, "fl oz": 1 / 8, "ml": 1 / 236.588, "cl": 10 / 236.588,
         "dl": 100 / 236.588, "l": 1000 / 236.588, "pint": 2.0, "quart": 4.0, "gallon": 16.0}  # fmt: skip


@cache
def _parser() -> Lark:
    return Lark(_GRAMMAR, parser="lalr", transformer=_Build())


def read_quantity(text: str) -> Quantity:
    """Read a quantity and nothing else.

    Raises:
        Unreadable: the text is none.

    >>> read_quantity("1 ½ cups")
    Quantity(low=1.5, high=1.5, unit='cup', size='', each=None, about=False, heaped=False, more=())
    >>> str(read_quantity("2 x 400g tins"))
    '2 x 400 g can'
    """
    try:
        return _parser().parse(plain_text(spoons_in_words(text)))  # type: ignore[return-value]
    except (UnexpectedInput, VisitError, ZeroDivisionError, CoreError) as error:
        raise Unreadable(text.strip()) from error
