"""Steps for a component that has none: from general times by food, form, method and grams. Each says it is proposed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from statistics import median

from yantai.core.foods.kitchen_words import words_of
from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.steps import Growth, Step
from yantai.core.speaking import weight

LEAST_SHARE = 0.1
"""What is less than this share of a pan does not say how long the pan takes."""


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeRow:
    """A row of reference/data/times.csv: minutes on the heat of one load of a food."""

    key: str
    food: str
    group: str
    form: str
    method: str
    on: Kind | None
    setting_c: float | None
    minutes: float
    attended: float
    every_min: float | None
    preheat_min: float
    rest_min: float
    growth: Growth
    load_g: float | None
    done_when: str
    core_c: float | None
    lead: str
    lead_min: float | None
    lead_most_min: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PrepRow:
    """A row of reference/data/prep.csv: hand work, so many minutes and so many for each kilogram."""

    key: str
    task: str
    food: str
    group: str
    base_min: float
    per_kg_min: float | None
    per_piece_min: float | None
    piece: str
    knife: bool
    risk: str

    def minutes(self, grams: float, pieces: int | None = None) -> float:
        """Minutes for so many grams, or, where it goes by pieces and these are known, for so many of them."""
        by_piece = self.per_piece_min is not None and pieces
        if by_piece and pieces is not None and self.per_piece_min is not None:
            return self.base_min + self.per_piece_min * pieces
        return self.base_min + (self.per_kg_min or 0.0) * grams / 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """A line of a component as far as hand work and times go.

    Attributes:
        food: the key of its food in the reference data, "" for a food of the kitchen's own.
        says: the line as it was written, and the name of its food.
        purchased_g: on the day [g].
        seasons: salt, spices, oil and the like; `is_water`: water or stock.
    """

    food: str
    name: str
    says: str
    group: str
    state: str
    purchased_g: float
    seasons: bool = False
    is_water: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Times:
    """The tables that proposals come from."""

    cooking: tuple[TimeRow, ...]
    hands: tuple[PrepRow, ...]


NO_TIME = "no time is known for this food: the middle of all that is cooked so"

_TASK_WORDS = (
    ("peel", ("peel",)),
    ("trim", ("trim", "floret", "destem", "stripped")),
    ("slice", ("slice", "sliced", "strip", "shred", "ribbon", "ring", "half moon", "batons", "wedge")),
    ("dice", ("dice", "cube", "chunk", "chop", "cut")),
    ("chop fine", ("fine", "minced", "crushed", "chop")),
    ("grate", ("grate", "zest")),
    ("cube meat", ("dice", "cube", "chunk")),
    ("butterfly", ("butterfl", "flatten")),
    ("wash", ("wash", "rinse", "scrub")),
    ("drain and rinse can", ("drain",)),
)
_BY_DEFAULT = ("drain and rinse can", "crack eggs", "spin leaves", "peel", "trim", "dice", "slice", "chop fine")
"""What is done with a food of which nobody said how it is cut: these of what the tables know of it, a cut once."""

_CUTS = ("trim", "dice", "slice", "chop fine", "cube meat", "grate")
_RAW_GROUPS = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")
_MEATS = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish")
_MINCED = ("ground", "mince")
_READY_CUT = ("canned", "frozen", "cooked", "as-sold")
_SAID = {
    "chop fine": "chop",
    "cube meat": "dice",
    "drain and rinse can": "drain and rinse",
    "spin leaves": "wash and spin",
    "crack eggs": "crack",
}
_ALIKE = (
    ("boiled", "simmered", "poached", "steeped", "steamed", "braised"),
    ("roasted", "baked", "air-fried"),
    ("pan-fried", "sauteed", "stir-fried", "grilled"),
)
"""Methods that take a food much the same time."""

_METHOD_SAID = {
    "air-fried": "Air-fry",
    "baked": "Bake",
    "boiled": "Boil",
    "braised": "Braise",
    "grilled": "Grill",
    "microwaved": "Microwave",
    "pan-fried": "Fry",
    "poached": "Poach",
    "pressure-cooked": "Pressure-cook",
    "roasted": "Roast",
    "sauteed": "Fry",
    "simmered": "Simmer",
    "slow-cooked": "Slow-cook",
    "steamed": "Steam",
    "stir-fried": "Stir-fry",
}


def propose(
    name: str,
    method: str,
    lines: Sequence[Ingredient],
    times: Times,
    *,
    pieces: int | None = None,
) -> tuple[Step, ...]:
    """Steps for a component of these lines on its day: hand work line by line, mixing or forming, then the heat.

    What no table knows is left out, never guessed: a food that is not in them has no hand work.
    """
    apart: list[Step] = []
    for line in lines:
        if not line.seasons and not line.is_water and line.purchased_g > 0:
            apart += _prepared(line, times.hands)
    seasoning = [line for line in lines if line.seasons]
    row = next((row for row in times.hands if row.key == "weigh-out-spices"), None)
    if len(seasoning) > 1 and row is not None:
        apart.append(
            _hands("weigh-out", "Weigh out oil, salt and spices", row.minutes(0.0, len(seasoning)), row, False)
        )
    # What is cut waits for nothing; mixing waits for what is cut, and the heat for all of it.
    cut = tuple(step.key for step in apart)
    together = [replace(step, after=cut) for step in _put_together(name, method, lines, times.hands, pieces)]
    heated = _heated(name, method, lines, times.cooking)
    ahead = [replace(step, after=()) for step in heated if step.is_lead]
    before = (*cut, *(step.key for step in [*together, *ahead]))
    on_heat = [replace(step, after=before) for step in heated if not step.is_lead]
    return (*(replace(step, after=()) for step in apart), *together, *ahead, *on_heat)


def _hands(key: str, says: str, minutes: float, row: PrepRow, raw: bool) -> Step:
    skill = Skill.RAW if raw else Skill.KNIFE if row.knife else Skill.OTHER
    return Step(
        key=key,
        says=says,
        hands_min=round(minutes, 1),
        growth=Growth.AMOUNT,
        skill=skill,
        needs_board=row.knife,
        proposed=f"hand work by weight: {row.key.replace('-', ' ')}",
    )


def _prepared(line: Ingredient, rows: Sequence[PrepRow]) -> Iterator[Step]:
    """The hand work of one line, as one step."""
    jobs = _jobs(line, rows)
    if not jobs:
        return
    raw = line.group in _RAW_GROUPS and line.state in ("raw", "frozen")
    minutes = sum(row.minutes(line.purchased_g) for row in jobs)
    words = " and ".join(dict.fromkeys(_SAID.get(row.task, row.task) for row in jobs))
    says = f"{words[0].upper()}{words[1:]} {weight(line.purchased_g)} {line.name}"
    first = max(jobs, key=lambda row: row.knife)
    yield replace(
        _hands(f"prepare-{line.food or line.name}", says, minutes, first, raw),
        proposed="hand work by weight: " + ", ".join(row.key.replace("-", " ") for row in jobs),
        plain=f"{words[0].upper()}{words[1:]} {line.name}",
    )


def _jobs(line: Ingredient, rows: Sequence[PrepRow]) -> list[PrepRow]:
    of_food = [row for row in rows if row.food and row.food == line.food]
    of_group = [row for row in rows if not row.food and row.group == line.group]
    said = f"{line.says} {line.name}".casefold()
    if any(word in said for word in _MINCED) and line.group in _MEATS:
        return []
    named = [task for task, words in _TASK_WORDS if any(word in line.says.casefold() for word in words)]
    if line.state in _READY_CUT:
        named = [task for task in named if task in ("drain and rinse can", "grate", "chop fine", "slice")]
        if line.group == "legumes" and line.state == "canned":
            named = ["drain and rinse can"]
    chosen: list[PrepRow] = []
    for task in named:
        row = _row_for(task, of_food, of_group, rows, line.group)
        if row is not None and not (task in _CUTS and any(one.task in _CUTS for one in chosen)):
            chosen.append(row)
    if line.state in _READY_CUT:
        return chosen
    for task in () if chosen else _BY_DEFAULT:
        row = next((row for row in of_food if row.task == task), None)
        if row is not None and not (task in _CUTS and any(one.task in _CUTS for one in chosen)):
            chosen.append(row)
    if not any(row.task in ("peel", "spin leaves") for row in chosen):
        wash = next((row for row in [*of_food, *of_group] if row.task == "wash"), None)
        if wash is not None:
            chosen.insert(0, wash)
    return chosen


def _row_for(
    task: str, of_food: Sequence[PrepRow], of_group: Sequence[PrepRow], rows: Sequence[PrepRow], group: str
) -> PrepRow | None:
    """The row of a food for a task, or for another cut; else of its group; else the middle one of its other foods."""
    tasks = (task, *(_CUTS if task in _CUTS else ()))
    for some, wanted in ((of_food, tasks), (of_group, (task,))):
        for each in wanted:
            row = next((row for row in some if row.task == each), None)
            if row is not None:
                return row
    others = sorted(
        (row for row in rows if row.group == group and row.task == task and row.per_kg_min is not None),
        key=lambda row: row.per_kg_min or 0.0,
    )
    return others[len(others) // 2] if others else None


def _put_together(
    name: str, method: str, lines: Sequence[Ingredient], rows: Sequence[PrepRow], pieces: int | None
) -> Iterator[Step]:
    """Mixing what is not cooked, and forming what comes in pieces."""
    grams = sum(line.purchased_g for line in lines)
    by_key = {row.key: row for row in rows}
    mince = [line for line in lines if line.group in _MEATS and any(word in line.says.casefold() for word in _MINCED)]
    if pieces and mince:
        row = by_key.get("form-meatballs" if grams / pieces < 60 else "form-patties")
        if row is not None:
            says = f"Mix and form {pieces} {'piece' if pieces == 1 else 'pieces'} of {name}"
            yield _hands("form", says, row.minutes(grams, pieces) + 2, row, True)
    elif mince and len(lines) > 2:
        row = by_key.get("mix-mince-seasoning")
        if row is not None and method in ("baked", "roasted", "grilled"):
            yield _hands("mix", f"Mix {name}", row.minutes(grams), row, True)
    elif method == "none" and len([line for line in lines if line.purchased_g]) > 1:
        row = by_key.get("mix-salad" if _mostly(lines) == "vegetables" else "whisk-dressing")
        if row is not None:
            yield _hands("mix", f"Mix {name}", row.minutes(grams), row, False)


def _mostly(lines: Iterable[Ingredient]) -> str:
    """The group that weighs most."""
    grams: dict[str, float] = {}
    for line in lines:
        grams[line.group] = grams.get(line.group, 0.0) + line.purchased_g
    return max(grams, key=lambda group: grams[group], default="")


def _heated(name: str, method: str, lines: Sequence[Ingredient], rows: Sequence[TimeRow]) -> list[Step]:
    """The step on the heat, of whatever takes longest in the pan, with what must be done long before it."""
    if method == "none":
        return []
    eaten = [line for line in lines if not line.seasons and not line.is_water]
    total = sum(line.purchased_g for line in eaten)
    found = [
        row
        for line in eaten
        if line.purchased_g >= LEAST_SHARE * total and (row := time_row(line, method, rows)) is not None
    ]
    verb = _METHOD_SAID.get(method, method.capitalize())
    says = name if name.casefold().startswith(verb.casefold()) else f"{verb} {name}"
    if not found:
        return _usual(says, method, rows)
    row = max(found, key=lambda each: each.minutes)
    core = max((each.core_c for each in found if each.core_c is not None), default=None)
    hands = row.attended * row.minutes
    heated = Step(
        key="heat",
        says=says,
        hands_min=round(hands, 1),
        unattended_min=round(row.minutes - hands, 1),
        every_min=row.every_min,
        preheat_min=row.preheat_min,
        rest_min=row.rest_min,
        temperature_c=row.setting_c,
        on=row.on,
        growth=row.growth,
        load_g=row.load_g,
        core_c=core,
        done_when=row.done_when,
        skill=Skill.HEAT,
        proposed=f"usual time: {row.key.replace('-', ' ')}, {row.form}",
    )
    leads = [
        Step(
            key=f"ahead-{each.key}",
            says=f"{each.lead[0].upper()}{each.lead[1:]}: {name}",
            lead_min=each.lead_min,
            lead_most_min=each.lead_most_min,
            hands_min=2,
            growth=Growth.FIXED,
            on=Kind.FRIDGE if "fridge" in each.lead or "marinate" in each.lead else None,
            proposed=f"usual time: {each.key.replace('-', ' ')}",
        )
        for each in found
        if each.lead and each.lead_min
    ]
    return [*leads[:1], heated]


def time_row(line: Ingredient, method: str, rows: Sequence[TimeRow]) -> TimeRow | None:
    """The time of a food by a method: its own row, its own by a method much like it, or one of its group; of several
    the one whose form is said."""
    rows = [row for row in rows if row.on is not None and not row.key.startswith("reheat-")]
    by_method = [row for row in rows if row.method == method]
    minced = any(word in f"{line.says} {line.name}".casefold() for word in _MINCED)
    own = [row for row in by_method if row.food and row.food == line.food]
    of_group = [
        row for row in by_method if not row.food and row.group == line.group and row.form.startswith("mince") == minced
    ]
    near = [row for row in rows if row.food and row.food == line.food and _family(row.method) == _family(method)]
    alike = [row for row in by_method if row.group == line.group and row.form.startswith("mince") == minced]
    for some in (own, near, of_group):
        if some:
            return max(some, key=lambda row: _said_of(row.form, line))
    if not alike:
        return None
    # Nobody knows this food: the time in the middle of its kind.
    in_turn = sorted(alike, key=lambda row: row.minutes)
    return in_turn[len(in_turn) // 2]


def _family(method: str) -> int | str:
    return next((number for number, alike in enumerate(_ALIKE) if method in alike), method)


def _said_of(form: str, line: Ingredient) -> int:
    said = set(words_of(line.says)) | set(words_of(line.name))
    return sum(word in said for word in words_of(form))


def _usual(says: str, method: str, rows: Sequence[TimeRow]) -> list[Step]:
    """What such a method takes in the middle, for a component of foods that no row knows."""
    of = [row for row in rows if row.method == method and not row.key.startswith("reheat-")]
    if not of:
        return []
    minutes = median(row.minutes for row in of)
    middle = min(of, key=lambda row: abs(row.minutes - minutes))
    hands = middle.attended * minutes
    return [
        Step(
            key="heat",
            says=says,
            hands_min=round(hands, 1),
            unattended_min=round(minutes - hands, 1),
            every_min=middle.every_min,
            preheat_min=middle.preheat_min,
            temperature_c=middle.setting_c,
            on=middle.on,
            growth=middle.growth,
            skill=Skill.HEAT,
            proposed=NO_TIME,
        )
    ]


def delicate(role: str, method: str, groups: Iterable[str]) -> int:
    """What a minute of waiting costs a component, 0 to 3: fish and what is fried or steamed most, stews nothing."""
    if "fish-shellfish" in set(groups):
        return 3
    if method in ("pan-fried", "stir-fried", "grilled", "air-fried", "sauteed"):
        return 2
    if method in ("steamed", "boiled", "poached") and role in ("vegetable", "grain"):
        return 1
    return 0
