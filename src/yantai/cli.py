"""What the launcher calls inside the virtual environment: `python -m yantai.cli COMMAND`."""

from __future__ import annotations

import asyncio
import signal
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import FrameType
from typing import Annotated, Any

import typer
import uvicorn
from starlette.types import ASGIApp

from yantai import lan, logs
from yantai.api.app import contract, create_app
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD, load_demo
from yantai.devices.post_office import PostOffice
from yantai.jobs import worker
from yantai.settings import Settings
from yantai.store import migrate
from yantai.store.database import UNHURRIED, Database, UnsafeRole
from yantai.work.accounts.sessions import create_workspace
from yantai.work.common.errors import Invalid
from yantai.work.pantry.reference import load_reference

cli = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


@cli.command()
def openapi() -> None:
    """Print the API's OpenAPI document, in the order of its names."""
    app = create_app(Settings(database_url="postgresql+psycopg://nobody@127.0.0.1:1/none"))
    sys.stdout.write(contract(app))


@cli.command()
def prepare() -> None:
    """Migrate the database, load the reference foods and, on a demo installation, the demo data."""
    settings = Settings()
    database = Database(settings.database_url, UNHURRIED)
    try:
        database.refuse_unsafe_role()
    except UnsafeRole as error:
        sys.exit(str(error))
    try:
        migrate.ensure_current(database.engine)
    except migrate.OtherSchema as error:
        sys.exit(str(error))
    load_reference(database)
    if settings.demo:
        load_demo(database)
        sys.stdout.write(f"Sign in as {DEMO_EMAIL} with the password {DEMO_PASSWORD}\n")


LanFolder = Annotated[Path | None, typer.Option("--lan", help="where the authority of the local network is kept")]


@cli.command()
def serve(port: Annotated[int, typer.Option()], lan_folder: LanFolder = None) -> None:
    """Serve on the loopback address; with a folder for its authority on the local network too, encrypted."""
    logs.write()
    settings = Settings()
    if lan_folder is None:
        app, others = create_app(settings), []
    else:
        found = lan.prepare(lan_folder, lan.own_names())
        on_the_network = {
            "hosts": " ".join([settings.hosts, *found.names]),
            "lan_address": f"https://{found.name}:{port + 1}",
        }
        app = create_app(settings.model_copy(update=on_the_network))
        secure = {"ssl_certfile": found.certificate, "ssl_keyfile": found.key}
        # The application begins and ends with the first server; the others stand beside it.
        others = [
            _Beside(_config(app, "0.0.0.0", port + 1, lifespan="off", **secure)),  # noqa: S104 -- it was asked for
            _Beside(_config(lan.trust_page(found, port + 1), "0.0.0.0", port + 2, lifespan="off")),  # noqa: S104
        ]

    class Server(uvicorn.Server):
        """Ends the open event streams first, because a server waits until every answer is finished."""

        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            app.state.events.end()
            app.state.readings.end()
            for other in others:
                other.should_exit = True
            super().handle_exit(sig, frame)

    servers = [Server(_config(app, "127.0.0.1", port)), *others]

    async def all_of_them() -> None:
        await asyncio.gather(*(server.serve() for server in servers))

    asyncio.run(all_of_them())


def _config(app: ASGIApp, host: str, port: int, **more: Any) -> uvicorn.Config:
    return uvicorn.Config(app, host=host, port=port, log_level="warning", log_config=None, access_log=False, **more)


class _Beside(uvicorn.Server):
    """A server that ends with the first one, which alone hears the signals."""

    @contextmanager
    def capture_signals(self) -> Iterator[None]:
        """None are."""
        yield


@cli.command()
def tell_lan(port: Annotated[int, typer.Option()], folder: Annotated[Path, typer.Option()]) -> None:
    """Make the authority of the local network, and say where the application is reached there."""
    sys.stdout.write(lan.told(lan.prepare(folder, lan.own_names()), port + 1, port + 2))


@cli.command()
def work() -> None:
    """Take long work from the queue until told to stop; any number of these share it."""
    logs.write()
    worker.run(Settings())


@cli.command()
def post_office(port: Annotated[int, typer.Option()], folder: Annotated[Path, typer.Option()]) -> None:
    """Stand in for a mail server until told to stop: it delivers nothing, and keeps what arrives in a folder."""
    logs.write()
    office = PostOffice(folder, port)
    office.open()
    stop = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stop.set())
    stop.wait()
    office.close()


@cli.command()
def account(email: str, name: str) -> None:
    """Make a workspace with a coach's account; the password is asked for."""
    password = typer.prompt("Password", hide_input=True, confirmation_prompt=True)
    database = Database(Settings().database_url)
    try:
        create_workspace(database, name=f"{name}’s kitchen", email=email, coach=name, password=password)
    except Invalid as error:
        sys.exit(" ".join(fault.message for fault in error.faults))
    sys.stdout.write(f"{name} can sign in as {email}.\n")


if __name__ == "__main__":
    cli()
