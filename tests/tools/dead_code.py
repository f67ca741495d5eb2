"""Functions, classes and methods that nothing uses, and code that nothing reaches: `python -m tests.tools.dead_code`.

Fields and words of closed sets are left out: what is stored or sent is used by name elsewhere. What a framework calls
by its own rules is named here, with who calls it.
"""

from __future__ import annotations

import sys

from vulture.core import Vulture

from yantai.launcher.places import ROOT

DECORATORS = ["@router.*", "@cli.*", "@event.*", "@app.*"]  # fmt: skip
CALLED_ELSEWHERE = [
    "process_bind_param", "process_result_value",  # SQLAlchemy: types of columns
    "plus", "dash", "ranged",  # lark: a method for each rule of the grammar
    "upgrade", "downgrade",  # Alembic
    "handle_exit", "capture_signals",  # uvicorn
    "enableCallbacks",  # highspy
]  # fmt: skip


def main() -> int:
    """Print what is dead; 1 where anything is."""
    found = Vulture(ignore_decorators=DECORATORS, ignore_names=CALLED_ELSEWHERE)
    # What only a test or a benchmark uses is dead as well.
    found.scavenge([str(ROOT / "src")])
    dead = [
        *found.unused_funcs,
        *found.unused_classes,
        *found.unused_methods,
        *found.unused_imports,
        *found.unreachable_code,
    ]
    for item in dead:
        sys.stdout.write(f"{item.filename.relative_to(ROOT)}:{item.first_lineno}: {item.message}\n")
    return 1 if dead else 0


if __name__ == "__main__":
    sys.exit(main())
