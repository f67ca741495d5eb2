"""From rows to core values: the one place where foods, lines and components are turned."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Protocol

from sqlalchemy import or_, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session, selectinload

from yantai.core.cautions import core_temperature
from yantai.core.components import UNCOOKED, Component, Line, LineRole
from yantai.core.energy import Carbohydrate, EnergyRule, Rules
from yantai.core.errors import CoreError
from yantai.core.exclusions import Contents, Named, Reason, reasons
from yantai.core.free_foods import is_free
from yantai.core.history import learn
from yantai.core.liquids import Lid, boil_off
from yantai.core.nutrients import Amounts, Stated
from yantai.core.units import Spoons
from yantai.core.yield_choice import Cookable, Factors, choose
from yantai.core.yields import READY, UNCHANGED, YieldRange, YieldSource, around_balance
from yantai.store import tables
from yantai.work.safety import core_celsius
from yantai.work.views import AmountsView, EdibleView, FoodBrief

WATER_REFERENCE = "water"
_SOURCES = {"nutrient balance": YieldSource.BALANCE, "kitchen range": YieldSource.KITCHEN}


class LineLike(Protocol):
    """A line as it is stored or as it was sent."""

    @property
    def food_id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def source_id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def purchased_g(self) -> float: ...  # noqa: D102
    @property
    def refuse_share(self) -> float: ...  # noqa: D102
    @property
    def refuse_after(self) -> bool: ...  # noqa: D102
    @property
    def retained_share(self) -> float: ...  # noqa: D102
    @property
    def yield_factor(self) -> float | None: ...  # noqa: D102
    @property
    def counted(self) -> bool: ...  # noqa: D102
    @property
    def scales(self) -> bool: ...  # noqa: D102
    @property
    def unfolded(self) -> bool: ...  # noqa: D102
    @property
    def text(self) -> str: ...  # noqa: D102
    @property
    def weighed_state(self) -> str: ...  # noqa: D102
    @property
    def dismissed(self) -> dict[str, str]: ...  # noqa: D102


class ComponentLike(Protocol):
    """A component as it is stored or as it was sent."""

    @property
    def id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def name(self) -> str: ...  # noqa: D102
    @property
    def method(self) -> str: ...  # noqa: D102
    @property
    def yield_low(self) -> float | None: ...  # noqa: D102
    @property
    def yield_expected(self) -> float | None: ...  # noqa: D102
    @property
    def yield_high(self) -> float | None: ...  # noqa: D102
    @property
    def poured_fat_g(self) -> float: ...  # noqa: D102
    @property
    def pieces(self) -> int | None: ...  # noqa: D102
    @property
    def lid(self) -> str: ...  # noqa: D102
    @property
    def cook_min(self) -> float | None: ...  # noqa: D102
    @property
    def dismissed(self) -> dict[str, str]: ...  # noqa: D102
    @property
    def lines(self) -> Sequence[LineLike]: ...  # noqa: D102


def read_workspace(session: Session) -> tables.Workspace:
    """The row of the workspace that this transaction belongs to."""
    return session.scalars(select(tables.Workspace)).one()


def workspace_rules(workspace: tables.Workspace) -> Rules:
    """What the workspace counts by."""
    return Rules(energy=EnergyRule(workspace.energy_rule), carbohydrate=Carbohydrate(workspace.carbohydrate))


def workspace_spoons(workspace: tables.Workspace) -> Spoons:
    """Whose cups and spoons the workspace means."""
    return Spoons(workspace.spoons)


def food_stated(food: tables.Food) -> Stated:
    """What the food's source states of 100 g edible portion."""
    return Stated(
        protein_g=food.protein_g,
        carbohydrate_g=food.carbohydrate_g,
        fat_g=food.fat_g,
        fibre_g=food.fibre_g,
        sugars_g=food.sugars_g,
        saturated_g=food.saturated_g,
        sodium_mg=food.sodium_mg,
        alcohol_g=food.alcohol_g,
        polyols_g=food.polyols_g,
        stated_kcal=food.stated_kcal,
        carbohydrate=Carbohydrate(food.carbohydrate),
        slack={name: (below, above) for name, (below, above) in food.slack.items()} or None,
    )


def food_composition(food: tables.Food, rules: Rules) -> Amounts:
    """Amounts per 100 g edible portion as the workspace counts them."""
    return food_stated(food).amounts(rules)


