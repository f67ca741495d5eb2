"""The many ways of writing a number, turned into the one that the grammar reads."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction

from yantai.core.quantities.quantity import UNIT_OF_WORD

_GLYPHS = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5", "⅘": "4/5",
    "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8",
}  # fmt: skip
_NUMBERS = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20,
    "thirty": 30, "forty": 40, "fifty": 50,
}  # fmt: skip
_PARTS = {"half": "1/2", "quarter": "1/4", "third": "1/3"}
_TENS = {
    "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80,
    "ninety": 90,
}  # fmt: skip
_UP_TO_NINETEEN = {
    **{word: value for word, value in _NUMBERS.items() if value < 20}, "thirteen": 13, "fourteen": 14,
    "seventeen": 17, "nineteen": 19,
}  # fmt: skip
_ONES = "|".join(sorted((word for word in _UP_TO_NINETEEN if len(word) > 2), key=len, reverse=True))
CONTAINERS = (
    "can", "cans", "tin", "tins", "jar", "jars", "packet", "packets", "pack", "packs", "bag", "bags", "tub", "tubs",
    "block", "blocks", "package", "packages", "pouch", "pouches", "carton", "cartons", "sachet", "sachets", "bottle",
    "bottles", "box", "boxes", "pot", "pots", "tray", "trays", "punnet", "punnets",
)  # fmt: skip
"""Words for what food is sold in."""


def any_of(words: object) -> str:
    """The words as one pattern, the longest first, each ending at a word's end."""
    ordered = sorted((str(word) for word in words), key=len, reverse=True)  # type: ignore[attr-defined]
    return "(" + "|".join(re.escape(word).replace(r"\ ", r"\s+") for word in ordered) + r")\.?(?![a-z])"


_UNIT = any_of(UNIT_OF_WORD)
_NUMBER = rf"(\d+|{'|'.join(sorted(_NUMBERS, key=len, reverse=True))})"
_SMALL = r"(?:g|gr|grams?|ml)"
_LARGE = r"(?:kg|kilos?|l|litres?|liters?)"


def _thousands(found: re.Match[str]) -> str:
    return re.sub(r"[\s']", "", found.group())


_PIECES = r"\b(?:fillets|breasts|steaks|chops|thighs|pieces|burgers|sausages)\b"


def _thousands_unless_pieces(found: re.Match[str]) -> str:
    """ "1 500 g potatoes" are thousands; of "4 150 g cod fillets" `two_ways` tells both readings."""
    few = re.fullmatch(r"([2-9]|1[0-2])\s\d{3}", found.group()) is not None
    return found.group() if few and re.search(_PIECES, found.string[found.end() :]) else _thousands(found)


def _count(word: str) -> Fraction:
    return Fraction(_NUMBERS[word]) if word in _NUMBERS else Fraction(word)


def _decimal(value: Fraction) -> str:
    return f"{float(value):.6f}".rstrip("0").rstrip(".")


def _tens(found: re.Match[str]) -> str:
    return str(_TENS[found[1]] + (_UP_TO_NINETEEN[found[2]] if found[2] else 0))


def _hundreds(found: re.Match[str]) -> str:
    rest = found[2] or "0"
    return str(100 * _UP_TO_NINETEEN[found[1]] + (int(rest) if rest.isdigit() else _UP_TO_NINETEEN[rest]))


def _dozens(found: re.Match[str]) -> str:
    whole, part = found.group(1), found.group(2)
    return _decimal(12 * ((_count(whole) if whole else 0) + Fraction((part or "0").strip()))) if whole or part else "12"


Rewriting = tuple[re.Pattern[str], str | Callable[[re.Match[str]], str]]

