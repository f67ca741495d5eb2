"""Food labels: what rounded figures can mean, from a serving to 100 g, and whether they agree with themselves."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from enum import StrEnum
from typing import Any

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.energy import Carbohydrate, EnergyRule, kcal_by_rule
from yantai.core.foods.nutrients import STATED, Stated, Uncertainty
from yantai.core.quantities.units import kcal_from_kj

SODIUM_MG_PER_G_SALT = 400.0
"""Regulation (EU) 1169/2011, annex I: salt = sodium × 2.5."""
APART_SHARE = 0.10
APART_KCAL = 15.0
KJ_APART_SHARE = 0.04
"""A label counts kJ by 17 and 37 for each gram and kcal by 4 and 9: up to 2 % apart by themselves."""
SALT_APART_SHARE, SALT_APART_MG = 0.05, 40.0
"""Salt is stated to 0.1 g, which is 40 mg of sodium."""
MOST_MACROS_G = 101.0
"""Macros of 100 g of food [g]; one gram over for rounding."""


class Rounding(StrEnum):
    """How a label rounds. EXACT takes the figures as they stand."""

    US = "us"
    EU = "eu"
    EXACT = "exact"


@dataclass(frozen=True, slots=True)
class Band:
    """From `start` on, a label states multiples of `step`; a `step` of 0 states 0."""

    start: float
    step: float


_WHOLE_FROM_HALF = (Band(0, 0), Band(0.5, 1))
_EU_GRAMS = (Band(0, 0), Band(0.5, 0.1), Band(10, 1))
SCHOOLS: Mapping[Rounding, Mapping[str, tuple[Band, ...]]] = {
    Rounding.US: {
        "kcal": (Band(0, 0), Band(5, 5), Band(50, 10)),
        "protein_g": _WHOLE_FROM_HALF,
        "carbohydrate_g": _WHOLE_FROM_HALF,
        "fibre_g": _WHOLE_FROM_HALF,
        "sugars_g": _WHOLE_FROM_HALF,
        "polyols_g": _WHOLE_FROM_HALF,
        "fat_g": (Band(0, 0), Band(0.5, 0.5), Band(5, 1)),
        "saturated_g": (Band(0, 0), Band(0.5, 0.5), Band(5, 1)),
        "sodium_mg": (Band(0, 0), Band(5, 5), Band(140, 10)),
        "potassium_mg": (Band(0, 0), Band(5, 5), Band(140, 10)),
    },
    Rounding.EU: {
        "kcal": (Band(0, 1),),
        "protein_g": _EU_GRAMS,
        "carbohydrate_g": _EU_GRAMS,
        "fibre_g": _EU_GRAMS,
        "sugars_g": _EU_GRAMS,
        "polyols_g": _EU_GRAMS,
        "fat_g": _EU_GRAMS,
        "saturated_g": (Band(0, 0), Band(0.1, 0.1), Band(10, 1)),
        "sodium_mg": (Band(0, 0), Band(5, 4), Band(400, 40)),
    },
    Rounding.EXACT: {},
}
"""US: 21 CFR 101.9(c), per serving. EU: the Commission's guidance on tolerances of December 2012, table 4,
per 100 g; salt is stated to 0.01 g below 1 g and 0.1 g above, which is 4 and 40 mg of sodium."""


def rounded(school: Rounding, nutrient: str, value: float) -> float:
    """What a label of `school` states for a true `value` (g, mg or kcal), halves up.

    >>> rounded(Rounding.US, "kcal", 4.9), rounded(Rounding.US, "kcal", 47.4), rounded(Rounding.US, "fat_g", 0.4)
    (0.0, 45.0, 0.0)
    """
    bands = SCHOOLS[school].get(nutrient)
    if bands is None:
        return value
    step = next(band.step for band in reversed(bands) if value >= band.start)
    return float(math.floor(value / step + 0.5) * step) if step else 0.0


def interval(school: Rounding, nutrient: str, stated: float) -> tuple[float, float]:
    """The least and the most that a true value can be when a label of `school` states `stated`.

    >>> interval(Rounding.US, "kcal", 0), interval(Rounding.US, "kcal", 90)
    ((0.0, 5.0), (85.0, 95.0))
    """
    bands = SCHOOLS[school].get(nutrient)
    if bands is None:
        return stated, stated
    lows, highs = [], []
    for index, band in enumerate(bands):
        end = bands[index + 1].start if index + 1 < len(bands) else math.inf
        low = max(stated - band.step / 2, band.start) if band.step else 0.0
        high = float(min(stated + band.step / 2, end) if band.step else end)
        # The least that is ever stated in this band: 45 kcal cannot be a rounded 50.
        least = math.floor(band.start / band.step + 0.5) * band.step if band.step else 0.0
        fits = stated == 0 if not band.step else low <= high and least - 1e-9 <= stated
        if fits and low <= end:
            lows.append(low)
            highs.append(high)
    # A figure written more finely than the school rounds is taken at its word, give or take the last step.
    return (min(lows), max(highs)) if lows else (stated, stated)


_MOST_PER_G = {"kcal": 9.5, "kj": 40.0, "sodium_mg": 400.0, "potassium_mg": 525.0}
"""The most that a gram of anything holds [kcal, kJ, mg]: of sodium its chloride, of potassium its own."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Label:
    """A label as it is printed. None is "not stated".

    Attributes:
        serving_g: the grams that the figures are for: a serving, or 100 [g].
        serving_ml, ml_weighs_g: the millilitres [ml] they are printed for, and what one weighs [g]; both or neither.
        kcal, kj: energy; kcal wins where both stand.
        salt_g, sodium_mg: one of them at most is used; sodium wins.
        carbohydrate: whether the carbohydrate holds the fibre (total) or not (available).
        rounding: the school by which the figures were rounded.
    """

    serving_g: float
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    kcal: float | None = None
    kj: float | None = None
    fibre_g: float | None = None
    sugars_g: float | None = None
    saturated_g: float | None = None
    salt_g: float | None = None
    sodium_mg: float | None = None
    potassium_mg: float | None = None
    alcohol_g: float | None = None
    polyols_g: float | None = None
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL
    rounding: Rounding = Rounding.EXACT
    serving_ml: float | None = None
    ml_weighs_g: float | None = None

    @classmethod
    def of(cls, figures: Mapping[str, Any]) -> Label:
        """The label of figures by the names of these fields, its carbohydrate and rounding as words.

        Where it is printed for millilitres, its grams follow from what one weighs.

        Raises:
            CoreError: a figure makes no sense.
        """
        values = dict(figures)
        carbohydrate, rounding = Carbohydrate(values.pop("carbohydrate")), Rounding(values.pop("rounding"))
        volume, one_g = values.get("serving_ml"), values.get("ml_weighs_g")
        if volume is not None:
            if one_g is None:
                raise CoreError(
                    "1 ml has to be weighed: fill a cup of it on the scale and divide the grams by its millilitres "
                    "(water 1, oil 0.92, syrup 1.4)",
                    field="ml_weighs_g",
                )
            require_range("serving_ml", volume, low=0.1, high=5000, unit="ml")
            require_range("ml_weighs_g", one_g, low=0.05, high=2, unit="g per ml")
            values["serving_g"] = volume * one_g
        return cls(**values, carbohydrate=carbohydrate, rounding=rounding)

    def __post_init__(self) -> None:
        require_range("serving_g", self.serving_g, low=0.1, high=5000, unit="g")
        for name in LABEL_FIGURES:
            value = getattr(self, name)
            if value is None:
                continue
            if name.endswith("_g"):
                require_range(name, value, low=0, high=self.serving_g * 1.01 + 1, unit=f"g in {self.serving_g:g} g")
            else:
                most = self.serving_g * _MOST_PER_G[name] + 10
                require_range(name, value, low=0, high=most, unit=f"in {self.serving_g:g} g")
        least = sum(self._interval(name)[0] for name in ("protein_g", "carbohydrate_g", "fat_g"))
        if 100 * least / self.serving_g > MOST_MACROS_G:
            raise CoreError(
                f"protein, carbohydrate and fat add up to {least:g} g in {self.serving_g:g} g: check the serving size, "
                "or whether the figures are per 100 g",
                field="serving_g",
            )

    @property
    def stated_kcal(self) -> float | None:
        """Energy of `serving_g` [kcal], from kJ where no kcal are printed."""
        if self.kcal is not None:
            return self.kcal
        return None if self.kj is None else kcal_from_kj(self.kj)

    @property
    def stated_sodium_mg(self) -> float | None:
        """Sodium [mg] of `serving_g`, from salt where no sodium is printed."""
        if self.sodium_mg is not None:
            return self.sodium_mg
        return None if self.salt_g is None else self.salt_g * SODIUM_MG_PER_G_SALT

    def per_100g(self) -> Stated:
        """What 100 g hold, with the uncertainty that rounding leaves.

        A US label of 5 ml at "0 kcal" may hold almost 5 kcal, which is almost 100 kcal in 100 g.

        >>> oil = Label(serving_g=5, kcal=0, protein_g=0, carbohydrate_g=0, fat_g=0, rounding=Rounding.US)
        >>> oil.per_100g().uncertainty["stated_kcal"]
        (0.0, 100.0)
        """
        factor = 100 / self.serving_g
        values = {name: getattr(self, name) for name in STATED if name != "stated_kcal"}
        values["sodium_mg"] = self.stated_sodium_mg
        uncertainty: dict[str, Uncertainty] = {}
        for name, value in {**values, "stated_kcal": self.stated_kcal}.items():
            if value is None:
                continue
            low, high = self._interval(name)
            # 100 g hold no more than 100 g of anything, however little a tiny serving says.
            most = max(100.0 - value * factor, 0.0) if name.endswith("_g") else math.inf
            if high > low:
                uncertainty[name] = ((value - low) * factor, min((high - value) * factor, most))
        kcal = self.stated_kcal
        return Stated(
            **{name: None if value is None else value * factor for name, value in values.items()},
            stated_kcal=None if kcal is None else kcal * factor,
            carbohydrate=self.carbohydrate,
            uncertainty=uncertainty or None,
        )

    def _interval(self, name: str) -> tuple[float, float]:
        value = {"stated_kcal": self.stated_kcal, "sodium_mg": self.stated_sodium_mg}.get(name)
        value = getattr(self, name) if value is None and name not in ("stated_kcal", "sodium_mg") else value
        if value is None:
            return 0.0, 0.0
        return interval(self.rounding, "kcal" if name == "stated_kcal" else name, value)


