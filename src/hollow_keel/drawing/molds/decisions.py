"""What the builder decides on a mold's drawing: dimensions that are typed, and rings that are dragged. On screen only."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from ...core.molds.stations import Mold
from ...core.results import Shape
from ...core.settings.mold_choices import MoldForm, StringerNotches
from ...core.settings.setup_choices import Strongback
from ...core.settings.veneers import veneered
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Ring, Stroke, line

LOW_SHARE = 0.3
"""The skin is named so far along the girth from the keel."""
OUT_MM = 45.0
TICK_MM = 7.0
CARRIED = {Layer.WATERLINE: "waterline", Layer.SPALL: "spall", Layer.SETUP_LINE: "set-up line"}
"""Lines that go with their ring, by what they are."""


@dataclass
class _More:
    """What comes to a drawing."""

    style: LengthStyle
    strokes: list[Stroke] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)
    rings: list[Ring] = field(default_factory=list)

    def say(
        self, at: tuple[float, float], words: str, value: float, path: str, anchor: str = "left", rise: int = 0, key: str = ""
    ) -> None:
        """A dimension that is typed where it stands."""
        number = format_length(value, self.style)
        self.labels.append(decided(at, words, number, path, Layer.DIMENSION, anchor, rise, key=key))

    def across(self, left: float, right: float, level: float) -> None:
        """A dimension line from left to right."""
        self.strokes.append(line((left, level), (right, level), layer=Layer.DIMENSION))
        self.strokes += [line((x, level - TICK_MM), (x, level + TICK_MM), layer=Layer.DIMENSION) for x in (left, right)]


def mold_decisions(drawing: Drawing, shape: Shape, mold: Mold, style: LengthStyle) -> Drawing:
    """A mold's drawing with what is decided on it."""
    more = _More(style)
    _skin(more, shape, mold)
    _waterline(more, shape, mold)
    _spall(more, shape, mold)
    _ring(more, shape, mold)
    _notch(more, shape, mold)
    _stringers(more, shape, mold)
    _legs(more, shape, mold)
    _beam(more, shape, mold)
    _set_up_line(more, shape, mold)
    strokes = tuple(replace(s, key=CARRIED[s.layer]) if s.layer in CARRIED else s for s in drawing.strokes)
    labels = tuple(text for text in drawing.labels if text.layer not in CARRIED)
    return replace(drawing, strokes=(*strokes, *more.strokes), labels=(*labels, *more.labels), rings=tuple(more.rings))


def _skin(more: _More, shape: Shape, mold: Mold) -> None:
    outside = shape.marks[mold.name].outside
    if len(outside):
        y, z = outside[round(LOW_SHARE * (len(outside) - 1))].tolist()
        job = shape.job
        words, path = ("skin, of the layers", "") if veneered(job) else ("skin", "molds.skin")
        more.say((y + 6, z - 6), words, job.molds.skin, path, rise=-1)


def _waterline(more: _More, shape: Shape, mold: Mold) -> None:
    if mold.edge.waterline is None:
        return
    y, z = mold.edge.waterline.tolist()
    at = (y + OUT_MM, z)
    more.strokes.append(line((y, z), at, layer=Layer.WATERLINE, key="waterline"))
    number = format_length(z, more.style)
    place = (at[0] + 12, z)
    more.labels.append(decided(place, "load waterline", number, "waterline", Layer.WATERLINE, rise=0, key="waterline"))
    more.rings.append(Ring(at, "waterline", z, (0.0, 1.0), moves="waterline"))


