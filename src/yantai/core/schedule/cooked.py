"""From the steps of a day's components to its tasks: amounts, rounds, and the equipment of the kitchen."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil

from yantai.core.schedule.day import Link, Need, Skill, Task, Touch
from yantai.core.schedule.kitchen import KIND_WORDS, ON_THE_HOB, Fare, Item, Kind, of_kind
from yantai.core.schedule.steps import Growth, Step, at_temperature, grown, shared_temperatures
from yantai.core.speaking import heat, weight

HANDS_SHARE = 0.6
"""What wants somebody for at least this share of its time has somebody at it all the time."""

WASH_MIN = 3
"""Minutes to wash board, knife and hands after raw meat, fish or egg."""

FULL_OVEN_SHARE = 0.15
"""Two full trays in an oven take 10 to 20 % longer; this is in the middle."""

HEAT, IN, LOOK, OUT = "heat", "in", "look", "out"
"""What hands do to what goes on by itself: heat the pan, put it in, look at it or stir, take it out."""

_DECILITRES = 10
_LITRES_PER_KG = 1.5
"""A kilogram of food stands in about so much room in the fridge [l]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cooked:
    """A component on its day.

    Attributes:
        raw_g: what goes into the pan on the day [g].
        written_g: what its steps were written for [g].
        fare: what of a vessel's loads counts.
        pieces: how many pieces it makes on the day; a round takes whole ones.
        pan_g: how much its pan holds raw [g], where the coach said so.
        raw_meat: whether raw meat, fish or egg is in it.
        free_of: allergens that it is cooked apart for.
        allergens: what it holds.
        delicate: what a minute of waiting costs it.
    """

    key: str
    name: str
    steps: tuple[Step, ...]
    raw_g: float
    written_g: float
    fare: Fare = Fare.VEGETABLES
    pieces: int | None = None
    pan_g: float | None = None
    raw_meat: bool = False
    free_of: frozenset[str] = frozenset()
    allergens: frozenset[str] = frozenset()
    delicate: int = 0

    @property
    def factor(self) -> float:
        """The day's amount over the one the steps were written for."""
        return self.raw_g / self.written_g if self.written_g else 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Round:
    """One of the rounds of a step: which, of how many, and how much goes into it [g]."""

    number: int
    of: int
    grams: float
    pieces: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """A task and what it came from: the step, its round, what it is done on, and what was assumed."""

    task: Task
    component: str
    step: Step
    round: Round
    on: str
    assumed: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Work:
    """The tasks of a day with their links, and what cannot be done in this kitchen, each with a way out."""

    planned: tuple[Planned, ...]
    links: tuple[Link, ...]
    impossible: tuple[str, ...]

    @property
    def alike(self) -> tuple[tuple[str, ...], ...]:
        """Tasks that are the same but for their number: the rounds of a step."""
        rounds: dict[tuple[str, str], list[str]] = {}
        for one in self.planned:
            rounds.setdefault((one.component, one.step.key), []).append(one.task.key)
        return tuple(tuple(keys) for keys in rounds.values() if len(keys) > 1)


def work_of(components: Sequence[Cooked], items: Sequence[Item], *, share_oven: bool) -> Work:
    """The tasks of a day.

    With `share_oven`, dishes whose temperatures are near enough are cooked at one, for as much longer or shorter as
    that takes.
    """
    planned: list[Planned] = []
    links: list[Link] = []
    impossible: list[str] = []
    ovens = {step.temperature_c for one in components for step in one.steps if step.on is Kind.OVEN}
    shared = shared_temperatures([each for each in ovens if each is not None]) if share_oven else {}
    for component in components:
        try:
            made, among = _tasks(component, items, shared)
        except _NotHere as error:
            impossible.append(str(error))
            continue
        planned += made
        links += among
    links += _free_first(components, planned)
    return Work(planned=tuple(planned), links=tuple(links), impossible=tuple(impossible))


class _NotHere(Exception):
    """Something cannot be done in a kitchen."""


