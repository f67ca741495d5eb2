"""A day of a client: extras come off first, the prepared slots share what is left (domain, section 5)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.energy import general_kcal
from yantai.core.foods.nutrients import AIMED, MACROS, NOTHING, NUTRIENTS, Amounts, Nutrient, total
from yantai.core.targets.targets import AT_LEAST, AT_MOST, Tolerance

ANY_DAY = "any"
"""The day type of a slot that is the same on every day."""

DAY_LIMITS: Mapping[Nutrient, float] = {
    Nutrient.KCAL: 12_000,
    Nutrient.PROTEIN: 800,
    Nutrient.CARBOHYDRATE: 2000,
    Nutrient.FAT: 600,
    Nutrient.FIBRE: 200,
    Nutrient.SATURATED: 500,
    Nutrient.SODIUM: 20_000,
}
"""The most a whole day may aim at [kcal, g, mg]: more than the largest athlete eats, so only slips lie above."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Day:
    """What a whole day shall hold, and what of it is eaten outside the containers.

    Attributes:
        figures: aims and limits by nutrient [kcal, g, mg]; at least one is an aim.
        extras: everything eaten outside the containers together.
    """

    figures: Mapping[Nutrient, float]
    extras: Amounts = NOTHING

    def __post_init__(self) -> None:
        if not any(nutrient in AIMED for nutrient in self.figures):
            raise CoreError("a day needs at least one of protein, carbohydrate, fat and kcal", field="protein_g")
        for nutrient, value in self.figures.items():
            unit = {Nutrient.KCAL: "kcal", Nutrient.SODIUM: "mg"}.get(nutrient, "g")
            require_range(nutrient, value, low=0, high=DAY_LIMITS[nutrient], unit=unit)

    @property
    def left(self) -> dict[Nutrient, float]:
        """What the containers of the day shall hold together: never below nothing."""
        return {nutrient: max(value - self.extras[nutrient], 0.0) for nutrient, value in self.figures.items()}

    @property
    def over(self) -> dict[Nutrient, float]:
        """What the extras alone hold beyond the day; having more of a minimum is none."""
        beyond = {
            nutrient: self.extras[nutrient] - value
            for nutrient, value in self.figures.items()
            if nutrient not in AT_LEAST
        }
        return {nutrient: value for nutrient, value in beyond.items() if value > 0}

    def share(self, share: float) -> dict[Nutrient, float]:
        """What one slot of this share of the rest shall hold. The shares of a day add up to its rest.

        Raises:
            OutOfRange: `share` is not between 1 % and the whole.
        """
        require_range("day_share", share, low=0.01, high=1, unit="of the day")
        return {nutrient: value * share for nutrient, value in self.left.items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """How a day stands to one of its figures; `miss` is the signed excess over the tolerance, as of a container."""

    nutrient: Nutrient
    target: float
    tolerance: float
    amount: float
    miss: float
    at_least: bool

    @property
    def unsure(self) -> bool:
        """Nobody can say whether it is met: what is not known may bring a sum into its band, or beyond it. A least that
        is reached, and a most that is passed, are certain."""
        reached = self.miss == 0 and self.nutrient in AT_LEAST
        return self.at_least and self.miss <= 0 and not reached


def standings(day: Day, containers: Iterable[Amounts], tolerance: Tolerance) -> tuple[Standing, ...]:
    """A day against its figures, with its extras and these containers.

    The tolerance of a day is that of each container together: a day of containers that all lie inside does too. In
    percent it is that share of what the extras leave.
    """
    held = list(containers)
    amounts = total([day.extras, *held])
    left, times = day.left, 1 if tolerance.percent else max(len(held), 1)
    return tuple(
        _standing(
            nutrient,
            value,
            amounts,
            tolerance.band(nutrient, left[nutrient]) * times if nutrient in AIMED else 0.0,
        )
        for nutrient, value in day.figures.items()
    )


def _standing(nutrient: Nutrient, target: float, amounts: Amounts, band: float) -> Standing:
    amount = amounts[nutrient]
    below, above = min(amount - (target - band), 0.0), max(amount - (target + band), 0.0)
    if nutrient in AT_LEAST:
        above = 0.0
    if nutrient in AT_MOST:
        below = 0.0
    return Standing(
        nutrient=nutrient,
        target=target,
        tolerance=band,
        amount=amount,
        miss=below + above,
        at_least=nutrient in amounts.at_least,
    )


def as_targeted(figures: Mapping[Nutrient, float]) -> Amounts:
    """The amounts of a container that holds just what it aims at; what is not aimed at is a lower bound of 0.

    Energy that is not aimed at follows from the three macros at 4/4/9.
    """
    known = {nutrient: value for nutrient, value in figures.items() if nutrient in AIMED}
    if Nutrient.KCAL not in known and all(nutrient in known for nutrient in MACROS):
        known[Nutrient.KCAL] = general_kcal(
            protein_g=known[Nutrient.PROTEIN],
            carbohydrate_g=known[Nutrient.CARBOHYDRATE],
            fat_g=known[Nutrient.FAT],
        )
    return Amounts(
        tuple(known.get(nutrient, 0.0) for nutrient in NUTRIENTS),
        frozenset(nutrient for nutrient in NUTRIENTS if nutrient not in known),
    )


def slots_of_day(slots: Iterable[tuple[str, str]], day_type: str) -> list[int]:
    """Places of the slots (slot, day type) that are eaten on a day: its own, and those of any day that it lacks."""
    keyed = [(slot.casefold(), kind.casefold()) for slot, kind in slots]
    own = {slot for slot, kind in keyed if kind == day_type.casefold()}
    return [
        index
        for index, (slot, kind) in enumerate(keyed)
        if kind == day_type.casefold() or (kind == ANY_DAY and slot not in own)
    ]
