"""Finding anything."""

from __future__ import annotations

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.api.parameters import SearchText
from yantai.work.today import search
from yantai.work.today.views import Found

router = APIRouter(tags=["today"])


@router.get("/search")
def find_anything(database: DatabaseDep, who: SignedInDep, text: SearchText = "") -> list[Found]:
    """Clients, recipes, batches and foods."""
    return search.find_anything(database, who, text)
