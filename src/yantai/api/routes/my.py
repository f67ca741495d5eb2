"""The client's own page, by link: a narrow contract of its own, for one client and nobody else."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response

from yantai.api.access import DatabaseDep, IdempotencyKey, NowDep, SenderDep, SettingsDep, SignedInDep, sent
from yantai.api.link_callers import LinkToken, counted
from yantai.core.speaking import speak
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.handover import links, my
from yantai.work.handover.inputs import ClientWordInput, EatenInput, LinkInput, MacrosInput, SwapInput
from yantai.work.handover.views import ClientPageView, MyKitchenView, MyPageView, MySharesView, NewLinkView

router = APIRouter(tags=["client's page"])


class Caller:
    """Who asks by a link: read in the name of its coach, for its one client."""

    def __init__(self, who: SignedIn, link: tables.ClientLink, token: str) -> None:
        self.who, self.link, self.token = who, link, token


def _opened(request: Request, database: DatabaseDep, now: NowDep, token: LinkToken = "") -> Caller:
    with counted(request):
        who, link = links.open_link(database, token, now)
    return Caller(who, link, token)


async def _caller(
    request: Request, opened: Annotated[Caller, Depends(_opened)], idempotency_key: IdempotencyKey = None
) -> Caller:
    """It is a coroutine, so that sentences speak in the units of the coach from here on."""
    speak(opened.who.units)
    return Caller(await sent(request, opened.who, idempotency_key), opened.link, opened.token)


CallerDep = Annotated[Caller, Depends(_caller)]


@router.get("/my")
def read_my_page(caller: CallerDep, database: DatabaseDep, now: NowDep, response: Response) -> MyPageView:
    """The client's days: what is eaten when, how it is warmed up, what thaws tonight."""
    response.headers["Cache-Control"] = "no-store"
    links.mark_seen(database, caller.who, caller.link, now)
    return my.read_my_page(database, caller.who, caller.link, caller.token, now)


@router.post("/my/eaten", status_code=204)
def tell_eaten(payload: EatenInput, caller: CallerDep, database: DatabaseDep, now: NowDep) -> None:
    """Tell what became of a container."""
    my.tell_eaten(database, caller.who, caller.link, payload, now)


@router.post("/my/swaps", status_code=204)
def swap_containers(payload: SwapInput, caller: CallerDep, database: DatabaseDep, now: NowDep) -> None:
    """Let two containers change their days."""
    my.swap(database, caller.who, caller.link, payload, now)


@router.post("/my/words", status_code=204)
def say_to_coach(payload: ClientWordInput, caller: CallerDep, database: DatabaseDep, now: NowDep) -> None:
    """A word to the coach."""
    my.say(database, caller.who, caller.link, payload, now)


@router.put("/my/macros", status_code=204)
def show_macros(payload: MacrosInput, caller: CallerDep, database: DatabaseDep) -> None:
    """Show macros on the page, or not."""
    my.show_macros(database, caller.who, caller.link, payload)


@router.get("/my/kitchen")
def read_my_kitchen(caller: CallerDep, database: DatabaseDep, now: NowDep) -> MyKitchenView:
    """What the client may cook alone: amounts for their containers, steps, cautions."""
    return my.read_my_kitchen(database, caller.who, caller.link, now)


@router.get("/my/kitchen/{batch_id}/{component_id}")
def read_my_shares(
    batch_id: uuid.UUID,
    component_id: uuid.UUID,
    pan_g: Annotated[float, Query(ge=1, le=1_000_000)],
    caller: CallerDep,
    database: DatabaseDep,
    now: NowDep,
) -> MySharesView:
    """Grams for each container when the pan weighs so much."""
    return my.read_my_shares(database, caller.who, caller.link, batch_id, component_id, pan_g, now)


@router.get("/my/calendar/{token}.ics")
def read_my_calendar(token: str, request: Request, database: DatabaseDep, now: NowDep) -> Response:
    """What the client eats and thaws when, for whoever knows this address."""
    with counted(request):
        who, link = links.open_feed(database, token, now)
    content = my.my_calendar(database, who, link, now)
    return Response(content, media_type="text/calendar; charset=utf-8", headers={"Cache-Control": "private, no-cache"})


@router.get("/clients/{client_id}/page")
def read_client_page(client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, now: NowDep) -> ClientPageView:
    """The links of a client, and words that came by them."""
    return links.read_client_page(database, who, client_id, now)


@router.post("/clients/{client_id}/links", status_code=201)
def make_client_link(
    client_id: uuid.UUID, payload: LinkInput, database: DatabaseDep, who: SenderDep, settings: SettingsDep, now: NowDep
) -> NewLinkView:
    """Make a link for a client: its address is shown this once."""
    return links.make_link(database, who, client_id, payload, settings.lan_address, now)


@router.post("/clients/{client_id}/links/{link_id}/revoked")
def revoke_client_link(
    client_id: uuid.UUID, link_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep
) -> ClientPageView:
    """Let a link work no more."""
    return links.revoke_link(database, who, client_id, link_id, now)


@router.post("/clients/{client_id}/words/read")
def mark_words_read(client_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep) -> ClientPageView:
    """The coach has read what a client wrote."""
    return links.mark_words_read(database, who, client_id, now)
