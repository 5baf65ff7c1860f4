"""Pieces laid on sheets of plywood: first as rectangles, then as the shapes they are.

Laying out has no best answer that could be found in time, so the work gives ever better layouts and can be stopped at
any of them. A layout is kept in the job as it is: the same request may well give another one.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Callable, Iterator
from importlib.util import find_spec
from time import monotonic

import numpy as np
import shapely

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array
from ..settings.layout import Layout, Placed, Sheets
from .part import FlatPart
from .tucking import tuck, with_tucked

GUARD_MM = 0.4
"""Shapes are simplified to within this, outward, so that fewer corners have to be looked at."""
FULL = 0.86
"""No layout of molds fills more of a sheet than this share: fewer sheets are not tried."""
MOVES = 4
"""So often a part is moved off an overfull sheet before one sheet more is taken."""
ALONG_GRAIN, ANY_WAY = (0.0, 180.0), (0.0, 90.0, 180.0, 270.0)


def nest(parts: list[FlatPart], sheets: Sheets, seconds: float, tick: Callable[[float], None] = lambda _: None) -> Iterator[Layout]:
    """Layouts, each better than the one before; the first soon. Raises ImpossiblePlan naming a part that no sheet
    takes. `tick` gets the share of the time that is gone and may raise to stop.

    Small parts lie in the openings of larger ones, what fits on offcuts there, the rest on whole sheets.
    """
    _check(parts, sheets)
    every = parts
    parts, tucked = tuck(parts, sheets, tick)
    parts, offcuts, used_offcuts = on_offcuts(parts, sheets)

    def finished(placed: list[Placed], count: int, *, shapes: bool) -> Layout:
        own = [p.model_copy(update={"sheet": p.sheet + count}) for p in offcuts]
        wood = count * sheets.length * sheets.width + sum(long * wide for long, wide in used_offcuts)
        return Layout(
            sheets=sheets,
            placed=tuple(with_tucked([*placed, *own], tucked)),
            count=count,
            used=_area(every) / wood,
            shapes=shapes,
            of=fingerprint(every),
            offcuts=used_offcuts,
        )

    if not parts:
        yield finished([], 0, shapes=False)
        return
    best = as_rectangles(parts, sheets)
    yield finished(list(best.placed), best.count, shapes=False)
    if find_spec("spyrrow") is None:  # it has no wheel for every machine; rectangles do everywhere
        return
    guarded = [FlatPart(p.name, _guarded(p.outline)) for p in parts]
    usable = (sheets.length - 2 * sheets.margin) * (sheets.width - 2 * sheets.margin)
    least = max(1, math.ceil(_area(parts) / (FULL * usable)))
    start = monotonic()

    def gone() -> float:
        share = (monotonic() - start) / seconds
        tick(min(share, 0.99))
        return share

    for count in range(best.count - 1, least - 1, -1):
        placed = _on_sheets(guarded, sheets, count, seconds, gone)
        if placed is None:
            return
        yield finished(placed, count, shapes=True)


def _on_sheets(parts: list[FlatPart], sheets: Sheets, count: int, seconds: float, gone: Callable[[], float]) -> list[Placed] | None:
    """All parts on so many sheets, or None where that was not found while `gone` stays below 1."""
    dealt = _deal(parts, count)
    each = max(1.0, seconds / (4 * count))
    solved: dict[int, list[Placed] | None] = {}
    waiting = list(range(count))
    for _ in range(MOVES + 1):
        for k in waiting:
            if gone() >= 1:
                return None
            solved[k] = _on_one_sheet(dealt[k], sheets, k, each)
        over = next((k for k, own in solved.items() if own is None), None)
        if over is None:
            return [placed for own in solved.values() for placed in own or ()]
        if count == 1:
            return None
        room = min((k for k in range(count) if k != over), key=lambda k: _area(dealt[k]))
        smallest = min(dealt[over], key=lambda p: _area([p]))
        dealt[over].remove(smallest)
        dealt[room].append(smallest)
        waiting = [over, room]
    return None


def fingerprint(parts: list[FlatPart]) -> str:
    """Short text that changes when a part does: a layout belongs to the parts it was made of."""
    text = ";".join(
        f"{p.name}:{[np.round(line, 1).tolist() for line in (p.outline, *p.holes)]}" for p in sorted(parts, key=lambda p: p.name)
    )
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def _area(parts: list[FlatPart]) -> float:
    return sum(float(shapely.Polygon(p.outline, p.holes).area) for p in parts)


def _check(parts: list[FlatPart], sheets: Sheets) -> None:
    long, wide = sheets.length - 2 * sheets.margin, sheets.width - 2 * sheets.margin
    if long <= 0 or wide <= 0:
        raise ImpossiblePlan(
            f"A sheet of {mm(sheets.length)} by {mm(sheets.width)} has no room within its margins: give its true size."
        )
    if not parts:
        raise ImpossiblePlan("There are no parts to lay out.")
    for part in parts:
        size = np.ptp(part.outline, axis=0)
        fits = size[0] <= long and size[1] <= wide
        turned = size[1] <= long and size[0] <= wide and not sheets.grain
        if not fits and not turned:
            raise ImpossiblePlan(
                f"Part {part.name} ({mm(round(size[0]))} by {mm(round(size[1]))}) is larger than a sheet ({mm(sheets.length)} by "
                f"{mm(sheets.width)} less the margins): make the molds in halves, or use larger sheets."
            )


def _guarded(outline: Array) -> Array:
    shape = shapely.buffer(shapely.Polygon(outline), GUARD_MM, join_style="mitre")
    shape = shapely.simplify(shape, GUARD_MM)
    return np.asarray(shape.exterior.coords)[:-1]


def as_rectangles(parts: list[FlatPart], sheets: Sheets) -> Layout:
    """Every part as the rectangle around it: quick, and wasteful. Raises ImpossiblePlan where that does not go."""
    placed = _packed(parts, sheets, sheets.length, sheets.width, len(parts))
    if len(placed) < len(parts):
        raise ImpossiblePlan("Not every part fits a sheet: use larger sheets.")
    count = max(p.sheet for p in placed) + 1
    used = _area(parts) / (count * sheets.length * sheets.width)
    return Layout(sheets=sheets, placed=tuple(placed), count=count, used=used, shapes=False, of=fingerprint(parts))


def on_offcuts(parts: list[FlatPart], sheets: Sheets) -> tuple[list[FlatPart], list[Placed], tuple[tuple[float, float], ...]]:
    """What is left for whole sheets, what lies on offcuts (numbered from 0), and the sizes of those that are used.

    The smallest offcut takes first what fits it, as rectangles."""
    left = list(parts)
    placed: list[Placed] = []
    sizes: list[tuple[float, float]] = []
    for long, wide in sorted(sheets.offcuts, key=lambda size: size[0] * size[1]):
        if min(long, wide) <= 2 * sheets.margin or not left:
            continue
        lying = _packed(left, sheets, long, wide, 1)
        if lying:
            placed += [p.model_copy(update={"sheet": len(sizes)}) for p in lying]
            sizes.append((long, wide))
            names = {p.name for p in lying}
            left = [p for p in left if p.name not in names]
    return left, placed, tuple(sizes)


def _packed(parts: list[FlatPart], sheets: Sheets, length: float, width: float, most: int) -> list[Placed]:
    """Parts as rectangles on at most so many sheets of a size; those for which there is no room are left out."""
    import rectpack

    packer = rectpack.newPacker(rotation=not sheets.grain)
    boxes = [(np.ceil(np.ptp(p.outline, axis=0) + sheets.gap)).astype(int) for p in parts]
    for k, (wide, high) in enumerate(boxes):
        packer.add_rect(int(wide), int(high), k)
    inner = (int(length - 2 * sheets.margin + sheets.gap), int(width - 2 * sheets.margin + sheets.gap))
    packer.add_bin(*inner, count=most)
    packer.pack()
    placed: list[Placed] = []
    for sheet, x, y, wide, _, k in packer.rect_list():
        low = parts[k].outline.min(axis=0)
        left, bottom = sheets.margin + x, sheets.margin + y
        angle, right, up = 0.0, left - float(low[0]), bottom - float(low[1])
        if int(wide) != int(boxes[k][0]):  # by a quarter turn: what was up goes to the left
            angle, right, up = 90.0, left + float(parts[k].outline[:, 1].max()), bottom - float(low[0])
        placed.append(Placed(name=parts[k].name, sheet=sheet, angle=angle, x=right, y=up))
    return placed


def _deal(parts: list[FlatPart], count: int) -> list[list[FlatPart]]:
    """Parts to sheets, the largest first, each to the sheet with the least on it."""
    dealt: list[list[FlatPart]] = [[] for _ in range(count)]
    for part in sorted(parts, key=lambda p: -_area([p])):
        min(dealt, key=_area).append(part)
    return dealt


def _on_one_sheet(parts: list[FlatPart], sheets: Sheets, number: int, seconds: float) -> list[Placed] | None:
    """The parts on one sheet, or None where they did not fit in the time. The gap is kept to the sheet's edge too by
    the packing, so that it is given a sheet larger by it."""
    import spyrrow

    if not parts:
        return []
    angles = list(ALONG_GRAIN if sheets.grain else ANY_WAY)
    items = [spyrrow.Item(p.name, [tuple(xy) for xy in p.outline.tolist()], 1, angles) for p in parts]
    extra = 2 * (sheets.gap - sheets.margin)
    instance = spyrrow.StripPackingInstance("sheet", sheets.width + extra, items)
    config = spyrrow.StripPackingConfig(
        min_items_separation=sheets.gap, total_computation_time=max(1, round(seconds)), num_workers=2, seed=1
    )
    solution = instance.solve(config)
    if solution.width > sheets.length + extra:
        return None
    shift = sheets.margin - sheets.gap
    return [
        Placed(
            name=item.id,
            sheet=number,
            angle=float(item.rotation),
            x=float(item.translation[0]) + shift,
            y=float(item.translation[1]) + shift,
        )
        for item in solution.placed_items
    ]