def food_brief(food: tables.Food, rules: Rules) -> FoodBrief:
    """The food as lists show it."""
    return FoodBrief(
        id=food.id,
        name=food.name,
        group=food.food_group,
        state=food.state,
        method=food.method,
        per_100g=AmountsView.of(food_composition(food, rules)),
        allergens=food.allergens,
        weak=food.weak,
        own=food.workspace_id is not None,
        source=food.source,
    )


def root_id(food: tables.Food) -> uuid.UUID:
    """The food by which yields and history are kept: older figures of an own food share those of the current one."""
    return food.superseded_by or food.id


def stored_yield(row: tables.YieldFactor) -> YieldRange:
    """The core value of a stored factor."""
    source = YieldSource.GROUP if row.food_id is None else _SOURCES.get(row.basis, YieldSource.PUBLISHED)
    return YieldRange(low=row.low, expected=row.expected, high=row.high, source=source, note=row.note)


@dataclass(frozen=True, kw_only=True)
class MeasuredYield:
    """A yield off the scale that counts in the history."""

    yield_factor: float
    food_id: uuid.UUID | None
    method: str
    recipe_component_id: uuid.UUID | None


def read_measured(
    session: Session,
    food_ids: Collection[uuid.UUID],
    component_ids: Collection[uuid.UUID],
    *,
    except_batch: uuid.UUID | None = None,
) -> list[MeasuredYield]:
    """The counting weighing of each pan of these foods or recipe components; withdrawn ones are left out.

    What a batch expects comes from other batches: its own weighings (`except_batch`) do not confirm themselves.
    """
    weighing = tables.Weighing
    of_these = or_(weighing.food_id.in_(food_ids), weighing.recipe_component_id.in_(component_ids))
    pans = select(weighing.component_id).where(of_these)
    if except_batch is not None:
        pans = pans.where(weighing.batch_id != except_batch)
    newest = (
        select(weighing)
        .where(weighing.component_id.in_(pans))
        .ext(distinct_on(weighing.component_id))
        .order_by(weighing.component_id, weighing.number.desc())
    )
    return [
        MeasuredYield(
            yield_factor=row.yield_factor,
            food_id=row.food_id,
            method=row.method,
            recipe_component_id=row.recipe_component_id,
        )
        for row in session.scalars(newest)
        if row.cooked_g is not None and row.yield_factor is not None
    ]


