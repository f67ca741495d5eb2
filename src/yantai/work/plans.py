"""The plan of a batch: rows to core, core to a view with every figure."""

from __future__ import annotations

import math
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from sqlalchemy import Select, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session, joinedload, selectinload

from yantai.core import plan as core
from yantai.core.allergens import conflicts
from yantai.core.components import rounds
from yantai.core.doubts import Doubt, doubt
from yantai.core.energy import Carbohydrate, EnergyRule, Rules
from yantai.core.exclusions import Contents, Reason, reasons
from yantai.core.nutrients import NOTHING, Amounts, Nutrient, total
from yantai.core.portioning import School, usual_most_g
from yantai.core.portions import Portions, Sharing
from yantai.core.portions.moved import moved_by_limits
from yantai.core.portions.words import binding_words, moved_words
from yantai.core.speaking import exact_weight, weight
from yantai.core.units import weighable_g
from yantai.core.weighing import VesselWeight
from yantai.core.yields import YieldSource
from yantai.store import tables
from yantai.work import packed
from yantai.work.clients import client_tolerance, conflict_sentence
from yantai.work.errors import Missing, located
from yantai.work.figures import NOUNS, SIDES, core_target, shown, target_figures, whole_words
from yantai.work.kitchen import Larder, contents, kept_out
from yantai.work.targets_taken import OwnTargets, changed_targets, own_targets
from yantai.work.views import (
    AmountsView,
    BatchHead,
    CauseView,
    CellView,
    ExtraView,
    GaugeView,
    PackSize,
    PlanComponentView,
    PlanLineView,
    PlanRowView,
    PlanTarget,
    PlanView,
    ReasonView,
    Settle,
    VesselView,
    WeighingView,
    YieldView,
)

_MOST_LIMITS = 3
"""Limits named in a sentence; they come the most worthwhile first."""


@dataclass(frozen=True, kw_only=True)
class Loaded:
    """A batch row with everything its plan is computed from; `vessels` are empty weights [g] by name, `packs` those
    that each food is bought in, `own_targets` what its clients aim at now."""

    batch: tables.Batch
    larder: Larder
    weighings: dict[uuid.UUID, WeighingView]
    vessels: dict[str, float]
    packs: dict[uuid.UUID, list[tables.Pack]]
    own_targets: OwnTargets

    @cached_property
    def foods(self) -> dict[uuid.UUID, list[tables.Food]]:
        """What each component is made of, by its id: asked for every container of the batch."""
        return {component.id: self.larder.foods_of(component.lines) for component in self.batch.components}

    @cached_property
    def contents(self) -> dict[str, Contents]:
        """The same as words that keep something out see it, by the component's id as text."""
        return {str(one.id): contents(one.name, self.foods[one.id]) for one in self.batch.components}

    def with_foods(self, session: Session) -> Loaded:
        """The same with the larder read again, for foods that came in since."""
        return replace(self, larder=_larder(session, self.batch))

    def kept_out(self, client: tables.Client) -> dict[str, tuple[Reason, ...]]:
        """Why each component stays out of a client's containers, by its id as text."""
        return kept_out(client, self.batch.recipe.name, self.contents)

    def disliked(self, client: tables.Client) -> dict[str, tuple[Reason, ...]]:
        """What a client does not like of each component, by its id as text."""
        return reasons(self.batch.recipe.name, self.contents, avoided=(), words=client.dislikes)


@dataclass(frozen=True, kw_only=True)
class Computed:
    """The same with the core's answer."""

    loaded: Loaded
    pans: dict[str, core.Pan]
    plan: core.Plan

    def need(self, component: tables.Component) -> core.PanNeed:
        """The chain of one component."""
        return self.plan.needs[str(component.id)]


def batch_query() -> Select[tables.Batch]:
    """Batches with components, lines, foods, rows, clients and pins."""
    batch, component, row = tables.Batch, tables.Component, tables.ContainerClass
    lines = selectinload(batch.components).selectinload(component.lines)
    return select(batch).options(
        joinedload(batch.recipe),
        lines,
        selectinload(batch.classes).joinedload(row.client),
        selectinload(batch.classes).selectinload(row.pins),
    )


def load(session: Session, batch_id: uuid.UUID, *, lock: bool = False) -> Loaded:
    """Read a batch.

    Raises:
        Missing: there is no such batch here.
    """
    query = batch_query().where(tables.Batch.id == batch_id)
    batch = session.scalar(query.with_for_update(of=tables.Batch) if lock else query)
    if batch is None:
        raise Missing("There is no such batch. It may have been removed in another window.")
    return loaded(session, batch)


