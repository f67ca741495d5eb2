"""Shopping for batches."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from yantai.api.access import DatabaseDep, SignedInDep
from yantai.work.shop import list as shopping
from yantai.work.shop.views import ShoppingList

router = APIRouter(tags=["shop"])

OtherBatches = Annotated[list[uuid.UUID], Query(alias="with", max_length=20, default_factory=list)]


@router.get("/batches/{batch_id}/shopping")
def read_shopping_list(
    batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, others: OtherBatches
) -> ShoppingList:
    """What is to be bought for a batch and those bought for with it: each food once, in packs, by aisle."""
    return shopping.read_list(database, who, batch_id, others)


@router.get("/batches/{batch_id}/shopping.csv")
def export_shopping_list(
    batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, others: OtherBatches
) -> Response:
    """The shopping list as CSV."""
    content = shopping.export_csv(database, who, batch_id, others)
    headers = {"Content-Disposition": 'attachment; filename="shopping.csv"'}
    return Response(content, media_type="text/csv; charset=utf-8", headers=headers)
