"""What is sent to make a batch, and every change that can be made to one."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated, Literal

from pydantic import AwareDatetime, Field

from yantai.core.planning.plan import Leftover
from yantai.core.planning.portioning import School
from yantai.core.portions.demand import Sharing
from yantai.work.clients.inputs import Aims
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Bound, CellGrams, EachWeighing, Number, Range, Text, TypedName, Weight, Whole
from yantai.work.recipes.inputs import (
    ComponentInput,
)

STEP_G = Range(0.1, 100, "g")
"""The step of the kitchen's scale."""
BUFFER_SHARE = Range(0, 0.5, "of the need")
"""What is cooked beyond the need, for tasting and spill."""


class EaterInput(Payload):
    """Containers of one client's target in a new batch."""

    target_id: uuid.UUID
    count: Annotated[Whole, Range(1, 100, "containers")]


BatchName = Annotated[str, TypedName("the batch's name")]


class BatchInput(Payload):
    """A new batch."""

    name: BatchName
    recipe_id: uuid.UUID
    cook_on: date
    eaters: list[EaterInput]
    step_g: Annotated[Number, STEP_G] = 5
    buffer_share: Annotated[Number, BUFFER_SHARE] = 0.03


class SetPin(Payload):
    """Fix the grams of one cell, or free it."""

    kind: Literal["pin"] = "pin"
    row_id: uuid.UUID
    component_id: uuid.UUID
    grams: Weight | None


class SetTarget(Aims):
    """Change what the containers of one row shall hold, in this batch only. A figure left out is not aimed at."""

    kind: Literal["target"] = "target"
    row_id: uuid.UUID


class SetContainers(Payload):
    """Change how many containers a row has, what they hold and carry at most, the whole plate of components in
    shares, and the rank by which the row is served when a pot is short."""

    kind: Literal["containers"] = "containers"
    row_id: uuid.UUID
    count: Annotated[Whole, Range(0, 100, "containers")]
    capacity_ml: Number | None
    capacity_g: Weight | None = None
    plate_g: Weight | None = None
    rank: Annotated[Whole, Range(0, 99, "")] = 0


class SetSchool(Payload):
    """Change how a component of this batch gets into the containers."""

    kind: Literal["school"] = "school"
    component_id: uuid.UUID
    school: School
    unit_g: Weight | None = None
    unit_part: Number = 1
    plate_share: Number = 1
    eye_g: Weight = 0
    pieces: Whole | None = None


class SetBounds(Payload):
    """Change the least and the most of a component per container."""

    kind: Literal["bounds"] = "bounds"
    component_id: uuid.UUID
    minimum_g: Bound
    maximum_g: Bound | None


class RawAmount(Payload):
    """Grams of one line as purchased."""

    line_id: uuid.UUID
    purchased_g: Weight


class SetRaw(Payload):
    """Fix the raw amounts of a component: those given, the others as planned now. Or let them follow again."""

    kind: Literal["raw"] = "raw"
    component_id: uuid.UUID
    fixed: bool
    lines: list[RawAmount] = Field(default_factory=list)


class SetPacks(Payload):
    """Cook a component from whole packs of one ingredient, the others in proportion; its raw amounts are then fixed.

    Without `packs` it is the next whole number that the plan needs.
    """

    kind: Literal["packs"] = "packs"
    component_id: uuid.UUID
    line_id: uuid.UUID
    pack_g: Weight
    packs: Whole | None = None


class Vessel(Payload):
    """One vessel on the scale."""

    gross_g: Weight
    vessel_g: Weight = 0


class Weigh(Payload):
    """Record a cooked weight; `corrects` the one there is, which whoever weighs has seen."""

    kind: Literal["weigh"] = "weigh"
    component_id: uuid.UUID
    vessels: Annotated[list[Vessel], EachWeighing()]
    removed_g: Weight = 0
    corrects: bool = False


class Withdraw(Payload):
    """Take back a cooked weight."""

    kind: Literal["withdraw"] = "withdraw"
    component_id: uuid.UUID


class AddLine(Payload):
    """Add an ingredient at the stove, after cooking began; it is logged as such."""

    kind: Literal["add-line"] = "add-line"
    component_id: uuid.UUID
    food_id: uuid.UUID
    purchased_g: Annotated[Weight, Range(0.01, 100_000, "g")]


