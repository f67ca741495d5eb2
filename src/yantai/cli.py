"""What the launcher calls inside the virtual environment: `python -m yantai.cli COMMAND`."""

from __future__ import annotations

import sys
from types import FrameType
from typing import Annotated

import typer
import uvicorn

from yantai import logs
from yantai.api.app import contract, create_app
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD, load_demo
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


@cli.command()
def serve(port: Annotated[int, typer.Option()]) -> None:
    """Serve on the loopback address."""
    logs.write()
    app = create_app(Settings())

    class Server(uvicorn.Server):
        """Ends the open event streams first, because a server waits until every answer is finished."""

        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            app.state.events.end()
            super().handle_exit(sig, frame)

    Server(
        uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning", log_config=None, access_log=False)
    ).run()


@cli.command()
def work() -> None:
    """Take long work from the queue until told to stop; any number of these share it."""
    logs.write()
    worker.run(Settings())


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
