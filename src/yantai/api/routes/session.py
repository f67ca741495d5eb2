"""Signing in and out."""

from __future__ import annotations

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from yantai.api.access import COOKIE, DatabaseDep, NowDep, SettingsDep, SignedInDep
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD
from yantai.work import accounts
from yantai.work.inputs import Credentials
from yantai.work.views import AccountView

router = APIRouter(tags=["session"])


class Demo(BaseModel):
    """The demo sign-in, shown on demo installations only."""

    email: str
    password: str


class Installation(BaseModel):
    """What the sign-in page needs to know."""

    demo: Demo | None


@router.get("/health")
def check_health() -> str:
    """The server is up."""
    return "ok"


@router.get("/installation")
def read_installation(settings: SettingsDep) -> Installation:
    """Whether this is a demo installation."""
    return Installation(demo=Demo(email=DEMO_EMAIL, password=DEMO_PASSWORD) if settings.demo else None)


@router.post("/session", status_code=201)
def sign_in(
    given: Credentials, request: Request, response: Response, database: DatabaseDep, settings: SettingsDep, now: NowDep
) -> AccountView:
    """Open a session."""
    request.app.state.sign_in_limit.count(given.email, request.client.host if request.client else "")
    token, who = accounts.sign_in(database, given.email, given.password, now)
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(accounts.SESSION_LASTS.total_seconds()),
        httponly=True,
        samesite="lax",
        secure=settings.secure_cookie,
    )
    return accounts.account_view(database, who)


@router.get("/session")
def read_session(database: DatabaseDep, who: SignedInDep) -> AccountView:
    """Who is signed in, and the CSRF token for changing requests."""
    return accounts.account_view(database, who)


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, database: DatabaseDep, who: SignedInDep) -> None:
    """End the session."""
    accounts.sign_out(database, who, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)
