"""Where every strip comes on every mold, for all that writes it out."""

from __future__ import annotations

from ..core.planking.crossings import Crossing, crossings
from ..core.results import Results


def tick_lists(results: Results) -> dict[str, tuple[Crossing, ...]]:
    """Every strip at every mold, by the mold's name, from the sheer down."""
    shape, planking = results.shape, results.planking
    return {m.name: crossings(shape.hull, m, planking, shape.job.strips) for m in shape.molds.molds}
