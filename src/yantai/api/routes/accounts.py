"""Signing in and out, and what a person sets."""

from __future__ import annotations

import uuid

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from yantai.api.access import COOKIE, AccountDep, DatabaseDep, HelperDep, NowDep, SenderDep, SettingsDep, SignedInDep
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD
from yantai.settings import Settings
from yantai.work.accounts import feeds, pairing, person, sessions
from yantai.work.accounts.inputs import CodeInput, Credentials, FeedInput, PairingInput, PersonInput
from yantai.work.accounts.views import AccountView, DeviceView, FeedAddressView, FeedView, PairingView
from yantai.work.common.health import HealthView, read_health

router = APIRouter(tags=["accounts"])


class Demo(BaseModel):
    """The demo sign-in, shown on demo installations only."""

    email: str
    password: str


class Installation(BaseModel):
    """What the sign-in page needs to know."""

    demo: Demo | None


@router.get("/health")
def check_health(database: DatabaseDep) -> HealthView:
    """The server, the database and its queue are up."""
    return read_health(database)


@router.get("/installation")
def read_installation(settings: SettingsDep) -> Installation:
    """Whether this is a demo installation."""
    return Installation(demo=Demo(email=DEMO_EMAIL, password=DEMO_PASSWORD) if settings.demo else None)


@router.post("/session", status_code=201)
def sign_in(
    payload: Credentials,
    request: Request,
    response: Response,
    database: DatabaseDep,
    settings: SettingsDep,
    now: NowDep,
) -> AccountView:
    """Open a session."""
    request.app.state.sign_in_limit.count(payload.email, request.client.host if request.client else "")
    token, who = sessions.sign_in(database, payload.email, payload.password, now)
    _remember(request, response, token, settings)
    return sessions.account_view(database, who)


def _remember(request: Request, response: Response, token: str, settings: Settings) -> None:
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(sessions.SESSION_LASTS.total_seconds()),
        httponly=True,
        samesite="lax",
        # What was sent over an encrypted connection goes over no other.
        secure=settings.secure_cookie or request.url.scheme == "https",
    )


@router.post("/session/paired", status_code=201)
def sign_in_by_code(
    payload: CodeInput,
    request: Request,
    response: Response,
    database: DatabaseDep,
    settings: SettingsDep,
    now: NowDep,
) -> AccountView:
    """Open a session of a helper by a code that a coach showed; it works once."""
    request.app.state.sign_in_limit.count("paired", request.client.host if request.client else "")
    token = pairing.take_pairing(database, payload.code, payload.device, now)
    _remember(request, response, token, settings)
    return sessions.account_view(database, sessions.resume(database, token, now))


@router.post("/pairings", status_code=201)
def start_pairing(
    payload: PairingInput, database: DatabaseDep, settings: SettingsDep, who: SenderDep, now: NowDep
) -> PairingView:
    """Make a code that lets a helper's phone shop."""
    return pairing.start_pairing(database, who, payload, settings.lan_address, now)


@router.get("/devices")
def list_devices(database: DatabaseDep, who: SignedInDep, now: NowDep) -> list[DeviceView]:
    """The browsers that are signed in."""
    return pairing.list_devices(database, who, now)


@router.post("/devices/{device_id}/ended", status_code=204)
def end_device(device_id: uuid.UUID, database: DatabaseDep, who: SenderDep) -> None:
    """Sign a browser out."""
    pairing.end_device(database, who, device_id)


@router.get("/calendar")
def read_feed_state(database: DatabaseDep, who: SignedInDep) -> FeedView | None:
    """The calendar that is read by a secret address; null where there is none."""
    return feeds.feed_state(database, who)


@router.post("/calendar", status_code=201)
def make_feed(
    payload: FeedInput, database: DatabaseDep, settings: SettingsDep, who: SenderDep, now: NowDep
) -> FeedAddressView:
    """Make a secret address for the calendar; the one before works no more."""
    return feeds.make_feed(database, who, payload, settings.lan_address, now)


@router.post("/calendar/ended", status_code=204)
def end_feed(database: DatabaseDep, who: SenderDep) -> None:
    """Let the secret address work no more."""
    feeds.end_feed(database, who)


@router.get("/session")
def read_session(database: DatabaseDep, who: HelperDep) -> AccountView:
    """Who is signed in, and the CSRF token for changing requests."""
    return sessions.account_view(database, who)


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, database: DatabaseDep, who: AccountDep) -> None:
    """End the session."""
    sessions.sign_out(database, who, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)


@router.put("/person")
def change_person(payload: PersonInput, database: DatabaseDep, who: SenderDep) -> AccountView:
    """Set how figures are shown to the person who is signed in."""
    return person.save_person(database, who, payload)
