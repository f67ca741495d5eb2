"""Kitchens, and the order of work of a cook day."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query, Response

from yantai.api.access import CookDep, CookSenderDep, DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.core.speaking import speak
from yantai.work.accounts.feeds import open_feed
from yantai.work.cook import calendar, day, facts, kitchens, log, order, pot_steps, shown
from yantai.work.cook.inputs import CookDayInput, CookFactInput, KitchenInput
from yantai.work.cook.views import CookLogView, CookView, HelpView, KitchenView, PotStepsView, UsualItem

router = APIRouter(tags=["cook"])


@router.get("/equipment")
def list_usual_equipment(who: SignedInDep) -> list[UsualItem]:
    """Equipment as it usually is, to begin a kitchen with."""
    return kitchens.usual_equipment()


@router.get("/kitchens")
def list_kitchens(database: DatabaseDep, who: SignedInDep) -> list[KitchenView]:
    """The kitchens that are in use."""
    return kitchens.list_kitchens(database, who)


@router.get("/kitchens/{kitchen_id}")
def read_kitchen(kitchen_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> KitchenView:
    """One kitchen."""
    return kitchens.read_kitchen(database, who, kitchen_id)


@router.post("/kitchens", status_code=201)
def add_kitchen(payload: KitchenInput, database: DatabaseDep, who: SenderDep) -> KitchenView:
    """Make a kitchen."""
    return kitchens.save_kitchen(database, who, payload, None)


@router.put("/kitchens/{kitchen_id}")
def change_kitchen(kitchen_id: uuid.UUID, payload: KitchenInput, database: DatabaseDep, who: SenderDep) -> KitchenView:
    """Change a kitchen with all there is in it."""
    return kitchens.save_kitchen(database, who, payload, kitchen_id)


@router.put("/kitchens/{kitchen_id}/archived", status_code=204)
def archive_kitchen(kitchen_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take a kitchen off the lists, or bring it back."""
    kitchens.archive_kitchen(database, who, kitchen_id, now if archived else None)


Zone = Annotated[str | None, Query(max_length=60)]
"""The time zone of the device that asks: it counts where nobody has set that of the kitchen."""


@router.get("/batches/{batch_id}/cooking")
def read_cooking(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep, now: NowDep, zone: Zone = None) -> CookView:
    """A batch on its cook day, with its order of work as it is now."""
    return shown.read_cooking(database, who, batch_id, now, zone)


@router.get("/batches/{batch_id}/components/{component_id}/steps")
def read_pot_steps(batch_id: uuid.UUID, component_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> PotStepsView:
    """How a component of a batch is made, step by step, as it was written or is proposed."""
    return pot_steps.read_steps(database, who, batch_id, component_id)


@router.put("/batches/{batch_id}/cooking/day", status_code=204)
def set_cook_day(batch_id: uuid.UUID, payload: CookDayInput, database: DatabaseDep, who: SenderDep) -> None:
    """Set where, from when and by whom a batch is cooked."""
    day.save_day(database, who, batch_id, payload)


@router.post("/batches/{batch_id}/cooking/facts", status_code=204)
def note_fact(
    batch_id: uuid.UUID, payload: CookFactInput, database: DatabaseDep, who: CookSenderDep, now: NowDep
) -> None:
    """Note something that happened while cooking."""
    facts.note_fact(database, who, batch_id, payload, now)


@router.get("/batches/{batch_id}/cooking/helper")
def read_with_helper(
    batch_id: uuid.UUID, database: DatabaseDep, who: CookDep, now: NowDep, zone: Zone = None
) -> HelpView:
    """When all would be ready with one more helper."""
    return order.with_a_helper(database, who, batch_id, now, zone)


@router.get("/batches/{batch_id}/cooking/calendar.ics")
def export_calendar(
    batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, now: NowDep, zone: Zone = None
) -> Response:
    """What is begun before the cook day of a batch, and the day, as iCalendar."""
    headers = {"Content-Disposition": 'attachment; filename="cook-day.ics"'}
    content = calendar.batch_calendar(database, who, batch_id, now, zone)
    return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)


@router.get("/calendar/{token}.ics")
def read_feed(token: str, database: DatabaseDep, now: NowDep) -> Response:
    """All that is to be begun and cooked, as iCalendar, for whoever knows the address."""
    who = open_feed(database, token, now)
    speak(who.units)
    content = calendar.all_calendar(database, who, now)
    return Response(content, media_type="text/calendar; charset=utf-8", headers={"Cache-Control": "private, no-cache"})


@router.get("/batches/{batch_id}/cooking/log")
def read_cook_log(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep, zone: Zone = None) -> CookLogView:
    """What was noted on a cook day, and how long it took."""
    return log.read_log(database, who, batch_id, zone)


@router.get("/batches/{batch_id}/cooking/log.csv")
def export_cook_log(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep, zone: Zone = None) -> Response:
    """The same as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="cook-log.csv"'}
    content = log.export_log(database, who, batch_id, zone)
    return Response(content, media_type="text/csv; charset=utf-8", headers=headers)
