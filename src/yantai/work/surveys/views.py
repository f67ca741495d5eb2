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


@dataclass(frozen=True, slots=True, kw_only=True)
class GridRecipe:
    """A column of the grid."""

    id: uuid.UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class GridCell:
    """How many of a client's containers a recipe fits; `missed` is the weighted miss of the nearest. `leaves_out` says
    that something of it has to stay out for this client."""

    recipe_id: uuid.UUID
    containers: int
    fits: int
    missed: float
    leaves_out: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class GridRow:
    """A client of the grid, with a cell for each recipe that is answered."""

    client_id: uuid.UUID
    client: str
    cells: list[GridCell]


@dataclass(frozen=True, slots=True, kw_only=True)
class GridPage:
    """All recipes of a survey and some of its clients; `total` is how many clients there are."""

    total: int
    recipes: list[GridRecipe]
    rows: list[GridRow]
