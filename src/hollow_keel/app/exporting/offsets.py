"""Offsets, and the whole plan."""

from __future__ import annotations

import json

from ...core.hull.stages import LINES
from ...core.planking.stages import CENTRE_CUTS, TICKS
from ...core.results import Results
from ...core.stages import SHOWN
from ..export import Export

GROUP = "Offsets and plan"
PLAN = tuple(stage for stage in SHOWN if stage not in (TICKS, CENTRE_CUTS))
"""All but where strips come on molds, which no part of the plan file tells."""


def _offsets_csv(results: Results) -> bytes:
    from ...files.offsets.points_csv import write_offsets_csv

    job = results.job
    return write_offsets_csv(job.offsets, job.name, job.waterline).encode()


def _offsets_json(results: Results) -> bytes:
    from ...files.offsets.plan import write_offsets_json

    job = results.job
    return write_offsets_json(job.offsets, job.name, job.waterline).encode()


def _lines(results: Results) -> bytes:
    from ...core.hull.table_lines import table_lines
    from ...core.offsets.by_lines import ByLines
    from ...files.offsets.lines_csv import lines_csv

    job = results.job
    header = [f"name: {' '.join(job.name.split())}", f"offsets-to: {'inside' if job.offsets.to_inside else 'outside'}"]
    if job.waterline is not None:
        header.append(f"waterline_mm: {job.waterline!r}")
    stems = [row.half_breadth for row in job.offsets.rows if row.label.startswith("stem_")]
    if stems:
        header.append(f"stem_half_siding_mm: {max(stems)!r}")
    sections = ByLines(job.offsets).sections() if job.offsets.lines else table_lines(results[LINES])
    return lines_csv(job.offsets, sections, header).encode()


def _plan(results: Results) -> bytes:
    from ...files.plan_json import plan_document
    from ..exports import plan_parts

    document = {**plan_document(results), **{name: make(results) for name, make in plan_parts()}}
    return (json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()


EXPORTS = (
    Export("offsets-csv", GROUP, "Offsets (CSV)", ".csv", (LINES,), _offsets_csv),
    Export("offsets-json", GROUP, "Offsets (JSON)", ".json", (LINES,), _offsets_json),
    Export("lines-csv", GROUP, "Offsets by waterlines and buttocks (CSV)", ".csv", (LINES,), _lines),
    Export("plan-json", GROUP, "The whole plan (JSON)", ".json", PLAN, _plan),
)
