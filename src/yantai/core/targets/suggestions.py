"""Suggested daily targets: formulas with their sources, and where none may be suggested at all."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.foods.energy import CARBOHYDRATE_KCAL_PER_G, FAT_KCAL_PER_G, PROTEIN_KCAL_PER_G
from yantai.core.speaking import energy, energy_by_formula

ADULT_AGE = 18
LEAST_BMI = 18.5
LARGEST_DEFICIT = 0.25
MOST_PROTEIN_G_PER_KG = 2.5
LEAST_FAT_G_PER_KG = 0.5
FASTEST_LOSS_SHARE = 0.01
KCAL_PER_KG = 7700.0
"""Energy of a kilogram of body weight, a rule of thumb [kcal/kg]: M. Wishnofsky, Am J Clin Nutr 6 (1958) 542."""


class Sex(StrEnum):
    """Which constant of the resting energy formula applies."""

    FEMALE = "female"
    MALE = "male"


class Condition(StrEnum):
    """What belongs to a doctor or registered dietitian."""

    PREGNANT_OR_NURSING = "pregnant or nursing"
    KIDNEY_OR_LIVER = "kidney or liver disease"
    DIABETES_MEDICATION = "diabetes on medication"
    DISORDERED_EATING = "a history of disordered eating"


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Who the targets are for.

    Attributes:
        age_y: age [years].
        height_cm, weight_kg: body height [cm] and weight [kg].
        activity: maintenance energy over resting energy, 1.2 (desk) to 2.4 (hard daily training).
        body_fat_share: share of the weight that is fat, None where it is not known.
    """

    sex: Sex
    age_y: float
    height_cm: float
    weight_kg: float
    activity: float
    body_fat_share: float | None = None
    conditions: frozenset[Condition] = frozenset()

    def __post_init__(self) -> None:
        require_range("age_y", self.age_y, low=1, high=110, unit="years")
        require_range("height_cm", self.height_cm, low=100, high=230, unit="cm")
        require_range("weight_kg", self.weight_kg, low=25, high=300, unit="kg")
        require_range("activity", self.activity, low=1.1, high=2.5, unit="times resting energy")
        if self.body_fat_share is not None:
            require_range("body_fat_share", self.body_fat_share, low=0.03, high=0.65, unit="of the weight")

    @property
    def bmi(self) -> float:
        """Body mass index [kg/m²]."""
        return self.weight_kg / (self.height_cm / 100) ** 2


def referrals(person: Person) -> list[str]:
    """Why no targets are suggested for this person, in words; empty where they may be."""
    found = []
    if person.age_y < ADULT_AGE:
        found.append(f"under {ADULT_AGE}")
    if person.bmi < LEAST_BMI:
        found.append(f"a body mass index of {person.bmi:.1f}, under {LEAST_BMI}")
    return found + [condition.value for condition in Condition if condition in person.conditions]


def mifflin_st_jeor(person: Person) -> float:
    """Resting energy [kcal a day]: `10 w + 6.25 h - 5 a + 5` for men, `- 161` for women.

    Source: M. D. Mifflin, S. T. St Jeor et al., Am J Clin Nutr 51 (1990) 241-247.

    >>> mifflin_st_jeor(Person(sex=Sex.FEMALE, age_y=30, height_cm=170, weight_kg=65, activity=1.5))
    1401.5
    """
    constant = 5 if person.sex is Sex.MALE else -161
    return 10 * person.weight_kg + 6.25 * person.height_cm - 5 * person.age_y + constant


def katch_mcardle(person: Person) -> float:
    """Resting energy [kcal a day] from lean mass: `370 + 21.6 (1 - fat) w`.

    Source: W. D. McArdle, F. I. Katch, V. L. Katch, Exercise Physiology. Needs the body fat.

    Raises:
        CoreError: the body fat is not known.
    """
    if person.body_fat_share is None:
        raise CoreError("this formula needs the share of body fat", field="body_fat_share")
    return 370 + 21.6 * (1 - person.body_fat_share) * person.weight_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class Suggestion:
    """Targets of a day with how they came about, line by line, and what to think about."""

    resting_kcal: float
    maintenance_kcal: float
    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float
    steps: tuple[str, ...]
    warnings: tuple[str, ...]


