"""The scale beside the stove: how far what is cooked down, or up, is from its weight."""

from __future__ import annotations

from collections.abc import Iterator

from yantai.core.schedule.cooked import Planned
from yantai.core.schedule.kitchen import ON_THE_HOB, Kind
from yantai.core.schedule.live import CookEvent, counting
from yantai.core.schedule.scale import Weighed, towards
from yantai.store import tables
from yantai.work.cook.order import CookJob
from yantai.work.cook.pots import Pot
from yantai.work.cook.views import ScaleReadingView, ScaleView

_ON = (Kind.HOB, *ON_THE_HOB, Kind.OVEN, Kind.SLOW_COOKER, Kind.PRESSURE_COOKER)


def until_g(of: Planned, pot: Pot | None) -> float | None:
    """What is in the vessel when a task is done [g]: of the last time on the heat of what has a weight to reach."""
    if pot is None or pot.until_g is None or of.step.on not in _ON or of.step.is_lead:
        return None
    heated = [step.key for step in pot.cooked.steps if step.on is not None and not step.is_lead]
    if heated[-1] != of.step.key:
        return None
    return pot.until_g * of.round.grams / pot.cooked.raw_g


def scales_of(job: CookJob) -> Iterator[ScaleView]:
    """What is on the heat now and has a weight to reach, with what the scale has shown."""
    pots = {pot.cooked.key: pot for pot in job.pots}
    counted = {fact.key for fact in counting(job.facts)}
    weighed = [row for row in job.rows if row.event is CookEvent.WEIGHED and str(row.id) in counted]
    for one in job.planned:
        state, pot = job.progress.of(one.task.key), pots.get(one.component)
        wanted = until_g(one, pot)
        if pot is None or wanted is None or state.begun is None or state.done is not None or state.is_skipped:
            continue
        yield _scale(job, one, pot, wanted, [row for row in weighed if row.task == one.task.key])


def _scale(job: CookJob, one: Planned, pot: Pot, wanted_g: float, rows: list[tables.CookFact]) -> ScaleView:
    # One that shows no more than its vessel is a slip, which stands in the log and tells nothing here.
    shown = [row for row in rows if (row.grams or 0.0) > (row.vessel_g or 0.0)]
    going = towards(
        wanted_g,
        [
            Weighed(second=row.happened_at.timestamp(), net_g=(row.grams or 0.0) - (row.vessel_g or 0.0))
            for row in shown
        ],
    )
    last = max(shown, key=lambda row: row.happened_at, default=None)
    about = None
    if last is not None and going is not None and going.in_min is not None:
        about = job.clock.minute(last.happened_at) + round(going.in_min)
    return ScaleView(
        task=one.task.key,
        component=pot.cooked.name,
        says=one.step.says,
        net_g=wanted_g,
        vessel="" if last is None else last.vessel,
        vessel_g=None if last is None else last.vessel_g,
        left_g=None if going is None else going.left_g,
        is_there=going is not None and going.is_there,
        per_min_g=None if going is None else going.per_min_g,
        about_min=about,
        readings=[
            ScaleReadingView(at_min=job.clock.minute(row.happened_at), grams=row.grams or 0.0, made_by=row.made_by)
            for row in shown
        ],
    )
