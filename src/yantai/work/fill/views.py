"""Containers at the scale as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.core.filling.facts import Way
from yantai.core.planning.portioning import Place, School
from yantai.work.common.views import AmountsView, GaugeView


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledView:
    """What somebody noted of a part: so many grams are in, give or take `unsure_g`; it `is_left_out` on purpose."""

    fact_id: uuid.UUID
    grams: float
    unsure_g: float
    units: float | None
    way: Way | None
    is_left_out: bool
    text: str
    made_by: str
    happened_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class FillLineView:
    """An ingredient of what is built raw: so much of it goes in, and the scale shows `up_to_g` then [g]."""

    name: str
    grams: float
    up_to_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FillPartView:
    """One part of one container [g]: `grams` go in, or are in once it is filled.

    `component_ids` are those of a mixture. Filling may stop from `stop_low_g` to `stop_high_g`. `unit_g` is one piece,
    scoop or built unit where it is counted, of which `units` go in, down to `unit_part` of one; `cup_g` is a cup by its
    assumed bulk density. What is built raw has its `lines` in order, and is then cooked as `cooked_by` says. `others`
    tell something else than `filled` and did not know of it: it counts until somebody decides.
    """

    component_id: uuid.UUID
    component_ids: list[uuid.UUID]
    name: str
    school: School
    place: Place
    grams: float
    planned_g: float
    stop_low_g: float
    stop_high_g: float
    unit_g: float | None
    unit_part: float
    units: float | None
    cup_g: float
    lines: list[FillLineView]
    cooked_by: str
    is_by_eye: bool
    filled: FilledView | None
    others: list[FilledView]


@dataclass(frozen=True, slots=True, kw_only=True)
class FillMendView:
    """A change of what is in a container that makes a miss good: grams to take out (below nothing) or to put in."""

    component_id: uuid.UUID
    grams: float
    meets: bool
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FillContainerView:
    """Container `number` of the `of` that a row has, with its parts in order.

    `is_first` says that it is filled before those that hold what its client must not eat, `kept_out` what that is.
    `so_far` is what is in now, `amounts` and `gauges` once all is in. `missed` tells what stays off although the plan
    would have met it, `mends` what to do about it, and `others_open` how many containers of the client it can be evened
    out over. One that `is_in_bulk` is packed another day.
    """

    row_id: uuid.UUID
    number: int
    of: int
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    dish_id: uuid.UUID
    dish: str
    capacity_ml: float | None
    capacity_g: float | None
    is_first: bool
    kept_out: list[str]
    parts: list[FillPartView]
    is_closed: bool
    is_in_bulk: bool
    is_evened: bool
    so_far: AmountsView
    amounts: AmountsView
    gauges: list[GaugeView]
    volume_ml: float
    overfull: str
    missed: list[str]
    mends: list[FillMendView]
    others_open: int


@dataclass(frozen=True, slots=True, kw_only=True)
class FillPotView:
    """A pot that containers are filled from [g]: what is left, what those still to come get and would take.

    Where it was put back on the scale, `off_g` is how much more it held than it should have. `scoop_g` is one scoop as
    it was weighed here.
    """

    component_id: uuid.UUID
    name: str
    is_weighed: bool
    cooked_g: float
    left_g: float
    needed_g: float
    wanted_g: float
    short_g: float
    over_g: float
    scoop_g: float | None
    weighed_again_g: float | None
    off_g: float | None
    rests: list[RestView]


@dataclass(frozen=True, slots=True, kw_only=True)
class RestView:
    """What of a pot went where, by a decision: into `units` extra containers where it is those."""

    fact_id: uuid.UUID
    grams: float
    units: float | None
    fate: str
    client: str
    text: str
    made_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StrayView:
    """What was filled into a container, or of a part, that the plan no longer has."""

    words: str
    grams: float
    fact_id: uuid.UUID


@dataclass(frozen=True, slots=True, kw_only=True)
class FillView:
    """A batch at the scale, containers in the order in which they are filled; `facts` is the number of the last fact
    that it knows, `is_packed` that nothing more is filled."""

    batch_id: uuid.UUID
    name: str
    version: int
    step_g: float
    is_packed: bool
    facts: int
    containers: list[FillContainerView]
    pots: list[FillPotView]
    strays: list[StrayView]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class FillLogEntryView:
    """Something that was noted at the scale, in words: where, what, when it happened, and when it arrived where a
    tablet was away meanwhile. `state` says where it counts no more, or not alone; `asked_g` is what was asked for."""

    id: uuid.UUID
    happened_at: datetime
    arrived_at: datetime
    made_by: str
    device: str
    place: str
    what: str
    asked_g: float | None
    text: str
    state: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DifferenceView:
    """What was filled for a client, of a part, or by a person, beside what the screen asked for [g].

    `mean_off_g` is the mean distance, `most_off_g` the largest with its sign, `estimated` how many were not weighed,
    `took_s` the median time from figure to fact. None where no fact tells.
    """

    name: str
    fills: int
    filled_g: float
    asked_g: float
    mean_off_g: float | None
    most_off_g: float | None
    estimated: int
    took_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DifferencesView:
    """How near a filling came, three ways, and what was left out on purpose."""

    clients: list[DifferenceView]
    parts: list[DifferenceView]
    people: list[DifferenceView]
    left_out: list[str]
