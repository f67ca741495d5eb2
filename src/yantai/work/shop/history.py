"""Prices and amounts over time, what was thrown away, and what a year cost."""

from __future__ import annotations

import uuid
from collections import defaultdict
from dataclasses import dataclass, field
from datetime import UTC, date
from fractions import Fraction
from zoneinfo import ZoneInfo

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.shopping.house import Entry
from yantai.core.shopping.money import round_half_up
from yantai.formats import history_csv
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace
from yantai.work.shop.costs import lot_prices
from yantai.work.shop.views import FoodHistory, HistoryOfYear, MonthView, PriceView, ShoppingHistory


def read_history(database: Database, who: SignedIn) -> ShoppingHistory:
    """Everything that was seen, bought, used and thrown away, by food and by year."""
    with database.reading(who.workspace_id) as session:
        return _history(session)


def export_csv(database: Database, who: SignedIn) -> str:
    """The same as CSV: a row for each price, and for each month of a food."""
    found = read_history(database, who)
    rows = []
    for food in found.foods:
        for price in food.prices:
            rows.append(
                history_csv.HistoryRow(
                    food=food.name, kind="price", day=price.seen_on, shop=price.shop, pack=price.pack,
                    grams=price.grams, money=price.price,
                )
            )  # fmt: skip
        for month in food.months:
            for kind, grams, money in (
                ("bought", month.bought_g, None),
                ("used", month.used_g, None),
                ("thrown away", month.thrown_g, month.thrown_worth),
            ):
                if grams:
                    rows.append(
                        history_csv.HistoryRow(
                            food=food.name, kind=kind, day=month.month, shop="", pack="", grams=grams, money=money
                        )
                    )
    return history_csv.write(rows)


@dataclass
class _Month:
    """Sums of a month [g, hundredths]."""

    bought_g: float = 0.0
    used_g: float = 0.0
    thrown_g: float = 0.0
    thrown: int = 0


@dataclass
class _Year:
    """Sums of a year [g, hundredths]."""

    paid: int = 0
    bought: int = 0
    thrown_g: float = 0.0
    thrown: int = 0


@dataclass
class _Food:
    """What is known of a food over time."""

    months: dict[date, _Month] = field(default_factory=lambda: defaultdict(_Month))
    prices: list[PriceView] = field(default_factory=list)


def _history(session: Session) -> ShoppingHistory:
    zone = read_workspace(session).time_zone
    here = ZoneInfo(zone) if zone else UTC
    foods: dict[uuid.UUID, _Food] = defaultdict(_Food)
    years: dict[int, _Year] = defaultdict(_Year)
    lot, entry, seen = tables.Lot, tables.LotEntry, tables.PriceSeen
    prices = lot_prices(session)
    undone = set(session.scalars(select(entry.undoes).where(entry.undoes.is_not(None))))
    query = select(entry, lot).join(lot, lot.id == entry.lot_id).order_by(entry.number)
    for row, of in session.execute(query):
        if row.act in undone or row.kind is Entry.TAKEN_BACK:
            continue
        day = row.made_at.astimezone(here).date()
        month, year = foods[of.food_id].months[day.replace(day=1)], years[day.year]
        worth = round_half_up(prices.get(of.id, Fraction(0)) * Fraction(abs(row.grams)))
        if row.kind is Entry.BOUGHT:
            month.bought_g += row.grams
            year.bought += worth
        elif row.kind in (Entry.USED, Entry.PUT_BACK):
            month.used_g -= row.grams
        elif row.kind is Entry.THROWN:
            month.thrown_g -= row.grams
            month.thrown += worth
            year.thrown_g -= row.grams
            year.thrown += worth
    for one in session.scalars(select(seen).order_by(seen.seen_on.asc().nulls_first(), seen.noted_at)):
        foods[one.food_id].prices.append(
            PriceView(
                seen_on=one.seen_on,
                noted_at=one.noted_at,
                shop=one.shop,
                pack=one.pack,
                grams=one.grams,
                price=one.price,
                per_100g=round(100 * one.price / one.grams, 4),
            )
        )
    for trip in session.scalars(select(tables.Trip).where(tables.Trip.paid.is_not(None))):
        if trip.finished_at is not None and trip.paid is not None:
            years[trip.finished_at.astimezone(here).year].paid += round(trip.paid * 100)
    food = tables.Food
    names = {key: name for key, name in session.execute(select(food.id, food.name).where(food.id.in_(foods)))}  # noqa: C416
    return ShoppingHistory(
        foods=[_food_view(key, names[key], foods[key]) for key in sorted(names, key=lambda key: names[key])],
        years=[
            HistoryOfYear(
                year=year,
                paid_at_tills=of.paid / 100,
                bought_worth=of.bought / 100,
                thrown_g=of.thrown_g,
                thrown_worth=of.thrown / 100,
            )
            for year, of in sorted(years.items(), reverse=True)
        ],
    )


def _food_view(key: uuid.UUID, name: str, food: _Food) -> FoodHistory:
    return FoodHistory(
        food_id=key,
        name=name,
        prices=food.prices,
        months=[
            MonthView(
                month=month,
                bought_g=of.bought_g,
                used_g=of.used_g,
                thrown_g=of.thrown_g,
                thrown_worth=of.thrown / 100,
            )
            for month, of in sorted(food.months.items())
        ],
    )
