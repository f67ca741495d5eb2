"""The computed plan of a batch as a view with every figure."""

from __future__ import annotations

import math
import uuid
from collections.abc import Mapping
from dataclasses import asdict, replace

from yantai.core.cooking.components import rounds
from yantai.core.cooking.doubts import Doubt
from yantai.core.cooking.surely import enough_share, spread
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.cooking.yields import YieldSource
from yantai.core.foods.allergens import conflicts
from yantai.core.foods.nutrients import NOTHING, Amounts
from yantai.core.planning import dishes as core
from yantai.core.planning.plan import ComponentNeed, LineNeed, Question, SpareContainers
from yantai.core.planning.portioning import Place, School, usual_most_g
from yantai.core.portions import Container, Portions
from yantai.core.portions.moved import moved_by_limits
from yantai.core.portions.problem import Limit
from yantai.core.portions.words import moved_words
from yantai.core.quantities.units import weighable_g
from yantai.core.shopping.packs import covers_g
from yantai.core.speaking import weight
from yantai.core.targets.targets import TARGETED, Money
from yantai.core.targets.words import SIDES, shown
from yantai.store import tables
from yantai.work.batches.loading import (
    Loaded,
)
from yantai.work.batches.plans import (
    Computed,
    container_name,
    is_cooked,
    row_name,
    rows_of,
    weighing_doubt,
)
from yantai.work.batches.settle import (
    to_settle,
)
from yantai.work.batches.sharing import shareable
from yantai.work.batches.targets_taken import changed_targets
from yantai.work.batches.views import (
    AsideView,
    BatchHead,
    CauseView,
    CellView,
    DishView,
    GroupView,
    PackSize,
    PartView,
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
    components = [_component_view(computed, component) for component in computed.components]
    held = {key: need.part.portioned.per_100g for key, need in computed.plan.needs.items()}
    rows = [_row_view(computed, row, index, portions, held) for index, (row, portions) in enumerate(rows_of(computed))]
    return PlanView(
        batch=BatchHead(
            id=batch.id,
            name=batch.name,
            foods_changed=[] if batch.packed_at is not None else _foods_changed(computed.loaded),
            targets_changed=[] if batch.packed_at is not None else _targets_changed(computed.loaded),
            cook_on=batch.cook_on,
            step_g=batch.step_g,
            buffer_share=batch.buffer_share,
            sure_share=batch.sure_share,
            budget=batch.budget,
            sharing=batch.sharing,
            leftover=batch.leftover,
            version=batch.version,
            changed_at=batch.changed_at,
            changed_by=batch.changed_by,
            packed_at=batch.packed_at,
            put_away_at=batch.put_away_at,
            deleted_at=batch.deleted_at,
        ),
        dishes=[_dish_view(computed, dish) for dish in batch.dishes],
        components=components,
        rows=rows,
        aside=_aside(computed.loaded),
        shareable=[] if batch.packed_at is not None else shareable(computed.loaded),
        to_settle=to_settle(computed),
        cautions=_cautions(computed),
    )


def _dish_view(computed: Computed, dish: tables.Dish) -> DishView:
    packed = computed.loaded.batch.packed_at is not None
    return DishView(
        id=dish.id,
        name=dish.name,
        recipe_id=dish.recipe_id,
        recipe=dish.recipe.name,
        recipe_changed=not packed and dish.recipe.version != dish.recipe_version,
        groups=[GroupView(name=name, takes=takes) for name, takes in dish.groups.items()],
        parts=[_part_view(computed, part) for part in computed.loaded.parts_of(dish)],
        extra=None if computed.plan.extra is None else _extra(computed, computed.plan.extra[str(dish.id)]),
    )


def _part_view(computed: Computed, row: tables.Part) -> PartView:
    part, need = computed.part(row.dish_id, row.component_id), computed.plan.needs[str(row.component_id)]
    # Pieces and scoops are those of the pot as it is cooked, which may be weighed.
    sized = replace(part, component=need.part.component) if need.cooked_g else part
    return PartView(
        component_id=row.component_id,
        **asdict(row.portioning),
        share_g=row.share_g,
        unit_is_g=sized.one_g if part.is_counted else None,
        usual_most_g=usual_most_g(part.role, capacity_ml=None, capacity_g=None, density_g_per_ml=part.density_g_per_ml),
        needed_g=need.by_dish_g[str(row.dish_id)],
    )


def _aside(loaded: Loaded) -> list[AsideView]:
    found = []
    for component in loaded.batch.components:
        dishes = [dish.name for dish in loaded.batch.dishes if any(p.component_id == component.id for p in dish.parts)]
        if component.aside and dishes:
            found.append(AsideView(id=component.id, name=component.name, dishes=dishes))
    return found


def _extra(computed: Computed, extra: SpareContainers) -> SpareView:
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
    contained = {
        key
        for component in computed.components
        for food in computed.loaded.foods[component.id]
        for key in food.allergens
    }
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


def _enough(need: ComponentNeed) -> float | None:
    """With which probability a pot suffices; None where that is known, or is a number of pieces."""
    part, needed_g = need.part, need.needed_g + need.fresh_g
    if part.weighed or part.is_counted or not needed_g or not spread(need.cooked_g, need.cooked_low_g):
        return None
    return enough_share(need.cooked_g, need.cooked_low_g, needed_g)


def _component_view(computed: Computed, component: tables.Component) -> PlanComponentView:
    need, larder = computed.need(component), computed.loaded.larder
    part = need.part.portioned if need.part.packed_raw else need.part.component
    in_rounds = (None, None) if component.pan_capacity_g is None else rounds(part.in_pan_g, component.pan_capacity_g)
    return PlanComponentView(
        id=component.id,
        name=component.name,
        role=component.role,
        method=component.method,
        raw_fixed=component.raw_fixed,
        packed_raw=component.packed_raw,
        kit_text=component.kit_text,
        whole_pans=component.whole_pans,
        needed_g=need.needed_g,
        fresh_g=need.fresh_g,
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
        enough=_enough(need),
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
                    PackSize(name=pack.name, grams=grams, needed=math.ceil(sized.purchased_g / grams - 1e-9))
                    for pack in computed.loaded.packs.get(line.food_id or uuid.UUID(int=0), ())
                    if (grams := covers_g(pack.grams, pack.drained_g))
                ],
            )
            for line, sized, expected in zip(
                component.lines, need.lines, larder.expected_yields(component), strict=True
            )
        ],
        to_weigh=is_cooked(computed, component),
        weighing=computed.loaded.weighings.get(component.id),
        weighed_parts=[VesselView(**vessel) for vessel in component.weighed_parts],
        doubts=_doubts(computed, component),
        allergens=larder.allergens(component.lines),
        caution=larder.caution(component.lines, component.method),
    )


