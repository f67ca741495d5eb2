"""Surveys and their answers as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class SurveyView:
    """Who can eat what: how far it is. `state` is "running", "done" or "cancelled"; `troubles` name recipes that could
    not be answered."""

    id: uuid.UUID
    asked_at: datetime
    asked_by: str
    state: str
    recipes: int
    answered: int
    troubles: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerView:
    """Whether one recipe meets one target. `missed` is the weighted miss, `told` says the grams or why not, `without`
    names what has to stay out."""

    recipe_id: uuid.UUID
    recipe: str
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    met: bool
    missed: float
    told: str
    without: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerPage:
    """Some answers of a survey, and how many there are in all."""

    total: int
    answers: list[AnswerView]