def _tasks(component: Cooked, items: Sequence[Item], shared: dict[float, float]) -> tuple[list[Planned], list[Link]]:
    of_step = {step.key: list(_of_step(component, step, items, shared)) for step in component.steps}
    links: list[Link] = []
    before: str | None = None
    for step in component.steps:
        # A step may wait for one that is written after it; two that wait for each other are told as such.
        waits_for = step.after if step.after is not None else () if before is None else (before,)
        links += [
            Link(before=one.task.key, after=each.task.key, least=one.task.rest_min)
            for earlier in waits_for
            for one in of_step.get(earlier, ())
            for each in of_step[step.key]
        ]
        before = step.key
    return [one for made in of_step.values() for one in made], links


def _of_step(component: Cooked, step: Step, items: Sequence[Item], shared: dict[float, float]) -> Iterator[Planned]:
    if step.is_lead:
        yield _lead(component, step, items)
        return
    if step.on is None:
        yield _by_hand(component, step, items)
        return
    yield from _on_equipment(component, step, items, shared)


def _lead(component: Cooked, step: Step, items: Sequence[Item]) -> Planned:
    """A soak, a marinade: a minute or two of hands, then it goes on by itself."""
    assert step.lead_min is not None
    least = ceil(step.lead_min)
    most = ceil(step.lead_most_min) if step.lead_most_min is not None else max(least, 24 * 60)
    hands = max(2, ceil(grown(step.hands_min, step.growing, component.factor)))
    needs: tuple[Need, ...] = ()
    if step.on is Kind.FRIDGE:
        litres = ceil(component.raw_g / 1000 * _LITRES_PER_KG * _DECILITRES)
        fridges = of_kind(items, Kind.FRIDGE)
        if not fridges:
            raise _NotHere(f"“{step.says}” wants a fridge. Add one to the kitchen, or take the step out.")
        needs = (Need(options=tuple((item.key, litres) for item in fridges)),)
    task = Task(
        key=f"{component.key}/{step.key}/1",
        of=component.key,
        says=step.says,
        minutes=max(least, hands),
        most_minutes=max(most, least, hands),
        skill=step.skill,
        touches=(Touch(minutes=hands),),
        needs=needs,
        ahead=True,
    )
    return Planned(task=task, component=component.key, step=step, round=_whole(component), on="")


def _by_hand(component: Cooked, step: Step, items: Sequence[Item]) -> Planned:
    assumed: list[str] = []
    hands = grown(step.hands_min, step.growing, component.factor)
    unattended = grown(step.unattended_min, Growth.FIXED, component.factor)
    needs: tuple[Need, ...] = ()
    if step.needs_board:
        raw = step.skill is Skill.RAW
        boards = (raw and of_kind(items, Kind.RAW_BOARD)) or of_kind(items, Kind.BOARD, Kind.RAW_BOARD)
        if raw and all(item.kind is Kind.BOARD for item in boards):
            hands += WASH_MIN
            assumed.append(f"with {WASH_MIN} min to wash board, knife and hands before anything ready touches them")
        if not raw:
            boards = of_kind(items, Kind.BOARD) or boards
        if boards:
            needs = (Need(options=tuple((item.key, 1) for item in boards)),)
    minutes = max(1, ceil(hands - 1e-9)) if hands or not unattended else 0
    if not unattended:
        task = Task(
            key=f"{component.key}/{step.key}/1",
            of=component.key,
            says=step.says,
            minutes=minutes,
            hands_on=True,
            skill=step.skill,
            needs=needs,
            rest_min=ceil(step.rest_min),
        )
    else:
        lasts = minutes + max(1, ceil(unattended - 1e-9))
        task = Task(
            key=f"{component.key}/{step.key}/1",
            of=component.key,
            says=step.says,
            minutes=lasts,
            skill=step.skill,
            touches=(Touch(minutes=minutes), *_stirs(step, minutes, lasts)) if minutes else (),
            rest_min=ceil(step.rest_min),
        )
    return Planned(
        task=task, component=component.key, step=step, round=_whole(component), on="", assumed=tuple(assumed)
    )


