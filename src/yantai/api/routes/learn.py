"""What the kitchen has learned."""

from __future__ import annotations

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.work.learn import times, yields
from yantai.work.learn.views import LearnedTimesView, LearnedView

router = APIRouter(tags=["learn"])


@router.get("/yields")
def list_yields(database: DatabaseDep, who: SignedInDep) -> list[LearnedView]:
    """Everything that was weighed here, with prior, estimate and range."""
    return yields.list_yields(database, who)


@router.get("/learned-times")
def list_times(database: DatabaseDep, who: SignedInDep) -> LearnedTimesView:
    """How long steps took here, and how fast the people of the kitchens are."""
    return times.list_times(database, who)
