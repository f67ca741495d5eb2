"""The engine over all schools against a search of every point there is, which shares no code with it."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import dataclass, replace
from random import Random
from typing import Any

import numpy as np

from tests.core.examples import food
from tests.volume import volume
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.foods.nutrients import AIMED, Amounts, Nutrient
from yantai.core.planning.dishes import ONE, ContainerClass, Part, one_dish
from yantai.core.planning.plan import Leftover, Plan, plan
from yantai.core.planning.portioning import DEFAULT_PLATE_G, Bounds, School
from yantai.core.portions import Limit, Sharing
from yantai.core.targets.targets import LIMITS, Target, Tolerance

SCALE_FLOOR = {Nutrient.KCAL: 10.0, Nutrient.FIBRE: 1.0, Nutrient.SATURATED: 1.0, Nutrient.SODIUM: 100.0}
USUAL_TOLERANCE = {Nutrient.KCAL: 30.0, Nutrient.PROTEIN: 3.0, Nutrient.CARBOHYDRATE: 5.0, Nutrient.FAT: 3.0}
USUAL_TARGET = {Nutrient.KCAL: 500.0, Nutrient.PROTEIN: 40.0, Nutrient.CARBOHYDRATE: 50.0, Nutrient.FAT: 15.0}
PRIORITY = {Nutrient.KCAL: 2.0, Nutrient.PROTEIN: 2.0}
SINGLE_PROBLEMS = volume(500, 1500)
SHARED_PROBLEMS = volume(250, 600)
RANKED_PROBLEMS = volume(200, 500)
SPREAD_PROBLEMS = volume(200, 500)
SET_PROBLEMS = volume(200, 500)


@dataclass(frozen=True)
class Problem:
    """A random batch and what it is made of."""

    parts: dict[str, Part]
    classes: tuple[ContainerClass, ...]
    step_g: float

    def solve(self, **how: Any) -> Plan:
        return plan(one_dish(self.parts), self.classes, step_g=self.step_g, **how)


def a_pan(rng: Random, school: School, step: float, *, weighed: bool) -> Part:
    kind = rng.choice(
        [
            food(rng.uniform(18, 32), rng.uniform(0, 3), rng.uniform(1, 14), sodium_mg=rng.uniform(50, 600)),
            food(rng.uniform(2, 9), rng.uniform(15, 32), rng.uniform(0, 4), fibre_g=rng.uniform(0, 6)),
            food(rng.uniform(1, 4), rng.uniform(3, 12), rng.uniform(0, 2), fibre_g=rng.uniform(1, 5)),
            food(rng.uniform(0, 8), rng.uniform(0, 12), rng.uniform(5, 40), saturated_g=rng.uniform(0, 4)),
        ]
    )
    grams = float(rng.randint(60, 400))
    line = Line(name="It", purchased_g=grams, composition=kind, yield_range=UNCHANGED)
    pieces = rng.randint(2, 8) if school is School.PIECES else None
    low = step * rng.randint(0, 2)
    return Part(
        component=Component(name="It", lines=(line,), measured_g=grams if weighed else None, pieces=pieces),
        share=rng.uniform(20, 200),
        school=school,
        bounds=Bounds(
            minimum_g=low,
            maximum_g=low
            + step
            * rng.randint(2, 7)
            * (4 if school in (School.PIECES, School.FIXED_MEASURE, School.BUILT_RAW) else 1),
        ),
        unit_g=float(rng.randint(20, 90)) if school is School.FIXED_MEASURE else None,
        unit_part=rng.choice([1.0, 0.5]),
        plate_share=float(rng.randint(1, 4)),
        eye_g=float(rng.randint(0, 40)),
        raw_fixed=weighed,
        density_g_per_ml=rng.uniform(0.4, 1.1),
    )


def a_target(rng: Random) -> Target:
    macros = {"protein_g": rng.uniform(5, 50), "carbohydrate_g": rng.uniform(5, 60), "fat_g": rng.uniform(2, 25)}
    chosen = {name: value for name, value in macros.items() if rng.random() < 0.8}
    if rng.random() < 0.4 or not chosen:
        chosen["kcal"] = 4 * macros["protein_g"] + 4 * macros["carbohydrate_g"] + 9 * macros["fat_g"]
    limits = {"fibre_g": rng.uniform(0, 8), "saturated_g": rng.uniform(1, 8), "sodium_mg": rng.uniform(100, 900)}
    return Target(**chosen, **{name: value for name, value in limits.items() if rng.random() < 0.25})


def a_problem(rng: Random, *, classes: int, weighed: float, schools: list[School]) -> Problem:
    step = rng.choice([5.0, 10.0, 20.0])
    parts = {f"p{n}": a_pan(rng, school, step, weighed=rng.random() < weighed) for n, school in enumerate(schools)}
    each = []
    for _ in range(classes):
        tolerance = Tolerance(
            kcal=rng.uniform(5, 60), protein_g=rng.uniform(0.5, 5), carbohydrate_g=rng.uniform(0.5, 8)
        )
        each.append(
            ContainerClass(
                target=a_target(rng),
                tolerance=tolerance,
                count=rng.randint(1, 3),
                capacity_ml=rng.uniform(200, 900) if rng.random() < 0.3 else None,
                capacity_g=rng.uniform(150, 700) if rng.random() < 0.2 else None,
                plate_g=rng.uniform(100, 500) if rng.random() < 0.7 else None,
                pins={key: float(rng.randint(0, 8)) * step for key in parts if rng.random() < 0.1},
                left_out=frozenset(key for key in parts if rng.random() < 0.08),
            )
        )
    return Problem(parts, tuple(each), step)


def per_100g(part: Part) -> Amounts:
    """All lines here keep their weight, so the line's composition is that of the cooked component."""
    return part.component.lines[0].composition