def suggest(
    person: Person, *, change_share: float = 0.0, protein_g_per_kg: float = 1.8, fat_g_per_kg: float = 0.9
) -> Suggestion:
    """Targets of a day: resting energy × activity, changed by `change_share`; protein and fat by weight, carbohydrate
    takes the rest.

    Raises:
        CoreError: targets are not suggested for this person (`referrals`), or protein and fat leave nothing.
    """
    refused = referrals(person)
    if refused:
        raise CoreError(
            f"no targets are suggested for {', '.join(refused)}: please refer to a doctor or registered dietitian",
            field="conditions",
        )
    require_range("change_share", change_share, low=-0.5, high=0.5, unit="of maintenance")
    require_range("protein_g_per_kg", protein_g_per_kg, low=0.5, high=4, unit="g per kg")
    require_range("fat_g_per_kg", fat_g_per_kg, low=0.2, high=3, unit="g per kg")
    by_lean_mass = person.body_fat_share is not None
    resting = katch_mcardle(person) if by_lean_mass else mifflin_st_jeor(person)
    maintenance = resting * person.activity
    kcal = maintenance * (1 + change_share)
    protein, fat = protein_g_per_kg * person.weight_kg, fat_g_per_kg * person.weight_kg
    rest = kcal - protein * PROTEIN_KCAL_PER_G - fat * FAT_KCAL_PER_G
    if rest < 0:
        raise CoreError(
            f"protein and fat alone are {energy(kcal - rest)} of {energy(kcal)}: lower one of them, or "
            "raise the energy",
            field="protein_g_per_kg",
        )
    carbohydrate = rest / CARBOHYDRATE_KCAL_PER_G
    return Suggestion(
        resting_kcal=resting,
        maintenance_kcal=maintenance,
        kcal=kcal,
        protein_g=protein,
        carbohydrate_g=carbohydrate,
        fat_g=fat,
        steps=(
            _resting_words(person, resting),
            f"maintenance: {resting:,.0f} × {person.activity:g} = {energy_by_formula(maintenance)}",
            f"energy: {maintenance:,.0f} {change_share:+.0%} = {energy_by_formula(kcal)}",
            f"protein: {protein_g_per_kg:g} g × {person.weight_kg:g} kg = {protein:,.1f} g",
            f"fat: {fat_g_per_kg:g} g × {person.weight_kg:g} kg = {fat:,.1f} g",
            f"carbohydrate: ({kcal:,.0f} - 4 × {protein:,.1f} - 9 × {fat:,.1f}) / 4 = {carbohydrate:,.0f} g",
        ),
        warnings=tuple(_warnings(person, resting, maintenance, kcal, protein_g_per_kg, fat_g_per_kg)),
    )


def _resting_words(person: Person, resting: float) -> str:
    if person.body_fat_share is not None:
        lean = (1 - person.body_fat_share) * person.weight_kg
        return f"resting (Katch-McArdle): 370 + 21.6 × {lean:.1f} kg lean = {energy_by_formula(resting)}"
    constant = "+ 5" if person.sex is Sex.MALE else "- 161"
    return (
        f"resting (Mifflin-St Jeor 1990): 10 × {person.weight_kg:g} kg + 6.25 × {person.height_cm:g} cm - "
        f"5 × {person.age_y:g} y {constant} = {energy_by_formula(resting)}"
    )


def _warnings(
    person: Person, resting: float, maintenance: float, kcal: float, protein_g_per_kg: float, fat_g_per_kg: float
) -> list[str]:
    found = []
    if kcal < resting:
        found.append(f"{energy(kcal)} is below the resting energy of {energy(resting)}")
    if kcal < maintenance * (1 - LARGEST_DEFICIT) - 1e-9:
        found.append(f"{energy(kcal)} is more than {LARGEST_DEFICIT:.0%} below maintenance")
    if protein_g_per_kg > MOST_PROTEIN_G_PER_KG:
        found.append(f"{protein_g_per_kg:g} g of protein per kg is above {MOST_PROTEIN_G_PER_KG:g}")
    if fat_g_per_kg < LEAST_FAT_G_PER_KG:
        found.append(f"{fat_g_per_kg:g} g of fat per kg is below {LEAST_FAT_G_PER_KG:g}")
    loss = (maintenance - kcal) * 7 / KCAL_PER_KG / person.weight_kg
    if loss > FASTEST_LOSS_SHARE:
        found.append(f"that is about {loss:.1%} of body weight a week, faster than {FASTEST_LOSS_SHARE:.0%}")
    return found
