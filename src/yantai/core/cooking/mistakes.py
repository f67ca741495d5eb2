"""Mistakes that can be seen in a recipe, each told beside its line with a mend, before anything is cooked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from yantai.core.cooking.components import MARINADE_CLINGS, UNCOOKED, LineRole
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.quantities import Disagreement, apart
from yantai.core.quantities.units import grams
from yantai.core.speaking import energy, weight

STATED_APART = 0.05
OIL_METHODS = ("pan-fried", "stir-fried", "sauteed")
TRAY_METHODS = ("roasted", "baked", "grilled", "air-fried")
TRAY_OIL_G = 25.0
"""Oil from which some usually stays on a tray [g]."""
VEGETABLE_SHARE = 0.25
_DRY_GROUPS = ("grains-pasta", "legumes")
_VEGETABLE_GROUPS = ("vegetables", "potatoes-roots", "fruit")
_MOVES_KCAL_SHARE = 0.01

Change = Mapping[str, str | float | bool]


@dataclass(frozen=True, slots=True, kw_only=True)
class Mend:
    """A way out in words, and the fields of the line or component it sets."""

    words: str
    changes: Change


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """Something that looks wrong. `line` is its place in the component, None when it is about all of it.

    `assumption` marks what is only told because it rests on an assumption, not because it looks wrong.
    """

    code: str
    words: str
    line: int | None = None
    mends: tuple[Mend, ...] = ()
    assumption: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherEntry:
    """The same food in another state: what could be meant instead."""

    key: str
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """What is known of a line when looking for mistakes.

    Attributes:
        group, state: of the food.
        weighed_state: the state in which the grams were weighed; "" is the food's own.
        text, stated_g: the line as it was written, and its weight by that text [g].
        disagreements: pairs of quantities in the text that differ.
        expected: the yield without the coach's own.
        kcal, kcal_slack: of the line [kcal], and how far rounding lets it be off.
        label: what the audit of the food's label says, "" when it agrees.
    """

    name: str
    group: str
    state: str
    purchased_g: float
    retained_share: float = 1.0
    counted: bool = True
    role: LineRole = LineRole.FOOD
    weighed_state: str = ""
    text: str = ""
    stated_g: float | None = None
    disagreements: Sequence[Disagreement] = ()
    yield_factor: float | None = None
    expected: YieldRange | None = None
    kcal: float = 0.0
    kcal_slack: float = 0.0
    kcal_unsure: bool = False
    label: str = ""
    raw_entry: OtherEntry | None = None
    cooked_entry: OtherEntry | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pan:
    """A component when looking for mistakes: its lines, and the yield the coach set for all of it."""

    name: str
    role: str
    method: str
    ingredients: Sequence[Ingredient] = field(default_factory=tuple)
    set_yield: float | None = None
    expected_yield: YieldRange | None = None


def findings(pan: Pan) -> list[Finding]:
    """Everything that looks wrong in a component, line by line, then the component itself."""
    found = []
    for index, ingredient in enumerate(pan.ingredients):
        for one in (
            _state_guard(pan, ingredient),
            _text_against_weight(ingredient),
            *_stated_twice(ingredient),
            # What stays of water follows from its pot; no factor is usual.
            None
            if ingredient.role is LineRole.WATER
            else _yield_for_loss(ingredient.yield_factor, ingredient.expected, "yield_factor"),
            _retained(ingredient),
            _marinade(pan, ingredient),
            _tray_oil(pan, ingredient),
            _yield_unknown(pan, ingredient),
            _label(ingredient),
            _zeros(pan, ingredient),
        ):
            if one is not None:
                found.append(_at(one, index))
    found += [one for one in (
        _yield_for_loss(pan.set_yield, pan.expected_yield, "yield_expected"),
        _oil_forgotten(pan),
        _weighed_together(pan),
    ) if one is not None]  # fmt: skip
    return found


def scaled_alone(before: Mapping[str, Sequence[float]], now: Mapping[str, Sequence[float]]) -> dict[str, float]:
    """Components left at their size while another was made larger or smaller: name to the factor they lack.

    `before` and `now` hold the grams of each component's lines. A component counts as scaled when all its
    lines changed by one factor.

    >>> scaled_alone({"kofta": [1000, 20], "sauce": [500]}, {"kofta": [1500, 30], "sauce": [500]})
    {'sauce': 1.5}
    """
    factors = {}
    for name, grams_before in before.items():
        grams_now = now.get(name)
        if grams_now is None or len(grams_now) != len(grams_before) or not all(grams_before):
            continue
        ratios = [new / old for new, old in zip(grams_now, grams_before, strict=True)]
        if ratios and max(ratios) - min(ratios) < 0.02 * max(ratios):
            factors[name] = sum(ratios) / len(ratios)
    moved = {factor for factor in factors.values() if abs(factor - 1) > 0.02}
    if not moved or max(moved) - min(moved) > 0.02 * max(moved):
        return {}
    return {name: max(moved) for name, factor in factors.items() if abs(factor - 1) <= 0.02}


def _at(finding: Finding, line: int) -> Finding:
    return Finding(
        code=finding.code, words=finding.words, line=line, mends=finding.mends, assumption=finding.assumption
    )


def _state_guard(pan: Pan, one: Ingredient) -> Finding | None:
    """Raw grams with a cooked entry, dry for cooked grain, and the other way round."""
    weighed = one.weighed_state or ""
    if one.state == "cooked" and pan.method != UNCOOKED and weighed != "cooked":
        mends = [Mend(words="These grams were weighed cooked", changes={"weighed_state": "cooked"})]
        if one.raw_entry is not None:
            mends.insert(0, Mend(words=f"Use {one.raw_entry.words}", changes={"food_id": one.raw_entry.key}))
        return Finding(
            code="raw-with-cooked-entry",
            words=f"{one.name} is a cooked entry in a pan that is {pan.method}: raw grams with cooked "
            "figures are off by "
            "25 to 40 % for meat and by more for grains. Which weight is this?",
            mends=tuple(mends),
        )
    dry_food = one.state == "dry" and one.group in _DRY_GROUPS
    if dry_food and (weighed == "cooked" or (not weighed and pan.method == UNCOOKED and pan.role == "grain")):
        return Finding(
            code="dry-for-cooked",
            words=f"{one.name} is a dry entry, and these grams look like cooked ones: figures would "
            "be two to three times "
            "too high. Which weight is this?",
            mends=_either(one.cooked_entry, "food_id", "These grams were weighed dry", "dry"),
        )
    if one.state == "raw" and weighed == "cooked":
        return Finding(
            code="cooked-with-raw-entry",
            words=f"{one.name} is a raw entry, and these grams were weighed cooked.",
            mends=_either(one.cooked_entry, "food_id", "These grams were weighed raw", "raw"),
        )
    return None


def _either(entry: OtherEntry | None, name: str, words: str, state: str) -> tuple[Mend, ...]:
    mend = Mend(words=words, changes={"weighed_state": state})
    if entry is None:
        return (mend,)
    return Mend(words=f"Use {entry.words}", changes={name: entry.key, "weighed_state": ""}), mend


def _text_against_weight(one: Ingredient) -> Finding | None:
    """The written line and the weight in the field differ: a slip of the unit is told by name."""
    if not one.stated_g or one.purchased_g <= 0 or apart(one.stated_g, one.purchased_g) <= STATED_APART:
        return None
    ratio = one.stated_g / one.purchased_g
    slips = (
        (grams(1, "oz"), "ounces-for-grams", "ounces were typed as grams"),
        (16.0, "lb-for-oz", "pounds were taken for ounces"),
        (1 / 16.0, "lb-for-oz", "ounces were taken for pounds"),
        (1000.0, "kg-for-g", "kilograms were typed as grams"),
    )
    code, why = next(
        ((code, f": {words}") for factor, code, words in slips if apart(ratio, factor) < 0.02), ("text-differs", "")
    )
    return Finding(
        code=code,
        words=f"“{one.text}” is {weight(one.stated_g)}; the weight says {weight(one.purchased_g)}{why}.",
        mends=(
            Mend(words=f"Take {weight(one.stated_g)}", changes={"purchased_g": round(one.stated_g, 1)}),
            Mend(words=f"Keep {weight(one.purchased_g)}", changes={"text": ""}),
        ),
    )


def _stated_twice(one: Ingredient) -> list[Finding]:
    found = []
    for pair in one.disagreements:
        off = apart(pair.first_reading, pair.second_reading)
        both = ((pair.first, pair.first_reading), (pair.second, pair.second_reading))
        mends = [
            Mend(
                words=f"Take {_read(text, reading, pair.unit)}", changes={"purchased_g": round(reading, 1), "text": ""}
            )
            for text, reading in both
        ]
        readings = " and ".join(_read(text, reading, pair.unit) for text, reading in both)
        found.append(
            Finding(
                code="stated-twice",
                words=f"“{one.text}” states two quantities that are {100 * off:.0f} % apart: {readings}.",
                mends=tuple(mends) if pair.unit == "g" else (),
            )
        )
    return found


def _read(text: str, reading: float, unit: str) -> str:
    """A quantity with its reading in brackets, where it does not say the same."""
    plain = f"{reading:.0f} {unit}"
    return text if text == plain else f"{text} ({reading:,.0f} {unit})"


def _yield_for_loss(typed: float | None, expected: YieldRange | None, name: str) -> Finding | None:
    """ "Loses a quarter" typed as 0.25: outside the range, while its complement is inside."""
    if typed is None or expected is None or expected.source in (YieldSource.ASSUMED, YieldSource.UNKNOWN):
        return None
    low, high = expected.low * 0.9, expected.high * 1.1
    if low <= typed <= high:
        return None
    if low <= 1 - typed <= high:
        return Finding(
            code="yield-for-loss",
            words=f"A yield of {typed:g} keeps {100 * typed:.0f} %; usual here is {100 * expected.low:.0f} to "
            f"{100 * expected.high:.0f} %. Is {typed:g} the loss? Then the yield is {1 - typed:g}.",
            mends=(Mend(words=f"Make it {1 - typed:.3g}", changes={name: round(1 - typed, 4)}),),
        )
    return Finding(
        code="unusual-yield",
        words=f"A yield of {typed:g} is outside the usual {expected.low:.2f} to {expected.high:.2f} "
        f"({expected.source.value}).",
        mends=(Mend(words=f"Take {expected.expected:.2f}", changes={name: round(expected.expected, 4)}),),
    )


def _retained(one: Ingredient) -> Finding | None:
    if one.retained_share > 0 or one.purchased_g <= 0:
        return None
    return Finding(
        code="nothing-stays",
        words=(
            f"0 % of {one.name} stays in, so nothing of it is counted. Even a marinade that is thrown away leaves some."
        ),
        mends=(
            Mend(words="All of it stays", changes={"retained_share": 1.0}),
            Mend(words=f"{100 * MARINADE_CLINGS:.0f} % clings", changes={"retained_share": MARINADE_CLINGS}),
        ),
    )


def _marinade(pan: Pan, one: Ingredient) -> Finding | None:
    """A marinade counted whole, or left at the share that is only assumed to cling."""
    if "marinade" not in f"{pan.name} {one.text} {one.name}".casefold() or one.role is LineRole.SEASONING:
        return None
    if abs(one.retained_share - MARINADE_CLINGS) < 1e-9:
        return Finding(
            code="marinade-assumed",
            words=(
                f"{100 * MARINADE_CLINGS:.0f} % of {one.name} is assumed to cling. Weigh what is thrown away to know."
            ),
            assumption=True,
        )
    if one.retained_share < 1 or (one.role is LineRole.FOOD and "marinade" not in f"{one.text} {one.name}".casefold()):
        return None
    return Finding(
        code="marinade-counted",
        words=f"All of {one.name} is counted. Is the marinade thrown away?",
        mends=(
            Mend(
                words=f"Thrown away, {100 * MARINADE_CLINGS:.0f} % clings",
                changes={"retained_share": MARINADE_CLINGS},
            ),
        ),
    )


def _tray_oil(pan: Pan, one: Ingredient) -> Finding | None:
    if one.role is not LineRole.FAT or pan.method not in TRAY_METHODS:
        return None
    if one.retained_share < 1 or one.purchased_g < TRAY_OIL_G or not one.counted:
        return None
    return Finding(
        code="tray-oil",
        words=f"All {weight(one.purchased_g)} of {one.name} count, the cautious way. If some stays on "
        "the tray, weigh it "
        "and set the share that stays in.",
        assumption=True,
    )


def _yield_unknown(pan: Pan, one: Ingredient) -> Finding | None:
    """A yield that nobody knows decides how thinly everything in the pan is spread."""
    unknown = one.expected is not None and one.expected.source is YieldSource.UNKNOWN
    if one.expected is None or not unknown or one.yield_factor is not None or pan.set_yield is not None:
        return None
    return Finding(
        code="yield-unknown",
        words=f"Nothing is known of how much of {one.name} is left when it is {pan.method}: "
        f"{100 * one.expected.expected:.0f} % is assumed, {100 * one.expected.low:.0f} to "
        f"{100 * one.expected.high:.0f} % is possible. Weigh this pan, or give a yield.",
    )


def _oil_forgotten(pan: Pan) -> Finding | None:
    if pan.method not in OIL_METHODS or any(ingredient.role is LineRole.FAT for ingredient in pan.ingredients):
        return None
    if not any(ingredient.role is LineRole.FOOD for ingredient in pan.ingredients):
        return None
    return Finding(
        code="oil-forgotten",
        words=f"{pan.name or 'This component'} is {pan.method} and no oil is listed. One tablespoon is {energy(120)}. "
        "Add it, or say that the pan is dry.",
    )


def _weighed_together(pan: Pan) -> Finding | None:
    """Meat weighed with vegetables against a meat target: the component is not what its role says."""
    if pan.role != "protein":
        return None
    foods = [ingredient for ingredient in pan.ingredients if ingredient.role is LineRole.FOOD]
    whole = sum(food.purchased_g for food in foods)
    greens = sum(food.purchased_g for food in foods if food.group in _VEGETABLE_GROUPS)
    if not whole or not VEGETABLE_SHARE < greens / whole < 1:
        return None
    return Finding(
        code="weighed-together",
        words=f"{100 * greens / whole:.0f} % of {pan.name or 'this protein'} are vegetables. Its "
        "grams are of the mixture, "
        "not of meat alone; its figures are right for the mixture. Call it mixed, or cook them apart.",
        mends=(Mend(words="Call it mixed", changes={"role": "mixed"}),),
    )


def _label(one: Ingredient) -> Finding | None:
    if not one.label:
        return None
    return Finding(code="label-conflict", words=f"{one.name}: {one.label}")


def _zeros(pan: Pan, one: Ingredient) -> Finding | None:
    """Rounded label figures that may move the whole pan: eight sprays of "0 kcal" are not nothing."""
    whole = sum(other.kcal for other in pan.ingredients)
    if not one.kcal_slack or one.kcal_slack <= _MOVES_KCAL_SHARE * whole:
        return None
    return Finding(
        code="label-zeros",
        words=f"{weight(one.purchased_g)} of {one.name} count {energy(one.kcal)} by its rounded "
        "label; it may be up to "
        f"{energy(one.kcal + one.kcal_slack)}.",
        assumption=True,
    )
