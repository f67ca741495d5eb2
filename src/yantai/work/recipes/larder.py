"""The foods of some components with all that is known of their yields, read in one go."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from sqlalchemy import or_, select
from sqlalchemy.orm import Session, selectinload

from yantai.core.cooking.cautions import core_temperature
from yantai.core.cooking.components import UNCOOKED, Component
from yantai.core.cooking.cookbook import Cookbook, KnownFood, UnfoldedLine, WrittenComponent
from yantai.core.cooking.yield_choice import Factors, choose
from yantai.core.cooking.yields import YieldRange, around_balance
from yantai.core.foods.energy import Rules
from yantai.core.foods.free_foods import is_free
from yantai.core.foods.nutrients import Amounts
from yantai.store import tables
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import cookable, food_composition, root_id, stored_yield
from yantai.work.pantry.safety import core_celsius
from yantai.work.pantry.views import EdibleView
from yantai.work.recipes.measured import read_measured
from yantai.work.recipes.written import ComponentLike, LineLike, history_key, written_component, written_line


@dataclass(frozen=True, kw_only=True)
class Larder:
    """Rows of foods, and the core's book of them.

    `sources` are the components that lines of these are made of; what was sent wins over what is stored.
    """

    foods: Mapping[uuid.UUID, tables.Food]
    edible: Mapping[uuid.UUID, list[EdibleView]]
    rules: Rules
    book: Cookbook
    sources: Mapping[uuid.UUID, ComponentLike] = field(default_factory=dict)

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
        sources = _read_sources(session, components)
        everything = [*components, *sources.values()]
        food_ids = {line.food_id for component in everything for line in component.lines if line.food_id}
        histories = {key for component in everything if (key := history_key(component)) is not None}
        return cls._read(session, food_ids, histories, sources, rules, except_batch)

    @classmethod
    def of_foods(cls, session: Session, food_ids: Collection[uuid.UUID]) -> Larder:
        """The larder of single foods, for what is known of their yields."""
        return cls._read(session, food_ids, (), {}, None, None)

    @classmethod
    def _read(
        cls,
        session: Session,
        food_ids: Collection[uuid.UUID],
        histories: Collection[uuid.UUID],
        sources: Mapping[uuid.UUID, ComponentLike],
        rules: Rules | None,
        except_batch: uuid.UUID | None,
    ) -> Larder:
        workspace = read_workspace(session)
        rules = rules or workspace_rules(workspace)
        foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(food_ids)))}
        roots = {root_id(food) for food in foods.values()}
        by_food: dict[uuid.UUID, dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
        by_component: dict[Hashable, list[float]] = defaultdict(list)
        for one in read_measured(session, roots, histories, except_batch=except_batch):
            if one.food_id is not None:
                by_food[one.food_id][one.method].append(one.yield_factor)
            if one.recipe_component_id is not None:
                by_component[one.recipe_component_id].append(one.yield_factor)
        factors = _read_factors(session, foods.values())
        known: dict[Hashable, KnownFood] = {
            food.id: KnownFood(
                cookable=cookable(food),
                composition=food_composition(food, rules),
                factors=factors[food.id],
                measured=by_food.get(root_id(food), {}),
                bought=root_id(food),
                counted=not is_free(food.name, food.food_group, workspace.free_foods),
            )
            for food in foods.values()
        }
        written: dict[Hashable, WrittenComponent] = {key: written_component(one) for key, one in sources.items()}
        return cls(
            foods=foods,
            edible=_read_edible(session, roots),
            rules=rules,
            book=Cookbook(foods=known, components=written, measured=by_component),
            sources=sources,
        )

    def component(self, component: ComponentLike, *, measured_g: float | None = None) -> Component:
        """The core component of stored or sent lines.

        Raises:
            CoreError: a value is out of range, nothing is in it, or it is made of itself.
        """
        return self.book.make(written_component(component), measured_g=measured_g)

    def prior(self, component: ComponentLike) -> YieldRange:
        """The yield of a whole component by its lines, before any of it was measured here.

        Raises:
            CoreError: the component makes no sense.
        """
        return self.book.prior(written_component(component))

    def food_prior(self, food: tables.Food, method: str) -> YieldRange:
        """The yield of a food by a method before anything was measured here."""
        known = self.book.foods[food.id]
        return choose(known.cookable, method, known.factors)

    def composition(self, line: LineLike) -> Amounts:
        """Amounts per 100 g of what a line holds: a food, or another component as it comes out of its pot."""
        return self.book.composition(written_line(line))

    def expected_yields(self, component: ComponentLike) -> list[YieldRange]:
        """The yield of each line of a component, by the best source there is; of liquid, by the balance of its pot."""
        return self.book.expected_yields(written_component(component))

    def expected_yield(self, line: LineLike, component: ComponentLike) -> YieldRange:
        """The yield of one line by itself, by the best source there is."""
        return self.book.expected_yield(written_line(line), component.method)

    def published_yield(self, line: LineLike, component: ComponentLike) -> YieldRange:
        """The yield of one line without the coach's own and without what this kitchen measured."""
        return self.book.published_yield(written_line(line), component.method)

    def is_counted(self, line: LineLike) -> bool:
        """False where the line, or the workspace's rule for free foods, leaves it out."""
        return self.book.is_counted(written_line(line))

    def unfold(self, component: ComponentLike) -> list[tuple[LineLike, UnfoldedLine]]:
        """The lines of a component, unfolded, each with what it was written as.

        Raises:
            CoreError: a component makes no sense.
        """
        written = written_component(component)
        return [
            (self._lines_of(component, unfolded.owner)[unfolded.index], unfolded)
            for unfolded in self.book.unfold(written)
        ]

    def poured_within(self, component: ComponentLike) -> float:
        """Fat [g] poured off the components that this one is made of, at the size they are used in."""
        return self.book.poured_within(written_component(component))

    def _lines_of(self, component: ComponentLike, owner: WrittenComponent) -> Sequence[LineLike]:
        if owner.key == component.id:
            return component.lines
        assert isinstance(owner.key, uuid.UUID)
        return self.sources[owner.key].lines

    def line_name(self, line: LineLike) -> str:
        """The name of what a line holds."""
        if line.source_id is not None:
            source = self.sources.get(line.source_id)
            return source.name if source is not None else "a component that was removed"
        return self._food(line).name

    def line_state(self, line: LineLike) -> str:
        """The state of what a line holds; another component is cooked or mixed already."""
        return "made" if line.source_id is not None else self._food(line).state

    def foods_of(self, lines: Iterable[LineLike]) -> list[tables.Food]:
        """The foods of these lines, those of components they are made of too; each once."""
        return [self.foods[key] for key in self.book.foods_of(map(written_line, lines)) if isinstance(key, uuid.UUID)]

    def allergens(self, lines: Iterable[LineLike]) -> list[str]:
        """The allergens of all foods of these lines, sorted."""
        return sorted({key for food in self.foods_of(lines) for key in food.allergens})

    def caution(self, lines: Iterable[LineLike], method: str) -> str | None:
        """The core temperature to reach, when something raw that needs one is cooked."""
        if method == UNCOOKED:
            return None
        foods = ((food.name, food.food_group, food.state) for food in self.foods_of(lines))
        return core_temperature(foods, core_celsius())

    def main_food(self, component: ComponentLike) -> tables.Food | None:
        """The one food that a component's yield is about, else None."""
        key = self.book.main_food(written_component(component))
        return self.foods[key] if isinstance(key, uuid.UUID) else None

    def _food(self, line: LineLike) -> tables.Food:
        assert line.food_id is not None
        return self.foods[line.food_id]


