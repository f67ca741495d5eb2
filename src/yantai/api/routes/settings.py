"""Settings of the kitchen and of the person; what the kitchen has learned."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.work import preferences, yields
from yantai.work.inputs import PersonInput, WorkspaceInput
from yantai.work.views import AccountView, LearnedView, SettingsView, SwitchedView

router = APIRouter(tags=["settings"])


@router.get("/settings")
def read_settings(database: DatabaseDep, who: SignedInDep) -> SettingsView:
    """What the kitchen counts by."""
    return preferences.read_settings(database, who)


@router.put("/settings")
def change_settings(given: WorkspaceInput, database: DatabaseDep, who: SignedInDep) -> SettingsView:
    """Set what the kitchen counts by."""
    return preferences.save_settings(database, who, given)


@router.get("/settings/switch")
def preview_switch(
    energy_rule: Literal["general", "net", "eu", "label"],
    carbohydrate: Literal["total", "available"],
    database: DatabaseDep,
    who: SignedInDep,
) -> list[SwitchedView]:
    """What a switch of the rules would change, before it is made."""
    return preferences.preview_switch(database, who, preferences.rules_of(energy_rule, carbohydrate))


@router.put("/person")
def change_person(given: PersonInput, database: DatabaseDep, who: SignedInDep) -> AccountView:
    """Set how figures are shown to the person who is signed in."""
    return preferences.save_person(database, who, given)


@router.get("/yields")
def list_yields(database: DatabaseDep, who: SignedInDep) -> list[LearnedView]:
    """Everything that was weighed here, with prior, estimate and range."""
    return yields.list_yields(database, who)
