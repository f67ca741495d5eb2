"""What is sent to make a batch, and every change that can be made to one."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Annotated, Literal

from pydantic import AwareDatetime, Field

from yantai.core.cooking.surely import LEAST_SURE, MOST_SURE
from yantai.core.planning.dishes import HELPING_RANGE, TUB_RANGE_ML
from yantai.core.planning.plan import Leftover
from yantai.core.planning.portioning import Place, School
from yantai.core.portions.demand import Sharing
from yantai.core.targets.targets import BUDGET_RANGE
from yantai.work.clients.inputs import Aims
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Bound, CellGrams, EachWeighing, Number, Range, Text, TypedName, Weight, Whole
from yantai.work.recipes.inputs import (
    ComponentInput,
    StepInput,
)

STEP_G = Range(0.1, 100, "g")
"""The step of the kitchen's scale."""
BUFFER_SHARE = Range(0, 0.5, "of the need")
SURE_SHARE = Range(LEAST_SURE, MOST_SURE, "of the times")
BUDGET = Range(*BUDGET_RANGE, "a container")
"""What is cooked beyond the need, for tasting and spill."""


class EaterInput(Payload):
    """Containers of one client's target in a new batch."""

    target_id: uuid.UUID
    count: Annotated[Whole, Range(1, 100, "containers")]


BatchName = Annotated[str, TypedName("the batch's name")]


MOST_DISHES = 12


class DishInput(Payload):
    """A recipe as a dish of a batch, and who eats it. Without a name it has the recipe's."""

    recipe_id: uuid.UUID
    name: Text = ""
    eaters: list[EaterInput] = Field(default_factory=list)


class BatchInput(Payload):
    """A new batch of one or several dishes."""

    name: BatchName
    cook_on: date
    dishes: Annotated[list[DishInput], Field(max_length=MOST_DISHES)]
    step_g: Annotated[Number, STEP_G] = 5
    buffer_share: Annotated[Number, BUFFER_SHARE] = 0.03
    sure_share: Annotated[Number | None, SURE_SHARE] = None
    budget: Annotated[Number | None, BUDGET] = None


class CopyInput(Payload):
    """A batch like another one, on another day."""

    name: BatchName
    cook_on: date


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
    shares, the rank by which the row is served when a pot is short, and its portions of what is divided equally."""

    kind: Literal["containers"] = "containers"
    row_id: uuid.UUID
    count: Annotated[Whole, Range(0, 100, "containers")]
    capacity_ml: Number | None
    capacity_g: Weight | None = None
    plate_g: Weight | None = None
    rank: Annotated[Whole, Range(0, 99, "")] = 0
    helping: Annotated[Number, Range(*HELPING_RANGE, "portions")] = 1


class OfPart(Payload):
    """A component in one dish; of a component that only one dish has, the dish goes without saying."""

    component_id: uuid.UUID
    dish_id: uuid.UUID | None = None


class SetSchool(OfPart):
    """Change how a component gets into the containers of a dish."""

    kind: Literal["school"] = "school"
    school: School
    unit_g: Weight | None = None
    unit_part: Number = 1
    plate_share: Number = 1
    eye_g: Weight = 0
    pieces: Whole | None = None


class SetBounds(OfPart):
    """Change the least and the most of a component per container of a dish."""

    kind: Literal["bounds"] = "bounds"
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
    """Record a cooked weight; `corrects` the one there is, which whoever weighs has seen. The parts that were weighed
    before it may count too."""

    kind: Literal["weigh"] = "weigh"
    component_id: uuid.UUID
    vessels: Annotated[list[Vessel], EachWeighing()]
    removed_g: Weight = 0
    corrects: bool = False
    with_parts: bool = False


MOST_PARTS = 20
"""So many parts of one pot are on record at most."""


class WeighPart(Payload):
    """A part of a pot is on the scale, and the rest comes later."""

    kind: Literal["weigh-part"] = "weigh-part"
    component_id: uuid.UUID
    vessel: Vessel


class SetWeighedParts(Payload):
    """What was weighed of a pot of which the rest comes later."""

    kind: Literal["weighed-parts"] = "weighed-parts"
    component_id: uuid.UUID
    vessels: Annotated[list[Vessel], Field(max_length=MOST_PARTS)]


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

    `line_ids` are the ids its lines get, so that changes of them can be undone across this one. `steps` come with it.
    """

    kind: Literal["component"] = "component"
    component_id: uuid.UUID
    component: ComponentInput
    steps: list[StepInput] = Field(default_factory=list)
    line_ids: list[uuid.UUID]
    recipe_component_id: uuid.UUID | None


class SetSteps(Payload):
    """Say how a component of this batch is made, step by step; none, and general times are proposed again."""

    kind: Literal["steps"] = "steps"
    component_id: uuid.UUID
    steps: Annotated[list[StepInput], Field(max_length=100)]


class MoveRow(Payload):
    """Cook the containers of a row with another batch instead, as its first dish or the one that is named. Their pins
    here end."""

    kind: Literal["move"] = "move"
    row_id: uuid.UUID
    to_batch_id: uuid.UUID
    dish_id: uuid.UUID | None = None


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
    dish_id: uuid.UUID | None = None
    chosen: list[Text] = Field(default_factory=list)


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
    sure_share: Annotated[Number | None, SURE_SHARE] = None
    budget: Annotated[Number | None, BUDGET] = None
    sharing: Sharing = Sharing.FAIR
    leftover: Leftover = Leftover.KEEP


