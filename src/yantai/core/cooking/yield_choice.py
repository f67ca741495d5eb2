"""Which yield a food has by a way of cooking: its own, else that of its nearest relative."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from yantai.core.cooking.components import UNCOOKED, LineRole
from yantai.core.cooking.yields import DRY_KEPT, KEPT, MAXIMUM_YIELD, READY, TAKEN_UP, UNCHANGED, UNKNOWN, YieldRange
from yantai.core.words import folded_words, same_words


class Family(StrEnum):
    """Ways of cooking that treat food alike: in water or steam, in dry heat, in fat."""

    MOIST = "moist heat"
    DRY = "dry heat"
    FAT = "in fat"


_SHORT_MOIST = ("boiled", "simmered", "poached", "steamed", "microwaved")
_LONG_MOIST = ("braised", "slow-cooked", "pressure-cooked")
NEAREST: Mapping[str, tuple[str, ...]] = {
    "boiled": ("simmered", "poached", "steamed", "microwaved", "pressure-cooked", "braised", "slow-cooked", "steeped"),
    "simmered": ("boiled", "poached", "braised", "steamed", "pressure-cooked", "slow-cooked", "microwaved", "steeped"),
    "poached": ("simmered", "boiled", "steamed", "microwaved", "braised", "slow-cooked", "pressure-cooked", "steeped"),
    "steamed": ("boiled", "poached", "simmered", "microwaved", "pressure-cooked", "braised", "slow-cooked", "steeped"),
    "microwaved": ("steamed", "boiled", "poached", "simmered", "pressure-cooked", "braised", "slow-cooked", "steeped"),
    "pressure-cooked": ("braised", "slow-cooked", "simmered", "boiled", "poached", "steamed", "microwaved", "steeped"),
    "slow-cooked": ("braised", "pressure-cooked", "simmered", "boiled", "poached", "steamed", "microwaved", "steeped"),
    "braised": ("slow-cooked", "pressure-cooked", "simmered", "boiled", "poached", "steamed", "microwaved", "steeped"),
    "roasted": ("baked", "air-fried", "grilled", "toasted"),
    "baked": ("roasted", "air-fried", "grilled", "toasted"),
    "air-fried": ("roasted", "baked", "grilled"),
    "grilled": ("roasted", "baked", "air-fried", "toasted"),
    "pan-fried": ("sauteed", "stir-fried"),
    "sauteed": ("stir-fried", "pan-fried"),
    "stir-fried": ("sauteed", "pan-fried"),
}
"""Methods of one family whose yields may stand in for those of a method, nearest first."""

FAMILY_OF: Mapping[str, Family] = {
    **dict.fromkeys((*_SHORT_MOIST, *_LONG_MOIST), Family.MOIST),
    **dict.fromkeys(("roasted", "baked", "air-fried", "grilled"), Family.DRY),
    **dict.fromkeys(("pan-fried", "sauteed", "stir-fried"), Family.FAT),
}
_ACROSS: Mapping[Family, tuple[str, ...]] = {
    Family.MOIST: ("baked", "roasted", "pan-fried", "grilled", "stir-fried", "sauteed", "air-fried"),
    Family.DRY: ("pan-fried", "stir-fried", "sauteed", "braised", "simmered", "boiled", "poached", "steamed"),
    Family.FAT: ("grilled", "roasted", "baked", "air-fried", "braised", "simmered", "boiled", "poached", "steamed"),
}
_ALIKE_ACROSS = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs", "soy-plant-protein")
"""Groups that lose about as much in any heat; vegetables do not: boiled broccoli keeps 0.93, roasted 0.69."""

TAKES_UP = ("grains-pasta", "legumes", "soy-plant-protein")
"""Groups whose dry foods take up water, whatever the way of cooking."""

_WET_SOLIDS_G = {"dairy-alternatives": 20.0, "sauces-stocks": 25.0, "vegetables": 12.0}
"""What is wet of a group: at most so many grams of solids in 100 g. Milk has 12, passata 9, a thick sauce 25."""
_STOCK_SOLIDS_G = 8.0

FAMILY_SPREAD = 0.10
"""How much wider [share] a range becomes that is borrowed within a family: between the dry methods of one meat the
reference table differs by up to 0.08 (tests/core/cooking/test_yields.py)."""
ACROSS_SPREAD = 0.20
"""The same across families: fish baked and poached, and meat grilled and braised, differ by up to 0.15."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cookable:
    """What the choice of a yield needs to know of a food.

    Attributes:
        solids_g: protein, fat and carbohydrate in 100 g [g]: what of it is not water.
        is_water: it is water itself.
    """

    name: str
    group: str
    state: str
    solids_g: float = 100.0
    is_water: bool = False

    @property
    def role(self) -> LineRole:
        """How it counts in the yield: stock is water with something in it."""
        if self.is_water or self._is_stock:
            return LineRole.WATER
        if self.group == "fats-oils":
            return LineRole.FAT
        return LineRole.SEASONING if self.group == "herbs-spices" else LineRole.FOOD

    @property
    def is_wet(self) -> bool:
        """Milk, tomatoes in their juice, thin sauces: dry food takes up water from it."""
        if self.state not in ("as-sold", "canned-drained") or self.role is not LineRole.FOOD:
            return False
        most = _WET_SOLIDS_G.get(self.group)
        return most is not None and self.solids_g <= most

    @property
    def _is_stock(self) -> bool:
        words = same_words(folded_words(self.name))
        return "stock" in words and self.state == "as-sold" and self.solids_g <= _STOCK_SOLIDS_G


