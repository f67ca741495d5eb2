"""Whether an order of work keeps to its day: read minute by minute and pair by pair, without the model."""

from __future__ import annotations

from collections import Counter
from math import ceil

from yantai.core.schedule.day import Day
from yantai.core.schedule.order import Order


def broken(day: Day, order: Order) -> list[str]:
    """Every rule that an order of work breaks, in words; of what has happened nothing is asked."""
    said: list[str] = []
    tasks = {task.key: task for task in day.tasks}
    at = {one.task: one for one in order.placed}
    done = {key for key, hold in day.holds.items() if hold.done}
    now = day.now
    begun = {
        key
        for key, hold in day.holds.items()
        if hold.start is not None and (hold.done or hold.end is not None or (now is not None and hold.start < now))
    }
    if sorted(at) != sorted(tasks) or len(order.placed) != len(tasks):
        return ["not every task is placed once"]

    busy: Counter[tuple[str, int]] = Counter()
    for key, task in tasks.items():
        one = at[key]
        hold = day.holds.get(key)
        if hold is not None and hold.start is not None and one.start != hold.start:
            said.append(f"{key} was moved from where it is held")
        if hold is not None and hold.done:
            if one.end != hold.end:
                said.append(f"{key} is done, and its end was moved")
            continue
        whole = [hand for hand in one.hands if hand.touch is None]
        if task.hands_on:
            if len(whole) != 1:
                said.append(f"{key} is not in the hands of one person")
                continue
            person = next(each for each in day.people if each.key == whole[0].person)
            lasts = max(1, ceil(round(task.minutes * person.pace, 9)))
            if key not in begun and (
                one.end - one.start != lasts or (whole[0].start, whole[0].end) != (one.start, one.end)
            ):
                said.append(f"{key} lasts {one.end - one.start} instead of {lasts}")
        elif key not in begun and not task.minutes <= one.end - one.start <= (task.most_minutes or task.minutes):
            said.append(f"{key} lasts {one.end - one.start}")
        touched = {hand.touch: hand for hand in one.hands if hand.touch is not None}
        if key not in begun and sorted(touched) != list(range(len(task.touches))):
            said.append(f"{key} has hands at {sorted(touched)} of {len(task.touches)} times")
        for number, hand in touched.items():
            touch = task.touches[number]
            if hand.end - hand.start != touch.minutes:
                said.append(f"{key} is touched for {hand.end - hand.start} instead of {touch.minutes}")
            if key in begun:
                continue
            if touch.from_end:
                if hand.start != one.end - touch.low:
                    said.append(f"{key}, touch {number}: not {touch.low} before the end")
            elif not touch.low <= hand.start - one.start <= touch.high:
                said.append(f"{key}, touch {number}: {hand.start - one.start} after the start")
        for hand in one.hands:
            person = next(each for each in day.people if each.key == hand.person)
            if key not in begun or hand.touch is not None:
                if task.skill not in person.does:
                    said.append(f"{person.key} does not do {key}")
                if not any(span.start <= hand.start and hand.end <= span.end for span in person.there):
                    said.append(f"{person.key} is away during {key}")
            for minute in range(hand.start, hand.end):
                if now is None or minute >= now:
                    busy[hand.person, minute] += 1
        if key not in begun:
            if one.start < (now if now is not None else day.start) and not task.ahead:
                said.append(f"{key} begins before the day")
            if now is not None and one.start < now:
                said.append(f"{key} begins before now")
            if task.not_before is not None and one.start < task.not_before:
                said.append(f"{key} begins before it may")
        if len(one.machines) != len(task.needs):
            said.append(f"{key} is on {len(one.machines)} of {len(task.needs)}")
        for chosen, need in zip(one.machines, task.needs, strict=False):
            if chosen not in dict(need.options):
                said.append(f"{key} is on {chosen}, which it cannot be")
    said += [f"{person} does two things at minute {minute}" for (person, minute), n in busy.items() if n > 1]

    for link in day.links:
        if link.after in begun:
            continue
        gap = at[link.after].start - at[link.before].end
        if gap < link.least:
            said.append(f"{link.after} begins {gap} after {link.before}, not {link.least}")
        if link.most is not None and gap > link.most and link.before not in begun:
            said.append(f"{link.after} begins {gap} after {link.before}, more than {link.most}")

    for machine in day.machines:
        uses = [
            (at[key].start, at[key].end, amount, key)
            for key, task in tasks.items()
            if key not in done
            for chosen, need in zip(at[key].machines, task.needs, strict=False)
            if chosen == machine.key
            for option, amount in need.options
            if option == machine.key
        ]
        running = sum(amount for _, _, amount, key in uses if key in begun)
        for minute in {start for start, _, _, _ in uses}:
            held = sum(amount for start, end, amount, _ in uses if start <= minute < end)
            if held > max(machine.capacity, running):
                said.append(f"{machine.key} holds {held} of {machine.capacity} at minute {minute}")
        if machine.heat_min is None:
            continue
        for start, end, _, key in uses:
            mine = tasks[key].temperature_c or 0.0
            if key not in begun and not tasks[key].ahead:
                cold = 20.0 if machine.warm_c is None else machine.warm_c
                first = max(day.start, now) if now is not None else day.start
                heats = ceil(round(machine.heat_min * abs(mine - cold) / (mine - 20.0), 9))
                hot = first + heats
                if machine.hot_by is not None and mine == cold:
                    hot = max(first, machine.hot_by)
                if start < hot:
                    said.append(f"{key} is in {machine.key} before it is hot")
            for other_start, _, _, other in uses:
                if other == key or other_start < start or {key, other} <= begun:
                    continue
                theirs = tasks[other].temperature_c or 0.0
                if theirs == mine:
                    continue
                heats = ceil(round(machine.heat_min * abs(theirs - mine) / (theirs - 20.0), 9))
                if other_start < end + heats:
                    said.append(f"{machine.key}: {other} begins {other_start - end} after {key}, {heats} to heat")
    ends = [one.end + tasks[one.task].rest_min for one in order.placed]
    if order.ready != max(ends):
        said.append(f"ready is said to be {order.ready}, and is {max(ends)}")
    if day.ready_by is not None and now is None and order.ready > day.ready_by:
        said.append("not ready by then")
    return said
