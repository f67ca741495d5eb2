"""The containers of the house."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import CookDep, DatabaseDep, NowDep, SenderDep
from yantai.work.containers import batch, kinds
from yantai.work.containers.inputs import ContainerKindInput, ContainerMoveInput
from yantai.work.containers.views import BatchContainersView, ContainerKindView

router = APIRouter(tags=["containers"])


@router.get("/containers")
def list_container_kinds(database: DatabaseDep, who: CookDep) -> list[ContainerKindView]:
    """The kinds of containers that are in use, and where they are."""
    return kinds.list_kinds(database, who)


@router.post("/containers", status_code=201)
def add_container_kind(
    payload: ContainerKindInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> ContainerKindView:
    """Write a kind of container down."""
    return kinds.save_kind(database, who, payload, None, now)


@router.put("/containers/{kind_id}")
def change_container_kind(
    kind_id: uuid.UUID, payload: ContainerKindInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> ContainerKindView:
    """Change a kind of container."""
    return kinds.save_kind(database, who, payload, kind_id, now)


@router.put("/containers/{kind_id}/archived", status_code=204)
def archive_container_kind(
    kind_id: uuid.UUID, archived: bool, database: DatabaseDep, who: SenderDep, now: NowDep
) -> None:
    """Take a kind off the list, or bring it back."""
    kinds.put_kind_away(database, who, kind_id, now if archived else None)


@router.post("/containers/moves")
def move_containers(
    payload: ContainerMoveInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> ContainerKindView:
    """Write down that containers went out with a client, came back, or were lost."""
    return kinds.move(database, who, payload, now)


@router.get("/batches/{batch_id}/containers")
def read_batch_containers(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> BatchContainersView:
    """Whether the containers of the house suffice for a batch, and what could be done where they do not."""
    return batch.read_batch_containers(database, who, batch_id)


@router.post("/batches/{batch_id}/containers/handed-over")
def hand_containers_over(
    batch_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep
) -> BatchContainersView:
    """The containers of a packed batch have left the kitchen with their clients."""
    return batch.hand_over(database, who, batch_id, now)
