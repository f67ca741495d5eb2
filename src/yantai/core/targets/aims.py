"""What a coach aims at for every day of every client: vegetables and fruit, fibre, minerals."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from yantai.core.errors import require_range
from yantai.core.foods.nutrients import Amounts, Nutrient

PRODUCE_GROUPS = frozenset({"vegetables", "fruit"})
"""Groups of foods that count as vegetables and fruit; potatoes, starchy roots and pulses do not."""


@dataclass(frozen=True, slots=True)
class Produce:
    """Vegetables and fruit [g], edible and as weighed before cooking; `at_least` where not all that is eaten is
    known."""

    grams: float = 0.0
    at_least: bool = False

    def __add__(self, other: Produce) -> Produce:
        return Produce(self.grams + other.grams, self.at_least or other.at_least)


UNKNOWN_PRODUCE = Produce(0.0, at_least=True)


@dataclass(frozen=True, slots=True, kw_only=True)
class DailyAims:
    """The coach's aims for any day [g, mg]; None is not aimed at. Sodium is a most, the others are a least.

    Raises:
        OutOfRange: an aim is beyond what anybody eats.
    """

    produce_g: float | None = None
    fibre_g: float | None = None
    potassium_mg: float | None = None
    sodium_mg: float | None = None

    def __post_init__(self) -> None:
        for name, (_, most) in DAILY_AIMS.items():
            value = getattr(self, name)
            if value is not None:
                require_range(name, value, low=0, high=most, unit=name.rpartition("_")[2])


DAILY_AIMS: Mapping[str, tuple[str, float]] = {
    "produce_g": ("vegetables and fruit", 3000),
    "fibre_g": ("fibre", 200),
    "potassium_mg": ("potassium", 20_000),
    "sodium_mg": ("sodium", 20_000),
}
"""What each aim is called, and the most it may be."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AimStanding:
    """How a day stands to one of the aims; `missed` is None where nobody can say, or nothing is aimed at."""

    name: str
    unit: str
    side: str
    aim: float | None
    amount: float
    at_least: bool
    missed: bool | None


def aims_standing(aims: DailyAims, amounts: Amounts, produce: Produce) -> tuple[AimStanding, ...]:
    """A day against the coach's aims, whether they are set or not.

    A sum in which a figure is not known can reach a least, and can exceed a most; that it falls short, or stays below,
    it cannot say.
    """
    return tuple(_standing(field, getattr(aims, field), amounts, produce) for field in DAILY_AIMS)


def _standing(field: str, aim: float | None, amounts: Amounts, produce: Produce) -> AimStanding:
    amount, lower_bound = produce.grams, produce.at_least
    if field != "produce_g":
        amount, lower_bound = amounts[Nutrient(field)], Nutrient(field) in amounts.at_least
    most = field == "sodium_mg"
    missed = None
    if aim is not None:
        passed = amount > aim if most else amount >= aim
        missed = passed if most else not passed
        if lower_bound and not passed:
            missed = None
    return AimStanding(
        name=DAILY_AIMS[field][0],
        unit=field.rpartition("_")[2],
        side="at most" if most else "at least",
        aim=aim,
        amount=amount,
        at_least=lower_bound,
        missed=missed,
    )
