"""A lines drawing as SVG: its curves by group, as those of a DXF by layer."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import svgelements

from ...core.errors import InputError
from ...core.geometry.arrays import Array
from .drawing import LARGEST_BYTES, LinesDrawing, drawing_of

PIXELS_AN_INCH = 96.0
"""Of SVG's own definition of a pixel (W3C, Scalable Vector Graphics 2, chapter 8.9)."""
ALONG_CURVE = 24
"""Points on each curved piece."""
_LABEL = "{http://www.inkscape.org/namespaces/inkscape}label"
_PAPER = re.compile(r"\d\s*(mm|cm|in|pt|pc|q)\s*$", re.I)


def read_svg(path: Path) -> LinesDrawing:
    """Read the curves of an SVG, y up: in mm of its paper, or in its own pixels where it names no paper. What one of them is on the
    hull it does not say. Raises InputError for a file that is none or holds none."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError("this drawing is too large", path.name, mend="Save only the lines plan in it.")
        root: Any = svgelements.SVG.parse(path, reify=True, ppi=PIXELS_AN_INCH)
        layers = _layers(root)
    except InputError:
        raise
    except OSError as error:
        raise InputError("this is no drawing we can read", path.name, str(error)[:60], "Save it as plain SVG.") from None
    except MemoryError:
        raise
    except Exception as error:  # the parser raises whatever it stumbles over
        raise InputError("this SVG is damaged", path.name, str(error)[:60], "Save it again as plain SVG.") from None
    return drawing_of(layers, None, path.name)


def _layers(root: Any) -> dict[str, list[Array]]:
    """The curves (n, 2) by what holds them."""
    on_paper = _PAPER.search(str(root.values.get("attributes", {}).get("width", "")))
    scale = 25.4 / PIXELS_AN_INCH if on_paper else 1.0
    layers: dict[str, list[Array]] = {}
    for name, shape in _shapes(root, ""):
        for curve in _curves(shape):
            layers.setdefault(name or "no name", []).append(curve * [scale, -scale])
    return layers


def _shapes(group: Any, name: str) -> Iterator[tuple[str, Any]]:
    """What is drawn, each with the name of the nearest named thing that holds it."""
    for element in group:
        own = element.values.get(_LABEL) or element.values.get("id") or name
        if isinstance(element, svgelements.Group):
            yield from _shapes(element, str(own))
        elif isinstance(element, svgelements.Shape):
            yield str(name or own), element


def _curves(shape: Any) -> Iterator[Array]:
    """The polylines (n, 2) of one shape."""
    for part in svgelements.Path(shape).as_subpaths():
        points: list[tuple[float, float]] = []
        for piece in svgelements.Path(part):
            if isinstance(piece, svgelements.Move):
                continue
            if isinstance(piece, svgelements.Line | svgelements.Close):
                ends = [p for p in (piece.start, piece.end) if p is not None]
                points += [(float(p[0]), float(p[1])) for p in ends]
            else:
                shares = np.linspace(0.0, 1.0, ALONG_CURVE + 1)
                points += [(float(p[0]), float(p[1])) for p in piece.npoint(shares)]
        curve = np.array(points).reshape(-1, 2)
        if len(curve) > 1 and np.all(np.isfinite(curve)):
            distinct = np.concatenate([[True], np.any(np.diff(curve, axis=0) != 0, axis=1)])
            if distinct.sum() > 1:
                yield curve[distinct]
