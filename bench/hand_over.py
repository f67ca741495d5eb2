"""Handing over: 200 labels on each sheet and roll, and the calendars of 60 clients.

PYTHONPATH=src:. python -m bench.hand_over
"""

from __future__ import annotations

import random
import statistics
import time

from tests.core.storage.test_calendar import random_week
from tests.formats.test_labels import numbered

from yantai.core.storage.assign import eating_calendar
from yantai.formats.label_document import GRIDS
from yantai.formats.labels_pdf import set_labels

LABELS, CLIENTS = 200, 60


def main() -> None:
    labels = numbered(LABELS)
    for grid in GRIDS.values():
        began = time.perf_counter()
        pdf = set_labels(labels, grid).pdf
        print(f"{LABELS} labels, {grid.name}: {time.perf_counter() - began:.2f} s, {len(pdf) / 1000:.0f} kB")
    chance, took, containers = random.Random(1), [], []
    for _ in range(CLIENTS):
        classes, weeks = random_week(chance, most=7)
        began = time.perf_counter()
        eating_calendar(classes, weeks)
        took.append(1000 * (time.perf_counter() - began))
        containers.append(sum(one.count for one in classes))
    print(
        f"{CLIENTS} calendars of {min(containers)} to {max(containers)} containers: {sum(took) / 1000:.1f} s, "
        f"median {statistics.median(took):.0f} ms, longest {max(took):.0f} ms"
    )


if __name__ == "__main__":
    main()
