"""What a quantity is, and the words people use for its unit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.quantities.units import MASS_UNITS, VOLUME_UNITS

LARGEST_AMOUNT = 1_000_000.0


class Kind(StrEnum):
    """What a unit measures."""

    MASS = "mass"
    VOLUME = "volume"
    COUNT = "count"


UNIT_WORDS: Mapping[str, tuple[str, ...]] = {
    "g": ("g", "gr", "grs", "grm", "grms", "gm", "gms", "gram", "grams", "gramme", "grammes", "gramos", "gramm"),
    "kg": ("kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"),
    "mg": ("mg", "milligram", "milligrams"),
    "oz": ("oz", "ozs", "ounce", "ounces"),
    "lb": ("lb", "lbs", "pound", "pounds"),
    "ml": ("ml", "mls", "mil", "mils", "millilitre", "millilitres", "milliliter", "milliliters"),
    "cl": ("cl", "centilitre", "centilitres", "centiliter", "centiliters"),
    "dl": ("dl", "decilitre", "decilitres", "deciliter", "deciliters"),
    "l": ("l", "ltr", "ltrs", "litre", "litres", "liter", "liters"),
    "fl oz": ("fl oz", "floz", "fluid ounce", "fluid ounces"),
    "tsp": (
        "tsp",
        "tsps",
        "teasp",
        "tl",
        "tsk",
        "cdta",
        "cdtas",
        "cucchiaino",
        "cucchiaini",
        "teaspoon",
        "teaspoons",
        "teaspoonful",
        "teaspoonfuls",
    ),
    "tbsp": (
        "tbsp",
        "tbsps",
        "tablesp",
        "el",
        "msk",
        "cda",
        "cdas",
        "cucchiaio",
        "cucchiai",
        "tbs",
        "tbl",
        "tablespoon",
        "tablespoons",
        "tablespoonful",
        "tablespoonfuls",
    ),
    "cup": ("cup", "cups", "cupful", "cupfuls"),
    "pint": ("pint", "pints", "pt", "pts"),
    "quart": ("quart", "quarts", "qt", "qts"),
    "gallon": ("gallon", "gallons", "gal", "gals"),
    "pinch": ("pinch", "pinches"),
    "dash": ("dash", "dashes"),
    "can": ("can", "cans", "tin", "tins"),
    "jar": ("jar", "jars"),
    "packet": (
        "packet",
        "packets",
        "pkg",
        "pkgs",
        "envelope",
        "envelopes",
        "pack",
        "packs",
        "pkt",
        "package",
        "packages",
        "pouch",
        "pouches",
        "box",
        "boxes",
        "sachet",
        "sachets",
        "carton",
        "cartons",
        "tray",
        "trays",
        "punnet",
        "punnets",
        "net",
        "nets",
    ),
    "bottle": ("bottle", "bottles"),
    "glass": ("glass", "glasses"),
    "ball": ("ball", "balls"),
    "bulb": ("bulb", "bulbs"),
    "sheet": ("sheet", "sheets"),
    "loaf": ("loaf", "loaves"),
    "cube": ("cube", "cubes"),
    "bag": ("bag", "bags"),
    "tub": ("tub", "tubs", "pot", "pots"),
    "block": ("block", "blocks"),
    "bunch": ("bunch", "bunches", "bund"),
    "clove": ("clove", "cloves"),
    "slice": ("slice", "slices", "rasher", "rashers"),
    "fillet": ("fillet", "fillets"),
    "head": ("head", "heads"),
    "stalk": ("stalk", "stalks", "stick", "sticks", "rib", "ribs"),
    "sprig": ("sprig", "sprigs"),
    "leaf": ("leaf", "leaves"),
    "floret": ("floret", "florets"),
    "spear": ("spear", "spears"),
    "segment": ("segment", "segments"),
    "wedge": ("wedge", "wedges"),
    "handful": ("handful", "handfuls"),
    "knob": ("knob", "knobs", "thumb", "thumbs"),
    "scoop": ("scoop", "scoops"),
    "ear": ("ear", "ears"),
    "nest": ("nest", "nests"),
    "piece": ("piece", "stk", "pieces", "pc", "pcs"),
}
"""Units by the one name used inside, with the words read for each. A bare number counts pieces."""

UNIT_OF_WORD: Mapping[str, str] = {word: unit for unit, words in UNIT_WORDS.items() for word in words}
SIZES = ("small", "medium", "large")
PINCH_G: Mapping[str, float] = {"pinch": 0.35, "dash": 0.6}
"""Grams of a pinch [g], a sixteenth of a teaspoon of table salt (reference: 6 g a teaspoon), and of a dash,
an eighth of a teaspoon of it; of any dry seasoning about as much."""


def kind_of(unit: str) -> Kind:
    """What `unit` measures."""
    if unit in MASS_UNITS:
        return Kind.MASS
    return Kind.VOLUME if unit in VOLUME_UNITS else Kind.COUNT


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """An amount of a unit, or a range of it.

    Attributes:
        low, high: the amount; equal unless a range is written ("2-3").
        unit: a key of `UNIT_WORDS`.
        size: small, medium or large pieces, or "".
        each: what one unit holds, as in "2 x 400 g cans" [a mass or volume].
        about: written as a rough figure ("about", "~", "heaped").
        heaped: a heaped spoon or cup.
        more: volumes of other units that come on top, as in "2 tbsp + 1 tsp".
    """

    low: float
    high: float
    unit: str
    size: str = ""
    each: Quantity | None = None
    about: bool = False
    heaped: bool = False
    more: tuple[Quantity, ...] = ()

    def __post_init__(self) -> None:
        if self.unit not in UNIT_WORDS:
            raise CoreError(f"“{self.unit}” is no unit", field="unit")
        require_range("amount", self.low, low=0, high=LARGEST_AMOUNT, unit=self.unit)
        require_range("amount", self.high, low=self.low, high=LARGEST_AMOUNT, unit=self.unit)

    @property
    def amount(self) -> float:
        """The middle of the range."""
        return (self.low + self.high) / 2

    @property
    def kind(self) -> Kind:
        """What its unit measures."""
        return kind_of(self.unit)

    def __str__(self) -> str:
        """As people write it; the grammar reads it back to the same quantity."""
        number = _number(self.low) if self.low == self.high else f"{_number(self.low)}-{_number(self.high)}"
        parts = ["about" if self.about else "", number]
        parts += [f"x {self.each}" if self.each else "", "heaped" if self.heaped else "", self.size, self.unit]
        return " + ".join([" ".join(part for part in parts if part), *map(str, self.more)])


def _number(value: float) -> str:
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return text or "0"
