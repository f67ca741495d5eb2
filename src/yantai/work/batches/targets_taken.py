"""Targets of clients as a batch took them over, beside those they have now."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator, Mapping

from sqlalchemy.orm import Session

from yantai.core.errors import CoreError
from yantai.core.foods.energy import Rules
from yantai.core.targets.targets import Figures
from yantai.store import tables
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import effective_figures, stored_days

Taken = Mapping[str, float | None]
"""Figures, room and plate by name, as a row keeps them."""
OwnTargets = Mapping[tuple[uuid.UUID, str, str], Taken]
"""What each client aims at now, by client, meal and kind of day in small letters."""


def taken_target(target: tables.Target, figures: Figures) -> dict[str, float | None]:
    """What a batch takes over of a target: its figures, container and plate."""
    return {
        **figures.by_name,
        "capacity_ml": target.capacity_ml,
        "capacity_g": target.capacity_g,
        "plate_g": target.plate_g,
    }


def own_targets(session: Session, client_ids: Iterable[uuid.UUID], rules: Rules) -> OwnTargets:
    """What these clients aim at now."""
    found = {}
    for client in session.scalars(client_query().where(tables.Client.id.in_(set(client_ids)))):
        days = stored_days(client, rules)
        for target in client.targets:
            try:
                figures = effective_figures(target, days)
            except CoreError:
                # A share of a day whose extras leave nothing is no target; the client's page says so.
                continue
            key = client.id, target.slot.casefold(), target.day_type.casefold()
            found[key] = taken_target(target, figures)
    return found


def changed_targets(
    now: OwnTargets, rows: Iterable[tables.ContainerClass]
) -> Iterator[tuple[tables.ContainerClass, Taken]]:
    """Rows whose client aims at something else than when it was taken over, and at what."""
    for row in rows:
        own = now.get((row.client_id, row.slot.casefold(), row.day_type.casefold()))
        if own is not None and row.taken is not None and _apart(own, row.taken):
            yield row, own


def _apart(one: Taken, other: Taken) -> bool:
    return any(_rounded(one.get(name)) != _rounded(other.get(name)) for name in {*one, *other})


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 3)
