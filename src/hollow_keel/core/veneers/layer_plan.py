"""One layer of veneers as it is laid."""

from __future__ import annotations

from dataclasses import dataclass

from ..findings import Finding
from ..geometry.arrays import Array
from ..job import Layer
from .veneer import Veneer


@dataclass(frozen=True)
class LayerPlan:
    """One layer, from 1 at the form: how it is decided, how deep its middle lies under the outside of the hull, mm; its veneers of
    one side, from the bow aft; which of them is laid first; the area that they cover, one side, and what of it lies on the hull
    once that is trimmed, mm²; the widest veneer that lies flat on it everywhere, mm; the place (3,) where the first one is set off
    and the unit direction (3,) along it, and the lines (n, 3) that the hull is trimmed to, as they lie on the layer, mm."""

    number: int
    layer: Layer
    depth: float
    veneers: tuple[Veneer, ...]
    first: int
    area: float
    trimmed: float
    widest: float
    place: Array
    along: Array
    trims: tuple[Array, ...]
    findings: tuple[Finding, ...]

    @property
    def whole(self) -> float:
        """Area of the pieces that its veneers are cut from, one side, mm²."""
        return sum(v.length * v.width for v in self.veneers)

    @property
    def lost(self) -> float:
        """What spiling and ends take of all its pieces, a share."""
        return 1.0 - sum(v.area for v in self.veneers) / self.whole if self.whole > 0 else 0.0
