"""A worker that stops in the middle of the first recipe it takes and says so; whoever runs it kills it there."""

from __future__ import annotations

import functools
import sys
import threading

from yantai.jobs import worker
from yantai.settings import Settings
from yantai.work.surveys import surveys


def _stop_here() -> None:
    print("in the middle", flush=True)
    threading.Event().wait()


if __name__ == "__main__":
    surveys.answer_recipe = functools.partial(surveys.answer_recipe, between=_stop_here)
    worker.run(Settings(database_url=sys.argv[1]))