_LETTERS: tuple[Rewriting, ...] = (
    # French spoons, "3 c. à s." and "1 c.à.c.", whose first letter is not a cup.
    (re.compile(r"(?<=[\d\s])c\.?\s?[àa]\.?\s?s(?:oupe)?\b\.?"), "tbsp"),
    (re.compile(r"(?<=[\d\s])c\.?\s?[àa]\.?\s?c(?:afé|afe)?\b\.?"), "tsp"),
    # A capital T is a tablespoon and a small t a teaspoon, so these come before all is made lower case.
    (re.compile(r"(?<=[\d½⅓⅔¼¾⅛])\s*(?:T|Tb|TB)\b\.?(?=\s|$)"), " tbsp"),
    (re.compile(r"(?<=[\d½⅓⅔¼¾⅛])\s*t\b\.?(?=\s|$)"), " tsp"),
    (re.compile(r"(?<=[\d½⅓⅔¼¾⅛])\s*[cC]\b\.?(?=\s|$)"), " cup"),
)
_SIGNS: tuple[Rewriting, ...] = (
    (re.compile(r"[–—−‒]"), "-"),
    (re.compile("[’´`]"), "'"),
    (re.compile("[\u00a0\u202f\u2009]"), " "),
    (re.compile("⁄"), "/"),
    (re.compile("×"), "x"),
    (re.compile(r"(\d)-\s?(\d+\s*/\s*\d+)"), r"\1 \2"),  # "2-1/2 lb" is two and a half
    (re.compile(r"(\d)-([a-z])"), r"\1 \2"),  # "14-oz can"
    (re.compile(r"\bfl\.\s*oz"), "fl oz"),
)
_SEPARATORS: tuple[Rewriting, ...] = (
    (re.compile(r"(?<![\d.,/])\d{1,3}(?:'\d{3})+(?![\d/])"), _thousands),
    (re.compile(r"(?<![\d.,/])(\d{1,3})\.(\d{3}),(\d{1,2})(?!\d)"), r"\1\2.\3"),  # "1.234,5 g"
    # "1 500 g potatoes" are thousands, "2 400 g tins" are two tins.
    (
        re.compile(
            rf"(?<![\d.,/x])(?<!x )[1-9]\d{{0,2}}(?:\s\d{{3}})+"
            rf"(?=\s?{_SMALL}\b)(?!\s?{_SMALL}\s{any_of(CONTAINERS)})"
        ),
        _thousands_unless_pieces,
    ),
    (re.compile(rf"(\d),(\d{{3}})(?=\s?{_LARGE}\b)"), r"\1.\2"),  # "1,250 kg" is no tonne
    (re.compile(r"\b0,(\d+)"), r"0.\1"),
    (re.compile(r"(\d),(\d{3})(?!\d)"), r"\1\2"),
    (re.compile(r"(\d),(\d{1,2})(?!\d)"), r"\1.\2"),
)
_WORDS: tuple[Rewriting, ...] = (
    (re.compile(r"\bhalf[\s-]and[\s-]half\b"), "halfandhalf"),
    # "twenty-five", "two hundred and fifty"
    (re.compile(rf"\b({'|'.join(_TENS)})(?:[ -]({_ONES}))?\b"), _tens),
    (re.compile(rf"\b({_ONES}|an?) hundred(?:(?: and)? (\d{{1,2}}|{_ONES})\b)?"), _hundreds),
    (re.compile(r"\b(thirteen|fourteen|seventeen|nineteen)\b"), lambda found: str(_UP_TO_NINETEEN[found[1]])),
    (re.compile(r"\bhalf-(?=dozen|doz\b)"), "half "),
    # "two-and-a-half cups", "2 & 1/2 cups"
    (re.compile(rf"\b{_NUMBER}-(?:and|&)-(?=an?-|one-|half|quarter|third|\d)"), r"\1 and "),
    (re.compile(r"\band (an?|one)-(?=half|quarter|third)"), r"and \1 "),
    (re.compile(rf"\b{_NUMBER} & (?=an? (?:half|quarter|third)|\d+/\d)"), r"\1 and "),
    (re.compile(r"(\d+(?:\.\d+)?)\s*(?:dag|dkg)\b\.?"), lambda found: f"{_decimal(10 * Fraction(found[1]))} g"),
    (
        re.compile(r"(\d+(?:\.\d+)?|\d+/\d+)\s*(?:dessertspoon(?:ful)?s?|dsp)\b\.?"),
        lambda found: f"{_decimal(2 * Fraction(found[1]))} tsp",
    ),
    # "a pound and a half", "one and a half cups", "2 and a half"
    (
        re.compile(rf"\b{_NUMBER}\s+{_UNIT}\s+and\s+a\s+(half|quarter|third)\b"),
        lambda found: f"{_count(found[1])} {_PARTS[found[3]]} {found[2]}",
    ),
    (
        re.compile(rf"\b{_NUMBER}\s+and\s+(?:a\s+|one\s+)?(half|quarter|third|1/2|1/4|1/3|3/4)\b"),
        lambda found: f"{_count(found[1])} {_PARTS.get(found[2], found[2])}",
    ),
    (re.compile(r"\bthree[\s-]+quarters?\b"), "3/4"),
    (re.compile(r"\btwo[\s-]+thirds?\b"), "2/3"),
    (
        re.compile(rf"\b(?:a\s+|one\s+)?(half|quarter|third)\s+(?:of\s+)?(?=(?:an?\s+)?(?:{_UNIT}|dozen|doz\b|\d))"),
        lambda found: f"{_PARTS[found[1]]} ",
    ),
    (
        re.compile(
            r"^(?:a\s+|one\s+)?(half|quarter|third)\s+(?:of\s+)?(?:an?\s+|the\s+)?(?=[a-z]{2})(?!fat\b|and half\b)"
        ),
        lambda found: f"{_PARTS[found[1]]} ",
    ),
    (re.compile(rf"(\d/\d)\s+(?:of\s+)?(?:an?|the)\s+(?={_UNIT}|dozen|doz\b)"), r"\1 "),
    (re.compile(r"^(\d/\d)\s+of\s+(?:an?\s+|the\s+)?(?=[a-z])"), r"\1 "),
    (re.compile(rf"(\d/\d)\s+(?:of\s+)?(?:an?\s+)?(?=\d+(?:\.\d+)?\s?{_UNIT})"), r"\1 x "),
    (re.compile(rf"(?:\b{_NUMBER}\s+)?(\d+/\d+\s+)?(?:\bdozen|\bdoz\b\.?)"), _dozens),
)


