from __future__ import annotations

import doctest
import importlib
import pkgutil
import unittest
from types import ModuleType

import yantai


def modules() -> list[ModuleType]:
    names = [one.name for one in pkgutil.walk_packages(yantai.__path__, "yantai.")]
    return [
        importlib.import_module(name)
        for name in names
        if not name.startswith("yantai.store.migrations") and not name.endswith("__main__")
    ]


class Examples(unittest.TestCase):
    def test_every_example_in_a_docstring_holds(self) -> None:
        finder = doctest.DocTestFinder(exclude_empty=True)
        tried = 0
        for module in modules():
            for one in finder.find(module, module.__name__):
                with self.subTest(of=one.name):
                    told: list[str] = []
                    outcome = doctest.DocTestRunner(verbose=False).run(one, out=told.append)
                    self.assertEqual(outcome.failed, 0, "".join(told))
                    tried += outcome.attempted
        self.assertGreater(tried, 40)


if __name__ == "__main__":
    unittest.main()
