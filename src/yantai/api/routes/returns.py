"""What came back: what clients ate and left."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.work.handover.inputs import EatenInput
from yantai.work.returns import weeks
from yantai.work.returns.views import EatenWeeksView

router = APIRouter(tags=["returns"])


@router.get("/clients/{client_id}/weeks")
def read_client_weeks(
    client_id: uuid.UUID,
    database: DatabaseDep,
    who: SignedInDep,
    now: NowDep,
    count: Annotated[int, Query(ge=1, le=26)] = 6,
) -> EatenWeeksView:
    """What a client was given, ate and left in the last weeks."""
    return weeks.read_weeks(database, who, client_id, count, now)


@router.post("/clients/{client_id}/eaten", status_code=204)
def note_eaten(client_id: uuid.UUID, payload: EatenInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Note what became of a container of a client."""
    weeks.note_eaten(database, who, client_id, payload, now)
