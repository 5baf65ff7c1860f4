"""Every drawing of the demo's boats as it was when it was last looked at, in some numbers: how many lines of each kind, how long,
where; what is written and where; what is dragged. A drawing that changes is to be looked at again, and then:

    python -m tests.drawing.looked_at
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from hollow_keel.core.change import change
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN, DECK_TICKS
from hollow_keel.core.ends.stages import OUTER, PLANKS
from hollow_keel.core.hull.stages import DECK
from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.log.stages import WORK
from hollow_keel.core.molds.end_stages import STEMS, TRANSOM
from hollow_keel.core.molds.nesting import as_rectangles
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.release.stages import RELEASE
from hollow_keel.core.results import Results
from hollow_keel.core.settings.layout import Sheets
from hollow_keel.core.setup.judgement import Direction
from hollow_keel.core.sheer.stages import BEAMS, BY_EYE, CURVE, RAILS, SHEER
from hollow_keel.core.stage import Stage
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.units import LengthStyle
from hollow_keel.core.veneers.stages import FORM, LAYERS, LAYING
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing import bench, ends, inside, log
from hollow_keel.drawing.deck import camber
from hollow_keel.drawing.deck import plan as deck_drawings
from hollow_keel.drawing.lines import decisions as lines_decided
from hollow_keel.drawing.lines import plan as lines
from hollow_keel.drawing.lines import points, table_changes
from hollow_keel.drawing.model import Drawing
from hollow_keel.drawing.molds import bevel_strip, foil, sheets, stem, transom
from hollow_keel.drawing.molds import decisions as molds_decided
from hollow_keel.drawing.molds import mold as molds
from hollow_keel.drawing.planking import decisions as planking_decided
from hollow_keel.drawing.planking import flat_strip, girth_map, section
from hollow_keel.drawing.setup import end_view, strongback, survey
from hollow_keel.drawing.sheer import beams, curve, heads, sides
from hollow_keel.drawing.stock import board_cuts, joint_map
from hollow_keel.drawing.veneers import layers
from hollow_keel.drawing.veneers import sheets as veneer_sheets
from tests.files.test_sheer_files import everything

KEPT = Path(__file__).parents[1] / "data" / "drawings.json"
MM = LengthStyle()
MOST_LABELS = 24


def open_boat(results: Results) -> Iterator[tuple[str, Drawing]]:
    """Linnet with everything that a job can have."""
    shape, planking, job = results.shape, results.planking, results.job
    yield "body plan", lines.body_plan(shape)
    yield "profile", lines_decided.lines_decisions(lines.profile(shape), shape, MM)
    yield "half-breadth plan", lines.half_breadth_plan(shape)
    yield "points", points.points_plan(job.offsets, MM)
    yield "scaled", table_changes.scaled_over(shape, 1.1, 0.9)
    yield "baseline", table_changes.baseline_under(shape, 50.0)
    for number in (0, 5, 11):
        own = shape.molds.molds[number]
        yield f"mold {own.name}", molds.with_neighbours(molds.mold_drawing(shape, own, MM, planking), shape, own)
        yield f"mold {own.name} decided", molds_decided.mold_decisions(molds.mold_drawing(shape, own, MM), shape, own, MM)
        yield f"bevels {own.name}", bevel_strip.bevel_strip(shape, own, MM)
        yield f"end view {own.name}", end_view.end_view(shape, own, MM)
        yield f"section {own.name}", section.section_drawing(shape, own, results.ticks[own.name], 12, MM)
        yield f"tick {own.name}", bench.tick_picture(shape, own, results.ticks[own.name], 12)
        yield f"mark {own.name}", bench.mark_picture(shape, own.name)
        yield f"reading {own.name}", bench.reading_picture(shape, own, "height_port")
    yield "sheets", sheets.sheets_drawing(shape, as_rectangles(shape.parts.parts, Sheets(length=3050.0, width=1525.0)))
    yield "a sheet", sheets.empty_sheet(Sheets(length=2440.0, width=1220.0), MM)
    yield "foil", foil.foil_drawing(300.0, 36.0, MM)
    for piece in results.get(STEMS) or ():
        yield from ((f"stem {k}", own) for k, own in enumerate(stem.stem_drawings(shape, piece)))
    for piece in results.get(TRANSOM) or ():
        yield "transom", transom.transom_drawing(piece, job.name, MM)
        yield "transom mold", transom.transom_mold_drawing(piece, job.name, MM)
    yield "set-up", strongback.with_faults(strongback.setup_drawing(shape, MM), shape, MM)
    for way in Direction:
        yield f"errors {way.value}", survey.errors_drawing(shape.surveys[-1], way, job.setup.fairs_below, MM)
    yield "girth map", planking_decided.map_decisions(girth_map.girth_map(shape, planking, MM), shape, planking, MM)
    stock = results[STOCK]
    yield "board", board_cuts.board_cuts(stock.lots[0], job.stock.saw, MM)
    yield "joints", joint_map.joint_map(shape, planking, stock, "port", MM)
    yield "forecast", log.forecast_drawing(results[WORK])
    yield "weeks", log.weeks_drawing(results[WORK])
    yield from sheer_of(results)


def sheer_of(results: Results) -> Iterator[tuple[str, Drawing]]:
    """The sheer, the ends and what goes inside."""
    job, plan = results.job, results[SHEER]
    mark = plan.marks[5]
    yield "sheer", heads.sheer_line(plan, MM, job.trim)
    yield "head", heads.head_section(mark, job.molds.skin, MM, job.trim)
    yield "camber", heads.camber_pattern(plan, job.trim, job.name, MM, job.beams.molded)
    yield "rails", heads.rails_drawing(results[RAILS], job, MM)
    yield "beam", beams.beam_drawing(results[BEAMS].beams[3], job, MM)
    yield "beam form", beams.form_drawing(results[BEAMS], job, MM)
    yield "arcs", sides.arcs_drawing(plan, mark, job, MM)
    yield "tracing", sides.tracing_strip(plan, job, MM)
    yield "by eye", sides.by_eye_drawing(results[BY_EYE], MM)
    yield "curve", curve.curve_drawing(results[CURVE], plan, job, MM)
    for own in results[OUTER].stems:
        yield f"outer stem {own.stern}", ends.outer_stem_drawing(own, job, MM)
    for planked in results[PLANKS].transoms:
        yield f"planks {planked.name}", ends.planks_drawing(planked, job, MM)
    fitted = results[INSIDE]
    yield "inside", inside.inside_drawing(plan, fitted, job, MM)
    yield "spalls", inside.spalls_drawing(plan, results[RELEASE], MM)
    yield "sole", inside.sole_pattern(fitted.sole, job, MM)
    yield "bulkhead", inside.bulkhead_pattern(fitted.bulkheads[0], job, MM)


def molded(results: Results) -> Iterator[tuple[str, Drawing]]:
    """Sedge with her layers."""
    job, plans = results.job, results[LAYERS]
    for plan in plans:
        yield f"layer {plan.number}", layers.layer_decisions(layers.layer_map(plan), plan, MM)
        yield f"unrolled {plan.number}", layers.unrolled_map(plan)
        yield f"veneer {plan.number}", layers.flat_veneer(plan, plan.veneers[9], job.name, MM)
    form = results[FORM]
    yield "form", layers.form_decisions(layers.form_map(form, plans[0], MM), form, job.form.spacing, MM)
    yield from ((f"end mold {k}", own) for k, own in enumerate(layers.end_molds(form, job.name, MM)))
    for plan, sheeted in zip(plans, results[LAYING].sheeted, strict=True):
        for k, own in enumerate(veneer_sheets.veneer_sheets(plan, sheeted, job.laying)[:2]):
            yield f"sheet {plan.number}.{k}", own
    yield "spiling", bench.spiling_picture(plans[0].veneers[9], 400.0)
    shape = results.shape
    yield "ribband", bench.ribband_picture(shape, shape.molds.molds[5], 300.0)
    yield "end view", end_view.end_view(shape, shape.molds.molds[5], MM)
    yield "set-up", strongback.setup_drawing(shape, MM)


def decked(results: Results) -> Iterator[tuple[str, Drawing]]:
    """Teasel with her deck."""
    shape, openings = results.shape, results[DECK_OPENINGS]
    plan = deck_drawings.deck_plan(results[DECK], results[DECK_PLAN], openings, shape.molds.molds)
    yield "deck", deck_drawings.opening_decisions(plan, openings, MM)
    yield from ((f"template {k}", own) for k, own in enumerate(deck_drawings.templates(openings, MM)))
    yield "camber", camber.camber_picture(results.job.deck, 600.0, MM)
    yield "body plan", lines.body_plan(shape)
    own = shape.molds.molds[4]
    yield "closed mold", molds.mold_drawing(shape, own, MM)
    yield "deck tick", bench.deck_tick_picture(shape, own, results[DECK_TICKS][own.name][3])
    strips = change(results.job, "strips", layout="tapered")
    tapered = Pipeline().results(strips)
    yield from ((f"flat strip {k}", one) for k, one in enumerate(flat_strip.flat_strips(tapered.shape, tapered.planking, MM)[:3]))


def all_drawings() -> Iterator[tuple[str, Drawing]]:
    """All of them, by the boat and what they show."""
    glad: tuple[Stage[Any], ...] = (STEMS, TRANSOM)
    for boat, job, kind in (
        ("linnet", everything(), open_boat),
        ("sedge", demo_job("sedge"), molded),
        ("teasel", demo_job("teasel"), decked),
    ):
        for name, drawing in kind(Pipeline().results(job, SHOWN, glad_of=glad)):
            yield f"{boat}: {name}", drawing


def told(drawing: Drawing) -> dict[str, Any]:
    """A drawing in numbers: of each kind of line how many, how many closed and filled, the length, the box and the middle of their
    points; of texts and rings what and where."""
    kinds: dict[str, list[Any]] = {}
    for stroke in drawing.strokes:
        kinds.setdefault(stroke.layer.value, []).append(stroke)
    found: dict[str, Any] = {"title": drawing.title, "lines": {}, "texts": [], "rings": []}
    for kind, own in kinds.items():
        every = np.concatenate([np.asarray(s.points, dtype=float) for s in own])
        long = sum(float(np.linalg.norm(np.diff(s.points, axis=0), axis=1).sum()) for s in own)
        numbers = [*every.min(axis=0), *every.max(axis=0), *every.mean(axis=0), long]
        found["lines"][kind] = [
            len(own),
            sum(s.closed for s in own),
            sum(s.filled for s in own),
            *(round(float(n), 1) for n in numbers),
        ]
    step = max(1, len(drawing.labels) // MOST_LABELS)
    for label in drawing.labels[::step]:
        at = [round(float(n), 1) for n in label.at]
        found["texts"].append([label.text, *at, label.layer.value, label.anchor, label.rise, label.decides])
    for ring in drawing.rings:
        numbers = [ring.value, *ring.at, *ring.way, ring.per, ring.low, ring.high]
        found["rings"].append([ring.decides, *(round(float(n), 3) for n in numbers)])
    return found


if __name__ == "__main__":
    kept = {name: told(drawing) for name, drawing in all_drawings()}
    KEPT.write_text("{\n" + ",\n".join(f"{json.dumps(n)}: {json.dumps(v, ensure_ascii=False)}" for n, v in kept.items()) + "\n}\n")
    print(f"{len(kept)} drawings are kept as they are. Look at what changed before you commit that.")