def _spall(more: _More, shape: Shape, mold: Mold) -> None:
    spall = shape.marks[mold.name].spall
    above = shape.job.molds.spall_above
    if spall is None or above is None:
        return
    z, y = spall
    side = 0.0 if shape.pieces[mold.name].half else -y
    at = (side - OUT_MM, z) if side else (y * 0.5, z)
    more.strokes.append(line((side, z), at, layer=Layer.SPALL, key="spall"))
    number = format_length(above, more.style)
    wide = format_length(2 * y, more.style)
    place, anchor = (at[0] - 12, z), "right" if side else "middle"
    after = f" above the waterline, {wide} edge to edge"
    more.labels.append(decided(place, "cross spall", number, "molds.spall_above", Layer.SPALL, anchor, 0, key="spall", after=after))
    more.rings.append(Ring(at, "molds.spall_above", above, (0.0, 1.0), moves="spall"))


def _ring(more: _More, shape: Shape, mold: Mold) -> None:
    """How wide a ring is, shown where its inner edge crosses the centreline."""
    molds, piece = shape.job.molds, shape.pieces[mold.name]
    if molds.form is not MoldForm.RING or piece.half or not len(piece.outline):
        return
    keel = float(mold.edge.keel[1])
    inner = keel + molds.ring_width
    more.strokes.append(line((0.0, keel), (0.0, inner), layer=Layer.DIMENSION))
    more.say((14.0, (keel + inner) / 2), "ring", molds.ring_width, "molds.ring_width")
    more.rings.append(Ring((0.0, inner), "molds.ring_width", molds.ring_width, (0.0, 1.0), low=10.0))


def _notch(more: _More, shape: Shape, mold: Mold) -> None:
    """The notch at the foot: for the inner stem where the mold stands over it, else for keel or hog."""
    molds = shape.job.molds
    stem = mold.on_stem and molds.stem_width > 0
    what, path = ("stem", "molds.stem_") if stem else ("keel", "molds.notch_")
    width, depth = (molds.stem_width, molds.stem_depth) if stem else (molds.notch_width, molds.notch_depth)
    if width <= 0:
        return
    half, keel = width / 2, float(mold.edge.keel[1])
    level = keel - 30.0
    left = 0.0 if shape.pieces[mold.name].half else -half
    more.across(left, half, level)
    more.say((0.0, level - 6), f"{what} notch, wide", width, f"{path}width", "middle", -1)
    more.rings.append(Ring((half, level), f"{path}width", width, (1.0, 0.0), per=2.0, low=2.0))
    if depth > 0:
        top = keel + depth
        more.say((half + 8, top), "deep", depth, f"{path}depth", "left", 1)
        more.rings.append(Ring((0.0, top), f"{path}depth", depth, (0.0, 1.0), low=0.5))


def _stringers(more: _More, shape: Shape, mold: Mold) -> None:
    """Where stringers come on the edge, and how wide and deep their notches are, at the first of them. They are dragged along the
    edge where they are put at a share of its own girth: elsewhere wood goes its own way."""
    own = shape.job.inside
    forced = shape.job.molds.stringer_notches is StringerNotches.SHARE
    shares, order = sorted(own.stringers), sorted(range(len(own.stringers)), key=own.stringers.__getitem__)
    for k, notch in enumerate(shape.stringers.notches.get(mold.name, ())):
        inward = np.array([-notch.along[1], notch.along[0]])
        number = notch.number - 1
        path, place = f"inside.stringers.{order[number]}", tuple((notch.at - 14 * inward).tolist())
        share = shares[number]
        after = " % of the girth" if forced else " % of the girth amidships"
        more.labels.append(decided(place, "stringer", f"{100 * share:g}", path, rise=0, after=after))
        if forced:
            track = mold.edge.points
            more.rings.append(Ring(tuple(notch.at.tolist()), path, share, (0.0, 0.0), low=0.01, high=0.99, track=track))
        if k == 0:
            wide, deep = own.stringer_width, own.stringer_thickness
            mouth, floor = notch.at + notch.wide / 2 * notch.along, notch.at + notch.deep * inward
            more.say(tuple((mouth - 14 * inward).tolist()), "wide", wide, "inside.stringer_width", rise=1)
            more.say(tuple((floor + 10 * inward).tolist()), "deep", deep, "inside.stringer_thickness", "right")
            way, into = tuple(notch.along.tolist()), tuple(inward.tolist())
            more.rings.append(Ring(tuple(mouth.tolist()), "inside.stringer_width", wide, way, per=2.0, low=2.0))
            more.rings.append(Ring(tuple(floor.tolist()), "inside.stringer_thickness", deep, into, low=0.5))


