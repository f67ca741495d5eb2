"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime

from yantai.core.components import Component, rounds
from yantai.core.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.yields import YieldRange, YieldSource
from yantai.work.inputs import Change


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """The least and the most that there may be."""

    low: float
    high: float


SHOWN_FROM_SHARE = 0.01
"""An interval is shown when it is wider than this share of the figure."""


def _ranges(amounts: Amounts) -> dict[str, Range]:
    if amounts.slack is None:
        return {}
    found = {}
    for (nutrient, value), (below, above) in zip(amounts, amounts.slack, strict=True):
        if nutrient not in amounts.at_least and max(below, above) > max(SHOWN_FROM_SHARE * value, 0.05):
            low, high = amounts.interval(nutrient)
            found[nutrient.value] = Range(low=low, high=high)
    return found


_NAMES = tuple(nutrient.value for nutrient in NUTRIENTS)


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountsView:
    """Nutrients of something; those named in `at_least` are lower bounds.

    `ranges` holds the least and the most of each nutrient that rounded labels leave open by more than 1 %.
    """

    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float
    fibre_g: float
    sugars_g: float
    saturated_g: float
    sodium_mg: float
    at_least: list[str]
    ranges: dict[str, Range]

    @classmethod
    def of(cls, amounts: Amounts) -> AmountsView:
        """The view of core amounts."""
        return cls(
            **dict(zip(_NAMES, amounts.known, strict=True)), at_least=sorted(amounts.at_least), ranges=_ranges(amounts)
        )

    @property
    def amounts(self) -> Amounts:
        """The core amounts that this shows; what rounded labels leave open by less than is shown counts as exact."""
        known = tuple(float(getattr(self, name)) for name in _NAMES)
        slack = tuple(
            (value - self.ranges[name].low, self.ranges[name].high - value) if name in self.ranges else (0.0, 0.0)
            for name, value in zip(_NAMES, known, strict=True)
        )
        return Amounts(known, frozenset(Nutrient(name) for name in self.at_least), slack if self.ranges else None)


