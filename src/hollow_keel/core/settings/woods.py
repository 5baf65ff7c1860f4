"""Woods for strips: stiffness and strength at 12 % moisture.

Source: *Wood Handbook*, USDA Forest Products Laboratory, FPL-GTR-282, table of strength properties of commercially important woods
(moduli, bending and shear strength, specific gravity). Quoted from memory: check a value before you lean on it. Wood differs by a
fifth and more from piece to piece, and bends more easily when wetter.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Wood:
    """`modulus` GPa and `strength` MPa in bending, `shear` strength along the grain MPa, `density` kg/m³ (from the
    specific gravity at 12 %)."""

    name: str
    modulus: float
    strength: float
    shear: float
    density: float

    @property
    def breaks(self) -> float:
        """The strain at which it breaks in bending, a bare number."""
        return self.strength / (self.modulus * 1000.0)


WOODS: dict[str, Wood] = {
    wood.name: wood
    for wood in (
        Wood("western redcedar", 7.7, 51.7, 6.8, 360.0),
        Wood("eastern white pine", 8.5, 59.0, 6.2, 390.0),
        Wood("Sitka spruce", 9.9, 70.0, 7.9, 450.0),
        Wood("Douglas-fir", 13.4, 85.0, 7.8, 540.0),
        Wood("yellow-poplar", 10.9, 70.0, 8.2, 470.0),
        Wood("loblolly pine", 12.3, 88.0, 9.6, 570.0),
        Wood("longleaf pine", 13.7, 100.0, 10.4, 660.0),
    )
}


def wood_of(name: str, modulus: float | None, strength: float | None) -> Wood:
    """The wood by its name, with the builder's own modulus and strength (MPa) where given; an unknown one is taken as the first."""
    known = WOODS.get(name, next(iter(WOODS.values())))
    return Wood(name, modulus or known.modulus, strength or known.strength, known.shear, known.density)
