"""How many queries and how long it takes to look at plans.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.reads
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

from sqlalchemy import delete, event
from tests.kitchens import planned
from tests.support import database, new_kitchen

from yantai.store import tables
from yantai.work.batches.lists import list_batches
from yantai.work.batches.reading import read_plan
from yantai.work.plan.days import read_plan_days
from yantai.work.plan.reach import read_reach
from yantai.work.plan.ways.all_ways import read_ways

TIMES = 7


def measured(read: Callable[[], object], before: Callable[[], None] = lambda: None) -> str:
    """Queries of one read, and the median time [ms]; `before` is done before each and not counted."""
    read()
    before()
    statements: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_: object) -> None:
        statements.append(statement)

    event.listen(database().engine, "before_cursor_execute", note)
    read()
    event.remove(database().engine, "before_cursor_execute", note)
    took = []
    for _ in range(TIMES):
        before()
        began = time.perf_counter()
        read()
        took.append((time.perf_counter() - began) * 1000)
    asked = sum("set_config" not in statement for statement in statements)
    return f"{asked} queries, {statistics.median(took):.1f} ms"


def main() -> None:
    """Print a table."""
    who = new_kitchen()
    plan = planned(who)
    batch, row = plan.batch.id, plan.rows[0].id
    print("| plan |", measured(lambda: read_plan(database(), who, batch)), "|")
    print("| whole days |", measured(lambda: read_plan_days(database(), who, batch)), "|")
    print("| reach map |", measured(lambda: read_reach(database(), who, batch)), "|")

    def forget() -> None:
        with database().workspace(who.workspace_id) as session:
            session.execute(delete(tables.KeptAnswer))

    print("| ways out, first asked |", measured(lambda: read_ways(database(), who, batch, row), forget), "|")
    print("| ways out, asked again |", measured(lambda: read_ways(database(), who, batch, row)), "|")
    made = 1
    for count in (10, 100):
        for _ in range(count - made):
            planned(who)
        made = count
        print(f"| Today and batches, {count} |", measured(lambda: list_batches(database(), who)), "|")


if __name__ == "__main__":
    main()
