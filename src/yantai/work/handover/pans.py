"""The pots of a batch at the size of one client's containers, for who cooks alone."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum

from yantai.core.cooking.pan_sheet import shares_of_pan, weights_to_list
from yantai.core.speaking import heat, weight
from yantai.core.targets.days import ANY_DAY
from yantai.formats.sheet_document import PanRow, PanSheet
from yantai.store.database import Database
from yantai.work.batches.views import PlanComponentView, PlanRowView
from yantai.work.common.who import SignedIn
from yantai.work.cook.pot_steps import read_steps
from yantai.work.handover.laid import Laid
from yantai.work.handover.words import KEEP_COLD, LOCAL_RULES

IN_KITCHEN = (
    "Knives and pans are sharp and hot. Raw meat, fish and egg apart from what is eaten raw: boards, knives, hands.",
    KEEP_COLD,
    LOCAL_RULES,
)


@dataclass(frozen=True, kw_only=True)
class Pan:
    """A component that a client cooks alone: its sheet, what its pan is planned to weigh [g], and the grams of one
    container of each kind then."""

    component_id: uuid.UUID
    sheet: PanSheet
    planned_pan_g: float
    planned_g: tuple[float, ...]

    def shares(self, pan_g: float) -> list[str]:
        """The grams of one container of each kind, in words, when the pan weighs so much.

        Raises:
            OutOfRange: it weighs nothing, or more than a pan can.
        """
        return [weight(grams) for grams in shares_of_pan(pan_g, self.planned_pan_g, self.planned_g)]


def pans_of(database: Database, who: SignedIn, laid: Laid, client_id: uuid.UUID) -> list[Pan]:
    """Every component that the containers of a client take something of."""
    rows = laid.of_client(client_id)
    return [
        _pan(database, who, laid, component, rows)
        for component in laid.plan.components
        if _taken_g(rows, component) > 0
    ]


def _taken_g(rows: Sequence[PlanRowView], component: PlanComponentView) -> float:
    """What the containers of these rows take of a component's pot [g]."""
    return fsum(row.count * _grams(row, component) for row in rows)


def _grams(row: PlanRowView, component: PlanComponentView) -> float:
    return next((cell.grams for cell in row.cells if cell.component_id == component.id), 0.0)


def _pan(
    database: Database, who: SignedIn, laid: Laid, component: PlanComponentView, rows: Sequence[PlanRowView]
) -> Pan:
    """A component at the size of one client's containers: all of the pan goes into them."""
    taken = _taken_g(rows, component)
    share = taken / component.cooked_g if component.cooked_g else 0.0
    eaters = [row for row in rows if _grams(row, component) > 0]
    planned = [_grams(row, component) for row in eaters]
    low, high = share * component.cooked_low_g, share * component.cooked_high_g
    weights = weights_to_list(max(low, 1), max(high, 1)) if component.to_weigh and taken >= 1 else ()
    nearest = min(weights, key=lambda pan: abs(pan - taken), default=0)
    steps = read_steps(database, who, laid.plan.batch.id, component.id).steps if component.to_weigh else []
    cores = [step.core_c for step in steps if step.core_c]
    done = [step.done_when for step in steps if step.done_when]
    core = component.caution or (f"{heat(max(cores))} in the thickest part." if cores else "")
    sheet = PanSheet(
        name=component.name,
        amounts=tuple((line.name, weight(share * line.purchased_g)) for line in component.lines),
        steps=tuple(_step_words(step.text, step.temperature_c) for step in steps),
        done=" ".join(part for part in (f"Done when {done[-1].rstrip('.')}." if done else "", core) if part),
        expected=f"Expected about {weight(taken)}.",
        kinds=tuple(_kind_words(row, laid) for row in eaters),
        rows=tuple(
            PanRow(
                pan=weight(pan),
                grams=tuple(weight(grams) for grams in shares_of_pan(pan, taken, planned)),
                is_expected=pan == nearest,
            )
            for pan in weights
        ),
        division=" ".join(f"{_kind_words(row, laid)}: {weight(_grams(row, component))} each." for row in eaters),
    )
    return Pan(component_id=component.id, sheet=sheet, planned_pan_g=max(taken, 1.0), planned_g=tuple(planned))


def _step_words(text: str, celsius: float | None) -> str:
    return text if celsius is None or "°" in text else f"{text.rstrip('.')}, {heat(celsius)}."


def _kind_words(row: PlanRowView, laid: Laid) -> str:
    dish = next(dish.name for dish in laid.plan.dishes if dish.id == row.dish_id) if len(laid.plan.dishes) > 1 else ""
    kind = "" if row.day_type.casefold() == ANY_DAY else f", {row.day_type}"
    return f"{row.slot}{kind}{f', {dish}' if dish else ''}: {row.count} ×"
