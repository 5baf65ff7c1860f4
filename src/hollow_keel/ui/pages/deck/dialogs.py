"""What is done about the deck away from its page: given by a camber, openings added, changed and taken out, its ticks one by
one."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QFileDialog

from ....core.change import change
from ....core.deck.strip_stages import DECK_TICKS
from ....core.errors import InputError
from ....core.hull.stages import DECK
from ....core.job import Job, Opening
from ....core.settings.deck import decked, next_name
from ....core.settings.deck_choices import CamberRule, DeckFrom, OpeningShape
from ...decide.ask import AskDialog, Asked, Values
from ...views.dialogs import Dialogs, accepted

if TYPE_CHECKING:
    from ....drawing.model import Drawing

SHAPES = {
    OpeningShape.ELLIPSE: "an ellipse",
    OpeningShape.EGG: "an egg, fuller ahead",
    OpeningShape.RECTANGLE: "a rounded rectangle",
}
REMOVE = "take it out"


class DeckDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def differ(self) -> None:
        """The sheet for the current strip of the deck: wood, width and thickness of its own."""
        from .page import DeckPage

        self.shell.go_to_page("deck")
        page = self.shell.page
        if isinstance(page, DeckPage) and page.strip is not None:
            page.run_from = page.strip.number
            page.show_band(page.run_from, page.run_from, page.canvas.rect().center())
            self.say("Click the first strip that differs, then Shift-click the last.")

    # -- the deck ----------------------------------------------------------------------------------------------

    def camber(self) -> None:
        """Ask for a crown and give the hull a deck by it."""
        state = self.state
        if state.shape is None:
            self.say("Give the hull's offsets first: the deck is laid over its sheer.")
            return
        deck = self.job.deck
        beam = state.shape.measures.beam
        crown, on, rule = "Crown", "on a beam of", "Narrower beams"
        asked = [
            Asked(crown, deck.crown if deck.source is DeckFrom.CAMBER else round(beam / 16)),
            Asked(on, deck.crown_on or beam),
            Asked(
                rule,
                deck.rule,
                choices={
                    CamberRule.ONE_PATTERN: "take the middle of one pattern",
                    CamberRule.PROPORTION: "have a crown in proportion",
                },
            ),
        ]

        def made(values: Values) -> Job:
            fields = {"source": DeckFrom.CAMBER, "crown": values[crown], "crown_on": values[on], "rule": values[rule]}
            return change(self.job, "deck", **fields)

        def picture(values: Values) -> Drawing:
            from ....drawing.deck.camber import camber_picture

            return camber_picture(made(values).deck, beam, state.style)

        dialog = AskDialog(
            "A deck by a camber",
            asked,
            state.style,
            state.theme,
            picture,
            intro="The camber is a parabola over the beam at the sheer.",
            parent=self.parent,
        )
        if accepted(dialog):
            self.edit("a deck by a camber", made(dialog.values))
            self.shell.go_to_page("deck")

    def no_deck(self) -> None:
        """Take the deck away again; rows of the table past the sheer stay where they are."""
        if not decked(self.job):
            self.say("There is no deck.")
        elif self.job.deck.source is DeckFrom.CAMBER:
            self.edit("no deck", change(self.job, "deck", source=DeckFrom.TABLE))
            if decked(self.job):
                self.say("The table's own rows past the sheer give the deck now.")
        else:
            self.say("The deck comes from the offsets past the sheer: take those rows out on the Offsets page.")

    # -- openings ----------------------------------------------------------------------------------------------

    def add(self) -> None:
        """Ask for one more opening."""
        if self._has_deck():
            self._ask(None)

    def openings(self) -> None:
        """Change one of the openings, or take it out; where there is none yet, add one."""
        if not self._has_deck():
            return
        own = self.job.deck.openings
        if not own:
            self._ask(None)
            return
        number = 0
        if len(own) > 1:
            which = Asked("Which one", 0, choices={k: opening.name for k, opening in enumerate(own)})
            dialog = AskDialog("Openings", [which], self.state.style, self.state.theme, parent=self.parent)
            if not accepted(dialog):
                return
            number = dialog.values["Which one"]
        self._ask(number)

    def _has_deck(self) -> bool:
        if not decked(self.job):
            self.say("Give the hull a deck first: by a camber, or by offsets past the sheer.")
            return False
        return True

    def _ask(self, number: int | None) -> None:
        """Ask about an opening, new (None) or by its number; the deck is drawn with it as it is typed."""
        state, own = self.state, self.job.deck.openings
        start = own[number] if number is not None else _likely(self.job)
        if start.shape is OpeningShape.DRAWN:
            self._ask_curve(number)
            return
        shape, forward, corner = "Shape", "Widest ahead of the middle by", "Corners, radius"
        lengths = {
            "Middle at": "at",
            "Off the centreline": "off",
            "Long": "length",
            "Wide": "width",
            "Largest template larger by": "largest",
        }
        asked = [
            Asked(shape, start.shape, choices={**SHAPES, **({REMOVE: REMOVE} if number is not None else {})}),
            *(Asked(name, getattr(start, field)) for name, field in lengths.items()),
            Asked(forward, 100 * start.forward, "% of half its length", when=lambda v: v[shape] is OpeningShape.EGG),
            Asked(corner, start.corner, when=lambda v: v[shape] is OpeningShape.RECTANGLE),
        ]

        def made(values: Values) -> Job:
            if values[shape] == REMOVE:
                return change(self.job, "deck", openings=tuple(o for k, o in enumerate(own) if k != number))
            fields: dict[str, Any] = {field: values[name] for name, field in lengths.items()}
            fields["shape"] = values[shape]
            if forward in values:
                fields["forward"] = values[forward] / 100
            if corner in values:
                fields["corner"] = values[corner]
            return self._with(number, {**start.model_dump(), **fields})

        def picture(values: Values) -> Drawing:
            return self._drawn(made(values))

        title = "Add an opening" if number is None else f"The {start.name}"
        dialog = AskDialog(title, asked, state.style, state.theme, picture, parent=self.parent)
        if accepted(dialog):
            self.edit(f"the {start.name}", made(dialog.values))
            self.shell.go_to_page("deck")

    def _with(self, number: int | None, opening: dict[str, Any]) -> Job:
        own: list[Any] = list(self.job.deck.openings)
        if number is None:
            own.append(opening)
        else:
            own[number] = opening
        return change(self.job, "deck", openings=tuple(own))

    def _drawn(self, job: Job) -> Drawing:
        """The deck with a job's openings on it. Raises InputError for one that is no curve."""
        from ....core.deck.outlines import outline, template
        from ....drawing.deck.plan import deck_with_outlines

        deck = self.state.known.get(DECK)
        if deck is None:
            raise InputError("the deck is being worked out", mend="A moment, please.")
        return deck_with_outlines(deck, [(outline(o), template(o)) for o in job.deck.openings])

    def draw(self) -> None:
        """Draw an opening on the deck."""
        from .page import DeckPage

        if self._has_deck():
            self.shell.go_to_page("deck")
            page = self.shell.page
            if isinstance(page, DeckPage):
                page.trace_opening()

    def curve(self) -> None:
        """An opening by points of its own closed curve."""
        if self._has_deck():
            self._ask_curve(None)

    def _ask_curve(self, number: int | None) -> None:
        from ...decide.lengths_dialog import LengthsDialog, Rows

        start = self.job.deck.openings[number] if number is not None else _likely(self.job)

        def with_curve(rows: Rows) -> Job:
            fields = {**start.model_dump(), "shape": OpeningShape.DRAWN, "drawn": rows}
            return self._with(number, fields)

        dialog = LengthsDialog(
            f"The {start.name} by its own curve",
            "Points round it in order, each by its position along the hull and how far it lies to starboard; a smooth "
            "curve closes them.",
            ["Along the hull", "To starboard"],
            start.drawn,
            self.state.style,
            lambda rows: self.shell.session.attempt(with_curve(rows)),
            self.parent,
            in_order=False,
        )
        if accepted(dialog):
            self.edit(f"the {start.name}", with_curve(dialog.given))
        else:
            self.shell.session.give_up()

    def from_dxf(self) -> None:
        """An opening by the largest closed curve of a drawing."""
        if not self._has_deck():
            return
        name, _ = QFileDialog.getOpenFileName(self.parent, "An opening from a drawing", str(self.shell.folder), "Drawings (*.dxf)")
        if name:
            self.read_curve(Path(name))

    def read_curve(self, path: Path) -> None:
        """Take an opening from a drawing; what cannot be is said."""
        from ....app.processes.foreign import ForeignRead
        from ...background.aside import run_aside

        reading = ForeignRead("curve", path)
        try:
            points = run_aside(self.parent, "Reading the drawing…", reading.run, reading.stop)
        except InputError as error:
            self.shell.warn("An opening from a drawing", str(error))
            return
        if points is None:
            return
        start = _likely(self.job)
        opening = start.model_copy(update={"shape": OpeningShape.DRAWN, "drawn": tuple(map(tuple, points.tolist()))})
        self.edit(f"the {start.name} from {path.name}", self._with(None, opening.model_dump()))
        self.shell.go_to_page("deck")

    # -- bench -------------------------------------------------------------------------------------------------

    def ticks(self) -> None:
        """Where every strip of the deck comes on the current mold, one at a time."""
        from ...bench.deck import deck_tick_steps

        state = self.state
        rows = (state.known.get(DECK_TICKS) or {}).get(state.mold.name if state.mold else "", ())
        if not rows or state.mold is None or state.shape is None:
            self.say("There are no strips of the deck on this mold.")
            return
        self.bench(deck_tick_steps(state.shape, state.mold, rows, state.style))


def _likely(job: Job) -> Opening:
    """Where one more opening likely lies: the first a cockpit about amidships, the next ones hatches astern of it."""
    stations = [row.station for row in job.offsets.rows]
    low, high = min(stations, default=0.0), max(stations, default=1000.0)
    long = high - low
    beam = 2 * max((row.half_breadth for row in job.offsets.rows), default=100.0)
    name = next_name(job.deck.openings)
    if name == "cockpit":
        wide = min(0.7 * beam, 0.1 * long)
        return Opening(name="cockpit", at=round(low + 0.5 * long), length=round(0.18 * long), width=round(wide))
    return Opening(name=name, at=round(low + 0.78 * long), length=round(0.09 * long), width=round(min(0.4 * beam, 0.06 * long)))