@dataclass(frozen=True, kw_only=True)
class Larder:
    """The foods of some components with all that is known of their yields, read in one go.

    `sources` are the components that lines of these are made of; what was sent wins over what is stored.
    """

    foods: Mapping[uuid.UUID, tables.Food]
    yields: Mapping[uuid.UUID | str, Mapping[str, YieldRange]]
    balances: Mapping[uuid.UUID, Mapping[str, YieldRange]]
    edible: Mapping[uuid.UUID, list[EdibleView]]
    rules: Rules
    free_foods: Collection[str] = ()
    sources: Mapping[uuid.UUID, ComponentLike] = field(default_factory=dict)
    measured: Mapping[tuple[uuid.UUID, str], list[float]] = field(default_factory=dict)
    measured_components: Mapping[uuid.UUID, list[float]] = field(default_factory=dict)

    @classmethod
    def read(
        cls,
        session: Session,
        components: Sequence[ComponentLike],
        *,
        rules: Rules | None = None,
        except_batch: uuid.UUID | None = None,
    ) -> Larder:
        """The larder of these components; ids of no visible food or component are simply absent.

        `rules` are those of the workspace unless a packed batch keeps its own. Weighings of `except_batch` are left
        out of what is known.
        """
        workspace = read_workspace(session)
        sources = _read_sources(session, components)
        everything = [*components, *sources.values()]
        food_ids = {line.food_id for component in everything for line in component.lines if line.food_id}
        foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(food_ids)))}
        roots = {root_id(food) for food in foods.values()}
        factor, pair, edible = tables.YieldFactor, tables.RawCookedPair, tables.EdiblePortion
        found = session.scalars(select(factor).where(or_(factor.food_id.in_(roots), factor.food_id.is_(None))))
        yields: dict[uuid.UUID | str, dict[str, YieldRange]] = defaultdict(dict)
        for row in found:
            yields[row.food_id or row.food_group or ""][row.method] = stored_yield(row)
        pairs = session.scalars(select(pair).where(pair.raw_food_id.in_(roots), pair.balance_yield.is_not(None)))
        balances: dict[uuid.UUID, dict[str, YieldRange]] = defaultdict(dict)
        for balanced in pairs:
            if balanced.balance_yield:
                balances[balanced.raw_food_id][balanced.method] = around_balance(balanced.balance_yield)
        portions: dict[uuid.UUID, list[EdibleView]] = {}
        for portion in session.scalars(select(edible).where(edible.food_id.in_(roots))):
            view = EdibleView(refuse_share=portion.refuse_share, note=portion.note, source=portion.source)
            portions.setdefault(portion.food_id, []).append(view)
        by_food: dict[tuple[uuid.UUID, str], list[float]] = defaultdict(list)
        by_component: dict[uuid.UUID, list[float]] = defaultdict(list)
        keys = {key for component in everything if (key := history_key(component)) is not None}
        for one in read_measured(session, roots, keys, except_batch=except_batch):
            if one.food_id is not None:
                by_food[one.food_id, one.method].append(one.yield_factor)
            if one.recipe_component_id is not None:
                by_component[one.recipe_component_id].append(one.yield_factor)
        return cls(
            foods=foods,
            yields=yields,
            balances=balances,
            edible=portions,
            rules=rules or workspace_rules(workspace),
            free_foods=workspace.free_foods,
            sources=sources,
            measured=by_food,
            measured_components=by_component,
        )

    def component(self, given: ComponentLike, *, measured_g: float | None = None) -> Component:
        """The core component of stored or sent lines.

        Raises:
            CoreError: a value is out of range, nothing is in it, or it is made of itself.
        """
        return self._component(given, measured_g=measured_g, inside=())

    def composition(self, line: LineLike) -> Amounts:
        """Amounts per 100 g of what a line holds: a food, or another component as it comes out of its pan."""
        if line.source_id is not None:
            return self._source(line.source_id, ()).per_100g
        return food_composition(self._food(line), self.rules)

    def expected_yields(self, component: ComponentLike) -> list[YieldRange]:
        """The yield of each line of a component, by the best source there is; of liquid, by the balance of its pot."""
        try:
            made = self._component(component, measured_g=None, inside=())
        except CoreError:
            return [self.expected_yield(line, component) for line in component.lines]
        return list(replace(made, set_yield=None).line_yields)

    def expected_yield(self, line: LineLike, component: ComponentLike) -> YieldRange:
        """The yield of one line by itself, by the best source there is."""
        if line.source_id is not None:
            return _of_source(line, component.method)
        return self._line_yield(line, component.method)

    def published_yield(self, line: LineLike, component: ComponentLike) -> YieldRange:
        """The yield of one line without the coach's own and without what this kitchen measured."""
        if line.source_id is not None:
            return _of_source(line, component.method)
        return self.prior(self._food(line), component.method)

    @classmethod
    def of_foods(cls, session: Session, foods: Sequence[tables.Food]) -> Larder:
        """The larder of single foods, for what is known of their yields."""
        return cls.read(session, [_Alone(food) for food in foods])

    def prior(self, food: tables.Food, method: str) -> YieldRange:
        """The yield of a food by method before anything was measured here."""
        root = root_id(food)
        factors = Factors(
            own=self.yields.get(root, {}),
            balance=self.balances.get(root, {}),
            group=self.yields.get(food.food_group, {}),
        )
        return choose(cookable(food), method, factors)

    def line_name(self, line: LineLike) -> str:
        """The name of what a line holds."""
        if line.source_id is not None:
            source = self.sources.get(line.source_id)
            return source.name if source is not None else "a component that was removed"
        return self._food(line).name

    def line_state(self, line: LineLike) -> str:
        """The state of what a line holds; another component is cooked or mixed already."""
        return "made" if line.source_id is not None else self._food(line).state

    def is_counted(self, line: LineLike) -> bool:
        """False where the line, or the workspace's rule for free foods, leaves it out."""
        if line.source_id is not None:
            return line.counted
        food = self._food(line)
        return line.counted and not is_free(food.name, food.food_group, self.free_foods)

    def foods_of(self, lines: Iterable[LineLike]) -> list[tables.Food]:
        """The foods of these lines, those of components they are made of too; each once."""
        found: dict[uuid.UUID, tables.Food] = {}
        self._collect(lines, found, set())
        return list(found.values())

    def allergens(self, lines: Iterable[LineLike]) -> list[str]:
        """The allergens of all foods of these lines, sorted."""
        return sorted({key for food in self.foods_of(lines) for key in food.allergens})

    def caution(self, lines: Iterable[LineLike], method: str) -> str | None:
        """The core temperature to reach, when something raw that needs one is cooked."""
        if method == UNCOOKED:
            return None
        foods = ((food.name, food.food_group, food.state) for food in self.foods_of(lines))
        return core_temperature(foods, core_celsius())

    def main_food(self, given: ComponentLike) -> tables.Food | None:
        """The one food that a pan's yield is about: at least nine tenths of what counts in it, else None."""
        weights: dict[uuid.UUID, float] = defaultdict(float)
        for line in given.lines:
            if line.source_id is not None:
                return None
            food = self._food(line)
            if line_role(food) is LineRole.FOOD:
                weights[food.id] += line.purchased_g * (1 - line.refuse_share)
        whole = sum(weights.values())
        return next((self.foods[key] for key, weight in weights.items() if whole and weight >= 0.9 * whole), None)

    def _component(self, given: ComponentLike, *, measured_g: float | None, inside: tuple[uuid.UUID, ...]) -> Component:
        path = (*inside, given.id) if given.id is not None else inside
        if len(set(path)) < len(path):
            names = " → ".join(self.sources[one].name if one in self.sources else given.name for one in path)
            raise CoreError(f"“{given.name}” is made of itself: {names}. Take one of these lines out", field="lines")
        own = _coach_yield(given)
        history = self.measured_components.get(history_key(given) or uuid.UUID(int=0), ())
        lines = tuple(self._line(line, given, inside=path, measured=not history) for line in given.lines)
        made = Component(
            name=given.name,
            lines=lines,
            measured_g=measured_g,
            cooked=given.method != UNCOOKED,
            boils_off=None
            if _has_own_water(given, lines)
            else boil_off(lines, given.method, lid=Lid(given.lid), minutes=given.cook_min),
            set_yield=own,
            poured_fat_g=given.poured_fat_g,
            pieces=given.pieces,
        )
        if own is None and history and made.cooked:
            # The pan's own history stands in for its lines; the lines without measurements are the prior.
            prior = _pan_yield(made)
            return replace(made, set_yield=learn(prior, history).estimate)
        return made

    def _line(
        self,
        given: LineLike,
        of: ComponentLike,
        *,
        inside: tuple[uuid.UUID, ...],
        measured: bool,
    ) -> Line:
        if given.source_id is not None:
            composition = self._source(given.source_id, inside).per_100g
            role, wet, yield_range = LineRole.FOOD, False, _of_source(given, of.method)
        else:
            food = self._food(given)
            composition, role = food_composition(food, self.rules), line_role(food)
            wet = given.yield_factor is None and cookable(food).is_wet
            yield_range = self._line_yield(given, of.method, measured=measured)
        return Line(
            name=self.line_name(given),
            purchased_g=given.purchased_g,
            refuse_share=given.refuse_share,
            refuse_after=given.refuse_after,
            retained_share=given.retained_share,
            counted=self.is_counted(given),
            scales=given.scales,
            composition=composition,
            role=role,
            wet=wet,
            yield_range=yield_range,
        )

    def _source(self, source_id: uuid.UUID, inside: tuple[uuid.UUID, ...]) -> Component:
        source = self.sources.get(source_id)
        if source is None:
            raise CoreError("a component that this one is made of was removed; take its line out", field="lines")
        return self._component(source, measured_g=None, inside=inside)

    def _food(self, line: LineLike) -> tables.Food:
        assert line.food_id is not None
        return self.foods[line.food_id]

    def _collect(self, lines: Iterable[LineLike], found: dict[uuid.UUID, tables.Food], seen: set[uuid.UUID]) -> None:
        for line in lines:
            if line.source_id is not None:
                if line.source_id in self.sources and line.source_id not in seen:
                    seen.add(line.source_id)
                    self._collect(self.sources[line.source_id].lines, found, seen)
            elif line.food_id is not None and line.food_id in self.foods:
                found[line.food_id] = self.foods[line.food_id]

    def _line_yield(self, line: LineLike, method: str, *, measured: bool = True) -> YieldRange:
        own = line.yield_factor
        if own is not None:
            source = YieldSource.WITHIN if line.unfolded else YieldSource.COACH
            return YieldRange(low=own, expected=own, high=own, source=source)
        food = self._food(line)
        history = self.measured.get((root_id(food), method), ()) if measured else ()
        return learn(self.prior(food, method), history).estimate


