"""A shopping list as it leaves the house: a table, an open document, a page to print."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from babel.numbers import format_currency

from yantai.core.shopping.packs import Sold, pack_words
from yantai.core.speaking import weight
from yantai.formats import shopping_csv, shopping_pdf
from yantai.formats.shopping_document import (
    ShoppingBatch,
    ShoppingDocument,
    ShoppingItem,
    ShoppingNeed,
    ShoppingPacks,
)
from yantai.work.shop.views import ItemView, PackCount, PacksView, ShoppingList


def as_csv(found: ShoppingList) -> str:
    """A row for each food, with the packs that are bought."""
    return shopping_csv.write(_row(item) for item in found.items)


def as_document(found: ShoppingList) -> ShoppingDocument:
    """The list as an open document."""
    return ShoppingDocument(
        currency=found.currency,
        batches=[ShoppingBatch(id=one.id, name=one.name, cook_on=one.cook_on) for one in found.batches],
        items=[_document_item(item) for item in found.items],
        cost=found.cost,
    )


def as_pdf(found: ShoppingList) -> bytes:
    """A page to print and to send: boxes to tick, by aisle."""
    batches = [f"{one.name}, {one.cook_on:%-d %B}" for one in found.batches]
    return shopping_pdf.write(
        shopping_pdf.ShoppingPage(
            title=f"Shop for {' and '.join(batches)}",
            total=_total(found),
            sections=[
                shopping_pdf.Section(title=title, rows=[_printed(item, found.currency) for item in items])
                for title, items in _sections(found.items)
            ],
            caution="How long food keeps is a usual span: the date on the pack decides.",
        )
    )


def _document_item(item: ItemView) -> ShoppingItem:
    chosen = item.choices[0] if item.choices else None
    return ShoppingItem(
        food_id=item.food_id,
        food=item.name,
        state=item.state,
        aisle=item.aisle,
        needed_g=item.grams,
        in_house_g=item.in_house_g,
        to_buy_g=item.to_buy_g,
        picked=item.picked,
        packs=[
            ShoppingPacks(
                name=one.name,
                grams=one.grams,
                count=one.count,
                price=one.price,
                shop=one.shop,
                seen_on=one.seen_on,
                sold=one.sold,
            )
            for one in (chosen.packs if chosen else [])
        ],
        left_g=None if chosen is None else chosen.left_g,
        cost=None if chosen is None else chosen.cost,
        needs=[ShoppingNeed(batch=need.batch, component=need.component, grams=need.grams) for need in item.needs],
    )


def _row(item: ItemView) -> shopping_csv.ShoppingRow:
    chosen = item.choices[0] if item.choices else None
    packs = [] if chosen is None else [pack_words(one.count, one.name, one.grams, one.sold) for one in chosen.packs]
    return shopping_csv.ShoppingRow(
        aisle=item.aisle,
        food=item.name,
        state=item.state,
        needed_g=item.grams,
        in_house_g=item.in_house_g,
        to_buy_g=item.to_buy_g,
        packs=" + ".join(packs),
        left_g=None if chosen is None else chosen.left_g,
        cost=None if chosen is None else chosen.cost,
        wanted_for=", ".join(dict.fromkeys(f"{need.component} ({need.batch})" for need in item.needs)),
    )


def _total(found: ShoppingList) -> str:
    if found.cost is None:
        return ""
    foods = f"{found.without_price} food{'s' if found.without_price > 1 else ''}"
    without = f", without {foods} of which no price is known" if found.without_price else ""
    return f"{_price(found.cost, found.currency)} in whole packs{without}"


def _sections(items: Sequence[ItemView]) -> Iterator[tuple[str, list[ItemView]]]:
    """What is bought by aisle, then what a look in the cupboard comes before; what is there is not printed."""
    to_buy = [item for item in items if item.to_buy_g > 0]
    for aisle in dict.fromkeys(item.aisle for item in to_buy if not item.ask_staple):
        yield aisle, [item for item in to_buy if item.aisle == aisle and not item.ask_staple]
    asked = [item for item in to_buy if item.ask_staple]
    if asked:
        yield "look in the cupboard first", asked


def _printed(item: ItemView, currency: str | None) -> shopping_pdf.Row:
    chosen = item.choices[0] if item.choices else None
    shops = [] if chosen is None else list(dict.fromkeys(one.shop for one in chosen.packs))
    return shopping_pdf.Row(
        take=weight(item.to_buy_g) if chosen is None else _packs(chosen, with_shops=len(shops) > 1),
        food=item.name,
        detail=", ".join(
            part
            for part in (
                item.state,
                *(shop for shop in shops if len(shops) == 1),
                item.picked,
                f"{weight(item.to_buy_g)} to buy" if chosen else "",
                f"for {' and '.join(dict.fromkeys(need.component for need in item.needs))}",
            )
            if part
        ),
        price="" if chosen is None or chosen.cost is None else _price(chosen.cost, currency),
    )


def _packs(chosen: PacksView, *, with_shops: bool) -> str:
    return " + ".join(f"{_pack(one)}{f' ({one.shop})' if one.shop and with_shops else ''}" for one in chosen.packs)


def _pack(one: PackCount) -> str:
    if one.sold is Sold.WEIGHT:
        return f"{weight(one.grams)} {one.name}"
    about = ", about" if one.sold is Sold.PIECE else ""
    return f"{one.count} × {one.name}{about} {weight(one.grams)}"


def _price(value: float, currency: str | None) -> str:
    """A price in the kitchen's currency, a bare number while nobody has set it."""
    return f"{value:.2f}" if currency is None else format_currency(value, currency, locale="en_GB")
