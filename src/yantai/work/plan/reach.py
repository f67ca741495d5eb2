"""The reach map of a batch."""

from __future__ import annotations

import uuid
from dataclasses import asdict

from yantai.core.portions.reach import Shares, reach_map
from yantai.core.targets.targets import Target
from yantai.store.database import Database
from yantai.work.batches import plan_view, stored
from yantai.work.batches.plans import NOTHING_DECIDED
from yantai.work.common.errors import Closed
from yantai.work.common.who import SignedIn
from yantai.work.plan.views import PointView, ReachView


def read_reach(database: Database, who: SignedIn, batch_id: uuid.UUID) -> ReachView:
    """The reach map of a batch: what its components can give together, and where the targets lie.

    Raises:
        Missing: there is no such batch here.
        Closed: it is packed.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        plan = stored.read_view(session, batch_id)
    if plan.batch.packed_at is not None:
        raise Closed(NOTHING_DECIDED)
    held = [component.per_100g.amounts for component in plan.components]
    found = reach_map(held, [Target(**asdict(row.target)) for row in plan.rows])
    names = [plan_view.shown_name(row) for row in plan.rows]
    return ReachView(
        components=[
            _point(component.name, shares, None)
            for component, shares in zip(plan.components, found.components, strict=True)
            if shares is not None
        ],
        hull=_among_shown(found.components, found.hull),
        targets=[
            _point(name, shares, inside)
            for name, shares, inside in zip(names, found.targets, found.inside, strict=True)
            if shares is not None
        ],
    )


def _among_shown(components: tuple[Shares | None, ...], hull: tuple[int, ...]) -> list[int]:
    """Places of the hull among the components that have a point at all."""
    shown = [index for index, shares in enumerate(components) if shares is not None]
    return [shown.index(index) for index in hull]


def _point(name: str, shares: Shares, inside: bool | None) -> PointView:
    x, y = shares.at
    return PointView(
        name=name,
        protein=shares.protein,
        carbohydrate=shares.carbohydrate,
        fat=shares.fat,
        x=x,
        y=y,
        inside=inside,
    )
