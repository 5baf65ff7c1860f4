"""Makes the demo tables from formulas of our own, rounded as a builder would write them.

Run from the project's root: python tools/make_demo_tables.py
A hull here is a half-breadth y(x, z) between a bottom profile (stem, keel, sternpost or rocker) and a
sheer; sections go from a V at the ends to a firm bilge amidships. The shapes are invented.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from scipy.optimize import brentq

from hollow_keel.core.units import LengthStyle, LengthUnit, format_length

OUT = Path(__file__).parent.parent / "src" / "hollow_keel" / "demo"
Curve = Callable[[float], float]


@dataclass(frozen=True)
class Shape:
    bottom: Curve
    sheer: Curve
    breadth: Curve  # half-breadth at the sheer
    fullness: Curve  # 0 at a V, 1 at the firmest bilge
    siding: float
    tumblehome: Curve = lambda _: 0.0

    def half_breadth(self, x: float, share: float) -> float:
        """At a share 0..1 of the height from the bottom profile to the sheer."""
        full = self.fullness(x)
        power, root = 1.25 + 1.35 * full, 1.0 + 0.75 * full
        out = (self.breadth(x) - self.siding) * (1 - (1 - share) ** power) ** (1 / root)
        return self.siding + out * (1 - self.tumblehome(x) * share**3)

    def section(self, x: float, count: int) -> list[tuple[float, float]]:
        """Points (half-breadth, height) at even steps of girth, bottom to sheer."""
        share = np.linspace(0, 1, 4001) ** 2
        low, high = self.bottom(x), self.sheer(x)
        y = np.array([self.half_breadth(x, s) for s in share])
        z = low + (high - low) * share
        run = np.concatenate([[0], np.cumsum(np.hypot(np.diff(y), np.diff(z)))])
        at = np.linspace(0, run[-1], count)
        return [(float(np.interp(a, run, y)), float(np.interp(a, run, z))) for a in at]


def smooth(t: float) -> float:
    t = min(max(t, 0.0), 1.0)
    return t * t * (3 - 2 * t)


def linnet() -> list[tuple[float, str, float, float]]:
    """5.4 m pulling boat: raked stem, moderate rocker, small raked transom. Millimetres."""
    forefoot = 620.0

    def keel(x: float) -> float:
        return 95 * ((x - 2850) / 2400) ** 2

    def bottom(x: float) -> float:
        if x >= forefoot:
            return keel(x)
        t = (forefoot - x) / forefoot
        slope = 2 * 95 * (forefoot - 2850) / 2400**2 * -forefoot  # the keel's own rise, carried on
        return keel(forefoot) + slope * t + (sheer(0) - keel(forefoot) - slope) * t**2.6

    def sheer(x: float) -> float:
        return 505 + (225 * ((3050 - x) / 3050) ** 2 if x < 3050 else 95 * ((x - 3050) / 2350) ** 2)

    def breadth(x: float) -> float:
        if x < 2900:
            return 14 + 626 * (1 - (1 - x / 2900) ** 2.1)
        return 640 - 300 * ((x - 2900) / 2500) ** 2.1

    def fullness(x: float) -> float:
        return smooth((x - 100) / 2700) * (1 - 0.55 * smooth((x - 3000) / 2600))

    shape = Shape(bottom, sheer, breadth, fullness, 14)
    rows: list[tuple[float, str, float, float]] = []
    for t in (0, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9, 1.0):
        x = forefoot * (1 - t)
        rows.append((round(x), "stem_bow", 14, round(bottom(round(x)))))
    for x in (100, 300, 500, *range(900, 5300, 400)):
        rows += _station(float(x), shape.section(float(x), 7 if x < 200 else 9))
    rake, foot = 0.38, 5160.0

    def on_transom(share: float) -> tuple[float, str, float, float]:
        def miss(x: float) -> float:
            z = bottom(x) + (sheer(x) - bottom(x)) * share
            return x - foot - rake * (z - bottom(foot))

        x = brentq(miss, foot - 50, foot + 400)
        z = bottom(x) + (sheer(x) - bottom(x)) * share
        return (round(x, 1), "transom", round(shape.half_breadth(x, share)), round(z))

    shares = np.array([_share(shape, foot + 100, a) for a in np.linspace(0, 1, 8)])
    rows += [on_transom(float(s)) for s in shares]
    return rows


def _share(shape: Shape, x: float, fraction: float) -> float:
    """Height share at a fraction of the girth of the section at x."""
    points = np.array(shape.section(x, 101))
    low, high = shape.bottom(x), shape.sheer(x)
    return float(np.clip((points[round(fraction * 100), 1] - low) / (high - low), 0, 1))


def _station(x: float, points: list[tuple[float, float]]) -> list[tuple[float, str, float, float]]:
    last = len(points) - 1
    labels = {0: "keel", last: "sheer"}
    return [(x, labels.get(k, "wl"), round(y), round(z)) for k, (y, z) in enumerate(points)]


def pipit() -> list[tuple[float, str, float, float]]:
    """3.2 m double-ended tender, in inches here; written in feet-inches-eighths."""
    length, rake = 126.0, 15.0

    def bottom(x: float) -> float:
        near = min(x, length - x)
        keel = 4.5 * ((near - length / 2) / (length / 2)) ** 2
        if near >= rake:
            return keel
        t = (rake - near) / rake
        at_foot = 4.5 * ((rake - length / 2) / (length / 2)) ** 2
        # the keel's own rise, carried on a little steeper: a forefoot with a slight corner, as sawn stems have
        slope = 1.4 * 2 * 4.5 * (rake - length / 2) / (length / 2) ** 2 * -rake
        return at_foot + slope * t + (sheer(0) - at_foot - slope) * t**2.2

    def sheer(x: float) -> float:
        return 17.5 + 7.0 * ((x - length / 2) / (length / 2)) ** 2

    def breadth(x: float) -> float:
        return 0.625 + 21.0 * (1 - abs((x - length / 2) / (length / 2)) ** 2.3)

    def fullness(x: float) -> float:
        return smooth(min(x, length - x) / 55)

    shape = Shape(bottom, sheer, breadth, fullness, 0.625)
    rows: list[tuple[float, str, float, float]] = []
    ts = (0, 0.2, 0.4, 0.6, 0.8, 1.0)
    rows += [(rake * (1 - t), "stem_bow", 0.625, bottom(rake * (1 - t))) for t in ts]
    for x in (4.0, 9.0, *np.linspace(18, 108, 9), 117.0, 122.0):
        points = shape.section(float(x), 7)
        rows += [(float(x), {0: "keel", 6: "sheer"}.get(k, "wl"), y, z) for k, (y, z) in enumerate(points)]
    rows += [(length - rake * (1 - t), "stem_stern", 0.625, bottom(length - rake * (1 - t))) for t in ts]
    return rows


def sedge() -> list[tuple[float, str, float, float]]:
    """7.1 m electric lake launch: plumb stem, long straight keel, tumblehome aft, upright transom. Millimetres."""
    length, forefoot = 7100.0, 420.0

    def keel(x: float) -> float:
        return 30 * ((x - 3000) / 3000) ** 2 + 190 * smooth((x - 3600) / 4200) ** 1.5

    def bottom(x: float) -> float:
        if x >= forefoot:
            return keel(x)
        t = (forefoot - x) / forefoot
        return keel(forefoot) + (sheer(0) - keel(forefoot)) * (0.05 * t + 0.95 * t**3.4)

    def sheer(x: float) -> float:
        return 690 + 190 * ((4300 - x) / 4300) ** 2 if x < 4300 else 690 + 45 * ((x - 4300) / 2800) ** 2

    def breadth(x: float) -> float:
        if x < 3700:
            return 18 + 807 * (1 - (1 - x / 3700) ** 2.0)
        return 825 - 240 * ((x - 3700) / 3400) ** 2.2

    def fullness(x: float) -> float:
        return smooth(x / 3300) * (1 - 0.25 * smooth((x - 4200) / 3200))

    def tumblehome(x: float) -> float:
        return 0.16 * smooth((x - 3600) / 3500)

    shape = Shape(bottom, sheer, breadth, fullness, 18, tumblehome)
    rows: list[tuple[float, str, float, float]] = []
    for t in (0, 0.2, 0.4, 0.6, 0.75, 0.87, 0.95, 1.0):
        x = forefoot * (1 - t)
        rows.append((round(x), "stem_bow", 18, round(bottom(round(x)))))
    for x in (150, 350, 600, *range(1100, 7100, 500)):
        rows += _station(float(x), shape.section(float(x), 7 if x < 260 else 11))
    ends = shape.section(length, 10)
    rows += [(length, "transom", round(y), round(z)) for y, z in ends]
    return rows


def teasel() -> list[tuple[float, str, float, float]]:
    """4.6 m decked paddling boat: raked rounded stems, a firm bilge amidships, a crowned deck, higher ahead than astern, its
    ends peaked. Millimetres; the table goes on past the sheer to the deck's centreline."""
    length, rake = 4600.0, 420.0

    def bottom(x: float) -> float:
        near = min(x, length - x)
        keel = 46 * abs((x - length / 2) / (length / 2)) ** 2.2
        if near >= rake:
            return keel
        t = (rake - near) / rake
        at_foot = 46 * abs((rake - length / 2) / (length / 2)) ** 2.2
        slope = 46 * 2.2 * abs((rake - length / 2) / (length / 2)) ** 1.2 / (length / 2) * rake
        return at_foot + slope * t + (sheer(x) - at_foot - slope) * t**2.4

    def sheer(x: float) -> float:
        return 205 + 105 * ((2450 - x) / 2450) ** 2 if x < 2450 else 205 + 70 * ((x - 2450) / 2150) ** 2

    def breadth(x: float) -> float:
        return 8 + 280 * (1 - abs((x - 2380) / (2380 if x < 2380 else 2220)) ** 2.2)

    def fullness(x: float) -> float:
        return 0.8 * smooth(min(x, length - x) / 1500)

    def crown(x: float) -> float:
        """Of the deck: highest ahead of the cockpit, flatter astern."""
        ahead = 26 + 70 * smooth(x / 1900) * (1 - 0.62 * smooth((x - 1500) / 1300))
        return ahead * min(1.0, breadth(x) / 150)

    def peak(x: float) -> float:
        return max(1 - x / 900, 1 - (length - x) / 900, 0.0)

    shape = Shape(bottom, sheer, breadth, fullness, 8)
    rows: list[tuple[float, str, float, float]] = []
    ts = (0, 0.15, 0.3, 0.45, 0.6, 0.8, 1.0)
    rows += [(round(rake * (1 - t)), "stem_bow", 8, round(bottom(rake * (1 - t)), 1)) for t in ts]
    for x in (120, 250, *range(400, 4400, 200), 4350, 4480):
        rows += _station(float(x), shape.section(float(x), 7 if 200 < x < length - 200 else 5))
        half, high = round(breadth(x)), round(sheer(x))
        for k, s in enumerate((0.8, 0.6, 0.4, 0.2, 0.0)):
            z = high + crown(x) * (1 - s ** (2 - peak(x)))
            rows.append((float(x), "deck_centre" if k == 4 else "deck", round(s * half, 1), round(z, 1)))
    rows += [(round(length - rake * (1 - t)), "stem_stern", 8, round(bottom(length - rake * (1 - t)), 1)) for t in ts]
    return rows


