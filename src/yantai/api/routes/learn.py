"""What the kitchen has learned."""

from __future__ import annotations

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.work.learn import yields
from yantai.work.learn.views import LearnedView

router = APIRouter(tags=["learn"])


@router.get("/yields")
def list_yields(database: DatabaseDep, who: SignedInDep) -> list[LearnedView]:
    """Everything that was weighed here, with prior, estimate and range."""
    return yields.list_yields(database, who)
