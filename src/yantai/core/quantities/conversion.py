"""From a quantity to grams, by the measures of its food; and whether two statements agree."""

from __future__ import annotations

import re
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from yantai.core.errors import NoSuchUnit
from yantai.core.quantities.grammar import Unreadable, read_quantity
from yantai.core.quantities.quantity import PINCH_G, SIZES, UNIT_OF_WORD, Kind, Quantity
from yantai.core.quantities.units import Spoons, grams, millilitres
from yantai.core.speaking import exact_weight, weight
from yantai.core.words import singular

STATED_APART = 0.05
"""Two weights or volumes of one line disagree when more than this share apart."""
COUNTED_APART = 0.30
"""A count and a weight disagree only beyond this: one onion is not the next."""
HEAPED_SHARE = 1.3
"""A heaped spoon or cup against a level one: the middle of 1.2 to 1.5, a kitchen's rule of thumb."""
TOO_FAR_APART = 2.0
"""Pieces of one name whose weights differ more than so manyfold are asked about."""
VARIANT_APART = 0.15
"""How far apart [share] the cups of one food (sliced, whole) may be before the choice is told."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A household measure of a food: `name` as "cup, chopped" or "medium"; `grams` of one of it [g].

    Cups and spoons in `name` are those of `spoons`.
    """

    name: str
    grams: float
    spoons: Spoons = Spoons.US


@dataclass(frozen=True, slots=True, kw_only=True)
class InGrams:
    """A weight [g] with its range, how it was found, and whether something had to be assumed."""

    low: float
    grams: float
    high: float
    how: str
    assumed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Disagreement:
    """Two statements of one line that differ: the texts, and their weights [g] or volumes [ml]."""

    first: str
    second: str
    first_reading: float
    second_reading: float
    unit: str


def to_grams(
    quantity: Quantity, measures: Sequence[Measure], *, words: Iterable[str] = (), spoons: Spoons = Spoons.US
) -> InGrams:
    """Turn `quantity` of a food into grams [g].

    A mass needs nothing. A volume and a piece need one of the food's own `measures`; the one that shares
    most `words` of the line ("chopped") is taken. A volume is turned by the measure's own density, so a
    250 ml cup weighs more than a 236.588 ml cup.

    Raises:
        NoSuchUnit: the food has no measure for the unit; it is asked for, never guessed.

    >>> round(to_grams(read_quantity("2 cups"), [Measure(name="cup", grams=140)], spoons=Spoons.METRIC).grams, 1)
    295.9
    """
    said = frozenset(words) | {singular(word) for word in words}
    if quantity.more:
        terms = (replace(quantity, more=()), *quantity.more)
        return _added([to_grams(term, measures, words=said, spoons=spoons) for term in terms])
    if quantity.each is not None:
        drained = _drained(quantity.each, quantity.unit, measures)
        one = drained or to_grams(quantity.each, measures, words=said, spoons=spoons)
        return _times(one, quantity)
    if quantity.kind is Kind.MASS:
        one_g = grams(1, quantity.unit)
        return _times(InGrams(low=one_g, grams=one_g, high=one_g, how="weighed"), quantity)
    if quantity.kind is Kind.VOLUME:
        return _times(_volume(quantity, measures, said, spoons), quantity)
    if quantity.unit in PINCH_G:
        pinch = PINCH_G[quantity.unit]
        return _times(
            InGrams(low=pinch * 0.5, grams=pinch, high=pinch * 1.6, how=f"a {quantity.unit} of {exact_weight(pinch)}"),
            quantity,
        )
    return _times(_counted(quantity, measures, said), quantity)


def apart(first: float, second: float) -> float:
    """How far two readings lie apart, as a share of the larger.

    >>> round(apart(85.05, 150), 3)
    0.433
    """
    larger = max(first, second)
    return abs(first - second) / larger if larger else 0.0