def _legs(more: _More, shape: Shape, mold: Mold) -> None:
    stand, setup = shape.marks[mold.name].stand, shape.job.setup
    if stand is None or stand.outside <= 0:
        return
    level = stand.level + 26.0
    left = 0.0 if shape.pieces[mold.name].half else -stand.outside
    more.across(left, stand.outside, level)
    middle = (left + stand.outside) / 2
    if abs(2 * stand.outside - setup.leg_spread) < 0.5:
        more.say((middle, level), "legs, over all", setup.leg_spread, "setup.leg_spread", "middle", 1)
        more.rings.append(
            Ring((stand.outside, level), "setup.leg_spread", setup.leg_spread, (1.0, 0.0), per=2.0, low=2 * setup.leg_width)
        )
    wide = stand.outside - stand.inside
    if abs(wide - setup.leg_width) < 0.5:
        low = stand.level - 0.35 * (stand.level - float(mold.edge.sheer[1]))
        more.strokes.append(line((stand.inside, low), (stand.outside, low), layer=Layer.DIMENSION))
        more.say((stand.inside - 10, low), "leg", setup.leg_width, "setup.leg_width", "right")
        more.rings.append(
            Ring((stand.inside, low), "setup.leg_width", setup.leg_width, (-1.0, 0.0), low=10.0, high=max(stand.outside - 1, 10.0))
        )


def _beam(more: _More, shape: Shape, mold: Mold) -> None:
    from ...core.setup.beam import beam_bottom

    setup = shape.job.setup
    if setup.strongback is not Strongback.BEAM or not shape.pieces[mold.name].holes:
        return
    low = beam_bottom(setup, shape.setup.beam_level)
    half = setup.beam_width / 2
    top = low + setup.beam_height
    middle = low + setup.beam_height / 2
    more.say((half + setup.beam_clearance + 12, middle), "beam, wide", setup.beam_width, "setup.beam_width")
    more.say((half + setup.beam_clearance + 12, middle - 34), "beam, high", setup.beam_height, "setup.beam_height")
    more.rings.append(Ring((half, middle), "setup.beam_width", setup.beam_width, (1.0, 0.0), per=2.0, low=10.0))
    far = (top, 1.0) if abs(shape.setup.beam_level - low) < 1e-6 else (low, -1.0)
    more.rings.append(Ring((0.0, far[0]), "setup.beam_height", setup.beam_height, (0.0, far[1]), low=10.0))


def _set_up_line(more: _More, shape: Shape, mold: Mold) -> None:
    """Where the strongback's upper face comes, and how far the load waterline is from it."""
    level = shape.setup.beam_level
    outline = shape.pieces[mold.name].outline
    half = float(np.max(outline[:, 0]))
    beam = shape.job.setup.strongback is Strongback.BEAM
    begins = shape.job.setup.beam_width / 2 if beam else 0.5 * half
    at = (half + 1.4 * OUT_MM, level)
    more.strokes.append(line((begins, level), at, layer=Layer.SETUP_LINE, key="set-up line"))
    more.strokes.append(line((at[0] - 12, shape.waterline), (at[0] - 12, level), layer=Layer.DIMENSION))
    value = shape.setup.waterline_above
    words, path = "waterline above the strongback", "setup.waterline_above"
    number = format_length(value, more.style)
    place = (at[0] + 12, level)
    more.labels.append(decided(place, words, number, path, Layer.SETUP_LINE, rise=0, key="set-up line"))
    way = -1.0 if shape.setup.upright else 1.0
    more.rings.append(Ring(at, path, value, (0.0, way), moves="set-up line"))
