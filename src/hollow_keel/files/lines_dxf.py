"""A lines drawing (DXF): its curves by layer, and the table that comes of saying what each layer is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

import numpy as np

from ..core.errors import InputError
from ..core.geometry.arrays import Array
from ..core.offsets.from_curves import EndCurve, StationCurve, Taken, table_from_curves

LARGEST_BYTES = 100_000_000
SAG = 0.02
"""Curves are followed to within this, in the drawing's own unit times its scale: mm once placed."""
APART_MM = 3.0
"""Two views that differ by more are said to contradict each other."""
_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
"""mm for one of the drawing's units, by the code in its header; 0 there means that it does not say."""
_CURVES = frozenset({"LINE", "LWPOLYLINE", "POLYLINE", "SPLINE", "ARC", "ELLIPSE", "CIRCLE"})


class Role(StrEnum):
    """What a layer of a lines drawing can be."""

    UNUSED = "not used"
    STATION = "station in the body plan"
    STATIONS = "all stations, in the body plan"
    STEM_BOW = "bow profile"
    STEM_STERN = "stern profile (stem)"
    TRANSOM = "transom in the body plan"
    SHEER_PROFILE = "sheer in profile"
    SHEER_PLAN = "sheer in the half-breadth plan"


@dataclass(frozen=True)
class LinesDrawing:
    """Polylines (n, 2) by layer in the drawing's own numbers; `mm` for one of them, None where the file does not say."""

    layers: dict[str, tuple[Array, ...]]
    mm: float | None


@dataclass(frozen=True)
class LayerRole:
    """What one layer is; `position` mm along the hull for a station or a transom, `positions` for all stations on one layer."""

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


def read_drawing(path: Path) -> LinesDrawing:
    """Read the curves of a DXF. Raises InputError for a file that is none or holds none."""
    import ezdxf
    from ezdxf import path as paths

    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError("this drawing is too large", path.name, mend="Save only the lines plan in it.")
        document = ezdxf.readfile(path)  # type: ignore[attr-defined]
    except InputError:
        raise
    except OSError as error:
        raise InputError(
            "this is no drawing we can read", path.name, str(error)[:60], "Save it as DXF (R2000 or later)."
        ) from None
    except (ezdxf.DXFError, ValueError, KeyError, IndexError, UnicodeDecodeError) as error:  # type: ignore[attr-defined]
        raise InputError(
            "this DXF is damaged", path.name, str(error)[:60], "Save it again as DXF (R2000 or later)."
        ) from None
    mm = _UNITS.get(int(document.header.get("$INSUNITS", 0)))
    layers: dict[str, list[Array]] = {}
    for entity in document.modelspace():
        if entity.dxftype() in _CURVES:
            points = np.array([(p.x, p.y) for p in paths.make_path(entity).flattening(SAG / (mm or 1.0))])
            if len(points) > 1 and np.all(np.isfinite(points)):
                layers.setdefault(str(entity.dxf.layer), []).append(points)
    if not layers:
        raise InputError(
            "there are no lines in this drawing", path.name,
            mend="Draw stations as lines, polylines or splines in the model, a layer each.",
        )  # fmt: skip
    return LinesDrawing(
        {name: tuple(_joined(curves)) for name, curves in sorted(layers.items(), key=_by_number)}, mm
    )


def _by_number(item: tuple[str, object]) -> list[tuple[int, str]]:
    """Layers in the order people count: S2 before S10."""
    return [(int(part), "") if part.isdigit() else (-1, part) for part in re.split(r"(\d+)", item[0])]


def _joined(curves: list[Array]) -> list[Array]:
    """Curves that meet end to end made one."""
    import shapely

    size = max(float(np.ptp(c, axis=0).max()) for c in curves) or 1.0
    snapped = [np.round(c / (size * 1e-6)) * (size * 1e-6) for c in curves]
    whole = shapely.line_merge(shapely.multilinestrings([shapely.linestrings(c) for c in snapped]))
    return [np.asarray(shapely.get_coordinates(part)) for part in shapely.get_parts(whole)]


