"""Who can eat what."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.work.surveys import grid, surveys
from yantai.work.surveys.views import AnswerPage, GridPage, SurveyView

router = APIRouter(tags=["surveys"])


@router.post("/surveys", status_code=202)
def start_survey(database: DatabaseDep, who: SenderDep, now: NowDep) -> SurveyView:
    """Ask which recipe meets which client's targets; the answers come from the queue. A running one goes on."""
    return surveys.start_survey(database, who, now)


@router.get("/surveys/newest")
def read_survey(database: DatabaseDep, who: SignedInDep) -> SurveyView | None:
    """The newest survey and how far it is; null before the first."""
    return surveys.read_survey(database, who)


@router.post("/surveys/{survey_id}/cancelled")
def cancel_survey(survey_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep) -> SurveyView:
    """Stop a survey; what is answered stays."""
    return surveys.cancel_survey(database, who, survey_id, now)


@router.get("/surveys/{survey_id}/answers")
def read_answers(
    survey_id: uuid.UUID,
    database: DatabaseDep,
    who: SignedInDep,
    sort: str = "nearest",
    recipe_id: uuid.UUID | None = None,
    client_id: uuid.UUID | None = None,
    met: bool | None = None,
    limit: int = 100,
    offset: int = 0,
) -> AnswerPage:
    """Answers of a survey in an order ("nearest", "recipe", "client"), of one recipe or client, met or not."""
    return surveys.read_answers(
        database,
        who,
        survey_id,
        sort=sort,
        recipe_id=recipe_id,
        client_id=client_id,
        met=met,
        limit=limit,
        offset=offset,
    )


@router.get("/surveys/{survey_id}/grid")
def read_grid(
    survey_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, limit: int = 50, offset: int = 0
) -> GridPage:
    """Some clients of a survey by name, with how many of their containers each recipe fits."""
    return grid.read_grid(database, who, survey_id, limit=limit, offset=offset)