class SetPlace(OfPart):
    """Change where a component of a dish goes, in a tub of what size, the group it is one of, and what of its pot is
    set aside for the dish."""

    kind: Literal["place"] = "place"
    place: Place
    tub_ml: Annotated[Number | None, Range(*TUB_RANGE_ML, "ml")] = None
    takes_g: Annotated[Weight | None, Range(1, 1_000_000, "g")] = None
    group: Text | None = None


class SetPot(Payload):
    """Change what holds for a component in all its dishes: packed raw, how that is cooked, by whole pans only."""

    kind: Literal["pot"] = "pot"
    component_id: uuid.UUID
    packed_raw: bool
    kit_text: Text = ""
    whole_pans: bool


class SetAside(Payload):
    """Take a component out of the day's plan, or back into it."""

    kind: Literal["aside"] = "aside"
    component_id: uuid.UUID
    aside: bool


class AddDish(DishInput):
    """Add a recipe to the batch, with components of its own."""

    kind: Literal["add-dish"] = "add-dish"


class SetDish(Payload):
    """Change the name of a dish, and of how many of its groups' parts a container takes."""

    kind: Literal["dish"] = "dish"
    dish_id: uuid.UUID
    name: Annotated[str, TypedName("the dish's name")]
    groups: dict[Text, Annotated[Whole, Range(1, 20, "of a group")]] = Field(default_factory=dict)


class RemoveDish(Payload):
    """Take a dish with its containers out of the batch, or put it back."""

    kind: Literal["remove-dish"] = "remove-dish"
    dish_id: uuid.UUID
    removed: bool = True


class AddPart(Payload):
    """Add a component to a dish: a copy of a recipe's, or one that the batch cooks anyway."""

    kind: Literal["add-part"] = "add-part"
    dish_id: uuid.UUID
    recipe_component_id: uuid.UUID | None = None
    component_id: uuid.UUID | None = None


class RemovePart(Payload):
    """Take a component out of a dish, or put it back."""

    kind: Literal["remove-part"] = "remove-part"
    dish_id: uuid.UUID
    component_id: uuid.UUID
    removed: bool = True


class AddRow(Payload):
    """Add containers for a client's target to a dish."""

    kind: Literal["add-row"] = "add-row"
    dish_id: uuid.UUID
    target_id: uuid.UUID
    count: Annotated[Whole, Range(1, 100, "containers")]


class RemoveRow(Payload):
    """Take containers out of the batch, or put them back."""

    kind: Literal["remove-row"] = "remove-row"
    row_id: uuid.UUID
    removed: bool = True


class SplitRow(Payload):
    """Make a line of its own of some containers of a row: they start as what they were."""

    kind: Literal["split-row"] = "split-row"
    row_id: uuid.UUID
    count: Annotated[Whole, Range(1, 100, "containers")]


class MergeRow(Payload):
    """Count the containers of a row among those of another one of the same client, meal and dish."""

    kind: Literal["merge-row"] = "merge-row"
    row_id: uuid.UUID
    into_row_id: uuid.UUID


class SetChoice(Payload):
    """Say what the containers of a row take of the groups of their dish."""

    kind: Literal["choice"] = "choice"
    row_id: uuid.UUID
    chosen: list[uuid.UUID]


class SpreadChoices(Payload):
    """Choose for all containers of a dish, of one client or of all: with as much variety as can be, or the same."""

    kind: Literal["spread"] = "spread"
    dish_id: uuid.UUID
    client_id: uuid.UUID | None = None
    same: bool = False


class SharePot(Payload):
    """Cook one component in the pot of another one that is made of the same."""

    kind: Literal["share-pot"] = "share-pot"
    component_id: uuid.UUID
    with_component_id: uuid.UUID


class SplitPot(Payload):
    """Give a dish a pot of its own of a component that several dishes share."""

    kind: Literal["split-pot"] = "split-pot"
    component_id: uuid.UUID
    dish_id: uuid.UUID


class UsePot(Payload):
    """Let dishes take a component from another pot of the batch: how sharing and splitting are taken back."""

    kind: Literal["use-pot"] = "use-pot"
    component_id: uuid.UUID
    with_component_id: uuid.UUID
    dish_ids: list[uuid.UUID]


class CookApart(Payload):
    """Cook a component apart for the containers of some rows: in a pot of its own, in a dish of their own."""

    kind: Literal["apart"] = "apart"
    component_id: uuid.UUID
    row_ids: Annotated[list[uuid.UUID], Field(min_length=1)]


class PutRows(Payload):
    """Give rows another dish of the batch that has the same kind of parts: how cooking apart is taken back."""

    kind: Literal["put-rows"] = "put-rows"
    row_ids: list[uuid.UUID]
    dish_id: uuid.UUID


class PutAway(Payload):
    """Put the batch away, so that it is in no list of what is to do; or take it back to them."""

    kind: Literal["put-away"] = "put-away"
    away: bool


class Delete(Payload):
    """Delete the batch, or bring it back: it stays where the log can bring it back from."""

    kind: Literal["delete"] = "delete"
    deleted: bool


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
    | WeighPart
    | SetWeighedParts
    | Withdraw
    | SetLine
    | SetComponent
    | SetSteps
    | MoveRow
    | TakeRow
    | AddSide
    | RemoveSide
    | AddLine
    | RemoveLine
    | SetPoured
    | SetBatch
    | SetPlace
    | SetPot
    | SetAside
    | AddDish
    | SetDish
    | RemoveDish
    | AddPart
    | RemovePart
    | AddRow
    | RemoveRow
    | SplitRow
    | MergeRow
    | SetChoice
    | SpreadChoices
    | SharePot
    | SplitPot
    | UsePot
    | CookApart
    | PutRows
    | PutAway
    | Delete
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
