"""The computed plan of a batch as a view with every figure."""

from __future__ import annotations

import math
import uuid
from dataclasses import asdict

from yantai.core.cooking.components import rounds
from yantai.core.cooking.doubts import Doubt
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.cooking.yields import YieldSource
from yantai.core.foods.allergens import conflicts
from yantai.core.foods.nutrients import NOTHING, Amounts
from yantai.core.planning import plan as core
from yantai.core.planning.portioning import School, usual_most_g
from yantai.core.portions import Portions
from yantai.core.portions.moved import moved_by_limits
from yantai.core.portions.problem import Limit
from yantai.core.portions.words import moved_words
from yantai.core.quantities.units import weighable_g
from yantai.core.speaking import weight
from yantai.core.targets.targets import TARGETED
from yantai.core.targets.words import SIDES, shown
from yantai.store import tables
from yantai.work.batches.loading import (
    Loaded,
)
from yantai.work.batches.plans import (
    Computed,
    container_name,
    row_name,
    rows_of,
    weighing_doubt,
)
from yantai.work.batches.settle import (
    to_settle,
)
from yantai.work.batches.targets_taken import changed_targets
from yantai.work.batches.views import (
    BatchHead,
    CauseView,
    CellView,
    PackSize,
    PlanComponentView,
    PlanLineView,
    PlanRowView,
    PlanView,
    ReasonView,
    SpareView,
    VesselView,
)
from yantai.work.clients.views import PlanTarget
from yantai.work.common.views import AmountsView, GaugeView, YieldView


def plan_view(computed: Computed) -> PlanView:
    """Everything the plan screen shows."""
    batch = computed.loaded.batch
    components = [_component_view(computed, component) for component in batch.components]
    per_100g = [computed.need(component).part.portioned.per_100g for component in batch.components]
    rows = [
        _row_view(computed, row, question, portions, per_100g)
        for (row, portions), question in zip(rows_of(computed), computed.plan.questions, strict=True)
    ]
    return PlanView(
        batch=BatchHead(
            id=batch.id,
            name=batch.name,
            recipe_id=batch.recipe_id,
            recipe=batch.recipe.name,
            recipe_changed=batch.packed_at is None and batch.recipe.version != batch.recipe_version,
            foods_changed=[] if batch.packed_at is not None else _foods_changed(computed.loaded),
            targets_changed=[] if batch.packed_at is not None else _targets_changed(computed.loaded),
            cook_on=batch.cook_on,
            step_g=batch.step_g,
            buffer_share=batch.buffer_share,
            sharing=batch.sharing,
            leftover=batch.leftover,
            version=batch.version,
            changed_at=batch.changed_at,
            changed_by=batch.changed_by,
            packed_at=batch.packed_at,
        ),
        components=components,
        rows=rows,
        extra=_extra(computed),
        to_settle=to_settle(computed),
        cautions=_cautions(computed),
    )


def _extra(computed: Computed) -> SpareView | None:
    extra = computed.plan.extra
    if extra is None:
        return None
    names = {str(component.id): component.name for component in computed.loaded.batch.components}
    return SpareView(
        count=extra.count,
        total_g=sum(extra.grams.values()),
        parts=[f"{weight(grams)} {names[key]}" for key, grams in extra.grams.items()],
    )


def _foods_changed(loaded: Loaded) -> list[str]:
    """Names of own foods that were edited after this batch took their figures."""
    return sorted(food.name for food in loaded.larder.foods.values() if food.superseded_by is not None)


def _targets_changed(loaded: Loaded) -> list[str]:
    """Whose targets are others now than when this batch took them over, and how."""
    found = []
    for row, now in changed_targets(loaded.own_targets, loaded.batch.classes):
        moved = [
            f"{nutrient.noun} {_shown_aim(now.get(nutrient.value))} instead of {_shown_aim(taken.get(nutrient.value))}"
            for taken in (row.taken or {},)
            for nutrient in TARGETED
            if now.get(nutrient.value) != taken.get(nutrient.value)
        ]
        found.append(f"{container_name(row)}: {', '.join(moved) or 'another container'}")
    return found


def _shown_aim(value: float | None) -> str:
    return "none" if value is None else shown(value)


def shown_name(row: PlanRowView) -> str:
    """The same of a row that is shown."""
    return row_name(row.client, row.slot, row.day_type)


