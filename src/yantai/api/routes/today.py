"""What is due next, and finding anything."""

from __future__ import annotations

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SignedInDep
from yantai.api.parameters import SearchText
from yantai.work.today import due, heard, search
from yantai.work.today.views import Due, Found, HeardView

router = APIRouter(tags=["today"])


@router.get("/due")
def list_due(database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[Due]:
    """What is next for each batch that is not packed, and what has to begin on a day before, by the day it is due."""
    return due.list_due(database, who, now)


@router.get("/heard")
def read_heard(database: DatabaseDep, who: SignedInDep, now: NowDep) -> HeardView:
    """What clients wait for, and what of their messages did not go."""
    return heard.read_heard(database, who, now)


@router.get("/search")
def find_anything(database: DatabaseDep, who: SignedInDep, text: SearchText = "") -> list[Found]:
    """Clients, recipes, batches and foods."""
    return search.find_anything(database, who, text)
