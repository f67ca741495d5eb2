"""What users send: plain dataclasses, checked for sense by the work functions and the core."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated, ClassVar, Literal

from yantai.work.typed import EachWeighing, FileText, Note, Number, Text, Weight, Whole


class Strict:
    """Inputs refuse fields they do not know, so that a misspelt one is not lost in silence."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}


SchoolName = Literal[
    "by component",
    "equal split",
    "one pot",
    "built raw",
    "pieces",
    "plate shares",
    "fixed measure",
    "by eye",
]


@dataclass(frozen=True, kw_only=True)
class Credentials(Strict):
    """A sign-in."""

    email: Text
    password: Text


@dataclass(frozen=True, kw_only=True)
class ToleranceInput(Strict):
    """How far off is close enough: amounts, or percent of the target."""

    percent: bool = False
    kcal: Number = 30
    protein_g: Number = 3
    carbohydrate_g: Number = 5
    fat_g: Number = 3
    priority_kcal: Number = 2
    priority_protein_g: Number = 2
    priority_carbohydrate_g: Number = 1
    priority_fat_g: Number = 1


@dataclass(frozen=True, kw_only=True)
class Aims:
    """Figures of a container or a day; None is not aimed at, or no limit."""

    kcal: Number | None = None
    protein_g: Number | None = None
    carbohydrate_g: Number | None = None
    fat_g: Number | None = None
    fibre_g: Number | None = None
    saturated_g: Number | None = None
    sodium_mg: Number | None = None


@dataclass(frozen=True, kw_only=True)
class TargetInput(Aims, Strict):
    """What one container shall hold. `id` of a target that exists, or None for a new one.

    With a `day_share` the figures stay empty: they are that share of what the day's extras leave.
    """

    id: uuid.UUID | None = None
    slot: Text
    day_type: Text = "any"
    day_share: Number | None = None
    capacity_ml: Number | None = None
    capacity_g: Weight | None = None
    plate_g: Weight | None = None


@dataclass(frozen=True, kw_only=True)
class DayExtraInput(Strict):
    """A food eaten on a day outside the containers."""

    food_id: uuid.UUID
    grams: Weight


@dataclass(frozen=True, kw_only=True)
class DayInput(Aims, Strict):
    """What a whole day of one type shall hold, extras included."""

    day_type: Text = "any"
    extras: list[DayExtraInput] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ClientInput(Strict):
    """A client as typed; `version` is the one that was read, None for a new client.

    `exclusions` are words: what one of them means stays out of every container, a disliked one is only marked.
    """

    name: Text
    note: Note = ""
    allergens: list[Text] = field(default_factory=list)
    dislikes: list[Text] = field(default_factory=list)
    exclusions: list[Text] = field(default_factory=list)
    tolerance: ToleranceInput = field(default_factory=ToleranceInput)
    days: list[DayInput] = field(default_factory=list)
    targets: list[TargetInput] = field(default_factory=list)
    signed_off_by: Text = ""
    signed_off_on: date | None = None
    version: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class WordsInput(Strict):
    """Words that keep foods out, as typed for a client."""

    words: list[Text]


@dataclass(frozen=True, kw_only=True)
class SuggestionInput(Strict):
    """Whose day to suggest targets for. Nothing of it is kept. `share` is what one container is of the day."""

    sex: Literal["female", "male"]
    age_y: Number
    height_cm: Number
    weight_kg: Number
    activity: Number = 1.5
    body_fat_share: Number | None = None
    conditions: list[
        Literal[
            "pregnant or nursing",
            "kidney or liver disease",
            "diabetes on medication",
            "a history of disordered eating",
        ]
    ] = field(default_factory=list)
    change_share: Number = 0
    protein_g_per_kg: Number = 1.8
    fat_g_per_kg: Number = 0.9
    share: Number = 1


