"""Changes of a batch in words: what they are about, what was before, and what is since."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from typing import Any

from yantai.core.foods.nutrients import Nutrient
from yantai.core.speaking import exact_weight
from yantai.core.targets.targets import TARGETED
from yantai.core.targets.words import figure_words
from yantai.work.batches.inputs import (
    AddDish,
    AddLine,
    AddPart,
    AddRow,
    AddSide,
    Change,
    CookApart,
    Delete,
    MergeRow,
    MoveRow,
    PutAway,
    PutRows,
    RemoveDish,
    RemoveLine,
    RemovePart,
    RemoveRow,
    RemoveSide,
    SetAside,
    SetBatch,
    SetBounds,
    SetChoice,
    SetComponent,
    SetContainers,
    SetDish,
    SetLine,
    SetPacked,
    SetPacks,
    SetPin,
    SetPlace,
    SetPot,
    SetPoured,
    SetRaw,
    SetSchool,
    SetSteps,
    SetTarget,
    SetWeighedParts,
    SharePot,
    SplitPot,
    SplitRow,
    SpreadChoices,
    TakeRow,
    UsePot,
    Vessel,
    Weigh,
    WeighPart,
    Withdraw,
)

_FIELDS: Mapping[str, str] = {
    "count": "containers",
    "capacity_ml": "holds",
    "capacity_g": "carries",
    "plate_g": "the whole plate",
    "rank": "served as number",
    "helping": "portions of what is divided",
    "place": "goes",
    "tub_ml": "its tub holds",
    "takes_g": "set aside of the pot",
    "group": "one of the group",
    "packed_raw": "packed raw",
    "kit_text": "cooked later by",
    "whole_pans": "whole pans only",
    "groups": "taken of each group",
    "school": "portioned",
    "unit_g": "a piece or scoop",
    "unit_part": "its smallest part",
    "plate_share": "share of the plate",
    "eye_g": "about",
    "pieces": "pieces",
    "minimum_g": "at least",
    "maximum_g": "at most",
    "poured_fat_g": "fat poured off",
    "purchased_g": "raw",
    "name": "name",
    "cook_on": "cooked on",
    "step_g": "step of the scale",
    "buffer_share": "for tasting and spill",
    "sure_share": "how sure the pots suffice",
    "budget": "a container costs at most",
    "sharing": "shared",
    "leftover": "leftovers",
}


def change_words(change: Change, inverse: Sequence[Change], named: Mapping[str, str]) -> str:
    """One change: "Ines, lunch, Rice: pinned at 150 g instead of 120 g". `named` are names by the ids in it."""
    keys = ("dish_id", "row_id", "component_id") if isinstance(change, _OF_A_DISH) else ("row_id", "component_id")
    about = [named.get(str(getattr(change, key, "")), "") for key in keys]
    told = _told(change, _before(change, inverse), named)
    return ": ".join(part for part in (", ".join(filter(None, about)), told) if part)


_OF_A_DISH = (SetDish, RemoveDish, AddPart, RemovePart, AddRow, SpreadChoices, SplitPot)


def _before(change: Change, inverse: Sequence[Change]) -> Any:
    """The change of the same kind and about the same among those that take it back."""
    for other in inverse:
        if type(other) is type(change) and all(
            getattr(other, key, None) == getattr(change, key, None) for key in ("row_id", "component_id", "line_id")
        ):
            return other
    return None


def _told(change: Change, before: Any, named: Mapping[str, str]) -> str:
    match change:
        case SetPin():
            return _pin(change.grams, None if before is None else before.grams)
        case SetTarget():
            return ", ".join(_figures(change, before)) or "the same target"
        case SetContainers() | SetSchool() | SetBounds() | SetBatch() | SetPoured() | SetPlace() | SetPot() | SetDish():
            return ", ".join(_fields(change, before)) or "as it was"
        case SetRaw():
            return "raw amounts fixed" if change.fixed else "raw amounts follow the plan again"
        case SetPacks():
            noun = "pack" if change.packs == 1 else "packs"
            packs = "whole packs" if change.packs is None else f"{change.packs} {noun}"
            return f"{packs} of {exact_weight(change.pack_g)} of {named.get(str(change.line_id), 'an ingredient')}"
        case Weigh():
            gross = _vessels(change.vessels)
            off = f", {exact_weight(change.removed_g)} taken off" if change.removed_g else ""
            net_g = sum(vessel.gross_g - vessel.vessel_g for vessel in change.vessels) - change.removed_g
            plain = len(change.vessels) == 1 and change.vessels[0].gross_g == net_g
            told = gross if plain else f"{exact_weight(net_g)}: {gross}{off}"
            parts = ", with what was weighed of it before" if change.with_parts else ""
            return f"weighed {told}{parts}{', instead of the weight before' if change.corrects else ''}"
        case WeighPart():
            return f"a part weighed, {_vessels([change.vessel])}"
        case SetWeighedParts():
            return f"parts weighed: {_vessels(change.vessels) or 'none'}"
        case Withdraw():
            return "weight taken back"
        case AddLine():
            food = named.get(str(change.food_id), "an ingredient")
            return f"{exact_weight(change.purchased_g)} of {food} added at the stove"
        case RemoveLine():
            return f"{named.get(str(change.line_id), 'an ingredient')} taken out again"
        case SetLine():
            return _line(change, before, named)
        case SetComponent():
            return f"{change.component.name} in its place"
        case SetSteps():
            count = len(change.steps)
            return f"{count} {'step' if count == 1 else 'steps'}" if count else "steps as proposed"
        case MoveRow():
            return f"cooked with {named.get(str(change.to_batch_id), 'another batch')}"
        case TakeRow():
            return f"back from {named.get(str(change.from_batch_id), 'another batch')}"
        case AddSide():
            food = named.get(str(change.food_id), "a food")
            return f"{exact_weight(change.grams)} of {food} beside the components"
        case RemoveSide():
            return "taken off beside the components"
        case SetPacked() | PutAway() | Delete() | SetAside() | RemoveDish() | RemovePart() | RemoveRow():
            return _in_or_out(change)
        case AddDish():
            return f"{change.name or named.get(str(change.recipe_id), 'a recipe')} added as a dish"
        case AddPart():
            added = named.get(str(change.recipe_component_id), "") or "a component"
            return "added" if change.component_id is not None else f"{added} added"
        case AddRow():
            return f"{_containers(change.count)} added"
        case SplitRow():
            return f"{_containers(change.count)} made a line of their own"
        case MergeRow():
            return f"put together with {named.get(str(change.into_row_id), 'another line')}"
        case SetChoice():
            chosen = [named.get(str(key), "a part") for key in change.chosen]
            return f"takes {' and '.join(chosen)}" if chosen else "takes nothing of its groups yet"
        case SpreadChoices():
            whom = "" if change.client_id is None else f" for {named.get(str(change.client_id), 'a client')}"
            return f"{'one choice for all containers' if change.same else 'choices spread'}{whom}"
        case SharePot() | UsePot():
            return f"cooked in one pot with {named.get(str(change.with_component_id), 'another component')}"
        case SplitPot():
            return "cooked in a pot of its own"
        case CookApart():
            return f"cooked apart for {' and '.join(named.get(str(key), 'some containers') for key in change.row_ids)}"
        case PutRows():
            rows = [named.get(str(key), "containers") for key in change.row_ids]
            return f"{' and '.join(rows)} moved to {named.get(str(change.dish_id), 'another dish')}"


_IN_OR_OUT: Mapping[type[Any], tuple[str, str, str]] = {
    SetPacked: ("packed", "marked as packed", "opened again"),
    PutAway: ("away", "put away", "back in the lists"),
    Delete: ("deleted", "deleted", "brought back"),
    SetAside: ("aside", "out of the day's plan", "back in the day's plan"),
    RemoveDish: ("removed", "taken out of the batch", "put back into the batch"),
    RemovePart: ("removed", "taken out of the dish", "put back into the dish"),
    RemoveRow: ("removed", "taken out of the batch", "put back into the batch"),
}
"""What says which, and the words for yes and for no."""


def _in_or_out(change: Change) -> str:
    field, yes, no = _IN_OR_OUT[type(change)]
    return yes if getattr(change, field) else no


def _containers(count: int) -> str:
    return f"{count} container{'' if count == 1 else 's'}"


def _pin(grams: float | None, before: float | None) -> str:
    was = "" if before is None else f" instead of {exact_weight(before)}"
    if grams is None:
        return f"no longer pinned{f' at {exact_weight(before)}' if before is not None else ''}"
    return f"pinned at {exact_weight(grams)}{was}"


def _line(change: SetLine, before: Any, named: Mapping[str, str]) -> str:
    food = named.get(str(change.food_id), "an ingredient")
    if before is None:
        return f"{exact_weight(change.purchased_g)} of {food}"
    other = "" if before.food_id == change.food_id else f" {named.get(str(before.food_id), 'another food')}"
    return f"{exact_weight(change.purchased_g)} of {food} instead of {exact_weight(before.purchased_g)}{other}"


def _figures(change: SetTarget, before: Any) -> Iterator[str]:
    for nutrient in TARGETED:
        now, was = change.figures[nutrient], None if before is None else before.figures[nutrient]
        if now != was or before is None:
            yield f"{nutrient.noun} {_figure(nutrient, now)} instead of {_figure(nutrient, was)}"


def _figure(nutrient: Nutrient, value: float | None) -> str:
    return "none" if value is None else figure_words(nutrient, value)


def _fields(change: Change, before: Any) -> Iterator[str]:
    for name, words in _FIELDS.items():
        if not hasattr(change, name):
            continue
        now, was = getattr(change, name), None if before is None else getattr(before, name)
        if before is None or now != was:
            yield f"{words} {_value(name, now)}" + ("" if before is None else f" instead of {_value(name, was)}")


def _value(name: str, value: Any) -> str:
    if value is None:
        return "not set"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dict):
        return ", ".join(f"{takes} of {group}" for group, takes in value.items()) or "none"
    if isinstance(value, date):
        return f"{value:%-d %B}"
    if name.endswith("_g"):
        return exact_weight(value)
    if name in ("capacity_ml", "tub_ml"):
        return f"{value:,.0f} ml"
    if name in ("buffer_share", "sure_share"):
        return f"{100 * value:.4g} %"
    if name == "budget":
        return f"{value:,.2f}"
    if name == "rank":
        return str(value + 1)
    return f"“{value}”" if name == "name" else f"{value:,.10g}" if isinstance(value, float) else str(value)


def _vessels(vessels: Sequence[Vessel]) -> str:
    """Vessels as they stood on the scale."""
    return " and ".join(
        exact_weight(vessel.gross_g) + (f" less {exact_weight(vessel.vessel_g)}" if vessel.vessel_g else "")
        for vessel in vessels
    )
