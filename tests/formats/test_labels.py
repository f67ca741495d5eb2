"""Labels as they are printed: measured, read and scanned off the page."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import pypdfium2
import zxingcpp

from yantai.formats.label_document import DROPS, GRIDS, LONGEST_NAME, MISSING, Label, LabelGrid, printable
from yantai.formats.labels_pdf import preview, ruler_page, set_labels

MM = 72 / 25.4
LABEL = Label(
    client="Ines Haverkamp",
    meal="Lunch, training day, Tue 1 Dec",
    dish="Kofta tray",
    box="1 of 4",
    cooked="Sun 29 Nov",
    use_by_words="Use by",
    use_by="Wed 2 Dec",
    keep="Fridge, 5 °C or below",
    thaw="",
    reheat="Lid ajar, about 3 minutes at full power, stir, 1 minute more: hot all through (74 °C), once only.",
    reheat_short="Reheat once, to 74 °C.",
    parts=("Turkey kofta 120 g", "Bulgur pilaf 235 g", "Charred courgette 90 g"),
    macros=("P 45", "C 70", "F 16"),
    energy="607 kcal",
    grams="445 g",
    allergens=("egg", "gluten", "milk"),
    also=("Add Rye bread 60 g on the day (GLUTEN).",),
    is_planned=False,
    batch="Sunday at the boathouse",
    mark="",
    code="https://192.0.2.7:8765/c/3q2-7xPOTQ2z3YwVh0l8fA.1",
)


def numbered(count: int) -> list[Label]:
    return [replace(LABEL, client=f"Xenia {index}", code=f"{LABEL.code}{index}") for index in range(1, count + 1)]


def text_of(pdf: bytes) -> str:
    with pypdfium2.PdfDocument(pdf) as document:
        pages = [page.get_textpage().get_text_range() for page in document]
    return " ".join(" ".join(pages).replace("￾", "").split())


def codes_of(pdf: bytes, page: int = 0) -> list[str]:
    with pypdfium2.PdfDocument(pdf) as document:
        picture = document[page].render(scale=300 / 72).to_numpy()
    return [found.text for found in zxingcpp.read_barcodes(np.ascontiguousarray(picture))]


def first_letters(pdf: bytes) -> list[tuple[float, float]]:
    """Where the X of each "Xenia" stands, from the left and the top of its page [mm]."""
    found = []
    with pypdfium2.PdfDocument(pdf) as document:
        for page in document:
            text, height = page.get_textpage(), page.get_height()
            for index in range(text.count_chars()):
                if text.get_text_range(index, 5) == "Xenia":
                    left, _, _, top = text.get_charbox(index)
                    found.append((left / MM, (height - top) / MM))
    return found


def sheets() -> Sequence[LabelGrid]:
    return [grid for grid in GRIDS.values() if grid.page_mm is not None]


PITCH = {"sheet-63x38": (66.0, 38.1), "sheet-99x38": (101.6, 38.1), "sheet-70x37": (70.0, 37.0)}


class Measures(unittest.TestCase):
    """The common sheets, to 0.2 mm: the label's makers state the pitch, and what is left is margin."""

    def test_every_label_lies_in_its_cell(self) -> None:
        for grid in sheets():
            across, down = PITCH[grid.key]
            places = first_letters(set_labels(numbered(grid.cells), grid).pdf)
            self.assertEqual(len(places), grid.cells)
            x, y = places[0]
            for index, (left, top) in enumerate(places):
                self.assertAlmostEqual(left - x, index % grid.columns * across, delta=0.2, msg=grid.key)
                self.assertAlmostEqual(top - y, index // grid.columns * down, delta=0.2, msg=grid.key)
            # Inside the first label, near its corner.
            self.assertTrue(0.5 < x - grid.left_mm < 4 and 0.5 < y - grid.top_mm < 5, (grid.key, x, y))

    def test_sheets_are_filled_to_the_same_margin_on_both_sides(self) -> None:
        for grid in sheets():
            assert grid.page_mm is not None and grid.label_h_mm is not None
            across, down = PITCH[grid.key]
            right = grid.page_mm[0] - grid.left_mm - (grid.columns - 1) * across - grid.label_w_mm
            bottom = grid.page_mm[1] - grid.top_mm - (grid.rows - 1) * down - grid.label_h_mm
            self.assertAlmostEqual(right, grid.left_mm, delta=0.2)
            self.assertAlmostEqual(bottom, grid.top_mm, delta=0.2)

    def test_rolls_have_a_page_for_each_label(self) -> None:
        for key, width, height in (("roll-100x62", 100, 62), ("roll-50x30", 50, 30), ("roll-62", 62, None)):
            with pypdfium2.PdfDocument(set_labels(numbered(3), GRIDS[key]).pdf) as document:
                self.assertEqual(len(document), 3)
                for page in document:
                    self.assertAlmostEqual(page.get_width() / MM, width, delta=0.2)
                    if height is not None:
                        self.assertAlmostEqual(page.get_height() / MM, height, delta=0.2)

    def test_a_sheet_used_in_part(self) -> None:
        grid = GRIDS["sheet-63x38"]
        whole = first_letters(set_labels(numbered(21), grid).pdf)
        pdf = set_labels(numbered(5), grid, start=20).pdf
        with pypdfium2.PdfDocument(pdf) as document:
            self.assertEqual(len(document), 2)
        for (left, top), (want_left, want_top) in zip(first_letters(pdf), whole[19:] + whole[:3], strict=True):
            self.assertAlmostEqual(left, want_left, delta=0.2)
            self.assertAlmostEqual(top, want_top, delta=0.2)

    def test_the_ruler_page_has_the_edges(self) -> None:
        for grid in GRIDS.values():
            with pypdfium2.PdfDocument(ruler_page(grid)) as document:
                page = document[0]
                self.assertAlmostEqual(page.get_width() / MM, grid.page_mm[0] if grid.page_mm else grid.label_w_mm, 0)
                boxes = [item.get_bounds() for item in page.get_objects()]
            wide = [box for box in boxes if abs((box[2] - box[0]) / MM - grid.label_w_mm) < 0.5]
            self.assertGreaterEqual(len(wide), grid.cells, grid.key)
            # Bounds are those of the drawn line, a fifth of a millimetre wide.
            left = min(box[0] for box in wide) / MM + 0.1
            self.assertAlmostEqual(left, grid.left_mm, delta=0.2)


class Content(unittest.TestCase):
    def test_all_of_it_stands_on_a_large_label_in_our_fonts(self) -> None:
        printed = set_labels([LABEL], GRIDS["roll-100x62"])
        said = text_of(printed.pdf)
        for words in (
            "Ines Haverkamp", "Lunch, training day, Tue 1 Dec. Kofta tray. 1 of 4", "Use by Wed 2 Dec",
            "Fridge, 5 °C or below", "cooked Sun 29 Nov", "P 45", "C 70", "F 16", "607 kcal", "445 g",
            "Turkey kofta 120 g, Bulgur pilaf 235 g, Charred courgette 90 g", "Contains EGG, GLUTEN, MILK",
            "Add Rye bread 60 g on the day (GLUTEN)", "about 3 minutes at full power", "Sunday at the boathouse",
        ):  # fmt: skip
            self.assertIn(words, said)
        self.assertNotIn("Planned", said)
        self.assertEqual((printed.fits[0].dropped, printed.fits[0].fits), (0, True))
        self.assertIn(b"Hyperlegible", printed.pdf)

    def test_it_is_black_only(self) -> None:
        with pypdfium2.PdfDocument(set_labels([LABEL], GRIDS["sheet-99x38"]).pdf) as document:
            picture = document[0].render(scale=2).to_numpy().astype(int)
        # Grey comes of smooth edges only: no channel differs from another.
        self.assertLessEqual(np.ptp(picture[:, :, :3], axis=2).max(), 2)

    def test_what_nobody_filled_says_planned(self) -> None:
        self.assertIn(
            "Planned, not weighed.", text_of(set_labels([replace(LABEL, is_planned=True)], GRIDS["roll-62"]).pdf)
        )

    def test_every_code_is_read_off_the_rendered_page(self) -> None:
        labels = numbered(21)
        for key in ("sheet-63x38", "sheet-70x37", "roll-100x62", "roll-62"):
            grid = GRIDS[key]
            pdf = set_labels(labels[: grid.cells], grid).pdf
            self.assertEqual(sorted(codes_of(pdf)), sorted(label.code for label in labels[: grid.cells]), key)

    def test_the_picture_is_a_picture(self) -> None:
        self.assertEqual(preview([LABEL], GRIDS["roll-50x30"])[:8], b"\x89PNG\r\n\x1a\n")

    def test_the_same_labels_are_the_same_bytes(self) -> None:
        self.assertEqual(set_labels([LABEL], GRIDS["roll-62"]).pdf, set_labels([LABEL], GRIDS["roll-62"]).pdf)

    def test_what_is_said_is_text_and_no_command(self) -> None:
        said = text_of(set_labels([replace(LABEL, dish="#panic() *Kofta* $x$ <b>")], GRIDS["roll-100x62"]).pdf)
        self.assertIn("#panic() *Kofta* $x$ <b>", said)


WORDS = {
    "batch": "Sunday at the boathouse",
    "grams of each part": "Turkey kofta 120 g",
    "how to reheat, in words": "about 3 minutes",
    "the day of cooking": "cooked Sun 29 Nov",
    "macros": "C 70",
    "the dish": "Kofta tray",
}


class Small(unittest.TestCase):
    """A label that is too small leaves things out in the stated order, and never what can hurt someone."""

    def own(self, width: float, height: float) -> LabelGrid:
        return LabelGrid(key="own", name="own", page_mm=None, label_w_mm=width, label_h_mm=height)

    def test_each_size_leaves_out_what_it_says(self) -> None:
        dropped = []
        for width, height in ((100, 62), (62, 36), (56, 32), (50, 26), (48, 22), (46, 20), (44, 18), (42, 17)):
            printed = set_labels([LABEL], self.own(width, height))
            (fit,), said = printed.fits, text_of(printed.pdf)
            dropped.append(fit.dropped)
            for index, what in enumerate(DROPS):
                if what in WORDS:
                    with self.subTest(width=width, height=height, what=what):
                        self.assertEqual(WORDS[what] in said, index >= fit.dropped)
            self.assertEqual(codes_of(printed.pdf) != [], DROPS.index("the code") >= fit.dropped)
            if fit.fits:
                for words in ("Ines Haverkamp", "1 of 4", "Use by Wed 2 Dec", "Fridge, 5 °C", "EGG, GLUTEN, MILK"):
                    self.assertIn(words, said)
                self.assertTrue("74 °C" in said)
        self.assertEqual(dropped, sorted(dropped))
        self.assertEqual((dropped[0], dropped[-1] > 4), (0, True))

    def test_one_that_is_smaller_than_its_text_says_so(self) -> None:
        (fit,) = set_labels([LABEL], self.own(20, 15)).fits
        self.assertEqual((fit.dropped, fit.fits), (len(DROPS), False))


class Names(unittest.TestCase):
    def test_other_scripts_are_written(self) -> None:
        for name in ("عائشة بن علي", "王小明", "陳曉彤", "高橋さくら", "Zoë Łukasz Ñandú", "Rower 🚣"):
            shown, lacking = printable(replace(LABEL, client=name))
            self.assertEqual((shown.client, lacking), (name, frozenset()), name)
        for name in ("王小明", "陳曉彤"):
            said = text_of(set_labels([replace(LABEL, client=name)], GRIDS["roll-62"]).pdf)
            self.assertIn(name, said)

    def test_what_no_font_has_is_told_and_stands_as_a_box(self) -> None:
        shown, lacking = printable(replace(LABEL, client="ไทย Ines"))
        self.assertEqual((shown.client, lacking), (f"{MISSING * 3} Ines", frozenset("ไทย")))
        (fit,) = set_labels([replace(LABEL, client="ไทย Ines")], GRIDS["roll-62"]).fits
        self.assertEqual(fit.lacking, frozenset("ไทย"))

    def test_a_name_of_two_hundred_letters_stays_on_its_label(self) -> None:
        for name in ("n" * 200, "Anna " * 40):
            shown, _ = printable(replace(LABEL, client=name))
            self.assertLessEqual(len(shown.client.replace("\u200b", "")), LONGEST_NAME)
            grid = GRIDS["sheet-63x38"]
            printed = set_labels([replace(LABEL, client=name)] * 2, grid)
            self.assertTrue(all(fit.fits for fit in printed.fits))
            with pypdfium2.PdfDocument(printed.pdf) as document:
                text = document[0].get_textpage()
                boxes = [text.get_charbox(index) for index in range(text.count_chars())]
            edges = [box[2] / MM for box in boxes if box[0] / MM < grid.left_mm + grid.label_w_mm]
            self.assertLess(max(edges), grid.left_mm + grid.label_w_mm + 0.01)

    def test_an_own_grid_that_does_not_fit_its_sheet_is_known(self) -> None:
        grid = replace(GRIDS["sheet-63x38"], columns=4)
        self.assertAlmostEqual(grid.overhang_mm(), 58.75 + 0.0, delta=0.01)
        self.assertEqual(GRIDS["sheet-70x37"].overhang_mm(), 0)