def _on_equipment(
    component: Cooked, step: Step, items: Sequence[Item], shared: dict[float, float]
) -> Iterator[Planned]:
    where = _where(component, step, items)
    rounds = _rounds(component, step, where)
    stated_c = step.temperature_c
    real_c = shared.get(stated_c, stated_c) if stated_c is not None and step.on is Kind.OVEN else stated_c
    assumed = list(where.assumed)
    growth = Growth.FIXED if step.growing is Growth.LOAD else step.growing
    share = 1.0
    if step.growing is Growth.AMOUNT:
        share = component.factor / len(rounds)
    elif step.growth is None and step.hands_min >= HANDS_SHARE * (step.hands_min + step.unattended_min):
        # Somebody stood at it for these minutes, however many pans the amount of the recipe took.
        share = 1 / len(_rounds(replace(component, raw_g=component.written_g, pieces=None), step, where))
    unattended, hands = step.unattended_min * share, step.hands_min * share
    if growth is Growth.MILD:
        unattended = grown(unattended, growth, component.factor)
        hands = grown(hands, growth, component.factor)
    if stated_c is not None and real_c is not None and real_c != stated_c:
        unattended = at_temperature(unattended, stated_c, real_c)
        assumed.append(f"at {heat(real_c)} instead of {heat(stated_c)}, so about {ceil(unattended)} min")
    if step.on is Kind.OVEN and len(rounds) > 1 and where.places > 1:
        unattended *= 1 + FULL_OVEN_SHARE
        assumed.append(f"{FULL_OVEN_SHARE:.0%} longer, as two trays are in at once")
    lasts = max(1, ceil(hands + unattended - 1e-9))
    preheat = 0 if step.on is Kind.OVEN else ceil(step.preheat_min)
    hands_on = hands >= HANDS_SHARE * lasts and not preheat
    for each in rounds:
        minutes = lasts + preheat
        if hands_on:
            touches: tuple[Touch, ...] = ()
        elif hands >= HANDS_SHARE * lasts:
            # The pan heats by itself, then somebody is at it until it is done.
            touches = (Touch(minutes=1, says=HEAT), Touch(minutes=lasts, low=lasts, from_end=True, says=IN))
        else:
            begin = max(1, min(3, round(hands / 2)))
            minutes = max(minutes, preheat + begin + 1)
            touches = (
                *([Touch(minutes=1, says=HEAT)] if preheat else []),
                Touch(minutes=begin, low=preheat, high=preheat, says=IN),
                *_stirs(step, preheat + begin, minutes - 1),
                Touch(minutes=1, low=1, from_end=True, says=OUT),
            )
        task = Task(
            key=f"{component.key}/{step.key}/{each.number}",
            of=component.key,
            says=step.says,
            minutes=minutes,
            hands_on=hands_on,
            skill=Skill.HEAT,
            touches=touches,
            needs=where.needs,
            temperature_c=real_c if step.on is Kind.OVEN else None,
            rest_min=ceil(step.rest_min),
        )
        yield Planned(task=task, component=component.key, step=step, round=each, on=where.name, assumed=tuple(assumed))


