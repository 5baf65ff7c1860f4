"""A lines drawing as DXF: its curves by layer."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from typing import Any

import numpy as np

from ...core.errors import InputError
from ...core.geometry.arrays import Array
from .drawing import FARTHEST, LARGEST_BYTES, LinesDrawing, drawing_of, too_far

SAG = 0.02
"""Curves are followed to within this, in the drawing's own unit times its scale: mm once placed."""
_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
"""mm for one of the drawing's units, by the code in its header; 0 there means that it does not say."""
_CURVES = frozenset({"LINE", "LWPOLYLINE", "POLYLINE", "SPLINE", "ARC", "ELLIPSE", "CIRCLE"})


def read_dxf(path: Path) -> LinesDrawing:
    """Read the curves of a DXF. Raises InputError for a file that is none or holds none."""
    import ezdxf

    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError("this drawing is too large", path.name, mend="Save only the lines plan in it.")
        document = ezdxf.readfile(path)  # type: ignore[attr-defined]
        mm = _UNITS.get(int(document.header.get("$INSUNITS", 0)))
        layers = _layers(document.modelspace(), SAG / (mm or 1.0), path.name)
    except InputError:
        raise
    except OSError as error:
        raise InputError("this is no drawing we can read", path.name, str(error)[:60], "Save it as DXF (R2000 or later).") from None
    except MemoryError:
        raise
    except Exception as error:  # the reader raises whatever it stumbles over
        raise InputError(
            "this DXF is damaged", path.name, str(error)[:60] or type(error).__name__, "Save it again as DXF (R2000 or later)."
        ) from None
    return drawing_of(layers, mm, path.name)


def _layers(entities: Iterable[Any], sag: float, name: str) -> dict[str, list[Array]]:
    """The curves (n, 2) of a drawing by layer, none farther than `sag` from what is drawn. Raises InputError for one that lies
    farther off than a hull can: it would take any number of points."""
    from ezdxf import path as paths

    layers: dict[str, list[Array]] = {}
    for entity in entities:
        if entity.dxftype() not in _CURVES:
            continue
        drawn = paths.make_path(entity)
        if not all(abs(p.x) < FARTHEST and abs(p.y) < FARTHEST for p in drawn.control_vertices()):
            raise too_far(name, str(entity.dxf.layer))
        points = np.array([(p.x, p.y) for p in drawn.flattening(sag)])
        if len(points) > 1:
            layers.setdefault(str(entity.dxf.layer), []).append(points)
    return layers