class SetLine(Payload):
    """Change how much of an ingredient goes into a component of this batch, or which food it is. The amounts stay
    proportions while the pan is not weighed."""

    kind: Literal["line"] = "line"
    component_id: uuid.UUID
    line_id: uuid.UUID
    food_id: uuid.UUID
    purchased_g: Annotated[Weight, Range(0, 1_000_000, "g")]


class SetComponent(Payload):
    """Put another component in the place of one of this batch: that of another recipe, or the one it was before.

    `line_ids` are the ids its lines get, so that changes of them can be undone across this one.
    """

    kind: Literal["component"] = "component"
    component_id: uuid.UUID
    component: ComponentInput
    line_ids: list[uuid.UUID]
    recipe_component_id: uuid.UUID | None


class MoveRow(Payload):
    """Cook the containers of a row with another batch instead. Their pins here end."""

    kind: Literal["move"] = "move"
    row_id: uuid.UUID
    to_batch_id: uuid.UUID


class RowPin(Payload):
    """Grams of one component that a row had pinned."""

    component_id: uuid.UUID
    grams: Weight


class TakeRow(Payload):
    """Take a row that was moved to another batch back to its place, with the pins it had."""

    kind: Literal["take"] = "take"
    row_id: uuid.UUID
    from_batch_id: uuid.UUID
    position: Whole
    pins: list[RowPin] = Field(default_factory=list)


class AddSide(Payload):
    """Put a food beside the components into the containers of one row."""

    kind: Literal["extra"] = "extra"
    row_id: uuid.UUID
    food_id: uuid.UUID
    grams: CellGrams
    component_id: uuid.UUID | None = None


class RemoveSide(Payload):
    """Take a food that was put beside the components out of the containers of one row again."""

    kind: Literal["remove-extra"] = "remove-extra"
    row_id: uuid.UUID
    component_id: uuid.UUID


class RemoveLine(Payload):
    """Take an ingredient that was added at the stove out again."""

    kind: Literal["remove-line"] = "remove-line"
    component_id: uuid.UUID
    line_id: uuid.UUID


class SetPoured(Payload):
    """Rendered fat that was poured off and weighed [g]."""

    kind: Literal["poured"] = "poured"
    component_id: uuid.UUID
    poured_fat_g: Weight


class SetBatch(Payload):
    """Change the batch itself."""

    kind: Literal["batch"] = "batch"
    name: BatchName
    cook_on: date
    step_g: Annotated[Number, STEP_G]
    buffer_share: Annotated[Number, BUFFER_SHARE]
    sharing: Sharing = Sharing.FAIR
    leftover: Leftover = Leftover.KEEP


class SetPacked(Payload):
    """Close the batch once its containers are filled, or open it again."""

    kind: Literal["packed"] = "packed"
    packed: bool


Change = Annotated[
    SetPin
    | SetTarget
    | SetContainers
    | SetBounds
    | SetSchool
    | SetRaw
    | SetPacks
    | Weigh
    | Withdraw
    | SetLine
    | SetComponent
    | MoveRow
    | TakeRow
    | AddSide
    | RemoveSide
    | AddLine
    | RemoveLine
    | SetPoured
    | SetBatch
    | SetPacked,
    Field(discriminator="kind"),
]


class Preview(Payload):
    """Changes that are only looked at."""

    version: Whole
    changes: Annotated[list[Change], Field(max_length=100)]
    confirmed: bool = False


class Changes(Preview):
    """Changes made together or not at all, to the version that was read. `happened_at` and `sent_at` are by the clock
    of the device, which may be wrong: only the time between the two is believed.

    `command_id` is made by the caller: the same changes sent again with it, after a lost answer, count once.
    """

    command_id: uuid.UUID
    device: Text = ""
    happened_at: AwareDatetime | None = None
    sent_at: AwareDatetime | None = None


class TakeBack(Payload):
    """Take a command of the log back; one that took another back is taken back by making that again."""

    command_id: uuid.UUID
    of: uuid.UUID
    device: Text = ""
    happened_at: AwareDatetime | None = None
    sent_at: AwareDatetime | None = None
