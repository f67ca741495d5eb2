"""The application."""

from __future__ import annotations

import asyncio
import json
import secrets
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import structlog
from fastapi import APIRouter, FastAPI, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse
from fastapi.routing import APIRoute
from sqlalchemy.exc import OperationalError
from starlette.datastructures import MutableHeaders
from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from yantai.api import problems
from yantai.api.access import LinkLimit, SignInLimit, TooManyAttempts, WrongOrigin
from yantai.api.events import BatchEvents
from yantai.api.readings import ReadingStreams
from yantai.api.routes import (
    accounts,
    batches,
    clients,
    containers,
    cook,
    fill,
    forms,
    handover,
    instruments,
    kitchen,
    learn,
    my,
    outbox,
    pantry,
    plan,
    recipes,
    records,
    returns,
    shop,
    surveys,
    today,
)
from yantai.logs import get_logger
from yantai.settings import Settings
from yantai.store.database import Database

log = get_logger(__name__)
ROOMS = (
    accounts,
    kitchen,
    instruments,
    pantry,
    clients,
    forms,
    recipes,
    surveys,
    batches,
    plan,
    shop,
    cook,
    fill,
    containers,
    handover,
    my,
    learn,
    outbox,
    returns,
    records,
    today,
)
PREFIX = "/api/v1"
WEB = Path(__file__).resolve().parents[1] / "web"
"""The built front end, which is part of the package."""
_DATABASE_TRIES = 60
_DATABASE_PAUSE_S = 0.5
LARGEST_BODY = 2 * 1024 * 1024
LARGEST_FILE = 16 * 1024 * 1024
FILE_PATHS = (f"{PREFIX}/foods/import", f"{PREFIX}/recipes/read", f"{PREFIX}/batches/import")

SECURITY_HEADERS = {
    # Radix places its pop-ups by inline styles, so styles may be inline; scripts may not.
    "Content-Security-Policy": "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Robots-Tag": "noindex, nofollow",
}


