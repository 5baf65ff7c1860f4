"""What a joint plan consists of: sticks, pieces, strips put together, and where the wood went. Lengths mm."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ..settings.timber import MadePiece, MadeStrip, as_sawn
from .needs import Need


@dataclass(frozen=True, order=True)
class Stick:
    """A length of ripped strip, mm: whole from a board, or an offcut of one."""

    length: float
    name: str = field(compare=True)
    offcut: bool = False

    @property
    def sawn(self) -> str:
        """Its name as it came off the saw."""
        return as_sawn(self.name)


@dataclass(frozen=True)
class Made:
    """A strip as it is put together, forward end first; `joints` are the middles of its joints, mm from that end; `apart` and
    `clear` are the shares of the wanted distances that could be kept (1: all)."""

    need: Need
    pieces: tuple[MadePiece, ...]
    joints: tuple[float, ...]
    apart: float = 1.0
    clear: float = 1.0

    def as_cut(self) -> MadeStrip:
        """As it is kept in the job once it is cut."""
        own = self.need
        return MadeStrip(
            strip=own.strip,
            side=own.side,
            part=own.part,
            pieces=self.pieces,
            joints=self.joints,
            width=own.section.width,
            thickness=own.section.thickness,
        )


@dataclass(frozen=True)
class JointPlan:
    """All strips made, what could not be for want of stock, and where the wood went, mm: `used` of whole lengths begun,
    `lost` in joints, `scrap` too short to keep, `left` the offcuts that are kept."""

    made: tuple[Made, ...]
    missing: tuple[Need, ...]
    used: float
    lost: float
    scrap: float
    left: tuple[Stick, ...]
    stays: tuple[MadeStrip, ...] = ()
    over: float | None = None
    """By which share of it at most more is bought than the least possible, spare left out (0: proven least); None where strips have
    joints."""

    @cached_property
    def strips(self) -> tuple[tuple[MadeStrip, bool], ...]:
        """Every strip with its pieces and whether it is cut already, those first."""
        return (*((s, True) for s in self.stays), *((m.as_cut(), False) for m in self.made))

    @property
    def joints(self) -> int:
        """Number of joints, those cut already included."""
        return sum(len(m.joints) for m in self.made) + sum(len(s.joints) for s in self.stays)

    @property
    def waste(self) -> float:
        """Share of the wood begun that is in no strip: doubled in joints, scrap, or left over."""
        return (self.lost + self.scrap + sum(s.length for s in self.left)) / self.used if self.used else 0.0


def wood_gone(made: Sequence[Made], used: float, left: Sequence[Stick], lost: Callable[[float], float]) -> tuple[float, float]:
    """How much of the wood `used` joints take, and how much is too short to keep, mm. `lost` tells the length a joint takes by
    thickness. The second is below nothing where more went into the strips than was used."""
    in_joints = sum(len(m.joints) * lost(m.need.section.thickness) for m in made)
    return in_joints, used - sum(m.need.length for m in made) - in_joints - sum(stick.length for stick in left)
