"""A lines drawing as DXF: its curves by layer."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from ..core.errors import InputError
from ..core.geometry.arrays import Array
from .lines_drawing import LARGEST_BYTES, LinesDrawing, drawing_of

SAG = 0.02
"""Curves are followed to within this, in the drawing's own unit times its scale: mm once placed."""
_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
"""mm for one of the drawing's units, by the code in its header; 0 there means that it does not say."""
_CURVES = frozenset({"LINE", "LWPOLYLINE", "POLYLINE", "SPLINE", "ARC", "ELLIPSE", "CIRCLE"})


def read_dxf(path: Path) -> LinesDrawing:
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
    return drawing_of(layers, mm, path.name)
