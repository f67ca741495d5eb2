"""Signing in and out, and what a person sets."""

from __future__ import annotations

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from yantai.api.access import COOKIE, DatabaseDep, NowDep, SenderDep, SettingsDep, SignedInDep
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD
from yantai.work.accounts import person, sessions
from yantai.work.accounts.inputs import Credentials, PersonInput
from yantai.work.accounts.views import AccountView
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
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(sessions.SESSION_LASTS.total_seconds()),
        httponly=True,
        samesite="lax",
        secure=settings.secure_cookie,
    )
    return sessions.account_view(database, who)


@router.get("/session")
def read_session(database: DatabaseDep, who: SignedInDep) -> AccountView:
    """Who is signed in, and the CSRF token for changing requests."""
    return sessions.account_view(database, who)


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, database: DatabaseDep, who: SignedInDep) -> None:
    """End the session."""
    sessions.sign_out(database, who, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)


@router.put("/person")
def change_person(payload: PersonInput, database: DatabaseDep, who: SenderDep) -> AccountView:
    """Set how figures are shown to the person who is signed in."""
    return person.save_person(database, who, payload)
