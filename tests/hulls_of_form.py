"""Hulls of known form: half-breadth as a closed function of place and height, between a profile and a sheer of closed form.

A section is y = s + (b - s) ζ^m over ζ, the share of the way from profile to sheer: m = 1/2 is round, 1 a V, 2 a hollow garboard.
The profile from stem head to stem head is one line; what climbs more steeply than 1 : 1.5 is told as stem.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from tests.shapes import end_rows, station_rows

Line = Callable[[np.ndarray], np.ndarray]
STEEP = 1 / 1.5


@dataclass(frozen=True)
class Form:
    """A hull of a closed form. Lengths mm, positions from the bow aft; `rake` is the power with which the profile climbs to the
    stem heads (large: a plumb stem), `ends` and `full` the powers of the sheer's half-breadth, `power` that of sections amidships
    and `power_at_ends` of those at the ends; with a `transom` the hull is cut off there, square."""

    length: float = 5000.0
    beam: float = 1300.0
    depth: float = 450.0
    sheer_rise: float = 180.0
    rocker: float = 60.0
    rake: float = 10.0
    ends: float = 2.2
    full: float = 0.9
    siding: float = 10.0
    power: float = 0.5
    power_at_ends: float = 0.9
    transom: float | None = None
    tumblehome: float = 0.0

    def where(self, x: np.ndarray) -> np.ndarray:
        """Place along the hull from -1 at the bow to 1 at the stern."""
        return 2 * np.asarray(x, dtype=float) / self.length - 1

    def sheer_height(self, x: np.ndarray) -> np.ndarray:
        """Height of the sheer."""
        return self.depth + self.sheer_rise * self.where(x) ** 2

    def profile(self, x: np.ndarray) -> np.ndarray:
        """Height of keel and stems."""
        xi = np.abs(self.where(x))
        head = self.depth + self.sheer_rise
        return self.rocker * xi**2 + (head - self.rocker) * xi**self.rake

    def sheer_breadth(self, x: np.ndarray) -> np.ndarray:
        """Half-breadth at the sheer."""
        return self.siding + (self.beam / 2 - self.siding) * (1 - np.abs(self.where(x)) ** self.ends) ** self.full

    def half_breadth(self, x: np.ndarray, z: np.ndarray) -> np.ndarray:
        """Half-breadth at places x and heights z between profile and sheer."""
        low, high = self.profile(x), self.sheer_height(x)
        up = np.clip((z - low) / np.maximum(high - low, 1e-9), 0.0, 1.0)
        m = self.power + (self.power_at_ends - self.power) * self.where(x) ** 2
        swell = 1 + self.tumblehome * up * (1 - up)
        return self.siding + (self.sheer_breadth(x) - self.siding) * up**m * swell

    def section(self, x: float, count: int) -> tuple[np.ndarray, np.ndarray]:
        """So many points of the section at x, keel to sheer, at about even steps of its girth."""
        t = np.linspace(0.0, 1.0, 4001) ** 3
        low, high = float(self.profile(np.array(x))), float(self.sheer_height(np.array(x)))
        z = low + (high - low) * t
        y = self.half_breadth(np.full_like(z, x), z)
        run = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(y), np.diff(z)))])
        at = np.linspace(0.0, run[-1], count)
        return np.interp(at, run, y), np.interp(at, run, z)

    def foot(self, *, stern: bool) -> float:
        """Where the profile begins to be a stem."""
        x = np.linspace(0.0, self.length / 2, 8001)
        slope = -np.gradient(self.profile(x), x)
        steep = np.flatnonzero(slope > STEEP)
        at = float(x[steep[-1]]) if len(steep) else 0.0
        return self.length - at if stern else at

    def table(self, stations: int = 11, points: int = 11, step: float = 0.0, stem: int = 9) -> OffsetsTable:
        """As offsets: so many stations between the ends of the sheer, so many points each, rounded to `step` mm where one is
        given."""
        end = self.transom if self.transom is not None else self.length
        rows: list[OffsetRow] = self._stem(stem, stern=False)
        for x in np.linspace(0.0, end, stations + 2)[1:-1].tolist():
            rows += station_rows(x, *self.section(x, points))
        if self.transom is not None:
            y, z = self.section(end, points)
            rows += end_rows("transom", np.column_stack([np.full(points, end), y, z]))
        else:
            rows += self._stem(stem, stern=True)
        return OffsetsTable(rows=tuple(_rounded(row, step) for row in rows))

    def _stem(self, count: int, *, stern: bool) -> list[OffsetRow]:
        foot, tip = self.foot(stern=stern), self.length if stern else 0.0
        x = np.linspace(foot, tip, 2001)
        z = self.profile(x)
        run = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(x), np.diff(z)))])
        at = np.linspace(0.0, run[-1], count)
        own = np.column_stack([np.interp(at, run, x), np.full(count, self.siding), np.interp(at, run, z)])
        return end_rows("stem_stern" if stern else "stem_bow", own)


def _rounded(row: OffsetRow, step: float) -> OffsetRow:
    if step <= 0:
        return row
    own = {k: round(getattr(row, k) / step) * step for k in ("half_breadth", "height")}
    return row.model_copy(update=own)


FORMS: dict[str, Form] = {
    "round double-ender": Form(),
    "V double-ender": Form(power=0.95, power_at_ends=1.0, beam=1100.0),
    "plumb stems": Form(rake=30.0, power=0.45, sheer_rise=80.0),
    "spoon bow": Form(rake=3.0, full=0.6, power=0.5, power_at_ends=0.6, transom=4700.0),
    "hollow garboards": Form(power=0.75, power_at_ends=1.6, beam=1500.0, depth=600.0),
    "transom launch": Form(length=7600.0, transom=6600.0, beam=1900.0, rake=16.0, ends=2.6, power=0.4),
    "tumblehome": Form(tumblehome=0.5, power=0.55, depth=550.0, transom=4400.0),
    "deep rocker": Form(rocker=220.0, depth=700.0, rake=8.0, beam=1500.0),
    "small tender": Form(length=2600.0, beam=1150.0, depth=380.0, sheer_rise=120.0, transom=2350.0, rake=6.0),
    "lean racer": Form(length=9000.0, beam=900.0, depth=330.0, sheer_rise=60.0, rake=20.0, ends=1.8),
}
"""Hulls that strips are laid on, and tables are judged by."""


def away_from(form: Form, x: float, drawn: np.ndarray) -> np.ndarray:
    """How far points (n, 2) of a section lie from the true section of a hull of closed form, mm (n,)."""
    true = np.column_stack(form.section(x, 1201))
    chord = np.diff(true, axis=0)
    from_start = drawn[:, None] - true[None, :-1]
    share = np.clip((from_start * chord).sum(axis=2) / (chord**2).sum(axis=1), 0, 1)
    off = from_start - share[..., None] * chord
    result: np.ndarray = np.linalg.norm(off, axis=2).min(axis=1)
    return result