def steps_between(low: float, high: float, step: float) -> list[float]:
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    return [n * step for n in range(first, last + 1)] or [low]


def points(problem: Problem, each: ContainerClass) -> np.ndarray:
    """Every filling of one container, (k, pans), from the words of the schools and nothing of the engine."""
    axes: list[list[dict[str, float]]] = []
    mixed = [key for key, part in problem.parts.items() if part.school is School.ONE_POT]
    for key, part in problem.parts.items():
        if part.school is School.ONE_POT:
            if key == mixed[0]:
                axes.append(mixtures(problem, each, mixed))
            continue
        axes.append([{key: grams} for grams in choices(problem, each, key, part)])
    filled = []
    for parts in itertools.product(*axes):
        grams = {name: value for part in parts for name, value in part.items()}
        filled.append([grams[key] for key in problem.parts])
    return np.array(filled)


def mixtures(problem: Problem, each: ContainerClass, mixed: list[str]) -> list[dict[str, float]]:
    parts = [problem.parts[key] for key in mixed]
    weighed = all(part.weighed for part in parts)
    weights = [part.component.cooked_g if weighed else part.share for part in parts]
    shares = [weight / sum(weights) for weight in weights]
    if any(key in each.left_out for key in mixed):
        wholes = [0.0]
    elif any(key in each.pins for key in mixed):
        wholes = [max(each.pins[key] / share for key, share in zip(mixed, shares, strict=True) if key in each.pins)]
    else:
        wholes = steps_between(*mixture_bounds(parts, shares), problem.step_g)
    return [{key: whole * share for key, share in zip(mixed, shares, strict=True)} for whole in wholes]


def mixture_bounds(parts: list[Part], shares: list[float]) -> tuple[float, float]:
    """The grams of a part are the mixture's times its share, so each part's bounds bind the mixture; the most wins."""
    most = min((p.bounds.maximum_g or 0) / share for p, share in zip(parts, shares, strict=True))
    least = max(p.bounds.minimum_g / share for p, share in zip(parts, shares, strict=True))
    return min(least, most), most


SET = (School.BY_EYE, School.EQUAL_SPLIT, School.PLATE_SHARES)