@dataclass(frozen=True, kw_only=True)
class LineInput(Strict):
    """An ingredient: grams as purchased of a food, or cooked grams of another component (`source_id`).

    `text` is the line as it was written, `weighed_state` the state the grams were weighed in ("" is the food's own).
    `refuse_after`: what is not eaten comes off after cooking. `unfolded`: it came with a component that the batch's one
    was made of, and its yield is the one it has there. `dismissed` holds reasons by the code of a finding.
    """

    food_id: uuid.UUID | None = None
    source_id: uuid.UUID | None = None
    purchased_g: Weight
    refuse_share: Number = 0
    refuse_after: bool = False
    retained_share: Number = 1
    yield_factor: Number | None = None
    text: Text = ""
    weighed_state: Text = ""
    counted: bool = True
    scales: bool = True
    unfolded: bool = False
    dismissed: dict[Text, Text] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class ComponentInput(Strict):
    """A component; `id` of one that exists, or a new one that lines of this recipe may refer to, or None.

    `poured_fat_g` is rendered fat poured off, `pan_capacity_g` what the pan holds raw; a component that is not
    `served` only goes into others. `school` says how it is portioned, `unit_g` is a piece or scoop, `unit_part` the
    smallest part of it that is given, `plate_share` its share of the plate, `eye_g` an amount nobody weighs. `lid` (""
    is not said) and `cook_min`, minutes on the heat, say how much of a pot's liquid boils off.
    """

    id: uuid.UUID | None = None
    name: Text
    role: Text = "protein"
    method: Text = "none"
    minimum_g: Weight = 0
    maximum_g: Weight | None = None
    density_g_per_ml: Number = 0.8
    yield_low: Number | None = None
    yield_expected: Number | None = None
    yield_high: Number | None = None
    poured_fat_g: Weight = 0
    pieces: Whole | None = None
    pan_capacity_g: Weight | None = None
    lid: Literal["", "on", "off"] = ""
    cook_min: Number | None = None
    served: bool = True
    school: SchoolName = "by component"
    unit_g: Weight | None = None
    unit_part: Number = 1
    plate_share: Number = 1
    eye_g: Weight = 0
    dismissed: dict[Text, Text] = field(default_factory=dict)
    lines: list[LineInput] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class StepInput(Strict):
    """A step: minutes with hands and without, oven temperature [°C], equipment, minutes ahead it must begin."""

    text: Note
    component: Text = ""
    hands_on_min: Number | None = None
    unattended_min: Number | None = None
    temperature_c: Number | None = None
    equipment: Text = ""
    lead_min: Number | None = None


@dataclass(frozen=True, kw_only=True)
class RecipeInput(Strict):
    """A recipe as typed; `version` is the one that was read, None for a new recipe."""

    name: Text
    note: Note = ""
    components: list[ComponentInput] = field(default_factory=list)
    steps: list[StepInput] = field(default_factory=list)
    version: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class ScaleInput(Strict):
    """How to size a recipe: by `factor`; or so that a line (`component`, `line` places) takes `on_hand_g`; or
    whole packs of `pack_g` of it, `packs` of them or the next whole number."""

    recipe: RecipeInput
    factor: Number | None = None
    component: Whole | None = None
    line: Whole | None = None
    on_hand_g: Weight | None = None
    pack_g: Weight | None = None
    packs: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class LabelInput(Strict):
    """A label as it is printed, for `serving_g` grams, or for `serving_ml` of which one weighs `ml_weighs_g`.

    Empty figures are not stated, which is not zero.
    """

    serving_g: Weight = 100
    serving_ml: Number | None = None
    ml_weighs_g: Number | None = None
    kcal: Number | None = None
    kj: Number | None = None
    protein_g: Number | None = None
    carbohydrate_g: Number | None = None
    fat_g: Number | None = None
    fibre_g: Number | None = None
    sugars_g: Number | None = None
    saturated_g: Number | None = None
    salt_g: Number | None = None
    sodium_mg: Number | None = None
    alcohol_g: Number | None = None
    polyols_g: Number | None = None
    carbohydrate: Literal["total", "available"] = "available"
    rounding: Literal["us", "eu", "exact"] = "eu"


@dataclass(frozen=True, kw_only=True)
class MeasureInput(Strict):
    """A household measure: grams of one of it."""

    name: Text
    grams: Weight


@dataclass(frozen=True, kw_only=True)
class PackInput(Strict):
    """A pack as bought."""

    name: Text
    grams: Weight
    drained_g: Weight | None = None
    price: Number | None = None


@dataclass(frozen=True, kw_only=True)
class FoodInput(Strict):
    """An own food from its label. `copied_from` names the food whose yields and measures it starts with."""

    name: Text
    group: Text
    state: Text
    method: Text = ""
    label: LabelInput = field(default_factory=LabelInput)
    allergens: list[Text] = field(default_factory=list)
    diet_tags: list[Text] = field(default_factory=list)
    note: Note = ""
    other_names: Text = ""
    measures: list[MeasureInput] = field(default_factory=list)
    packs: list[PackInput] = field(default_factory=list)
    copied_from: uuid.UUID | None = None
    version: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class SupplyInput(Strict):
    """The kitchen's own measures and packs of a food, shared or own."""

    measures: list[MeasureInput] = field(default_factory=list)
    packs: list[PackInput] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ImportInput(Strict):
    """A CSV of foods. `columns` maps a field to the heading it is read from; empty proposes a mapping."""

    text: FileText
    columns: dict[Text, Text] = field(default_factory=dict)
    state: Text = "as-sold"
    group: Text = "own"
    carbohydrate: Literal["total", "available"] = "total"
    save: bool = False
    skip_bad: bool = False


