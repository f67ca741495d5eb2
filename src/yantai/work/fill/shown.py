"""A batch at the scale: what is in every container, what still goes in, and what the pots have left."""

from __future__ import annotations

import itertools
import math
import uuid
from collections.abc import Sequence

from yantai.core.filling import FillEvent, FillFact, Filling, Spot, make_good, what_is_filled
from yantai.core.filling.bench import off_scale_g
from yantai.core.filling.making_good import Filled, ToFill
from yantai.core.filling.mends import Mend, mends_of, others_open
from yantai.core.filling.sequence import filling_order
from yantai.core.planning.portioning import School
from yantai.core.portions import Portions
from yantai.core.speaking import weight
from yantai.core.targets.words import missed_words
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.plan_view import gauges_of, shown_name
from yantai.work.common.errors import Missing
from yantai.work.common.views import AmountsView
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import Laid, core_fact, filling_of, lay_out, read_facts
from yantai.work.fill.inputs import TriedInput
from yantai.work.fill.views import (
    FillContainerView,
    FilledView,
    FillLineView,
    FillMendView,
    FillPartView,
    FillPotView,
    FillView,
    RestView,
    StrayView,
)


def read_filling(database: Database, who: SignedIn, batch_id: uuid.UUID) -> FillView:
    """A batch at the scale, as it is now.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid, rows = lay_out(session, batch_id), read_facts(session, batch_id)
    filling = filling_of(rows)
    return _Shown(laid, rows, filling).view()


def try_reading(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: TriedInput) -> FillContainerView:
    """A container as it would stand if a reading were accepted; nothing is noted.

    Raises:
        Missing: there is no such batch, or no such container in its plan.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid, rows = lay_out(session, batch_id), read_facts(session, batch_id)
    spot = Spot(str(payload.row_id), payload.container)
    if all(spot != one for _, one in laid.bench.spots):
        raise Missing("This container is no longer in the plan. What is in it is kept, and told beside the containers.")
    facts = [core_fact(row) for row in rows]
    here = filling_of(rows).parts.get(spot, {}).get(str(payload.component_id))
    facts.append(
        FillFact(
            key="tried",
            event=FillEvent.FILLED,
            spot=spot,
            part=str(payload.component_id),
            grams=payload.grams,
            after=None if here is None else here.stands.key,
            second=max((fact.second for fact in facts), default=0.0) + 1,
        )
    )
    shown = _Shown(laid, rows, what_is_filled(facts))
    return shown.container(next(one for one in shown.made.containers if one.spot == spot))


