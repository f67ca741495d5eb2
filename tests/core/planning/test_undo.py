"""Undo and redo from a log, against two stacks."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.planning.undo import Made, in_force, last_made, made_after, next_redo, next_undo


class Undo(unittest.TestCase):
    def test_by_hand(self) -> None:
        """a and b are made, both taken back, a made again, and c made: b cannot be made again any more."""
        log = [Made(id="a"), Made(id="b"), Made(id="u", undoes="b"), Made(id="v", undoes="a"), Made(id="r", undoes="v")]
        self.assertEqual((next_undo(log), next_redo(log)), ("a", "u"))
        self.assertEqual(in_force(log), {"a", "u", "r"})
        self.assertEqual(last_made(log, "a"), "r")
        log.append(Made(id="c"))
        self.assertEqual((next_undo(log), next_redo(log)), ("c", None))

    def test_what_was_made_again_stands_on_what_was_made_again_before(self) -> None:
        a, b = Made(id="a"), Made(id="b")
        log = [a, b, Made(id="u", undoes="b"), Made(id="v", undoes="a"), Made(id="r", undoes="v")]
        # b may be made again: a was there when it was taken back.
        self.assertEqual(made_after(log, "u"), [])
        self.assertEqual(made_after(log, "a"), [])
        log.append(Made(id="s", undoes="u"))
        self.assertEqual(made_after(log, "a"), ["b"])
        self.assertEqual(made_after(log, "b"), [])
        log.append(Made(id="c"))
        self.assertEqual((made_after(log, "a"), made_after(log, "b")), (["b", "c"], ["c"]))

    def test_what_cannot_be_taken_back_is_not_jumped_over(self) -> None:
        self.assertIsNone(next_undo([Made(id="a"), Made(id="b", undoable=False)]))

    @given(st.lists(st.sampled_from(["do", "undo", "redo"]), max_size=60))
    def test_it_is_what_two_stacks_would_do(self, wishes: list[str]) -> None:
        log: list[Made] = []
        done: list[int] = []
        undone: list[int] = []
        for number, wish in enumerate(wishes):
            if wish == "do":
                log.append(Made(id=number))
                done.append(number)
                undone = []
            elif wish == "undo":
                found = next_undo(log)
                self.assertEqual(found, done[-1] if done else None)
                if done:
                    self.assertEqual(made_after(log, found), [])
                    log.append(Made(id=number, undoes=found))
                    undone.append(done.pop())
            else:
                found = next_redo(log)
                self.assertEqual(found is None, not undone)
                if undone:
                    self.assertEqual(made_after(log, found), [])
                    (taken_back,) = [made for made in log if made.id == found]
                    self.assertEqual(taken_back.undoes, undone[-1])
                    log.append(Made(id=number, undoes=found))
                    done.append(undone.pop())
            for above, each in enumerate(done):
                self.assertEqual(set(made_after(log, each)), set(done[above + 1 :]))
            own = {made.id for made in log if made.undoes is None}
            self.assertEqual(in_force(log) & own, set(done))


if __name__ == "__main__":
    unittest.main()
