"""Energy from macros, by the rule a kitchen has chosen."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

PROTEIN_KCAL_PER_G = 4.0
CARBOHYDRATE_KCAL_PER_G = 4.0
FAT_KCAL_PER_G = 9.0
ALCOHOL_KCAL_PER_G = 7.0
FIBRE_KCAL_PER_G = 2.0
POLYOL_KCAL_PER_G = 2.4


class EnergyRule(StrEnum):
    """How kcal follow from macros; one for the whole workspace."""

    GENERAL = "general"
    NET = "net"
    EU = "eu"
    LABEL = "label"


class Carbohydrate(StrEnum):
    """Which carbohydrate a figure means: total by difference, or available, which is total without fibre."""

    TOTAL = "total"
    AVAILABLE = "available"


@dataclass(frozen=True, slots=True, kw_only=True)
class Rules:
    """What a workspace counts by: its energy rule, and the carbohydrate that its figures and targets mean."""

    energy: EnergyRule = EnergyRule.GENERAL
    carbohydrate: Carbohydrate = Carbohydrate.TOTAL


DEFAULT_RULES = Rules()


def general_kcal(*, protein_g: float, carbohydrate_g: float, fat_g: float, alcohol_g: float = 0.0) -> float:
    """Energy [kcal] by the Atwater general factors 4/9/4 on total carbohydrate, and 7 for alcohol.

    Source: W. O. Atwater's general factors as stated in FAO Food and Nutrition Paper 77 (2003), table 3.1.

    >>> general_kcal(protein_g=45, carbohydrate_g=55, fat_g=16)
    544.0
    """
    return (
        PROTEIN_KCAL_PER_G * protein_g
        + CARBOHYDRATE_KCAL_PER_G * carbohydrate_g
        + FAT_KCAL_PER_G * fat_g
        + ALCOHOL_KCAL_PER_G * alcohol_g
    )


def kcal_by_rule(
    rule: EnergyRule,
    *,
    protein_g: float,
    total_g: float,
    available_g: float,
    fat_g: float,
    fibre_g: float = 0.0,
    polyols_g: float = 0.0,
    alcohol_g: float = 0.0,
    stated_kcal: float | None = None,
) -> float:
    """Energy [kcal] by `rule`, from grams of macros: `total_g` and `available_g` carbohydrate.

    - GENERAL: 4/9/4 on total carbohydrate, see `general_kcal`.
    - NET: 4/9/4 on available carbohydrate, fibre at 0.
    - EU: Regulation (EU) 1169/2011, annex XIV: 4/9/4 on available carbohydrate without polyols, fibre 2,
      polyols 2.4, alcohol 7. (Erythritol at 0, salatrims and organic acids are not told apart.)
    - LABEL: `stated_kcal`, or GENERAL where the source states none.

    >>> kcal_by_rule(EnergyRule.EU, protein_g=10, total_g=50, available_g=40, fat_g=5, fibre_g=10)
    265.0
    >>> kcal_by_rule(EnergyRule.NET, protein_g=10, total_g=50, available_g=40, fat_g=5, fibre_g=10)
    245.0
    """
    if rule is EnergyRule.LABEL and stated_kcal is not None:
        return stated_kcal
    if rule is EnergyRule.NET:
        return general_kcal(protein_g=protein_g, carbohydrate_g=available_g, fat_g=fat_g, alcohol_g=alcohol_g)
    if rule is EnergyRule.EU:
        return (
            general_kcal(
                protein_g=protein_g,
                carbohydrate_g=max(available_g - polyols_g, 0.0),
                fat_g=fat_g,
                alcohol_g=alcohol_g,
            )
            + FIBRE_KCAL_PER_G * fibre_g
            + POLYOL_KCAL_PER_G * polyols_g
        )
    return general_kcal(protein_g=protein_g, carbohydrate_g=total_g, fat_g=fat_g, alcohol_g=alcohol_g)
