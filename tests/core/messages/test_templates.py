"""Words of messages: what is filled, what is refused, and that the standard ones are in order."""

from __future__ import annotations

import unittest

from yantai.core.errors import CoreError
from yantai.core.messages.templates import (
    LINK,
    NEEDS_LINK,
    PLACES,
    STANDARD,
    MessageKind,
    Template,
    check_template,
    filled,
)


class Filling(unittest.TestCase):
    def test_what_is_filled_in_is_not_filled_again(self) -> None:
        values = {"client": "{coach} {link}", "coach": "Tamsin"}
        self.assertEqual(filled("{client} and {coach}: {link}", values), "{coach} {link} and Tamsin: {link}")

    def test_every_standard_template_is_whole(self) -> None:
        for kind in MessageKind:
            with self.subTest(kind=kind):
                check_template(kind, STANDARD[kind])
                values = {place: f"<{place}>" for place in PLACES[kind]}
                for text in (STANDARD[kind].subject, STANDARD[kind].body):
                    self.assertNotRegex(filled(text, values), r"[{}]")

    def test_what_is_refused(self) -> None:
        good = Template(subject="Hello {client}", body="See {link}")
        for kind in MessageKind:
            cases = [
                (Template(subject=" ", body=good.body), "subject", "nothing in it"),
                (Template(subject=good.subject, body="\n"), "body", "nothing in it"),
                (Template(subject="Hi {clint}", body=good.body), "subject", "“{clint}” is filled by nothing"),
                (Template(subject="See {link}", body=good.body), "subject", "read by everybody"),
            ]
            if kind in NEEDS_LINK:
                cases.append((Template(subject="Hi", body="{client}"), "body", "without {link}"))
            check_template(kind, good)
            for template, field, words in cases:
                with self.subTest(kind=kind, words=words), self.assertRaises(CoreError) as caught:
                    check_template(kind, template)
                self.assertEqual(caught.exception.field, field)
                self.assertIn(words, str(caught.exception))

    def test_a_place_of_another_kind_is_none_of_this(self) -> None:
        for kind, places in PLACES.items():
            for other in {place for all_ in PLACES.values() for place in all_} - set(places):
                with self.subTest(kind=kind, place=other), self.assertRaises(CoreError):
                    check_template(kind, Template(subject="Hi", body=f"{{{LINK}}} {{{other}}}"))
