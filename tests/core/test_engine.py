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
from yantai.core.components import Component, Line
from yantai.core.nutrients import AIMED, Amounts, Nutrient
from yantai.core.plan import DEFAULT_PLATE_G, ContainerClass, Leftover, Pan, Plan, School, plan
from yantai.core.portions import Sharing
from yantai.core.targets import Target, Tolerance
from yantai.core.yields import UNCHANGED

SCALE_FLOOR = {Nutrient.KCAL: 10.0, Nutrient.FIBRE: 1.0, Nutrient.SATURATED: 1.0, Nutrient.SODIUM: 100.0}
USUAL_TOLERANCE = {Nutrient.KCAL: 30.0, Nutrient.PROTEIN: 3.0, Nutrient.CARBOHYDRATE: 5.0, Nutrient.FAT: 3.0}
USUAL_TARGET = {Nutrient.KCAL: 500.0, Nutrient.PROTEIN: 40.0, Nutrient.CARBOHYDRATE: 50.0, Nutrient.FAT: 15.0}
PRIORITY = {Nutrient.KCAL: 2.0, Nutrient.PROTEIN: 2.0}
SINGLE_PROBLEMS = 1500
SHARED_PROBLEMS = 600


@dataclass(frozen=True)
class Problem:
    """A random batch and what it is made of."""

    pans: dict[str, Pan]
    classes: tuple[ContainerClass, ...]
    step_g: float

    def solve(self, **how: Any) -> Plan:
        return plan(self.pans, self.classes, step_g=self.step_g, **how)


def a_pan(rng: Random, school: School, step: float, *, weighed: bool) -> Pan:
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
    return Pan(
        component=Component(name="It", lines=(line,), measured_g=grams if weighed else None, pieces=pieces),
        share=rng.uniform(20, 200),
        school=school,
        minimum_g=low,
        maximum_g=low + step * rng.randint(2, 7) * (4 if school in (School.PIECES, School.FIXED_MEASURE) else 1),
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
    pans = {f"p{n}": a_pan(rng, school, step, weighed=rng.random() < weighed) for n, school in enumerate(schools)}
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
                pins={key: float(rng.randint(0, 8)) * step for key in pans if rng.random() < 0.1},
                left_out=frozenset(key for key in pans if rng.random() < 0.08),
            )
        )
    return Problem(pans, tuple(each), step)


def per_100g(pan: Pan) -> Amounts:
    """All lines here keep their weight, so the line's composition is that of the cooked component."""
    return pan.component.lines[0].composition


def steps_between(low: float, high: float, step: float) -> list[float]:
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    return [n * step for n in range(first, last + 1)] or [low]


def points(problem: Problem, each: ContainerClass) -> np.ndarray:
    """Every filling of one container, (k, pans), from the words of the schools and nothing of the engine."""
    axes: list[list[dict[str, float]]] = []
    mixed = [key for key, pan in problem.pans.items() if pan.school is School.ONE_POT]
    for key, pan in problem.pans.items():
        if pan.school is School.ONE_POT:
            if key == mixed[0]:
                axes.append(mixtures(problem, each, mixed))
            continue
        axes.append([{key: grams} for grams in choices(problem, each, key, pan)])
    filled = []
    for parts in itertools.product(*axes):
        grams = {name: value for part in parts for name, value in part.items()}
        filled.append([grams[key] for key in problem.pans])
    return np.array(filled)


def mixtures(problem: Problem, each: ContainerClass, mixed: list[str]) -> list[dict[str, float]]:
    pans = [problem.pans[key] for key in mixed]
    weighed = all(pan.weighed for pan in pans)
    weights = [pan.component.cooked_g if weighed else pan.share for pan in pans]
    shares = [weight / sum(weights) for weight in weights]
    if any(key in each.left_out for key in mixed):
        wholes = [0.0]
    elif any(key in each.pins for key in mixed):
        wholes = [max(each.pins[key] / share for key, share in zip(mixed, shares, strict=True) if key in each.pins)]
    else:
        wholes = steps_between(sum(p.minimum_g for p in pans), sum(p.maximum_g for p in pans), problem.step_g)
    return [{key: whole * share for key, share in zip(mixed, shares, strict=True)} for whole in wholes]


def choices(problem: Problem, each: ContainerClass, key: str, pan: Pan) -> list[float]:
    if key in each.left_out:
        return [0.0]
    if key in each.pins:
        return [each.pins[key]]
    if pan.school is School.BY_EYE:
        return [pan.eye_g]
    if pan.school is School.EQUAL_SPLIT:
        open_to = [c for c in problem.classes if key not in c.left_out]
        rest = pan.component.cooked_g - sum(c.count * c.pins[key] for c in open_to if key in c.pins)
        among = sum(c.count for c in open_to if key not in c.pins)
        return [math.floor(max(rest, 0) / among / problem.step_g + 1e-9) * problem.step_g]
    if pan.school is School.PLATE_SHARES:
        in_shares = [
            p.plate_share
            for name, p in problem.pans.items()
            if p.school is School.PLATE_SHARES and name not in each.left_out
        ]
        grams = (each.plate_g or DEFAULT_PLATE_G) * pan.plate_share / sum(in_shares)
        return [math.floor(grams / problem.step_g + 0.5) * problem.step_g]
    step = problem.step_g
    if pan.school is School.PIECES:
        step = pan.component.cooked_g / (pan.component.pieces or 1) * pan.unit_part
    if pan.school is School.FIXED_MEASURE:
        step = (pan.unit_g or 0) * pan.unit_part
    return steps_between(pan.minimum_g, pan.maximum_g, step)


