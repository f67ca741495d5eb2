"""How near the filling came to what was asked, and how long it took."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable, Iterable
from statistics import fmean, median

from yantai.core.filling import FillEvent
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import Laid, filling_of, lay_out, read_facts
from yantai.work.fill.views import DifferencesView, DifferenceView


def read_differences(database: Database, who: SignedIn, batch_id: uuid.UUID) -> DifferencesView:
    """What was filled beside what the screen asked for: by client, by part, by person.

    Only what stands counts, so a figure that was corrected is what it was corrected to.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid, rows = lay_out(session, batch_id), read_facts(session, batch_id)
    by_id = {str(row.id): row for row in rows}
    standing = [by_id[part.stands.key] for parts in filling_of(rows).parts.values() for part in parts.values()]
    weighed = [row for row in standing if row.event is not FillEvent.LEFT_OUT]
    clients = {row.id: row.client for row in laid.view.rows}
    names = {component.id: component.name for component in laid.view.components}
    return DifferencesView(
        clients=_by(weighed, lambda row: clients.get(row.container_class_id or row.id, "no longer in the plan")),
        parts=_by(weighed, lambda row: names.get(row.component_id or row.id, "no longer in the plan")),
        people=_by(weighed, lambda row: row.made_by),
        left_out=[_left_out_words(laid, row) for row in standing if row.event is FillEvent.LEFT_OUT],
    )


def _by(rows: Iterable[tables.FillFact], of: Callable[[tables.FillFact], str]) -> list[DifferenceView]:
    groups: dict[str, list[tables.FillFact]] = defaultdict(list)
    for row in rows:
        groups[of(row)].append(row)
    return [_difference(name, group) for name, group in sorted(groups.items())]


def _difference(name: str, rows: list[tables.FillFact]) -> DifferenceView:
    off = [row.grams - row.asked_g for row in rows if row.asked_g is not None]
    took = [row.took_s for row in rows if row.took_s is not None]
    return DifferenceView(
        name=name,
        fills=len(rows),
        filled_g=sum(row.grams for row in rows),
        asked_g=sum(row.asked_g for row in rows if row.asked_g is not None),
        mean_off_g=fmean(abs(one) for one in off) if off else None,
        most_off_g=max(off, key=abs) if off else None,
        estimated=sum(row.unsure_g > 0 for row in rows),
        took_s=median(took) if took else None,
    )


def _left_out_words(laid: Laid, row: tables.FillFact) -> str:
    shown = next((one for one in laid.view.rows if one.id == row.container_class_id), None)
    name = next((one.name for one in laid.view.components if one.id == row.component_id), "a component")
    where = "a container that the plan no longer has" if shown is None else f"{shown.client}, {row.container}"
    return f"{name}, {where}{f': {row.text}' if row.text else ''}"
