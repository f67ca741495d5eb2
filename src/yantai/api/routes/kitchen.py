"""Settings of the kitchen."""

from __future__ import annotations

from fastapi import APIRouter

from yantai.api.access import CookDep, DatabaseDep, SenderDep
from yantai.work.kitchen import settings
from yantai.work.kitchen.inputs import WorkspaceInput
from yantai.work.kitchen.views import SettingsView

router = APIRouter(tags=["kitchen"])


@router.get("/settings")
def read_settings(database: DatabaseDep, who: CookDep) -> SettingsView:
    """What the kitchen counts by."""
    return settings.read_settings(database, who)


@router.put("/settings")
def change_settings(payload: WorkspaceInput, database: DatabaseDep, who: SenderDep) -> SettingsView:
    """Set what the kitchen counts by."""
    return settings.save_settings(database, who, payload)
