"""What was learned of yields, as it is shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.work.common.views import YieldView


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredView:
    """A weighing in the history: its yield, how much it counts, and where it was."""

    yield_factor: float
    weight: float
    weighed_at: datetime
    batch: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedView:
    """A food or component by method: the prior, what was measured, and the estimate with its range."""

    kind: str
    id: uuid.UUID
    name: str
    detail: str
    method: str
    prior: YieldView
    estimate: YieldView
    prior_share: float
    measured: list[MeasuredView]