def disagreements(
    quantities: Sequence[Quantity],
    measures: Sequence[Measure],
    *,
    words: Iterable[str] = (),
    spoons: Spoons = Spoons.US,
) -> list[Disagreement]:
    """Pairs of `quantities` of one line that say different things; those that cannot be compared are skipped."""
    found = []
    said = frozenset(words)
    for index, second in enumerate(quantities):
        for first in quantities[:index]:
            readings = _comparable(first, second, measures, said, spoons)
            if readings is None:
                continue
            one, other, unit, limit = readings
            if apart(one, other) > limit:
                found.append(
                    Disagreement(
                        first=str(first), second=str(second), first_reading=one, second_reading=other, unit=unit
                    )
                )
    return found


def _comparable(
    first: Quantity, second: Quantity, measures: Sequence[Measure], said: frozenset[str], spoons: Spoons
) -> tuple[float, float, str, float] | None:
    if first.kind is second.kind is Kind.VOLUME:
        # One statement of a US recipe ("1 cup (240 ml)") is compared with US cups, rounding allowed for.
        one, other = (
            sum(millilitres(term.amount, term.unit, spoons) for term in (quantity, *quantity.more))
            for quantity in (first, second)
        )
        return one, other, "ml", STATED_APART
    try:
        one, other = (to_grams(q, measures, words=said, spoons=spoons).grams for q in (first, second))
    except NoSuchUnit:
        return None
    counted = Kind.COUNT in (first.kind, second.kind)
    volume = Kind.VOLUME in (first.kind, second.kind)
    limit = COUNTED_APART if counted else STATED_APART
    if volume and not counted:
        # A cup of flour is filled differently: the measure's own spread is not the writer's mistake.
        limit = VARIANT_APART
    return one, other, "g", limit


def _added(terms: Sequence[InGrams]) -> InGrams:
    return InGrams(
        low=sum(term.low for term in terms),
        grams=sum(term.grams for term in terms),
        high=sum(term.high for term in terms),
        how=" and ".join(dict.fromkeys(term.how for term in terms)),
        assumed=any(term.assumed for term in terms),
    )


def _times(one: InGrams, quantity: Quantity) -> InGrams:
    heaped = HEAPED_SHARE if quantity.heaped else 1.0
    low, high = quantity.low * one.low * heaped, quantity.high * one.high * heaped
    if quantity.about:
        low, high = low * 0.9, high * 1.1
    return InGrams(
        low=low,
        grams=quantity.amount * one.grams * heaped,
        high=high,
        how=one.how + (", heaped" if quantity.heaped else ""),
        assumed=one.assumed or quantity.heaped,
    )


def _volume(quantity: Quantity, measures: Sequence[Measure], said: frozenset[str], spoons: Spoons) -> InGrams:
    """Grams of one of the unit, from the density that a measure of the food implies."""
    known = []
    for measure in measures:
        try:
            one = read_quantity(measure.name.partition(",")[0].partition("(")[0])
        except Unreadable:
            try:
                one = read_quantity(f"1 {measure.name.partition(',')[0].partition('(')[0]}")
            except Unreadable:
                continue
        if one.kind is Kind.VOLUME:
            known.append((measure, measure.grams / millilitres(one.amount, one.unit, measure.spoons), one.unit))
    if not known:
        raise _no_measure(quantity.unit, measures)
    size_ml = millilitres(1, quantity.unit, spoons)
    cut = {_SAME_CUT.get(word, word) for word in said}
    fitting = [entry for entry in known if any(variant <= cut for variant in _variants(entry[0]))]
    plain = [entry for entry in known if not _variants(entry[0])]
    # A spoon of it says less of a cup of it than a cup that is cut another way.
    plain = [entry for entry in plain if entry[2] == quantity.unit] or (
        [] if any(entry[2] == quantity.unit for entry in known) else plain
    )
    uncut = [
        entry for entry in known if entry[2] == quantity.unit and {_UNCUT.get(quantity.unit)} in _variants(entry[0])
    ]
    chosen = fitting or plain or known
    # A spoon measure is the better one for spoons, a cup for cups; for all else the largest was weighed most exactly.
    largest = max(chosen, key=lambda entry: millilitres(1, entry[2], spoons))[2]
    chosen = [entry for entry in chosen if entry[2] == quantity.unit] or [
        entry for entry in chosen if entry[2] == largest
    ]
    densities = [density for _, density, _ in chosen]
    likeliest = [density for _, density, _ in uncut] if not fitting and not plain else []
    density = statistics.median(likeliest or densities)
    nearest = min(chosen, key=lambda entry: abs(entry[1] - density))[0]
    assumed = not fitting and not plain and max(densities) > (1 + VARIANT_APART) * min(densities)
    return InGrams(
        low=min(densities) * size_ml,
        grams=density * size_ml,
        high=max(densities) * size_ml,
        how=f"“{nearest.name}” of this food is {exact_weight(nearest.grams)}",
        assumed=assumed,
    )