def create_app(settings: Settings) -> FastAPI:
    """The application on the database of `settings`, with the built front end when there is one."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        await _wait_for(app.state.database)
        app.state.events.start()
        app.state.readings.start()
        yield
        app.state.readings.stop()
        app.state.events.stop()
        app.state.database.close()

    app = FastAPI(
        title="Yantai",
        version="1",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url=f"{PREFIX}/openapi.json",
        generate_unique_id_function=_operation_id,
        separate_input_output_schemas=False,
    )
    app.state.settings = settings
    app.state.database = Database(settings.database_url, settings.limits)
    app.state.events = BatchEvents(app.state.database.engine)
    app.state.readings = ReadingStreams()
    app.state.sign_in_limit = SignInLimit()
    app.state.link_limit = LinkLimit()
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    app.add_middleware(_Guard, hosts=settings.host_names)
    problems.install(app)
    app.add_exception_handler(WrongOrigin, _wrong_origin)
    app.add_exception_handler(TooManyAttempts, _too_many)
    described: dict[int | str, dict[str, Any]] = {
        "4XX": {"model": problems.Problem, "description": "What is wrong, where, and the mend"},
        422: {"model": problems.Problem, "description": "A value makes no sense"},
    }
    api = APIRouter(prefix=PREFIX, responses=described)
    for room in ROOMS:
        api.include_router(room.router)
    app.include_router(api)
    app.add_api_route("/{path:path}", _page, include_in_schema=False, methods=["GET", "HEAD"])
    return app


def contract(app: FastAPI) -> str:
    """What the API says of itself (OpenAPI), in the order of its names, as docs/openapi.json keeps it."""
    return json.dumps(app.openapi(), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


def _operation_id(route: APIRoute) -> str:
    return route.name


async def _wait_for(database: Database) -> None:
    """Until the database answers: after a power cut it may come up later than the application.

    Raises:
        UnsafeRole: row-level security does not bind its role.
        OperationalError: it has not answered for half a minute.
    """
    for _ in range(_DATABASE_TRIES - 1):
        try:
            return await run_in_threadpool(database.refuse_unsafe_role)
        except OperationalError:
            await asyncio.sleep(_DATABASE_PAUSE_S)
    return await run_in_threadpool(database.refuse_unsafe_role)


class _Guard:
    """Answers to its own names only and to pages from here, bounds the body of a request, answers our own faults, adds
    the security headers to every answer, and logs it."""

    def __init__(self, app: ASGIApp, hosts: frozenset[str]) -> None:
        self.app = app
        self.hosts = hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        started, status, began = False, 0, time.perf_counter()
        number = secrets.token_hex(6)
        structlog.contextvars.clear_contextvars()
        structlog.contextvars.bind_contextvars(request=number)

        async def send_with_headers(message: Message) -> None:
            nonlocal started, status
            if message["type"] == "http.response.start":
                started, status = True, message["status"]
                headers = MutableHeaders(scope=message)
                for name, value in SECURITY_HEADERS.items():
                    headers[name] = value
                headers["X-Request-ID"] = number
            await send(message)

        request = Request(scope)
        app = _stranger(request, self.hosts) or _refusal(request) or self.app
        try:
            await app(scope, receive, send_with_headers)
        except Exception as error:
            # Answered here, so that nothing above cuts the connection after a half-said answer.
            if started:
                raise
            await problems.failed(request, error)(scope, receive, send_with_headers)
        finally:
            took_ms = round((time.perf_counter() - began) * 1000, 1)
            log.info("answered", method=request.method, path=request.url.path, status=status, took_ms=took_ms)


def _stranger(request: Request, hosts: frozenset[str]) -> Response | None:
    """Why a request is not answered: it asks for another name, or comes from a page of another."""
    host = request.headers.get("host", "").casefold()
    if _name(host) not in hosts:
        return problems.problem(
            421,
            "wrong-host",
            "Not the name of this server",
            f"This server does not answer to “{host[:80]}”. Open it by the address that it told when it was started.",
        )
    origin = request.headers.get("origin")
    if request.method in ("GET", "HEAD", "OPTIONS") or origin is None or urlsplit(origin).netloc.casefold() == host:
        return None
    return problems.problem(
        403,
        "wrong-origin",
        "Not from this page",
        f"A page of “{origin[:80]}” sent this. Open the page of this server and do it there.",
    )


def _name(host: str) -> str:
    """The name of a host without its port."""
    name, _, port = host.rpartition(":")
    return name if name and port.isdigit() else host


def _refusal(request: Request) -> Response | None:
    """Why the body of a request is not taken: it is too large, or does not say how large it is."""
    length = request.headers.get("content-length")
    if length is None:
        if "transfer-encoding" not in request.headers:
            return None
        return problems.problem(411, "invalid", "How large?", "Send the request with its length.")
    largest = LARGEST_FILE if request.url.path in FILE_PATHS else LARGEST_BODY
    if length.isdigit() and int(length) <= largest:
        return None
    words = f"This is more than the {largest // 1024**2} MB that fit in one request. Split the file in parts."
    return problems.problem(413, "invalid", "Too large", words)


async def _wrong_origin(_request: Request, _error: Exception) -> Response:
    return problems.problem(
        403,
        "wrong-origin",
        "Not from this page",
        "The request does not carry this session's token. Reload the page and do it again.",
    )


async def _too_many(_request: Request, _error: Exception) -> Response:
    return problems.problem(
        429,
        "too-many-attempts",
        "Too many attempts",
        "This was tried too often. Wait a minute, then try again.",
        headers={"Retry-After": "60"},
    )


def _page(path: str) -> Response:
    """A file of the front end, or its page for any address the router in the browser knows."""
    if path.startswith("api/"):
        return problems.problem(404, "missing", "Not found", "There is no such address in this API.")
    file = (WEB / path).resolve()
    if path and file.is_file() and file.is_relative_to(WEB):
        # Names under assets/ carry a hash of their content, so they never change.
        lasting = "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
        return FileResponse(file, headers={"Cache-Control": lasting})
    if not (WEB / "index.html").is_file():
        return problems.problem(
            503, "failed", "Not built", "The front end is not built. Run ./yantai start, which builds it."
        )
    # A client's own page is a small one of its own.
    page = "my.html" if path in ("my", "form") else "index.html"
    return FileResponse(WEB / page, headers={"Cache-Control": "no-cache"})
