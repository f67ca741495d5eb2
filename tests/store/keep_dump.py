"""Keeps a database of this version, and what its API tells, for the upgrades to come: once for each release.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m tests.store.keep_dump
"""

from __future__ import annotations

import json
import lzma
import subprocess
import sys
from datetime import date
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import make_url, text

from tests.api.case import API, command, food_id
from tests.store.test_upgrades import UPGRADES
from tests.support import make_database
from yantai.api.app import create_app
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD, load_demo
from yantai.settings import Settings
from yantai.store import migrate
from yantai.store.database import Database
from yantai.work.pantry.reference import load_reference

DAY = date(2026, 11, 24)
PLANNED = "Kofta Sunday"


def keep() -> Path:
    """Write the folder of the newest migration; where it is."""
    url = make_database("yantai_kept")
    database = Database(url)
    migrate.upgrade(database.engine)
    load_reference(database)
    load_demo(database, DAY)
    app = create_app(Settings(database_url=url, demo=True, hosts="testserver"))
    client = TestClient(app)
    session = client.post(f"{API}/session", json={"email": DEMO_EMAIL, "password": DEMO_PASSWORD}).json()
    client.headers["X-CSRF-Token"] = session["csrf_token"]
    leave_traces(client)
    told = tell(client)
    with database.engine.connect() as connection:
        version = connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one()
    folder = UPGRADES / str(version)
    folder.mkdir(parents=True, exist_ok=True)
    written = json.dumps(told, separators=(",", ":"), sort_keys=True)
    (folder / "told.json.xz").write_bytes(lzma.compress(written.encode(), preset=9))
    (folder / "dump.sql.xz").write_bytes(lzma.compress(dump(database, url), preset=9))
    app.state.database.close()
    database.close()
    return folder


def leave_traces(client: TestClient) -> None:
    """Change a planned batch in every way that leaves something behind."""
    batch_id = next(batch["id"] for batch in get(client, "/batches") if batch["name"] == PLANNED)
    plan = get(client, f"/batches/{batch_id}/plan")
    meat, grain, vegetable, sauce = plan["components"]
    rows = plan["rows"]

    def weigh(component: dict[str, Any], came_out: float, vessel_g: float) -> dict[str, Any]:
        vessel = {"gross_g": round(component["cooked_g"] * came_out) + vessel_g, "vessel_g": vessel_g}
        return {"kind": "weigh", "component_id": component["id"], "vessels": [vessel]}

    for change in (
        {"kind": "pin", "row_id": rows[0]["id"], "component_id": grain["id"], "grams": 210},
        {"kind": "bounds", "component_id": vegetable["id"], "minimum_g": 70, "maximum_g": 240},
        {"kind": "containers", "row_id": rows[1]["id"], "count": 3, "capacity_ml": 900},
        weigh(meat, 1.04, 1312),
        weigh(meat, 0.97, 1312),
        weigh(grain, 1.0, 0),
        {"kind": "withdraw", "component_id": grain["id"]},
        {"kind": "add-line", "component_id": sauce["id"], "food_id": food_id("olive-oil"), "purchased_g": 25},
    ):
        body = command(get(client, f"/batches/{batch_id}/plan"), change, confirmed=True)
        client.post(f"{API}/batches/{batch_id}/changes", json=body).raise_for_status()


def tell(client: TestClient) -> dict[str, Any]:
    """All that the version tells of its records, by address."""
    lists = {address: get(client, address) for address in ("/batches", "/clients", "/recipes", "/yields", "/settings")}
    batches = [f"/batches/{one['id']}/{what}" for one in lists["/batches"] for what in ("plan", "days")]
    records = [f"{address}/{one['id']}" for address in ("/clients", "/recipes") for one in lists[address]]
    return lists | {address: get(client, address) for address in [*batches, *records]}


def get(client: TestClient, address: str) -> Any:
    return client.get(f"{API}{address}").raise_for_status().json()


def dump(database: Database, url: str) -> bytes:
    """The database as SQL. Its owner sees all rows only while row-level security is not forced, which the dump does."""
    forced = text("SELECT relname FROM pg_class WHERE relforcerowsecurity")
    with database.engine.begin() as connection:
        names = sorted(connection.scalars(forced))
        for name in names:
            connection.execute(text(f'ALTER TABLE "{name}" NO FORCE ROW LEVEL SECURITY'))
    database.close()
    plain = make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)
    done = subprocess.run(["pg_dump", "--no-owner", "--no-privileges", plain], capture_output=True, check=True)
    force = "".join(f'ALTER TABLE public."{name}" FORCE ROW LEVEL SECURITY;\n' for name in names)
    return done.stdout + force.encode()


if __name__ == "__main__":
    sys.stdout.write(f"Kept in {keep()}\n")
