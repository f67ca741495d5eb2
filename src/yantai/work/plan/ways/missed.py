"""A row that misses its target, and whether a change of its batch mends that."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from yantai.core.cooking.components import Line
from yantai.core.planning import dishes as core
from yantai.core.planning.plan import Question
from yantai.core.portions import Portions, solve
from yantai.core.portions.ways import can_meet
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.batches import plans
from yantai.work.common.who import SignedIn
from yantai.work.pantry.composition import root_id
from yantai.work.pantry.market import Market
from yantai.work.plan.views import WayView

MOST_OF_A_KIND = 2

MOST_TRIED = 6
"""Ways of a kind that are proven by solving the whole batch again: with short pots that takes a while."""


@dataclass(frozen=True, kw_only=True)
class MissedRow:
    """A row that misses its target, with what it was computed from."""

    session: Session
    who: SignedIn
    computed: plans.Computed
    index: int

    @property
    def row(self) -> tables.ContainerClass:
        """The row itself."""
        return self.computed.loaded.batch.classes[self.index]

    @property
    def question(self) -> Question:
        """What the engine was asked of one container of it."""
        return self.computed.plan.questions[self.index]

    @property
    def dish(self) -> core.Dish:
        """The dish of the row, as the core takes it."""
        return self.computed.dishes[str(self.row.dish_id)]

    @property
    def recipe_id(self) -> uuid.UUID:
        """The recipe that the dish came from."""
        return self.computed.loaded.dishes[self.row.dish_id].recipe_id

    @property
    def components(self) -> list[tables.Component]:
        """The components of that dish that are in the plan, in order."""
        known = self.computed.loaded.components
        return [known[uuid.UUID(key)] for key in self.dish.parts]

    def prices(self, foods: Iterable[tables.Food], grams: float) -> dict[uuid.UUID, float | None]:
        """What 100 g of foods cost by their ids, where so much [g] is bought of one; None where no budget asks."""
        found = {food.id: root_id(food) for food in foods}
        if not self.has_budget:
            return dict.fromkeys(found)
        market = Market(self.session, set(found.values()))
        return {key: market.price(root, grams) for key, root in found.items()}

    @property
    def has_budget(self) -> bool:
        """What a container costs decides something."""
        return self.question.container.budget is not None

    @property
    def names(self) -> list[str]:
        """The components of each cell of the question."""
        known = {str(component.id): component.name for component in self.computed.loaded.batch.components}
        return [" and ".join(known[key] for key in keys) for keys in self.question.keys]


def then_words(names: list[str], now: Portions, then: Portions) -> str:
    """Which grams move, in words."""
    told = [
        f"{name} {weight(after)} instead of {weight(before)}"
        for name, before, after in zip(names, now.grams, then.grams, strict=False)
        if abs(before - after) >= 0.5
    ]
    return f"Then {', '.join(told)}." if told else "No other grams move."


def with_part(missed: MissedRow, key: str, part: core.Part) -> dict[str, core.Dish]:
    """The dishes of the batch with a component as this part has it: what is the pot's in every dish that uses it, how
    it is portioned in the row's own."""
    found = {}
    for name, dish in missed.computed.dishes.items():
        known = dish.parts.get(key)
        if name == str(missed.row.dish_id):
            dish = replace(dish, parts={**dish.parts, key: part})
        elif known is not None:
            other = replace(known, component=part.component, role=part.role, density_g_per_ml=part.density_g_per_ml)
            dish = replace(dish, parts={**dish.parts, key: other})
        found[name] = dish
    return found


def is_proven(missed: MissedRow, dishes: Mapping[str, core.Dish], classes: Sequence[core.ContainerClass]) -> bool:
    """With the whole batch solved again this row meets its target, none that did misses it, and no pot is overdrawn
    more than it was. Where there is a budget, what things cost is what they would cost then."""
    batch, before = missed.computed.loaded.batch, missed.computed.plan
    if missed.has_budget:
        parts = [part for dish in dishes.values() for part in dish.parts.values()]
        foods = {line.bought for part in parts for line in part.component.lines if isinstance(line.bought, uuid.UUID)}
        dishes = plans.priced(batch, dishes, classes, Market(missed.session, foods))
    after = plans.solve_batch(batch, dishes, classes)
    kept = all(
        late.met or not early.met
        for row, early, late in zip(batch.classes, before.portions, after.portions, strict=True)
        if row.count
    )
    overdrawn = any(grams > before.lacking_g.get(key, 0.0) + 0.05 for key, grams in after.lacking_g.items())
    return kept and after.portions[missed.index].met and not overdrawn


@dataclass(frozen=True, kw_only=True)
class Recast:
    """A component with one line changed, and the way that it makes."""

    key: str
    part: core.Part
    view: WayView

    @property
    def moved(self) -> float:
        """How much it changes, to order ways by."""
        return self.view.moved


def recast(missed: MissedRow, component: tables.Component, part: core.Part, index: int, line: Line) -> Portions | None:
    """The container of the row with one line of a component changed; None where it still misses."""
    question = missed.question
    lines = (*part.component.lines[:index], line, *part.component.lines[index + 1 :])
    changed = replace(part, component=replace(part.component, lines=lines))
    cell = question.keys.index((str(component.id),))
    cells = list(question.container.cells)
    made = changed.portioned
    cells[cell] = replace(cells[cell], per_100g=made.per_100g, price=made.price, has_unpriced=made.has_unpriced)
    container = replace(question.container, cells=tuple(cells))
    if not can_meet(container):
        return None
    tried = solve(container)
    return tried if tried.met else None


def keeps_the_others(missed: MissedRow, way: Recast) -> bool:
    """No container of the batch that met its target misses it then."""
    return is_proven(missed, with_part(missed, way.key, way.part), missed.computed.classes)
