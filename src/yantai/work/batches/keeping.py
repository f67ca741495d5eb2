"""How long the components of a batch keep: as the shelf-life table matches them, or as somebody chose."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from math import fsum

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.storage.matching import Content, Match, Stuff, match
from yantai.core.storage.shelf import KeptPart, ShelfRow
from yantai.store import tables
from yantai.work.pantry.shelf import shelf_table


@dataclass(frozen=True, kw_only=True)
class Shelved:
    """A component, what it is made of, the rows it is matched with, and the one that somebody chose instead."""

    component_id: uuid.UUID
    recipe_component_id: uuid.UUID | None
    name: str
    stuff: Stuff
    matches: tuple[Match, ...]
    chosen: str | None
    chosen_by: str

    @property
    def rows(self) -> tuple[ShelfRow, ...]:
        """The rows that count."""
        table = shelf_table()
        if self.chosen is not None:
            return (table[self.chosen],)
        return tuple(table[one.category] for one in self.matches)

    @property
    def part(self) -> KeptPart:
        """The same as the core knows it."""
        return KeptPart(key=str(self.component_id), name=self.name, rows=self.rows)


def shelved(session: Session, batch_id: uuid.UUID) -> dict[uuid.UUID, Shelved]:
    """The components of a batch by their ids. What was chosen for the same component of the recipe counts for the next
    batch too."""
    table = tables.Component
    components = session.scalars(select(table).where(table.batch_id == batch_id).order_by(table.position)).all()
    contents = _contents(session, [component.id for component in components])
    chosen = _chosen(session, components)
    found = {}
    for component in components:
        stuff = Stuff(
            contents=tuple(contents[component.id]),
            role=component.role,
            method=component.method,
            packed_raw=component.packed_raw,
        )
        category, by = chosen.get(component.id, (None, ""))
        found[component.id] = Shelved(
            component_id=component.id,
            recipe_component_id=component.recipe_component_id,
            name=component.name,
            stuff=stuff,
            matches=match(stuff),
            chosen=category if category in shelf_table() else None,
            chosen_by=by,
        )
    return found


def _contents(session: Session, component_ids: Iterable[uuid.UUID]) -> Mapping[uuid.UUID, list[Content]]:
    """The foods of each component; what it takes of another one counts as that one's foods, by weight."""
    line, food = tables.Line, tables.Food
    query = (
        select(line.component_id, line.source_id, line.purchased_g, food.name, food.food_group, food.state)
        .outerjoin(food, food.id == line.food_id)
        .where(line.component_id.in_(list(component_ids)))
        .order_by(line.component_id, line.position)
    )
    own: dict[uuid.UUID, list[Content]] = defaultdict(list)
    taken: dict[uuid.UUID, list[tuple[uuid.UUID, float]]] = defaultdict(list)
    for component_id, source_id, grams, name, group, state in session.execute(query):
        if source_id is None:
            own[component_id].append(Content(name=name, group=group, state=state, grams=grams))
        else:
            taken[component_id].append((source_id, grams))
    sources = {source for rows in taken.values() for source, _ in rows} - own.keys() - taken.keys()
    deeper = _contents(session, sources) if sources else {}

    def of(component_id: uuid.UUID) -> list[Content]:
        made = list(own.get(component_id, ())) or list(deeper.get(component_id, ()))
        for source_id, grams in taken.get(component_id, ()):
            parts = of(source_id)
            whole = fsum(one.grams for one in parts) or 1.0
            made += [
                Content(name=one.name, group=one.group, state=one.state, grams=grams * one.grams / whole)
                for one in parts
            ]
        return made

    return defaultdict(list, {key: of(key) for key in {*own, *taken, *deeper}})


def _chosen(session: Session, components: Iterable[tables.Component]) -> dict[uuid.UUID, tuple[str | None, str]]:
    """What was chosen last for each component, here or of the same component of its recipe."""
    choice = tables.ShelfChoice
    by_recipe = {one.recipe_component_id: one.id for one in components if one.recipe_component_id}
    ids = [one.id for one in components]
    query = (
        select(choice)
        .where(choice.component_id.in_(ids) | choice.recipe_component_id.in_(list(by_recipe)))
        .order_by(choice.number)
    )
    found: dict[uuid.UUID, tuple[str | None, str]] = {}
    for row in session.scalars(query):
        of = row.component_id if row.component_id in ids else by_recipe.get(row.recipe_component_id or row.id)
        if of is not None:
            found[of] = (row.category, row.made_by)
    return found
