"""Energy from macros."""

from __future__ import annotations

PROTEIN_KCAL_PER_G = 4.0
CARBOHYDRATE_KCAL_PER_G = 4.0
FAT_KCAL_PER_G = 9.0
ALCOHOL_KCAL_PER_G = 7.0


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
