"""Lines about what came into the house, as the coach writes them."""

from __future__ import annotations

import uuid
from datetime import datetime

from yantai.core.shopping.house import Keeping
from yantai.formats.arrivals import Arrival, read_arrival
from yantai.formats.documents import LineDocument
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid
from yantai.work.common.typed import LONGEST_LINE
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.recipes.intake import proposals
from yantai.work.recipes.views import ProposalView
from yantai.work.shop.aisles import usual_place
from yantai.work.shop.inputs import MOST_LOTS, ArrivalsInput
from yantai.work.shop.views import ArrivalView


def read_arrivals(database: Database, who: SignedIn, payload: ArrivalsInput, now: datetime) -> list[ArrivalView]:
    """What lines about lots mean: food, grams, the day; nothing is noted yet.

    Raises:
        Invalid: there is no line, or there are far too many.
    """
    lines = [line.strip() for line in payload.text.splitlines() if line.strip()]
    if not lines:
        raise Invalid.at("/text", "Write a line for each food, as “2 x 400 g tins kidney beans, use by 3 March”.")
    if len(lines) > MOST_LOTS:
        raise Invalid.at("/text", f"{len(lines)} lines are more than the {MOST_LOTS} that are read at once.")
    longest = max(len(line) for line in lines)
    if longest > LONGEST_LINE:
        raise Invalid.at("/text", f"One line has {longest:,} characters; {LONGEST_LINE} fit. Break it where it ends.")
    with database.reading(who.workspace_id) as session:
        today = local_day(session, now)
        read = [read_arrival(line, today) for line in lines]
        proposed = proposals(session, [LineDocument(text=one.line.text) for one in read], None)
        foods = {one.matches[0].food.id for one in proposed if one.matches}
        rows = {key: session.get_one(tables.Food, key) for key in foods}
        return [_view(one, line, rows) for one, line in zip(read, proposed, strict=True)]


def _view(arrival: Arrival, line: ProposalView, foods: dict[uuid.UUID, tables.Food]) -> ArrivalView:
    food = foods[line.matches[0].food.id] if line.matches else None
    place, assumed = arrival.place, ""
    if place is None:
        place = _usual_place(arrival, food)
        assumed = f"kept in the {place.value}"
    trouble = f"“{arrival.unread}” is no day; write it as 3 March." if arrival.unread else line.trouble
    return ArrivalView(
        line=line,
        pack_g=_pack_g(arrival, line.grams),
        place=place,
        opened=arrival.opened,
        use_by=arrival.use_by,
        frozen_on=arrival.frozen_on,
        paid=None if arrival.paid_cents is None else arrival.paid_cents / 100,
        assumed=assumed,
        trouble=trouble,
    )


def _usual_place(arrival: Arrival, food: tables.Food | None) -> Keeping:
    if arrival.frozen_on is not None:
        return Keeping.FREEZER
    if food is None:
        return Keeping.CUPBOARD
    return usual_place(food)


def _pack_g(arrival: Arrival, grams: float | None) -> float | None:
    """What one of several packs holds [g], where the line tells packs of a size."""
    first = arrival.line.quantities[0] if arrival.line.quantities else None
    if grams is None or first is None or first.each is None or first.amount < 1:
        return None
    return grams / first.amount
