"""The words of a line of the log, each with what it means. Whatever is not among them is shown as not understood."""

from __future__ import annotations

from collections.abc import Mapping

from ..settings.log_entry import Task
from ..settings.woods import WOODS


def _words(text: str) -> frozenset[str]:
    return frozenset(text.split())


NUMBERS = {
    "one": 1,
    "two": 2,
    "three": 3,
    "four": 4,
    "five": 5,
    "six": 6,
    "seven": 7,
    "eight": 8,
    "nine": 9,
    "ten": 10,
    "eleven": 11,
    "twelve": 12,
}
WEEKDAYS = (
    ("monday", "montag", "lundi"),
    ("tuesday", "dienstag", "mardi"),
    ("wednesday", "mittwoch", "mercredi"),
    ("thursday", "donnerstag", "jeudi"),
    ("friday", "freitag", "vendredi"),
    ("saturday", "samstag", "samedi"),
    ("sunday", "sonntag", "dimanche"),
)
MONTHS = (
    ("Jan", "January", "Januar", "janvier"),
    ("Feb", "February", "Februar", "fév", "février"),
    ("Mar", "March", "Mär", "März", "mars"),
    ("Apr", "April", "avr", "avril"),
    ("May", "Mai"),
    ("Jun", "June", "Juni", "juin"),
    ("Jul", "July", "Juli", "juil", "juillet"),
    ("Aug", "August", "août"),
    ("Sep", "Sept", "September", "septembre"),
    ("Oct", "October", "Okt", "Oktober", "octobre"),
    ("Nov", "November", "novembre"),
    ("Dec", "December", "Dez", "Dezember", "déc", "décembre"),
)
"""In English, German and French, short and whole."""

LAID = _words(
    """
    planked planking laid lay laying fitted fitting fit glued gluing stapled stapling nailed nailing hung hanging fastened
    fastening screwed screwing clamped clamping fixed fixing closed closing installed installing attached bonded edge-glued
    edge-gluing edge-nailed
    """
)
"""Words that tell of strips or veneers that came on."""
_WORK = {
    Task.SETTING_UP: """
    setup set-up setting-up levelled levelling leveled leveling plumbed plumbing aligned aligning
    """,
    Task.VENEERS: """
    veneering cold-molding cold-moulding
    """,
    Task.FAIRING: """
    fairing faired sanding sanded sand planing planed longboarding longboarded filling filled scraping scraped puttied
    puttying
    """,
    Task.GLASSING: """
    glassing glassed coating coated sheathing sheathed
    """,
    Task.TURNING: """
    turning turned lifting lifted rolled flipped flipping
    """,
    Task.DECK: """
    decking decked
    """,
    Task.OTHER: """
    milled milling ripped ripping sawed sawn sawing cut cutting scarfed scarfing scarphed scarphing routed routing beaded
    beading coved coving cleaned cleaning sorted sorting numbered numbering marked marking ordered ordering bought buying
    stained staining sealed sealing primed priming painted painting varnished varnishing oiled oiling removed removing pulled
    pulling took taking taken tried trying dry-fitted dry-fitting repaired repairing measured measuring checked checking
    inspected inspecting beveled bevelled beveling bevelling prepared preparing stacked stacking dried drying broke broken
    cracked replaced replacing reglued re-glued tested testing swept sweeping tidied tidying moved moving loaded loading
    unloaded drew drawing drawn lofted lofting made making built building bent bending steamed steaming drilled drilling
    plugged plugging trimmed trimming trued truing traced tracing printed printing sharpened sharpening masked masking taped
    taping waxed waxing delivered collected collecting fetched fetching picked picking split splitting slipped crept popped
    planned planning thought looked looking shaped shaping covered covering wrapped wrapping unclamped unclamping unscrewed
    unscrewing dismantled counted counting selected worked working mixed mixing
    """,
}
WORK: Mapping[str, Task] = {word: task for task, words in _WORK.items() for word in words.split()}
"""Words that tell of other work, and what it counts as where nothing else in the line says: `other` leaves that to the rest."""
_THINGS = {
    Task.MOLDS: "mold molds mould moulds pattern patterns",
    Task.SETTING_UP: "strongback",
    Task.PLANKING: "strip strips plank planks batten battens staples",
    Task.VENEERS: "veneer veneers",
    Task.FAIRING: "longboard filler compound",
    Task.GLASSING: "glass cloth coat coats fiberglass fibreglass",
    Task.SHEER: "sheer rail rails inwale inwales outwale outwales gunwale gunwales beam beams",
    Task.DECK: "deck decks",
}
THINGS: Mapping[str, Task] = {word: task for task, words in _THINGS.items() for word in words.split()}
"""What the work was done on."""
SCARF = _words(
    """
    scarf scarfs scarph scarphs scarfed scarfing joint joints butt butts scarphed scarphing
    """
)
"""Glue in these lays nothing."""
UNDONE = _words(
    """
    not no never didn't couldn't can't cannot won't isn't aren't wasn't unfinished tomorrow next need needs must should will
    to-do todo almost nearly half partly still before until waiting ready
    off wrong bad loose ruined spoilt spoiled too short missing remain remaining remains
    """
)
"""Where one of these stands, nothing was finished and nothing came on."""
TIMBER = (
    "wood",
    "timber",
    "stock",
    "strips",
    "cedar",
    "fir",
    "larch",
    "mahogany",
    "oak",
    "ash",
    "ply",
    *sorted({name.split()[-1].lower() for name in WOODS}),
)
"""Words for what strips are sawn from: so many metres of it were used up."""
RAILS = ("rails?", "inwales?", "outwales?", "gunwales?", "keel", "rubbing strake", "sheer")
KIN = (
    "friend",
    "neighbour",
    "neighbor",
    "son",
    "daughter",
    "wife",
    "husband",
    "brother",
    "sister",
    "father",
    "dad",
    "mother",
    "mum",
    "helper",
    "apprentice",
    "partner",
)
PLAIN = _words(
    """
    a an and at the of on in to from by for with up down over under again all more some each every both then after before it
    them they we i me us he she his her our my this that these those was were is are be been had has have did do so very
    well just also first last second third top bottom bow stern fore aft forward inside outside upper lower left right side
    sides end ends middle amidships here there now noon midday midnight today work day evening morning afternoon night cold
    warm hot rain rainy dry wet windy sunny slow slowly fast good fine nice easy hard late early alone together out
    """
)
"""Words that change nothing of what was done."""