def _makes(need: ComponentNeed) -> int | None:
    """Pieces, or units that are built raw, that the batch makes."""
    if need.part.school is School.BUILT_RAW and need.part.one_g:
        return round(need.cooked_g / need.part.one_g)
    return need.part.component.pieces


def _unit_line_g(need: ComponentNeed, line: LineNeed) -> float | None:
    """What of a line goes into one unit that is built raw [g]."""
    units = _makes(need)
    return line.edible_g / units if need.part.school is School.BUILT_RAW and units else None


def _yield_source(computed: Computed, component: tables.Component) -> str:
    if component.id in computed.loaded.weighings:
        return YieldSource.WEIGHED.value
    known = computed.loaded.larder.component(component).expected_yield
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
    index: int,
    portions: Portions,
    held: Mapping[str, Amounts],
) -> PlanRowView:
    question = computed.plan.questions[index]
    return PlanRowView(
        id=row.id,
        dish_id=row.dish_id,
        client_id=row.client_id,
        client=row.client.name,
        slot=row.slot,
        day_type=row.day_type,
        count=row.count,
        capacity_ml=row.capacity_ml,
        capacity_g=row.capacity_g,
        plate_g=row.plate_g,
        rank=row.rank,
        helping=row.helping,
        chosen=[uuid.UUID(key) for key in row.chosen],
        volume_ml=portions.volume_ml,
        target=PlanTarget.of(row.figures),
        cells=_cells(computed, row, portions, computed.plan.stops(index), held),
        total_g=_in_container_g(computed, row, portions),
        amounts=AmountsView.of(portions.amounts),
        gauges=gauges_of(question.container, portions),
        notes=[] if computed.loaded.batch.packed_at is not None else _notes(computed, question),
    )