def _stirs(step: Step, after: int, until: int) -> tuple[Touch, ...]:
    """A minute of attention at least as often as the step says, each up to a quarter earlier."""
    if not step.every_min:
        return ()
    every = max(2, int(step.every_min))
    early = every // 4
    return tuple(
        Touch(minutes=1, low=at - early, high=at, says=LOOK)
        for at in range(after + every, until - 1, every)
        if at - early > after
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Where:
    """What a step is done on: needs of one round, how many rounds go at once, and how much of it one takes [g]."""

    name: str
    needs: tuple[Need, ...]
    places: int
    load_g: float | None
    assumed: tuple[str, ...] = ()


def _where(component: Cooked, step: Step, items: Sequence[Item]) -> _Where:
    """The equipment for a step: of several that would do, what takes the fewest rounds.

    Raises:
        _NotHere: the kitchen has none.
    """
    kind = step.on
    assert kind is not None
    if kind is Kind.OVEN:
        return _in_oven(component, step, items)
    if kind in (Kind.HOB, *ON_THE_HOB):
        return _on_hob(component, step, items)
    if kind is Kind.GRILL:
        return _under_grill(component, step, items)
    found = of_kind(items, kind)
    if not found:
        raise _NotHere(_lacks(component, step, kind, items))
    best = max(found, key=lambda item: item.load_g(component.fare) or 0)
    amount = 1 if kind not in (Kind.FRIDGE, Kind.FREEZER) else ceil(component.raw_g / 1000 * _LITRES_PER_KG * 10)
    return _Where(
        name=best.name,
        needs=(Need(options=((best.key, amount),)),),
        places=best.places * best.count,
        load_g=best.load_g(component.fare),
    )


def _in_oven(component: Cooked, step: Step, items: Sequence[Item]) -> _Where:
    ovens = [
        item
        for item in of_kind(items, Kind.OVEN)
        if step.temperature_c is None or item.most_c is None or item.most_c >= step.temperature_c
    ]
    if not ovens:
        if of_kind(items, Kind.OVEN) and step.temperature_c is not None:
            raise _NotHere(
                f"“{step.says}” wants {heat(step.temperature_c)}, and the oven does not get so hot. Lower the "
                "temperature of the step and give it longer, or cook it another way."
            )
        raise _NotHere(_lacks(component, step, Kind.OVEN, items))
    options = tuple((f"{item.key}/{number}", 1) for item in ovens for number in range(1, item.count + 1))
    trays = [load for item in of_kind(items, Kind.TRAY, Kind.TIN) if (load := item.load_g(component.fare))]
    shelves = [load for item in ovens if (load := item.load_g(component.fare))]
    loads = trays or shelves
    return _Where(
        name=ovens[0].name if len(ovens) == 1 else "oven",
        needs=(Need(options=options),),
        places=sum(item.places * item.count for item in ovens),
        load_g=max(loads) if loads else None,
    )


def _on_hob(component: Cooked, step: Step, items: Sequence[Item]) -> _Where:
    hobs = of_kind(items, Kind.HOB)
    if not hobs:
        raise _NotHere(_lacks(component, step, Kind.HOB, items))
    if step.on in ON_THE_HOB:
        kinds: tuple[Kind, ...] = (step.on,) if step.on is not None else ()
    else:
        fries = step.hands_min >= HANDS_SHARE * (step.hands_min + step.unattended_min)
        kinds = (Kind.PAN,) if fries else (Kind.POT,)
    vessels = of_kind(items, *kinds) or of_kind(items, *ON_THE_HOB)
    ring = Need(options=tuple((item.key, 1) for item in hobs))
    if not vessels:
        raise _NotHere(
            f"“{step.says}” wants a {KIND_WORDS[kinds[0]]}, and the kitchen has none. Add one to the kitchen."
        )
    largest = max(vessels, key=lambda item: item.load_g(component.fare) or 0)
    wanted = component.pan_g or step.load_g or component.raw_g
    enough = [item for item in vessels if (item.load_g(component.fare) or 0) >= wanted]
    vessel = min(enough, key=lambda item: item.load_g(component.fare) or 0) if enough else largest
    return _Where(
        name=vessel.name,
        needs=(ring, Need(options=((vessel.key, 1),))),
        places=min(vessel.count, sum(item.places * item.count for item in hobs)),
        load_g=vessel.load_g(component.fare),
    )


def _under_grill(component: Cooked, step: Step, items: Sequence[Item]) -> _Where:
    grills = of_kind(items, Kind.GRILL)
    if not grills:
        raise _NotHere(_lacks(component, step, Kind.GRILL, items))
    best = max(grills, key=lambda item: (not item.within, item.load_g(component.fare) or 0))
    options: tuple[tuple[str, int], ...] = ((best.key, 1),)
    if best.within:
        # It blocks the whole oven while it runs.
        oven = next((item for item in items if item.key == best.within and item.kind is Kind.OVEN), None)
        if oven is None:
            raise _NotHere(f"“{best.name}” is part of an oven that the kitchen does not have.")
        options = tuple((f"{oven.key}/{number}", oven.places) for number in range(1, oven.count + 1))
    return _Where(name=best.name, needs=(Need(options=options),), places=best.count, load_g=best.load_g(component.fare))


_INSTEAD: dict[Kind, tuple[Kind, ...]] = {
    Kind.OVEN: (Kind.AIR_FRYER, Kind.HOB),
    Kind.GRILL: (Kind.HOB, Kind.OVEN),
    Kind.RICE_COOKER: (Kind.HOB,),
    Kind.AIR_FRYER: (Kind.OVEN,),
    Kind.SLOW_COOKER: (Kind.OVEN, Kind.HOB),
    Kind.PRESSURE_COOKER: (Kind.HOB,),
    Kind.MICROWAVE: (Kind.HOB,),
    Kind.HOB: (Kind.OVEN,),
}
"""What else cooks much the same."""


def _lacks(component: Cooked, step: Step, kind: Kind, items: Sequence[Item]) -> str:
    instead = [KIND_WORDS[other] for other in _INSTEAD.get(kind, ()) if of_kind(items, other)]
    way = f"cook it on the {' or in the '.join(instead)} (change the step)" if instead else "cook it elsewhere"
    name = KIND_WORDS[kind]
    return (
        f"“{step.says}” ({component.name}) wants a{'n' if name[0] in 'aeiou' else ''} {name}, and the kitchen has "
        f"none. Add one to the kitchen, or {way}."
    )


_BY_PIECE = (Kind.OVEN, Kind.GRILL, Kind.AIR_FRYER, Kind.PAN, Kind.MICROWAVE)
"""Where pieces are cooked as pieces."""


def _rounds(component: Cooked, step: Step, where: _Where) -> list[Round]:
    """Equal rounds of what fits at once; pieces stay whole."""
    load = component.pan_g or step.load_g or where.load_g
    if step.load_g is not None and where.load_g is not None and component.pan_g is None:
        load = min(step.load_g, where.load_g) if step.growing is not Growth.LOAD else step.load_g
    if load is None or (step.growing is Growth.AMOUNT and component.pan_g is None):
        return [_whole(component)]
    if component.pieces and step.on in _BY_PIECE:
        piece = component.raw_g / component.pieces
        at_once = int(load / piece + 1e-9)
        if at_once < 1:
            raise _NotHere(
                f"One piece of {component.name} weighs {weight(piece)}, and “{where.name}” takes {weight(load)}. Make "
                "smaller pieces, or choose something larger."
            )
        count = ceil(component.pieces / at_once)
        each, more = divmod(component.pieces, count)
        pieces = [each + (number < more) for number in range(count)]
        return [Round(number=number + 1, of=count, grams=piece * n, pieces=n) for number, n in enumerate(pieces)]
    count = max(1, ceil(component.raw_g / load - 1e-6))
    return [
        Round(number=number, of=count, grams=component.raw_g / count, pieces=None) for number in range(1, count + 1)
    ]


def _whole(component: Cooked) -> Round:
    return Round(number=1, of=1, grams=component.raw_g, pieces=component.pieces)


def _free_first(components: Sequence[Cooked], planned: Sequence[Planned]) -> Iterator[Link]:
    """What is cooked apart for somebody is done on each board, pan and oven before what holds the allergen.

    Where each of two holds what the other must be free of, none can come first: their cautions ask for a wash.
    """
    holds = {
        free.key: {one.key for one in components if one.allergens & free.free_of and one.key != free.key}
        for free in components
    }
    for free in components:
        others = {key for key in holds[free.key] if not _leads_to(holds, key, free.key)}
        for first in planned:
            if first.component != free.key or first.task.ahead:
                continue
            for then in planned:
                if then.component in others and not then.task.ahead and _touch_the_same(first.task, then.task):
                    yield Link(before=first.task.key, after=then.task.key)


def _leads_to(after: Mapping[str, set[str]], start: str, wanted: str) -> bool:
    """Whether something that comes after `start`, at once or in the end, is `wanted`."""
    seen, open_keys = set[str](), [start]
    while open_keys:
        key = open_keys.pop()
        if key == wanted:
            return True
        if key not in seen:
            seen.add(key)
            open_keys += after[key]
    return False


def _touch_the_same(one: Task, other: Task) -> bool:
    """Whether two tasks are done with the same things that food touches; a ring or an oven shelf is not."""

    def touched(task: Task) -> set[str]:
        return {key for need in task.needs for key, _ in need.options if "/" not in key}

    return bool(touched(one) & touched(other)) or (one.hands_on and other.hands_on)
