"""A batch as an open plan document."""

from __future__ import annotations

from yantai.formats.plan_document import DocumentStep, PlanDocument
from yantai.formats.plan_export import Eater, Told, plan_document
from yantai.store import tables
from yantai.work.batches import plans


def batch_document(computed: plans.Computed) -> PlanDocument:
    """The plan document of a batch, with the steps of its components."""
    batch, larder = computed.loaded.batch, computed.loaded.larder
    return plan_document(
        batch.name,
        computed.dishes,
        [
            (
                Eater(
                    name=plans.container_name(row),
                    client=row.client.name,
                    client_id=row.client_id,
                    slot=row.slot,
                    day_type=row.day_type,
                ),
                each,
            )
            for row, each in zip(batch.classes, computed.classes, strict=True)
        ],
        {
            str(component.id): Told(
                role=component.role,
                method=component.method,
                lid=component.lid,
                cook_min=component.cook_min,
                kit_text=component.kit_text,
                allergens=[larder.allergens([line]) for line in component.lines],
            )
            for component in computed.components
        },
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sure_share=batch.sure_share,
        budget=batch.budget,
        sharing=batch.sharing,
        leftover=batch.leftover,
        steps=[_step(step) for component in computed.components for step in component.steps],
    )


def _step(step: tables.Step) -> DocumentStep:
    return DocumentStep(
        component=str(step.component_id),
        text=step.text,
        hands_on_min=step.hands_on_min,
        unattended_min=step.unattended_min,
        temperature_c=step.temperature_c,
        equipment=step.equipment,
        lead_min=step.lead_min,
        lead_most_min=step.lead_most_min,
        every_min=step.every_min,
        growth=step.growth,
        load_g=step.load_g,
        core_c=step.core_c,
        done_when=step.done_when,
    )
