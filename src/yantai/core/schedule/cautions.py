"""What could hurt somebody at a step, said there. General guidance; local rules and licensed professionals prevail."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.steps import Step
from yantai.core.speaking import heat

RICE_COLD_MIN = 60
"""Cooked rice is in the fridge within so many minutes."""

COLD_MIN = 90
"""All that was cooked is in the fridge within so many minutes."""

_HARD_BOILED = ("kidney", "cannellini")


def step_cautions(
    step: Step,
    *,
    foods: Collection[str],
    groups: Collection[str],
    is_raw: bool,
    is_last: bool,
    core_c: float | None,
    free_of: Collection[str],
) -> Iterator[str]:
    """The cautions of a step of a component of these foods (names) and groups.

    `is_last` says that nothing is cooked of it after this step, `core_c` what raw parts must reach [°C], `free_of` the
    allergens that somebody who eats it must avoid.
    """
    names = " ".join(foods).casefold()
    says = step.says.casefold()
    if free_of:
        yield (
            f"Free of {' and '.join(sorted(free_of))} for somebody: clean board, pan, spoon and hands, before anything "
            "that holds it."
        )
    if step.skill is Skill.RAW:
        yield "Raw: its own board and knife, hands washed after. Raw stands below ready in the fridge."
    if step.is_lead and "marina" in says:
        yield "In the fridge. Set aside first what is to be sauce; used marinade is boiled hard or thrown away."
    if step.is_lead and ("thaw" in says or "defrost" in says):
        yield "Thaw in the fridge, about a day for 2 kg, never on the counter."
    if step.on in (Kind.SLOW_COOKER, Kind.PRESSURE_COOKER, Kind.HOB, Kind.POT) and any(
        word in names for word in _HARD_BOILED
    ):
        yield "Boil hard for 10 minutes in fresh water, without the soaking water: a slow cooker is not hot enough."
    if step.on is Kind.SLOW_COOKER and is_raw:
        yield "Thawed meat only, lid on, half to two thirds full."
    if step.on is Kind.MICROWAVE:
        yield "No foil, no closed lid. Stir half way, stand two minutes."
    if step.on is Kind.OVEN:
        yield "Hot: cloth and clear way. Glass from the fridge or freezer does not go into a hot oven."
    if step.on is Kind.PRESSURE_COOKER:
        yield "At most two thirds full, half for beans and grain. Open it only when the pressure is gone."
    if step.on is Kind.BLENDER:
        yield "Hot liquid: half full at most, vent open, a cloth on the lid."
    if step.needs_board and step.skill is Skill.KNIFE:
        yield "Sharp: fingers up, a cloth under the board."
    if is_last and step.on is not None and core_c is not None:
        yield f"Done at {heat(core_c)} in the thickest part: time is a guess, the thermometer decides."
    if is_last and step.on is not None:
        cold = RICE_COLD_MIN if "rice" in names and "grains-pasta" in groups else COLD_MIN
        yield f"Cool it shallow and with the lid open: in the fridge within {cold} minutes."
