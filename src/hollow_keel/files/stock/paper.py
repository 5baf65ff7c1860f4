"""The stock plan on paper: what to buy, how boards are sawn, joints, pieces, what is used up; and labels for bundles and pieces."""

from __future__ import annotations

from ...core.amounts import far_length
from ...core.findings import in_words
from ...core.results import Results
from ...core.settings.timber import JointKind
from ...core.settings.units import UnitSettings
from ...core.stock.needs import SIDES
from ...core.stock.plan import StockPlan
from ...core.stock.rip import SAW_CAUTION, bundle_words, saw_steps
from ...core.units import LengthStyle, format_length, given_size
from ...core.words import counted, verb
from ...drawing.stock.board_cuts import board_cuts
from ...drawing.stock.joint_map import joint_map
from ..paper.listed import listed
from ..paper.pages import Head, Pages, broken
from ..paper.sheet import PAPERS, Ink, Sheet
from .schedules import CONSUMED, LOTS, bought_of, lot_size, stock_of

LABEL_MM, LABELS = (63.5, 33.9), (3, 8)
"""Width and height of a label, and how many across and down an A4 page: on plain paper, cut them apart."""
LABEL_EDGE_MM = 4.0


WIDE = {"mark": 1, "size": 4, "wood": 3, "count": 1.4, "each": 1.5, "cost": 1.7, "what": 3, "amount": 1.4, "reckoned": 6}
"""Columns, as wide as they are beside each other."""


def stock_pdf(results: Results) -> bytes:
    """The whole plan. Raises ImpossiblePlan where there is none."""
    plan, job = stock_of(results), results.shape.job
    style = job.units.style
    pages = Pages(f"{job.name}: wood and joints", f"lengths in {style.name}, {style.rounding_name}")
    pages.page()
    _to_buy(pages, results, plan, style)
    _sawing(pages, results, plan, style)
    _used_up(pages, plan, job.units)
    _joints(pages, results, plan, style)
    _pieces(pages, plan, style)
    return pages.finish()


def _to_buy(pages: Pages, results: Results, plan: StockPlan, style: LengthStyle) -> None:
    buying = results.shape.job.stock.buying
    together = far_length(sum(n.length for n in plan.needs), style)
    pages.line(f"{len(plan.needs)} lengths for both sides, {together} together with what is trimmed off at the ends.")
    if plan.plan is not None and plan.plan.used:
        lost = 100 * plan.plan.lost / plan.plan.used
        pages.line(
            f"{counted(plan.plan.joints, 'joint')} {verb(plan.plan.joints, 'takes', 'take')} {lost:.1f} % of the wood; "
            f"{counted(len(plan.plan.left), 'offcut')} left to be used elsewhere."
        )
    for finding in plan.findings:
        said = finding.said(lambda v: format_length(v, style, unit=True))
        pages.line(f"{said.where}: {said.text}", strong=True)
    pages.heading("To buy" if plan.purchases else "Nothing needs to be bought")
    if plan.purchases:
        listed(pages, LOTS, *LOTS.told(bought_of(results.job, plan), LOTS.paper), results.job.units, wide=WIDE)
        pages.line(f"Together {plan.cost:.2f} {buying.currency}. {buying.spare:g} % more than is needed, joints counted.")


def _sawing(pages: Pages, results: Results, plan: StockPlan, style: LengthStyle) -> None:
    saw = results.shape.job.stock.saw

    def say(value: float) -> str:
        return format_length(value, style.fine, unit=True)

    for lot in plan.lots:
        pages.heading(f"{lot.count} × board {lot.mark}: {lot_size(lot, results.job.units)}, {lot.section.wood}", with_next=62)
        drawing = board_cuts(lot, saw, style)
        pages.picture(drawing, 26)
        pages.line(drawing.title)
        for k, step in enumerate(saw_steps(lot.board, lot.rip, saw), start=1):
            pages.line(f"{k}.  {in_words(step, say)}", indent=4)
        if lot.boards:
            pages.line(bundle_words(lot.boards[0], lot.rip.count, saw.order), indent=4)
    pages.line(SAW_CAUTION)


def _used_up(pages: Pages, plan: StockPlan, units: UnitSettings) -> None:
    rows, fields = CONSUMED.told(plan)
    pages.heading(CONSUMED.title, with_next=14.0 + 8.0 * len(rows))
    listed(pages, CONSUMED, rows, fields, units, wide=WIDE)
    pages.line("Epoxy: gloves and ventilation; a full pot grows hot; it sensitises.")


