"""Large sparse quadratic programmes, by Clarabel."""

from __future__ import annotations

import clarabel
import numpy as np
from scipy import sparse

from yantai.core.portions.relaxed import Vector


def conic(
    quadratic: sparse.csc_matrix[np.float64], linear: Vector, rows: sparse.csc_matrix[np.float64], limits: Vector
) -> Vector:
    """Minimise `½ yᵀQy + qᵀy` such that `rows @ y ≤ limits`."""
    settings = clarabel.DefaultSettings()
    settings.verbose = False
    cones = [clarabel.NonnegativeConeT(len(limits))]
    solution = clarabel.DefaultSolver(quadratic, linear, rows, limits, cones, settings).solve()
    if solution.status not in (clarabel.SolverStatus.Solved, clarabel.SolverStatus.AlmostSolved):
        raise ArithmeticError(f"the pots could not be shared out: {solution.status}")
    return np.array(solution.x)
