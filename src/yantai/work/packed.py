"""What a packed batch showed when it was packed. Nothing that is edited later moves a figure of it."""

from __future__ import annotations

from yantai.formats.kept import Kept
from yantai.formats.plan_document import PlanDocument
from yantai.store import tables
from yantai.work.views import PlanView

_VIEW: Kept[PlanView] = Kept(PlanView)
_DOCUMENT: Kept[PlanDocument] = Kept(PlanDocument)


def keep(batch: tables.Batch, shown: PlanView, plan: PlanDocument) -> None:
    """Keep what a batch shows, and its plan document."""
    batch.packed = {
        "view": _VIEW.to_json(shown),
        "document": _DOCUMENT.to_json(plan),
    }


def view(batch: tables.Batch) -> PlanView | None:
    """What a packed batch showed; None for an open one, and for one packed before this was kept."""
    return None if batch.packed is None else _VIEW.from_json(batch.packed["view"])


def document(batch: tables.Batch) -> PlanDocument | None:
    """The plan document of a packed batch; None as for `view`."""
    return None if batch.packed is None else _DOCUMENT.from_json(batch.packed["document"])
