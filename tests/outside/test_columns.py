"""Every column of every list of figures, got in a second way: from points on the hull, from sums by hand, from the other rows, or
from what the list is made of, never from the list. A writer that exchanges two columns, halves one or forgets a unit fails here,
and so does a column that has no second way."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Callable, Mapping, Sequence
from functools import cache
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
import shapely

from hollow_keel.app.exports import export_named
from hollow_keel.app.overrides import apply_override
from hollow_keel.core.change import change
from hollow_keel.core.deck.strip_stages import DECK_BEHAVIOURS, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS
from hollow_keel.core.job import Job
from hollow_keel.core.molds.end_stages import STEM_BEVELS
from hollow_keel.core.molds.shape import Face
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.end_cuts import EndCut
from hollow_keel.core.planking.stages import BEHAVIOURS, PLANKING, STRIP_ENDS, TICKS
from hollow_keel.core.planking.strips import Strip
from hollow_keel.core.results import Results
from hollow_keel.core.settings.setup_choices import HullEnd
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.units import MM_PER_INCH
from hollow_keel.core.veneers.stages import FORM, LAYERS, LAYING
from hollow_keel.demo.jobs import demo_job

IN_MM = {"mm": 1.0, "m": 1000.0, "in": MM_PER_INCH, "ft": 12 * MM_PER_INCH}
KG_PER_LB, M2_PER_YD2 = 0.45359237, 0.9144**2  # exact, international agreement of 1959
AMOUNTS = {"g": 1.0, "lb": KG_PER_LB, "kg": 1.0, "m²": 1.0, "sq yd": M2_PER_YD2, "deg": 1.0, "degrees": 1.0, "deg/m": 1.0, "N": 1.0}
NAMES = {"stem_bow": "stem", "stem_stern": "sternpost"}
LITRES = {"l": 1.0, "gal": 3.785411784, "fl oz": 3.785411784 / 128, "ft": 0.3048, "m": 1.0}  # US gallon of 231 cubic inches
Column = Sequence[float | str | None]
Rows = Sequence[Sequence[str]]
Truth = Callable[[Results, Rows], Mapping[str, Column]]
"""What columns have to say, of the results and of the rows as they are written."""


def boat(name: str) -> Job:
    """The demo's boats; with ribbands, tapered strips, a table, rails, from the stern, as asked for after a slash."""
    own, _, more = name.partition("/")
    job = demo_job(own)
    if more == "tapered":
        job = apply_override(job, "strip.layout", "tapered")
    if more == "ribbands":
        job = apply_override(job, "form.kind", "ribbands")
    if more == "off":
        job = change(job, "deck", openings=tuple(o.model_copy(update={"off": 60.0}) for o in job.deck.openings))
    if more == "bought":
        for_sale = {board.wood for board in job.stock.buying.for_sale}
        kept = tuple(board for board in job.stock.boards if board.wood not in for_sale)
        job = job.model_copy(update={"stock": job.stock.model_copy(update={"boards": kept})})
    if more == "stern":
        job = apply_override(apply_override(job, "setup.zero_end", "stern"), "molds.spall_above", "120")
        job = apply_override(job, "setup.strongback", "table")
    if more == "rails":
        job = apply_override(apply_override(job, "setup.strongback", "rails"), "setup.upright", "yes")
    return job


@cache
def worked(name: str, unit: str, kind: str) -> tuple[Results, list[list[str]]]:
    """A boat's results and the rows of an export, in a unit."""
    step = {"mm": "0.1", "in": "0.01"}[unit]
    job = apply_override(apply_override(boat(name), "units.unit", unit), "units.step", step)
    export = export_named(kind)
    results = Pipeline().results(job, export.needs, glad_of=export.glad_of)
    return results, list(csv.reader(io.StringIO(export.write(results).decode())))


def along(points: Any) -> float:
    """How long a line through points is."""
    return float(np.linalg.norm(np.diff(np.asarray(points), axis=0), axis=1).sum())