def spoons_in_words(text: str) -> str:
    """`text` with the one-letter spoons and cups of an ingredient line in words; not for "180 C" in a step.

    >>> spoons_in_words("1 T olive oil"), spoons_in_words("2 c. stock")
    ('1 tbsp olive oil', '2 cup stock')
    """
    for pattern, written in _LETTERS:
        text = pattern.sub(written, text)
    return text


def plain_text(text: str) -> str:
    """`text` in lower case with fractions, thousands, dashes, signs and decimal commas written one way.

    >>> plain_text("2-1/2 lb"), plain_text("1 500 g"), plain_text("A pound and a half")
    ('2 1/2 lb', '1500 g', '1 1/2 pound')
    """
    for glyph, fraction in _GLYPHS.items():
        text = text.replace(glyph, f" {fraction}")
    text = re.sub(r"\s+", " ", text.casefold()).strip()
    for rewritings in (_SIGNS, _SEPARATORS, _WORDS):
        for pattern, written in rewritings:
            text = pattern.sub(written, text)
    return re.sub(r"\s+", " ", text).strip()


_TWO_WAYS = re.compile(rf"(?<![\d.,/])([1-9]\d{{0,2}})\.(\d{{3}})(?=\s?{_SMALL}\b)")
_SOME_OF = re.compile(
    r"^([2-9]|1[0-2])\s(\d{3})\s?(g|ml)\b(?=.*\b(?:fillets|breasts|steaks|chops|thighs|pieces|burgers|sausages)\b)"
)


def two_ways(text: str) -> tuple[str, str] | None:
    """Both readings of a number that two habits of writing read differently, the likelier first; None if one is.

    A point before three digits parts thousands in one country and decimals in another; a space parts thousands,
    or the number of pieces from their weight.

    >>> two_ways("1.500 g potatoes")
    ('1500 g potatoes', '1.5 g potatoes')
    >>> two_ways("4 150 g cod fillets")
    ('4 x 150 g cod fillets', '4150 g cod fillets')
    """
    point = _TWO_WAYS.search(text)
    if point:
        before, after = text[: point.start()], text[point.end() :]
        return f"{before}{point[1]}{point[2]}{after}", f"{before}{float(f'{point[1]}.{point[2]}'):g}{after}"
    some = _SOME_OF.search(text)
    if some:
        rest = text[some.end() :]
        return f"{some[1]} x {some[2]} {some[3]}{rest}", f"{some[1]}{some[2]} {some[3]}{rest}"
    return None
