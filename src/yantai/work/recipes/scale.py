"""A recipe at another size."""

from __future__ import annotations

from yantai.core.cooking.scaling import Scalable, factor_for, factor_for_packs, scaled
from yantai.store.database import Database
from yantai.work.common.errors import Invalid, located
from yantai.work.common.who import SignedIn
from yantai.work.recipes.inputs import ComponentInput, ScaleInput
from yantai.work.recipes.recipes import (
    preview_recipe,
)
from yantai.work.recipes.views import (
    RecipeView,
)


def scale_recipe(database: Database, who: SignedIn, payload: ScaleInput) -> RecipeView:
    """A recipe at another size, nothing saved: by factor, by what is on hand of a line, or to whole packs of it.

    Poured fat and pieces follow; lines marked not to scale stay.

    Raises:
        Invalid: no way of sizing is given, the line is not there, or a figure is out of range.
    """
    factor = _factor(payload)
    with located(""):
        components = [_sized(component, factor) for component in payload.recipe.components]
    serves = payload.recipe.serves
    sized = {"components": components, "serves": None if serves is None else max(round(serves * factor), 1)}
    return preview_recipe(database, who, payload.recipe.model_copy(update=sized))


def _factor(payload: ScaleInput) -> float:
    """The factor that a way of sizing comes to."""
    if payload.factor is not None:
        return payload.factor
    try:
        line = payload.recipe.components[payload.component or 0].lines[payload.line or 0]
    except IndexError:
        raise Invalid.at("/line", "This line is not in the recipe any more; choose another.") from None
    with located(""):
        if payload.pack_g is not None:
            return factor_for_packs(line.purchased_g, payload.pack_g, packs=payload.packs)[0]
        if payload.on_hand_g is not None:
            return factor_for(line.purchased_g, payload.on_hand_g)
    raise Invalid.at("/factor", "Give a factor, the weight on hand, or a pack.")


def _sized(component: ComponentInput, factor: float) -> ComponentInput:
    lines = [Scalable(purchased_g=line.purchased_g, scales=line.scales) for line in component.lines]
    sized = scaled(lines, factor)
    return component.model_copy(
        update={
            "poured_fat_g": component.poured_fat_g * factor,
            "pieces": None if component.pieces is None else max(round(component.pieces * factor), 1),
            # The written text is of the old size, so it no longer speaks for the weight.
            "lines": [
                line.model_copy(update={"purchased_g": round(grams, 3), "text": "" if line.scales else line.text})
                for line, grams in zip(component.lines, sized, strict=True)
            ],
        }
    )
