"""What was learned of yields and of minutes, as it is shown."""

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


@dataclass(frozen=True, slots=True, kw_only=True)
class TookView:
    """A task on one cook day [min]: what was stated for the usual pace, what it took, and who was at it."""

    planned_min: float
    took_min: float
    happened_at: datetime
    batch: str
    person: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StepTimeView:
    """What was learned of a step: its minutes are `factor` times the stated ones, which still are `stated_share` of
    that."""

    key: str
    says: str
    factor: float
    stated_share: float
    took: list[TookView]


@dataclass(frozen=True, slots=True, kw_only=True)
class PersonPaceView:
    """What was learned of a person: hands take `pace` times the usual minutes, where `stated` was said."""

    id: uuid.UUID
    name: str
    kitchen: str
    stated: float
    pace: float
    tasks: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedTimesView:
    """How long steps take in this kitchen, and how fast its people are."""

    steps: list[StepTimeView]
    people: list[PersonPaceView]
