"""A lines drawing: its curves by layer, and the table that comes of saying what each layer is."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from enum import StrEnum
from pathlib import Path

import numpy as np

from ...core.errors import InputError
from ...core.geometry.arrays import Array
from ...core.offsets.from_curves import EndCurve, StationCurve, Taken, table_from_curves, table_from_rows
from .views import Views, differences

LARGEST_BYTES = 100_000_000
APART_MM = 3.0
"""Two views that differ by more are said to contradict each other."""


FARTHEST = 1e9
"""Numbers of a drawing are smaller, in whatever unit."""


class Role(StrEnum):
    """What a layer of a lines drawing can be."""

    UNUSED = "not used"
    STATION = "station in the body plan"
    STATIONS = "all stations, in the body plan"
    STEM_BOW = "bow profile"
    STEM_STERN = "stern profile (stem)"
    TRANSOM = "transom in the body plan"
    TRANSOM_PROFILE = "transom in profile (its rake)"
    KEEL_PROFILE = "keel in profile"
    SHEER_PROFILE = "sheer in profile"
    SHEER_PLAN = "sheer in the half-breadth plan"
    WATERLINE = "waterline in the half-breadth plan"
    BUTTOCK = "buttock in profile"


IN_BODY_PLAN = frozenset({Role.STATION, Role.STATIONS, Role.TRANSOM})
IN_PLAN = frozenset({Role.SHEER_PLAN, Role.WATERLINE})


@dataclass(frozen=True)
class LinesDrawing:
    """Polylines (n, 2) by layer in the drawing's own numbers; `mm` for one of them, None where the file does not say."""

    layers: dict[str, tuple[Array, ...]]
    mm: float | None


@dataclass(frozen=True)
class LayerRole:
    """What one layer is; `position` mm along the hull for a station or a transom, a waterline's height, a buttock's half-breadth;
    `positions` for all stations on one layer."""

    role: Role
    position: float = 0.0
    positions: tuple[float, ...] = ()


@dataclass(frozen=True)
class Origins:
    """Where the views lie on the sheet, in the drawing's own numbers; `bow_left` in profile and plan."""

    body_centreline: float = 0.0
    body_baseline: float = 0.0
    profile_zero: float = 0.0
    profile_baseline: float = 0.0
    plan_centreline: float = 0.0
    bow_left: bool = True


ORIGINS = tuple(field.name for field in fields(Origins) if field.name != "bow_left")


def origins_of(texts: Mapping[str, str], *, bow_left: bool) -> Origins:
    """Origins as they are typed, by name, in the drawing's own numbers; those not typed are nothing. Raises InputError naming one
    that is no number."""
    values: dict[str, float] = {}
    for name, text in texts.items():
        try:
            values[name] = float(text.replace(",", "."))
        except ValueError:
            values[name] = np.nan
        if not np.isfinite(values[name]):
            raise InputError("this is no number", name.replace("_", " "), text, "Read it off the drawing, in its own unit.")
    return Origins(**values, bow_left=bow_left)


def positions_of(text: str, count: int, length: Callable[[str], float]) -> tuple[float, ...]:
    """Positions of `count` stations one after the other; or the first and the spacing, as `300 every 400`. `length` reads one."""
    first, every, spacing = text.partition("every")
    if every:
        start = length(first.strip() or "0")
        return tuple(start + k * length(spacing.strip()) for k in range(count))
    return tuple(length(part.strip()) for part in text.split(";") if part.strip())


def read_drawing(path: Path) -> LinesDrawing:
    """Read the curves of a DXF or an SVG. Raises InputError for a file that is none or holds none."""
    if path.suffix.lower() == ".svg":
        from .svg import read_svg

        return read_svg(path)
    from .dxf import read_dxf

    return read_dxf(path)


def too_far(name: str, layer: str) -> InputError:
    """A line of a drawing lies where no hull is."""
    return InputError(
        "a line of this drawing lies farther off than any hull is long",
        name,
        f"layer {layer}",
        "Take out what does not belong to the lines plan, and save it again.",
    )


def drawing_of(layers: dict[str, list[Array]], mm: float | None, name: str) -> LinesDrawing:
    """The drawing of curves (n, 2) by layer, those that meet joined. Raises InputError where there are none."""
    if not layers:
        raise InputError(
            "there are no lines in this drawing", name, mend="Draw stations as lines, polylines or splines, a layer each."
        )
    for layer, curves in layers.items():
        if not all(np.isfinite(curve).all() and np.abs(curve).max(initial=0.0) < FARTHEST for curve in curves):
            raise too_far(name, layer)
    return LinesDrawing({name: tuple(_joined(curves)) for name, curves in sorted(layers.items(), key=_by_number)}, mm)


def _by_number(item: tuple[str, object]) -> list[tuple[int, str]]:
    """Layers in the order people count: S2 before S10."""
    return [(int(part), "") if part.isdigit() else (-1, part) for part in re.split(r"(\d+)", item[0])]


