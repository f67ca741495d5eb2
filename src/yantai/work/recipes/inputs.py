"""What is sent of a recipe, and of lines to read."""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import Field

from yantai.core.cooking.components import Role
from yantai.core.cooking.liquids import MAXIMUM_COOK_MIN, Lid
from yantai.core.cooking.yields import MAXIMUM_YIELD
from yantai.core.foods.edible import MAXIMUM_REFUSE_SHARE
from yantai.core.planning.dishes import TUB_RANGE_ML
from yantai.core.planning.portioning import Place, Portioning, School
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.schedule.steps import Growth
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import FileText, Note, Number, Range, Text, Weight, Whole

_CELL = Range(0, MAXIMUM_CELL_G, "g", late=True)


class LineInput(Payload):
    """An ingredient: grams as purchased of a food, or cooked grams of another component (`source_id`).

    `text` is the line as it was written, `weighed_state` the state the grams were weighed in ("" is the food's own).
    `refuse_after`: what is not eaten comes off after cooking. `unfolded`: it came with a component that the batch's one
    was made of, and its yield is the one it has there. `dismissed` holds reasons by the code of a finding.
    """

    food_id: uuid.UUID | None = None
    source_id: uuid.UUID | None = None
    purchased_g: Weight
    refuse_share: Annotated[Number, Range(0, MAXIMUM_REFUSE_SHARE, "of the line", late=True)] = 0
    refuse_after: bool = False
    retained_share: Annotated[Number, Range(0, 1, "of the line", late=True)] = 1
    yield_factor: Annotated[Number | None, Range(0, MAXIMUM_YIELD, "g cooked per g raw", late=True)] = None
    text: Text = ""
    weighed_state: Text = ""
    counted: bool = True
    scales: bool = True
    unfolded: bool = False
    dismissed: dict[Text, Text] = Field(default_factory=dict)


class ComponentInput(Payload):
    """A component; `id` of one that exists, or a new one that lines of this recipe may refer to, or None.

    `poured_fat_g` is rendered fat poured off, `pan_capacity_g` what the pan holds raw; a component that is not
    `served` only goes into others. `school` says how it is portioned, `unit_g` is a piece or scoop, `unit_part` the
    smallest part of it that is given, `plate_share` its share of the plate, `eye_g` an amount nobody weighs. It goes to
    its `place`, beside the container in a tub of `tub_ml`; `group` names the group it is one of. `lid` ("" is not said)
    and `cook_min`, minutes on the heat, say how much of a pot's liquid boils off. What is `packed_raw` is cooked later,
    as `kit_text` says; `whole_pans` says that no part of a pan is cooked.
    """

    id: uuid.UUID | None = None
    name: Text
    role: Role = Role.PROTEIN
    method: Text = "none"
    minimum_g: Annotated[Weight, _CELL] = 0
    maximum_g: Annotated[Weight | None, _CELL] = None
    density_g_per_ml: Annotated[Number, Range(0.05, 2, "g per ml", late=True)] = 0.8
    yield_low: Number | None = None
    yield_expected: Number | None = None
    yield_high: Number | None = None
    poured_fat_g: Weight = 0
    pieces: Whole | None = None
    pan_capacity_g: Annotated[Weight | None, Range(1, 1_000_000, "g", late=True)] = None
    lid: Lid = Lid.UNSAID
    cook_min: Annotated[Number | None, Range(1, MAXIMUM_COOK_MIN, "minutes", late=True)] = None
    served: bool = True
    school: School = School.BY_COMPONENT
    unit_g: Weight | None = None
    unit_part: Number = 1
    plate_share: Number = 1
    eye_g: Weight = 0
    place: Place = Place.IN_CONTAINER
    tub_ml: Annotated[Number | None, Range(*TUB_RANGE_ML, "ml", late=True)] = None
    group: Text | None = None
    packed_raw: bool = False
    kit_text: Note = ""
    whole_pans: bool = False
    dismissed: dict[Text, Text] = Field(default_factory=dict)
    lines: list[LineInput] = Field(default_factory=list)

    @property
    def portioning(self) -> Portioning:
        """How it gets into containers.

        Raises:
            CoreError: the least is above the most.
        """
        return Portioning(
            school=self.school,
            minimum_g=self.minimum_g,
            maximum_g=self.maximum_g,
            unit_g=self.unit_g,
            unit_part=self.unit_part,
            plate_share=self.plate_share,
            eye_g=self.eye_g,
            place=self.place,
            tub_ml=self.tub_ml,
            group=self.group or None,
        )


class StepInput(Payload):
    """A step: minutes with hands and without, oven temperature [°C], equipment, minutes ahead it must begin.

    It is of the component of `component_id`, or of the one called `component`; of neither, and it is of the whole
    recipe. It wants a look at least `every_min`, `growth` says how its minutes grow with the amount (None is not said),
    `load_g` how much goes on at once. It begins `lead_min` to `lead_most_min` before the next one; it is done at
    `core_c` inside, or `done_when` it looks so. `after` are the steps that it waits for, None for the one before it.
    """

    id: uuid.UUID | None = None
    text: Note
    component_id: uuid.UUID | None = None
    component: Text | None = None
    hands_on_min: Annotated[Number | None, Range(0, 1440, "minutes", late=True)] = None
    unattended_min: Annotated[Number | None, Range(0, 2880, "minutes", late=True)] = None
    temperature_c: Annotated[Number | None, Range(-30, 500, "°C", late=True)] = None
    every_min: Annotated[Number | None, Range(1, 1440, "minutes", late=True)] = None
    equipment: Text = ""
    growth: Growth | None = None
    load_g: Annotated[Weight | None, Range(1, 1_000_000, "g", late=True)] = None
    lead_min: Annotated[Number | None, Range(0, 10_080, "minutes", late=True)] = None
    lead_most_min: Annotated[Number | None, Range(0, 10_080, "minutes", late=True)] = None
    core_c: Annotated[Number | None, Range(0, 150, "°C", late=True)] = None
    done_when: Note = ""
    after: list[uuid.UUID] | None = None


class RecipeInput(Payload):
    """A recipe as typed, for as many people as it `serves`; `groups` say of how many of their components a container
    takes. `version` is the one that was read, None for a new recipe."""

    name: Text
    note: Note = ""
    serves: Annotated[Whole | None, Range(1, 1000, "people", late=True)] = None
    groups: dict[Text, Annotated[Whole, Range(1, 20, "of a group")]] = Field(default_factory=dict)
    components: list[ComponentInput] = Field(default_factory=list)
    steps: list[StepInput] = Field(default_factory=list)
    version: Whole | None = None


class ScaleInput(Payload):
    """How to size a recipe: by `factor`; or so that a line (`component`, `line` places) takes `on_hand_g`; or
    whole packs of `pack_g` of it, `packs` of them or the next whole number."""

    recipe: RecipeInput
    factor: Number | None = None
    component: Whole | None = None
    line: Whole | None = None
    on_hand_g: Weight | None = None
    pack_g: Weight | None = None
    packs: Whole | None = None


class IntakeInput(Payload):
    """Text of a recipe, or of one line; `food_id` is the food that the coach answered with for it."""

    text: FileText
    food_id: uuid.UUID | None = None


class AnswerInput(Payload):
    """The food that some words of a line mean here; it is remembered."""

    words: Text
    food_id: uuid.UUID
