"""A batch as it is handed over, as it is shown."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping
from datetime import date

from yantai.core.storage.breaks import Break, Rule, breaks, fridge_litres
from yantai.core.storage.calendar import FIRST_FROM_FREEZER, Store
from yantai.core.storage.shelf import Freezes, ShelfRow, keeping, worst
from yantai.core.targets.days import ANY_DAY
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.keeping import Shelved
from yantai.work.batches.views import PlanRowView
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import filling_of, read_facts
from yantai.work.fill.bench import lay_out as at_the_scale
from yantai.work.handover.days import meal_order
from yantai.work.handover.eaten import left_words, read_eaten, unread_words
from yantai.work.handover.laid import Laid, Spot, lay_out
from yantai.work.handover.views import (
    BreakView,
    ClientWeekView,
    EatingDayView,
    HandOverView,
    MatchView,
    PlacedView,
    ShelfRowView,
    ShelfTableView,
    ShelvedView,
)
from yantai.work.handover.words import KEEP_COLD, LOCAL_RULES, again_words, break_view, day_words
from yantai.work.pantry.shelf import shelf_table


def read_hand_over(database: Database, who: SignedIn, batch_id: uuid.UUID) -> HandOverView:
    """A batch as it is handed over.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
        bench = at_the_scale(session, batch_id).bench
        filling = filling_of(read_facts(session, batch_id))
        closed = {
            (uuid.UUID(spot.row), spot.number)
            for index, spot in bench.spots
            if bench.is_closed(index, bench.filled(index, spot, filling))
        }
        eaten, unread = read_eaten(session, batch_id), unread_words(session)
    return _Shown(laid, closed, eaten, unread).view()


def read_shelf_table() -> ShelfTableView:
    """All rows of the shelf-life table."""
    return ShelfTableView(rows=[_row_view(row) for row in shelf_table().values()])


