"""Batches: making them, listing them with what is next, and changing them."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.errors import require_range
from yantai.core.liquids import Lid
from yantai.core.plan import Leftover
from yantai.core.portions import Sharing
from yantai.formats.plan_document import PlanDocument
from yantai.formats.plan_export import Eater, Told, plan_document
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import BatchChanged, announce
from yantai.work import packed, plans
from yantai.work.accounts import SignedIn
from yantai.work.clients import client_query
from yantai.work.days import effective_figures, effective_target, stored_days
from yantai.work.errors import Collector, Invalid, Missing, Stale, located
from yantai.work.figures import Figures
from yantai.work.inputs import BatchInput
from yantai.work.kitchen import Larder, LineLike, read_workspace, workspace_rules
from yantai.work.recipes import load_recipe
from yantai.work.targets_taken import taken_target
from yantai.work.views import BatchBrief, PlanView


def list_batches(database: Database, who: SignedIn) -> list[BatchBrief]:
    """All batches, the next to cook first and the packed ones after them, newest first."""
    with database.workspace(who.workspace_id) as session:
        batches = session.scalars(plans.batch_query()).all()
        briefs = [_brief(session, batch) for batch in batches]
    open_ones = sorted((b for b in briefs if b.packed_at is None), key=lambda b: (b.cook_on, b.name))
    packed = sorted((b for b in briefs if b.packed_at is not None), key=lambda b: b.cook_on, reverse=True)
    return open_ones + packed


def read_plan(database: Database, who: SignedIn, batch_id: uuid.UUID) -> PlanView:
    """The plan of one batch.

    Raises:
        Missing: there is no such batch here.
    """
    with database.workspace(who.workspace_id) as session:
        return plans.read_view(_kept(plans.load(session, batch_id)))


def create_batch(database: Database, who: SignedIn, given: BatchInput) -> PlanView:
    """Make a batch from a recipe and the targets of some clients, and plan it.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
    """
    with database.workspace(who.workspace_id) as session:
        recipe = load_recipe(session, given.recipe_id)
        targets = _check(session, given, recipe)
        figures = _figures(session, targets)
        batch = tables.Batch(
            workspace_id=who.workspace_id,
            recipe_id=recipe.id,
            recipe_version=recipe.version,
            name=given.name.strip(),
            cook_on=given.cook_on,
            step_g=given.step_g,
            buffer_share=given.buffer_share,
            version=1,
            changed_by=who.name,
        )
        batch.components = copy_components(session, who, recipe)
        batch.classes = [
            tables.ContainerClass(
                workspace_id=who.workspace_id,
                client_id=targets[eater.target_id].client_id,
                position=position,
                slot=targets[eater.target_id].slot,
                day_type=targets[eater.target_id].day_type,
                count=eater.count,
                capacity_ml=targets[eater.target_id].capacity_ml,
                capacity_g=targets[eater.target_id].capacity_g,
                plate_g=targets[eater.target_id].plate_g,
                taken=taken_target(targets[eater.target_id], figures[eater.target_id]),
                **figures[eater.target_id],
            )
            for position, eater in enumerate(given.eaters)
        ]
        session.add(batch)
        session.flush()
        session.expire_all()
        return plans.plan_view(plans.compute(plans.load(session, batch.id)))


def batch_now(database: Database, who: SignedIn, batch_id: uuid.UUID) -> BatchChanged:
    """At which version a batch is, and who made it.

    Raises:
        Missing: there is no such batch here.
    """
    with database.workspace(who.workspace_id) as session:
        batch = session.get(tables.Batch, batch_id)
        if batch is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        return BatchChanged(batch_id=str(batch.id), version=batch.version, by=batch.changed_by)


def export_batch(database: Database, who: SignedIn, batch_id: uuid.UUID) -> PlanDocument:
    """The batch as an open plan document, which `./yantai compute` computes alike.

    Raises:
        Missing: there is no such batch here.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = _kept(plans.load(session, batch_id))
        return packed.document(loaded.batch) or batch_document(plans.compute(loaded))


def _kept(loaded: plans.Loaded) -> plans.Loaded:
    """Let a batch that was packed before its view was kept keep what it shows from now on."""
    if loaded.batch.packed_at is not None and loaded.batch.packed is None:
        computed = plans.compute(loaded)
        packed.keep(loaded.batch, plans.plan_view(computed), batch_document(computed))
    return loaded


