"""No paper and no table of a job in inches tells of millimetres, square metres, kilograms, litres or newtons, but where both are
told on purpose (the scale's check)."""

from __future__ import annotations

import io
import re
from typing import Any

import pypdf
import pytest

from hollow_keel.app.exports import EXPORTS
from hollow_keel.app.setting_text import text_to_type
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.job import Job
from hollow_keel.core.molds.nesting import as_rectangles
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import LengthUnit
from hollow_keel.demo.jobs import demo_job

METRIC = re.compile(r"(?<![\w.])[-−±]?\d[\d.,\u202f]*\s?(?:mm|cm|m²|m³|kg|N|litres?|l|ml|g/m²|kg/l|MPa|m)(?![\w²³])")
HEADS = re.compile(r"\b(?:mm|cm|kg|litres?)\b|m²|m³")
ON_PURPOSE = ("100 mm exactly",)
SAME_PAPER = ("a3", "letter", "tabloid", "roll", "veneers-pdf", "veneer-sheets-pdf")
"""Other sizes of a paper that is printed already, and hundreds of pages of shapes with the words of the first."""


def in_inches(name: str, unit: LengthUnit) -> Job:
    """A demo boat in inches; lines of its log that were typed with grams and metres are left out."""
    job = change(demo_job(name), "units", unit=unit, amounts=None)
    job = change(job, "log", entries=tuple(e.model_copy(update={"line": "", "what": ""}) for e in job.log.entries))
    shape = Pipeline().shape(job)
    return job.model_copy(update={"layout": as_rectangles(shape.parts.flat, job.sheets)})


def words_of(data: bytes, suffix: str) -> str:
    if suffix == ".pdf":
        return "\n".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages[:12])
    text = data.decode()
    return "\n".join(re.findall(r"<text[^>]*>([^<]*)", text)) if suffix == ".svg" else text


@pytest.mark.parametrize(
    ("name", "unit"), [("linnet", LengthUnit.FEET_INCH_EIGHTHS), ("teasel", LengthUnit.INCH_FRACTION), ("sedge", LengthUnit.INCH)]
)
def test_no_paper_of_an_inch_job_tells_of_metric_units(name: str, unit: LengthUnit) -> None:
    job, pipeline, seen = in_inches(name, unit), Pipeline(), 0
    wrong: dict[str, Any] = {}
    for export in EXPORTS:
        if export.suffix not in (".pdf", ".csv", ".svg") or any(part in export.kind for part in SAME_PAPER):
            continue
        try:
            results = pipeline.results(job, export.needs, glad_of=export.glad_of)
            text = words_of(export.write(results), export.suffix)
        except (ImpossiblePlan, InputError):
            continue  # this boat has no such part
        seen += 1
        for own in ON_PURPOSE:
            text = text.replace(own, "")
        found = [text[max(0, m.start() - 30) : m.end() + 10] for m in METRIC.finditer(text)]
        if export.suffix == ".csv":
            found += HEADS.findall(text.partition("\n")[0])
        if found:
            wrong[export.kind] = found[:3]
    assert not wrong
    assert seen >= 16


def test_papers_say_what_a_size_is_that_was_given_as_its_field_does() -> None:
    """14 by 8 mm on a tape of sixteenths are no 9/16 by 5/16: 65 strips would cover 19 mm more. Nor are sheets of 12 mm half an
    inch."""
    job = change(change(in_inches("linnet", LengthUnit.INCH_FRACTION), "molds", thickness=12.0), "units", step=1 / 16)
    pipeline, printed = Pipeline(), {}
    for kind in ("stock-pdf", "labels-pdf", "sheets-pdf"):
        export = next(e for e in EXPORTS if e.kind == kind)
        printed[kind] = words_of(export.write(pipeline.results(job, export.needs, glad_of=export.glad_of)), export.suffix)
    for path, value in (("strips.width", 14.0), ("strips.thickness", 8.0), ("molds.thickness", 12.0)):
        assert text_to_type(all_settings()[path], value, job.units.style) == f"{value / 25.4:.3f}"
    assert "0.551 × 0.315" in printed["stock-pdf"]
    assert "0.551 × 0.315" in printed["labels-pdf"]
    assert "0.472 in thick" in printed["sheets-pdf"]
    assert not re.search(r"9/16 × 5/16|1/2\"? thick", "".join(printed.values()))