LABEL_FIGURES = tuple(
    field.name
    for field in fields(Label)
    if (field.default is None and not field.name.endswith("_ml") and field.name != "ml_weighs_g")
    or field.name in ("protein_g", "carbohydrate_g", "fat_g")
)
"""The figures that a label may print."""


def contradictions(label: Label) -> list[str]:
    """What a label says twice and not alike, beyond its rounding, in words.

    >>> contradictions(Label(serving_g=100, protein_g=1, carbohydrate_g=5, sugars_g=7, fat_g=2, saturated_g=2))
    ['Of 5 g carbohydrate, 7 g cannot be sugars: check both figures.']
    """
    found = []
    for part, whole, of, words in (
        ("saturated_g", "fat_g", "fat", "saturates"),
        ("sugars_g", "carbohydrate_g", "carbohydrate", "sugars"),
    ):
        held, most = getattr(label, part), getattr(label, whole)
        if held is not None and most is not None and label._interval(part)[0] > label._interval(whole)[1]:
            found.append(f"Of {most:g} g {of}, {held:g} g cannot be {words}: check both figures.")
    if label.kcal is not None and label.kj is not None:
        apart = abs(label.kcal - kcal_from_kj(label.kj))
        low, high = interval(label.rounding, "kcal", label.kcal)
        if apart > KJ_APART_SHARE * label.kcal + max(high - label.kcal, label.kcal - low) + 1:
            found.append(
                f"{label.kj:,.10g} kJ are {kcal_from_kj(label.kj):,.0f} kcal, and {label.kcal:,.10g} kcal are stated: "
                "check both. The kcal are counted."
            )
    if label.salt_g is not None and label.sodium_mg is not None:
        of_salt = label.salt_g * SODIUM_MG_PER_G_SALT
        if abs(of_salt - label.sodium_mg) > SALT_APART_SHARE * label.sodium_mg + SALT_APART_MG:
            found.append(
                f"{label.salt_g:g} g salt hold {of_salt:,.0f} mg sodium, and {label.sodium_mg:,.10g} mg are stated: "
                "check both. The sodium is counted."
            )
    return found