def batch_document(computed: plans.Computed) -> PlanDocument:
    """The plan document of an open batch."""
    batch, larder = computed.loaded.batch, computed.loaded.larder
    classes = plans.core_classes(computed.loaded)
    return plan_document(
        batch.name,
        computed.pans,
        [
            (
                Eater(name=plans.container_name(row), client=row.client.name, slot=row.slot, day_type=row.day_type),
                each,
            )
            for row, each in zip(batch.classes, classes, strict=True)
        ],
        {
            str(component.id): Told(
                role=component.role,
                method=component.method,
                lid=Lid(component.lid),
                cook_min=component.cook_min,
                allergens=[larder.allergens([line]) for line in component.lines],
            )
            for component in batch.components
        },
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sharing=Sharing(batch.sharing),
        leftover=Leftover(batch.leftover),
    )


def copy_components(session: Session, who: SignedIn, recipe: tables.Recipe) -> list[tables.Component]:
    """The recipe's components as a batch owns them, with their weights in the recipe as written.

    A component that only goes into others is not cooked for containers; where a component is made of others,
    their ingredients take the place of the line, each with the yield it has there.
    """
    larder = Larder.read(session, recipe.components)
    return [copied_component(larder, who, component) for component in recipe.components if component.served]


def copied_component(larder: Larder, who: SignedIn, component: tables.Component) -> tables.Component:
    """One component of a recipe as a batch owns it; `larder` knows its foods and sources."""
    return tables.Component(
        workspace_id=who.workspace_id,
        position=component.position,
        name=component.name,
        role=component.role,
        method=component.method,
        minimum_g=component.minimum_g,
        maximum_g=component.maximum_g,
        density_g_per_ml=component.density_g_per_ml,
        yield_low=component.yield_low,
        yield_expected=component.yield_expected,
        yield_high=component.yield_high,
        poured_fat_g=component.poured_fat_g + _poured_within(larder, component),
        pieces=component.pieces,
        pan_capacity_g=component.pan_capacity_g,
        lid=component.lid,
        cook_min=component.cook_min,
        school=component.school,
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        recipe_component_id=component.id,
        recipe_share_g=larder.component(component).expected_g,
        lines=_copied_lines(larder, who, component),
    )


def _copied_lines(larder: Larder, who: SignedIn, component: tables.Component) -> list[tables.Line]:
    copied: list[tables.Line] = []
    for line in component.lines:
        if line.source_id is None:
            copied.append(_copied(who, line, purchased_g=line.purchased_g, yield_factor=line.yield_factor))
            continue
        outer = larder.expected_yield(line, component).expected
        for inner, share, inner_yield in _unfolded(larder, line.source_id):
            copied.append(
                _copied(
                    who,
                    inner,
                    purchased_g=inner.purchased_g * share * line.purchased_g,
                    yield_factor=inner_yield * outer,
                    unfolded=True,
                    retained_share=inner.retained_share * line.retained_share,
                    counted=inner.counted and line.counted,
                )
            )
    for position, line in enumerate(copied):
        line.position = position
    return copied


def _unfolded(larder: Larder, source_id: uuid.UUID) -> list[tuple[LineLike, float, float]]:
    """The food lines of a component for one gram of it cooked: line, its share, its yield there."""
    source = larder.sources[source_id]
    made = larder.component(source)
    share = 1 / made.cooked_g
    by_lines = sum(made.line_cooked_g())
    # A yield set for the whole component is spread over its lines.
    spread = made.cooked_g / by_lines if by_lines else 1.0
    found: list[tuple[LineLike, float, float]] = []
    for line, cooked in zip(source.lines, made.line_yields, strict=True):
        factor = cooked.expected * spread
        if line.source_id is None:
            found.append((line, share, factor))
            continue
        found += [
            (inner, inner_share * line.purchased_g * share, inner_yield * factor)
            for inner, inner_share, inner_yield in _unfolded(larder, line.source_id)
        ]
    return found


def _poured_within(larder: Larder, component: tables.Component) -> float:
    """Fat [g] poured off the components that this one is made of, at the size they are used in."""
    poured = 0.0
    for line in component.lines:
        if line.source_id is not None:
            made = larder.component(larder.sources[line.source_id])
            poured += made.poured_fat_g * line.purchased_g * line.retained_share / made.cooked_g
    return poured


