"""The sheer on the outside: along the hull, at one head, and the pattern of the camber."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.hull.camber import camber_across, crown_at
from ...core.job import Job, TrimSettings
from ...core.sheer.heads import SheerMark, SheerPlan
from ...core.sheer.rails import Rails
from ...core.units import LengthStyle, format_degrees, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Stroke, line

SHOWN_MM = 150.0
"""So much of the section below the mark is seen."""
ORDINATES_MM = 100.0
POINTS = 121
NUMBERED = 2


def sheer_line(plan: SheerPlan, style: LengthStyle, trim: TrimSettings) -> Drawing:
    """Every mark on the outside from starboard, and the line through them; its spacing of frames is typed where it stands."""
    if not plan.marks:
        return Drawing("The sheer", ())
    outside = np.array([[m.station, m.outside[1]] for m in plan.marks])
    inside = np.array([[m.station, m.inside[1]] for m in plan.marks])
    strokes = [Stroke(frozen(outside), Layer.SHEER_MARK), Stroke(frozen(inside), Layer.GHOST)]
    labels = []
    long = float(np.ptp(outside[:, 0]))
    tall = 0.02 * max(long, 1.0)
    for k, mark in enumerate(plan.marks):
        x, z = mark.station, float(mark.outside[1])
        layer = Layer.MOLD if mark.mold else Layer.TICK
        strokes.append(line((x, z - tall), (x, z + tall), layer=layer, key=mark_key(mark)))
        if mark.mold and k % NUMBERED == 0:
            text = f"{mark.of_mold}: {from_line(mark.outside_up, style)}"
            labels.append(Label((x, z + tall), text, Layer.NOTE, "middle", 1, key=mark_key(mark)))
    middle = (float(outside[:, 0].mean()), float(outside[:, 1].min()) - 3 * tall)
    words, every = ("frames every", format_length(trim.frames, style)) if trim.frames else ("frames", "none")
    labels.append(decided(middle, words, every, "trim.frames", anchor="middle", rise=-1))
    room = ((middle[0], middle[1] - 3 * tall),)
    return Drawing("The sheer, from the set-up line", tuple(strokes), tuple(labels), room=room)


def from_line(height: float, style: LengthStyle) -> str:
    """A height over the set-up line in words: so much above it or below it."""
    return f"{format_length(abs(height), style)} {side_of_line(height)}"


def side_of_line(height: float) -> str:
    """Which side of the set-up line a height over it is on."""
    return "above" if height >= 0 else "below"


def mark_key(mark: SheerMark) -> str:
    """The name by which a head is picked."""
    return f"head:{mark.name}"


def head_section(mark: SheerMark, skin: float, style: LengthStyle, trim: TrimSettings) -> Drawing:
    """One head from ahead, starboard: the outside of the skin, the mark inside and where it comes out."""
    section = mark.section[mark.section[:, 1] > float(mark.inside[1]) - SHOWN_MM]
    past = section[:, 1] <= float(max(mark.inside[1], mark.outside[1])) + SHOWN_MM / 4
    (y, z), (out_y, out_z) = mark.inside.tolist(), mark.outside.tolist()
    way = mark.outside - mark.inside
    far = mark.inside - way / max(float(np.hypot(*way)), 1e-9) * SHOWN_MM / 2
    strokes = [
        Stroke(frozen(section[past]), Layer.HULL),
        Stroke(frozen(np.array([far, mark.outside])), Layer.SHEER_MARK),
        line((y, z - SHOWN_MM / 3), (y, z), layer=Layer.MOLD),
    ]
    labels = [
        Label((y, z), f"inside: {from_line(mark.inside_up, style)}, {format_length(y, style)} out", Layer.NOTE, "right", 1),
        Label((out_y, out_z), f"outside: {from_line(mark.outside_up, style)}", Layer.NOTE, "left", -1, strong=True),
        Label((out_y, out_z - SHOWN_MM / 5), f"{format_length(mark.girth, style)} round from the keel", Layer.NOTE, "left", -1),
        Label(tuple(far.tolist()), f"falls {format_degrees(mark.slope)}", Layer.DIMENSION, "right", 0),
        decided(
            (y, z - SHOWN_MM / 2),
            "heads cut above the line by",
            format_length(trim.above, style.fine),
            "trim.above",
            anchor="right",
            rise=-1,
        ),
    ]
    return Drawing(f"{mark.name.capitalize()}: skin {format_length(skin, style)}", tuple(strokes), tuple(labels))


def camber_pattern(plan: SheerPlan, trim: TrimSettings, name: str, style: LengthStyle, molded: float = 0.0) -> Drawing:
    """The pattern of the camber at full size, over the widest beam, with how far it is below its crown every 100 mm off the
    centreline, and the lower edge of beams `molded` mm deep. In proportion every beam has its own: this is the widest one's."""
    beam = plan.beam
    crown = crown_at(beam, trim.crown, trim.crown_on or beam, trim.rule)
    both = camber_across(beam, crown, POINTS)
    strokes = [
        Stroke(frozen(both), Layer.MOLD),
        line((-beam / 2, 0.0), (beam / 2, 0.0), layer=Layer.GRID),
        line((0.0, 0.0), (0.0, crown), layer=Layer.CENTRELINE),
    ]
    labels = [
        Label(
            (0.0, 0.0),
            f"CAMBER · {name} · beam {format_length(beam, style)}, crown {format_length(crown, style)}",
            Layer.TITLE,
            rise=-1,
            strong=True,
        )
    ]
    if molded > 0:
        strokes.append(Stroke(frozen(both - np.array([0.0, molded])), Layer.OTHER_FACE))
        labels.append(Label((beam / 2, -molded), f"lower edge, {format_length(molded, style)} down", Layer.NOTE, "right", -1))
    for at in np.arange(ORDINATES_MM, beam / 2, ORDINATES_MM).tolist():
        high = crown * (1.0 - (2 * at / beam) ** 2)
        strokes.append(line((at, 0.0), (at, high), layer=Layer.TICK))
        text = f"{format_length(at, style)}: {format_length(crown - high, style.fine)} down"
        labels.append(Label((at, high), text, Layer.NOTE, "left", 1))
    return Drawing("Camber pattern", tuple(strokes), tuple(labels))


def rails_drawing(rails: Rails, job: Job, style: LengthStyle) -> Drawing:
    """The rails of one side from above, each with what springing it in takes."""
    strokes, labels = [], []
    for rail, layer in zip(rails.rails, (Layer.HULL, Layer.MOLD), strict=False):
        strokes.append(Stroke(frozen(rail.line[:, :2]), layer, key=f"rail:{rail.name}"))
        k = int(np.argmin(np.abs(rail.line[:, 0] - rail.behaviour.place)))
        words = f"{rail.name}: {format_length(rail.length, style)}, {rail.behaviour.grade.value}"
        rise = 1 if rail is rails.rails[0] else -1
        labels.append(Label(tuple(rail.line[k, :2].tolist()), words, Layer.NOTE, "middle", rise))
    middle = (float(rails.rails[0].line[:, 0].mean()), 0.0)
    own = job.trim
    labels += [
        decided(middle, "deep", format_length(own.rail_width, style), "trim.rail_width", anchor="right"),
        decided(middle, "thick", format_length(own.rail_thickness, style), "trim.rail_thickness", anchor="left"),
    ]
    return Drawing("Rails of one side, from above", tuple(strokes), tuple(labels), room=(middle,))
