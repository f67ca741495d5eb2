"""An order of work as it is shown: lanes of people and equipment, and what somebody has to do at which minute."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Any

from yantai.core.schedule.cooked import HEAT, IN, OUT, Planned
from yantai.core.schedule.day import Day, Machine, Task
from yantai.core.schedule.heating import heatings
from yantai.core.schedule.kitchen import Item, Kind
from yantai.core.schedule.live import CookEvent, Progress, TaskState
from yantai.core.schedule.order import Order, Placed
from yantai.core.speaking import heat, weight
from yantai.work.cook.pots import Pot
from yantai.work.cook.views import BlockView, LaneView, PromptView

_SHOWN = (
    Kind.OVEN, Kind.HOB, Kind.GRILL, Kind.RICE_COOKER, Kind.SLOW_COOKER, Kind.PRESSURE_COOKER, Kind.AIR_FRYER,
    Kind.MICROWAVE, Kind.KETTLE, Kind.BLENDER, Kind.PROCESSOR, Kind.FRIDGE,
)  # fmt: skip


def lanes_of(
    day: Day, order: Order, items: Sequence[Item], planned: Mapping[str, Planned], names: Mapping[str, str]
) -> list[LaneView]:
    """People first, then each place on the equipment that is used; `names` are those of the components."""
    return [*_people(day, order, planned, names), *_machines(day, order, items, planned, names)]


def _people(day: Day, order: Order, planned: Mapping[str, Planned], names: Mapping[str, str]) -> Iterator[LaneView]:
    for person in day.people:
        blocks = [
            BlockView(
                task=one.task,
                kind="hands",
                says=short_words(planned[one.task], names),
                start_min=hand.start,
                end_min=hand.end,
            )
            for one in order.placed
            for hand in one.hands
            if hand.person == person.key
        ]
        spans = sorted(person.there, key=lambda span: span.start)
        for before, after in pairwise(spans):
            if before.end < day.start:
                continue
            blocks.append(BlockView(task="", kind="away", says="away", start_min=before.end, end_min=after.start))
        yield LaneView(
            key=person.key, name=person.name, is_person=True, blocks=sorted(blocks, key=lambda one: one.start_min)
        )


def _machines(
    day: Day, order: Order, items: Sequence[Item], planned: Mapping[str, Planned], names: Mapping[str, str]
) -> Iterator[LaneView]:
    shown = {item.key for item in items if item.kind in _SHOWN}
    fridges = {item.key for item in items if item.kind in (Kind.FRIDGE, Kind.FREEZER)}
    for machine in day.machines:
        if machine.key.partition("/")[0] not in shown:
            continue
        on = [one for one in order.placed if machine.key in one.machines]
        places: list[list[Placed]] = []
        for one in on:
            # As many places as are taken at once, each filled from the first.
            free = next((place for place in places if place[-1].end <= one.start), None)
            if free is None or machine.key in fridges:
                places.append([one])
            else:
                free.append(one)
        heats = heatings(machine, on, day) if machine.has_one_temperature else []
        for number, place in enumerate(places, 1):
            blocks = [
                BlockView(
                    task=one.task,
                    kind="goes on",
                    says=short_words(planned[one.task], names),
                    start_min=one.start,
                    end_min=one.end,
                )
                for one in place
            ]
            if number == 1:
                blocks += [
                    BlockView(
                        task=each.task, kind="heats up", says=heat(each.celsius), start_min=each.start, end_min=each.end
                    )
                    for each in heats
                ]
            name = machine.name if len(places) == 1 else f"{machine.name}, {number}"
            yield LaneView(
                key=f"{machine.key}#{number}",
                name=name,
                is_person=False,
                blocks=sorted(blocks, key=lambda one: one.start_min),
            )


def prompts_of(
    day: Day, order: Order, planned: Mapping[str, Planned], progress: Progress, pots: Mapping[str, Pot]
) -> list[PromptView]:
    """What is still to be done at which minute, the first first."""
    found: list[PromptView] = []
    for one in order.placed:
        state = progress.of(one.task)
        if state.done is None and not state.is_skipped:
            found += _prompts(
                one, day.by_key[one.task], planned[one.task], state, pots.get(planned[one.task].component)
            )
    for machine in day.machines:
        if machine.has_one_temperature:
            on = [one for one in order.placed if machine.key in one.machines and _is_open(progress.of(one.task))]
            found += [
                _heating(machine, planned[each.task], each.celsius, each.start, each.end)
                for each in heatings(machine, on, day)
            ]
    return sorted(found, key=lambda each: (each.at_min, each.key))


def _is_open(state: TaskState) -> bool:
    return state.begun is None and state.done is None


def _prompts(one: Placed, task: Task, of: Planned, state: TaskState, pot: Pot | None) -> Iterator[PromptView]:
    """The prompts of one task: each time that hands are needed, and its end where it ends by itself."""

    def prompt(at: int, minutes: int, event: CookEvent, says: str, detail: str, **more: Any) -> PromptView:
        return PromptView(
            key=f"{one.task}@{'' if more.get('touch') is None else more['touch']}{event.value}",
            task=one.task,
            event=event,
            touch=more.get("touch"),
            celsius=None,
            goes_on=state.begun is not None,
            component_id=None if pot is None else pot.component_id,
            component="" if pot is None else pot.cooked.name,
            core_c=more.get("core_c"),
            at_min=at,
            minutes=minutes,
            person_id=more.get("person"),
            says=says,
            detail=detail,
        )

    core_c = None if pot is None or of.step.on is None else of.step.core_c or pot.core_c
    ends_by_hand = False
    for hand in one.hands:
        person = uuid.UUID(hand.person)
        if hand.touch is None:
            yield prompt(
                hand.start,
                hand.end - hand.start,
                CookEvent.DONE,
                name_of(of),
                begin_words(of),
                person=person,
                core_c=core_c,
            )
            ends_by_hand = True
            continue
        touch, minutes = task.touches[hand.touch], hand.end - hand.start
        if touch.from_end:
            ends_by_hand = True
            says = f"Out: {name_of(of)}" if touch.says == OUT else name_of(of)
            yield prompt(
                hand.start,
                minutes,
                CookEvent.DONE,
                says,
                done_words(of),
                touch=hand.touch,
                person=person,
                core_c=core_c,
            )
        elif not hand.touch:
            if state.begun is None:
                says = f"Heat: {name_of(of)}" if touch.says == HEAT else name_of(of)
                yield prompt(hand.start, minutes, CookEvent.BEGUN, says, begin_words(of), touch=0, person=person)
        elif hand.touch not in state.touched:
            says = f"In: {name_of(of)}" if touch.says == IN else f"Turn or stir: {name_of(of)}"
            detail = begin_words(of) if touch.says == IN else f"Then {one.end - hand.end} min to go."
            yield prompt(hand.start, minutes, CookEvent.TOUCHED, says, detail, touch=hand.touch, person=person)
    if not one.hands and state.begun is None:
        yield prompt(one.start, 0, CookEvent.BEGUN, name_of(of), begin_words(of))
    # What was soaked long enough goes on when the next step takes it: nobody has to say that it is over.
    if not ends_by_hand and not of.step.is_lead:
        yield prompt(one.end, 0, CookEvent.DONE, f"Over: {name_of(of)}", done_words(of), core_c=core_c)


def _heating(machine: Machine, of: Planned, celsius: float, start: int, end: int) -> PromptView:
    return PromptView(
        key=f"{machine.key}@{celsius}@{of.task.key}",
        task=machine.key,
        event=CookEvent.HEATED,
        touch=None,
        celsius=celsius,
        goes_on=False,
        component_id=None,
        component="",
        core_c=None,
        at_min=start,
        minutes=0,
        person_id=None,
        says=f"{machine.name} on, {heat(celsius)}",
        detail=f"For {name_of(of)}, hot in {end - start} min.",
    )


def apart_minutes(day: Day, planned: Sequence[Planned]) -> int:
    """Minutes of all steps done one after the other, nothing at the same time."""
    return sum(day.by_key[one.task.key].minutes for one in planned if not one.task.ahead)


def name_of(of: Planned) -> str:
    """A step by what it is of: "Roast the kofta", round 2 of 3."""
    return of.step.says if of.round.of == 1 else f"{of.step.says} ({of.round.number} of {of.round.of})"


def short_words(of: Planned, names: Mapping[str, str]) -> str:
    """A few words for a block: what it is for, and which round."""
    words = names.get(of.component) or of.step.says
    return words if of.round.of == 1 else f"{words} {of.round.number}/{of.round.of}"


def begin_words(of: Planned) -> str:
    """On what, how hot, how much."""
    said = [of.on] if of.on else []
    if of.task.temperature_c is not None:
        said.append(heat(of.task.temperature_c))
    if of.round.of > 1:
        pieces = "" if of.round.pieces is None else f"{of.round.pieces} pieces, "
        said.append(f"{pieces}{weight(of.round.grams)} this round")
    return f"{', '.join(said)}." if said else ""


def done_words(of: Planned) -> str:
    """How one sees that it is done."""
    said = [of.step.done_when] if of.step.done_when else []
    if of.step.core_c is not None and heat(of.step.core_c) not in of.step.done_when:
        said.append(f"{heat(of.step.core_c)} inside")
    return f"Done when: {', '.join(said)}." if said else ""
