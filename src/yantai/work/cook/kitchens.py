"""Kitchens: what there is to cook on, and who cooks."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import KIND_WORDS, Fare, Item, Kind
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector, Missing, Stale
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.cook.inputs import KitchenInput
from yantai.work.cook.reference import catalogue
from yantai.work.cook.views import KitchenItemView, KitchenPersonView, KitchenView, UsualItem

_ITEM_FIELDS = (
    "kind", "name", "count", "places", "capacity_l", "meat_g", "vegetables_g", "grain_g", "most_c", "within_id",
)  # fmt: skip


def usual_equipment() -> list[UsualItem]:
    """Equipment as it usually is, with boards for raw and for ready food."""
    boards = [
        (Item(key=kind.value, kind=kind, name=KIND_WORDS[kind]), note)
        for kind, note in (
            (Kind.BOARD, "for what is eaten as it is, or was cooked already"),
            (Kind.RAW_BOARD, "with a knife of its own: raw and ready food never meet on a board"),
        )
    ]
    return [
        UsualItem(
            key=item.key,
            kind=item.kind,
            kind_name=KIND_WORDS[item.kind],
            name=item.name.capitalize(),
            places=item.places,
            capacity_l=item.capacity_l,
            meat_g=item.load_g(Fare.MEAT),
            vegetables_g=item.load_g(Fare.VEGETABLES),
            grain_g=item.load_g(Fare.GRAIN),
            most_c=item.most_c,
            note=note,
        )
        for item, note in (*catalogue(), *boards)
    ]


def list_kitchens(database: Database, who: SignedIn) -> list[KitchenView]:
    """The kitchens that are in use, by name."""
    with database.reading(who.workspace_id) as session:
        return [kitchen_view(kitchen) for kitchen in read_kitchens(session)]


def read_kitchen(database: Database, who: SignedIn, kitchen_id: uuid.UUID) -> KitchenView:
    """One kitchen.

    Raises:
        Missing: there is no such kitchen here.
    """
    with database.reading(who.workspace_id) as session:
        return kitchen_view(load_kitchen(session, kitchen_id))


def read_kitchens(session: Session) -> list[tables.Kitchen]:
    """The rows of the kitchens that are in use, by name."""
    kitchen = tables.Kitchen
    return list(session.scalars(_query().where(kitchen.put_away_at.is_(None)).order_by(kitchen.name, kitchen.id)))


def load_kitchen(session: Session, kitchen_id: uuid.UUID, *, lock: bool = False) -> tables.Kitchen:
    """One kitchen, put away or not.

    Raises:
        Missing: there is no such kitchen here.
    """
    query = _query().where(tables.Kitchen.id == kitchen_id)
    kitchen = session.scalar(query.with_for_update() if lock else query)
    if kitchen is None:
        raise Missing("There is no such kitchen. It may have been removed in another window.")
    return kitchen


def save_kitchen(database: Database, who: SignedIn, payload: KitchenInput, kitchen_id: uuid.UUID | None) -> KitchenView:
    """Make a kitchen, or change one with all there is in it.

    Raises:
        Invalid: something has no name, or cannot be.
        Missing: there is no such kitchen.
        Stale: it was changed since `payload.version`.
    """
    name = _check(payload)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        if kitchen_id is None:
            kitchen = tables.Kitchen(workspace_id=who.workspace_id, version=0, items=[], people=[])
            session.add(kitchen)
        else:
            kitchen = load_kitchen(session, kitchen_id, lock=True)
            if kitchen.version != payload.version:
                raise Stale(
                    f"{kitchen.name} was changed in another window since you opened it. What you typed is still here: "
                    "open the newest in a second tab, compare, and save again."
                )
        kitchen.name = name
        kitchen.version += 1
        known_items = {item.id: item for item in kitchen.items}
        known_people = {person.id: person for person in kitchen.people}
        items, people = [], []
        for position, given in enumerate(payload.items):
            item = known_items.get(given.id) if given.id is not None else None
            item = item or tables.KitchenItem(workspace_id=who.workspace_id, id=given.id or uuid.uuid4())
            item.position = position
            for field in _ITEM_FIELDS:
                setattr(item, field, getattr(given, field))
            items.append(item)
        for position, one in enumerate(payload.people):
            person = known_people.get(one.id) if one.id is not None else None
            person = person or tables.KitchenPerson(workspace_id=who.workspace_id, id=one.id or uuid.uuid4())
            person.position, person.name, person.pace = position, one.name.strip(), one.pace
            person.does = [skill.value for skill in one.does]
            people.append(person)
        kitchen.items, kitchen.people = items, people
        session.flush()
        return keep(kitchen_view(kitchen))


def archive_kitchen(database: Database, who: SignedIn, kitchen_id: uuid.UUID, now: datetime | None) -> None:
    """Take a kitchen off the lists at `now`, or bring it back with None. Days that were cooked in it keep it.

    Raises:
        Missing: there is no such kitchen.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        load_kitchen(session, kitchen_id, lock=True).put_away_at = now
        keep(None)


def _check(payload: KitchenInput) -> str:
    faults = Collector()
    name = faults.text("/name", payload.name, what="the kitchen's name")
    ids = {item.id for item in payload.items}
    for index, item in enumerate(payload.items):
        pointer = f"/items/{index}"
        faults.text(f"{pointer}/name", item.name, what="what it is called")
        faults.ranges(pointer, item)
        if item.within_id is not None and item.within_id not in ids:
            faults.add(f"{pointer}/within_id", "what it is built into is not in this kitchen; choose again")
    for index, person in enumerate(payload.people):
        faults.text(f"/people/{index}/name", person.name, what="who it is")
        faults.ranges(f"/people/{index}", person)
        if not person.does:
            faults.add(f"/people/{index}/does", f"say what {person.name or 'this person'} does, or take the line out")
    faults.check()
    return name


def kitchen_view(kitchen: tables.Kitchen) -> KitchenView:
    """A kitchen as it is shown."""
    return KitchenView(
        id=kitchen.id,
        name=kitchen.name,
        version=kitchen.version,
        items=[
            KitchenItemView(id=item.id, **{field: getattr(item, field) for field in _ITEM_FIELDS})
            for item in kitchen.items
        ],
        people=[
            KitchenPersonView(
                id=person.id, name=person.name, does=[Skill(word) for word in person.does], pace=person.pace
            )
            for person in kitchen.people
        ],
    )


def items_of(kitchen: tables.Kitchen) -> list[Item]:
    """Its equipment as the core knows it."""
    return [
        Item(
            key=str(item.id),
            kind=item.kind,
            name=item.name,
            count=item.count,
            places=item.places,
            capacity_l=item.capacity_l,
            loads_g=tuple(
                (fare, load)
                for fare, load in (
                    (Fare.MEAT, item.meat_g),
                    (Fare.VEGETABLES, item.vegetables_g),
                    (Fare.GRAIN, item.grain_g),
                )
                if load is not None
            ),
            within="" if item.within_id is None else str(item.within_id),
            most_c=item.most_c,
        )
        for item in kitchen.items
    ]


def _query() -> Select[tables.Kitchen]:
    kitchen = tables.Kitchen
    return select(kitchen).options(selectinload(kitchen.items), selectinload(kitchen.people))
