"""From the table of offsets to the hull."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..errors import InputError
from ..findings import Finding, Weight, mm
from ..settings.deck import decked
from ..settings.deck_choices import DeckFrom
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..offsets.table import Lines
    from .build import Hull
    from .deck import Deck
    from .measures import Measures
    from .unsettled import Settled


@dataclass(frozen=True)
class LoadWaterline:
    """The height of the load waterline, mm, given or (with a finding) taken to be there."""

    height: float
    findings: tuple[Finding, ...] = ()


def _lines(given: Given) -> Lines:
    from ..offsets.table import read_lines

    return read_lines(given.job.offsets.figures)


def _hull(given: Given) -> Hull:
    from .build import build_hull

    return build_hull(given[LINES], given.job.outward, given.curves)


def _waterline(given: Given) -> LoadWaterline:
    if given.job.waterline is not None:
        return LoadWaterline(given.job.waterline)
    lines = given[LINES]
    lowest = min(float(points[:, 2].min()) for points in lines.all_points)
    sheer = min(float(s.points[-1, 2]) for s in lines.sections)
    level = round(lowest + (sheer - lowest) / 3)
    text = (
        f"No load waterline is given; it is taken at height {mm(level)}, a third of the way up from the keel. "
        "Any level line will do for setting up, but set the real one for volume and wetted area."
    )
    found = Finding("no-waterline", Weight.LOOK, "offsets", "the load waterline", text)
    return LoadWaterline(float(level), (found,))


def _measures(given: Given) -> Measures:
    from .measures import measure

    return measure(given[HULL], given[WATERLINE].height)


def _settled(given: Given) -> Settled:
    from .unsettled import settled

    return settled(given[LINES], given[HULL])


def _unsettled_findings(told: Settled) -> list[Finding]:
    from .unsettled import unsettled_findings

    return unsettled_findings(told)


@dataclass(frozen=True)
class DeckDrawn:
    """The deck, or why there is none: hull and molds do without it then."""

    deck: Deck | None
    fault: str = ""


def _deck_drawn(given: Given) -> DeckDrawn:
    from .deck import build_deck
    from .deck_lines import cambered, tabled

    job, lines = given.job, given[LINES]
    try:
        drawn = cambered(lines, job.deck) if job.deck.source is DeckFrom.CAMBER else tabled(job.offsets.figures, lines)
        return DeckDrawn(build_deck(drawn, given[HULL], job.deck_outward, given.curves))
    except InputError as error:
        return DeckDrawn(None, str(error))


def _deck(given: Given) -> Deck:
    found = given[DECK_DRAWN]
    if found.deck is None:
        raise InputError(found.fault)
    return found.deck


def _deck_doubt(given: Given) -> float:
    from .deck_doubt import deck_doubt

    return deck_doubt(given[DECK].surface.lines)


LINES = Stage("lines", "offsets", "the lines", ("offsets.figures",), (), _lines)
HULL = Stage("hull", "offsets", "the hull", ("outward",), (LINES,), _hull, lambda hull: hull.findings)
WATERLINE = Stage("waterline", "offsets", "the load waterline", ("waterline",), (LINES,), _waterline, lambda w: w.findings)
MEASURES = Stage("measures", "offsets", "volume and areas", (), (HULL, WATERLINE), _measures)
SETTLED = Stage(
    "settled", "offsets", "how far the table settles the hull", (), (LINES, HULL), _settled, _unsettled_findings, Turn.CHECKS
)
DECK_DRAWN = Stage(
    "deck-drawn",
    "deck",
    "the deck",
    (
        "offsets.figures",
        "deck.source",
        "deck.crown",
        "deck.crown_on",
        "deck.rule",
        "deck.ridge",
        "deck.ridge_height",
        "deck.peak_bow",
        "deck.peak_stern",
        "deck_outward",
    ),
    (LINES, HULL),
    _deck_drawn,
    when=decked,
    shown=False,
)
DECK = Stage("deck", "deck", "the deck", (), (DECK_DRAWN,), _deck, lambda deck: deck.findings, when=decked)
DECK_DOUBT = Stage("deck-doubt", "deck", "how far the deck may be out", (), (DECK,), _deck_doubt, turn=Turn.CHECKS, when=decked)

STAGES = (LINES, HULL, WATERLINE, MEASURES, SETTLED, DECK_DRAWN, DECK, DECK_DOUBT)
