"""Drawings as SVG at full size: one user unit is one millimetre."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape

from ...drawing.model import NOTE_MM, STRONG_MM, Drawing, Layer, Stroke
from .sheet import INKS, Ink

GAP_MM = 40.0
_ANCHORS = {"left": "start", "middle": "middle", "right": "end"}


def drawings_svg(drawings: Sequence[Drawing]) -> str:
    """All drawings beside each other, each in a group of its own, its lines in groups by what they are for."""
    parts: list[str] = []
    along, high = 0.0, 0.0
    for drawing in drawings:
        left, bottom, right, top = drawing.bounds()
        parts.append(f'<g id="{_name(drawing.title)}">')
        parts += [_stroke(s, along - left, top) for s in drawing.strokes]
        for text in drawing.labels:
            size = STRONG_MM if text.strong else NOTE_MM
            down = {-1: 1.1 * size, 0: 0.35 * size, 1: -0.5 * size}[text.rise]
            parts.append(
                f'<text x="{text.at[0] + along - left:.3f}" y="{top - text.at[1] + down:.3f}" font-size="{size:g}" '
                f'font-family="sans-serif" text-anchor="{_ANCHORS[text.anchor]}">{escape(text.text)}</text>'
            )
        parts.append("</g>")
        along += right - left + GAP_MM
        high = max(high, top - bottom)
    wide = max(along - GAP_MM, 1.0)
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide + 20:.3f}mm" height="{high + 20:.3f}mm" '
        f'viewBox="-10 -10 {wide + 20:.3f} {high + 20:.3f}">'
    )
    return "\n".join(['<?xml version="1.0" encoding="UTF-8"?>', head, *parts, "</svg>"]) + "\n"


def _stroke(stroke: Stroke, right: float, top: float) -> str:
    ink = INKS.get(stroke.layer, Ink())
    points = " ".join(f"{x + right:.3f},{top - y:.3f}" for x, y in stroke.points.tolist())
    kind = "polygon" if stroke.closed else "polyline"
    colour = "#c00000" if stroke.layer in (Layer.MOLD, Layer.HOLE) else "#000000"
    dash = f' stroke-dasharray="{" ".join(f"{d:g}" for d in ink.dash)}"' if ink.dash else ""
    return (
        f'<{kind} class="{stroke.layer.value}" points="{points}" fill="none" stroke="{colour}" stroke-width="{ink.width:g}"{dash}/>'
    )


def _name(title: str) -> str:
    return "".join(c if c.isalnum() else "-" for c in title.lower())