def _variants(measure: Measure) -> list[frozenset[str]]:
    """The words of a measure beside its unit: those of "cup, pieces or slices" are {"pieces"} and {"sliced"}."""
    rest = measure.name.replace("(", ",").partition(",")[2]
    either = (
        frozenset(_SAME_CUT.get(word, word) for word in part.split() if word.isalpha()) for part in rest.split(" or ")
    )
    return [words for words in either if words]


_SAME_CUT = {"diced": "chopped", "cubed": "chopped", "cubes": "chopped", "cube": "chopped", "grated": "shredded",
             "slices": "sliced", "slice": "sliced"}  # fmt: skip
"""Cuts that fill a cup alike."""
_UNCUT = {"cup": "whole", "tbsp": "leaves", "tsp": "leaves"}
"""What is meant where no cut is said: a cup of whole almonds, a spoon of the leaves of a dried herb."""


def _counted(quantity: Quantity, measures: Sequence[Measure], said: frozenset[str]) -> InGrams:
    names = [(measure, frozenset(_words(measure.name))) for measure in measures]
    if quantity.unit == "piece" and said & {"tinned", "canned"}:
        quantity = replace(quantity, unit="can")  # "3 tinned tomatoes" are three tins
    if quantity.unit == "piece":
        pieces = [(m, w) for m, w in names if not w & _NOT_PIECES and not _is_volume(m) and not _is_part(m, said)]
        if quantity.size:
            exact = [entry for entry in pieces if quantity.size in entry[1]]
        else:
            # "Two little gems" by the measure of that name, else by the plain piece, else a medium one.
            tried = (
                [entry for entry in pieces if entry[1] <= said],
                [entry for entry in pieces if entry[1] == {"piece"}],
                [entry for entry in pieces if "medium" in entry[1]],
                [entry for entry in pieces if entry[1] & (said | {"piece"})],
                [entry for entry in pieces if not entry[1] & {"small", "large", "thin", "thick"}],
                pieces,
            )
            exact = next((found for found in tried if found), [])
        assumed = not quantity.size
    else:
        exact = [entry for entry in names if quantity.unit in {UNIT_OF_WORD.get(word, word) for word in entry[1]}]
        every = exact
        if quantity.size:
            sized = [entry for entry in exact if quantity.size in entry[1]]
            # A large bunch may be a bunch; how large a "large can" is, nobody can tell.
            exact = sized or ([] if quantity.unit in _SOLD_IN_SIZES and quantity.size != "medium" else exact)
        else:
            exact = (
                [entry for entry in exact if len(entry[1]) == 1]
                or [entry for entry in exact if "medium" in entry[1]]
                or [entry for entry in exact if not entry[1] & _SIZED]
                or exact
            )
        assumed = quantity.unit in _CONTAINERS or (not quantity.size and len(exact) < len(every))
    if not exact:
        raise _no_measure(quantity.size or quantity.unit, measures)
    best = max(len(w & said) for _, w in exact)
    exact = [entry for entry in exact if len(entry[1] & said) == best]
    weights = sorted(measure.grams for measure, _ in exact)
    if weights[-1] > TOO_FAR_APART * weights[0]:
        raise NoSuchUnit(
            f"one {quantity.unit} of this food can be {exact_weight(weights[0])} or {exact_weight(weights[-1])}; "
            "type the grams",
            field="unit",
        )
    middle = statistics.median_low(weights)
    chosen = next(measure for measure, _ in exact if measure.grams == middle)
    return InGrams(
        low=weights[0],
        grams=middle,
        high=weights[-1],
        how=f"“{chosen.name}” of this food is {exact_weight(chosen.grams)}",
        assumed=assumed or weights[-1] > (1 + VARIANT_APART) * weights[0],
    )


