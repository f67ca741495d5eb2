"""What is sent of containers of the house."""

from __future__ import annotations

import uuid
from typing import Annotated

from yantai.core.planning.containers import KIND_ML, MOST_OWNED, ContainerMove
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Number, Range, TypedName, Weight, Whole


class ContainerKindInput(Payload):
    """A kind of container: what one holds [ml], weighs empty and its lid [g], what it stands, the deposit on one, and
    how many there are in all, in the house or out with clients."""

    name: Annotated[str, TypedName("what it is called, as “glass box”")]
    ml: Annotated[Number, Range(*KIND_ML, "ml")]
    empty_g: Annotated[Weight | None, Range(1, 5000, "g")] = None
    lid_g: Annotated[Weight | None, Range(1, 2000, "g")] = None
    freezer: bool = False
    oven: bool = False
    microwave: bool = False
    dishwasher: bool = False
    owned: Annotated[Whole, Range(0, MOST_OWNED, "containers")]
    deposit: Annotated[Number | None, Range(0.01, 1000, "of the kitchen’s money")] = None


class ContainerMoveInput(Payload):
    """Containers of one kind that went out with a client, came back, or were lost there."""

    kind_id: uuid.UUID
    client_id: uuid.UUID
    move: ContainerMove
    count: Annotated[Whole, Range(1, MOST_OWNED, "containers")]
