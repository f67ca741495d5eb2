"""Who can eat what: questions put to workers, and their answers."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import (
    Double,
    UniqueConstraint,
)
from sqlalchemy.orm import Mapped, mapped_column

from yantai.store.tables.base import Owned, owned_table_args, within


class Survey(Owned):
    """A question over everything: which recipe as written meets which client's targets. `recipes` is how many."""

    __tablename__ = "survey"
    __table_args__ = owned_table_args()

    asked_at: Mapped[datetime]
    asked_by: Mapped[str]
    recipes: Mapped[int]
    cancelled_at: Mapped[datetime | None]


class SurveyPart(Owned):
    """A recipe that was answered for all clients; `trouble` says why it could not be."""

    __tablename__ = "survey_part"
    __table_args__ = owned_table_args(within("survey_id", "survey"), UniqueConstraint("survey_id", "recipe_id"))

    survey_id: Mapped[uuid.UUID]
    recipe_id: Mapped[uuid.UUID]
    trouble: Mapped[str] = mapped_column(server_default="")


class SurveyAnswer(Owned):
    """Whether one recipe meets one target; `missed` is the weighted miss, `told` says the grams or why not, `without`
    names what had to stay out.

    Names are those of the moment: the answer is about what was written then.
    """

    __tablename__ = "survey_answer"
    __table_args__ = owned_table_args(
        within("survey_id", "survey"), within("recipe_id", "recipe"), within("client_id", "client")
    )

    survey_id: Mapped[uuid.UUID] = mapped_column(index=True)
    recipe_id: Mapped[uuid.UUID]
    client_id: Mapped[uuid.UUID]
    recipe: Mapped[str]
    client: Mapped[str]
    slot: Mapped[str]
    day_type: Mapped[str]
    met: Mapped[bool]
    missed: Mapped[float] = mapped_column(Double)
    told: Mapped[str]
    without: Mapped[list[str]]
