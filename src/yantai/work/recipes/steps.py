"""Steps of recipes and of the pots of batches: from what is sent to rows, and copied with their component."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any

from yantai.core.cooking.steps import ASKED, Ask, read_step
from yantai.core.speaking import heat
from yantai.formats.documents import StepDocument
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.recipes.inputs import RecipeInput, StepInput
from yantai.work.recipes.views import StepView

_FIELDS = (
    "text", "hands_on_min", "unattended_min", "every_min", "temperature_c", "equipment", "growth", "load_g", "lead_min",
    "lead_most_min", "core_c", "done_when",
)  # fmt: skip


def step_rows(
    who: SignedIn,
    steps: Sequence[StepInput],
    components: Mapping[uuid.UUID, str],
    known: Mapping[uuid.UUID, tables.Step],
) -> list[tables.Step]:
    """Rows of steps as they were sent; those that are `known` by id stay the same rows."""
    rows = []
    for position, step in enumerate(steps):
        row = known.get(step.id) if step.id is not None else None
        if row is None:
            row = tables.Step(workspace_id=who.workspace_id, id=step.id or uuid.uuid4())
        row.position, row.component_id = position, of_component(step, components)
        row.after = None if step.after is None else [str(key) for key in step.after]
        for name in _FIELDS:
            value = getattr(step, name)
            setattr(row, name, value.strip() if isinstance(value, str) and name != "growth" else value)
        rows.append(row)
    return rows


def step_inputs(rows: Iterable[tables.Step]) -> list[StepInput]:
    """Rows of steps as they would be sent."""
    return [
        StepInput(
            id=row.id,
            after=None if row.after is None else [uuid.UUID(key) for key in row.after],
            **step_values(row),
        )
        for row in rows
    ]


def of_component(step: StepInput, components: Mapping[uuid.UUID, str]) -> uuid.UUID | None:
    """The component that a step is of: by id, or by its name; None for the whole recipe."""
    if step.component_id is not None:
        return step.component_id if step.component_id in components else None
    return next((key for key, name in components.items() if step.component and name == step.component), None)


def steps_shown(recipe: RecipeInput | tables.Recipe) -> list[StepView]:
    """The steps of a recipe, each with the name of its component."""
    names = {one.id: one.name for one in recipe.components if one.id is not None}
    return [step_view(step, names.get(step.component_id, "") if step.component_id else None) for step in recipe.steps]


def step_view(step: StepInput | tables.Step | StepDocument, component: str | None = None) -> StepView:
    """A step as it is shown, with what is odd about it."""
    after = getattr(step, "after", None)
    return StepView(
        id=getattr(step, "id", None),
        component_id=getattr(step, "component_id", None),
        component=(getattr(step, "component", "") or "") if component is None else component,
        after=None if after is None else [uuid.UUID(str(key)) for key in after],
        trouble=" ".join(_odd(step)),
        **{name: getattr(step, name) for name in _FIELDS},
    )


def _odd(step: StepInput | tables.Step | StepDocument) -> Iterator[str]:
    """What is odd about a step, or left open by its words and its fields alike."""
    read = read_step(step.text)
    if read.temperatures_apart is not None:
        one, other = read.temperatures_apart
        yield f"Two temperatures are stated: {heat(one)} and {heat(other)}. Which is it?"
    known = {
        Ask.TIME: any(minutes is not None for minutes in (step.hands_on_min, step.unattended_min, step.lead_min)),
        Ask.OVEN: step.temperature_c is not None,
        Ask.OFTEN: step.every_min is not None,
    }
    yield from (ASKED[ask] for ask in read.asks if not known[ask])


def copied_steps(who: SignedIn, steps: Iterable[tables.Step], new_id: Callable[[str], uuid.UUID]) -> list[tables.Step]:
    """Steps for another component; what they wait for among them goes along."""
    steps = list(steps)
    ids = {str(step.id): new_id(f"step/{step.id}") for step in steps}
    return [
        tables.Step(
            id=ids[str(step.id)],
            workspace_id=who.workspace_id,
            position=step.position,
            after=None if step.after is None else [str(ids[key]) for key in step.after if key in ids],
            **step_values(step),
        )
        for step in steps
    ]


def step_values(step: tables.Step) -> dict[str, Any]:
    """What a step says, without whose it is."""
    return {name: getattr(step, name) for name in _FIELDS}
