"""What is read on the hull about its edge, and the points of a trimming curve."""

from __future__ import annotations

from ....core.change import change
from ....core.findings import in_words
from ....core.molds.read_at import at_heads, there
from ....core.settings.readings import ArcReading, EyeReading, Side
from ....core.settings.sheer import curved, trimmed
from ....core.settings.sheer_choices import SeenFrom
from ....core.sheer.curve import first_curve
from ....core.sheer.heads import SheerMark, SheerPlan
from ...views.dialogs import Dialogs, accepted
from ...views.readings_dialog import ReadingsDialog

POINTS = 8
SIDES = tuple(Side)


class TrimDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def _chosen(self) -> tuple[SheerPlan, SheerMark] | None:
        """All heads, and the one that the page shows."""
        from .page import SheerPage

        if not trimmed(self.job):
            self.say("Carry the sheer to the outside first.")
            return None
        self.shell.go_to_page("sheer")
        page = self.shell.page
        if isinstance(page, SheerPage) and page.plan is not None and page.mark is not None:
            return page.plan, page.mark
        self.say("The sheer is being worked out: a moment, please.")
        return None

    def arcs(self) -> None:
        """How far the chosen head's mark is from where arcs are swung from, on both sides."""
        chosen = self._chosen()
        if chosen is None:
            return
        plan, mark = chosen
        write = self.state.write
        columns = [f"arc {k + 1}, {in_words(name, write)}" for k, name in enumerate(plan.base_names[:3])]
        read = {(head.name, r.side): r for head, r in at_heads(self.job.trim.arcs, plan.marks)}
        values = {
            (row, k): value
            for row, side in enumerate(SIDES)
            if (mark.name, side) in read
            for k, value in enumerate(read[mark.name, side].radii)
            if value is not None
        }
        hints = {(row, k): f"plan {write(radius)}" for row in range(len(SIDES)) for k, radius in enumerate(mark.radii)}
        dialog = ReadingsDialog(
            f"Arcs at {mark.name}",
            "How far the mark outside is, straight, from each place on the centreline. Arcs read on one "
            "side are swung on the other; read the third on both, and their shapes are compared.",
            [side.value for side in SIDES],
            columns,
            values,
            hints,
            self.state.style,
            self.parent,
        )
        if not accepted(dialog):
            return
        kept = [r for r in self.job.trim.arcs if there((r.head, r.at), plan.marks) is not mark]
        for row, side in enumerate(SIDES):
            radii = tuple(dialog.values.get((row, k)) for k in range(3))
            if any(radius is not None for radius in radii):
                kept.append(ArcReading(head=mark.name, side=side, at=mark.station, radii=radii))
        self.edit(f"arcs at {mark.name}", change(self.job, "trim", arcs=tuple(kept)))

    def heights(self) -> None:
        """How high a curve drawn by eye is at the chosen head, on both sides."""
        chosen = self._chosen()
        if chosen is None:
            return
        plan, mark = chosen
        read = {(head.name, r.side): r.height for head, r in at_heads(self.job.trim.eye, plan.marks)}
        values = {(row, 0): read[mark.name, side] for row, side in enumerate(SIDES) if (mark.name, side) in read}
        hints = {(row, 0): f"plan {self.state.write(mark.outside_up)}" for row in range(len(SIDES))}
        dialog = ReadingsDialog(
            f"By eye at {mark.name}",
            "How high above the set-up line the curve is drawn here.",
            [side.value for side in SIDES],
            ["height"],
            values,
            hints,
            self.state.style,
            self.parent,
        )
        if not accepted(dialog):
            return
        kept = [r for r in self.job.trim.eye if there((r.head, r.at), plan.marks) is not mark]
        kept += [
            EyeReading(head=mark.name, side=side, at=mark.station, height=dialog.values[row, 0])
            for row, side in enumerate(SIDES)
            if (row, 0) in dialog.values
        ]
        self.edit(f"heights by eye at {mark.name}", change(self.job, "trim", eye=tuple(kept)))

    def first_curve(self) -> None:
        """A curve to begin with, drawn on the page: there its points are dragged."""
        chosen = self._chosen()
        if chosen is None:
            return
        if curved(self.job):
            self.say("There is a trimming curve: its points are dragged on its drawing, under Trimming curve.")
            return
        at, to = first_curve(chosen[0], self.job.trim.curve_seen)
        self.edit("a trimming curve", change(self.job, "trim", curve_at=at, curve_to=to))

    def curve(self) -> None:
        """The points of a trimming curve."""
        if self._chosen() is None:
            return
        own = self.job.trim
        other = "height" if own.curve_seen is SeenFrom.SIDE else "half-breadth"
        values = {(k, 0): at for k, at in enumerate(own.curve_at)}
        values |= {(k, 1): to for k, to in enumerate(own.curve_to)}
        dialog = ReadingsDialog(
            "Trimming curve",
            f"Its points in the order of the curve: where each stands along the hull, and its {other} by the offsets.",
            [f"point {k + 1}" for k in range(max(POINTS, len(own.curve_at), len(own.curve_to)))],
            ["position", other],
            values,
            {},
            self.state.style,
            self.parent,
        )
        if not accepted(dialog):
            return
        rows = sorted({row for row, _ in dialog.values})
        half = [row for row in rows if ((row, 0) in dialog.values) != ((row, 1) in dialog.values)]
        if half:
            self.say(f"Point {half[0] + 1} has one of its two numbers only: the curve is left as it was.")
            return
        at, to = (tuple(dialog.values[row, k] for row in rows) for k in (0, 1))
        self.edit("the trimming curve", change(self.job, "trim", curve_at=at, curve_to=to))