@dataclass(frozen=True)
class _AloneLine:
    """A line of nothing but a food."""

    food_id: uuid.UUID
    source_id: None = None
    purchased_g: float = 0.0
    refuse_share: float = 0.0
    refuse_after: bool = False
    retained_share: float = 1.0
    yield_factor: None = None
    counted: bool = True
    scales: bool = True
    unfolded: bool = False
    text: str = ""
    weighed_state: str = ""
    dismissed: dict[str, str] = field(default_factory=dict)


class _Alone:
    """A component of one food, to read a larder for it."""

    id = None
    name = ""
    method = UNCOOKED
    yield_low = yield_expected = yield_high = None
    poured_fat_g = 0.0
    pieces = None
    lid = ""
    cook_min = None

    def __init__(self, food: tables.Food) -> None:
        self.lines = [_AloneLine(food.id)]
        self.dismissed: dict[str, str] = {}


def pan_prior(larder: Larder, given: ComponentLike) -> YieldRange:
    """The yield of a whole pan by its lines, before any of it was measured here.

    Raises:
        CoreError: the component makes no sense.
    """
    return _pan_yield(replace(larder, measured={}, measured_components={}).component(given))


def history_key(component: ComponentLike) -> uuid.UUID | None:
    """The recipe component whose history a component shares: its own, or the one it was copied from."""
    copied: uuid.UUID | None = getattr(component, "recipe_component_id", None)
    return copied or component.id


