"""A line of the log while its meaning is found: what it is read with, its clauses, and what was understood so far."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from ..job import Job
from ..settings.log_entry import Entry, Laid, Task
from .grammar import Kind, Phrase
from .vocabulary import LAID, PLAIN, SCARF, THINGS, UNDONE, WORK

TWO_WORDS = {
    ("setting", "up"): Task.SETTING_UP,
    ("set", "up"): Task.SETTING_UP,
    ("turning", "over"): Task.TURNING,
    ("turned", "over"): Task.TURNING,
    ("cold", "molding"): Task.VENEERS,
}
VERBAL = re.compile(r".{2,}(?:ed|ing|wn|ught)$")
"""A word that may tell of work that nobody thought of."""


@dataclass(frozen=True)
class Knows:
    """What a line is read with: strips a side in the plan (None: no plan), who has worked before, glue's densities, kg/l, what one
    stroke of the pump gives, g (0: not tried), and whether 3/4 is the third of April."""

    strips: int | None = None
    names: frozenset[str] = frozenset()
    resin: float = 1.15
    hardener: float = 0.98
    mixed: float = 1.093
    pump: float = 0.0
    day_first: bool = True

    @classmethod
    def of(cls, job: Job, strips: int | None = None, *, day_first: bool = True) -> Knows:
        """What a job tells: its glue, and who is named in its log; `strips` a side in its plan."""
        own = job.stock.used_up
        mixed = (100 * own.resin_density + own.hardener * own.hardener_density) / (100 + own.hardener)
        names = frozenset(name for entry in job.log.entries for name in entry.names)
        return cls(strips, names, own.resin_density, own.hardener_density, mixed, own.pump, day_first)


@dataclass(frozen=True)
class Understood:
    """A part of the line, from one place to another, and what it was taken for."""

    begin: int
    end: int
    meaning: str


@dataclass(frozen=True)
class Quick:
    """What a line came to: the entry (None where something in it cannot be), what was understood, what cannot be, in words,
    whether the line tells its day, and the words that were `left` as they are, not understood."""

    entry: Entry | None
    parts: tuple[Understood, ...]
    faults: tuple[str, ...]
    dated: bool = False
    left: tuple[Understood, ...] = ()


@dataclass
class Clause:
    """Phrases between two stops, and what their words say of the work."""

    phrases: list[Phrase] = field(default_factory=list)

    @property
    def words(self) -> list[str]:
        return [p.text.lower() for p in self.phrases if p.kind is Kind.WORD]

    @property
    def things(self) -> bool:
        return any(p.kind in (Kind.THINGS, Kind.COUNTED) for p in self.phrases)

    def about(self, phrase: Phrase) -> Clause:
        """What of it tells of one of several things: the words before it, as far as the thing before, if they tell of work; else
        those after it, as far as the next."""
        things = [p for p in self.phrases if p.kind is Kind.THINGS]
        if len(things) < 2:
            return self
        at, places = self.phrases.index(phrase), [self.phrases.index(p) for p in things]
        before = max((k for k in places if k < at), default=-1)
        after = min((k for k in places if k > at), default=len(self.phrases))
        ahead = Clause(self.phrases[before + 1 : at + 1])
        return ahead if any(word in LAID or word in WORK for word in ahead.words) else Clause(self.phrases[at:after])

    @property
    def lays(self) -> bool:
        """Whether it names what comes on."""
        return any(p.kind is Kind.THINGS and p.value[0] in ("strips", "veneers") for p in self.phrases)

    @property
    def undone(self) -> bool:
        return any(word in UNDONE or word.endswith("n't") for word in self.words)

    @property
    def laid(self) -> bool:
        """Whether it says that something came on."""
        if SCARF & set(self.words):
            return bool({"planked", "laid", "fitted", "hung"} & set(self.words))
        return bool(LAID & set(self.words)) or self._went_on()

    def _went_on(self) -> bool:
        """Strips 5-8 on; put on strips 5-8."""
        if any(word in WORK for word in self.words):
            return False
        for before, phrase, after in zip([None, *self.phrases], self.phrases, [*self.phrases[1:], None], strict=False):
            if phrase.kind is Kind.WORD and phrase.text.lower() == "on" and before is not None:
                if before.kind in (Kind.THINGS, Kind.SIDE):
                    return after is None or after.text.lower() not in ("the", "a", "an", "each", "every", "all")
                if before.text.lower() in ("put", "went", "are", "is", "go", "going", "all"):
                    return True
        return False

    @property
    def other_work(self) -> bool:
        """Whether it says of other work, in words that are known or that look like it."""
        return any(word in WORK or (word not in PLAIN | LAID and VERBAL.match(word)) for word in self.words)

    @property
    def only_work(self) -> bool:
        """Whether it is nothing but a word of other work, that belongs to what was named before: strips 1-20, sanded."""
        own = [word for word in self.words if word not in PLAIN]
        return bool(own) and all(word in WORK for word in own) and not self.things


@dataclass
class Reading:
    """A line as its meaning is found."""

    line: str
    today: date
    knows: Knows
    clauses: list[Clause] = field(default_factory=list)
    values: dict[str, Any] = field(default_factory=dict)
    parts: list[Understood] = field(default_factory=list)
    left: list[Understood] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)
    gone: set[int] = field(default_factory=set)
    """Places of phrases that a field of the entry holds: they are no words of it any more."""
    tasks: list[tuple[int, int, Task]] = field(default_factory=list)
    hours: list[tuple[str, float]] = field(default_factory=list)
    batches: list[dict[str, Any]] = field(default_factory=list)
    glue: dict[str, Any] = field(default_factory=dict)
    runs: list[Laid] = field(default_factory=list)

    def took(self, phrase: Phrase, meaning: str, *, gone: bool = True) -> None:
        """A phrase was understood; `gone`: it is held by a field."""
        self.parts.append(Understood(phrase.begin, phrase.begin + len(phrase.text.rstrip()), meaning))
        if gone:
            self.gone.add(phrase.begin)

    def leave(self, phrase: Phrase) -> None:
        """A phrase has no meaning that is known: it stays in the entry's words. What was a mistake is told in words alone."""
        if self.values.get("told"):
            return
        self.left.append(Understood(phrase.begin, phrase.begin + len(phrase.text.rstrip()), phrase.text.strip()))


