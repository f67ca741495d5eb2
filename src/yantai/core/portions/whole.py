"""Linear problems with whole numbers, by HiGHS."""

from __future__ import annotations

from dataclasses import dataclass

import highspy
import numpy as np
from numpy.typing import NDArray

Vector = NDArray[np.float64]


class _Quiet(highspy.Highs):
    """HiGHS that prints nothing: enabling its callbacks, of which we use none, prints its name."""

    def enableCallbacks(self) -> None:  # noqa: N802
        self.silent()


@dataclass(frozen=True, slots=True, kw_only=True)
class WholeProgramme:
    """Minimise `cost @ x` such that `row_low ≤ rows @ x ≤ row_high` and `low ≤ x ≤ high`, x whole where said."""

    cost: Vector  # (n,)
    is_whole: NDArray[np.bool_]  # (n,)
    low: Vector  # (n,)
    high: Vector  # (n,)
    rows: Vector  # (m, n)
    row_low: Vector  # (m,)
    row_high: Vector  # (m,)


def solve_whole(problem: WholeProgramme, *, nodes: int = 5_000, gap: float = 2e-3) -> Vector | None:
    """The x of the least cost, within `gap` of it; None when there is no x, or none was found in `nodes`."""
    used = problem.rows != 0
    lp = highspy.HighsLp()
    lp.num_row_, lp.num_col_ = problem.rows.shape
    lp.col_cost_, lp.col_lower_, lp.col_upper_ = problem.cost, problem.low, problem.high
    lp.row_lower_, lp.row_upper_ = problem.row_low, problem.row_high
    lp.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    lp.a_matrix_.start_ = np.concatenate([[0], np.cumsum(used.sum(axis=1))])
    lp.a_matrix_.index_ = np.nonzero(used)[1]
    lp.a_matrix_.value_ = problem.rows[used]
    kinds = highspy.HighsVarType.kContinuous, highspy.HighsVarType.kInteger
    lp.integrality_ = [kinds[int(whole)] for whole in problem.is_whole]
    solver = _Quiet()  # type: ignore[no-untyped-call]
    # On problems as small as these the searches for a first point, and for better ones beside the tree, cost more than
    # the tree itself, and presolving finds little.
    options: dict[str, bool | float | str] = {
        "mip_heuristic_run_feasibility_jump": False,
        "mip_heuristic_run_rins": False,
        "mip_heuristic_run_rens": False,
        "mip_heuristic_run_root_reduced_cost": False,
        "presolve": "off",
        "mip_max_nodes": nodes,
        "mip_rel_gap": gap,
    }
    for name, value in options.items():
        solver.setOptionValue(name, value)
    solver.passModel(lp)
    solver.run()
    if solver.getInfo().primal_solution_status != highspy.SolutionStatus.kSolutionStatusFeasible:
        return None
    return np.array(solver.getSolution().col_value)
