"""A printer of labels: it takes a PDF, and says so when it is off. A real one is any printer of the system."""

from __future__ import annotations

from typing import Protocol


class PrinterOff(Exception):
    """The printer takes nothing now; the message says the way out."""


class LabelPrinter(Protocol):
    """What takes labels."""

    def take(self, pdf: bytes) -> None:
        """Print a PDF.

        Raises:
            PrinterOff: it is off. Nothing of it was printed.
        """


class SimulatedLabelPrinter:
    """Stands in for a label printer: what it took is shown on its page, by whoever keeps it."""

    def __init__(self, *, is_on: bool) -> None:
        self.is_on = is_on

    def take(self, pdf: bytes) -> None:
        """Print a PDF.

        Raises:
            PrinterOff: it is off.
            ValueError: this is no PDF.
        """
        if not pdf.startswith(b"%PDF-"):
            raise ValueError("a label printer takes PDFs")
        if not self.is_on:
            raise PrinterOff("The label printer is off. What was sent waits, and is printed when it is switched on.")