def _joined(curves: list[Array]) -> list[Array]:
    """Curves that meet end to end made one, in the order in which they were drawn."""
    import shapely

    size = max(float(np.ptp(c, axis=0).max()) for c in curves) or 1.0
    snapped = [np.round(c / (size * 1e-6)) * (size * 1e-6) for c in curves]
    whole = shapely.line_merge(shapely.multilinestrings([shapely.linestrings(c) for c in snapped]))
    parts = [np.asarray(shapely.get_coordinates(part)) for part in shapely.get_parts(whole)]
    drawn = {tuple(point): k for k, c in reversed(list(enumerate(snapped))) for point in (c[0], c[-1])}

    def when(part: Array) -> int:
        """Stations may share their foot: the end that came later tells."""
        return max(drawn.get(tuple(end), 0) for end in (part[0], part[-1]))

    return sorted(parts, key=when)


def offsets_from_drawing(
    drawing: LinesDrawing, roles: dict[str, LayerRole], origins: Origins, mm: float, half_siding: float = 0.0, spacing: float = 0.0
) -> Taken:
    """The table of a lines drawing; `mm` for one of its units. Without a body plan a station is taken every `spacing` mm from the
    other views. Raises InputError where it cannot be made."""
    return _Reading(drawing, roles, origins, mm, half_siding).taken(spacing)


class _Reading:
    """The layers of a drawing on their way into a table."""

    def __init__(self, drawing: LinesDrawing, roles: dict[str, LayerRole], origins: Origins, mm: float, half_siding: float) -> None:
        self.origins, self.mm, self.half_siding = origins, mm, half_siding
        self.remarks: list[str] = []
        self.stations: list[StationCurve] = []
        self.ends: list[EndCurve] = []
        self.views = Views()
        used = {name: own for name, own in roles.items() if own.role is not Role.UNUSED}
        curves = {name: drawing.layers[name] for name in used}
        rakes = [n for n, own in used.items() if own.role is Role.TRANSOM_PROFILE]
        self.rake = self.lengthwise(curves[rakes[0]], rakes[0], Role.TRANSOM_PROFILE) if rakes else None
        for name, own in used.items():
            if own.role in IN_BODY_PLAN:
                self.across(curves[name], name, own)
            elif own.role is not Role.TRANSOM_PROFILE:
                self.along(self.lengthwise(curves[name], name, own.role), own)

    def taken(self, spacing: float) -> Taken:
        """Everything together."""
        if not self.stations:
            rows = self.views.rows(spacing, self.half_siding, self.remarks)
            table = table_from_rows(rows, self.ends).model_copy(update={"lines": self.views.planes})
            return Taken(table, tuple(self.remarks))
        taken = table_from_curves(self.stations, self.ends)
        sections = {station.x: station.points for station in self.stations}
        self.remarks += differences(sections, self.views, APART_MM)
        for role, line in ((Role.SHEER_PROFILE, self.views.sheer_up), (Role.SHEER_PLAN, self.views.sheer_out)):
            self.remarks += [] if line is None else _contradictions(taken, role, line)
        return Taken(taken.table, (*self.remarks, *taken.remarks))

    def across(self, curves: tuple[Array, ...], name: str, own: LayerRole) -> None:
        """A layer of the body plan."""
        if own.role is Role.STATIONS:
            self.stations += _on_one_layer(curves, self.origins, self.mm, name, own.positions, self.remarks)
            return
        curve = _body_curve(curves, self.origins, self.mm, name, self.remarks)
        if own.role is Role.STATION:
            self.stations.append(StationCurve(own.position, curve))
            return
        upward = curve if curve[0, 1] < curve[-1, 1] else curve[::-1]
        x = np.full(len(upward), own.position) if self.rake is None else _at_heights(self.rake, upward[:, 1])
        self.ends.append(EndCurve("transom", np.column_stack([x, upward])))

    def lengthwise(self, curves: tuple[Array, ...], name: str, role: Role) -> Array:
        """A line of the profile or the half-breadth plan in our frame."""
        line = _longest(curves, name, self.remarks)
        origins = self.origins
        along = (line[:, 0] - origins.profile_zero) * (self.mm if origins.bow_left else -self.mm)
        base = origins.plan_centreline if role in IN_PLAN else origins.profile_baseline
        up = (line[:, 1] - base) * self.mm
        return np.column_stack([along, np.abs(up) if role in IN_PLAN else up])

    def along(self, line: Array, own: LayerRole) -> None:
        """A layer of the profile or the half-breadth plan."""
        views = self.views
        if own.role is Role.KEEL_PROFILE:
            views.keel = line
        elif own.role is Role.SHEER_PROFILE:
            views.sheer_up = line
        elif own.role is Role.SHEER_PLAN:
            views.sheer_out = line
        elif own.role is Role.WATERLINE:
            views.waterlines[own.position] = line
        elif own.role is Role.BUTTOCK:
            views.buttocks[abs(own.position)] = line
        else:
            upward = line if line[0, 1] < line[-1, 1] else line[::-1]
            label = "stem_bow" if own.role is Role.STEM_BOW else "stem_stern"
            self.ends.append(EndCurve(label, np.insert(upward, 1, self.half_siding, axis=1)))


