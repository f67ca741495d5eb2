"""The measures of foods."""

from __future__ import annotations

import uuid

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.quantities import Measure
from yantai.core.quantities.units import Spoons
from yantai.store import tables


def read_measures(session: Session, food_ids: set[uuid.UUID], spoons: Spoons) -> dict[uuid.UUID, list[Measure]]:
    """Household measures by food. Shared ones are of US cups and spoons, own ones of the workspace's."""
    measure = tables.Measure
    found: dict[uuid.UUID, list[Measure]] = {}
    for row in session.scalars(select(measure).where(measure.food_id.in_(food_ids)).order_by(measure.name, measure.id)):
        of = Spoons.US if row.workspace_id is None else spoons
        found.setdefault(row.food_id, []).append(Measure(name=row.name, grams=row.grams, spoons=of))
    return found
