"""Who is calling: session cookie, CSRF token and the limit on sign-in attempts."""

from __future__ import annotations

import json
import secrets
import uuid
from collections.abc import Awaitable, Callable
from dataclasses import replace
from datetime import UTC, datetime
from hashlib import sha256
from typing import Annotated

from fastapi import Depends, Header, Request
from limits import RateLimitItemPerMinute
from limits.storage import MemoryStorage
from limits.strategies import MovingWindowRateLimiter

from yantai.core.rights import Right
from yantai.core.speaking import speak
from yantai.settings import Settings
from yantai.store.database import Database, limit_to
from yantai.work.accounts.sessions import resume
from yantai.work.common.errors import NotAllowed, NotSignedIn
from yantai.work.common.who import Sent, SignedIn

COOKIE = "yantai_session"
CSRF_HEADER = "X-CSRF-Token"
_SAFE_METHODS = ("GET", "HEAD", "OPTIONS")


class WrongOrigin(Exception):
    """A changing request without the page's CSRF token."""


class TooManyAttempts(Exception):
    """Sign-in was tried too often."""


class SignInLimit:
    """At most 8 attempts a minute for an address, and 40 from one network address."""

    def __init__(self) -> None:
        self._limiter = MovingWindowRateLimiter(MemoryStorage())

    def count(self, email: str, host: str) -> None:
        """Count an attempt.

        Raises:
            TooManyAttempts: it is one too many.
        """
        by_email = self._limiter.hit(RateLimitItemPerMinute(8), "email", email.strip().casefold())
        by_host = self._limiter.hit(RateLimitItemPerMinute(40), "host", host)
        if not (by_email and by_host):
            raise TooManyAttempts


class LinkLimit:
    """Who asks by links that are none is not answered any more after 20 of them in a minute, whatever they ask for."""

    def __init__(self) -> None:
        self._limiter, self._most = MovingWindowRateLimiter(MemoryStorage()), RateLimitItemPerMinute(20)

    def count(self, host: str) -> None:
        """Count a link that is none."""
        self._limiter.hit(self._most, "link", host)

    def check(self, host: str) -> None:
        """Look before a link is looked up.

        Raises:
            TooManyAttempts: there were too many that are none.
        """
        if not self._limiter.test(self._most, "link", host):
            raise TooManyAttempts


def get_database(request: Request) -> Database:
    """The application's database."""
    database: Database = request.app.state.database
    return database


def get_settings(request: Request) -> Settings:
    """The application's settings."""
    settings: Settings = request.app.state.settings
    return settings


def get_now() -> datetime:
    """The clock."""
    return datetime.now(UTC)


DatabaseDep = Annotated[Database, Depends(get_database)]
SettingsDep = Annotated[Settings, Depends(get_settings)]
NowDep = Annotated[datetime, Depends(get_now)]


def get_account(request: Request, database: DatabaseDep, now: NowDep) -> SignedIn:
    """The account behind the session cookie; a changing request must carry the CSRF token too."""
    token = request.cookies.get(COOKIE)
    if not token:
        raise NotSignedIn("Sign in first.")
    who = resume(database, token, now)
    if request.method not in _SAFE_METHODS:
        sent = request.headers.get(CSRF_HEADER, "")
        if not secrets.compare_digest(sent.encode(), who.csrf_token.encode()):
            raise WrongOrigin
    return who


AccountDep = Annotated[SignedIn, Depends(get_account)]
"""Whoever is signed in, whatever they may do."""


_MAY = {Right.SHOP: "shop", Right.COOK: "cook, weigh and fill"}
Rule = Callable[[SignedIn], Awaitable[SignedIn]]


def _whoever_may(*rights: Right) -> Rule:
    """A coach, or a helper with one of these rights."""

    async def get_one_who_may(who: Annotated[SignedIn, Depends(get_account)]) -> SignedIn:
        """It is a coroutine, so that it runs in the request's own task: the thread of the route starts from its
        context, and sentences speak in the units of this person from here on."""
        speak(who.units)
        if who.rights is not None and who.rights.isdisjoint(rights):
            may = " and ".join(_MAY[right] for right in sorted(who.rights))
            raise NotAllowed(f"This device was paired to {may}, and may do no more. Ask the coach for the rest.")
        # What the database lets a helper do, it lets their transactions do.
        limit_to(who.rights)
        return who

    return get_one_who_may


_coach, _shopper, _cook, _helper = (
    _whoever_may(), _whoever_may(Right.SHOP), _whoever_may(Right.COOK), _whoever_may(*Right)
)  # fmt: skip

SignedInDep = Annotated[SignedIn, Depends(_coach)]
"""The coach."""
ShopperDep = Annotated[SignedIn, Depends(_shopper)]
"""Somebody who may shop: a coach, or a helper whose device was paired for it."""
CookDep = Annotated[SignedIn, Depends(_cook)]
"""Somebody who may cook, weigh and fill."""
HelperDep = Annotated[SignedIn, Depends(_helper)]
"""A coach, or any helper."""


IdempotencyKey = Annotated[
    uuid.UUID | None,
    Header(alias="idempotency-key", description="Made by the caller: what is sent with it is made once."),
]


def _sender(rule: Rule) -> Callable[..., Awaitable[SignedIn]]:
    """The same person, with the id that a wish was sent with."""
    known = Depends(rule)

    async def get_sender(request: Request, who: SignedIn = known, idempotency_key: IdempotencyKey = None) -> SignedIn:
        return await sent(request, who, idempotency_key)

    return get_sender


async def sent(request: Request, who: SignedIn, idempotency_key: uuid.UUID | None) -> SignedIn:
    """The same person, with the id that a wish was sent with, and the digest of what was wished."""
    if idempotency_key is None:
        return who
    asked = f"{request.method} {request.url.path}?{request.url.query}\n"
    digest = sha256(asked.encode() + _wished(await request.body())).hexdigest()
    return replace(who, sent=Sent(command_id=idempotency_key, digest=digest))


def _wished(body: bytes) -> bytes:
    """What was wished, without when it was sent: each try says its own time, and is the same wish."""
    if b'"sent_at"' not in body:
        return body
    try:
        said = json.loads(body)
    except ValueError:
        return body
    if isinstance(said, dict):
        said.pop("sent_at", None)
    return json.dumps(said, sort_keys=True).encode()


SenderDep = Annotated[SignedIn, Depends(_sender(_coach))]
"""Who is signed in, where something is written: what came with an id is made once."""
ShoppingSenderDep = Annotated[SignedIn, Depends(_sender(_shopper))]
"""The same for somebody who may shop."""
CookSenderDep = Annotated[SignedIn, Depends(_sender(_cook))]
"""The same for somebody who may cook."""