def _at_heights(rake: Array, heights: Array) -> Array:
    """Positions of a transom at these heights; its profile (position, height) goes on straight past its ends."""
    line = rake[np.argsort(rake[:, 1])]
    (x0, z0), (x1, z1) = line[0], line[-1]
    if z1 - z0 < 1e-9:
        raise InputError("the transom in profile is level", mend="Take the line from its foot to its head.")
    inside = np.interp(heights, line[:, 1], line[:, 0])
    straight = x0 + (heights - z0) / (z1 - z0) * (x1 - x0)
    result: Array = np.where((heights < z0) | (heights > z1), straight, inside)
    return result


def _on_one_layer(
    curves: tuple[Array, ...], origins: Origins, mm: float, name: str, positions: tuple[float, ...], remarks: list[str]
) -> list[StationCurve]:
    """Stations told apart by how the body plan is drawn: forward ones at the right, from the narrowest at the bow on; after ones at
    the left, the narrowest last; all on one side, in the order in which they were drawn. Raises InputError where there are others
    than there are positions."""
    placed = [(c - [origins.body_centreline, origins.body_baseline]) * mm for c in curves]
    sides = [float(c[int(np.argmax(np.abs(c[:, 0]))), 0]) for c in placed]
    order = sorted(range(len(placed)), key=lambda k: _widest_at_head(placed[k]))
    forward = [k for k in order if sides[k] > 0]
    after = [k for k in reversed(order) if sides[k] <= 0]
    if len(positions) != len(placed):
        raise InputError(
            f"layer {name} holds {len(placed)} curves",
            "its positions",
            f"{len(positions)} given",
            "Give a position for each, from the bow on, such as 0; 500; 1000 …; or put what is no station on another layer.",
        )
    in_order = [*forward, *after]
    if not forward or not after:
        in_order = _as_drawn([_widest_at_head(c) for c in placed], name)
        remarks.append(f"Layer {name} shows all stations on one side: they were taken in the order in which they were drawn.")
    found = []
    for x, k in zip(sorted(positions), in_order, strict=True):
        found.append(StationCurve(x, np.column_stack([np.abs(placed[k][:, 0]), placed[k][:, 1]])))
    return found


def _as_drawn(breadths: list[float], name: str) -> list[int]:
    """The order in which stations were drawn, bow first, by their half-breadths at the head; it must widen to the middle and narrow
    again. Raises InputError where it does not: then nobody knows."""
    steps = np.sign(np.diff(breadths))
    steps = steps[steps != 0]
    if np.any(np.diff(steps) > 0):
        raise InputError(
            f"layer {name} shows all stations on one side, and not in order",
            mend="Draw them from the bow on, or give every station a layer of its own.",
        )
    return list(range(len(breadths)))


def _widest_at_head(curve: Array) -> float:
    """Half-breadth at the upper end of a station."""
    return float(abs(curve[int(np.argmax(curve[:, 1])), 0]))


def _longest(curves: tuple[Array, ...], name: str, remarks: list[str]) -> Array:
    if len(curves) > 1:
        remarks.append(f"Layer {name} holds {len(curves)} curves; the longest was taken.")
    return max(curves, key=lambda c: float(np.linalg.norm(np.diff(c, axis=0), axis=1).sum()))


def _body_curve(curves: tuple[Array, ...], origins: Origins, mm: float, name: str, remarks: list[str]) -> Array:
    """(half-breadth, height) of a station: drawn on either side of the centreline, or on both."""
    curve = _longest(curves, name, remarks)
    out = (curve[:, 0] - origins.body_centreline) * mm
    up = (curve[:, 1] - origins.body_baseline) * mm
    if out.min() < -1.0 and out.max() > 1.0:
        middle = int(np.argmin(up))
        remarks.append(f"Layer {name} shows both sides; the one to the right was taken.")
        part = slice(middle, None) if out[-1] > out[0] else slice(None, middle + 1)
        out, up = out[part], up[part]
    return np.column_stack([np.abs(out), up])


def _contradictions(taken: Taken, role: Role, line: Array) -> list[str]:
    """Where the sheer in one view and in the body plan are not the same line."""
    line = line[np.argsort(line[:, 0])]
    which = "height" if role is Role.SHEER_PROFILE else "half_breadth"
    said: list[str] = []
    for row in taken.table.rows:
        if row.label == "sheer" and line[0, 0] <= row.station <= line[-1, 0]:
            there, here = float(np.interp(row.station, line[:, 0], line[:, 1])), getattr(row, which)
            if abs(there - here) > APART_MM:
                said.append(
                    f"Station {row.station:g}: the {role.value} gives a {which.replace('_', '-')} of {there:.1f}, "
                    f"the body plan {here:.1f}. The body plan's was taken."
                )
    return said