def offsets_from_drawing(
    drawing: LinesDrawing, roles: dict[str, LayerRole], origins: Origins, mm: float, half_siding: float = 0.0
) -> Taken:
    """The table of a lines drawing; `mm` for one of its units. Raises InputError where it cannot be made."""
    remarks: list[str] = []
    stations: list[StationCurve] = []
    ends: list[EndCurve] = []
    sheers: list[tuple[Role, Array]] = []
    for name, own in roles.items():
        if own.role is Role.UNUSED:
            continue
        curves = drawing.layers[name]
        if own.role is Role.STATIONS:
            stations += _on_one_layer(curves, origins, mm, name, own.positions)
        elif own.role in (Role.STATION, Role.TRANSOM):
            curve = _body_curve(curves, origins, mm, name, remarks)
            if own.role is Role.STATION:
                stations.append(StationCurve(own.position, curve))
            else:
                upward = curve if curve[0, 1] < curve[-1, 1] else curve[::-1]
                ends.append(EndCurve("transom", np.insert(upward, 0, own.position, axis=1)))
        else:
            profile = _longest(curves, name, remarks)
            along = (profile[:, 0] - origins.profile_zero) * (mm if origins.bow_left else -mm)
            base = origins.plan_centreline if own.role is Role.SHEER_PLAN else origins.profile_baseline
            up = (profile[:, 1] - base) * mm
            line = np.column_stack([along, np.abs(up) if own.role is Role.SHEER_PLAN else up])
            if own.role in (Role.SHEER_PROFILE, Role.SHEER_PLAN):
                sheers.append((own.role, line))
            else:
                upward = line if line[0, 1] < line[-1, 1] else line[::-1]
                label = "stem_bow" if own.role is Role.STEM_BOW else "stem_stern"
                ends.append(EndCurve(label, np.insert(upward, 1, half_siding, axis=1)))
    taken = table_from_curves(stations, ends)
    for role, line in sheers:
        remarks += _contradictions(taken, role, line)
    return Taken(taken.table, (*remarks, *taken.remarks))


def _on_one_layer(
    curves: tuple[Array, ...], origins: Origins, mm: float, name: str, positions: tuple[float, ...]
) -> list[StationCurve]:
    """Stations told apart by how the body plan is drawn: forward ones at the right, from the narrowest at the bow on; after ones at
    the left, the narrowest last. Raises InputError where there are others than there are positions."""
    placed = [(c - [origins.body_centreline, origins.body_baseline]) * mm for c in curves]
    sides = [float(c[int(np.argmax(np.abs(c[:, 0]))), 0]) for c in placed]
    order = sorted(range(len(placed)), key=lambda k: _widest_at_head(placed[k]))
    forward = [k for k in order if sides[k] > 0]
    after = [k for k in reversed(order) if sides[k] <= 0]
    if len(positions) != len(placed):
        raise InputError(
            f"layer {name} holds {len(placed)} curves", "its positions", f"{len(positions)} given",
            "Give a position for each, from the bow on, such as 0; 500; 1000 …; or put what is no station on another layer.",
        )  # fmt: skip
    if not forward or not after:
        raise InputError(
            f"layer {name} shows all stations on one side", mend="Is the centreline where it should be? Forward stations "
            "stand at the right of it, after ones at the left; else give every station a layer of its own.",
        )  # fmt: skip
    found = []
    for x, k in zip(sorted(positions), [*forward, *after], strict=True):
        found.append(StationCurve(x, np.column_stack([np.abs(placed[k][:, 0]), placed[k][:, 1]])))
    return found


def _widest_at_head(curve: Array) -> float:
    """Half-breadth at the upper end of a station."""
    return float(abs(curve[int(np.argmax(curve[:, 1])), 0]))


def _longest(curves: tuple[Array, ...], name: str, remarks: list[str]) -> Array:
    if len(curves) > 1:
        remarks.append(f"Layer {name} holds {len(curves)} curves; the longest was taken.")
    return max(curves, key=lambda c: float(np.linalg.norm(np.diff(c, axis=0), axis=1).sum()))


def _body_curve(
    curves: tuple[Array, ...], origins: Origins, mm: float, name: str, remarks: list[str]
) -> Array:
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