def loaded(session: Session, batch: tables.Batch, *, rules: Rules | None = None) -> Loaded:
    """A batch row with its larder and weighings, counted by `rules` or those it has."""
    larder = _larder(session, batch, rules)
    vessels = {row.name: row.empty_g for row in session.scalars(select(tables.Vessel).order_by(tables.Vessel.name))}
    packs: dict[uuid.UUID, list[tables.Pack]] = {}
    bought = select(tables.Pack).where(tables.Pack.food_id.in_(larder.foods)).order_by(tables.Pack.grams)
    for pack in session.scalars(bought):
        packs.setdefault(pack.food_id, []).append(pack)
    return Loaded(
        batch=batch,
        larder=larder,
        weighings=_weighings(session, batch.id),
        vessels=vessels,
        packs=packs,
        own_targets=own_targets(session, {row.client_id for row in batch.classes}, larder.rules),
    )


def after_change(session: Session, loaded: Loaded, *, foods_added: bool = False) -> Loaded:
    """The same batch after some of its rows changed: the rows are at hand, only weighings are read anew.

    The larder is read again when a food came in that it does not hold yet.
    """
    now = loaded.with_foods(session) if foods_added else loaded
    return replace(now, weighings=_weighings(session, loaded.batch.id))


def compute(loaded: Loaded) -> Computed:
    """Run the core on a batch.

    Raises:
        Invalid: a value of the batch is out of range.
    """
    batch = loaded.batch
    pans = {}
    for component in batch.components:
        with located(f"/components/{component.name}"):
            pans[str(component.id)] = core_pan(loaded, component)
    with located(""):
        plan = solve_batch(batch, pans, core_classes(loaded))
    return Computed(loaded=loaded, pans=pans, plan=plan)


def solve_batch(batch: tables.Batch, pans: Mapping[str, core.Pan], classes: Sequence[core.ContainerClass]) -> core.Plan:
    """The core's answer for these pans and classes by the rules of a batch."""
    return core.plan(
        pans,
        classes,
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sharing=Sharing(batch.sharing),
        leftover=core.Leftover(batch.leftover),
    )


def core_classes(loaded: Loaded) -> tuple[core.ContainerClass, ...]:
    """The rows of a batch as the core takes them."""
    return tuple(core_class(loaded, row) for row in loaded.batch.classes)


def _larder(session: Session, batch: tables.Batch, rules: Rules | None = None) -> Larder:
    return Larder.read(session, batch.components, rules=rules or _kept_rules(batch), except_batch=batch.id)


def sum_of(per_100g: Sequence[Amounts], grams: Sequence[float]) -> Amounts:
    """What a container of these grams [g] of each component holds."""
    return total(held.in_grams(amount) for held, amount in zip(per_100g, grams, strict=True))


def read_view(loaded: Loaded) -> PlanView:
    """Everything the plan screen shows: of a packed batch what it showed then."""
    return packed.view(loaded.batch) or plan_view(compute(loaded))