def edge_length(pieces: Sequence[Any]) -> float:
    """How long an edge is, through its points."""
    return sum(along(piece.points) for piece in pieces)


def end_of(name: str) -> str:
    """An end as a builder says it."""
    return NAMES.get(name, name)


# -- strips ------------------------------------------------------------------------------------------------------------------------


def strips(results: Results, _rows: Rows) -> Mapping[str, Column]:
    job, own = results.job, results[PLANKING].strips
    behave, ends, ticks = results[BEHAVIOURS], results[STRIP_ENDS], results[TICKS]

    def cuts(strip: Strip) -> tuple[EndCut | None, EndCut | None]:
        return ends[strip.number].cuts

    def most(strip: Strip, which: int) -> float:
        return max(float(np.abs(p.curvatures[:, which]).max()) for p in (*strip.far, *strip.near))

    tapered = job.strips.layout.value != "parallel"
    widths = {f"width at mold {name}": {row.number: row.width for row in rows} for name, rows in ticks.items()} if tapered else {}
    allowed = 2 * job.strips.allowance
    return {
        "strip": list(range(1, len(own) + 1)),
        "length": [s.length for s in own],
        "guide edge": [edge_length(s.near) for s in own],
        "far edge": [edge_length(s.far) for s in own],
        "pieces": [len(s.far) or len(s.near) for s in own],
        "forward end": [end_of(s.starts) for s in own],
        "after end": [end_of(s.ends) for s in own],
        "narrowest": [s.width_min for s in own],
        "widest": [s.width_max for s in own],
        "tightest edge-set radius": [1 / s.max_edge_set if s.max_edge_set > 1e-8 else "straight" for s in own],
        "tightest bend radius": [1 / s.max_bend if s.max_bend > 1e-8 else "straight" for s in own],
        "most twist": [math.degrees(s.max_twist) * 1000 for s in own],
        "course": [s.course.value for s in own],
        "side": ["both"] * len(own),
        "cut to": [s.length + allowed + sum(ends[s.number].past) for s in own],
        "wood": [behave[s.number].wood for s in own],
        "goes on": [behave[s.number].grade.value for s in own],
        "push": [behave[s.number].push for s in own],
        "forward cut": [None if (cut := cuts(s)[0]) is None else cut.across for s in own],
        "forward bevel": [None if (cut := cuts(s)[0]) is None else cut.bevel for s in own],
        "after cut": [None if (cut := cuts(s)[1]) is None else cut.across for s in own],
        "after bevel": [None if (cut := cuts(s)[1]) is None else cut.bevel for s in own],
        "second side shorter": [None] * len(own),
        **{name: [at.get(s.number) for s in own] for name, at in widths.items()},
    }


