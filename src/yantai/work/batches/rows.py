"""Containers of a batch from the targets of clients."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.targets.targets import Figures
from yantai.store import tables
from yantai.work.batches.targets_taken import taken_target
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import effective_figures, effective_target, stored_days
from yantai.work.common.errors import Collector, Invalid, located
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules


class Wanted(Protocol):
    """Something that asks for the containers of a target."""

    @property
    def target_id(self) -> uuid.UUID: ...  # noqa: D102


@dataclass(frozen=True, kw_only=True)
class Aimed:
    """A target of a client and what its containers shall hold as of now; a batch keeps that whatever becomes of it."""

    target: tables.Target
    figures: Figures


def targets_of(session: Session, wanted: Sequence[Wanted], *, pointer: str) -> Mapping[uuid.UUID, Aimed]:
    """The targets that are asked for, by their ids.

    Raises:
        Invalid: one is not there any more, is asked for twice, or comes to nothing; located below `pointer`.
    """
    ids = [one.target_id for one in wanted]
    targets = {row.id: row for row in session.scalars(select(tables.Target).where(tables.Target.id.in_(ids)))}
    faults = Collector()
    for index, key in enumerate(ids):
        if key not in targets:
            at = pointer if pointer.endswith("target_id") else f"{pointer}/{index}/target_id"
            faults.add(at, "this target was removed; reload the page")
    faults.check()
    if len(targets) != len(ids):
        raise Invalid.at(pointer, "The same target is chosen twice.")
    rules = workspace_rules(read_workspace(session))
    eating = {target.client_id for target in targets.values()}
    days = {
        client.id: stored_days(client, rules)
        for client in session.scalars(client_query().where(tables.Client.id.in_(eating)))
    }
    found = {}
    for target in targets.values():
        with located(pointer):
            effective_target(target, days[target.client_id])
        found[target.id] = Aimed(target=target, figures=effective_figures(target, days[target.client_id]))
    return found


def new_row(who: SignedIn, aimed: Aimed, dish_id: uuid.UUID, position: int, count: int) -> tables.ContainerClass:
    """The containers of a target in a dish."""
    target = aimed.target
    return tables.ContainerClass(
        workspace_id=who.workspace_id,
        client_id=target.client_id,
        dish_id=dish_id,
        slot=target.slot,
        day_type=target.day_type,
        position=position,
        count=count,
        capacity_ml=target.capacity_ml,
        capacity_g=target.capacity_g,
        plate_g=target.plate_g,
        rank=0,
        helping=1,
        chosen=[],
        removed=False,
        pins=[],
        taken=taken_target(target, aimed.figures),
        figures=aimed.figures,
    )
