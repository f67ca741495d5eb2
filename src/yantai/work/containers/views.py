"""Containers of the house as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, slots=True, kw_only=True)
class OutView:
    """Containers of one kind that are out with a client."""

    client_id: uuid.UUID
    client: str
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerKindView:
    """A kind of container. Of `owned` in all, some are out with clients, and `full` stand packed and not handed over;
    the rest, `there`, are empty in the house. Nobody wrote down a weight that is None."""

    id: uuid.UUID
    name: str
    ml: float
    empty_g: float | None
    lid_g: float | None
    freezer: bool
    oven: bool
    microwave: bool
    dishwasher: bool
    owned: int
    deposit: float | None
    out: list[OutView]
    full: int
    there: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LargerView:
    """Another size that would hold it, and how many of that stay free."""

    kind_id: uuid.UUID
    name: str
    ml: float
    free: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LackView:
    """Containers of a row for which there are none: how many of how many, of which size [ml], what goes into one [ml],
    and what to do about it.

    `larger` are other sizes; `away` are out with clients and could come back; `now` can be filled today, the rest kept
    in bulk from number `bulk_from` on. A size that nobody set is assumed: any that holds it.
    """

    row_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    count: int
    lacks: int
    capacity_ml: float | None
    volume_ml: float
    larger: list[LargerView]
    away: int
    now: int
    bulk_from: int


@dataclass(frozen=True, slots=True, kw_only=True)
class BulkView:
    """A component that is kept in bulk for containers that are packed another day [g]: for how many days from cooking,
    by the kitchen's rule, and until when; None for what keeps without end."""

    component_id: uuid.UUID
    name: str
    grams: float
    days: int | None
    until: date | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchContainersView:
    """Whether the containers of the house suffice for a batch.

    `wanted` are to be filled now, `later` are packed another day. None of a kind was ever written down where `known` is
    false: then nothing is lacking that anybody knows of. `handed_over` containers have left the kitchen.
    """

    known: bool
    wanted: int
    later: int
    lacking: list[LackView]
    bulk: list[BulkView]
    handed_over: int
    cautions: list[str]
