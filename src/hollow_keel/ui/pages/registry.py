"""The pages in order of work. A new stage is one more row here."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import overload

from .page import Page


@dataclass(frozen=True)
class PageKind:
    """A page: the stage its findings belong to, its name, its shortcut, its module here and its class."""

    stage: str
    name: str
    shortcut: str
    module: str
    widget: str

    def load(self) -> Callable[[], Page]:
        """What makes the page: its class. Its module is loaded when first asked for, not at the start."""
        kind: Callable[[], Page] = getattr(import_module(f".{self.module}", __package__), self.widget)
        return kind


PAGES: tuple[PageKind, ...] = (
    PageKind("offsets", "Offsets", "Ctrl+1", "offsets.page", "OffsetsPage"),
    PageKind("fairing", "Fairing", "Ctrl+2", "fairing.page", "FairingPage"),
    PageKind("molds", "Molds", "Ctrl+3", "molds.page", "MoldsPage"),
    PageKind("setup", "Setting up", "Ctrl+4", "setup.page", "SettingUpPage"),
    PageKind("planking", "Planking", "Ctrl+5", "planking.page", "PlankingPage"),
    PageKind("veneers", "Veneers", "Ctrl+8", "veneers.page", "VeneersPage"),
    PageKind("deck", "Deck", "Ctrl+7", "deck.page", "DeckPage"),
    PageKind("stock", "Stock", "Ctrl+6", "stock.page", "StockPage"),
    PageKind("sheer", "Sheer", "Ctrl+9", "sheer.page", "SheerPage"),
    PageKind("log", "Log", "Ctrl+J", "log.page", "LogPage"),
)


def load_pages() -> None:
    """Load every page's module; done away from the window's thread, so that a page opens at once."""
    for kind in PAGES:
        kind.load()


class PageShelf(Sequence[Page]):
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

    def stage_of(self, page: Page) -> str:
        """The stage that a page is of."""
        return next(PAGES[k].stage for k, made in self._pages.items() if made is page)

    @property
    def made(self) -> Iterator[Page]:
        """The pages there are already."""
        yield from self._pages.values()
