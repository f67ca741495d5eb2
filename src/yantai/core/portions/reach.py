"""The reach map: which energy shares a set of components can give at all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.spatial import ConvexHull, QhullError

from yantai.core.foods.energy import CARBOHYDRATE_KCAL_PER_G, FAT_KCAL_PER_G, PROTEIN_KCAL_PER_G
from yantai.core.foods.nutrients import Amounts, Nutrient
from yantai.core.targets.targets import Target

_EDGE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Shares:
    """Shares of the energy of the three macros; they add up to 1."""

    protein: float
    carbohydrate: float
    fat: float

    @property
    def at(self) -> tuple[float, float]:
        """The point in a triangle of side 1: carbohydrate at (0, 0), fat at (1, 0), protein on top."""
        return self.fat + self.protein / 2, self.protein * 3**0.5 / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class ReachMap:
    """Shares of each component (None where it has no energy), the hull as places of components, targets inside."""

    components: tuple[Shares | None, ...]
    hull: tuple[int, ...]
    targets: tuple[Shares | None, ...]
    inside: tuple[bool | None, ...]


def shares_of(protein_g: float, carbohydrate_g: float, fat_g: float) -> Shares | None:
    """Energy shares of macros [g] by 4/4/9, None where there is no energy.

    >>> shares_of(45, 55, 16)
    Shares(protein=0.33088235294117646, carbohydrate=0.40441176470588236, fat=0.2647058823529412)
    """
    kcal = [protein_g * PROTEIN_KCAL_PER_G, carbohydrate_g * CARBOHYDRATE_KCAL_PER_G, fat_g * FAT_KCAL_PER_G]
    whole = sum(kcal)
    if whole <= 0:
        return None
    return Shares(protein=kcal[0] / whole, carbohydrate=kcal[1] / whole, fat=kcal[2] / whole)


def reach_map(per_100g: Sequence[Amounts], targets: Sequence[Target]) -> ReachMap:
    """The hull of the components' energy shares, and which targets lie inside it.

    Inside is necessary for meeting a target exactly, not enough: bounds and pins may still stand in between. A target
    that does not give all three macros has no point.
    """
    components = tuple(
        shares_of(one[Nutrient.PROTEIN], one[Nutrient.CARBOHYDRATE], one[Nutrient.FAT]) for one in per_100g
    )
    points = {index: shares.at for index, shares in enumerate(components) if shares is not None}
    hull = _hull(points)
    aimed = tuple(
        None
        if target.protein_g is None or target.carbohydrate_g is None or target.fat_g is None
        else shares_of(target.protein_g, target.carbohydrate_g, target.fat_g)
        for target in targets
    )
    corners = np.array([points[index] for index in hull]).reshape(-1, 2)
    return ReachMap(
        components=components,
        hull=hull,
        targets=aimed,
        inside=tuple(None if shares is None else _is_inside(corners, shares.at) for shares in aimed),
    )


def _hull(points: dict[int, tuple[float, float]]) -> tuple[int, ...]:
    """Places of the points on the hull, counter-clockwise; the two ends where all lie on one line."""
    indices = list(points)
    if len(indices) < 3:
        return tuple(indices)
    at = np.array([points[index] for index in indices])
    try:
        return tuple(indices[int(n)] for n in ConvexHull(at).vertices)
    except QhullError:
        along = (at - at.mean(axis=0)) @ np.linalg.svd(at - at.mean(axis=0))[2][0]
        ends = {indices[int(along.argmin())], indices[int(along.argmax())]}
        return tuple(sorted(ends))


def _is_inside(corners: np.ndarray[tuple[int, int], np.dtype[np.float64]], at: tuple[float, float]) -> bool:
    """Whether a point lies in the polygon of `corners` (k, 2), which may be a line or a point."""
    if len(corners) == 0:
        return False
    point = np.array(at)
    if len(corners) < 3:
        start, end = corners[0], corners[-1]
        length = float((end - start) @ (end - start))
        share = 0.0 if length == 0 else min(max(float((point - start) @ (end - start)) / length, 0.0), 1.0)
        return bool(np.abs(start + share * (end - start) - point).max() <= _EDGE)
    edges = np.roll(corners, -1, axis=0) - corners
    to = point - corners
    return bool((edges[:, 0] * to[:, 1] - edges[:, 1] * to[:, 0] >= -_EDGE).all())
