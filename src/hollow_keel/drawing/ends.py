"""Outer stems, the keel strip and a transom of planks, each at full size."""

from __future__ import annotations

import numpy as np

from ..core.ends.outer import OuterStem
from ..core.ends.planks import TransomPlanks
from ..core.geometry.arrays import frozen, rows_at
from ..core.geometry.polyline import runs_along
from ..core.job import Job
from ..core.units import LengthStyle, format_degrees, format_length
from .decided import decided
from .model import Drawing, Label, Layer, Stroke, line

NUMBERED = 3
ROOM_MM = 60.0


def outer_stem_drawing(stem: OuterStem, job: Job, style: LengthStyle) -> Drawing:
    """An outer stem in profile: rabbet, let-in back edge, front edge, and how wide it is let in at each height."""
    own = job.outer
    strokes = [
        Stroke(frozen(np.concatenate([stem.back, stem.front[::-1]])), Layer.MOLD, closed=True, filled=True),
        Stroke(stem.rabbet, Layer.GHOST),
    ]
    labels = []
    along = runs_along(stem.back)
    side = "left" if not stem.stern else "right"
    for k, place in enumerate(stem.places):
        at = np.array([place.along])
        back, front = rows_at(at, along, stem.back)[0], rows_at(at, along, stem.front)[0]
        strokes.append(Stroke(frozen([back, front]), Layer.TICK))
        if k % NUMBERED == 0:
            words = f"let in {format_length(place.back, style.fine)}, sides {format_degrees(place.side)}"
            labels.append(Label((float(back[0]), float(back[1])), words, Layer.NOTE, side, 0))
    foot, head = stem.front[0], stem.front[-1]
    other = "right" if side == "left" else "left"
    labels += [
        decided(
            (float(head[0]), float(head[1])),
            "face at the head",
            format_length(own.face_head, style),
            "outer.face_head",
            anchor=other,
        ),
        decided(
            (float(foot[0]), float(foot[1])),
            "face at the foot",
            format_length(own.face_foot, style),
            "outer.face_foot",
            anchor=other,
            rise=-1,
        ),
        decided(
            tuple(stem.front[len(stem.front) // 2].tolist()),
            "deep",
            format_length(own.molded, style),
            "outer.molded",
            anchor=other,
            rise=0,
        ),
        decided(
            tuple(stem.back[len(stem.back) // 3].tolist()),
            "let in",
            format_length(own.let_in, style),
            "outer.let_in",
            anchor=side,
            rise=0,
        ),
    ]
    made = stem.lamination
    each, long = format_length(made.thickness, style.fine), format_length(made.length, style)
    text = f"OUTER STEM · {job.name} · {made.count} of {each}, {long} long"
    middle = stem.back[len(stem.back) // 2]
    shift = ROOM_MM if side == "left" else -ROOM_MM
    labels.append(Label((float(middle[0]) + shift, float(stem.back[:, 1].max())), text, Layer.TITLE, side, 1, strong=True))
    level = float(middle[1])
    left, right = (float(end(np.concatenate([stem.front[:, 0], stem.back[:, 0]]))) for end in (np.min, np.max))
    room = ((left - ROOM_MM, level), (right + ROOM_MM, level))
    return Drawing("Outer stem", tuple(strokes), tuple(labels), room=room)


def planks_drawing(planks: TransomPlanks, job: Job, style: LengthStyle) -> Drawing:
    """A transom from outside with its joints; the outline is the larger of both faces, for bevelling."""
    if not len(planks.outline):
        return Drawing("The transom", ())
    outline = planks.outline
    strokes = [Stroke(outline, Layer.MOLD, closed=True)]
    labels = []
    half = float(outline[:, 0].max())
    for plank in planks.planks:
        if plank.joint:
            strokes.append(
                line(
                    (-plank.joint / 2, plank.high),
                    (plank.joint / 2, plank.high),
                    layer=Layer.SHEER_MARK,
                    key=f"plank:{plank.number}",
                )
            )
        middle = (plank.low + plank.high) / 2
        heart = "aft" if plank.heart_aft else "forward"
        wide, long = (format_length(value, style) for value in (plank.width, plank.length))
        words = f"{plank.number}: {wide} wide, {long} long, heart {heart}"
        labels.append(Label((0.0, middle), words, Layer.NOTE, "middle", 0, key=f"plank:{plank.number}"))
    bottom = float(outline[:, 1].min())
    most = format_length(job.outer.plank, style) if job.outer.plank else "as boards on hand"
    labels += [
        decided((-half, bottom), "planks at most", most, "outer.plank", anchor="left", rise=-1),
        decided((half, bottom), "joints clear by", format_length(job.outer.clear, style), "outer.clear", anchor="right", rise=-1),
        decided(
            (0.0, float(outline[:, 1].max())),
            "left over at the head",
            format_length(job.outer.head_waste, style),
            "outer.head_waste",
            anchor="middle",
            rise=1,
        ),
    ]
    return Drawing(f"The {planks.name} of planks, from outside", tuple(strokes), tuple(labels), room=((0.0, bottom - ROOM_MM / 2),))