def _cautions(computed: Computed) -> list[str]:
    """Allergens in shared pots and disliked foods: for the order of work and the labels."""
    contained = {key for foods in computed.loaded.foods.values() for food in foods for key in food.allergens}
    found = []
    for row in computed.loaded.batch.classes:
        hit = conflicts(contained, row.client.allergens)
        sentence = (
            f"{row.client.name} must avoid {', '.join(hit)}, which this batch contains. Cook and fill theirs "
            "first, with clean boards, pans, spoons and hands; traces can stay. When in doubt, cook theirs apart."
        )
        if hit and sentence not in found:
            found.append(sentence)
    return found


def _component_view(computed: Computed, component: tables.Component) -> PlanComponentView:
    need, larder = computed.need(component), computed.loaded.larder
    part = need.part.component
    in_rounds = (None, None) if component.pan_capacity_g is None else rounds(part.in_pan_g, component.pan_capacity_g)
    return PlanComponentView(
        id=component.id,
        name=component.name,
        role=component.role,
        method=component.method,
        **asdict(component.bounds),
        school=component.school,
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        raw_fixed=component.raw_fixed,
        needed_g=need.needed_g,
        cooked_g=need.cooked_g,
        cooked_low_g=need.cooked_low_g,
        cooked_high_g=need.cooked_high_g,
        spare_g=need.spare_g,
        basis_g=need.basis_g,
        purchased_g=sum(line.purchased_g for line in need.lines),
        yield_factor=part.yield_factor,
        own_yield=component.yield_expected is not None,
        yield_source=_yield_source(computed, component),
        per_100g=AmountsView.of(need.part.portioned.per_100g),
        totals=AmountsView.of(part.totals),
        poured_fat_g=part.poured_fat_g,
        left_on_g=part.left_on_g,
        pieces=component.pieces,
        makes=_makes(need),
        piece_g=need.part.one_g if need.part.is_counted else part.piece_g,
        usual_most_g=usual_most_g(
            component.role, capacity_ml=None, capacity_g=None, density_g_per_ml=component.density_g_per_ml
        ),
        over_g=computed.plan.over_g.get(str(component.id), 0.0),
        rounds=in_rounds[0],
        round_g=in_rounds[1],
        lines=[
            PlanLineView(
                id=line.id,
                name=larder.line_name(line),
                state=larder.line_state(line),
                purchased_g=sized.purchased_g,
                weigh_out_g=weighable_g(sized.purchased_g),
                edible_g=sized.edible_g,
                refuse_share=line.refuse_share,
                retained_share=line.retained_share,
                cooked_g=sized.cooked_g,
                unit_g=_unit_line_g(need, sized),
                expected=YieldView.of(expected),
                amounts=AmountsView.of(
                    larder.composition(line).in_grams(sized.edible_g * line.retained_share)
                    if larder.is_counted(line)
                    else NOTHING
                ),
                added_at=line.added_at,
                added_by=line.added_by,
                packs=[
                    PackSize(name=pack.name, grams=pack.grams, needed=math.ceil(sized.purchased_g / pack.grams - 1e-9))
                    for pack in computed.loaded.packs.get(line.food_id or uuid.UUID(int=0), ())
                ],
            )
            for line, sized, expected in zip(
                component.lines, need.lines, larder.expected_yields(component), strict=True
            )
        ],
        weighing=computed.loaded.weighings.get(component.id),
        doubts=_doubts(computed, component),
        allergens=larder.allergens(component.lines),
        caution=larder.caution(component.lines, component.method),
    )


def _makes(need: core.ComponentNeed) -> int | None:
    """Pieces, or units that are built raw, that the batch makes."""
    if need.part.school is School.BUILT_RAW and need.part.one_g:
        return round(need.cooked_g / need.part.one_g)
    return need.part.component.pieces


def _unit_line_g(need: core.ComponentNeed, line: core.LineNeed) -> float | None:
    """What of a line goes into one unit that is built raw [g]."""
    units = _makes(need)
    return line.edible_g / units if need.part.school is School.BUILT_RAW and units else None


def _yield_source(computed: Computed, component: tables.Component) -> str:
    if component.id in computed.loaded.weighings:
        return YieldSource.WEIGHED.value
    known = computed.parts[str(component.id)].component.expected_yield
    return YieldSource.LINES.value if known is None else known.source.value


