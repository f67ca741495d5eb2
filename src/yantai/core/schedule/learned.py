"""How long steps take in this kitchen, and how fast its people are: few days lean on the table, many stand on their
own."""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

STEP_SPREAD = 0.3
"""Standard deviation of ln(real / stated minutes) from step to step: a kitchen is within a third of the table."""
PERSON_SPREAD = 0.25
"""The same from person to person, around the pace that the coach stated."""
DAY_TO_DAY = 0.25
"""The same from day to day, of one step done by one person."""
HUBER = 1.5
"""Deviations beyond so many standard deviations count less and less (P. J. Huber, Robust Statistics, 1981)."""
LEAST_MIN = 3
"""What was to take less is not measured by a clock of whole minutes [min]."""
FURTHEST = 4.0
"""Real minutes so many times the stated ones, or that part of them, are marks set late or early, and no measurement."""
_ROUNDS = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class Took:
    """How long a task took [min] against the minutes stated for whoever works at the usual pace.

    Attributes:
        step: what it tells about.
        person: who was at it all the time; None for what goes on by itself.
    """

    step: str
    person: str | None
    planned_min: float
    took_min: float

    @property
    def is_measured(self) -> bool:
        """Whether it tells anything."""
        if self.planned_min < LEAST_MIN or self.took_min < 1:
            return False
        return 1 / FURTHEST <= self.took_min / self.planned_min <= FURTHEST


@dataclass(frozen=True, slots=True, kw_only=True)
class Learnt:
    """A factor on the stated minutes, how many tasks it rests on, and how much of it still is what was stated."""

    factor: float
    count: int
    stated_share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace:
    """What was learned: by step, and by person."""

    steps: Mapping[str, Learnt]
    people: Mapping[str, Learnt]

    def of_step(self, step: str) -> float:
        """The factor on the minutes of a step, 1 where nothing is known."""
        return self.steps[step].factor if step in self.steps else 1.0

    def of_person(self, person: str, stated: float) -> float:
        """The pace of a person, the stated one where nothing is known."""
        return self.people[person].factor if person in self.people else stated


def learn_pace(took: Iterable[Took], stated: Mapping[str, float]) -> Pace:
    """What the tasks that were done say of steps and of people, whose `stated` pace is 1 where there is none.

    On x = ln(real / stated) a task is a + b + noise, with a of its step and b of its person. Each a is normal around 0
    with `STEP_SPREAD`, each b around ln(stated pace) with `PERSON_SPREAD`, the noise with `DAY_TO_DAY`. With Huber
    weights w the posterior mean of a is

        a = Σ w (x − b) / s² / (1 / t² + Σ w / s²)

    and of b likewise, each with the other as it is known, in turn until nothing moves (A. Gelman et al., Bayesian Data
    Analysis, 3rd edition, sections 2.5 and 15.5; backfitting). Every task counts once, so what one person does alone
    is shared between the step and the person as their spreads say.

    >>> carrots = [Took(step="carrots", person=None, planned_min=20, took_min=26)] * 4
    >>> learn_pace(carrots, {}).steps["carrots"]
    Learnt(factor=1.251, count=4, stated_share=0.148)
    """
    known = [one for one in took if one.is_measured]
    x = [math.log(one.took_min / one.planned_min) for one in known]
    of_step, of_person = _by(known, "step"), _by(known, "person")
    prior = {person: math.log(stated.get(person, 1.0)) for person in of_person}
    a, b = dict.fromkeys(of_step, 0.0), dict(prior)
    for _ in range(_ROUNDS):
        was = (dict(a), dict(b))
        for step, places in of_step.items():
            rest = [x[place] - b.get(known[place].person or "", 0.0) for place in places]
            a[step] = _shrunk(rest, 0.0, STEP_SPREAD)[0]
        for person, places in of_person.items():
            rest = [x[place] - a[known[place].step] for place in places]
            b[person] = _shrunk(rest, prior[person], PERSON_SPREAD)[0]
        if all(abs(a[key] - was[0][key]) < 1e-9 for key in a) and all(abs(b[key] - was[1][key]) < 1e-9 for key in b):
            break
    return Pace(
        steps={
            step: _learnt(a[step], [x[place] - b.get(known[place].person or "", 0.0) for place in places], STEP_SPREAD)
            for step, places in of_step.items()
        },
        people={
            person: _learnt(
                b[person], [x[place] - a[known[place].step] for place in places], PERSON_SPREAD, prior[person]
            )
            for person, places in of_person.items()
        },
    )


def _by(known: Sequence[Took], name: str) -> dict[str, list[int]]:
    places: dict[str, list[int]] = {}
    for place, one in enumerate(known):
        key = getattr(one, name)
        if key is not None:
            places.setdefault(key, []).append(place)
    return places


def _learnt(log: float, rest: Sequence[float], spread: float, middle: float = 0.0) -> Learnt:
    share = _shrunk(rest, middle, spread)[1]
    return Learnt(factor=round(math.exp(log), 3), count=len(rest), stated_share=round(share, 3))


def _shrunk(values: Sequence[float], middle: float, spread: float) -> tuple[float, float]:
    """The posterior mean around `middle`, and how much of it still is `middle`."""
    centre = statistics.median([*values, middle])
    reach = math.hypot(DAY_TO_DAY, spread / math.sqrt(len(values)))
    weights = [_huber(abs(value - centre) / reach) for value in values]
    own, stated = sum(weights) / DAY_TO_DAY**2, 1 / spread**2
    mean = (middle * stated + sum(w * v for w, v in zip(weights, values, strict=True)) / DAY_TO_DAY**2) / (own + stated)
    return mean, stated / (own + stated)


def _huber(deviations: float) -> float:
    return 1.0 if deviations <= HUBER else (HUBER / deviations) ** 2