@dataclass(frozen=True, slots=True, kw_only=True)
class Factors:
    """What is known of a food's yields by method: published for it, by nutrient balance, and for its group."""

    own: Mapping[str, YieldRange] = field(default_factory=dict)
    balance: Mapping[str, YieldRange] = field(default_factory=dict)
    group: Mapping[str, YieldRange] = field(default_factory=dict)


def takes_up_water(food: Cookable) -> bool:
    """A dry grain, pulse or soya, and pasta, fresh too."""
    is_dry = food.state == "dry" or (food.state == "raw" and food.group == "grains-pasta")
    return food.role is LineRole.FOOD and is_dry and food.group in TAKES_UP


def choose(food: Cookable, method: str, factors: Factors) -> YieldRange:
    """The yield to expect of a food by a method, before anything was measured.

    In this order: the food's own factor for the method; its nutrient balance; its own factor for a method of the
    same family, nearest first; the group's factor for the method, then for one of the family; for meat, fish, eggs
    and soya also across families. What is dry and takes up water does so by any method. A factor of a relative says
    so and has a wider range. Where nothing is known, `UNKNOWN`.
    """
    if method == UNCOOKED:
        return UNCHANGED
    if food.role is LineRole.WATER:
        return TAKEN_UP
    if food.role is not LineRole.FOOD:
        return KEPT
    found = factors.own.get(method) or factors.balance.get(method)
    if found is not None:
        return found
    if takes_up_water(food):
        return _taken_up(method, factors)
    if food.state == "dry":
        return DRY_KEPT
    near, across = NEAREST.get(method, ()), _ACROSS[FAMILY_OF[method]] if method in FAMILY_OF else ()
    alike = food.group in _ALIKE_ACROSS
    found = _borrowed(factors.own, near, FAMILY_SPREAD) or _borrowed(factors.balance, near, FAMILY_SPREAD)
    if found is None and alike:
        found = _borrowed(factors.own, across, ACROSS_SPREAD) or _borrowed(factors.balance, across, ACROSS_SPREAD)
    if found is not None:
        return found
    if food.state in ("cooked", "canned-drained", "as-sold"):
        return READY
    found = factors.group.get(method) or _borrowed(factors.group, near, FAMILY_SPREAD)
    if found is None and alike:
        found = _borrowed(factors.group, across, ACROSS_SPREAD)
    return found or UNKNOWN


def _taken_up(method: str, factors: Factors) -> YieldRange:
    """The yield of what takes up water: its own of the nearest moist method, then the group's."""
    moist = (method, *NEAREST[method]) if FAMILY_OF.get(method) is Family.MOIST else ("boiled", *NEAREST["boiled"])
    return (
        _borrowed(factors.own, moist, FAMILY_SPREAD)
        or _borrowed(factors.balance, moist, FAMILY_SPREAD)
        or (factors.group.get(method) if method in moist else None)
        or _borrowed(factors.group, moist, FAMILY_SPREAD)
        or UNKNOWN
    )


def _borrowed(known: Mapping[str, YieldRange], methods: tuple[str, ...], spread: float) -> YieldRange | None:
    """The factor of the first of these methods that has one, with a wider range."""
    method = next((method for method in methods if method in known), None)
    if method is None:
        return None
    found = known[method]
    return replace(
        found,
        low=found.low * (1 - spread),
        high=min(found.high * (1 + spread), MAXIMUM_YIELD),
        note=f"as {method}, with a wider range",
    )