class _Shown:
    """What one view is made from."""

    def __init__(
        self,
        laid: Laid,
        closed: set[Spot],
        eaten: Mapping[Spot, tables.EatingFact],
        unread: Mapping[uuid.UUID, int],
    ) -> None:
        self.laid, self.closed, self.eaten, self.unread = laid, closed, eaten, unread

    def view(self) -> HandOverView:
        """All of it."""
        laid, batch = self.laid, self.laid.plan.batch
        clients = {row.client_id: row.client for row in laid.rows.values()}
        eaten = {cell.component_id for row in laid.rows.values() for cell in row.cells if cell.grams > 0}
        return HandOverView(
            batch_id=batch.id,
            name=batch.name,
            version=batch.version,
            is_packed=batch.packed_at is not None,
            containers=sum(row.count for row in laid.rows.values()),
            closed=len(self.closed),
            cooked_on=laid.cooked_on,
            cooked_words=""
            if laid.cooked_on == batch.cook_on
            else f"A pot was weighed on {day_words(laid.cooked_on)}, before the batch's {day_words(batch.cook_on)}: "
            "days count from then.",
            shelf_rule=laid.rule,
            components=[self._shelved(one) for key, one in laid.shelved.items() if key in eaten],
            clients=[self._client(key, name) for key, name in clients.items()],
            cautions=[KEEP_COLD, LOCAL_RULES],
        )

    def _shelved(self, one: Shelved) -> ShelvedView:
        by_category = {found.category: found for found in one.matches}
        return ShelvedView(
            component_id=one.component_id,
            name=one.name,
            matches=[
                MatchView(
                    row=_row_view(row),
                    foods=list(by_category[row.category].foods) if one.chosen is None else [],
                    assumed=one.chosen is None and by_category[row.category].assumed,
                )
                for row in one.rows
            ],
            chosen_by=one.chosen_by if one.chosen is not None else "",
            fridge_days=keeping([one.part], self.laid.rule).fridge_days,
            freezes=worst(row.freezes for row in one.rows),
        )

    def _client(self, client_id: uuid.UUID, name: str) -> ClientWeekView:
        laid, client = self.laid, self.laid.clients[client_id]
        classes, weeks, calendar = laid.to_eat(client_id), laid.weeks(client_id), laid.calendar(client_id)
        found = breaks(classes, weeks, calendar)
        rows = laid.of_client(client_id)
        of_container: dict[Spot, list[BreakView]] = defaultdict(list)
        of_night: dict[int, list[BreakView]] = defaultdict(list)
        for one in found:
            kept = laid.keepings[uuid.UUID(one.key)] if one.key else None
            if one.rule is Rule.FRIDGE_ROOM and one.day is not None:
                of_night[one.day].append(break_view(laid, one, kept))
            elif one.number:
                of_container[uuid.UUID(one.key), one.number].append(break_view(laid, one, kept))
        placed = [
            self._placed(row, number, of_container[row.id, number])
            for row in rows
            for number in range(1, row.count + 1)
        ]
        litres = fridge_litres({one.key: one for one in classes}, calendar.eaten)
        return ClientWeekView(
            client_id=client_id,
            client=name,
            first_on=laid.first_on(client_id),
            first_is_assumed=client_id not in laid.starts,
            week=list(client.week),
            day_types=list(dict.fromkeys(row.day_type for row in rows if row.day_type.casefold() != ANY_DAY)),
            fridge_l=client.fridge_l,
            days=self._days(placed, client.week, litres, of_night),
            waiting=[one for one in placed if one.eaten_on is None],
            to_cook_again=self._again(rows, placed, found),
            unread=self.unread.get(client_id, 0),
        )

    def _again(self, rows: list[PlanRowView], placed: list[PlacedView], found: tuple[Break, ...]) -> list[str]:
        """What found no day although the calendar was made."""
        if all(one.eaten_on is None for one in placed):
            return []
        missing = {uuid.UUID(one.key): int(one.by or 0) for one in found if one.rule is Rule.HAS_DAY}
        return [
            again_words(self.laid.keepings[row.id], f"{row.slot.lower()} ({self._dish(row)})", count, self.laid.rule)
            for row in rows
            if (count := missing.get(row.id, 0))
        ]

    def _days(
        self,
        placed: list[PlacedView],
        week: list[str | None],
        litres: list[float],
        of_night: dict[int, list[BreakView]],
    ) -> list[EatingDayView]:
        by_day: dict[date, list[PlacedView]] = defaultdict(list)
        thaw: dict[date, list[PlacedView]] = defaultdict(list)
        for one in placed:
            if one.eaten_on is not None:
                by_day[one.eaten_on].append(one)
            if one.thaw_on is not None:
                thaw[one.thaw_on].append(one)
        if not by_day:
            return []
        first = min(*by_day, *thaw) if thaw else min(by_day)
        days = []
        for ordinal in range(first.toordinal(), max(by_day).toordinal() + 1):
            on = date.fromordinal(ordinal)
            index = (on - self.laid.cooked_on).days
            given = week[on.weekday()] if any(week) else None
            kinds = [one.day_type for one in by_day[on] if one.day_type.casefold() != ANY_DAY]
            days.append(
                EatingDayView(
                    on=on,
                    day_type=given or next(iter(kinds), ""),
                    is_assumed=given is None and bool(kinds),
                    litres=litres[index] if 0 <= index < len(litres) else 0.0,
                    thaw=[f"{one.dish}, {one.slot.lower()}, {one.number} of {one.of}" for one in thaw[on]],
                    containers=sorted(by_day[on], key=lambda one: self._place_in_day(one)),
                    breaks=of_night[index],
                )
            )
        return days

    def _place_in_day(self, one: PlacedView) -> tuple[int, int]:
        """Meals in the order in which the batch has them."""
        slots = list(
            dict.fromkeys(
                row.slot.casefold() for row in sorted(self.laid.rows.values(), key=lambda row: meal_order(row.slot))
            )
        )
        return slots.index(one.slot.casefold()), one.number

    def _dish(self, row: PlanRowView) -> str:
        return next(dish.name for dish in self.laid.plan.dishes if dish.id == row.dish_id)

    def _placed(self, row: PlanRowView, number: int, broken: list[BreakView]) -> PlacedView:
        laid, kept = self.laid, self.laid.keepings[row.id]
        placement = laid.placements.get((row.id, number))
        on, store = (placement.eaten_on, placement.store) if placement is not None else (None, None)
        container, told = kept.container, self.eaten.get((row.id, number))
        thaws = on is not None and store is Store.FREEZER

        def until(days: int | None) -> date | None:
            return None if days is None else laid.on(days)

        return PlacedView(
            row_id=row.id,
            number=number,
            of=row.count,
            dish=self._dish(row),
            slot=row.slot,
            day_type=row.day_type,
            eaten_on=on,
            store=store,
            thaw_on=date.fromordinal(on.toordinal() - 1) if on is not None and thaws else None,
            use_by=placement.use_by if placement is not None else None,
            by_hand=placement is not None and placement.by_hand,
            is_closed=(row.id, number) in self.closed,
            litres=kept.litres,
            kcal=row.amounts.kcal,
            fridge_until=until(container.fridge_days),
            usual_until=until(container.usual_days),
            freezes=container.freezes,
            freezer_from=laid.on(FIRST_FROM_FREEZER),
            freezer_until=until(container.freezer_days) if container.freezes is not Freezes.NO else None,
            decided_by="" if container.shortest is None else container.shortest[0].name,
            apart=[part.name for part in container.apart],
            beside=list(kept.beside),
            fresh=list(kept.fresh),
            told=told.event if told is not None else None,
            left=left_words(told),
            breaks=broken,
        )


def _row_view(row: ShelfRow) -> ShelfRowView:
    return ShelfRowView(
        category=row.category,
        cautious_days=row.cautious_days,
        usual_days=row.usual_days,
        freezer_months=row.freezer_months,
        freezes=row.freezes,
        cool_note=row.cool_note,
        reheat_c=row.reheat_c,
        note=row.note,
    )