def _copied(who: SignedIn, line: LineLike, **changed: Any) -> tables.Line:
    values: dict[str, Any] = {
        "food_id": line.food_id,
        "purchased_g": line.purchased_g,
        "refuse_share": line.refuse_share,
        "refuse_after": line.refuse_after,
        "retained_share": line.retained_share,
        "yield_factor": line.yield_factor,
        "unfolded": line.unfolded,
        "weighed_state": line.weighed_state,
        "counted": line.counted,
        "scales": line.scales,
        "position": 0,
    }
    return tables.Line(workspace_id=who.workspace_id, **{**values, **changed})


def refuse_stale(batch: tables.Batch, version: int) -> None:
    """Raise `Stale` when the batch is not at `version` any more."""
    if batch.version != version:
        raise Stale(
            f"{batch.changed_by} changed this batch at {batch.changed_at:%H:%M} UTC, after you opened it. Your change "
            "is not saved yet: take the newest plan and apply it to that."
        )


def mark_changed(session: Session, batch: tables.Batch, who: SignedIn) -> None:
    """Note who changed the batch last, and count the change."""
    batch.version += 1
    batch.changed_by = who.name
    batch.changed_at = session.scalars(select(func.now())).one()
    session.flush()
    announce(session, batch.id, batch.version, who.name)


def check_batch(faults: Collector, *, name: str, step_g: float, buffer_share: float) -> None:
    """Note what is wrong with a batch's own values."""
    faults.text("/name", name, what="the batch's name")
    with faults.located(""):
        require_range("step_g", step_g, low=0.1, high=100, unit="g")
    with faults.located(""):
        require_range("buffer_share", buffer_share, low=0, high=0.5, unit="of the need")


def _check(session: Session, given: BatchInput, recipe: tables.Recipe) -> dict[uuid.UUID, tables.Target]:
    faults = Collector()
    check_batch(faults, name=given.name, step_g=given.step_g, buffer_share=given.buffer_share)
    if not recipe.components:
        faults.add("/recipe_id", f"{recipe.name} has no components yet: add one to the recipe first")
    if not given.eaters:
        faults.add("/eaters", "choose at least one client to cook for")
    targets = {
        target.id: target
        for target in session.scalars(
            select(tables.Target).where(tables.Target.id.in_([eater.target_id for eater in given.eaters]))
        )
    }
    for place, eater in enumerate(given.eaters):
        if eater.target_id not in targets:
            faults.add(f"/eaters/{place}/target_id", "this target was removed; reload the page")
        if not 1 <= eater.count <= 100:
            faults.add(f"/eaters/{place}/count", f"{eater.count} containers; give from 1 to 100")
    faults.check()
    if len(targets) != len(given.eaters):
        raise Invalid.at("/eaters", "The same target is chosen twice.")
    return targets


def _figures(session: Session, targets: Mapping[uuid.UUID, tables.Target]) -> dict[uuid.UUID, Figures]:
    """What the containers of these targets shall hold as of now; a batch keeps it whatever becomes of the target."""
    rules = workspace_rules(read_workspace(session))
    ids = {target.client_id for target in targets.values()}
    clients = session.scalars(client_query().where(tables.Client.id.in_(ids)))
    days = {client.id: stored_days(client, rules) for client in clients}
    found = {}
    for target in targets.values():
        with located("/eaters"):
            effective_target(target, days[target.client_id])
        found[target.id] = effective_figures(target, days[target.client_id])
    return found


def _brief(session: Session, batch: tables.Batch) -> BatchBrief:
    loaded = plans.loaded(session, batch)
    open_points = [] if batch.packed_at else plans.to_settle(plans.compute(loaded))
    weighed = len(loaded.weighings)
    return BatchBrief(
        id=batch.id,
        name=batch.name,
        recipe=batch.recipe.name,
        cook_on=batch.cook_on,
        clients=len({row.client_id for row in batch.classes if row.count}),
        containers=sum(row.count for row in batch.classes),
        components=len(batch.components),
        weighed=weighed,
        packed_at=batch.packed_at,
        next_step=_next_step(batch, len(open_points), weighed),
        to_settle=len(open_points),
    )


def _next_step(batch: tables.Batch, open_points: int, weighed: int) -> str:
    if batch.packed_at is not None:
        return "Packed"
    if weighed == len(batch.components):
        return "Fill the containers, then mark the batch as packed"
    if weighed:
        return f"Weigh {len(batch.components) - weighed} more of {len(batch.components)} components"
    if open_points:
        return f"Settle {open_points} {'thing' if open_points == 1 else 'things'} in the plan"
    return "Cook, and weigh each component as it comes out"