def ticks(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """Down from the sheer is measured along the mold's edge, as it is drawn, to the place nearest the strip's lower edge."""
    shape = results.shape
    found: dict[str, list[Any]] = {h: [] for h in HEADS_OF_TICKS}
    for mold in shape.molds.molds:
        edge = shapely.LineString(mold.edge.points[::-1])
        for row in results[TICKS][mold.name]:
            far = shapely.Point(row.far[1:])
            skin = far.distance(edge)
            down = edge.project(far)
            assert skin < 3 * results.job.molds.skin + 1, "the edge lies on the hull, the mold within it"
            bevel = None if row.bevel is None else math.degrees(row.bevel)
            for head, value in zip(
                HEADS_OF_TICKS, (mold.name, row.number, down, row.width, bevel, row.planed, "" if row.full else "cut"), strict=True
            ):
                found[head].append(value)
    return found


HEADS_OF_TICKS = ("mold", "strip", "lower edge down from sheer", "width here", "bevel to next", "planed off", "cut")


# -- deck --------------------------------------------------------------------------------------------------------------------------


def deck(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """What openings take of a strip of a side is told by its cuts; a half-breadth to starboard is positive."""
    own, behave, ends = results[DECK_PLAN].planking.strips, results[DECK_BEHAVIOURS], results[DECK_STRIP_ENDS]
    out: dict[tuple[int, str], float] = {}
    for made in results[DECK_OPENINGS].openings:
        for cut in made.cut_short:
            out[cut.strip, cut.side] = out.get((cut.strip, cut.side), 0.0) + cut.saved

    def across(strip: Strip, end: int) -> float | None:
        cut = ends[strip.number][end]
        return None if cut is None else cut.across

    def long(strip: Strip, end: int) -> float | None:
        angle = across(strip, end)
        return None if angle is None else strip.width_max / math.sin(math.radians(angle))

    return {
        "strip": list(range(1, len(own) + 1)),
        "length": [s.length for s in own],
        "outer or guide edge": [edge_length(s.near) for s in own],
        "far edge": [edge_length(s.far) for s in own],
        "forward end": [end_of(s.starts) for s in own],
        "after end": [end_of(s.ends) for s in own],
        "narrowest": [s.width_min for s in own],
        "widest": [s.width_max for s in own],
        "forward cut": [across(s, 0) for s in own],
        "forward cut long": [long(s, 0) for s in own],
        "after cut": [across(s, 1) for s in own],
        "after cut long": [long(s, 1) for s in own],
        "left out for openings, port": [out.get((s.number, "port")) for s in own],
        "left out for openings, starboard": [out.get((s.number, "starboard")) for s in own],
        "wood": [behave[s.number].wood for s in own],
        "goes on": [behave[s.number].grade.value for s in own],
    }


# -- set-up ------------------------------------------------------------------------------------------------------------------------


def marks(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """From the molds' own faces and points, the settings, and the hull's after end."""
    shape, job = results.shape, results.job
    own = job.setup
    stern = own.zero_end is HullEnd.STERN
    molds = sorted(shape.molds.molds, key=lambda m: m.station, reverse=stern)
    after = max(float(p.surface.grid[-1, :, 0].max()) for p in shape.hull.panels)
    above = shape.setup.waterline_above

    def up(height: float) -> float:
        """Above the strongback, as the hull stands on it."""
        return above + (height - shape.waterline if own.upright else shape.waterline - height)

    def body(mold: Any) -> tuple[float, float]:
        aft = mold.face is Face.FORWARD
        ends = (mold.station, mold.station + mold.thickness) if aft else (mold.station - mold.thickness, mold.station)
        return ends

    gaps = [max(body(a)[0], body(b)[0]) - min(body(a)[1], body(b)[1]) for a, b in pairwise(molds)]
    table = own.strongback.value != "beam"
    tops = [max(float(m.edge.points[:, 1].max()), m.top) for m in molds]
    spall = job.molds.spall_above
    half = [float(m.edge.points[-1, 0]) for m in molds]
    return {
        "mold": [m.name for m in molds],
        "from zero": [after - m.station if stern else m.station for m in molds],
        "face on the mark": [m.face.value for m in molds],
        "lies towards": ["stern" if body(m)[1] > m.station else "bow" for m in molds],
        "spacing": [*(abs(b.station - a.station) for a, b in pairwise(molds)), None],
        "gap to next": [*gaps, None],
        "waterline above": [above] * len(molds),
        "keel above": [up(float(m.edge.points[0, 1])) for m in molds],
        "sheer above": [up(float(m.edge.points[-1, 1])) for m in molds],
        "leg": [up(top) if table and not own.upright else None for top in tops],
        "past each rail": [h - own.rail_spread / 2 if own.strongback.value == "rails" else None for h in half],
        "cross spall above": [None if spall is None else up(shape.waterline + spall)] * len(molds),
        "post under keel": [up(float(m.edge.points[0, 1])) if table and own.upright else None for m in molds],
        "highest above floor": [
            own.top + own.castors + max(up(float(m.edge.points[0, 1])), up(top)) for m, top in zip(molds, tops, strict=True)
        ],
    }


# -- molds -------------------------------------------------------------------------------------------------------------------------


def pricks(results: Results, rows: Rows) -> Mapping[str, Column]:
    """Read again as they stand: every point lies on the mold's edge, and the line through them strays from it by a hair."""
    scale = IN_MM[rows[0][2].rpartition("(")[2].rstrip(")")]
    found: dict[str, list[Any]] = {"mold": [], "point": [], "half-breadth": [], "height": [], "what": []}
    by_mold = {m.name: [r for r in rows[1:] if r[0] == m.name] for m in results.shape.molds.molds}
    for mold in results.shape.molds.molds:
        edge = shapely.LineString(mold.edge.points)
        told = [r for r in by_mold[mold.name] if r[1]]
        line = shapely.LineString([(float(r[2]) * scale, float(r[3]) * scale) for r in told])
        assert line.hausdorff_distance(edge) < 0.3
        for k, row in enumerate(told):
            at = edge.interpolate(edge.project(shapely.Point(float(row[2]) * scale, float(row[3]) * scale)))
            ends = {0: "keel", len(told) - 1: "sheer"}
            for head, value in zip(found, (mold.name, k + 1, at.x, at.y, ends.get(k, "")), strict=True):
                found[head].append(value)
        line = shapely.LineString([(0.0, results.shape.waterline), (9e3, results.shape.waterline)])
        for cut in shapely.get_coordinates(edge.intersection(line)):
            for head, value in zip(found, (mold.name, "", cut[0], cut[1], "load waterline"), strict=True):
                found[head].append(value)
    return found


def calls(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """The bevel at a place of the edge, between its points; across the sheet it is that of a triangle."""
    found: dict[str, list[Any]] = {h: [] for h in HEADS_OF_CALLS}
    for mold in results.shape.molds.molds:
        run = np.concatenate([[0.0], np.linalg.norm(np.diff(mold.edge.points, axis=0), axis=1).cumsum()])
        for call in results.shape.marks[mold.name].bevels:
            angle = abs(float(np.interp(call.along, run, np.degrees(mold.standing))))
            assert call.called == pytest.approx(angle, abs=0.5)
            across = mold.thickness * math.tan(math.radians(angle))
            sense = "square" if call.called == 0 else "standing" if call.degrees > 0 else "under"
            for head, value in zip(HEADS_OF_CALLS, (mold.name, call.along, call.called, sense, across), strict=True):
                found[head].append(value)
    return found


HEADS_OF_CALLS = ("mold", "from the keel along the edge", "bevel", "seen from the reference face", "across the sheet")


def stem(results: Results, _rows: Rows) -> Mapping[str, Column]:
    rows = [("stern" if s.stern else "bow", *b) for s in results[STEM_BEVELS] for b in s.bevels]
    return {
        "stem": [r[0] for r in rows],
        "position": [r[1] for r in rows],
        "height": [r[2] for r in rows],
        "bevel": [math.degrees(r[3]) for r in rows],
    }


# -- veneers -----------------------------------------------------------------------------------------------------------------------


def veneers(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """From the flat shapes, whose straight edge lies on y = 0."""
    own = [(p, v) for p in results[LAYERS] for v in p.veneers]
    return {
        "layer": [p.number for p, _ in own],
        "veneer": [k + 1 for p in results[LAYERS] for k in range(len(p.veneers))],
        "laid first": ["yes" if v.number == p.first else "" for p, v in own],
        "length": [float(np.ptp(v.flat[:, 0])) for _, v in own],
        "piece wide": [float(v.flat[:, 1].max()) for _, v in own],
        "narrowest": [v.least for _, v in own],
        "starts on": [end_of(v.starts) for _, v in own],
        "ends on": [end_of(v.ends) for _, v in own],
        "flat shape within": [v.off for _, v in own],
        "wood": [results.job.veneers.layers[p.number - 1].wood for p, _ in own],
        "thick": [results.job.veneers.layers[p.number - 1].thickness for p, _ in own],
    }


def spiling(results: Results, _rows: Rows) -> Mapping[str, Column]:
    rows = [(p.number, v.number, x, y) for p in results[LAYERS] for v in p.veneers for x, y in v.spiling.tolist()]
    heads = ("layer", "veneer", "along the straight edge", "wide")
    return {head: [row[k] for row in rows] for k, head in enumerate(heads)}


def laying(results: Results, _rows: Rows) -> Mapping[str, Column]:
    takes = results[LAYING].layers
    return {
        "layer": [k + 1 for k in range(len(takes))],
        "veneers": [2 * len(p.veneers) for p in results[LAYERS]],
        "glue": [t.glue if results.job.units.told_in.value == "metric" else t.glue / 1000 for t in takes],
        "staples": [t.staples for t in takes],
        "staples out again": [t.pulled for t in takes],
        "scrap strips": [t.scrap for t in takes],
        "bag": [t.bag for t in takes],
        "hours of two": [t.hours for t in takes],
        "sheets": [t.sheets for t in takes],
        "joints": [t.joints for t in takes],
        "used of the sheets": [t.used for t in takes],
        "weight": [t.weight for t in takes],
    }


def ribbands(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """From the sheer and from the keel make up the mold's edge."""
    rows = [(r, c) for r in results[FORM].ribbands for c in r.crossings]
    girths = {m.name: along(m.edge.points) for m in results[MOLDS].molds}
    for _, c in rows:
        assert c.from_keel + c.from_sheer == pytest.approx(girths[c.mold], rel=0.02)
    return {
        "ribband": [r.number for r, _ in rows],
        "length": [r.length for r, _ in rows],
        "of sticks": [r.pieces for r, _ in rows],
        "goes on": [r.behaviour.grade.value for r, _ in rows],
        "sheer": ["on it" if r.at_sheer else "past it" if r.past_sheer else "" for r, _ in rows],
        "mold": [c.mold for _, c in rows],
        "from keel": [c.from_keel for _, c in rows],
        "from sheer": [c.from_sheer for _, c in rows],
        "lies": [r.lies for r, _ in rows],
    }


# -- stock -------------------------------------------------------------------------------------------------------------------------


def pieces(results: Results, _rows: Rows) -> Mapping[str, Column]:
    """Pieces of a strip reach from its forward end to its after one: what joints take is doubled."""
    plan = results[STOCK]
    assert plan.plan is not None
    lengths = {(n.strip, n.side, n.part): n for n in plan.needs}
    found: dict[str, list[Any]] = {h: [] for h in HEADS_OF_PIECES}
    for strip, done in plan.plan.strips:
        need = lengths[strip.strip, strip.side, strip.part]
        scarf = plan.joint.lost
        assert sum(p.length for p in strip.pieces) == pytest.approx(need.length + scarf * len(strip.joints), abs=0.5)
        for k, piece in enumerate(strip.pieces):
            joint = sum(p.length for p in strip.pieces[: k + 1]) - scarf * (k + 0.5) if k < len(strip.joints) else None
            told = (str(strip.strip), strip.side, strip.part + 1, k + 1, len(strip.pieces), piece.stick, piece.length, joint)
            for head, value in zip(HEADS_OF_PIECES, (*told, need.section.wood, "yes" if done else ""), strict=True):
                found[head].append(value)
    return found


HEADS_OF_PIECES = (
    *("strip", "side", "part", "piece", "of", "from stick", "cut to", "joint after it from forward end", "wood", "cut already"),
)


def buying(results: Results, rows: Rows) -> Mapping[str, Column]:
    """Amounts in metric units; what a board costs together is its price as often as it is bought."""
    plan, money = results[STOCK], results.job.stock.buying.currency
    lots, items = plan.purchases, plan.items
    empty: list[Any] = [None] * len(items)
    told = rows[1 + len(lots) :]
    for row, item in zip(told, items, strict=True):
        assert float(row[1]) * LITRES.get(row[2], AMOUNTS.get(row[2], 1.0)) == pytest.approx(item.amount, rel=0.03, abs=0.5), row
    for row, lot in zip(rows[1:], lots, strict=False):
        sizes = [float(size) for size in row[0].partition(":")[2].rpartition(",")[0].split("×")]
        scale = 1.0 if results.job.units.unit.value == "mm" else MM_PER_INCH
        assert [size * scale for size in sizes] == pytest.approx([lot.board.thickness, lot.board.width, lot.board.length], abs=0.3)
        assert row[0].startswith(f"board {lot.mark}: ")
        assert row[0].endswith(lot.section.wood)
    return {
        "what": [*(row[0] for row in rows[1 : 1 + len(lots)]), *(i.what for i in items)],
        "amount": [*(lot.count for lot in lots), *(row[1] for row in told)],
        "unit": [*([""] * len(lots)), *(row[2] for row in told)],
        f"each {money}": [*(lot.board.price for lot in lots), *empty],
        f"together {money}": [*(lot.board.price * lot.count for lot in lots), *empty],
        "reckoned with": [row[5] for row in rows[1:]],
    }


# -- all of them -------------------------------------------------------------------------------------------------------------------

TRUTHS: Mapping[str, tuple[Truth, tuple[str, ...]]] = {
    "strips-csv": (strips, ("linnet", "pipit/tapered")),
    "ticks-csv": (ticks, ("linnet", "pipit")),
    "deck-csv": (deck, ("teasel", "teasel/off")),
    "setup-csv": (marks, ("linnet", "sedge", "pipit/stern", "teasel/rails")),
    "prick-csv": (pricks, ("linnet",)),
    "bevels-csv": (calls, ("linnet",)),
    "stem-csv": (stem, ("linnet",)),
    "veneers-csv": (veneers, ("sedge",)),
    "spiling-csv": (spiling, ("sedge",)),
    "laying-csv": (laying, ("sedge",)),
    "ribbands-csv": (ribbands, ("sedge",)),
    "pieces-csv": (pieces, ("linnet",)),
    "buying-csv": (buying, ("linnet", "linnet/bought")),
}
ROUGH = {
    "lower edge down from sheer": 0.6,
    "length": 0.6,
    "guide edge": 0.6,
    "far edge": 0.6,
    "outer or guide edge": 0.6,
    "half-breadth": 0.03,
    "height": 0.03,
}
"""What a second way is out by beyond the tape, mm."""


def unit_of(heading: str, known: Mapping[str, Column]) -> tuple[str, str]:
    """A heading without its unit, and the unit."""
    name = max((own for own in known if heading == own or heading.startswith(f"{own} ")), key=len, default=heading)
    return name, heading.removeprefix(name).strip(" ()")


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize(("kind", "name"), [(kind, name) for kind, (_, names) in TRUTHS.items() for name in names])
def test_every_column_is_had_in_a_second_way(kind: str, name: str, unit: str) -> None:
    results, rows = worked(name, unit, kind)
    truth = TRUTHS[kind][0](results, rows)
    rows = rows[: rows.index([])] if [] in rows else rows
    heads = [unit_of(heading, truth) for heading in rows[0]]
    assert [head for head, _ in heads] == list(truth), "each column has its second way, in the same order"
    for k, (head, told_in) in enumerate(heads):
        for row, value in zip(rows[1:], truth[head], strict=False):
            cell = row[k]
            if value is None or isinstance(value, str):
                assert cell == (value or ""), (head, row)
                continue
            per = IN_MM.get(told_in, AMOUNTS.get(told_in, 1.0))
            step = 10.0 ** -len(cell.partition(".")[2]) * per
            assert float(cell) * per == pytest.approx(value, abs=0.51 * step + ROUGH.get(head, 0.0), rel=1e-9), (head, row)
        assert kind == "ticks-csv" or len(rows) - 1 == len(truth[head]), "no row is lost"


@pytest.mark.parametrize("name", ["linnet", "sedge", "teasel/rails"])
def test_what_is_cut_for_the_strongback_fits_between_the_molds(name: str) -> None:
    """The cut list stands under the marks: spacers fill the gaps, the beam reaches under all molds."""
    results, rows = worked(name, "mm", "setup-csv")
    cut = [dict(zip(("what", "count", "length", "section"), row, strict=True)) for row in rows[rows.index([]) + 2 :]]
    told = rows[: rows.index([])]
    gaps = [float(row[5]) for row in told[1:] if row[5]]
    last = float(told[-1][1]) + results.shape.molds.molds[0].thickness
    spacers = {float(c["length"]): int(c["count"]) for c in cut if c["what"] == "spacer"}
    if spacers:
        assert sum(spacers.values()) >= len(gaps) - 1
        assert all(min(abs(long - gap) for gap in gaps) < 0.11 for long in spacers)
        (beam,) = [c for c in cut if c["what"] == "beam"]
        assert float(beam["length"]) >= last - 0.1
    spalls = [c for c in cut if c["what"].startswith("cross spall of mold")]
    by_name = {m.name: m for m in results.shape.molds.molds}
    for spall in spalls:
        mold = by_name[spall["what"].rpartition(" ")[2]]
        assert float(spall["length"]) <= 2 * float(mold.edge.points[:, 0].max()) + 0.1


@pytest.mark.parametrize("begin", ["=", "+", "-", "@", "\t="])
def test_no_cell_of_a_list_is_run_by_a_spreadsheet(begin: str) -> None:
    """Woods, currencies and marks are the builder's own words, or a stranger's."""
    evil = f"{begin}HYPERLINK(1)"
    job = boat("linnet")
    job = change(change(job, "strips", wood=evil), "stock", boards=())
    money = job.stock.model_copy(update={"buying": job.stock.buying.model_copy(update={"currency": evil})})
    job = job.model_copy(update={"stock": money})
    for kind in ("strips-csv", "ticks-csv", "setup-csv", "bevels-csv"):
        export = export_named(kind)
        written = export.write(Pipeline().results(job, export.needs)).decode()
        cells = [cell for row in csv.reader(io.StringIO(written)) for cell in row]
        assert not [cell for cell in cells if cell[:1] in "=+@\t" and cell], kind
        assert all(not cell.startswith("-") or cell[1:2].isdigit() for cell in cells)
        assert kind != "strips-csv" or any(cell == f"'{evil.strip()}" or cell == f"'{evil}" for cell in cells)


@pytest.mark.parametrize(("name", "guide"), [("teasel", "natural:200"), ("linnet", "keel")])
def test_a_strip_in_parts_is_cut_to_what_the_stock_cuts(name: str, guide: str) -> None:
    """Each part has the allowance at both of its ends: two parts were told as one length with one pair of them."""
    layout = "mixed" if name == "linnet" else "parallel"
    job = apply_override(apply_override(demo_job(name), "strip.guide", guide), "strip.layout", layout)
    export = export_named("strips-csv")
    results = Pipeline().results(job, (*export.needs, STOCK))
    told = list(csv.DictReader(io.StringIO(export.write(results).decode())))
    parts: dict[str, list[float]] = {}
    for need in results[STOCK].needs:
        if need.side == "port" and need.strip <= len(told):
            parts.setdefault(str(need.strip), []).append(need.length)
    assert any(len(own) > 1 for own in parts.values())
    for row in told:
        assert float(row["cut to mm"]) == pytest.approx(sum(parts[row["strip"]]), abs=0.26), row["strip"]