def set_grams(problem: Problem) -> list[dict[str, float]]:
    """Grams of what is divided, in plate shares or by eye, for each class: first what it would be, at most the most and
    what the container has room for, then what a weighed pot holds for all."""

    def whole(grams: float) -> float:
        return math.floor(grams / problem.step_g + 1e-9) * problem.step_g

    found: list[dict[str, float]] = []
    for each in problem.classes:
        amounts = {}
        for key, part in problem.parts.items():
            if part.school in SET and key not in each.left_out and key not in each.pins:
                amounts[key] = min(wanted(problem, each, key, part), whole(part.bounds.maximum_g or 0))
        beside = {key: least(problem, each, key) for key, part in problem.parts.items() if part.school not in SET}
        beside = {key: grams for key, grams in {**beside, **each.pins}.items() if key not in each.left_out}
        for room, weigh in ((each.capacity_g, 0.0), (each.capacity_ml, 1.0)):
            if room is None:
                continue
            per = {key: 1 / part.density_g_per_ml**weigh for key, part in problem.parts.items()}
            taken = sum(grams * per[key] for key, grams in beside.items())
            asked = sum(grams * per[key] for key, grams in amounts.items())
            if asked and taken + asked > room + 1e-6:
                amounts = {key: whole(grams * max(room - taken, 0) / asked) for key, grams in amounts.items()}
        found.append(amounts)
    for key, part in problem.parts.items():
        if part.school in SET and part.weighed and part.school is not School.EQUAL_SPLIT:
            there = part.component.cooked_g - sum(
                c.count * c.pins[key] for c in problem.classes if key in c.pins and key not in c.left_out
            )
            asked = sum(c.count * f[key] for c, f in zip(problem.classes, found, strict=True) if key in f)
            if asked > max(there, 0) + 1e-6:
                for amounts in found:
                    if key in amounts:
                        amounts[key] = whole(amounts[key] * max(there, 0) / asked)
    return found


def wanted(problem: Problem, each: ContainerClass, key: str, part: Part) -> float:
    if part.school is School.BY_EYE:
        return part.eye_g
    if part.school is School.PLATE_SHARES:
        in_shares = [
            p.plate_share
            for name, p in problem.parts.items()
            if p.school is School.PLATE_SHARES and name not in each.left_out
        ]
        grams = (each.plate_g or DEFAULT_PLATE_G) * part.plate_share / sum(in_shares)
        return math.floor(grams / problem.step_g + 0.5) * problem.step_g
    open_to = [c for c in problem.classes if key not in c.left_out]
    rest = part.component.cooked_g - sum(c.count * c.pins[key] for c in open_to if key in c.pins)
    takers = [c for c in open_to if key not in c.pins]
    steps = math.floor(max(rest, 0) / problem.step_g + 1e-9)
    each_gets, over = divmod(steps, sum(c.count for c in takers))
    # What is over in whole steps goes to the classes it reaches for, those with the most containers first.
    for c in sorted(takers, key=lambda c: -c.count):
        more = c.count <= over
        over -= c.count if more else 0
        if c is each:
            return (each_gets + more) * problem.step_g
    return 0.0


def least(problem: Problem, each: ContainerClass, key: str) -> float:
    """The least a component that is solved for takes in a container, on its steps."""
    part = problem.parts[key]
    if part.school is School.ONE_POT:
        mixed = [k for k, p in problem.parts.items() if p.school is School.ONE_POT]
        free = replace(each, pins={}, left_out=frozenset())
        return min(mixture[key] for mixture in mixtures(problem, free, mixed))
    return min(choices(problem, replace(each, pins={}, left_out=frozenset()), key, part))


def choices(problem: Problem, each: ContainerClass, key: str, part: Part) -> list[float]:
    if key in each.left_out:
        return [0.0]
    if key in each.pins:
        return [each.pins[key]]
    if part.school in SET:
        return [set_grams(problem)[problem.classes.index(each)][key]]
    step = problem.step_g
    if part.school is School.BUILT_RAW:
        step = part.component.lines[0].purchased_g * part.unit_part
    if part.school is School.PIECES:
        step = part.component.cooked_g / (part.component.pieces or 1) * part.unit_part
    if part.school is School.FIXED_MEASURE:
        step = (part.unit_g or 0) * part.unit_part
    return steps_between(part.bounds.minimum_g, part.bounds.maximum_g or 0, step)


def within_reach(rng: Random, problem: Problem, each: ContainerClass, filling: np.ndarray) -> ContainerClass:
    """The same class with a target that one filling, (pans,), meets."""
    held = {
        n: float(sum(g * per_100g(part)[n] for g, part in zip(filling, problem.parts.values(), strict=True)) / 100)
        for n in Nutrient
    }
    aims = {n.value: max(held[n] + rng.uniform(-0.9, 0.9) * each.tolerance[n], 0.0) for n in each.target.aims}
    if not any(aims.values()) or any(value > LIMITS[Nutrient(name)] for name, value in aims.items()):
        return each
    fibre, sodium = held[Nutrient.FIBRE], held[Nutrient.SODIUM]
    limits = {"fibre_g": fibre * 0.9, "sodium_mg": sodium * 1.05} if rng.random() < 0.3 else {}
    return replace(each, target=Target(**aims, **limits))


