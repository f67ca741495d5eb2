"""Recipes and lines that were read, as they are shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from yantai.core.cooking.components import Component, Role, rounds
from yantai.core.cooking.liquids import Lid
from yantai.core.cooking.yields import YieldSource
from yantai.core.foods.nutrients import Nutrient
from yantai.core.planning.portioning import Place, School
from yantai.core.schedule.steps import Growth
from yantai.work.common.views import AmountsView, YieldView
from yantai.work.pantry.views import (
    EdibleView,
    FoodBrief,
)


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

    `amounts` is what it brings to the pan; it holds a `food` or another component, its `source`. `as_written`: its
    `text` states the grams that it has.
    """

    food: FoodBrief | None
    source: SourceBrief | None
    purchased_g: float
    refuse_share: float
    refuse_after: bool
    retained_share: float
    yield_factor: float | None
    text: str
    as_written: bool
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
    role: Role
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
    lid: Lid
    cook_min: float | None
    served: bool
    school: School
    unit_g: float | None
    unit_part: float
    plate_share: float
    eye_g: float
    place: Place
    tub_ml: float | None
    takes_g: float | None
    group: str | None
    packed_raw: bool
    kit_text: str
    whole_pans: bool
    dismissed: dict[str, str]
    lines: list[LineView]
    figures: ComponentFigures | None
    trouble: str | None
    findings: list[FindingView]
    allergens: list[str]
    caution: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StepView:
    """A step of a component, or of the whole recipe; `trouble` says when its text states two temperatures that differ.
    The rest as it is sent."""

    id: uuid.UUID | None
    text: str
    component_id: uuid.UUID | None
    component: str
    hands_on_min: float | None
    unattended_min: float | None
    every_min: float | None
    temperature_c: float | None
    equipment: str
    growth: Growth | None
    load_g: float | None
    lead_min: float | None
    lead_most_min: float | None
    core_c: float | None
    done_when: str
    after: list[uuid.UUID] | None
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
    serves: int | None
    groups: dict[str, int]
    version: int
    components: list[ComponentView]
    steps: list[StepView]


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
