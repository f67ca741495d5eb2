"""Every colour that the front end names is one of the theme's: another makes no rule, and nobody is told."""

from __future__ import annotations

import re
import unittest

from yantai.launcher.places import ROOT, WEB

BUILT = ROOT / "src" / "yantai" / "web" / "assets"
STRINGS = re.compile(r"\"[^\"\n]*\"|'[^'\n]*'|`[^`]*`", re.S)
COLOURED = re.compile(
    r"(?:[a-z\-\[\]=]+:)*!?(?:bg|text|border(?:-[lrtbxy])?|accent|fill|stroke|outline|decoration)-[a-z][\w/-]*"
)


class Colours(unittest.TestCase):
    def test_each_has_a_rule(self) -> None:
        css = "".join(file.read_text(encoding="utf-8") for file in BUILT.glob("*.css"))
        rules = {re.sub(r"\\(.)", r"\1", name) for name in re.findall(r"\.((?:\\.|[\w-])+)", css)}
        named = {
            word
            for file in WEB.glob("src/**/*.tsx")
            for text in STRINGS.findall(file.read_text(encoding="utf-8"))
            for word in text.strip("\"'`").split()
            if COLOURED.fullmatch(word)
        }
        self.assertGreater(len(named), 50)
        self.assertEqual(sorted(named - rules), [])


if __name__ == "__main__":
    unittest.main()