def main() -> None:
    text = "# name: Teasel\n# invented for Hollow Keel; made by tools/make_demo_tables.py\n"
    text += "# offsets-to: outside\n# waterline_mm: 105\n# stem_half_siding_mm: 8\n"
    text += "station_mm,label,half_breadth_mm,height_mm\n"
    text += "".join(f"{x:g},{label},{y:g},{z:g}\n" for x, label, y, z in teasel())
    (OUT / "teasel.csv").write_text(text)
    text = "# name: Sedge\n# invented for Hollow Keel; made by tools/make_demo_tables.py\n"
    text += "# offsets-to: outside\n# waterline_mm: 300\n# stem_half_siding_mm: 18\n"
    text += "station_mm,label,half_breadth_mm,height_mm\n"
    text += "".join(f"{x:g},{label},{y:g},{z:g}\n" for x, label, y, z in sedge())
    (OUT / "sedge.csv").write_text(text)
    text = "# name: Linnet\n# invented for Hollow Keel; made by tools/make_demo_tables.py\n"
    text += "# offsets-to: outside\n# waterline_mm: 175\n# stem_half_siding_mm: 14\n"
    text += "station_mm,label,half_breadth_mm,height_mm\n"
    text += "".join(f"{x:g},{label},{y:g},{z:g}\n" for x, label, y, z in linnet())
    (OUT / "linnet.csv").write_text(text)
    style = LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16)
    text = "# name: Pipit\n# invented for Hollow Keel; made by tools/make_demo_tables.py\n"
    text += "# offsets-to: outside\n# waterline_mm: 152.4\n"
    text += "station_fie,label,half_breadth_fie,height_fie\n"
    for x, label, y, z in pipit():
        cells = [format_length(v * 25.4, style) for v in (x, y, z)]
        text += f"{cells[0]},{label},{cells[1]},{cells[2]}\n"
    (OUT / "pipit.csv").write_text(text)


if __name__ == "__main__":
    main()