@dataclass(frozen=True)
class At:
    """A phrase where it stands: its clause, and what is before and after it there."""

    clause: Clause
    phrase: Phrase
    before: Phrase | None
    following: Phrase | None


def is_word(name: str) -> bool:
    own = name.lower()
    return own in PLAIN - {"i", "me"} or own in LAID or own in WORK or own in THINGS or own in UNDONE or own in ("used", "with")


def read_word(reading: Reading, at: At) -> None:
    clause = at.clause
    following = at.following
    phrase = at.phrase
    for match in re.finditer(r"\S+", phrase.text):
        own = match[0].lower()
        place = Phrase(phrase.begin + match.start(), phrase.begin + match.end(), Kind.WORD, match[0], match[0])
        pair = (own, following.text.lower()) if following is not None else (own, "")
        if pair in TWO_WORDS:
            reading.tasks.append((0, place.begin, TWO_WORDS[pair]))
            reading.took(place, TWO_WORDS[pair].value, gone=False)
        elif own in LAID:
            veneers = "veneers" in clause.words or any(p.kind is Kind.THINGS and p.value[0] == "veneers" for p in clause.phrases)
            task = Task.VENEERS if veneers else Task.PLANKING
            named = own in ("planked", "planking", "plank")
            if named or (clause.lays and not clause.undone):
                reading.tasks.append((0, place.begin, task))
            reading.took(place, task.value if named else own, gone=False)
        elif own in WORK:
            if WORK[own] is not Task.OTHER:
                reading.tasks.append((0, place.begin, WORK[own]))
            reading.took(place, own if WORK[own] is Task.OTHER else WORK[own].value, gone=False)
        elif own in THINGS:
            reading.tasks.append((1, place.begin, THINGS[own]))
            reading.took(place, THINGS[own].value, gone=False)
        elif own in SCARF:
            reading.took(place, "scarfs and joints", gone=False)
        elif own in PLAIN or own in UNDONE or not re.search(r"\w", own):
            continue
        else:
            reading.leave(place)
