"""Clients."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.core.foods.allergens import ALLERGENS
from yantai.work.clients import clients, suggestions
from yantai.work.clients.inputs import BoundsInput, ClientInput, SuggestionInput, WordsInput
from yantai.work.clients.views import ClientView, DaysPreview, ScaledView, SuggestionView, TargetsThen, WordView

router = APIRouter(tags=["clients"])


@router.get("/allergens")
def list_allergens(_who: SignedInDep) -> dict[str, str]:
    """The known allergens: key and shown name."""
    return ALLERGENS


@router.get("/clients")
def list_clients(database: DatabaseDep, who: SignedInDep) -> list[ClientView]:
    """All clients with their targets."""
    return clients.list_clients(database, who)


@router.post("/clients", status_code=201)
def create_client(payload: ClientInput, database: DatabaseDep, who: SenderDep) -> ClientView:
    """Make a client."""
    return clients.save_client(database, who, payload, None)


@router.post("/suggestions")
def suggest_day(payload: SuggestionInput, _who: SignedInDep) -> SuggestionView:
    """Suggested targets of a day with their formulas, or whom to refer to. Nothing of it is kept."""
    return suggestions.suggest_day(payload)


@router.post("/clients/days")
def preview_days(payload: ClientInput, database: DatabaseDep, who: SignedInDep) -> DaysPreview:
    """The days of a client as typed against their containers and extras. Nothing of it is kept."""
    return clients.preview_days(database, who, payload)


@router.post("/clients/words")
def read_words(payload: WordsInput, database: DatabaseDep, who: SignedInDep) -> list[WordView]:
    """What words keep out of the foods of this kitchen, and what they may mean besides. Nothing of it is kept."""
    return clients.read_words(database, who, payload.words)


@router.get("/targets/{target_id}/scaled")
def scale_target(target_id: uuid.UUID, factor: float, database: DatabaseDep, who: SignedInDep) -> ScaledView:
    """A target as a smaller or larger portion of it."""
    return clients.scale_target(database, who, target_id, factor)


@router.get("/clients/{client_id}/targets")
def read_history(client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[TargetsThen]:
    """What was changed about a client's days and targets, the newest first."""
    return clients.read_history(database, who, client_id)


@router.get("/clients/{client_id}")
def read_client(client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ClientView:
    """One client."""
    return clients.read_client(database, who, client_id)


@router.put("/clients/{client_id}")
def change_client(client_id: uuid.UUID, payload: ClientInput, database: DatabaseDep, who: SenderDep) -> ClientView:
    """Change a client."""
    return clients.save_client(database, who, payload, client_id)


@router.put("/clients/{client_id}/bounds")
def change_bounds(client_id: uuid.UUID, payload: BoundsInput, database: DatabaseDep, who: SenderDep) -> ClientView:
    """Change what a client has at most of something."""
    return clients.save_bounds(database, who, payload, client_id)


@router.put("/clients/{client_id}/archived", status_code=204)
def archive_client(client_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take a client off the lists, or bring them back."""
    clients.archive_client(database, who, client_id, now if archived else None)
