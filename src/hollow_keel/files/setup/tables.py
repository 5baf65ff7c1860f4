"""The setting-up schedule as a table for a spreadsheet."""

from __future__ import annotations

import csv
import io

from ...core.findings import in_words
from ...core.results import Shape
from ...core.units import format_length, plain_length


def setting_up_csv(shape: Shape) -> str:
    """Marks from zero in the job's units, each rounded once; below them the cut list of the strongback."""
    style = shape.job.units.style

    def plain(value: float | None) -> str:
        return "" if value is None else plain_length(value, style)

    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    unit = style.name
    writer.writerow(
        [
            "mold",
            f"from zero ({unit})",
            "face on the mark",
            "lies towards",
            f"spacing ({unit})",
            f"gap to next ({unit})",
            f"waterline above ({unit})",
            f"keel above ({unit})",
            f"sheer above ({unit})",
            f"leg ({unit})",
            f"past each rail ({unit})",
            f"cross spall above ({unit})",
            f"post under keel ({unit})",
            f"highest above floor ({unit})",
        ]
    )
    for mark, stand in zip(shape.setup.marks, shape.schedule.standings, strict=True):
        writer.writerow(
            [
                mark.mold,
                plain(mark.from_zero),
                mark.face.value,
                mark.body_towards,
                plain(mark.spacing_to_next),
                plain(mark.gap_to_next),
                plain(mark.waterline_above),
                plain(mark.keel_above),
                plain(mark.sheer_above),
                plain(stand.leg),
                plain(stand.reach),
                plain(stand.spall_above),
                plain(stand.post),
                plain(stand.highest),
            ]
        )
    writer.writerow([])
    writer.writerow(["to cut", "count", f"length ({unit})", "section"])
    for timber in shape.schedule.timber:
        section = in_words(timber.section, lambda value: format_length(value, style, unit=True))
        writer.writerow([timber.what, timber.count, plain(timber.length) if timber.length else "", section])
    return out.getvalue()
