"""How often honest weighings are questioned, and slips missed: docs/scale-doubts.md.

Run by hand: `.venv/bin/python -m bench.scale_doubts`. Pans are drawn from the reference's yields; an honest one weighs
what its own range says (98 of 100 inside), a slip is made on purpose.
"""

from __future__ import annotations

import random
from collections import Counter
from pathlib import Path

from tests.weighings import KITCHEN, SLIPS, honest_g, pan, slipped

from yantai.core.cooking.doubts import doubt
from yantai.core.cooking.weighing import VesselWeight

COUNT = 5000
SEED = 20261126


def main() -> None:
    """Weigh 5,000 honest pans, and each slip as often as it fits in 5,000 more, and write the page."""
    rng = random.Random(SEED)
    questioned = Counter[str]()
    for _ in range(COUNT):
        made = pan(rng)
        found = doubt(made, [VesselWeight(gross_g=honest_g(rng, made))], known_vessels=KITCHEN)
        questioned["outside" if found and found.outside else "inside" if found else "believed"] += 1
    rows = []
    for slip in SLIPS:
        missed = first = 0
        tries = COUNT // len(SLIPS)
        for _ in range(tries):
            made = pan(rng)
            vessels, words = slipped(rng, made, slip)
            found = doubt(made, vessels, known_vessels=KITCHEN)
            if found is None:
                missed += 1
            elif words in found.causes[0].words:
                first += 1
        rows.append((slip, tries, missed, tries - missed, first))
    share = 100 * (COUNT - questioned["believed"]) / COUNT
    lines = [
        "# What is questioned at the scale",
        "",
        "Made by `bench/scale_doubts.py`. The rule is in `src/yantai/core/cooking/doubts.py`.",
        "",
        f"{COUNT:,} honest pans, drawn from every yield of the reference, seed {SEED}: {share:.1f} % were questioned "
        f"({questioned['outside']} outside their range, {questioned['inside']} inside it).",
        "",
        "Honest pans are drawn from the ranges as the rule reads them: the share is that of a kitchen that they fit.",
        "",
        f"Slips made on purpose, {sum(row[1] for row in rows):,} weighings. A slip is missed where the wrong weight is "
        "one that the pan could honestly have.",
        "",
        "| slip | weighings | missed | questioned | with the right cause first |",
        "|---|---|---|---|---|",
    ]
    lines += [f"| {slip} | {tries} | {missed} | {found} | {first} |" for slip, tries, missed, found, first in rows]
    Path("docs/scale-doubts.md").write_text("\n".join(lines) + "\n", encoding="utf-8")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
