"""Mistakes beside the lines of a recipe: rows to the core's facts, findings to views."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from yantai.core.cooking import mistakes
from yantai.core.cooking.components import Component
from yantai.core.cooking.yields import YieldRange
from yantai.core.foods.intake import weigh
from yantai.core.foods.nutrients import Nutrient
from yantai.core.quantities import Disagreement, Measure, read_line
from yantai.core.quantities.units import Spoons
from yantai.store import tables
from yantai.work.common.views import AmountsView
from yantai.work.common.workspace import read_workspace, workspace_spoons
from yantai.work.pantry.composition import audit_words, food_composition, line_role
from yantai.work.pantry.measures import read_measures
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.views import BooksView, FindingView, MendView
from yantai.work.recipes.written import ComponentLike, LineLike


@dataclass(frozen=True, kw_only=True)
class Entry:
    """The same food in another state, by the method that leads there."""

    food: tables.Food
    method: str


@dataclass(frozen=True, kw_only=True)
class Bookshelf:
    """What is needed beside the larder to look for mistakes: other states of foods, and their measures."""

    cooked: Mapping[uuid.UUID, Sequence[Entry]] = field(default_factory=dict)
    raw: Mapping[uuid.UUID, Sequence[Entry]] = field(default_factory=dict)
    measures: Mapping[uuid.UUID, Sequence[Measure]] = field(default_factory=dict)
    spoons: Spoons = Spoons.METRIC

    @classmethod
    def read(cls, session: Session, larder: Larder) -> Bookshelf:
        """The shelf for all foods of a larder."""
        ids = set(larder.foods)
        pair = tables.RawCookedPair
        pairs = session.scalars(select(pair).where(or_(pair.raw_food_id.in_(ids), pair.cooked_food_id.in_(ids)))).all()
        others = {row.raw_food_id for row in pairs} | {row.cooked_food_id for row in pairs}
        foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(others)))}
        cooked: dict[uuid.UUID, list[Entry]] = {}
        raw: dict[uuid.UUID, list[Entry]] = {}
        for row in pairs:
            cooked.setdefault(row.raw_food_id, []).append(Entry(food=foods[row.cooked_food_id], method=row.method))
            raw.setdefault(row.cooked_food_id, []).append(Entry(food=foods[row.raw_food_id], method=row.method))
        spoons = workspace_spoons(read_workspace(session))
        return cls(cooked=cooked, raw=raw, measures=read_measures(session, ids, spoons), spoons=spoons)

    def cooked_entry(self, food_id: uuid.UUID, method: str) -> tables.Food | None:
        """The table's cooked entry of a raw food by this method, None where it has none."""
        return next((entry.food for entry in self.cooked.get(food_id, ()) if entry.method == method), None)


def component_findings(
    larder: Larder, shelf: Bookshelf, component: ComponentLike, role: str, made: Component | None
) -> list[FindingView]:
    """What looks wrong in a component, with the reasons for which some was put aside."""
    pan = mistakes.Pan(
        name=component.name,
        role=role,
        method=component.method,
        ingredients=tuple(_ingredient(larder, shelf, line, component) for line in component.lines),
        set_yield=component.yield_expected,
        expected_yield=_expected(larder, component, made),
    )
    found = []
    for finding in mistakes.findings(pan):
        of = component.dismissed if finding.line is None else component.lines[finding.line].dismissed
        found.append(
            FindingView(
                code=finding.code,
                words=finding.words,
                line=finding.line,
                mends=[MendView(words=mend.words, changes=dict(mend.changes)) for mend in finding.mends],
                assumption=finding.assumption,
                dismissed=of.get(finding.code),
            )
        )
    return found


def books(larder: Larder, shelf: Bookshelf, line: LineLike, of: ComponentLike) -> BooksView | None:
    """100 g cooked by the raw book and by the table's cooked entry, where the pair exists."""
    if line.food_id is None:
        return None
    cooked = shelf.cooked_entry(line.food_id, of.method)
    factor = larder.expected_yield(line, of).expected
    if cooked is None or not factor:
        return None
    by_raw = larder.composition(line).times(1 / factor)
    by_cooked = food_composition(cooked, larder.rules)
    kcal = max(by_raw[Nutrient.KCAL], by_cooked[Nutrient.KCAL])
    return BooksView(
        cooked_food=f"{cooked.name}, {cooked.method or cooked.state}",
        by_raw=AmountsView.of(by_raw),
        by_cooked=AmountsView.of(by_cooked),
        apart=abs(by_raw[Nutrient.KCAL] - by_cooked[Nutrient.KCAL]) / kcal if kcal else 0.0,
    )


def _expected(larder: Larder, component: ComponentLike, made: Component | None) -> YieldRange | None:
    """The yield of the whole pan without the coach's own, when one food says it."""
    main = larder.main_food(component)
    if main is None or made is None:
        return None
    line = next(line for line in component.lines if line.food_id == main.id)
    return larder.published_yield(line, component)


def _ingredient(larder: Larder, shelf: Bookshelf, line: LineLike, of: ComponentLike) -> mistakes.Ingredient:
    if line.food_id is None:
        return mistakes.Ingredient(
            name=larder.line_name(line),
            group="",
            state="made",
            purchased_g=line.purchased_g,
            retained_share=line.retained_share,
            counted=line.counted,
            text=line.text,
        )
    food = larder.foods[line.food_id]
    stated_g, differ = _stated(line, shelf)
    grams = max(line.purchased_g * (1 - min(max(line.refuse_share, 0), 1)) * max(line.retained_share, 0), 0)
    held = food_composition(food, larder.rules).in_grams(grams)
    low, high = held.interval(Nutrient.KCAL)
    return mistakes.Ingredient(
        name=food.name,
        group=food.food_group,
        state=food.state,
        purchased_g=line.purchased_g,
        retained_share=line.retained_share,
        counted=larder.is_counted(line),
        role=line_role(food),
        weighed_state=line.weighed_state,
        text=line.text,
        stated_g=stated_g,
        disagreements=differ,
        yield_factor=line.yield_factor,
        expected=larder.published_yield(line, of),
        kcal=held[Nutrient.KCAL],
        kcal_slack=0.0 if food.label is None or high == float("inf") else high - max(held[Nutrient.KCAL], low),
        label=audit_words(food) if food.workspace_id is not None else "",
        raw_entry=_other(shelf.raw.get(food.id, ())),
        cooked_entry=_other(shelf.cooked.get(food.id, ())),
    )


def _other(entries: Sequence[Entry]) -> mistakes.OtherEntry | None:
    if not entries:
        return None
    food = entries[0].food
    return mistakes.OtherEntry(key=str(food.id), words=f"{food.name}, {food.method or food.state}")


def _stated(line: LineLike, shelf: Bookshelf) -> tuple[float | None, Sequence[Disagreement]]:
    """The weight that the written line states, and its quantities that differ."""
    if not line.text or line.food_id is None:
        return None, ()
    amount, _, differ = weigh(read_line(line.text), shelf.measures.get(line.food_id, ()), spoons=shelf.spoons)
    # A weight that had to be assumed is no statement to hold the coach's own grams against.
    return (None if amount is None or amount.assumed else amount.grams), differ
