"""What facts come to: what two tablets note of one container counts once, and nothing that was noted is lost."""

from __future__ import annotations

import unittest
from random import Random

from tests.volume import volume
from yantai.core.filling import FillEvent, FillFact, Spot, what_is_filled
from yantai.core.filling.facts import OF_A_PART, PartFilled, counting, unsure_together_g

SPOT = Spot("bram", 3)


def fact(key: str, grams: float = 0.0, event: FillEvent = FillEvent.FILLED, **how: object) -> FillFact:
    return FillFact(
        **{"key": key, "event": event, "spot": SPOT, "part": "rice", "grams": grams, "second": 0.0, **how}  # type: ignore[arg-type]
    )


def rice(*facts: FillFact) -> PartFilled | None:
    return what_is_filled(facts).parts.get(SPOT, {}).get("rice")


def held(*facts: FillFact) -> tuple[float, int]:
    """Grams, and how many others tell something else."""
    found = rice(*facts)
    assert found is not None
    return found.grams, len(found.others)


class OnePart(unittest.TestCase):
    def test_what_one_knew_of_is_replaced(self) -> None:
        self.assertEqual(held(fact("a", 120), fact("b", 150, after="a")), (150, 0))

    def test_two_who_did_not_know_of_each_other_count_once(self) -> None:
        first, second = fact("a", 140, second=10), fact("b", 142, second=12)
        self.assertEqual(held(first, second), (142, 1))
        # The one that happened last stands, whichever came in first.
        self.assertEqual(held(second, first), (142, 1))

    def test_somebody_decides(self) -> None:
        both = fact("a", 140, second=10), fact("b", 142, second=12)
        self.assertEqual(held(*both, fact("c", 282, FillEvent.DECIDED, second=20)), (282, 0))
        self.assertEqual(held(*both, fact("c", 140, FillEvent.DECIDED, second=20)), (140, 0))

    def test_what_comes_in_after_the_decision_asks_again(self) -> None:
        decided = fact("a", 140), fact("c", 140, FillEvent.DECIDED, second=20)
        self.assertEqual(held(*decided, fact("b", 142, second=12)), (140, 1))

    def test_taken_back_and_made_again(self) -> None:
        filled, back = fact("a", 140), fact("z", event=FillEvent.TAKEN_BACK, of="a")
        self.assertIsNone(rice(filled, back))
        self.assertEqual(held(filled, back, fact("y", event=FillEvent.TAKEN_BACK, of="z")), (140, 0))

    def test_a_top_up_taken_back_leaves_what_was_there(self) -> None:
        back = fact("z", event=FillEvent.TAKEN_BACK, of="b")
        self.assertEqual(held(fact("a", 120), fact("b", 150, after="a"), back), (120, 0))

    def test_what_was_noted_on_top_of_something_taken_back_replaces_all_of_it(self) -> None:
        facts = fact("a", 120), fact("b", 150, after="a"), fact("z", event=FillEvent.TAKEN_BACK, of="b")
        self.assertEqual(held(*facts, fact("c", 155, after="b")), (155, 0))

    def test_left_out_on_purpose(self) -> None:
        found = rice(fact("a", event=FillEvent.LEFT_OUT))
        assert found is not None
        self.assertTrue(found.is_left_out)
        self.assertEqual(found.grams, 0)
        self.assertEqual(held(fact("a", event=FillEvent.LEFT_OUT), fact("b", 30, after="a")), (30, 0))

    def test_what_lies_outside_what_a_container_can_hold(self) -> None:
        with self.assertRaisesRegex(ValueError, "grams"):
            fact("a", 5001)


class All(unittest.TestCase):
    def test_whatever_the_order_of_arrival(self) -> None:
        """Facts of several tablets reach the server in any order that keeps each tablet's own."""
        for number in range(volume(200, 2000)):
            rng = Random(f"order {number}")
            tablets = [self.a_tablet(rng, name) for name in "ab"]
            with self.subTest(number=number):
                found = set()
                for _ in range(4):
                    queues = [list(tablet) for tablet in tablets]
                    arrived = []
                    while any(queues):
                        arrived.append(rng.choice([queue for queue in queues if queue]).pop(0))
                    parts = what_is_filled(arrived).parts.get(SPOT, {})
                    found.add(tuple(sorted((part, one.grams, len(one.others)) for part, one in parts.items())))
                self.assertEqual(len(found), 1)

    def a_tablet(self, rng: Random, name: str) -> list[FillFact]:
        """A tablet that knows of its own facts only, and has the figure that stood before each by heart."""
        made: list[FillFact] = []
        last: dict[str, list[str]] = {}
        for number in range(rng.randint(0, 6)):
            part, key, second = rng.choice(["rice", "beans"]), f"{name}{number}", rng.uniform(0, 100)
            if last.get(part) and rng.random() < 0.3:
                made.append(FillFact(key=key, event=FillEvent.TAKEN_BACK, of=last[part].pop(), second=second))
                continue
            after = last[part][-1] if last.get(part) else None
            grams = float(rng.randint(1, 300))
            made.append(
                FillFact(key=key, event=FillEvent.FILLED, spot=SPOT, part=part, grams=grams, after=after, second=second)
            )
            last.setdefault(part, []).append(key)
        return made

    def test_no_fact_disappears(self) -> None:
        """Each one that counts stands, is among the others, or was replaced by one that knew of it."""
        for number in range(volume(200, 2000)):
            rng = Random(f"kept {number}")
            facts = [one for name in "abc" for one in self.a_tablet(rng, name)]
            found = what_is_filled(facts)
            shown = {
                one.key
                for parts in found.parts.values()
                for part in parts.values()
                for one in (part.stands, *part.others)
            }
            counted = [one for one in counting(facts) if one.event in OF_A_PART]
            replaced = {one.after for one in facts}
            with self.subTest(number=number):
                for one in counted:
                    self.assertTrue(one.key in shown or one.key in replaced)

    def test_scoops_rests_and_pots(self) -> None:
        facts = [
            FillFact(key="s1", event=FillEvent.SCOOP, part="rice", grams=58, second=1),
            FillFact(key="s2", event=FillEvent.SCOOP, part="rice", grams=61, second=2),
            FillFact(key="r", event=FillEvent.REST, part="rice", grams=200, second=3),
            FillFact(key="p", event=FillEvent.POT_WEIGHED, part="rice", grams=900, second=4),
        ]
        found = what_is_filled(facts)
        self.assertEqual(found.scoops, {"rice": 61})
        self.assertEqual([one.grams for one in found.rests["rice"]], [200])
        self.assertEqual(found.weighed_pots["rice"].grams, 900)

    def test_unsure_figures_together(self) -> None:
        self.assertEqual(unsure_together_g([3, 4]), 5)
