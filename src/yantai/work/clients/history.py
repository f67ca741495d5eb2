"""What a client's days and targets were, and when they changed. A batch keeps what it was planned for besides."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.foods.energy import Rules
from yantai.core.speaking import exact_weight
from yantai.core.targets.days import ANY_DAY
from yantai.core.targets.targets import TARGETED
from yantai.core.targets.words import figure_words, shown, target_words
from yantai.store import tables
from yantai.work.clients.days import effective_figures, stored_days
from yantai.work.clients.views import TargetsThen
from yantai.work.common.who import SignedIn

Snapshot = dict[str, dict[str, Any]]
"""By the name of a day or target: its figures, and for a day its extras in words."""


def keep_first(session: Session, who: SignedIn, client: tables.Client, rules: Rules) -> None:
    """Keep what a client has before the first change that is recorded."""
    if _newest(session, client) is None:
        keep(session, who, client, rules)


def keep(session: Session, who: SignedIn, client: tables.Client, rules: Rules) -> None:
    """Add a record when the days or targets are others than in the newest one."""
    snapshot = _snapshot(client, rules)
    newest = _newest(session, client)
    if newest is not None and newest.figures == snapshot:
        return
    session.add(
        tables.TargetRecord(workspace_id=who.workspace_id, client_id=client.id, changed_by=who.name, figures=snapshot)
    )
    session.flush()


def changes(session: Session, client: tables.Client) -> list[TargetsThen]:
    """What each record changed against the one before it, the newest first."""
    records = session.scalars(_records(client).order_by(tables.TargetRecord.since)).all()
    before: Snapshot = {}
    found = []
    for record in records:
        lines = list(_told(before, record.figures))
        found.append(TargetsThen(since=record.since, changed_by=record.changed_by, lines=lines))
        before = record.figures
    return [one for one in reversed(found) if one.lines]


def _records(client: tables.Client) -> Any:
    return select(tables.TargetRecord).where(tables.TargetRecord.client_id == client.id)


def _newest(session: Session, client: tables.Client) -> tables.TargetRecord | None:
    newest: tables.TargetRecord | None = session.scalar(
        _records(client).order_by(tables.TargetRecord.since.desc()).limit(1)
    )
    return newest


def _snapshot(client: tables.Client, rules: Rules) -> Snapshot:
    days = stored_days(client, rules)
    found: Snapshot = {}
    for day in client.days:
        extras = ", ".join(f"{shown(extra.grams)} g {extra.food.name}" for extra in day.extras)
        found[f"The {day.day_type} day"] = {"figures": day.figures.by_name, "extras": extras}
    for target in client.targets:
        name = target.slot if target.day_type == ANY_DAY else f"{target.slot}, {target.day_type} day"
        found[name[:1].upper() + name[1:]] = {
            "figures": {
                key: None if value is None else round(value, 3)
                for key, value in effective_figures(target, days).by_name.items()
            },
            "extras": "",
        }
    return found


def _told(before: Snapshot, after: Snapshot) -> Iterator[str]:
    for name, now in after.items():
        was = before.get(name)
        if was is None:
            extras = f"; extras {_spoken(now['extras'])}" if now["extras"] else ""
            yield f"{name}: {target_words(now['figures']) or 'nothing aimed at'}{extras}"
            continue
        moved = list(_moved(was["figures"], now["figures"]))
        if was["extras"] != now["extras"]:
            moved.append(f"extras {_spoken(now['extras']) or 'none'} instead of {_spoken(was['extras']) or 'none'}")
        if moved:
            yield f"{name}: {', '.join(moved)}"
    yield from (f"{name}: taken away" for name in before if name not in after)


def _spoken(extras: str) -> str:
    """Kept extras ("60 g Oats, rolled, 250 g Milk") with their weights in the reader's unit."""
    grams = re.compile(r"(?:(?<=^)|(?<=, ))(\d[\d,]*(?:\.\d+)?) g(?= )")
    return grams.sub(lambda found: exact_weight(float(found[1].replace(",", ""))), extras)


def _moved(was: Mapping[str, float | None], now: Mapping[str, float | None]) -> Iterator[str]:
    for nutrient in TARGETED:
        old, new = was.get(nutrient.value), now.get(nutrient.value)
        if new is None and old is not None:
            yield f"{nutrient.noun} no longer aimed at ({figure_words(nutrient, old)})"
        elif new is not None and old != new:
            instead = "" if old is None else f" instead of {figure_words(nutrient, old)}"
            yield f"{nutrient.noun} {figure_words(nutrient, new)}{instead}"
