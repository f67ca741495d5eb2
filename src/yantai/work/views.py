"""What the work functions return. Plain frozen dataclasses: the API serves them as they are."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime

from yantai.core.components import Component
from yantai.core.nutrients import Amounts, Nutrient
from yantai.core.yields import YieldRange


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountsView:
    """Nutrients of something; those named in `at_least` are lower bounds."""

    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float
    fibre_g: float
    sugars_g: float
    saturated_g: float
    sodium_mg: float
    at_least: list[str]

    @classmethod
    def of(cls, amounts: Amounts) -> AmountsView:
        """The view of core amounts."""
        known = {nutrient.value: value for nutrient, value in amounts}
        return cls(**known, at_least=sorted(amounts.at_least))


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
    """Everything known of a food. `stated_kcal` is the source's own figure, by its own rule."""

    food: FoodBrief
    stated_kcal: float | None
    missing: list[str]
    diet_tags: list[str]
    source: str
    source_detail: str
    note: str
    measures: list[MeasureView]
    yields: list[MethodYieldView]
    edible: list[EdibleView]
    other_states: list[OtherState]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodFacets:
    """What the pantry can be filtered by, with counts."""

    groups: dict[str, int]
    states: dict[str, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class ToleranceView:
    """How far a container may be off and still count as met."""

    kcal: float
    protein_g: float
    carbohydrate_g: float
    fat_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetView:
    """What one container shall hold."""

    id: uuid.UUID
    slot: str
    day_type: str
    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None
    capacity_ml: float | None
    conflict: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientView:
    """A client with targets."""

    id: uuid.UUID
    name: str
    note: str
    allergens: list[str]
    dislikes: list[str]
    tolerance: ToleranceView
    targets: list[TargetView]
    version: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LineView:
    """An ingredient with its part of the chain. Figures are absent while the line makes no sense."""

    food: FoodBrief
    purchased_g: float
    refuse_share: float
    retained_share: float
    yield_factor: float | None
    edible_g: float
    cooked_g: float
    expected: YieldView
    offered_refuse: list[EdibleView]


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentFigures:
    """What comes out of a component and what it holds."""

    basis_g: float
    cooked_low_g: float
    cooked_g: float
    cooked_high_g: float
    yield_factor: float
    totals: AmountsView
    per_100g: AmountsView

    @classmethod
    def of(cls, component: Component) -> ComponentFigures:
        """The figures of a core component."""
        return cls(
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
    maximum_g: float
    density_g_per_ml: float
    yield_low: float | None
    yield_expected: float | None
    yield_high: float | None
    lines: list[LineView]
    figures: ComponentFigures | None
    trouble: str | None
    allergens: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeBrief:
    """A recipe in a list."""

    id: uuid.UUID
    name: str
    note: str
    components: list[str]
    allergens: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeView:
    """A recipe with all figures."""

    id: uuid.UUID | None
    name: str
    note: str
    version: int
    components: list[ComponentView]


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
    cook_on: date
    step_g: float
    buffer_share: float
    version: int
    changed_at: datetime
    changed_by: str
    packed_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanLineView:
    """An ingredient of a component at the size of the batch [g]."""

    id: uuid.UUID
    name: str
    state: str
    purchased_g: float
    edible_g: float
    refuse_share: float
    retained_share: float
    cooked_g: float
    expected: YieldView


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
    weighed_at: datetime
    weighed_by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanComponentView:
    """A component in the plan: the chain from bought to containers [g]."""

    id: uuid.UUID
    name: str
    role: str
    method: str
    minimum_g: float
    maximum_g: float
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
    per_100g: AmountsView
    lines: list[PlanLineView]
    weighing: WeighingView | None
    allergens: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class CellView:
    """Grams of one component in one container."""

    component_id: uuid.UUID
    grams: float
    limit: str
    pinned_g: float | None
    left_out: list[str]
    disliked: list[str]
    amounts: AmountsView


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeView:
    """How one aimed nutrient of a container stands. `miss` is the signed excess over the tolerance."""

    nutrient: Nutrient
    target: float
    tolerance: float
    amount: float
    off: float
    miss: float
    at_least: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanTarget:
    """The target a class of containers was planned for."""

    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRowView:
    """A class of equal containers."""

    id: uuid.UUID
    client_id: uuid.UUID
    client: str
    slot: str
    day_type: str
    count: int
    capacity_ml: float | None
    volume_ml: float
    target: PlanTarget
    cells: list[CellView]
    total_g: float
    amounts: AmountsView
    gauges: list[GaugeView]


@dataclass(frozen=True, slots=True, kw_only=True)
class Settle:
    """Something the coach should decide, with the row or component it is about."""

    title: str
    detail: str
    row_id: uuid.UUID | None
    component_id: uuid.UUID | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanView:
    """A whole batch with every figure."""

    batch: BatchHead
    components: list[PlanComponentView]
    rows: list[PlanRowView]
    to_settle: list[Settle]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A hit of the search over everything. `kind` is client, recipe, batch or food."""

    kind: str
    id: uuid.UUID
    title: str
    detail: str
