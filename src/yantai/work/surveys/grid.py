"""Who can eat what as a grid of clients by recipes."""

from __future__ import annotations

import uuid

from sqlalchemy import Integer, func, select

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid
from yantai.work.common.who import SignedIn
from yantai.work.surveys.views import GridCell, GridPage, GridRecipe, GridRow

MOST_CLIENTS = 200


def read_grid(database: Database, who: SignedIn, survey_id: uuid.UUID, *, limit: int = 50, offset: int = 0) -> GridPage:
    """Some clients of a survey by name, and of each recipe how many of a client's containers it fits.

    Raises:
        Invalid: more than `MOST_CLIENTS` clients are asked for.
    """
    if not (1 <= limit <= MOST_CLIENTS and 0 <= offset < 10_000_000):
        raise Invalid.at("/limit", f"Ask for 1 to {MOST_CLIENTS} clients, from 0 on.")
    answer = tables.SurveyAnswer
    asked = answer.survey_id == survey_id
    with database.reading(who.workspace_id) as session:
        recipes = session.execute(
            select(answer.recipe_id, answer.recipe).where(asked).distinct().order_by(answer.recipe, answer.recipe_id)
        )
        everyone = select(answer.client_id, answer.client).where(asked).distinct()
        total = session.scalar(select(func.count()).select_from(everyone.subquery())) or 0
        clients = session.execute(everyone.order_by(answer.client, answer.client_id).limit(limit).offset(offset)).all()
        cells = session.execute(
            select(
                answer.client_id,
                answer.recipe_id,
                func.count(),
                func.sum(answer.met.cast(Integer)),
                func.min(answer.missed),
                func.bool_or(func.cardinality(answer.without) > 0),
            )
            .where(asked, answer.client_id.in_([client_id for client_id, _ in clients]))
            .group_by(answer.client_id, answer.recipe_id)
        )
        found: dict[uuid.UUID, list[GridCell]] = {client_id: [] for client_id, _ in clients}
        for client_id, recipe_id, containers, fits, nearest, without in cells:
            found[client_id].append(
                GridCell(
                    recipe_id=recipe_id, containers=containers, fits=fits, missed=nearest, leaves_out=bool(without)
                )
            )
        return GridPage(
            total=total,
            recipes=[GridRecipe(id=recipe_id, name=name) for recipe_id, name in recipes],
            rows=[GridRow(client_id=client_id, client=name, cells=found[client_id]) for client_id, name in clients],
        )