@dataclass(frozen=True, kw_only=True)
class VesselInput(Strict):
    """A pan, tray or bowl."""

    id: uuid.UUID | None = None
    name: Text
    empty_g: Weight
    capacity_g: Weight | None = None


@dataclass(frozen=True, kw_only=True)
class WorkspaceInput(Strict):
    """What the whole kitchen counts by."""

    spoons: Literal["us", "metric", "australian", "imperial"] = "metric"
    energy_rule: Literal["general", "net", "eu", "label"] = "general"
    carbohydrate: Literal["total", "available"] = "total"
    free_foods: list[Text] = field(default_factory=list)
    vessels: list[VesselInput] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class PersonInput(Strict):
    """How figures are shown to one person; storage stays metric."""

    mass_unit: Literal["g", "oz"] = "g"
    temperature_unit: Literal["C", "F"] = "C"
    energy_unit: Literal["kcal", "kJ"] = "kcal"


@dataclass(frozen=True, kw_only=True)
class IntakeInput(Strict):
    """Text of a recipe, or of one line; `food_id` is the food that the coach answered with for it."""

    text: FileText
    food_id: uuid.UUID | None = None


@dataclass(frozen=True, kw_only=True)
class AnswerInput(Strict):
    """The food that some words of a line mean here; it is remembered."""

    words: Text
    food_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class PlanFileInput(Strict):
    """A plan document (docs/formats) as text, to become a batch that is cooked on a day."""

    text: FileText
    cook_on: date


@dataclass(frozen=True, kw_only=True)
class EaterInput(Strict):
    """Containers of one client's target in a new batch."""

    target_id: uuid.UUID
    count: Whole


@dataclass(frozen=True, kw_only=True)
class BatchInput(Strict):
    """A new batch."""

    name: Text
    recipe_id: uuid.UUID
    cook_on: date
    eaters: list[EaterInput]
    step_g: Number = 5
    buffer_share: Number = 0.03


@dataclass(frozen=True, kw_only=True)
class SetPin(Strict):
    """Fix the grams of one cell, or free it."""

    kind: Literal["pin"] = "pin"
    row_id: uuid.UUID
    component_id: uuid.UUID
    grams: Weight | None


@dataclass(frozen=True, kw_only=True)
class SetTarget(Strict):
    """Change what the containers of one row shall hold, in this batch only."""

    kind: Literal["target"] = "target"
    row_id: uuid.UUID
    kcal: Number | None
    protein_g: Number | None
    carbohydrate_g: Number | None
    fat_g: Number | None
    fibre_g: Number | None = None
    saturated_g: Number | None = None
    sodium_mg: Number | None = None


@dataclass(frozen=True, kw_only=True)
class SetContainers(Strict):
    """Change how many containers a row has, what they hold and carry at most, the whole plate of components in
    shares, and the rank by which the row is served when a pot is short."""

    kind: Literal["containers"] = "containers"
    row_id: uuid.UUID
    count: Whole
    capacity_ml: Number | None
    capacity_g: Weight | None = None
    plate_g: Weight | None = None
    rank: Whole = 0


@dataclass(frozen=True, kw_only=True)
class SetSchool(Strict):
    """Change how a component of this batch gets into the containers."""

    kind: Literal["school"] = "school"
    component_id: uuid.UUID
    school: SchoolName
    unit_g: Weight | None = None
    unit_part: Number = 1
    plate_share: Number = 1
    eye_g: Weight = 0
    pieces: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class SetBounds(Strict):
    """Change the least and the most of a component per container."""

    kind: Literal["bounds"] = "bounds"
    component_id: uuid.UUID
    minimum_g: Weight
    maximum_g: Weight | None


@dataclass(frozen=True, kw_only=True)
class RawAmount(Strict):
    """Grams of one line as purchased."""

    line_id: uuid.UUID
    purchased_g: Weight


@dataclass(frozen=True, kw_only=True)
class SetRaw(Strict):
    """Fix the raw amounts of a component: those given, the others as planned now. Or let them follow again."""

    kind: Literal["raw"] = "raw"
    component_id: uuid.UUID
    fixed: bool
    lines: list[RawAmount] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class SetPacks(Strict):
    """Cook a component from whole packs of one ingredient, the others in proportion; its raw amounts are then fixed.

    Without `packs` it is the next whole number that the plan needs.
    """

    kind: Literal["packs"] = "packs"
    component_id: uuid.UUID
    line_id: uuid.UUID
    pack_g: Weight
    packs: Whole | None = None