def _joints(pages: Pages, results: Results, plan: StockPlan, style: LengthStyle) -> None:
    settings = results.shape.job.stock.joints
    if settings.kind is JointKind.NONE:
        return
    pages.page()
    pages.line(
        f"A joint takes {format_length(plan.joint.lost, style, unit=True)} of length and has about "
        f"{100 * plan.joint.strength:.0f} % of the strength of {plan.joint.of}; it {plan.joint.bends}."
    )
    pages.line(
        f"Joints of neighbouring strips stand {format_length(settings.stagger, style, unit=True)} apart, "
        f"{counted(settings.rows, 'strip')} back. Each mark is the middle of a joint, to scale along the hull."
    )
    for side in SIDES:
        pages.heading(side, with_next=100)
        pages.picture(joint_map(results.shape, results.planking, plan, side, style), 92, stretched=True)


def _pieces(pages: Pages, plan: StockPlan, style: LengthStyle) -> None:
    if plan.plan is None:
        return
    pages.page()
    pages.heading("Pieces of every strip, forward end first")
    heads = (Head("strip", 2), Head("cut to", 1.6, True), Head("pieces", 6), Head("joints from forward end", 3))
    pages.table(
        heads,
        (
            (
                m.need.name,
                format_length(m.need.length, style),
                " + ".join(f"{p.stick} {format_length(p.length, style)}" for p in m.pieces),
                ", ".join(format_length(j, style) for j in m.joints),
            )
            for m in plan.plan.made
        ),
        boxes=True,
    )
    pages.line("A star: the rest of a strip that another piece was cut from. Try a joint or two on offcuts first.")


def labels_pdf(results: Results) -> bytes:
    """A label for each board's bundle of strips and each piece, on sheets of labels. Raises ImpossiblePlan."""
    plan, job = stock_of(results), results.shape.job
    texts = [*_bundle_labels(plan, job.units.style), *_piece_labels(plan, job.units.style)]
    width, height = PAPERS["a4"]
    sheet = Sheet(f"{job.name}: labels")
    across, down = LABELS
    left, top = (width - across * LABEL_MM[0]) / 2, height - (height - down * LABEL_MM[1]) / 2
    for first in range(0, len(texts), across * down):
        sheet.page(width, height)
        for k, (head, lines) in enumerate(texts[first : first + across * down]):
            x, y = left + (k % across) * LABEL_MM[0], top - (k // across) * LABEL_MM[1]
            _label(sheet, (x, y), job.name, head, lines)
        sheet.end_page()
    return sheet.finish()


def _label(sheet: Sheet, corner: tuple[float, float], job: str, head: str, lines: list[str]) -> None:
    """One label, its upper left corner at a place."""
    x, y = corner
    sheet.pen(Ink(0.8, 0.1))
    sheet.polyline([(x, y), (x + LABEL_MM[0], y), (x + LABEL_MM[0], y - LABEL_MM[1]), (x, y - LABEL_MM[1])], closed=True)
    room = LABEL_MM[0] - 2 * LABEL_EDGE_MM
    sheet.text(x + LABEL_EDGE_MM, y - 9, head, 5.4, strong=True)
    sheet.text(x + LABEL_MM[0] - LABEL_EDGE_MM, y - 5, job, 2.2, anchor="right")
    at = y - 15
    for line in [part for text in lines for part in broken(text, room, 3.2)][:4]:
        sheet.text(x + LABEL_EDGE_MM, at, line, 3.2)
        at -= 4.6


def _bundle_labels(plan: StockPlan, style: LengthStyle) -> list[tuple[str, list[str]]]:
    found = []
    for lot in plan.lots:
        section = given_size((lot.section.width, lot.section.thickness), style, unit=True)
        for name in lot.boards:
            found.append(
                (
                    name,
                    [
                        f"{counted(lot.rip.count, 'strip')} {name}.1 to {name}.{lot.rip.count}",
                        f"{section}, {lot.section.wood}",
                        f"{format_length(lot.board.usable, style, unit=True)} long",
                    ],
                )
            )
    return found


def _piece_labels(plan: StockPlan, style: LengthStyle) -> list[tuple[str, list[str]]]:
    found = []
    for made in plan.plan.made if plan.plan is not None else ():
        for k, piece in enumerate(made.pieces):
            place = f"piece {k + 1} of {len(made.pieces)} from forward" if len(made.pieces) > 1 else "in one piece"
            found.append((made.need.name, [place, f"from {piece.stick}, cut to {format_length(piece.length, style, unit=True)}"]))
    return found