READINGS: Mapping[str, str] = {
    "general": "4/9/4 with all carbohydrate at 4",
    "net": "4/9/4 with fibre at 0",
    "eu": "4/9/4 with fibre at 2",
    "twice": "4/9/4 with fibre counted on top of a carbohydrate that already holds it",
}
"""The ways a label may have counted its fibre, in words."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Audit:
    """Stated kcal against stated macros, per 100 g.

    Attributes:
        stated_kcal: as printed [kcal].
        implied_kcal: from the macros by the label's own likely rule [kcal].
        apart_kcal: the gap that rounding does not explain [kcal]; 0 when it does.
        readings: kcal by each reading of the fibre [kcal].
        explained_by: the reading that agrees, when the general one does not; "" if none.
    """

    stated_kcal: float
    implied_kcal: float
    apart_kcal: float
    readings: Mapping[str, float] = field(default_factory=dict)
    explained_by: str = ""

    @property
    def conflict(self) -> bool:
        """More than 10 % or 15 kcal apart, beyond rounding."""
        return _conflicts(self.apart_kcal, self.stated_kcal)


def _conflicts(apart_kcal: float, stated_kcal: float) -> bool:
    return apart_kcal > APART_KCAL or apart_kcal > max(APART_SHARE * stated_kcal, 1.0)


def audit(stated: Stated) -> Audit | None:
    """Compare the energy that a source states with its macros; None when one of them is missing.

    >>> bar = Stated(protein_g=20, carbohydrate_g=60, fat_g=8, fibre_g=30, stated_kcal=275)
    >>> found = audit(bar)
    >>> found.implied_kcal, found.explained_by
    (392.0, 'net')
    """
    if stated.stated_kcal is None or None in (stated.protein_g, stated.carbohydrate_g, stated.fat_g):
        return None
    fibre = stated.fibre_g or 0.0
    carbohydrate = stated.carbohydrate_g or 0.0
    total = carbohydrate if stated.carbohydrate is Carbohydrate.TOTAL else carbohydrate + fibre
    available = max(total - fibre, 0.0)
    parts = {
        "protein_g": stated.protein_g or 0.0,
        "total_g": total,
        "available_g": available,
        "fat_g": stated.fat_g or 0.0,
        "fibre_g": fibre,
        "polyols_g": stated.polyols_g or 0.0,
        "alcohol_g": stated.alcohol_g or 0.0,
    }
    readings = {
        "general": kcal_by_rule(EnergyRule.GENERAL, **parts),
        "net": kcal_by_rule(EnergyRule.NET, **parts),
        "eu": kcal_by_rule(EnergyRule.EU, **parts),
        "twice": kcal_by_rule(EnergyRule.GENERAL, **{**parts, "total_g": total + fibre}),
    }
    usual = "eu" if stated.carbohydrate is Carbohydrate.AVAILABLE else "general"
    uncertainty = stated.uncertainty or {}
    room = sum(uncertainty.get("stated_kcal", (0.0, 0.0))) / 2
    room += sum(
        factor * max(uncertainty.get(name, (0.0, 0.0)))
        for name, factor in (("protein_g", 4), ("carbohydrate_g", 4), ("fat_g", 9))
    )
    gaps = {name: max(abs(stated.stated_kcal - kcal) - room, 0.0) for name, kcal in readings.items()}
    explained = ""
    if _conflicts(gaps[usual], stated.stated_kcal):
        fitting = [name for name in readings if name != usual and not _conflicts(gaps[name], stated.stated_kcal)]
        explained = min(fitting, key=lambda name: gaps[name], default="")
    return Audit(
        stated_kcal=stated.stated_kcal,
        implied_kcal=readings[usual],
        apart_kcal=gaps[usual],
        readings=readings,
        explained_by=explained,
    )
