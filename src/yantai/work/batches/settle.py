"""What the plan of a batch leaves to settle."""

from __future__ import annotations

from yantai.core.planning import settle
from yantai.work.batches.plans import Computed, container_name
from yantai.work.batches.views import Settle


def to_settle(computed: Computed) -> list[Settle]:
    """What the coach should decide before cooking, with the row or component it is about."""
    batch = computed.loaded.batch
    found = settle.to_settle(
        computed.plan,
        computed.dishes,
        computed.classes,
        [container_name(row) for row in batch.classes],
        step_g=batch.step_g,
        weighed={
            str(key): [*(other.cooked_g for other in weighing.others), weighing.cooked_g]
            for key, weighing in computed.loaded.weighings.items()
            if str(key) in computed.plan.needs
        },
    )
    ids = {str(component.id): component.id for component in batch.components}
    return [
        Settle(
            title=point.title,
            detail=point.detail,
            row_id=None if point.row is None else batch.classes[point.row].id,
            component_id=None if point.component is None else ids[point.component],
        )
        for point in found
    ]
