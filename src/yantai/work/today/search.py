"""Finding anything by a few letters."""

from __future__ import annotations

from typing import Any

from sqlalchemy import func, or_, select

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.pantry.foods import find_foods
from yantai.work.today.views import Found

MOST_OF_A_KIND = 6


def find_anything(database: Database, who: SignedIn, text: str) -> list[Found]:
    """Clients, recipes, batches and foods whose names fit `text`, a few of each kind."""
    text = text.strip()
    if not text:
        return []
    with database.reading(who.workspace_id) as session:
        found: list[Found] = []
        kinds: list[tuple[str, Any, str]] = [
            ("client", tables.Client, "client"),
            ("recipe", tables.Recipe, "recipe"),
            ("batch", tables.Batch, "batch"),
        ]
        for kind, table, detail in kinds:
            alike = func.word_similarity(text.casefold(), func.lower(table.name))
            query = select(table).where(or_(table.name.icontains(text, autoescape=True), alike > 0.5))
            gone = table.deleted_at if table is tables.Batch else table.archived_at
            query = query.where(gone.is_(None))
            for row in session.scalars(query.order_by(alike.desc(), table.name).limit(MOST_OF_A_KIND)):
                found.append(Found(kind=kind, id=row.id, title=row.name, detail=detail))
        for food in find_foods(session, text, MOST_OF_A_KIND):
            detail = ", ".join(part for part in (food.state, food.method) if part)
            found.append(Found(kind="food", id=food.id, title=food.name, detail=detail))
        return found