def misses(problem: Problem, each: ContainerClass, grams: np.ndarray) -> dict[Nutrient, np.ndarray]:
    """Misses beyond the tolerance of each filling (k, pans)."""
    found = {}
    bands = {n: (v - each.tolerance[n], v + each.tolerance[n]) for n, v in each.target.aims.items()}
    for nutrient, limit in each.target.limits.items():
        bands[nutrient] = (limit, math.inf) if nutrient is Nutrient.FIBRE else (-math.inf, limit)
    for nutrient, (low, high) in bands.items():
        held = grams @ np.array([per_100g(part)[nutrient] for part in problem.parts.values()]) / 100
        found[nutrient] = np.maximum(np.maximum(held - high, low - held), 0)
    return found


def scale_of(each: ContainerClass, nutrient: Nutrient) -> float:
    floor = SCALE_FLOOR.get(nutrient, 1.0)
    return max(each.tolerance[nutrient], floor) if nutrient in AIMED else floor


def weighted(problem: Problem, each: ContainerClass, grams: np.ndarray) -> np.ndarray:
    parts = [
        PRIORITY.get(nutrient, 1.0) * (miss / scale_of(each, nutrient)) ** 2
        for nutrient, miss in misses(problem, each, grams).items()
    ]
    return np.asarray(np.sum(parts, axis=0))


def is_met(problem: Problem, each: ContainerClass, grams: np.ndarray) -> np.ndarray:
    return np.asarray(np.all([miss < 1e-6 for miss in misses(problem, each, grams).values()], axis=0))


def fits(problem: Problem, each: ContainerClass, grams: np.ndarray) -> np.ndarray:
    ml = grams @ np.array([1 / part.density_g_per_ml for part in problem.parts.values()])
    inside = ml <= (each.capacity_ml or math.inf) + 1e-6
    return np.asarray(inside & (grams.sum(axis=1) <= (each.capacity_g or math.inf) + 1e-6))


def fair_weight(each: ContainerClass) -> float:
    aims = each.target.aims
    weights = {n: PRIORITY.get(n, 1.0) for n in aims}
    whole = sum(weights.values())
    tolerance = sum(weights[n] * scale_of(each, n) / USUAL_TOLERANCE[n] for n in aims) / whole
    target = sum(weights[n] * value / USUAL_TARGET[n] for n, value in aims.items()) / whole
    return tolerance**2 / max(target, 0.05)


SOLVED = (School.BY_COMPONENT, School.ONE_POT, School.BUILT_RAW, School.PIECES, School.FIXED_MEASURE)


class OneContainer(unittest.TestCase):
    """Batches of one container each, nothing short: all schools mixed on a plate."""

    def test_against_every_filling(self) -> None:
        rng = Random(41)
        met = missed = 0
        for number in range(SINGLE_PROBLEMS):
            schools = [rng.choice(list(School)) for _ in range(rng.randint(1, 4))]
            problem = a_problem(rng, classes=1, weighed=0, schools=schools)
            (each,) = problem.classes
            tried = points(problem, each)
            tried = tried[fits(problem, each, tried)]
            if not len(tried):
                continue
            if number % 2:
                each = within_reach(rng, problem, each, rng.choice(tried))
                problem = replace(problem, classes=(each,))
            (portion,) = problem.solve().portions
            with self.subTest(number=number, schools=schools):
                own = np.array([portion.grams])
                nearest = np.abs(tried - own).max(axis=1).min()
                self.assertLess(nearest, 1e-6, "not a filling that the schools, pins, bounds and capacity allow")
                if is_met(problem, each, tried).any():
                    met += 1
                    self.assertTrue(portion.met, portion.misses)
                else:
                    missed += 1
                    best = float(weighted(problem, each, tried).min())
                    self.assertLessEqual(float(weighted(problem, each, own)[0]), 1.01 * best + 1.1e-4)
        self.assertGreater(min(met, missed), 200, "both kinds of problem are tried")