class _Shown:
    """What one view is made from."""

    def __init__(self, laid: Laid, rows: Sequence[tables.FillFact], filling: Filling) -> None:
        self.bench, self.plan, self.filling = laid.bench, laid.view, filling
        self.cup_ml = laid.cup_ml
        self.made = make_good(self.bench, filling)
        self.rows = {str(row.id): row for row in rows}
        self.row_views = {str(row.id): row for row in self.plan.rows}
        self.components = {str(component.id): component for component in self.plan.components}
        self.names = {key: component.name for key, component in self.components.items()}

    def view(self) -> FillView:
        """All of it."""
        batch = self.plan.batch
        by_spot = {one.spot: one for one in self.made.containers}
        return FillView(
            batch_id=batch.id,
            name=batch.name,
            version=batch.version,
            step_g=batch.step_g,
            is_packed=batch.packed_at is not None,
            facts=max((row.number for row in self.rows.values()), default=0),
            containers=[self.container(by_spot[spot]) for spot in filling_order(self.bench)],
            pots=[self._pot(key) for key in self.made.pots if self._is_filled_from(key)],
            strays=[
                StrayView(
                    words=f"{weight(one.grams)} {self.names.get(part, 'of a component that the batch no longer has')}, "
                    f"noted by {self.rows[one.stands.key].made_by} for {self._spot_words(spot)}",
                    grams=one.grams,
                    fact_id=uuid.UUID(one.stands.key),
                )
                for spot, part, one in self.bench.strays(self.filling)
            ],
            cautions=self.plan.cautions,
        )

    def container(self, one: Filled) -> FillContainerView:
        """One container."""
        row = self.row_views[one.spot.row]
        dish = next(dish for dish in self.plan.dishes if dish.id == row.dish_id)
        kept_out = [f"no {self.names[str(cell.component_id)]}" for cell in row.cells if cell.left_out]
        container = self.bench.question(one.index).container
        mends = mends_of(self.bench, self.filling, one) if one.not_good else []
        return FillContainerView(
            row_id=row.id,
            number=one.spot.number,
            of=row.count,
            client_id=row.client_id,
            client=row.client,
            slot=row.slot,
            day_type=row.day_type,
            dish_id=dish.id,
            dish=dish.name,
            capacity_ml=row.capacity_ml,
            capacity_g=row.capacity_g,
            is_first=bool(kept_out),
            kept_out=kept_out,
            parts=[self._part(one.index, cell) for cell in one.cells],
            is_closed=one.is_closed,
            is_in_bulk=self.filling.is_in_bulk(one.spot) and not one.is_closed,
            is_evened=one.is_evened,
            so_far=AmountsView.of(one.so_far.amounts),
            amounts=AmountsView.of(one.portions.amounts),
            gauges=gauges_of(container, one.portions),
            volume_ml=one.portions.volume_ml,
            overfull=_overfull_words(one.portions),
            missed=missed_words(one.not_good),
            mends=[self._mend(mend) for mend in mends],
            others_open=len(others_open(self.bench, self.made, one)) if one.not_good else 0,
        )

    def _part(self, index: int, cell: ToFill) -> FillPartView:
        place = self.bench.cells(index).index(cell.part)
        keys = self.bench.question(index).keys[place]
        part = self.bench.part(index, cell.part)
        unit_g = part.one_g if part.is_counted else None
        return FillPartView(
            component_id=uuid.UUID(cell.part),
            component_ids=[uuid.UUID(key) for key in keys],
            name=" and ".join(self.names[key] for key in keys),
            school=part.school,
            place=part.place,
            grams=cell.grams,
            planned_g=cell.planned_g,
            stop_low_g=cell.stop_low_g,
            stop_high_g=cell.stop_high_g,
            unit_g=unit_g,
            unit_part=part.unit_part,
            units=cell.grams / unit_g if unit_g else None,
            cup_g=self.cup_ml * self.bench.question(index).container.cells[place].density_g_per_ml,
            lines=self._lines(cell) if part.school is School.BUILT_RAW else [],
            cooked_by=self.components[cell.part].method if part.school is School.BUILT_RAW else "",
            is_by_eye=part.is_estimated,
            filled=None if cell.filled is None else self._filled(cell.filled.stands),
            others=[]
            if cell.filled is None
            else [shown for other in cell.filled.others if (shown := self._filled(other)) is not None],
        )

    def _lines(self, cell: ToFill) -> list[FillLineView]:
        """The ingredients of what is built raw, in the order in which they are written, as they add up on the scale."""
        lines = [(line.name, line.unit_g or 0.0) for line in self.components[cell.part].lines]
        share = cell.grams / (math.fsum(grams for _, grams in lines) or 1.0)
        each = [(name, share * grams) for name, grams in lines if grams > 0]
        sums = itertools.accumulate(grams for _, grams in each)
        return [FillLineView(name=name, grams=grams, up_to_g=up) for (name, grams), up in zip(each, sums, strict=True)]

    def _filled(self, fact: FillFact) -> FilledView | None:
        row = self.rows.get(fact.key)
        if row is None:
            return None
        return FilledView(
            fact_id=row.id,
            grams=0.0 if row.event is FillEvent.LEFT_OUT else row.grams,
            unsure_g=row.unsure_g,
            units=row.units,
            way=row.way,
            is_left_out=row.event is FillEvent.LEFT_OUT,
            text=row.text,
            made_by=row.made_by,
            happened_at=row.happened_at,
        )

    def _mend(self, mend: Mend) -> FillMendView:
        name = self.names[mend.part]
        how = f"Take out {weight(-mend.grams)} {name}" if mend.grams < 0 else f"Put in {weight(mend.grams)} more {name}"
        return FillMendView(
            component_id=uuid.UUID(mend.part),
            grams=mend.grams,
            meets=mend.meets,
            words=how if mend.meets else f"{how}: nearer, not inside",
        )

    def _is_filled_from(self, key: str) -> bool:
        return next(component for component in self.plan.components if str(component.id) == key).to_weigh

    def _pot(self, key: str) -> FillPotView:
        left, need = self.made.pots[key], self.bench.plan.needs[key]
        again = self.filling.weighed_pots.get(key)
        return FillPotView(
            component_id=uuid.UUID(key),
            name=self.names[key],
            is_weighed=need.part.weighed,
            cooked_g=need.cooked_g,
            left_g=left.left_g,
            needed_g=left.needed_g,
            wanted_g=left.wanted_g,
            short_g=left.short_g if need.part.weighed else 0.0,
            over_g=left.over_g,
            scoop_g=self.filling.scoops.get(key),
            weighed_again_g=None if again is None else again.grams,
            off_g=None if again is None else off_scale_g(self.bench, self.filling, again),
            rests=[self._rest(self.rows[rest.key]) for rest in self.filling.rests.get(key, ())],
        )

    def _rest(self, row: tables.FillFact) -> RestView:
        client = next((one.client for one in self.plan.rows if one.client_id == row.client_id), "")
        return RestView(
            fact_id=row.id,
            grams=row.grams,
            units=row.units,
            fate=row.fate.value if row.fate else "",
            client=client,
            text=row.text,
            made_by=row.made_by,
        )

    def _spot_words(self, spot: Spot) -> str:
        row = self.row_views.get(spot.row)
        return "a container that the plan no longer has" if row is None else f"{shown_name(row)}, {spot.number}"


def _overfull_words(found: Portions) -> str:
    """What does not fit, or nothing."""
    if found.overfull_ml:
        return f"about {found.overfull_ml:,.0f} ml more than it holds"
    return f"{weight(found.overfull_g)} more than it carries" if found.overfull_g else ""
