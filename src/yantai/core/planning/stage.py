"""How far a batch is, and what comes next."""

from __future__ import annotations

import math

SAME_DAY_MIN = 240.0
"""What begins up to four hours ahead [min] still begins on the day of cooking."""
_DAY_MIN = 1440.0


def next_step(*, packed: bool, open_points: int, weighed: int, components: int) -> str:
    """What comes next for a batch: `open_points` things to settle, `weighed` of its components weighed.

    >>> next_step(packed=False, open_points=1, weighed=0, components=5)
    'Settle 1 thing in the plan'
    >>> next_step(packed=False, open_points=1, weighed=3, components=5)
    'Weigh 2 more of 5 components'
    """
    if packed:
        return "Packed"
    if weighed == components:
        return "Fill the containers, then mark the batch as packed"
    if weighed:
        return f"Weigh {components - weighed} more of {components} components"
    if open_points:
        return f"Settle {open_points} {'thing' if open_points == 1 else 'things'} in the plan"
    return "Cook, and weigh each component as it comes out"


def days_before(lead_min: float) -> int:
    """On which day before that of cooking something has to begin that is begun `lead_min` [min] ahead.

    >>> days_before(30), days_before(480), days_before(2880)
    (0, 1, 2)
    """
    return 0 if lead_min <= SAME_DAY_MIN else math.ceil(lead_min / _DAY_MIN)
