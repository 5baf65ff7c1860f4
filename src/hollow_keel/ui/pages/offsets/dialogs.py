"""Changes of the whole table, asked for with a picture of what it does: scale, baseline, stations, the other end."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ....core.errors import InputError
from ....core.hull.restation import restationed
from ....core.job import Job
from ....core.offsets.table import OffsetsTable
from ....core.results import Shape, deck_of_table
from ....core.sheer.stages import SHEER
from ....core.whole_job import job_raised, job_restationed, job_scaled, job_turned
from ....drawing.lines.table_changes import baseline_under, scaled_over, stations_at
from ....drawing.model import Drawing
from ...decide.ask import AskDialog, Asked, Values
from ...views.dialogs import Dialogs, accepted

FACTORS = ("Length", "Beam", "Depth")
LOWER, EVERY = "Lower it by", "A station every"


class TableDialogs(Dialogs):
    """Asks, and hands the changed job on as one step. Bad answers are said and change nothing."""

    def scale(self) -> None:
        """Factors for length, beam and depth, or the length and the beam that are wanted."""
        shape = self._drawn()
        now = {} if shape is None else {"Length": shape.measures.length, "Beam": shape.measures.beam}
        asked = [Asked(name, 1.0, "times", of=now.get(name, 0.0)) for name in FACTORS]
        picture = None if shape is None else lambda v: scaled_over(shape, *self._sound(v)[::2])
        sizes = [f"{self.state.write(size, unit=True)} {name}" for name, size in zip(("long", "wide"), now.values(), strict=False)]
        intro = f"It is {' and '.join(sizes)} now. Give factors, or the size wanted with its unit." if now else ""
        values = self._ask("Scale the design", asked, picture, self._displaced, intro)
        if values is not None:
            self._try("scale the design", lambda job: job_scaled(job, *self._sound(values)))

    def _sound(self, values: Values) -> tuple[float, float, float]:
        """Factors of length, beam and depth that leave a hull. Raises InputError."""
        length, beam, depth = (float(values[name]) for name in FACTORS)
        job_scaled(self.state.job, length, beam, depth)
        return length, beam, depth

    def _displaced(self, values: Values) -> str:
        length, beam, depth = self._sound(values)
        shape = self._drawn()
        if shape is None:
            return ""
        before = shape.measures.volume * 1000
        now, then = (self.state.amount(own, "kg", ".0f") for own in (before, before * length * beam * depth))
        return f"Displacement in fresh water {now} becomes {then}; scantlings and stability do not scale with it."

    def baseline(self) -> None:
        """Move the line that heights are measured from."""
        shape = self._drawn()
        picture = None if shape is None else lambda v: baseline_under(shape, v[LOWER])
        values = self._ask("Move the baseline", [Asked(LOWER, 0.0)], picture, intro="Heights grow by as much; a minus raises it.")
        if values is not None:
            self._try("move the baseline", lambda job: job_raised(job, values[LOWER]))

    def restation(self) -> None:
        """New stations at an even spacing, measured on the hull's own surface."""
        shape = self._drawn()
        if shape is None:
            self.say("The lines must be drawn first: put the table right, then try again.")
            return

        def cut(values: Values) -> OffsetsTable:
            return restationed(self.state.job.offsets, shape.hull, values[EVERY], deck=deck_of_table(shape))

        def picture(values: Values) -> Drawing:
            places = {row.station for row in cut(values).rows if row.label in ("keel", "sheer")}
            return stations_at(shape, sorted(places))

        values = self._ask("Space the stations anew", [Asked(EVERY, 400.0, ours=True)], picture)
        if values is not None:
            self._try("space the stations anew", lambda job: job_restationed(job, cut(values), _molds(shape)))

    def _drawn(self) -> Shape | None:
        """The shape, as long as it is of the offsets as they are."""
        return self.state.drawn_from(self.state.job.offsets)

    def turn(self) -> None:
        """Count the stations from the other end."""

        def turn(job: Job) -> Job:
            shape = self.state.drawn_from(job.offsets)
            if shape is None:  # molds and zero are not known: the table alone
                return job_turned(job, (), None)
            sheer = self.state.known.get(SHEER)
            bases = [float(base[0]) for base in sheer.bases] if sheer is not None else []
            return job_turned(job, _molds(shape), shape.setup.zero_at, bases)

        self._try("count from the other end", turn)

    def _ask(
        self,
        title: str,
        asked: Sequence[Asked],
        picture: Callable[[Values], Drawing] | None = None,
        words: Callable[[Values], str] | None = None,
        intro: str = "",
    ) -> Values | None:
        dialog = AskDialog(title, asked, self.state.style, self.state.theme, picture, words, intro, self.parent)
        return dialog.values if accepted(dialog) else None

    def _try(self, label: str, work: Callable[[Job], Job]) -> None:
        job = self.state.job
        if not job.offsets.rows:
            self.say("This job has no offsets yet.")
            return
        try:
            self.edit(label, work(job))
        except InputError as error:
            self.say(str(error))


def _molds(shape: Shape) -> list[tuple[str, float]]:
    """Names and stations of the molds as they stand."""
    return [(mold.name, mold.station) for mold in shape.molds.molds]