def gauges_of(container: Container, portions: Portions) -> list[GaugeView]:
    """How a container stands to all that it is held to."""
    target, tolerance = container.target, container.tolerance
    return [
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
    ] + _budget_gauge(container.budget, portions)


def _budget_gauge(budget: float | None, portions: Portions) -> list[GaugeView]:
    """What the container costs, where there is a budget; what nobody priced is not in it, and `at_least` says so."""
    if budget is None:
        return []
    return [
        GaugeView(
            nutrient=Money.COST,
            side="at most",
            target=budget,
            tolerance=0.0,
            amount=portions.cost,
            off=portions.cost - budget,
            miss=portions.misses[Money.COST],
            known=True,
            at_least=portions.has_unpriced,
        )
    ]


def _in_container_g(computed: Computed, row: tables.ContainerClass, portions: Portions) -> float:
    parts = computed.dishes[str(row.dish_id)].parts.values()
    return sum(g for part, g in zip(parts, portions.grams, strict=True) if part.place is Place.IN_CONTAINER)


def _notes(computed: Computed, question: Question) -> list[str]:
    """Which limit takes components more than a third away from where they would be without it."""
    known = {str(component.id): component.name for component in computed.loaded.batch.components}
    names = [" and ".join(known[key] for key in keys) for keys in question.keys]
    return [moved_words(limit, names) for limit in moved_by_limits(question.container, question.answer)]


def _cells(
    computed: Computed,
    row: tables.ContainerClass,
    portions: Portions,
    stops: Mapping[str, tuple[float, float]],
    held: Mapping[str, Amounts],
) -> list[CellView]:
    loaded = computed.loaded
    dish, parts = loaded.dishes[row.dish_id], computed.dishes[str(row.dish_id)].parts
    kept, unloved = loaded.kept_out(row.client, dish), loaded.disliked(row.client, dish)
    pinned = {str(pin.component_id): pin.grams for pin in row.pins}
    packed = loaded.batch.packed_at is not None
    cells = list(zip(parts.items(), portions.grams, portions.limits, strict=True))
    mixed_g = sum(grams for (_, part), grams, _ in cells if part.school is School.ONE_POT)
    return [
        CellView(
            component_id=uuid.UUID(key),
            grams=grams,
            stop_low_g=stops[key][0] if key in stops else None,
            stop_high_g=stops[key][1] if key in stops else None,
            units=_units(part, grams),
            mixed_g=mixed_g if part.school is School.ONE_POT else None,
            estimated=part.is_estimated and key not in pinned and grams > 0,
            limit=_of_packed(key in pinned, bool(kept[key])) if packed else limit.value,
            pinned_g=pinned.get(key),
            left_out=[ReasonView(word=one.word, of=one.of) for one in kept[key]],
            disliked=[ReasonView(word=one.word, of=one.of) for one in unloved[key]],
            amounts=AmountsView.of(held[key].in_grams(grams)),
        )
        for (key, part), grams, limit in cells
    ]


def _of_packed(pinned: bool, left_out: bool) -> str:
    """What held a cell of a packed batch. Its grams are those that were packed, which nobody pinned."""
    return (Limit.PINNED if pinned else Limit.LEFT_OUT if left_out else Limit.FREE).value


def _units(part: core.Part, grams: float) -> float | None:
    """How many pieces or scoops `grams` [g] are, None where it is not counted."""
    return grams / part.one_g if part.is_counted and part.one_g else None
