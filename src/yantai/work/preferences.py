"""Settings of the kitchen and of a person; what a switch of the rules would change, before it is made."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from yantai.core.energy import Carbohydrate, EnergyRule, Rules
from yantai.core.errors import CoreError, require_range
from yantai.core.free_foods import FREE_FOODS
from yantai.core.nutrients import Amounts
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn, account_view
from yantai.work.errors import Collector
from yantai.work.inputs import PersonInput, VesselInput, WorkspaceInput
from yantai.work.kitchen import Larder, read_workspace, workspace_rules
from yantai.work.views import AccountView, AmountsView, KitchenVesselView, SettingsView, SwitchedView


def read_settings(database: Database, who: SignedIn) -> SettingsView:
    """What the kitchen counts by."""
    with database.workspace(who.workspace_id) as session:
        return _view(session)


def save_settings(database: Database, who: SignedIn, given: WorkspaceInput) -> SettingsView:
    """Set what the kitchen counts by, and its vessels. Packed batches keep the rules they were packed by.

    Raises:
        Invalid: a vessel's weight makes no sense, or a kind of free food is not known.
    """
    faults = Collector()
    for place, vessel in enumerate(given.vessels):
        faults.text(f"/vessels/{place}/name", vessel.name, what="the vessel's name")
        with faults.located(f"/vessels/{place}"):
            require_range("empty_g", vessel.empty_g, low=1, high=50_000, unit="g")
        if vessel.capacity_g is not None:
            with faults.located(f"/vessels/{place}"):
                require_range("capacity_g", vessel.capacity_g, low=1, high=1_000_000, unit="g")
    for kind in given.free_foods:
        if kind not in FREE_FOODS:
            faults.add("/free_foods", f"“{kind}” is not one of {', '.join(FREE_FOODS)}")
    faults.check()
    with database.workspace(who.workspace_id) as session:
        workspace = read_workspace(session)
        workspace.spoons = given.spoons
        workspace.energy_rule, workspace.carbohydrate = given.energy_rule, given.carbohydrate
        workspace.free_foods = sorted(set(given.free_foods))
        _save_vessels(session, who, given.vessels)
        session.flush()
        return _view(session)


def save_person(database: Database, who: SignedIn, given: PersonInput) -> AccountView:
    """Set how figures are shown to the person who is signed in."""
    with database.workspace(who.workspace_id) as session:
        account = session.get_one(tables.Account, who.account_id)
        account.mass_unit = given.mass_unit
        account.temperature_unit = given.temperature_unit
        account.energy_unit = given.energy_unit
    return account_view(database, who)


def preview_switch(database: Database, who: SignedIn, rules: Rules) -> list[SwitchedView]:
    """What counting by `rules` would change: 100 g of each component, and each container of open batches.

    Only what moves is named. Packed batches keep their rules, so none of theirs is.
    """
    with database.workspace(who.workspace_id) as session:
        now = workspace_rules(read_workspace(session))
        components = selectinload(tables.Recipe.components).selectinload(tables.Component.lines)
        recipes = session.scalars(
            select(tables.Recipe)
            .where(tables.Recipe.archived_at.is_(None))
            .options(components)
            .order_by(tables.Recipe.name)
        ).all()
        everything = [component for recipe in recipes for component in recipe.components]
        larders = [Larder.read(session, everything, rules=one) for one in (now, rules)]
        found = []
        for recipe in recipes:
            for component in recipe.components:
                pair = [_per_100g(larder, component) for larder in larders]
                found.append(_switched("component", f"{recipe.name}: {component.name}", pair))
        for batch in session.scalars(plans.batch_query().where(tables.Batch.packed_at.is_(None))):
            found += _containers(session, batch, now, rules)
        return [one for one in found if one is not None]


def _containers(session: Session, batch: tables.Batch, now: Rules, rules: Rules) -> list[SwitchedView | None]:
    """Each class of containers as it is planned now, and as the same grams would count, which moves no food."""
    before = plans.compute(plans.loaded(session, batch, rules=now))
    after = plans.loaded(session, batch, rules=rules)
    held = [after.larder.component(one).per_100g for one in batch.components]
    found = []
    for row, portions in zip(batch.classes, before.plan.portions, strict=True):
        counted = plans.sum_of(held, portions.grams)
        name = f"{batch.name}: {plans.container_name(row)}"
        found.append(_switched("container", name, [portions.amounts, counted]))
    return found


def _per_100g(larder: Larder, component: tables.Component) -> Amounts | None:
    try:
        return larder.component(component).per_100g
    except CoreError:
        return None


def _switched(kind: str, name: str, pair: list[Amounts | None]) -> SwitchedView | None:
    before, after = pair
    if before is None or after is None:
        return None
    if all(abs(one - other) < 0.05 for one, other in zip(before.known, after.known, strict=True)):
        return None
    return SwitchedView(kind=kind, name=name, before=AmountsView.of(before), after=AmountsView.of(after))


def rules_of(energy_rule: str, carbohydrate: str) -> Rules:
    """Rules by their words."""
    return Rules(energy=EnergyRule(energy_rule), carbohydrate=Carbohydrate(carbohydrate))


def _save_vessels(session: Session, who: SignedIn, given: list[VesselInput]) -> None:
    known = {row.id: row for row in session.scalars(select(tables.Vessel))}
    kept = set()
    for one in given:
        row = known.get(one.id) if one.id is not None else None
        if row is None:
            row = tables.Vessel(workspace_id=who.workspace_id, name=one.name, empty_g=one.empty_g)
            session.add(row)
        else:
            kept.add(row.id)
        row.name, row.empty_g, row.capacity_g = one.name.strip(), one.empty_g, one.capacity_g
    for key, row in known.items():
        if key not in kept:
            session.delete(row)


def _view(session: Session) -> SettingsView:
    workspace = read_workspace(session)
    vessels = session.scalars(select(tables.Vessel).order_by(tables.Vessel.name, tables.Vessel.id))
    return SettingsView(
        workspace=workspace.name,
        spoons=workspace.spoons,
        energy_rule=workspace.energy_rule,
        carbohydrate=workspace.carbohydrate,
        free_foods=workspace.free_foods,
        vessels=[
            KitchenVesselView(id=row.id, name=row.name, empty_g=row.empty_g, capacity_g=row.capacity_g)
            for row in vessels
        ],
        free_kinds=dict(FREE_FOODS),
    )
