"""What clients have at hand, and which of it brings a day nearer to what it shall hold."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload
from sqlalchemy.orm.interfaces import ORMOption

from yantai.core.foods.energy import Rules
from yantai.core.targets.aims import PRODUCE_GROUPS, Produce
from yantai.core.targets.closing import EatenDay, Offer, fill_ups
from yantai.store import tables
from yantai.work.clients.inputs import ClientInput
from yantai.work.clients.kept_out import kept_from
from yantai.work.clients.views import AtHandView, FillUpFood, FillUpView
from yantai.work.common.errors import Collector
from yantai.work.common.views import AmountsView
from yantai.work.pantry.composition import food_composition

MOST_AT_HAND = 12


def check_at_hand(session: Session, faults: Collector, payload: ClientInput) -> None:
    """Note what is wrong with the foods at hand as they were sent."""
    sent = [one.food_id for one in payload.at_hand]
    if len(sent) > MOST_AT_HAND:
        faults.add("/at_hand", f"{len(sent)} foods are more than the {MOST_AT_HAND} that are tried for each day")
    known = set(session.scalars(select(tables.Food.id).where(tables.Food.id.in_(sent))))
    for index, food_id in enumerate(sent):
        if food_id not in known:
            faults.add(f"/at_hand/{index}/food_id", "this food is not in your pantry; choose another")
        elif food_id in sent[:index]:
            faults.add(f"/at_hand/{index}/food_id", "this food is in the list already; change that line")


def at_hand_rows(workspace_id: uuid.UUID, payload: ClientInput) -> list[tables.AtHand]:
    """The foods at hand as rows."""
    return [
        tables.AtHand(
            workspace_id=workspace_id, position=position, food_id=one.food_id, serving_g=one.serving_g, most=one.most
        )
        for position, one in enumerate(payload.at_hand)
    ]


def with_at_hand() -> ORMOption:
    """What a query of clients has to load for what they have at hand."""
    return selectinload(tables.Client.at_hand).joinedload(tables.AtHand.food)


def at_hand_views(client: tables.Client) -> list[AtHandView]:
    """The views of what a client has at hand."""
    return [
        AtHandView(
            food_id=one.food_id,
            name=one.food.name,
            serving_g=one.serving_g,
            most=one.most,
            kept_out=kept_from(client, one.food),
        )
        for one in client.at_hand
    ]


def fill_up_views(client: tables.Client, day: EatenDay, rules: Rules) -> list[FillUpView]:
    """Extras that bring a client's day nearer to what it shall hold, each tried; nothing that the client avoids."""
    offered = {str(one.food_id): one for one in client.at_hand if not kept_from(client, one.food)}
    return [
        FillUpView(
            foods=[
                FillUpFood(name=offered[key].food.name, servings=servings, grams=servings * offered[key].serving_g)
                for key, servings in fill_up.servings.items()
            ],
            total=AmountsView.of(fill_up.day.held),
            closes=fill_up.closes,
        )
        for fill_up in fill_ups(day, _offers(offered.items(), rules))
    ]


def _offers(offered: Iterable[tuple[str, tables.AtHand]], rules: Rules) -> list[Offer]:
    return [
        Offer(
            key=key,
            serving=food_composition(one.food, rules).in_grams(one.serving_g),
            produce=Produce(one.serving_g if one.food.food_group in PRODUCE_GROUPS else 0.0),
            most=one.most,
        )
        for key, one in offered
    ]
