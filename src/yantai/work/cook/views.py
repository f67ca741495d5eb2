"""What is shown of kitchens and of a cook day. Minutes count from midnight of the day, negative ones before it."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.live import CookEvent
from yantai.work.recipes.views import StepView


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenItemView:
    """Equipment of one kind and size, as it is sent."""

    id: uuid.UUID
    kind: Kind
    name: str
    count: int
    places: int
    capacity_l: float | None
    meat_g: float | None
    vegetables_g: float | None
    grain_g: float | None
    most_c: float | None
    within_id: uuid.UUID | None


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenPersonView:
    """Somebody who cooks here."""

    id: uuid.UUID
    name: str
    does: list[Skill]
    pace: float


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenView:
    """A kitchen with all there is in it."""

    id: uuid.UUID
    name: str
    version: int
    items: list[KitchenItemView]
    people: list[KitchenPersonView]


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualItem:
    """Equipment as it usually is, to begin with."""

    key: str
    kind: Kind
    kind_name: str
    name: str
    places: int
    capacity_l: float | None
    meat_g: float | None
    vegetables_g: float | None
    grain_g: float | None
    most_c: float | None
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PresenceView:
    """From when to when somebody is there."""

    person_id: uuid.UUID
    start_min: int
    end_min: int


@dataclass(frozen=True, slots=True, kw_only=True)
class CookDayView:
    """How a batch is cooked. `assumed` says what nobody has set, in words; nothing is kept of it."""

    kitchen_id: uuid.UUID
    start_min: int
    ready_by_min: int | None
    share_oven: bool
    there: list[PresenceView]
    version: int | None
    assumed: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class CookStepView:
    """What is done in one go: a step, or a round of it. When it is done `until_g` are in the vessel [g], where it is
    cooked to a weight. `proposed` says where it comes from when nobody wrote it,
    `assumed` what was taken to be so. `cautions` are shown where it is done."""

    key: str
    step_id: uuid.UUID | None
    component_id: uuid.UUID | None
    component: str
    says: str
    round: int
    rounds: int
    grams: float
    pieces: int | None
    start_min: int
    end_min: int
    is_hands_on: bool
    on: str
    temperature_c: float | None
    rest_min: int
    is_ahead: bool
    core_c: float | None
    done_when: str
    until_g: float | None
    proposed: str
    assumed: list[str]
    cautions: list[str]
    begun_min: int | None
    done_min: int | None
    is_held: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BlockView:
    """A stretch of a lane: a task, or hands at it; `kind` is hands, goes on, heats up, rests or away."""

    task: str
    kind: str
    says: str
    start_min: int
    end_min: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LaneView:
    """A person, or a place on a machine, over the day."""

    key: str
    name: str
    is_person: bool
    blocks: list[BlockView]


@dataclass(frozen=True, slots=True, kw_only=True)
class PromptView:
    """Something that somebody has to do at a minute: begin a task, turn, take out, switch an oven on.

    What is noted when it is done is `event`, of `task` (a machine that is heated, to `celsius`) and `touch`. `goes_on`
    says that the task has begun; `core_c` what has to be read first.
    """

    key: str
    task: str
    event: CookEvent
    touch: int | None
    celsius: float | None
    goes_on: bool
    component_id: uuid.UUID | None
    component: str
    core_c: float | None
    at_min: int
    minutes: int
    person_id: uuid.UUID | None
    says: str
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TimerView:
    """What rings at a minute: a time within a task that goes on, or one that somebody set (`is_own`)."""

    key: str
    task: str
    name: str
    says: str
    at_min: int
    is_own: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingView:
    """A core temperature [°C] that was read, and whether it was hot enough by then."""

    component_id: str
    component: str
    celsius: float
    at_min: int
    is_enough: bool
    made_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolingView:
    """What left the heat and has to be in the fridge by a minute; `done_min` when it was."""

    component_id: str
    component: str
    start_min: int
    end_min: int
    done_min: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaleReadingView:
    """What the scale showed with the vessel [g]."""

    at_min: int
    grams: float
    made_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaleView:
    """What is on the heat until `net_g` are in its vessel [g].

    The vessel is that of the last reading, None before there is one. `left_g` still has to go; negative, it has to be
    added. `per_min_g` goes in a minute; about at `about_min` it is there, None where two readings do not tell.
    """

    task: str
    component: str
    says: str
    net_g: float
    vessel: str
    vessel_g: float | None
    left_g: float | None
    is_there: bool
    per_min_g: float | None
    about_min: int | None
    readings: list[ScaleReadingView]


@dataclass(frozen=True, slots=True, kw_only=True)
class LiveView:
    """A cook day that goes on. `steps_done` of `steps` are over; all was to be ready at `planned_ready_min`. `noted` is
    the number of the last thing that was noted."""

    noted: int
    begun_min: int
    steps: int
    steps_done: int
    planned_ready_min: int | None
    timers: list[TimerView]
    readings: list[ReadingView]
    cooling: list[CoolingView]
    scales: list[ScaleView]


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderView:
    """The order of work. At most `spare_min` could be saved by another one, as far as known; 0 is proven."""

    begins_min: int
    ready_min: int
    spare_min: int
    hands_min: int
    apart_min: int
    steps: list[CookStepView]
    lanes: list[LaneView]
    prompts: list[PromptView]


@dataclass(frozen=True, slots=True, kw_only=True)
class CookView:
    """A batch on its cook day. Without an order `trouble` says why there is none; `impossible` is what cannot be
    done in this kitchen; `asks` are steps that say too little."""

    day: CookDayView | None
    kitchen: KitchenView | None
    order: OrderView | None
    trouble: str
    impossible: list[str]
    asks: list[str]
    live: LiveView | None
    now_s: int
    """What the clock of the kitchen shows, in seconds from midnight of the day."""
    let_go: list[str]
    """What could not stay where it was held, in words."""
    late: str = ""
    """What is past already of a day that nobody has begun, with the mend; "" where nothing is."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PotStepsView:
    """How a component of a batch is made; what nobody wrote is proposed."""

    component_id: uuid.UUID
    component: str
    is_proposed: bool
    steps: list[StepView]


@dataclass(frozen=True, slots=True, kw_only=True)
class HelpView:
    """What one more pair of hands would change [min]."""

    ready_min: int
    saves_min: int
    spare_min: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LogEntryView:
    """Something that was noted, in words: when it happened, and when it arrived where a device was away meanwhile."""

    id: uuid.UUID
    happened_at: datetime
    arrived_at: datetime
    component: str
    says: str
    what: str
    minutes: int | None
    celsius: float | None
    is_enough: bool | None
    grams: float | None
    vessel_g: float | None
    person: str
    made_by: str
    device: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CookLogView:
    """The log of a cook day, and how long it took: in all, hands on against what was planned for the same steps, and
    for each container [min]."""

    entries: list[LogEntryView]
    took_min: int | None
    hands_min: int
    planned_hands_min: int
    container_min: float | None