def _read_factors(session: Session, foods: Collection[tables.Food]) -> dict[uuid.UUID, Factors]:
    """What is published of the yields of foods, by food."""
    roots = {root_id(food) for food in foods}
    factor, pair = tables.YieldFactor, tables.RawCookedPair
    found = session.scalars(select(factor).where(or_(factor.food_id.in_(roots), factor.food_id.is_(None))))
    yields: dict[uuid.UUID | str, dict[str, YieldRange]] = defaultdict(dict)
    for row in found:
        yields[row.food_id or row.food_group or ""][row.method] = stored_yield(row)
    balances: dict[uuid.UUID, dict[str, YieldRange]] = defaultdict(dict)
    for cooked in session.scalars(select(pair).where(pair.raw_food_id.in_(roots), pair.balance_yield.is_not(None))):
        if cooked.balance_yield:
            balances[cooked.raw_food_id][cooked.method] = around_balance(cooked.balance_yield)
    return {
        food.id: Factors(
            own=yields.get(root_id(food), {}),
            balance=balances.get(root_id(food), {}),
            group=yields.get(food.food_group, {}),
        )
        for food in foods
    }


def _read_edible(session: Session, roots: Collection[uuid.UUID]) -> dict[uuid.UUID, list[EdibleView]]:
    """How much of foods is published as edible, by the first version of each food."""
    portion = tables.EdiblePortion
    found: dict[uuid.UUID, list[EdibleView]] = defaultdict(list)
    for row in session.scalars(select(portion).where(portion.food_id.in_(roots))):
        found[row.food_id].append(EdibleView(refuse_share=row.refuse_share, note=row.note, source=row.source))
    return found


def _read_sources(session: Session, components: Sequence[ComponentLike]) -> dict[uuid.UUID, ComponentLike]:
    """All components that lines lead to, however deep; those at hand are not read again."""
    known: dict[uuid.UUID, ComponentLike] = {
        component.id: component for component in components if component.id is not None
    }
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
