"""How far a table's deck may be out between its rows, against decks that are known everywhere by a closed form."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import pytest

from hollow_keel.core.hull.stages import DECK, DECK_DOUBT
from hollow_keel.core.job import Job
from hollow_keel.core.molds.shape import section_outside
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline

LONG, WIDE = 4000.0, 350.0
ACROSS: dict[str, Callable[[np.ndarray], np.ndarray]] = {
    "round": lambda r: 1 - r**2,
    "square": lambda r: 1 - r**4,
    "hollow": lambda r: (1 - r) ** 1.5,
}


class Form:
    """A deck over a hull that is pointed or cut off at both ends; its crown grows with a power of its beam."""

    def __init__(self, pointed: bool, across: str, power: float) -> None:
        self.pointed, self.across, self.power = pointed, ACROSS[across], power

    def half(self, x: float) -> float:
        t = x / LONG
        return WIDE * (1 - (2 * t - 1) ** 2 if self.pointed else 0.35 + 0.65 * math.sin(math.pi * t))

    @staticmethod
    def sheer(x: float) -> float:
        return 250 + 120 * (2 * x / LONG - 1) ** 2

    def height(self, x: float, y: np.ndarray) -> np.ndarray:
        """Of the deck at half-breadths (n,) of a station, mm."""
        crown = 90 * (self.half(x) / WIDE) ** self.power
        share = np.clip(y / max(self.half(x), 1e-9), 0, 1)
        return self.sheer(x) + crown * self.across(share)

    def table(self, stations: int, rows: int) -> OffsetsTable:
        """Its offsets to a tenth of a millimetre."""
        found: list[OffsetRow] = []

        def row(x: float, label: str, y: float, z: float) -> None:
            found.append(OffsetRow(station=round(x, 1), label=label, half_breadth=round(y, 1), height=round(z, 1)))

        for k in range(stations):
            x = LONG * k / (stations - 1)
            half, sheer, keel = self.half(x), self.sheer(x), 60 * (2 * x / LONG - 1) ** 2
            end = k in (0, stations - 1)
            if end and self.pointed:
                for z in np.linspace(keel, sheer, 5).tolist():
                    row(x, "stem_bow" if k == 0 else "stem_stern", 0.0, z)
                continue
            for n in range(7):
                turn = n * math.pi / 12
                label = "transom" if end else {0: "keel", 6: "sheer"}.get(n, "wl")
                row(x, label, half * math.sin(turn) ** 0.8, keel + (sheer - keel) * (1 - math.cos(turn)))
            for n in range(1, rows + 1):
                y = half * (1 - n / rows)
                label = "deck_centre" if n == rows else "deck"
                row(x, label, y, float(self.height(x, np.array([y]))[0]))
        return OffsetsTable(rows=tuple(found))


@pytest.mark.parametrize(("stations", "rows"), [(11, 6), (7, 3)])
@pytest.mark.parametrize("power", [1.0, 1.5, 2.0])
@pytest.mark.parametrize("across", list(ACROSS))
@pytest.mark.parametrize("pointed", [True, False])
def test_a_deck_is_out_by_no_more_than_is_told(pointed: bool, across: str, power: float, stations: int, rows: int) -> None:
    """At its rows it is met; between stations and between rows it is out by no more than it may be."""
    form = Form(pointed, across, power)
    results = Pipeline().results(Job(offsets=form.table(stations, rows)), [DECK, DECK_DOUBT])
    deck, doubt = results[DECK], results[DECK_DOUBT]

    def out(x: float) -> float:
        line = section_outside(deck.surface, x)
        return float(np.abs(line[:, 1] - form.height(x, line[:, 0])).max()) if len(line) > 1 else 0.0

    worst = max(out(x) for x in np.linspace(0, LONG, 8 * (stations - 1) + 1)[1:-1].tolist())
    assert worst <= 1.05 * doubt
    for x in np.linspace(0, LONG, stations)[1:-1].tolist():
        line = section_outside(deck.surface, round(x, 1))
        given = form.half(x) * (1 - np.arange(1, rows + 1) / rows)
        order = np.argsort(line[:, 0])
        met = np.interp(given, line[order, 0], line[order, 1]) - form.height(x, given)
        assert np.abs(met).max() < 0.25, "met at its rows, but for the table's own tenths"


@pytest.mark.parametrize("rows", [1, 2])
@pytest.mark.parametrize("across", ["round", "square"])
def test_a_deck_of_a_row_or_two_a_station_is_no_sure_one(across: str, rows: int) -> None:
    """Where too few rows tell of each other the doubt is that of a deck that runs straight between them."""
    form = Form(False, across, 1.0)
    results = Pipeline().results(Job(offsets=form.table(11, rows)), [DECK, DECK_DOUBT])

    def out(x: float) -> float:
        line = section_outside(results[DECK].surface, x)
        return float(np.abs(line[:, 1] - form.height(x, line[:, 0])).max())

    assert max(out(x) for x in (400.0, 1200.0, 2000.0, 2200.0)) <= results[DECK_DOUBT]


def test_it_is_not_told_far_too_much() -> None:
    told = []
    for pointed in (True, False):
        for across in ACROSS:
            form = Form(pointed, across, 1.0)
            told.append(Pipeline().value(Job(offsets=form.table(11, 6)), DECK_DOUBT))
    assert max(told) < 0.8
