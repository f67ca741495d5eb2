"""A batch and its plan as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import date, datetime

from yantai.core.cooking.components import Role
from yantai.core.planning.plan import Leftover
from yantai.core.planning.portioning import Place, School
from yantai.core.portions.demand import Sharing
from yantai.work.clients.views import (
    PlanTarget,
)
from yantai.work.common.views import AmountsView, GaugeView, YieldView


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchBrief:
    """A batch in a list, with what is next for it."""

    id: uuid.UUID
    name: str
    dishes: list[str]
    cook_on: date
    clients: int
    containers: int
    components: int
    weighed: int
    packed_at: datetime | None
    put_away_at: datetime | None
    next_step: str
    to_settle: int


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchHead:
    """A batch without its figures. `engine_older` says that an earlier engine computed them; `sure_share` is how sure
    it shall be that its pots suffice, None where nothing but a flat share comes on top."""

    id: uuid.UUID
    name: str
    foods_changed: list[str]
    targets_changed: list[str]
    cook_on: date
    step_g: float
    buffer_share: float
    sharing: Sharing
    leftover: Leftover
    version: int
    changed_at: datetime
    changed_by: str
    packed_at: datetime | None
    put_away_at: datetime | None
    deleted_at: datetime | None
    engine_older: bool = False
    sure_share: float | None = None
    budget: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSize:
    """A pack that a food is bought in, what one gives of the line [g], and how many whole ones it needs."""

    name: str
    grams: float
    needed: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanLineView:
    """An ingredient of a component at the size of the batch [g].

    `weigh_out_g` is what is put on the scale of `purchased_g`; `unit_g` go into one unit that is built raw.
    """

    id: uuid.UUID
    name: str
    state: str
    purchased_g: float
    weigh_out_g: float
    edible_g: float
    refuse_share: float
    retained_share: float
    cooked_g: float
    unit_g: float | None
    expected: YieldView
    amounts: AmountsView
    added_at: datetime | None
    added_by: str
    packs: list[PackSize]


@dataclass(frozen=True, slots=True, kw_only=True)
class CauseView:
    """What may be behind an unlikely weight; `vessels` is the weighing without the slip, where that can be known."""

    words: str
    fit: float
    vessels: list[VesselView] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class VesselView:
    """One vessel of a weighing [g]."""

    gross_g: float
    vessel_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PotReading:
    """A weight off the scale [g], with the vessels it came from."""

    cooked_g: float
    vessels: list[VesselView]
    removed_g: float
    weighed_at: datetime
    weighed_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighingView(PotReading):
    """The weighing that counts, and `others` of the same pot that nobody chose between."""

    others: list[PotReading] = field(default_factory=list)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanComponentView:
    """A component in the plan: the chain from bought to containers [g].

    `needed_g` is what all dishes take of its pot, `fresh_g` what is added of it at eating. `pieces` are those of the
    lines as written, `makes` what the batch makes of it; `piece_g` one piece or built unit. `over_g` is what found no
    place in the containers although all of it was to go there; nothing is `to_weigh` of what no pot gives to any
    container. What is `packed_raw` is cooked later, as `kit_text` says. `enough` is the probability that the pot
    suffices, None where it is weighed, counted, or its weight does not spread. `weighed_parts` were on the scale
    while the rest was to come.
    """

    id: uuid.UUID
    name: str
    role: Role
    method: str
    raw_fixed: bool
    packed_raw: bool
    kit_text: str
    whole_pans: bool
    needed_g: float
    fresh_g: float
    cooked_g: float
    cooked_low_g: float
    cooked_high_g: float
    spare_g: float
    basis_g: float
    purchased_g: float
    yield_factor: float
    own_yield: bool
    yield_source: str
    per_100g: AmountsView
    totals: AmountsView
    poured_fat_g: float
    left_on_g: float
    pieces: int | None
    makes: int | None
    piece_g: float | None
    over_g: float
    rounds: int | None
    round_g: float | None
    lines: list[PlanLineView]
    to_weigh: bool
    weighing: WeighingView | None
    doubts: list[CauseView]
    allergens: list[str]
    enough: float | None = None
    caution: str | None
    weighed_parts: list[VesselView] = field(default_factory=list)


@dataclass(frozen=True, slots=True, kw_only=True)
class PartView:
    """A component in one dish: how it is portioned, and what the dish takes of it [g].

    `unit_is_g` is one piece, scoop or built unit where it is counted. `usual_most_g` stands in a container of no given
    size where nobody set `maximum_g`; `tub_ml` is the tub beside the container; `takes_g` what of the pot is set aside
    for this dish; `share_g` its weight in the recipe as written.
    """

    component_id: uuid.UUID
    school: School
    minimum_g: float
    maximum_g: float | None
    unit_g: float | None
    unit_part: float
    plate_share: float
    eye_g: float
    place: Place
    tub_ml: float | None
    takes_g: float | None
    group: str | None
    share_g: float
    unit_is_g: float | None
    usual_most_g: float
    needed_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupView:
    """A group of parts of which a container takes some."""

    name: str
    takes: int


@dataclass(frozen=True, slots=True, kw_only=True)
class DishView:
    """Something that is eaten, with its parts in order, and the spare containers that what is left of them would
    fill."""

    id: uuid.UUID
    name: str
    recipe_id: uuid.UUID
    recipe: str
    recipe_changed: bool
    groups: list[GroupView]
    parts: list[PartView]
    extra: SpareView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AsideView:
    """A component that is out of the day's plan, and the dishes that it belongs to."""

    id: uuid.UUID
    name: str
    dishes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ShareableView:
    """Two components made of the same in the same proportions, which one pot could be cooked of."""

    component_id: uuid.UUID
    other_id: uuid.UUID
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonView:
    """An allergen or a word of a client, and the food, component or dish that is it."""

    word: str
    of: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CellView:
    """Grams of one component in one container.

    Filling may stop from `stop_low_g` to `stop_high_g`, where that is known: then no figure leaves its band. `units`
    are pieces or scoops, `mixed_g` the whole mixture of one pot that these grams are part of, `estimated` says that
    nobody weighs it.
    """

    component_id: uuid.UUID
    grams: float
    stop_low_g: float | None
    stop_high_g: float | None
    units: float | None
    mixed_g: float | None
    estimated: bool
    limit: str
    pinned_g: float | None
    left_out: list[ReasonView]
    disliked: list[ReasonView]
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRowView:
    """A class of equal containers of a dish, with a cell for each of its parts in order. `total_g` and `volume_ml` are
    of what is in the container, without what is beside it or added at eating; `chosen` are the components that it
    takes of the groups of the dish, `helping` its portions of what is divided equally. `notes` say which limit takes
    other components far from where they would be."""

    id: uuid.UUID
    dish_id: uuid.UUID
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    count: int
    capacity_ml: float | None
    capacity_g: float | None
    plate_g: float | None
    rank: int
    helping: float
    chosen: list[uuid.UUID]
    volume_ml: float
    target: PlanTarget
    cells: list[CellView]
    total_g: float
    amounts: AmountsView
    gauges: list[GaugeView]
    notes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Settle:
    """Something the coach should decide, with the row or component it is about."""

    title: str
    detail: str
    row_id: uuid.UUID | None
    component_id: uuid.UUID | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SpareView:
    """Containers that the leftovers would fill, and what one of them holds of each component [g]."""

    count: int
    total_g: float
    parts: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanView:
    """A whole batch with every figure."""

    batch: BatchHead
    dishes: list[DishView]
    components: list[PlanComponentView]
    rows: list[PlanRowView]
    aside: list[AsideView]
    shareable: list[ShareableView]
    to_settle: list[Settle]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A command that can be taken back, or made again: whose it is (`own`, the reader's), and what it did."""

    id: uuid.UUID
    by: str
    own: bool
    words: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Steps:
    """What undo and redo would do next."""

    undo: Step | None
    redo: Step | None


@dataclass(frozen=True, slots=True, kw_only=True)
class CommandView:
    """A change of the log. `happened_at` is told where the sender's clock and ours are apart; `undoes` is the number of
    the one that it takes back, `undone_by` who took it back."""

    id: uuid.UUID
    number: int
    by: str
    device: str
    made_at: datetime
    happened_at: datetime | None
    words: list[str]
    undoes: int | None
    undone_by: str | None
    can_undo: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryView:
    """The log of a batch, the newest first, `earlier` that are not shown, and what undo and redo would do next."""

    steps: Steps
    commands: list[CommandView]
    earlier: int