@dataclass(frozen=True, slots=True, kw_only=True)
class YieldView:
    """A yield factor with its range and where it comes from."""

    low: float
    expected: float
    high: float
    source: str
    note: str

    @classmethod
    def of(cls, found: YieldRange) -> YieldView:
        """The view of a core yield."""
        return cls(
            low=found.low,
            expected=found.expected,
            high=found.high,
            source=found.source.value,
            note=found.note,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class AccountView:
    """Who is signed in."""

    name: str
    email: str
    workspace: str
    csrf_token: str
    mass_unit: str
    temperature_unit: str
    energy_unit: str
    energy_rule: str
    carbohydrate: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodBrief:
    """A food in a list."""

    id: uuid.UUID
    name: str
    group: str
    state: str
    method: str
    per_100g: AmountsView
    allergens: list[str]
    weak: bool
    own: bool
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodPage:
    """Foods found, and how many there are in all."""

    total: int
    foods: list[FoodBrief]


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureView:
    """A household measure."""

    name: str
    grams: float
    source: str
    note: str
    own: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PackView:
    """A pack as bought; `per_100g` is its price for 100 g of what is used of it."""

    name: str
    grams: float
    drained_g: float | None
    price: float | None
    price_per_100g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelView:
    """A label as it was typed; `serving_g` follows where it is for millilitres."""

    serving_g: float
    kcal: float | None
    kj: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    fibre_g: float | None
    sugars_g: float | None
    saturated_g: float | None
    salt_g: float | None
    sodium_mg: float | None
    alcohol_g: float | None
    polyols_g: float | None
    carbohydrate: str
    rounding: str
    serving_ml: float | None = None
    ml_weighs_g: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingView:
    """Energy by one way of counting the fibre."""

    words: str
    kcal: float
    agrees: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class AuditView:
    """Stated kcal of 100 g against its macros. `words` says what is wrong, "" when they agree."""

    stated_kcal: float
    implied_kcal: float
    words: str
    readings: list[ReadingView]


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodYieldView:
    """An expected yield by method; `of_group` when it is the default of the food's group."""

    method: str
    of_group: bool
    expected: YieldView


@dataclass(frozen=True, slots=True, kw_only=True)
class EdibleView:
    """What is trimmed, peeled or boned off, for the form of the note."""

    refuse_share: float
    note: str
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherState:
    """The same food in another state."""

    id: uuid.UUID
    name: str
    state: str
    method: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodDetail:
    """Everything known of a food. `stated_kcal` is the source's own figure, by its own rule.

    `carbohydrate` tells which carbohydrate the figures of `food` are: total or available. `contradictions` are what
    its label says twice and not alike.
    """

    food: FoodBrief
    carbohydrate: str
    alcohol_g: float | None
    polyols_g: float | None
    stated_kcal: float | None
    missing: list[str]
    diet_tags: list[str]
    source: str
    source_detail: str
    note: str
    other_names: str
    measures: list[MeasureView]
    packs: list[PackView]
    yields: list[MethodYieldView]
    edible: list[EdibleView]
    other_states: list[OtherState]
    label: LabelView | None
    audit: AuditView | None
    contradictions: list[str]
    version: int
    used_in: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodFacets:
    """What the pantry can be filtered by, with counts."""

    groups: dict[str, int]
    states: dict[str, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class ToleranceView:
    """How far a container may be off and still count as met: amounts, or percent of the target."""

    percent: bool
    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float
    priority_kcal: float
    priority_protein_g: float
    priority_carbohydrate_g: float
    priority_fat_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanTarget:
    """The figures of a target or a day; None is not aimed at, or no limit."""

    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    fibre_g: float | None
    saturated_g: float | None
    sodium_mg: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetView(PlanTarget):
    """What one container shall hold; with a `day_share` the figures follow from the day of its type."""

    id: uuid.UUID
    slot: str
    day_type: str
    day_share: float | None
    capacity_ml: float | None
    capacity_g: float | None
    plate_g: float | None
    conflict: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MacroFigures:
    """Energy [kcal] and macros [g]."""

    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SuggestionView:
    """Suggested targets with their formulas; or, where none may be suggested, whom to refer to and why."""

    referral: str | None
    steps: list[str]
    warnings: list[str]
    day: MacroFigures | None
    container: MacroFigures | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DayExtraView:
    """A food eaten outside the containers, with what it holds."""

    food_id: uuid.UUID
    name: str
    grams: float
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class DayTargetView(PlanTarget):
    """What a whole day of one type shall hold, its extras included."""

    day_type: str
    extras: list[DayExtraView]


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetsThen:
    """What a change of a client's targets changed, in words, when and by whom."""

    since: datetime
    changed_by: str
    lines: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class WiderView:
    """A word that may be meant as well, and the foods it would keep out besides."""

    word: str
    foods: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class WordView:
    """What a word keeps out of this kitchen's foods: their names, each once. `spelling` is what it may be a slip of."""

    word: str
    foods: list[str]
    wider: list[WiderView]
    spelling: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientView:
    """A client with targets."""

    id: uuid.UUID
    name: str
    note: str
    allergens: list[str]
    dislikes: list[str]
    exclusions: list[str]
    tolerance: ToleranceView
    days: list[DayTargetView]
    targets: list[TargetView]
    signed_off_by: str
    signed_off_on: date | None
    version: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceBrief:
    """Another component that a line is made of."""

    id: uuid.UUID
    name: str
    per_100g: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class BooksView:
    """100 g cooked by the raw book and by the table's cooked entry, and how far apart they are [share of kcal]."""

    cooked_food: str
    by_raw: AmountsView
    by_cooked: AmountsView
    apart: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineView:
    """An ingredient with its part of the chain. Figures are absent while the line makes no sense.

    `amounts` is what it brings to the pan; it holds a `food` or another component, its `source`.
    """

    food: FoodBrief | None
    source: SourceBrief | None
    purchased_g: float
    refuse_share: float
    refuse_after: bool
    retained_share: float
    yield_factor: float | None
    text: str
    weighed_state: str
    counted: bool
    free: bool
    scales: bool
    dismissed: dict[str, str]
    edible_g: float
    cooked_g: float
    amounts: AmountsView
    expected: YieldView
    offered_refuse: list[EdibleView]
    books: BooksView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MendView:
    """A way out: its words, and the fields of the line or component it sets."""

    words: str
    changes: dict[str, str | float | bool]


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingView:
    """Something that looks wrong at a line, or at the whole component; `dismissed` is the reason it was put aside."""

    code: str
    words: str
    line: int | None
    mends: list[MendView]
    assumption: bool
    dismissed: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentFigures:
    """What comes out of a component and what it holds."""

    basis_g: float
    in_pan_g: float
    left_on_g: float
    cooked_low_g: float
    cooked_g: float
    cooked_high_g: float
    yield_factor: float
    yield_source: str
    yield_note: str
    totals: AmountsView
    per_100g: AmountsView
    uncounted_kcal: float
    piece_g: float | None
    per_piece: AmountsView | None
    rounds: int | None
    round_g: float | None

    @classmethod
    def of(cls, component: Component, pan_capacity_g: float | None = None) -> ComponentFigures:
        """The figures of a core component, in rounds when its pan holds less than all of it."""
        count, size = rounds(component.in_pan_g, pan_capacity_g) if pan_capacity_g is not None else (None, None)
        known, piece_g = component.expected_yield, component.piece_g
        return cls(
            in_pan_g=component.in_pan_g,
            left_on_g=component.left_on_g,
            yield_source=known.source.value if known is not None else YieldSource.LINES.value,
            yield_note=known.note if known is not None else "",
            uncounted_kcal=component.uncounted[Nutrient.KCAL],
            piece_g=piece_g,
            per_piece=None if piece_g is None else AmountsView.of(component.per_100g.in_grams(piece_g)),
            rounds=count,
            round_g=size,
            basis_g=component.basis_g,
            cooked_low_g=component.expected_low_g,
            cooked_g=component.cooked_g,
            cooked_high_g=component.expected_high_g,
            yield_factor=component.yield_factor,
            totals=AmountsView.of(component.totals),
            per_100g=AmountsView.of(component.per_100g),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentView:
    """A component of a recipe; `trouble` says why it has no figures."""

    id: uuid.UUID | None
    name: str
    role: str
    method: str
    minimum_g: float
    maximum_g: float | None
    density_g_per_ml: float
    yield_low: float | None
    yield_expected: float | None
    yield_high: float | None
    poured_fat_g: float
    pieces: int | None
    pan_capacity_g: float | None
    lid: str
    cook_min: float | None
    served: bool
    school: str
    unit_g: float | None
    unit_part: float
    plate_share: float
    eye_g: float
    dismissed: dict[str, str]
    lines: list[LineView]
    figures: ComponentFigures | None
    trouble: str | None
    findings: list[FindingView]
    allergens: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StepView:
    """A step of a recipe; `trouble` says when its text states two temperatures that differ."""

    text: str
    component: str
    hands_on_min: float | None
    unattended_min: float | None
    temperature_c: float | None
    equipment: str
    lead_min: float | None
    trouble: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PartBrief:
    """A component by its name, so that others can be made of it."""

    id: uuid.UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeBrief:
    """A recipe in a list."""

    id: uuid.UUID
    name: str
    note: str
    components: list[PartBrief]
    allergens: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeView:
    """A recipe with all figures."""

    id: uuid.UUID | None
    name: str
    note: str
    version: int
    components: list[ComponentView]
    steps: list[StepView]


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchBrief:
    """A batch in a list, with what is next for it."""

    id: uuid.UUID
    name: str
    recipe: str
    cook_on: date
    clients: int
    containers: int
    components: int
    weighed: int
    packed_at: datetime | None
    next_step: str
    to_settle: int


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchHead:
    """A batch without its figures."""

    id: uuid.UUID
    name: str
    recipe_id: uuid.UUID
    recipe: str
    recipe_changed: bool
    foods_changed: list[str]
    targets_changed: list[str]
    cook_on: date
    step_g: float
    buffer_share: float
    sharing: str
    leftover: str
    version: int
    changed_at: datetime
    changed_by: str
    packed_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSize:
    """A pack that a food is bought in, and how many whole ones the line needs."""

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
class WeighingView:
    """The weighing that counts."""

    cooked_g: float
    vessels: list[VesselView]
    removed_g: float
    weighed_at: datetime
    weighed_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanComponentView:
    """A component in the plan: the chain from bought to containers [g].

    `pieces` are those of the lines as written, `makes` what the batch makes of it; `piece_g` one piece or built unit.
    `usual_most_g` stands in a container of no given size where nobody set `maximum_g`; `over_g` is what found no place
    in the containers although all of it was to go there.
    """

    id: uuid.UUID
    name: str
    role: str
    method: str
    minimum_g: float
    maximum_g: float | None
    school: str
    unit_g: float | None
    unit_part: float
    plate_share: float
    eye_g: float
    raw_fixed: bool
    needed_g: float
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
    usual_most_g: float
    over_g: float
    rounds: int | None
    round_g: float | None
    lines: list[PlanLineView]
    weighing: WeighingView | None
    doubts: list[CauseView]
    allergens: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonView:
    """An allergen or a word of a client, and the food, component or dish that is it."""

    word: str
    of: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CellView:
    """Grams of one component in one container.

    `units` are pieces or scoops, `mixed_g` the whole mixture of one pot that these grams are part of, `estimated` says
    that nobody weighs it.
    """

    component_id: uuid.UUID
    grams: float
    units: float | None
    mixed_g: float | None
    estimated: bool
    limit: str
    pinned_g: float | None
    left_out: list[ReasonView]
    disliked: list[ReasonView]
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeView:
    """How one aimed nutrient of a container stands. `miss` is the signed excess over the tolerance, `known` False where
    an ingredient does not state the figure, so that nobody can say whether it is met; `side` says
    whether the target is aimed at, or a limit that is to be reached or kept under."""

    nutrient: Nutrient
    side: str
    target: float
    tolerance: float
    amount: float
    off: float
    miss: float
    known: bool
    at_least: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaledView:
    """A container target before and after it was sized by a factor."""

    name: str
    factor: float
    before: PlanTarget
    after: PlanTarget


@dataclass(frozen=True, slots=True, kw_only=True)
class DayPart:
    """Something eaten on a day. `kind` is "extra"; "container" of a batch; or "target", as aimed at."""

    kind: str
    name: str
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class DayView:
    """A client's day of one type against what it shall hold; `left` is what its extras leave for the containers."""

    client_id: uuid.UUID | None
    client: str
    day_type: str
    target: PlanTarget
    left: PlanTarget
    parts: list[DayPart]
    total: AmountsView
    gauges: list[GaugeView]
    notes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class DaysPreview:
    """The days of a client as typed, and the figures of each target in order: those typed, or its share of a day."""

    days: list[DayView]
    targets: list[PlanTarget]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRowView:
    """A class of equal containers. `notes` say which limit takes other components far from where they would be."""

    id: uuid.UUID
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    count: int
    capacity_ml: float | None
    capacity_g: float | None
    plate_g: float | None
    rank: int
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
class WayView:
    """A change that lets a container meet its target, proven by solving again.

    `moved` is the share of the plate that then lies elsewhere, `changes` what accepts it, empty where it is only told.
    """

    kind: str
    title: str
    detail: str
    moved: float
    changes: list[Change]


@dataclass(frozen=True, slots=True, kw_only=True)
class PointView:
    """A point of the reach map: a component or a target by name, with its energy shares and place in the triangle."""

    name: str
    protein: float
    carbohydrate: float
    fat: float
    x: float
    y: float
    inside: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReachView:
    """The reach map of a batch: components as corners, their hull in order, the targets."""

    components: list[PointView]
    hull: list[int]
    targets: list[PointView]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledRow:
    """How many containers of one row the known amounts fill, and how many are planned."""

    row_id: uuid.UUID
    name: str
    planned: int
    fills: int


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledView:
    """How far the known amounts go, and in words what is then left of each."""

    rows: list[FilledRow]
    left: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ExtraView:
    """Containers that the leftovers would fill, and what one of them holds of each component [g]."""

    count: int
    total_g: float
    parts: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanView:
    """A whole batch with every figure."""

    batch: BatchHead
    components: list[PlanComponentView]
    rows: list[PlanRowView]
    extra: ExtraView | None
    to_settle: list[Settle]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedComponent:
    """A component in two batches: cooked weight [g] and yield; None where a batch does not have it."""

    name: str
    now_g: float | None
    then_g: float | None
    now_yield: float | None
    then_yield: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedCell:
    """Grams of one component in one container of two batches [g]; None where there is no such cell."""

    now_g: float | None
    then_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedRow:
    """The containers of one client, meal and kind of day in two batches; cells in the order of the components."""

    name: str
    now_count: int
    then_count: int
    cells: list[ComparedCell]
    now: AmountsView | None
    then: AmountsView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedView:
    """Two batches side by side: this one, and another, planned or packed."""

    other: str
    cook_on: date
    packed_at: datetime | None
    components: list[ComparedComponent]
    rows: list[ComparedRow]


@dataclass(frozen=True, slots=True, kw_only=True)
class ImportedPlan:
    """The batch that a plan document became, and what to know of how it was taken in."""

    batch_id: uuid.UUID
    name: str
    notes: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A hit of the search over everything. `kind` is client, recipe, batch or food."""

    kind: str
    id: uuid.UUID
    title: str
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodMatchView:
    """A food that the words of a line may mean; `score` from 0 to 1."""

    food: FoodBrief
    score: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DisagreementView:
    """Two quantities of one line that differ, with both readings."""

    first: str
    second: str
    first_reading: float
    second_reading: float
    unit: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ProposalView:
    """What a written line is taken to mean. `asks` when the coach has to answer before it can be used.

    `words` are those for the food; `how` says where its grams come from, `trouble` why there are none.
    """

    text: str
    component: str
    refuse_share: float
    retained_share: float
    yield_factor: float | None
    words: str
    note: str
    matches: list[FoodMatchView]
    sure: bool
    grams: float | None
    low_g: float | None
    high_g: float | None
    how: str
    trouble: str
    flags: list[str]
    disagreements: list[DisagreementView]
    asks: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class IntakePart:
    """A component that a file tells of."""

    name: str
    role: str
    method: str


@dataclass(frozen=True, slots=True, kw_only=True)
class IntakeView:
    """A pasted text or a file: its ingredient lines, the steps in it, and the components where it tells of them."""

    name: str
    description: str
    components: list[IntakePart]
    lines: list[ProposalView]
    steps: list[StepView]


@dataclass(frozen=True, slots=True, kw_only=True)
class WeightView:
    """What was typed in a weight field, in grams."""

    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenVesselView:
    """A pan, tray or bowl of the kitchen."""

    id: uuid.UUID
    name: str
    empty_g: float
    capacity_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SettingsView:
    """What the kitchen counts by, its vessels, and the kinds of food that may be declared free."""

    workspace: str
    spoons: str
    energy_rule: str
    carbohydrate: str
    free_foods: list[str]
    vessels: list[KitchenVesselView]
    free_kinds: dict[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SwitchedView:
    """What a switch of the rules does to one thing: 100 g of a component, a container, or a food."""

    kind: str
    name: str
    before: AmountsView
    after: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredView:
    """A weighing in the history: its yield, how much it counts, and where it was."""

    yield_factor: float
    weight: float
    weighed_at: datetime
    batch: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedView:
    """A food or component by method: the prior, what was measured, and the estimate with its range."""

    kind: str
    id: uuid.UUID
    name: str
    detail: str
    method: str
    prior: YieldView
    estimate: YieldView
    prior_share: float
    measured: list[MeasuredView]


@dataclass(frozen=True, slots=True, kw_only=True)
class BadLine:
    """A line of a file that cannot be used, and why."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Duplicate:
    """A food of the file that is here already."""

    line: int
    name: str
    known: FoodBrief


@dataclass(frozen=True, slots=True, kw_only=True)
class ImportView:
    """A file of foods: its headings, how they are read, what is good, bad or known; and how many were saved."""

    headings: list[str]
    columns: dict[str, str]
    layout: str
    good: int
    bad: list[BadLine]
    duplicates: list[Duplicate]
    sample: list[FoodBrief]
    saved: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SurveyView:
    """Who can eat what: how far it is. `state` is "running", "done" or "cancelled"; `troubles` name recipes that could
    not be answered."""

    id: uuid.UUID
    asked_at: datetime
    asked_by: str
    state: str
    recipes: int
    answered: int
    troubles: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerView:
    """Whether one recipe meets one target. `missed` is the weighted miss, `told` says the grams or why not, `without`
    names what has to stay out."""

    recipe_id: uuid.UUID
    recipe: str
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    met: bool
    missed: float
    told: str
    without: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerPage:
    """Some answers of a survey, and how many there are in all."""

    total: int
    answers: list[AnswerView]
