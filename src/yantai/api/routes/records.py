"""What is kept about one client: given to them as files, or erased."""

from __future__ import annotations

import uuid

from fastapi import APIRouter, Response

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SettingsDep, SignedInDep
from yantai.work.records import client_data, erase
from yantai.work.records.inputs import ErasureInput
from yantai.work.records.views import ErasureView

router = APIRouter(tags=["records"])


@router.get("/clients/{client_id}/data.zip")
def export_client(client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, now: NowDep) -> Response:
    """Everything that is kept about a client, as JSON and CSV in one file."""
    _, content = client_data.export_client(database, who, client_id, now)
    headers = {"Content-Disposition": 'attachment; filename="client-data.zip"', "Cache-Control": "no-store"}
    return Response(content, media_type="application/zip", headers=headers)


@router.get("/clients/{client_id}/erasure")
def read_erasure(client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ErasureView:
    """What erasing a client would do."""
    return erase.read_erasure(database, who, client_id)


@router.post("/clients/{client_id}/erased")
def erase_client(
    client_id: uuid.UUID,
    payload: ErasureInput,
    database: DatabaseDep,
    who: SenderDep,
    settings: SettingsDep,
    now: NowDep,
) -> ErasureView:
    """Erase a client. It cannot be undone."""
    return erase.erase_client(database, who, client_id, payload, settings.post_office, now)
