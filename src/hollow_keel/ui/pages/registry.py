"""The pages in order of work. A new stage is one more row here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from .fairing import FairingPage
from .molds import MoldsPage
from .offsets import OffsetsPage
from .page import Page
from .planking import PlankingPage
from .setting_up import SettingUpPage


@dataclass(frozen=True)
class PageKind:
    """A page: the stage its findings belong to, its name, its shortcut and how it is made."""

    stage: str
    name: str
    shortcut: str
    make: Callable[[], Page]


PAGES: tuple[PageKind, ...] = (
    PageKind("offsets", "Offsets", "Ctrl+1", OffsetsPage),
    PageKind("fairing", "Fairing", "Ctrl+2", FairingPage),
    PageKind("molds", "Molds", "Ctrl+3", MoldsPage),
    PageKind("setup", "Setting up", "Ctrl+4", SettingUpPage),
    PageKind("planking", "Planking", "Ctrl+5", PlankingPage),
)
