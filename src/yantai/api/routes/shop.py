"""Shopping for batches, and what is in the house."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Query
from fastapi.responses import Response

from yantai.api.access import DatabaseDep, NowDep, SenderDep, ShopperDep, ShoppingSenderDep, SignedInDep
from yantai.work.shop import aisles, arrivals, cheaper, costs, exports, history, house, trips
from yantai.work.shop import list as shopping
from yantai.work.shop.demand import Wanted
from yantai.work.shop.inputs import (
    AislesInput,
    ArrivalsInput,
    DivideInput,
    EntryInput,
    LotChange,
    LotsInput,
    StapleInput,
    TillInput,
    TripEntryInput,
    TripInput,
)
from yantai.work.shop.views import (
    AisleOrder,
    ArrivalView,
    CheaperView,
    CostView,
    EntryView,
    HouseChange,
    HouseView,
    NotedView,
    ShoppingHistory,
    ShoppingList,
    SubstituteView,
    TripBrief,
    TripView,
)

router = APIRouter(tags=["shop"])

OtherBatches = Annotated[list[uuid.UUID], Query(alias="with", max_length=20, default_factory=list)]


def get_wanted(*, fresh: bool = True, extras: bool = False) -> Wanted:
    """What is bought beside what goes into the pots: parts added at eating, extras of the clients' days."""
    return Wanted(fresh=fresh, extras=extras)


WantedDep = Annotated[Wanted, Depends(get_wanted)]


def get_list(
    batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, others: OtherBatches, wanted: WantedDep, now: NowDep
) -> ShoppingList:
    """The list that is asked for."""
    return shopping.read_list(database, who, batch_id, others, wanted, now)


ListDep = Annotated[ShoppingList, Depends(get_list)]


@router.get("/batches/{batch_id}/shopping")
def read_shopping_list(found: ListDep) -> ShoppingList:
    """What is to be bought for a batch and those bought for with it: each food once, in packs, by aisle."""
    return found