@dataclass(frozen=True, kw_only=True)
class Vessel(Strict):
    """One vessel on the scale."""

    gross_g: Weight
    vessel_g: Weight = 0


@dataclass(frozen=True, kw_only=True)
class Weigh(Strict):
    """Record a cooked weight."""

    kind: Literal["weigh"] = "weigh"
    component_id: uuid.UUID
    vessels: Annotated[list[Vessel], EachWeighing()]
    removed_g: Weight = 0


@dataclass(frozen=True, kw_only=True)
class Withdraw(Strict):
    """Take back a cooked weight."""

    kind: Literal["withdraw"] = "withdraw"
    component_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class AddLine(Strict):
    """Add an ingredient at the stove, after cooking began; it is logged as such."""

    kind: Literal["add-line"] = "add-line"
    component_id: uuid.UUID
    food_id: uuid.UUID
    purchased_g: Weight


@dataclass(frozen=True, kw_only=True)
class SetLine(Strict):
    """Change how much of an ingredient goes into a component of this batch, or which food it is. The amounts stay
    proportions while the pan is not weighed."""

    kind: Literal["line"] = "line"
    component_id: uuid.UUID
    line_id: uuid.UUID
    food_id: uuid.UUID
    purchased_g: Weight


@dataclass(frozen=True, kw_only=True)
class SetComponent(Strict):
    """Put another component in the place of one of this batch: that of another recipe, or the one it was before.

    `line_ids` are the ids its lines get, so that changes of them can be undone across this one.
    """

    kind: Literal["component"] = "component"
    component_id: uuid.UUID
    component: ComponentInput
    line_ids: list[uuid.UUID]
    recipe_component_id: uuid.UUID | None


@dataclass(frozen=True, kw_only=True)
class MoveRow(Strict):
    """Cook the containers of a row with another batch instead. Their pins here end."""

    kind: Literal["move"] = "move"
    row_id: uuid.UUID
    to_batch_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class RowPin(Strict):
    """Grams of one component that a row had pinned."""

    component_id: uuid.UUID
    grams: Weight


@dataclass(frozen=True, kw_only=True)
class TakeRow(Strict):
    """Take a row that was moved to another batch back to its place, with the pins it had."""

    kind: Literal["take"] = "take"
    row_id: uuid.UUID
    from_batch_id: uuid.UUID
    position: Whole
    pins: list[RowPin] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class AddExtra(Strict):
    """Put a food beside the components into the containers of one row."""

    kind: Literal["extra"] = "extra"
    row_id: uuid.UUID
    food_id: uuid.UUID
    grams: Weight
    component_id: uuid.UUID | None = None


@dataclass(frozen=True, kw_only=True)
class RemoveExtra(Strict):
    """Take a food that was put beside the components out of the containers of one row again."""

    kind: Literal["remove-extra"] = "remove-extra"
    row_id: uuid.UUID
    component_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class RemoveLine(Strict):
    """Take an ingredient that was added at the stove out again."""

    kind: Literal["remove-line"] = "remove-line"
    component_id: uuid.UUID
    line_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class SetPoured(Strict):
    """Rendered fat that was poured off and weighed [g]."""

    kind: Literal["poured"] = "poured"
    component_id: uuid.UUID
    poured_fat_g: Weight


@dataclass(frozen=True, kw_only=True)
class SetBatch(Strict):
    """Change the batch itself."""

    kind: Literal["batch"] = "batch"
    name: Text
    cook_on: date
    step_g: Number
    buffer_share: Number
    sharing: Literal["fair", "ranked"] = "fair"
    leftover: Literal["keep", "spread", "extra containers"] = "keep"


@dataclass(frozen=True, kw_only=True)
class SetPacked(Strict):
    """Close the batch once its containers are filled, or open it again."""

    kind: Literal["packed"] = "packed"
    packed: bool


Change = (
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
    | AddExtra
    | RemoveExtra
    | AddLine
    | RemoveLine
    | SetPoured
    | SetBatch
    | SetPacked
)


@dataclass(frozen=True, kw_only=True)
class Changes(Strict):
    """Changes of a batch, made together or not at all, to the version that was read.

    `command_id` names this wish: sent again, after a lost answer, it counts once.
    """

    version: Whole
    changes: list[Change]
    confirmed: bool = False
    command_id: uuid.UUID = field(default_factory=uuid.uuid4)
