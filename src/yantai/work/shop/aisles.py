"""Where foods stand in a shop, as the reference data has it (PROVENANCE.md)."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from functools import cache
from importlib import resources

from yantai.core.shopping.house import Keeping
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace
from yantai.work.shop.inputs import AislesInput
from yantai.work.shop.views import AisleOrder


@dataclass(frozen=True, slots=True, kw_only=True)
class Aisle:
    """The place of a food in a shop, in walking order.

    Attributes:
        keeps_days: how long it usually keeps unopened after it was bought; the date on the pack decides. None where
            nobody knows.
        buy_early: it may be bought days ahead.
        in_cupboard: it is used by the spoon and mostly in the house: a look in the cupboard comes first.
    """

    name: str
    order: int
    keeps_days: int | None
    buy_early: bool
    in_cupboard: bool


_ELSEWHERE = Aisle(name="elsewhere", order=99, keeps_days=None, buy_early=False, in_cupboard=False)


@cache
def _aisles() -> tuple[dict[str, Aisle], dict[tuple[str, str], Aisle]]:
    """Aisles by the reference of a food, and by group and state for all others."""
    text = (resources.files("yantai.reference") / "data" / "aisles.csv").read_text(encoding="utf-8")
    of_food: dict[str, Aisle] = {}
    of_group: dict[tuple[str, str], Aisle] = {}
    for row in csv.DictReader(text.splitlines()):
        aisle = Aisle(
            name=row["aisle"],
            order=int(row["aisle_order"]),
            keeps_days=int(row["keeps_days_unopened"]),
            buy_early=row["buy_early"] == "yes",
            in_cupboard=row["pantry"] == "yes",
        )
        foods = [food for food in row["food_ids"].split(";") if food]
        of_food |= dict.fromkeys(foods, aisle)
        if not foods:
            of_group[row["food_group"], row["state"]] = aisle
    return of_food, of_group


def aisle_of(food: tables.Food) -> Aisle:
    """The aisle of a food, its own before that of its group and state."""
    of_food, of_group = _aisles()
    return of_food.get(food.reference or "") or of_group.get((food.food_group, food.state), _ELSEWHERE)


_FRIDGE_KEEPS_DAYS = 35
"""What keeps no longer than this unopened is taken to be kept in the fridge."""


def usual_place(food: tables.Food) -> Keeping:
    """Where a food is kept, as long as nobody said another place."""
    if food.state == "frozen":
        return Keeping.FREEZER
    keeps = aisle_of(food).keeps_days
    return Keeping.FRIDGE if keeps is not None and keeps <= _FRIDGE_KEEPS_DAYS else Keeping.CUPBOARD


def aisle_names() -> list[str]:
    """All aisles in the usual order."""
    of_food, of_group = _aisles()
    order = {aisle.name: aisle.order for aisle in (*of_food.values(), *of_group.values(), _ELSEWHERE)}
    return sorted(order, key=lambda name: (order[name], name))


def read_order(database: Database, who: SignedIn) -> AisleOrder:
    """The aisles in the order in which they are walked here."""
    with database.reading(who.workspace_id) as session:
        return _order(read_workspace(session).aisles)


def save_order(database: Database, who: SignedIn, payload: AislesInput) -> AisleOrder:
    """Set the order in which aisles are walked; none is the usual one.

    Raises:
        Invalid: there is no such aisle, or one stands there twice.
    """
    known = set(aisle_names())
    for at, name in enumerate(payload.aisles):
        if name not in known:
            raise Invalid.at(f"/aisles/{at}", f"There is no aisle “{name[:60]}”.")
    if len(set(payload.aisles)) != len(payload.aisles):
        raise Invalid.at("/aisles", "An aisle stands there twice.")
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        read_workspace(session).aisles = payload.aisles
        session.flush()
        return keep(_order(payload.aisles))


def _order(own: list[str]) -> AisleOrder:
    rest = [name for name in aisle_names() if name not in own]
    return AisleOrder(aisles=[*own, *rest], is_own=bool(own))