def plan_view(computed: Computed) -> PlanView:
    """Everything the plan screen shows."""
    batch = computed.loaded.batch
    components = [_component_view(computed, component) for component in batch.components]
    per_100g = [computed.need(component).pan.dish.per_100g for component in batch.components]
    rows = [
        _row_view(computed, row, question, portions, per_100g)
        for (row, portions), question in zip(_rows(computed), computed.plan.questions, strict=True)
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


def _extra(computed: Computed) -> ExtraView | None:
    extra = computed.plan.extra
    if extra is None:
        return None
    names = {str(component.id): component.name for component in computed.loaded.batch.components}
    return ExtraView(
        count=extra.count,
        total_g=sum(extra.grams.values()),
        parts=[f"{weight(grams)} {names[key]}" for key, grams in extra.grams.items()],
    )


def _kept_rules(batch: tables.Batch) -> Rules | None:
    """The rules a packed batch was packed by; None for an open one, which follows the workspace."""
    if batch.energy_rule is None or batch.carbohydrate is None:
        return None
    return Rules(energy=EnergyRule(batch.energy_rule), carbohydrate=Carbohydrate(batch.carbohydrate))


def _foods_changed(loaded: Loaded) -> list[str]:
    """Names of own foods that were edited after this batch took their figures."""
    return sorted(food.name for food in loaded.larder.foods.values() if food.superseded_by is not None)


def _targets_changed(loaded: Loaded) -> list[str]:
    """Whose targets are others now than when this batch took them over, and how."""
    found = []
    for row, now in changed_targets(loaded.own_targets, loaded.batch.classes):
        moved = [
            f"{noun} {_shown_aim(now.get(nutrient.value))} instead of {_shown_aim(taken.get(nutrient.value))}"
            for taken in (row.taken or {},)
            for nutrient, (noun, _) in NOUNS.items()
            if now.get(nutrient.value) != taken.get(nutrient.value)
        ]
        found.append(f"{container_name(row)}: {', '.join(moved) or 'another container'}")
    return found


def _shown_aim(value: float | None) -> str:
    return "none" if value is None else shown(value)


def to_settle(computed: Computed) -> list[Settle]:
    """What the coach should decide before cooking: targets not met, pans short, targets that contradict themselves."""
    found = []
    for component in computed.loaded.batch.components:
        need = computed.need(component)
        if need.spare_g < -0.5:
            found.append(_short(component, need))
    classes = core_classes(computed.loaded)
    for (row, portions), question, each in zip(_rows(computed), computed.plan.questions, classes, strict=True):
        if row.count == 0:
            continue
        untold = core.untold(computed.pans, each)
        if untold:
            found.append(_untold(row, [computed.pans[key].component.name for key in untold]))
        conflict = conflict_sentence(question.container.target)
        if conflict:
            found.append(
                Settle(
                    title=f"{container_name(row)}: target at odds", detail=conflict, row_id=row.id, component_id=None
                )
            )
        elif not portions.inside:
            found.append(_missed(computed, row, portions))
        if portions.is_overfull:
            found.append(_overfull(row, portions))
        if portions.unknown:
            found.append(_unknown(computed, row, portions))
    found += _contradictions(computed)
    return found


def _rows(computed: Computed) -> list[tuple[tables.ContainerClass, Portions]]:
    return list(zip(computed.loaded.batch.classes, computed.plan.portions, strict=True))


def container_name(row: tables.ContainerClass) -> str:
    """Whose containers these are, for which meal and kind of day."""
    return _named(row.client.name, row.slot, row.day_type)


def shown_name(row: PlanRowView) -> str:
    """The same of a row that is shown."""
    return _named(row.client, row.slot, row.day_type)


def _named(client: str, slot: str, day_type: str) -> str:
    return f"{client}, {slot}" + ("" if day_type == "any" else f" on {day_type} days")


def _short(component: tables.Component, need: core.PanNeed) -> Settle:
    why = "The pan was weighed" if need.pan.weighed else "Its raw amounts are fixed and should give"
    mend = "free or lower a pin, or add to the pan and weigh again" if need.pan.weighed else "raise a raw amount"
    return Settle(
        title=f"{component.name}: {weight(-need.spare_g)} short",
        detail=f"{why} {weight(need.cooked_g)}; the containers take {weight(need.needed_g)}. To mend it, {mend}.",
        row_id=None,
        component_id=component.id,
    )


def _missed(computed: Computed, row: tables.ContainerClass, portions: Portions) -> Settle:
    off = {n: portions.amounts[n] - (getattr(row, n.value) or 0.0) for n, miss in portions.misses.items() if miss}
    return Settle(
        title=f"{container_name(row)}: {', '.join(missed_words(off))}",
        detail=_binding(computed.loaded.batch.components, portions),
        row_id=row.id,
        component_id=None,
    )


def missed_words(off: Mapping[Nutrient, float]) -> list[str]:
    """Each figure that is off [g, kcal, mg], as "protein 12 g short"."""
    told = []
    for nutrient, value in off.items():
        if value:
            told.append(f"{NOUNS[nutrient][0]} {whole_words(nutrient, abs(value))} {'over' if value > 0 else 'short'}")
    return told


def _binding(components: Sequence[tables.Component], portions: Portions) -> str:
    names = [component.name for component in components]
    held = [binding_words(binding, names) for binding in portions.bindings[:_MOST_LIMITS]]
    if not held:
        return "No mix of these components comes nearer. Change the target, or the recipe."
    return f"What holds it: {'; '.join(held)}. Free or move one of these, or change the target."


def _untold(row: tables.ContainerClass, names: Sequence[str]) -> Settle:
    return Settle(
        title=f"{container_name(row)}: no target",
        detail=f"Nothing says how much {' and '.join(names)} goes in. Give these containers a target, pin the grams, "
        "or portion by equal split, plate shares, by eye or as units built raw.",
        row_id=row.id,
        component_id=None,
    )


def _overfull(row: tables.ContainerClass, portions: Portions) -> Settle:
    by_volume = portions.overfull_ml > 0
    fills = f"{portions.volume_ml:,.0f} ml" if by_volume else weight(math.fsum(portions.grams))
    holds = f"{row.capacity_ml:,.0f} ml" if by_volume else weight(row.capacity_g or 0)
    return Settle(
        title=f"{container_name(row)}: does not fit",
        detail=f"The pinned grams and least amounts fill about {fills} of a container for {holds}. Lower one, or "
        "give a larger container.",
        row_id=row.id,
        component_id=None,
    )


def _unknown(computed: Computed, row: tables.ContainerClass, portions: Portions) -> Settle:
    """Figures that nobody can say to be met, and the foods that do not state them."""
    nouns = [NOUNS[nutrient][0] for nutrient in portions.unknown]
    silent = sorted(
        {
            line.name
            for component, grams in zip(computed.loaded.batch.components, portions.grams, strict=True)
            if grams
            for line in computed.pans[str(component.id)].component.lines
            if portions.unknown & line.amounts.at_least
        }
    )
    return Settle(
        title=f"{container_name(row)}: {' and '.join(sorted(nouns))} not known",
        detail=f"No figure is stated for {', '.join(silent)}, so what the container holds is at least what is shown. "
        "Add the figure to the food, or leave the target open.",
        row_id=row.id,
        component_id=None,
    )


def _contradictions(computed: Computed) -> list[Settle]:
    """Components whose least and most leave no step of the scale between them, each once."""
    batch = computed.loaded.batch
    places = sorted({place for portions in computed.plan.portions for place in portions.contradictions})
    return [
        Settle(
            title=f"{batch.components[place].name}: its least and its most leave nothing between",
            detail=f"No step of {exact_weight(batch.step_g)} lies from "
            f"{exact_weight(batch.components[place].minimum_g)} to "
            f"{exact_weight(batch.components[place].maximum_g or 0)} per container. Move one of them, or weigh to a "
            "finer step.",
            row_id=None,
            component_id=batch.components[place].id,
        )
        for place in places
    ]


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


def core_pan(loaded: Loaded, component: tables.Component) -> core.Pan:
    """A component of the batch as the core takes it.

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    weighing = loaded.weighings.get(component.id)
    return pan_of(
        loaded.larder,
        component,
        share_g=component.recipe_share_g or 1.0,
        measured_g=weighing.cooked_g if weighing else None,
    )


def pan_of(larder: Larder, component: tables.Component, *, share_g: float, measured_g: float | None = None) -> core.Pan:
    """A component of a recipe or a batch as the core takes it: `share_g` is its weight in the recipe as written [g].

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    return core.Pan(
        component=larder.component(component, measured_g=measured_g),
        share=share_g,
        school=School(component.school),
        role=component.role,
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        raw_fixed=component.raw_fixed,
        minimum_g=component.minimum_g,
        maximum_g=component.maximum_g,
        density_g_per_ml=component.density_g_per_ml,
    )


def core_class(loaded: Loaded, row: tables.ContainerClass, *, with_pins: bool = True) -> core.ContainerClass:
    """A row as the core takes it, with the components of `loaded` that its client must not have left out.

    Without pins it may be a row of another batch.
    """
    left_out = frozenset(key for key, why in loaded.kept_out(row.client).items() if why)
    pins = {str(pin.component_id): pin.grams for pin in row.pins} if with_pins else {}
    if row.packed_g is not None:
        # What was packed stays as it was packed, whatever became of the client since.
        pins, left_out = row.packed_g, frozenset()
    with located(f"/rows/{row.id}"):
        return core.ContainerClass(
            target=core_target(row),
            tolerance=client_tolerance(row.client),
            count=row.count,
            capacity_ml=row.capacity_ml,
            capacity_g=row.capacity_g,
            plate_g=row.plate_g,
            rank=row.rank,
            pins=pins,
            left_out=left_out,
        )


def _component_view(computed: Computed, component: tables.Component) -> PlanComponentView:
    need, larder = computed.need(component), computed.loaded.larder
    pan = need.pan.component
    in_rounds = (None, None) if component.pan_capacity_g is None else rounds(pan.in_pan_g, component.pan_capacity_g)
    return PlanComponentView(
        id=component.id,
        name=component.name,
        role=component.role,
        method=component.method,
        minimum_g=component.minimum_g,
        maximum_g=component.maximum_g,
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
        yield_factor=pan.yield_factor,
        own_yield=component.yield_expected is not None,
        yield_source=_yield_source(computed, component),
        per_100g=AmountsView.of(need.pan.dish.per_100g),
        totals=AmountsView.of(pan.totals),
        poured_fat_g=pan.poured_fat_g,
        left_on_g=pan.left_on_g,
        pieces=component.pieces,
        makes=_makes(need),
        piece_g=need.pan.one_g if need.pan.is_counted else pan.piece_g,
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


def _makes(need: core.PanNeed) -> int | None:
    """Pieces, or units that are built raw, that the batch makes."""
    if need.pan.school is School.BUILT_RAW and need.pan.one_g:
        return round(need.cooked_g / need.pan.one_g)
    return need.pan.component.pieces


def _unit_line_g(need: core.PanNeed, line: core.LineNeed) -> float | None:
    """What of a line goes into one unit that is built raw [g]."""
    units = _makes(need)
    return line.edible_g / units if need.pan.school is School.BUILT_RAW and units else None


def _yield_source(computed: Computed, component: tables.Component) -> str:
    if component.id in computed.loaded.weighings:
        return YieldSource.WEIGHED.value
    known = computed.pans[str(component.id)].component.expected_yield
    return YieldSource.LINES.value if known is None else known.source.value


def _doubts(computed: Computed, component: tables.Component) -> list[CauseView]:
    """Likely causes when the recorded weight lies outside what the lines lead to."""
    weighing = computed.loaded.weighings.get(component.id)
    if weighing is None or computed.loaded.batch.packed_at is not None:
        return []
    vessels = [VesselWeight(gross_g=one.gross_g, vessel_g=one.vessel_g) for one in weighing.vessels]
    found = weighing_doubt(computed.loaded, component, vessels, weighing.removed_g)
    return [] if found is None else cause_views(found)


def weighing_doubt(
    loaded: Loaded, component: tables.Component, vessels: Sequence[VesselWeight], removed_g: float
) -> Doubt | None:
    """Why a weighing of a component is questioned; None where it is believed."""
    larder = loaded.larder
    return doubt(
        larder.component(component),
        vessels,
        removed_g=removed_g,
        known_vessels=loaded.vessels,
        others={
            other.name: larder.component(other)
            for other in loaded.batch.components
            if other.id != component.id and other.raw_fixed
        },
    )


def cause_views(found: Doubt) -> list[CauseView]:
    """Causes of a questioned weight, the likeliest first."""
    return [
        CauseView(
            words=cause.words,
            fit=cause.fit,
            vessels=None
            if cause.vessels is None
            else [VesselView(gross_g=round(one.gross_g, 1), vessel_g=round(one.vessel_g, 1)) for one in cause.vessels],
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
        target=PlanTarget(**target_figures(row)),
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
    return [moved_words(one, names) for one in moved_by_limits(question.container, question.answer)]


def _cells(
    computed: Computed, row: tables.ContainerClass, portions: Portions, per_100g: list[Amounts]
) -> list[CellView]:
    batch = computed.loaded.batch
    kept, unloved = computed.loaded.kept_out(row.client), computed.loaded.disliked(row.client)
    pinned = {pin.component_id: pin.grams for pin in row.pins}
    mixed_g = sum(
        grams
        for component, grams in zip(batch.components, portions.grams, strict=True)
        if component.school == School.ONE_POT
    )
    return [
        CellView(
            component_id=component.id,
            grams=grams,
            units=_units(computed.pans[str(component.id)], grams),
            mixed_g=mixed_g if component.school == School.ONE_POT else None,
            estimated=computed.pans[str(component.id)].is_estimated and component.id not in pinned and grams > 0,
            limit=limit.value,
            pinned_g=pinned.get(component.id),
            left_out=[ReasonView(word=one.word, of=one.of) for one in kept[str(component.id)]],
            disliked=[ReasonView(word=one.word, of=one.of) for one in unloved[str(component.id)]],
            amounts=AmountsView.of(held.in_grams(grams)),
        )
        for component, grams, limit, held in zip(
            batch.components, portions.grams, portions.limits, per_100g, strict=True
        )
    ]


def _units(pan: core.Pan, grams: float) -> float | None:
    """How many pieces or scoops `grams` [g] are, None where it is not counted."""
    return grams / pan.one_g if pan.is_counted and pan.one_g else None


def _weighings(session: Session, batch_id: uuid.UUID) -> dict[uuid.UUID, WeighingView]:
    """The newest weighing of each component, withdrawn ones left out."""
    weighing, account = tables.Weighing, tables.Account
    query = (
        select(weighing, account.name)
        .join(account, account.id == weighing.account_id)
        .where(weighing.batch_id == batch_id)
        .ext(distinct_on(weighing.component_id))
        .order_by(weighing.component_id, weighing.number.desc())
    )
    return {
        row.component_id: WeighingView(
            cooked_g=row.cooked_g,
            vessels=[VesselView(**vessel) for vessel in row.vessels],
            removed_g=row.removed_g,
            weighed_at=row.weighed_at,
            weighed_by=name,
        )
        for row, name in session.execute(query)
        if row.cooked_g is not None
    }
