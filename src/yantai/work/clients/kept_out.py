"""What stays out of a client's containers."""

from __future__ import annotations

from collections.abc import Mapping

from yantai.core.foods.exclusions import Contents, Reason, reasons
from yantai.core.planning.client_bounds import ClientBound
from yantai.store import tables
from yantai.work.pantry.composition import (
    contents,
)


def kept_out(client: tables.Client, dish: str, components: Mapping[str, Contents]) -> dict[str, tuple[Reason, ...]]:
    """Why each component of a dish stays out of a client's containers, by its key."""
    if not client.allergens and not client.exclusions:
        return dict.fromkeys(components, ())
    return reasons(dish, components, avoided=client.allergens, words=client.exclusions)


def client_bounds(client: tables.Client) -> tuple[ClientBound, ...]:
    """What a client has at most of something."""
    return tuple(ClientBound(word=str(one["word"]), maximum_g=float(one["maximum_g"])) for one in client.bounds)


def kept_from(client: tables.Client, food: tables.Food) -> list[str]:
    """Why one food stays out of a client's containers: allergens, then words; [] if it does not."""
    return [reason.word for reason in kept_out(client, "", {"": contents("", [food])})[""]]
