"""The pages in order of work. A new stage is one more row here."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING, overload

from ...core.job import Job
from ...core.results import has_page
from ..window.state import State

if TYPE_CHECKING:
    from .page import Page


def _doubts(state: State) -> int:
    """Offsets that stand out: they are told on the page of the lines, not as findings."""
    return len(state.fairness.doubts) if state.fairness is not None else 0


@dataclass(frozen=True)
class PageKind:
    """A page: the stage its findings belong to, its name, its shortcut, its module here and its class. `before` is what is done
    next, and its findings are looked at before; "" where it is no step of the work."""

    stage: str
    name: str
    shortcut: str
    module: str
    widget: str
    before: str = ""
    empty: Callable[[State], bool] = lambda _state: False
    """Whether the builder has given it nothing yet, though there is a hull."""
    more: Callable[[State], int] = lambda _state: 0
    """How many things want looking at there beside its findings."""

    def has(self, job: Job) -> bool:
        """Whether a job has anything of the kind."""
        return has_page(job, self.stage)

    def load(self) -> Callable[[], Page]:
        """What makes the page: its class. Its module is loaded when first asked for, not at the start."""
        kind: Callable[[], Page] = getattr(import_module(f".{self.module}", __package__), self.widget)
        return kind


PAGES: tuple[PageKind, ...] = (
    PageKind("offsets", "Offsets", "Ctrl+1", "offsets.page", "OffsetsPage", "before anything is worked out"),
    PageKind("fairing", "Fairing", "Ctrl+2", "fairing.page", "FairingPage", "before molds are cut", more=_doubts),
    PageKind("molds", "Molds", "Ctrl+3", "molds.page", "MoldsPage", "before they are cut"),
    PageKind(
        "setup",
        "Setting up",
        "Ctrl+4",
        "setup.page",
        "SettingUpPage",
        "before you plank over it",
        empty=lambda state: not state.has_molds,
    ),
    PageKind("planking", "Planking", "Ctrl+5", "planking.page", "PlankingPage", "before strips are milled"),
    PageKind("veneers", "Veneers", "Ctrl+8", "veneers.page", "VeneersPage", "before veneers are cut"),
    PageKind("deck", "Deck", "Ctrl+7", "deck.page", "DeckPage", "before the deck's strips are milled"),
    PageKind(
        "stock", "Stock", "Ctrl+6", "stock.page", "StockPage", "before wood is sawn", empty=lambda state: not state.job.stock.given
    ),
    PageKind("sheer", "Sheer", "Ctrl+9", "sheer.page", "SheerPage", "before the sheer is cut"),
    PageKind("log", "Log", "Ctrl+J", "log.page", "LogPage"),
)


BY_STAGE = {kind.stage: kind for kind in PAGES}


def number_of(stage: str) -> int:
    """Where a page stands in the order of work, from 0."""
    return PAGES.index(BY_STAGE[stage])


def load_pages() -> None:
    """Load every page's module; done away from the window's thread, so that a page opens at once."""
    for kind in PAGES:
        kind.load()


class PageShelf(Sequence["Page"]):
    """One page of each kind, each made when it is first wanted."""

    def __init__(self, made: Callable[[Page], None]) -> None:
        self._made = made
        self._pages: dict[int, Page] = {}

    def __len__(self) -> int:
        return len(PAGES)

    @overload
    def __getitem__(self, number: int) -> Page: ...
    @overload
    def __getitem__(self, number: slice) -> Sequence[Page]: ...
    def __getitem__(self, number: int | slice) -> Page | Sequence[Page]:
        if isinstance(number, slice):
            return [self[k] for k in range(*number.indices(len(self)))]
        if not 0 <= number < len(self):
            raise IndexError(number)
        if number not in self._pages:
            page = PAGES[number].load()()
            self._pages[number] = page
            self._made(page)
        return self._pages[number]

    def of(self, stage: str) -> Page:
        """The page of a stage."""
        return self[number_of(stage)]

    def stage_of(self, page: Page) -> str:
        """The stage that a page is of."""
        return next(PAGES[k].stage for k, made in self._pages.items() if made is page)

    @property
    def made(self) -> Iterator[Page]:
        """The pages there are already."""
        yield from self._pages.values()