def _doubts(computed: Computed, component: tables.Component) -> list[CauseView]:
    """Likely causes when the recorded weight lies outside what the lines lead to."""
    weighing = computed.loaded.weighings.get(component.id)
    if weighing is None or computed.loaded.batch.packed_at is not None:
        return []
    vessels = [VesselWeight(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g) for vessel in weighing.vessels]
    found = weighing_doubt(computed.loaded, component, vessels, weighing.removed_g)
    return [] if found is None else cause_views(found)


def cause_views(found: Doubt) -> list[CauseView]:
    """Causes of a questioned weight, the likeliest first."""
    return [
        CauseView(
            words=cause.words,
            fit=cause.fit,
            vessels=None
            if cause.vessels is None
            else [
                VesselView(gross_g=round(vessel.gross_g, 1), vessel_g=round(vessel.vessel_g, 1))
                for vessel in cause.vessels
            ],
        )
        for cause in found.causes
    ]


def _row_view(
    computed: Computed,
    row: tables.ContainerClass,
    question: core.Question,
    portions: Portions,
    per_100g: list[Amounts],
) -> PlanRowView:
    target, tolerance = question.container.target, question.container.tolerance
    return PlanRowView(
        id=row.id,
        client_id=row.client_id,
        client=row.client.name,
        slot=row.slot,
        day_type=row.day_type,
        count=row.count,
        capacity_ml=row.capacity_ml,
        capacity_g=row.capacity_g,
        plate_g=row.plate_g,
        rank=row.rank,
        volume_ml=portions.volume_ml,
        target=PlanTarget.of(row.figures),
        cells=_cells(computed, row, portions, per_100g),
        total_g=sum(portions.grams),
        amounts=AmountsView.of(portions.amounts),
        gauges=[
            GaugeView(
                nutrient=nutrient,
                side=SIDES.get(nutrient, "aim"),
                target=aim,
                tolerance=tolerance.band(nutrient, aim) if nutrient in target.aims else 0.0,
                amount=portions.amounts[nutrient],
                off=portions.amounts[nutrient] - aim,
                miss=portions.misses[nutrient],
                known=nutrient not in portions.unknown,
                at_least=nutrient in portions.amounts.at_least,
            )
            for nutrient, aim in {**target.aims, **target.limits}.items()
        ],
        notes=[] if computed.loaded.batch.packed_at is not None else _notes(computed, question),
    )


def _notes(computed: Computed, question: core.Question) -> list[str]:
    """Which limit takes components more than a third away from where they would be without it."""
    known = {str(component.id): component.name for component in computed.loaded.batch.components}
    names = [" and ".join(known[key] for key in keys) for keys in question.keys]
    return [moved_words(limit, names) for limit in moved_by_limits(question.container, question.answer)]


def _cells(
    computed: Computed, row: tables.ContainerClass, portions: Portions, per_100g: list[Amounts]
) -> list[CellView]:
    batch = computed.loaded.batch
    kept, unloved = computed.loaded.kept_out(row.client), computed.loaded.disliked(row.client)
    pinned = {pin.component_id: pin.grams for pin in row.pins}
    packed = batch.packed_at is not None
    mixed_g = sum(
        grams
        for component, grams in zip(batch.components, portions.grams, strict=True)
        if component.school == School.ONE_POT
    )
    return [
        CellView(
            component_id=component.id,
            grams=grams,
            units=_units(computed.parts[str(component.id)], grams),
            mixed_g=mixed_g if component.school == School.ONE_POT else None,
            estimated=computed.parts[str(component.id)].is_estimated and component.id not in pinned and grams > 0,
            limit=_of_packed(component.id in pinned, bool(kept[str(component.id)])) if packed else limit.value,
            pinned_g=pinned.get(component.id),
            left_out=[ReasonView(word=one.word, of=one.of) for one in kept[str(component.id)]],
            disliked=[ReasonView(word=one.word, of=one.of) for one in unloved[str(component.id)]],
            amounts=AmountsView.of(held.in_grams(grams)),
        )
        for component, grams, limit, held in zip(
            batch.components, portions.grams, portions.limits, per_100g, strict=True
        )
    ]


def _of_packed(pinned: bool, left_out: bool) -> str:
    """What held a cell of a packed batch. Its grams are those that were packed, which nobody pinned."""
    return (Limit.PINNED if pinned else Limit.LEFT_OUT if left_out else Limit.FREE).value


def _units(part: core.Part, grams: float) -> float | None:
    """How many pieces or scoops `grams` [g] are, None where it is not counted."""
    return grams / part.one_g if part.is_counted and part.one_g else None