def _file(content: bytes | str, kind: str, media_type: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="shopping.{kind}"'}
    return Response(content, media_type=media_type, headers=headers)


@router.get("/batches/{batch_id}/shopping.csv")
def export_shopping_list(found: ListDep) -> Response:
    """The shopping list as CSV."""
    return _file(exports.as_csv(found), "csv", "text/csv; charset=utf-8")


@router.get("/batches/{batch_id}/shopping.json")
def export_shopping_document(found: ListDep) -> Response:
    """The shopping list as an open document (docs/formats/shopping.schema.json)."""
    return _file(exports.as_document(found).model_dump_json(indent=1) + "\n", "json", "application/json")


@router.get("/batches/{batch_id}/shopping.pdf")
def print_shopping_list(found: ListDep) -> Response:
    """The shopping list as a page to print and to send."""
    return _file(exports.as_pdf(found), "pdf", "application/pdf")


@router.get("/batches/{batch_id}/costs")
def read_costs(
    batch_id: uuid.UUID,
    database: DatabaseDep,
    who: SignedInDep,
    stated: Annotated[float | None, Query(ge=0, le=100_000)] = None,
) -> CostView:
    """What a batch costs, by food, component, container and client; a stated cost of a container is checked."""
    return costs.read_costs(database, who, batch_id, stated)


@router.get("/batches/{batch_id}/cheaper")
def read_cheaper(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[CheaperView]:
    """Ways to make a batch cheaper, each solved: what saves most first."""
    return cheaper.cheaper_ways(database, who, batch_id, now)


@router.get("/house")
def read_house(database: DatabaseDep, who: SignedInDep, now: NowDep) -> HouseView:
    """What is in the house, what expires first on top."""
    return house.read_house(database, who, now)


@router.post("/house/reading")
def read_arrivals(payload: ArrivalsInput, database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[ArrivalView]:
    """What lines about food that came in mean; nothing is noted."""
    return arrivals.read_arrivals(database, who, payload, now)


@router.post("/house/lots", status_code=201)
def put_in_house(payload: LotsInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> HouseChange:
    """Note what came into the house."""
    return house.put_in(database, who, payload, now)


@router.get("/house/lots/{lot_id}/entries")
def read_lot_entries(lot_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[EntryView]:
    """What happened to a lot, the newest first."""
    return house.read_ledger(database, who, lot_id)


@router.put("/house/lots/{lot_id}")
def change_lot(lot_id: uuid.UUID, payload: LotChange, database: DatabaseDep, who: SenderDep, now: NowDep) -> HouseView:
    """Say where a lot is, whether it is open, and until when it keeps."""
    return house.change_lot(database, who, lot_id, payload, now)


@router.post("/house/lots/{lot_id}/entries")
def tell_of_lot(
    lot_id: uuid.UUID, payload: EntryInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> HouseChange:
    """Note that some of a lot was used or thrown away, or what was counted."""
    return house.tell(database, who, lot_id, payload, now)


@router.post("/house/lots/{lot_id}/bags")
def divide_lot(
    lot_id: uuid.UUID, payload: DivideInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> HouseChange:
    """Divide a lot into bags of one weight."""
    return house.divide(database, who, lot_id, payload, now)


@router.post("/house/acts/{act_id}/undone")
def take_back_act(act_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep) -> HouseChange:
    """Take back what was noted in one go."""
    return house.take_back(database, who, act_id, now)


@router.put("/house/staples/{food_id}")
def answer_staple(
    food_id: uuid.UUID, payload: StapleInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> HouseView:
    """Remember whether a food is always in the house."""
    return house.answer_staple(database, who, food_id, payload, now)


@router.get("/trips")
def list_trips(database: DatabaseDep, who: ShopperDep) -> list[TripBrief]:
    """The trips to the shops: those that are going on first."""
    return trips.list_trips(database, who)


@router.post("/trips", status_code=201)
def start_trip(payload: TripInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> TripBrief:
    """Begin a trip for some batches."""
    return trips.start(database, who, payload, now)


@router.get("/trips/{trip_id}")
def read_trip(trip_id: uuid.UUID, database: DatabaseDep, who: ShopperDep, now: NowDep) -> TripView:
    """A trip with its list as it is now, and how it stands with each item."""
    return trips.read_trip(database, who, trip_id, now)


@router.post("/trips/{trip_id}/entries")
def note_on_trip(
    trip_id: uuid.UUID, payload: TripEntryInput, database: DatabaseDep, who: ShoppingSenderDep, now: NowDep
) -> NotedView:
    """Note something about an item; another food that was bought goes into the plans."""
    return trips.note(database, who, trip_id, payload, now)


@router.get("/trips/{trip_id}/foods/{food_id}/substitutes")
def offer_substitutes(
    trip_id: uuid.UUID, food_id: uuid.UUID, database: DatabaseDep, who: ShopperDep, now: NowDep
) -> list[SubstituteView]:
    """Foods that could be bought instead of one, each tried in every plan of the trip."""
    return trips.offer_substitutes(database, who, trip_id, food_id, now)


@router.post("/trips/{trip_id}/finished")
def finish_trip(
    trip_id: uuid.UUID, payload: TillInput, database: DatabaseDep, who: ShoppingSenderDep, now: NowDep
) -> TripView:
    """End a trip: what is in the basket comes into the house."""
    return trips.finish(database, who, trip_id, payload, now)


@router.post("/trips/{trip_id}/reopened")
def reopen_trip(trip_id: uuid.UUID, database: DatabaseDep, who: ShoppingSenderDep, now: NowDep) -> TripBrief:
    """Take back that a trip ended: what it brought leaves the house again."""
    return trips.reopen(database, who, trip_id, now)


@router.get("/aisles")
def read_aisles(database: DatabaseDep, who: SignedInDep) -> AisleOrder:
    """The aisles in the order in which they are walked here."""
    return aisles.read_order(database, who)


@router.put("/aisles")
def order_aisles(payload: AislesInput, database: DatabaseDep, who: SenderDep) -> AisleOrder:
    """Set the order in which aisles are walked."""
    return aisles.save_order(database, who, payload)


@router.get("/house/history")
def read_shopping_history(database: DatabaseDep, who: SignedInDep) -> ShoppingHistory:
    """Prices and amounts over time by food, what was thrown away, and what each year cost."""
    return history.read_history(database, who)


@router.get("/house/history.csv")
def export_shopping_history(database: DatabaseDep, who: SignedInDep) -> Response:
    """The same as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="prices-and-amounts.csv"'}
    content = history.export_csv(database, who)
    return Response(content, media_type="text/csv; charset=utf-8", headers=headers)