def within_reach(rng: Random, problem: Problem, each: ContainerClass, filling: np.ndarray) -> ContainerClass:
    """The same class with a target that one filling, (pans,), meets."""
    held = {
        n: float(sum(g * per_100g(pan)[n] for g, pan in zip(filling, problem.pans.values(), strict=True)) / 100)
        for n in Nutrient
    }
    aims = {n.value: max(held[n] + rng.uniform(-0.9, 0.9) * each.tolerance[n], 0.0) for n in each.target.aims}
    if not any(aims.values()):
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
        held = grams @ np.array([per_100g(pan)[nutrient] for pan in problem.pans.values()]) / 100
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
    ml = grams @ np.array([1 / pan.density_g_per_ml for pan in problem.pans.values()])
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
    """1,500 batches of one container each, nothing short: all schools mixed on a plate."""

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
    """600 batches of two containers from weighed pots, most of which are short."""

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
        mixed = [n for n, pan in enumerate(problem.pans.values()) if pan.school is School.ONE_POT]
        for place, pan in enumerate(problem.pans.values()):
            if place in mixed and not all(list(problem.pans.values())[n].weighed for n in mixed):
                continue
            if pan.weighed:
                ok &= taken[:, place] <= pan.component.cooked_g + 1e-6
        return ok

    def pairs_in_supply(self, problem: Problem, first: np.ndarray, second: np.ndarray) -> np.ndarray:
        left, right = np.meshgrid(np.arange(len(first)), np.arange(len(second)), indexing="ij")
        pairs = np.stack([left.ravel(), right.ravel()], axis=1)
        return np.asarray(pairs[self.in_supply(problem, first[pairs[:, 0]], second[pairs[:, 1]])])


class Ranked(unittest.TestCase):
    def test_the_first_in_rank_get_what_they_would_get_alone(self) -> None:
        rng = Random(47)
        short = 0
        for number in range(150):
            problem = a_problem(rng, classes=2, weighed=1, schools=[School.BY_COMPONENT] * rng.randint(1, 3))
            ranked = replace(problem, classes=(problem.classes[0], replace(problem.classes[1], rank=1, pins={})))
            alone = replace(ranked, classes=(replace(ranked.classes[0], pins={}),))
            ranked = replace(ranked, classes=(alone.classes[0], ranked.classes[1]))
            both = ranked.solve(sharing=Sharing.RANKED)
            with self.subTest(number=number):
                self.assertEqual(both.portions[0].grams, alone.solve(sharing=Sharing.RANKED).portions[0].grams)
                for need in both.needs.values():
                    self.assertGreaterEqual(need.spare_g, -1e-6)
            short += not both.portions[1].met
        self.assertGreater(short, 20)


class Leftovers(unittest.TestCase):
    def test_spreading_uses_more_and_costs_no_container_its_band(self) -> None:
        rng = Random(53)
        used = 0
        for number in range(150):
            schools = [School.BY_COMPONENT] * rng.randint(2, 4)
            problem = a_problem(rng, classes=2, weighed=1, schools=schools)
            classes = [replace(each, pins={}) for each in problem.classes]
            reached = [within_reach(rng, problem, c, rng.choice(points(problem, c))) for c in classes]
            problem = replace(problem, classes=tuple(reached))
            keep, spread = problem.solve(), problem.solve(leftover=Leftover.SPREAD)
            with self.subTest(number=number):
                for kept, more in zip(keep.portions, spread.portions, strict=True):
                    if kept.met:
                        self.assertTrue(more.met, more.misses)
                for need in spread.needs.values():
                    self.assertGreaterEqual(need.spare_g, -1e-6)
                left = [sum(need.spare_g for need in one.needs.values()) for one in (keep, spread)]
                self.assertLessEqual(left[1], left[0] + 2 * problem.step_g * len(schools) * 6)
            used += left[1] < left[0] - problem.step_g
        self.assertGreater(used, 20)

    def test_extra_containers_are_made_of_what_every_pot_has_left(self) -> None:
        rng = Random(59)
        found = 0
        for _ in range(100):
            problem = a_problem(rng, classes=1, weighed=1, schools=[School.BY_COMPONENT] * 2)
            extra = problem.solve(leftover=Leftover.EXTRA)
            if extra.extra is None or not extra.extra.count:
                continue
            found += 1
            for key, grams in extra.extra.grams.items():
                self.assertLessEqual(extra.extra.count * grams, extra.needs[key].spare_g + 1e-5)
        self.assertGreater(found, 5)


class Symmetry(unittest.TestCase):
    def test_the_order_of_clients_and_components_changes_nothing(self) -> None:
        rng = Random(61)
        for number in range(120):
            schools = [rng.choice(SOLVED) for _ in range(rng.randint(2, 4))]
            problem = a_problem(rng, classes=3, weighed=0.5, schools=schools)
            straight = problem.solve().portions
            turned = replace(
                problem, pans=dict(reversed(problem.pans.items())), classes=tuple(reversed(problem.classes))
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
                if not any(pan.weighed for pan in problem.pans.values()):
                    for one, other in zip(straight, back, strict=True):
                        moved = max(abs(a - b) for a, b in zip(one.grams, other, strict=True))
                        self.assertLess(moved, 1e-6)