def cookable(food: tables.Food) -> Cookable:
    """A food as the choice of its yield sees it."""
    return Cookable(
        name=food.name,
        group=food.food_group,
        state=food.state,
        solids_g=(food.protein_g or 0.0) + (food.fat_g or 0.0) + (food.carbohydrate_g or 0.0),
        is_water=food.reference == WATER_REFERENCE,
    )


def line_role(food: tables.Food) -> LineRole:
    """How a food counts in the yield."""
    return cookable(food).role


def _has_own_water(given: ComponentLike, lines: Sequence[Line]) -> bool:
    """The coach gave a yield for the water of this component, so nothing is left to balance."""
    return any(line.is_water and one.yield_factor is not None for one, line in zip(given.lines, lines, strict=True))


def _coach_yield(given: ComponentLike) -> YieldRange | None:
    expected = given.yield_expected
    if expected is None:
        return None
    low = expected if given.yield_low is None else given.yield_low
    high = expected if given.yield_high is None else given.yield_high
    return YieldRange(low=low, expected=expected, high=high, source=YieldSource.COACH)


def _pan_yield(made: Component) -> YieldRange:
    """The yield of a whole pan that its lines lead to."""
    basis = made.basis_g
    known = made.expected_yield
    return YieldRange(
        low=made.expected_low_g / basis,
        expected=made.expected_g / basis,
        high=made.expected_high_g / basis,
        source=known.source if known is not None else YieldSource.LINES,
    )


def _of_source(line: LineLike, method: str) -> YieldRange:
    own = line.yield_factor
    if own is not None:
        return YieldRange(low=own, expected=own, high=own, source=YieldSource.COACH)
    return UNCHANGED if method == UNCOOKED else READY


def _read_sources(session: Session, components: Sequence[ComponentLike]) -> dict[uuid.UUID, ComponentLike]:
    """All components that lines lead to, however deep; those at hand are not read again."""
    known: dict[uuid.UUID, ComponentLike] = {one.id: one for one in components if one.id is not None}
    wanted = _source_ids(components) - set(known)
    while wanted:
        query = select(tables.Component).where(tables.Component.id.in_(wanted))
        query = query.where(tables.Component.recipe_id.is_not(None))
        found = session.scalars(query.options(selectinload(tables.Component.lines))).all()
        known |= {one.id: one for one in found}
        wanted = _source_ids(found) - set(known)
    used = _source_ids([*components, *known.values()])
    return {key: one for key, one in known.items() if key in used}


def _source_ids(components: Sequence[ComponentLike]) -> set[uuid.UUID]:
    return {line.source_id for component in components for line in component.lines if line.source_id is not None}


def named(food: tables.Food) -> Named:
    """A food as words that keep something out see it."""
    return Named(
        names=(food.search_text,),
        allergens=frozenset(food.allergens),
        group=food.food_group,
        tags=frozenset(food.diet_tags),
    )


def contents(name: str, foods: Sequence[tables.Food]) -> Contents:
    """A component as words that keep something out see it."""
    return Contents(name=name, foods=tuple((food.name, named(food)) for food in foods))


def kept_out(client: tables.Client, dish: str, components: Mapping[str, Contents]) -> dict[str, tuple[Reason, ...]]:
    """Why each component of a dish stays out of a client's containers, by its key."""
    if not client.allergens and not client.exclusions:
        return dict.fromkeys(components, ())
    return reasons(dish, components, avoided=client.allergens, words=client.exclusions)


def kept_from(client: tables.Client, food: tables.Food) -> list[str]:
    """Why one food stays out of a client's containers: allergens, then words; [] if it does not."""
    return [reason.word for reason in kept_out(client, "", {"": contents("", [food])})[""]]