_SIZED = frozenset(("small", "large", "extra", "thin", "thick", "tip", "inner", "outer", "snack", "regular"))
_CONTAINERS = frozenset(("can", "jar", "packet", "bag", "tub", "block", "bunch", "handful", "knob", "head"))
"""Units that come in sizes nobody wrote down: their weight is an assumption."""
_SOLD_IN_SIZES = frozenset(("can", "jar", "packet", "bag", "tub", "block"))
_NOT_PIECES = frozenset(
    (
        "can",
        "spray",
        "second",
        "handful",
        "knob",
        "slice",
        "scoop",
        "block",
        "packet",
        "leaf",
        "sprig",
        "strip",
        "cubic",
        "inch",
        "ring",
        "wedge",
        "bunch",
        "floret",
        "spear",
        "segment",
        "sheet",
        "tub",
    )
)


def _drained(each: Quantity, unit: str, measures: Sequence[Measure]) -> InGrams | None:
    """What a can of the stated size leaves when drained, if the food says."""
    if unit not in ("can", "piece") or each.kind is Kind.COUNT:
        return None
    size_g = grams(each.amount, each.unit) if each.kind is Kind.MASS else each.amount
    if not 100 <= size_g <= 3000:
        return None
    known = []
    for measure in measures:
        sizes = [float(part) for part in _numbers(measure.name)] if measure.name.startswith("can-drained") else []
        if sizes:
            middle = (min(sizes) + max(sizes)) / 2
            inside = 0.97 * min(sizes) <= size_g <= 1.03 * max(sizes)
            known.append((abs(size_g - middle), measure.grams if inside else measure.grams * size_g / middle))
    if not known:
        return None
    # A can of another size drains to the same share.
    _, drained = min(known)
    return InGrams(
        low=drained * 0.95,
        grams=drained,
        high=drained * 1.05,
        how=f"a can of {exact_weight(size_g)} drains to about {weight(drained)}",
        assumed=True,
    )


def _numbers(text: str) -> list[str]:
    return "".join(char if char.isdigit() else " " for char in text).split()


def _words(text: str) -> list[str]:
    return "".join(char if char.isalpha() else " " for char in text.casefold()).split()


def _is_volume(measure: Measure) -> bool:
    return bool(set(_words(measure.name)[:1]) & {"cup", "tbsp", "tsp", "ml", "fl"})


_PART_OF_ONE = re.compile(r"^(half)\b|\b(quarter)$")


def _is_part(measure: Measure, said: frozenset[str]) -> bool:
    """Whether a measure is that of a part of one, as "half" or "baguette, quarter", which the line does not say."""
    part = _PART_OF_ONE.search(measure.name)
    return part is not None and not said & {part[0], "halves", "quarters"}


def _no_measure(unit: str, measures: Sequence[Measure]) -> NoSuchUnit:
    known = ", ".join(measure.name for measure in measures) or "none yet"
    sizes = " one" if unit in SIZES else ""
    return NoSuchUnit(
        f"this food has no weight for a {unit}{sizes}; it has: {known}. Type the grams, or add the measure to the food",
        field="unit",
    )