class SharedPots(unittest.TestCase):
    """Batches of two containers from weighed pots, most of which are short."""

    def test_against_every_filling_of_both(self) -> None:
        rng = Random(43)
        met = missed = 0
        while met + missed < SHARED_PROBLEMS:
            schools = [rng.choice(SOLVED) for _ in range(rng.randint(1, 3))]
            problem = a_problem(rng, classes=2, weighed=0.7, schools=schools)
            one, other = problem.classes
            first, second = points(problem, one), points(problem, other)
            first, second = first[fits(problem, one, first)], second[fits(problem, other, second)]
            if not len(first) or not len(second) or len(first) * len(second) > 150_000:
                continue
            pairs = self.pairs_in_supply(problem, first, second)
            if not len(pairs):
                continue
            if rng.random() < 0.5:
                chosen = rng.choice(pairs)
                one = within_reach(rng, problem, one, first[chosen[0]])
                other = within_reach(rng, problem, other, second[chosen[1]])
                problem = replace(problem, classes=(one, other))
            both = problem.solve().portions
            grams = [np.array([portion.grams]) for portion in both]
            with self.subTest(number=met + missed, schools=schools):
                for own, allowed in zip(grams, (first, second), strict=True):
                    self.assertLess(np.abs(allowed - own).max(axis=1).min(), 1e-6)
                self.assertTrue(self.in_supply(problem, grams[0], grams[1]).all())
                good = is_met(problem, one, first)[pairs[:, 0]] & is_met(problem, other, second)[pairs[:, 1]]
                if good.any():
                    met += 1
                    self.assertTrue(all(portion.met for portion in both), [p.misses for p in both])
                else:
                    missed += 1
                    cost = [c.count * fair_weight(c) for c in problem.classes]
                    all_of = cost[0] * weighted(problem, one, first), cost[1] * weighted(problem, other, second)
                    best = float((all_of[0][pairs[:, 0]] + all_of[1][pairs[:, 1]]).min())
                    own_miss = sum(
                        c * float(weighted(problem, each, g)[0])
                        for c, each, g in zip(cost, problem.classes, grams, strict=True)
                    )
                    self.assertLessEqual(own_miss, 1.01 * best + 1e-4)
        self.assertGreater(min(met, missed), 50)

    def in_supply(self, problem: Problem, first: np.ndarray, second: np.ndarray) -> np.ndarray:
        taken = problem.classes[0].count * first + problem.classes[1].count * second
        ok = np.ones(len(taken), dtype=bool)
        for index, part in enumerate(problem.parts.values()):
            # Of a mixture each weighed part is a pot of its own.
            if part.weighed:
                ok &= taken[:, index] <= part.component.cooked_g + 1e-6
        return ok

    def pairs_in_supply(self, problem: Problem, first: np.ndarray, second: np.ndarray) -> np.ndarray:
        left, right = np.meshgrid(np.arange(len(first)), np.arange(len(second)), indexing="ij")
        pairs = np.stack([left.ravel(), right.ravel()], axis=1)
        return np.asarray(pairs[self.in_supply(problem, first[pairs[:, 0]], second[pairs[:, 1]])])


class Ranked(unittest.TestCase):
    """Batches of two ranks from weighed pots."""

    def test_least_amounts_of_all_come_first_and_then_the_first_in_rank(self) -> None:
        rng = Random(47)
        short = held = 0
        for number in range(RANKED_PROBLEMS):
            problem = a_problem(rng, classes=2, weighed=1, schools=[School.BY_COMPONENT] * rng.randint(1, 3))
            first, later = (replace(each, pins={}, rank=rank) for rank, each in enumerate(problem.classes))
            ranked = replace(problem, classes=(first, later))
            both = ranked.solve(sharing=Sharing.RANKED)
            leasts = [{key: lowest(problem, c, key) for key in problem.parts} for c in (first, later)]
            there = {key: part.component.cooked_g for key, part in problem.parts.items()}
            holds = {
                key: first.count * leasts[0][key] + later.count * leasts[1][key] <= there[key] + 1e-6 for key in there
            }
            with self.subTest(number=number):
                for need in both.needs.values():
                    self.assertGreaterEqual(need.spare_g, -1e-6)
                for portion, least_g in zip(both.portions, leasts, strict=True):
                    for (key, fits_all), grams in zip(holds.items(), portion.grams, strict=True):
                        if fits_all and not portion.is_overfull:
                            self.assertGreaterEqual(grams, least_g[key] - 1e-6)
                # The first in rank have all but the least of the others; a pot of just that gives them the same.
                reserved = {key: later.count * leasts[1][key] if holds[key] else 0.0 for key in there}
                if all(there[key] - reserved[key] > 1 for key in there):
                    parts = {
                        key: replace(part, component=part.component.times(1 - reserved[key] / there[key]))
                        for key, part in problem.parts.items()
                    }
                    alone = Problem(parts, (first,), problem.step_g).solve(sharing=Sharing.RANKED)
                    self.assertEqual(both.portions[0].grams, alone.portions[0].grams)
                    held += any(reserved.values())
            short += not both.portions[1].met
        self.assertGreater(short, 60)
        self.assertGreater(held, 60)


def lowest(problem: Problem, each: ContainerClass, key: str) -> float:
    """The least of a component by itself in a container, 0 where it is left out."""
    return 0.0 if key in each.left_out else choices(problem, each, key, problem.parts[key])[0]


class Leftovers(unittest.TestCase):
    def test_spreading_uses_more_and_breaks_nothing(self) -> None:
        """Many batches: beside keeping what is left, no miss grows, every bound, step and capacity holds, nothing is
        taken from a pot beyond its weight or out of a container, less is left over, and where no step more of anything
        fits, that is because a band, a bound, a room or the pot says so."""
        rng = Random(53)
        used = 0
        for number in range(SPREAD_PROBLEMS):
            schools = [rng.choice(SOLVED) for _ in range(rng.randint(1, 4))]
            problem = a_problem(rng, classes=2, weighed=rng.choice([0.5, 1]), schools=schools)
            if rng.random() < 0.7:
                tried = [points(problem, each) for each in problem.classes]
                reached = [
                    within_reach(rng, problem, each, rng.choice(some))
                    for each, some in zip(problem.classes, tried, strict=True)
                ]
                problem = replace(problem, classes=tuple(reached))
            keep, spread = problem.solve(), problem.solve(leftover=Leftover.SPREAD)
            with self.subTest(number=number, schools=schools):
                for each, kept, more in zip(problem.classes, keep.portions, spread.portions, strict=True):
                    own = np.array([more.grams])
                    allowed = points(problem, each)
                    if np.abs(allowed - np.array([kept.grams])).max(axis=1).min() < 1e-6:
                        # Where a pot does not hold the least of all, what is kept lies below it already.
                        self.assertLess(np.abs(allowed - own).max(axis=1).min(), 1e-6)
                    if not kept.is_overfull:
                        self.assertTrue(fits(problem, each, own).all())
                    before, after = (misses(problem, each, np.array([p.grams])) for p in (kept, more))
                    for nutrient, miss in after.items():
                        self.assertLessEqual(float(miss[0]), float(before[nutrient][0]) + 2e-3)
                    self.assertTrue(all(b >= a - 1e-6 for a, b in zip(kept.grams, more.grams, strict=True)))
                for key, need in spread.needs.items():
                    if not any(key in each.pins for each in problem.classes):
                        self.assertGreaterEqual(need.spare_g, min(keep.needs[key].spare_g, 0) - 1e-6)
                if School.ONE_POT not in schools:
                    self.assertEqual(self.room_for_a_step(problem, spread), [])
            used += any(spread.needs[key].spare_g < keep.needs[key].spare_g - problem.step_g for key in problem.parts)
        self.assertGreater(used, SPREAD_PROBLEMS // 20)

    def room_for_a_step(self, problem: Problem, spread: Plan) -> list[tuple[str, int]]:
        """Components of weighed pots of which one container could take one step more."""
        found = []
        for index, (key, part) in enumerate(problem.parts.items()):
            for number, (each, portion) in enumerate(zip(problem.classes, spread.portions, strict=True)):
                if not part.weighed or key in each.pins or key in each.left_out or portion.is_overfull:
                    continue
                allowed = sorted(
                    grams for grams in choices(problem, each, key, part) if grams > portion.grams[index] + 1e-6
                )
                if not allowed:
                    continue
                more = np.array([portion.grams])
                more[0, index] = allowed[0]
                takes = each.count * (allowed[0] - portion.grams[index])
                before = misses(problem, each, np.array([portion.grams]))
                worse = any(float(m[0]) > float(before[n][0]) + 1e-6 for n, m in misses(problem, each, more).items())
                if takes <= spread.needs[key].spare_g - 1e-6 and fits(problem, each, more).all() and not worse:
                    found.append((key, number))
        return found

    def test_extra_containers_are_made_of_what_every_pot_has_left(self) -> None:
        rng = Random(59)
        found = 0
        for _ in range(100):
            problem = a_problem(rng, classes=1, weighed=1, schools=[School.BY_COMPONENT] * 2)
            extra = problem.solve(leftover=Leftover.EXTRA)
            if extra.extra is None or not extra.extra[ONE].count:
                continue
            found += 1
            more = extra.extra[ONE]
            for key, grams in more.grams.items():
                self.assertLessEqual(more.count * grams, extra.needs[key].spare_g + 1e-5)
        self.assertGreater(found, 5)


class SetAmountsOnWeighedPots(unittest.TestCase):
    """Batches in which what is divided, in plate shares, by eye or pinned comes out of weighed pots."""

    def test_no_pot_is_overdrawn_but_by_pins_and_then_it_is_named(self) -> None:
        rng = Random(67)
        reduced = lacking = 0
        for number in range(SET_PROBLEMS):
            schools = [rng.choice(SET) for _ in range(rng.randint(1, 3))] + [School.BY_COMPONENT]
            problem = a_problem(rng, classes=2, weighed=0.9, schools=schools)
            found = problem.solve()
            expected = set_grams(problem)
            with self.subTest(number=number, schools=schools):
                for portion, amounts in zip(found.portions, expected, strict=True):
                    for index, key in enumerate(problem.parts):
                        if key in amounts:
                            self.assertAlmostEqual(portion.grams[index], amounts[key], places=6)
                            reduced += portion.limits[index] is Limit.POT
                for key, part in problem.parts.items():
                    pinned = sum(c.count * c.pins.get(key, 0) for c in problem.classes if key not in c.left_out)
                    beyond = max(pinned - part.component.cooked_g, 0) if part.weighed else 0.0
                    self.assertAlmostEqual(found.lacking_g.get(key, 0.0), beyond, places=4)
                    lacking += beyond > 0
                if found.lacking_g:
                    self.assertFalse(found.all_met)
        self.assertGreater(reduced, 50)
        self.assertGreater(lacking, SET_PROBLEMS // 25)

    def test_equal_split_by_hand(self) -> None:
        """338 g at steps of 5 g: over classes of 3 and 1 containers 3 × 85 and 80, 3 g are the cook's; over one class
        of 4 only 80 g each, and 18 g are."""
        bake = Part(
            component=Component(
                name="Bake",
                lines=(Line(name="It", purchased_g=338, composition=food(10, 10, 5), yield_range=UNCHANGED),),
            ),
            share=1,
            school=School.EQUAL_SPLIT,
        )
        one = ContainerClass(target=Target(kcal=100), tolerance=Tolerance(), count=3)
        found = plan(one_dish({"bake": bake}), (one, replace(one, count=1)), step_g=5)
        self.assertEqual([p.grams for p in found.portions], [(85,), (80,)])
        self.assertAlmostEqual(found.over_g["bake"], 3)
        found = plan(one_dish({"bake": bake}), (replace(one, count=4),), step_g=5)
        self.assertEqual(found.portions[0].grams, (80,))
        self.assertAlmostEqual(found.over_g["bake"], 18)


class Symmetry(unittest.TestCase):
    def test_the_order_of_clients_and_components_changes_nothing(self) -> None:
        rng = Random(61)
        for number in range(volume(60, 120)):
            schools = [rng.choice(SOLVED) for _ in range(rng.randint(2, 4))]
            problem = a_problem(rng, classes=3, weighed=0.5, schools=schools)
            straight = problem.solve().portions
            turned = replace(
                problem, parts=dict(reversed(problem.parts.items())), classes=tuple(reversed(problem.classes))
            )
            back = [tuple(reversed(portion.grams)) for portion in reversed(turned.solve().portions)]
            with self.subTest(number=number, schools=schools):
                worth = [c.count * fair_weight(c) for c in problem.classes]
                costs = [
                    sum(
                        w * float(weighted(problem, each, np.array([grams]))[0])
                        for w, each, grams in zip(worth, problem.classes, answer, strict=True)
                    )
                    for answer in ([portion.grams for portion in straight], back)
                ]
                self.assertAlmostEqual(costs[0], costs[1], delta=0.02 * costs[0] + 1e-4)
                if not any(part.weighed for part in problem.parts.values()):
                    for one, other in zip(straight, back, strict=True):
                        moved = max(abs(a - b) for a, b in zip(one.grams, other, strict=True))
                        self.assertLess(moved, 1e-6)
