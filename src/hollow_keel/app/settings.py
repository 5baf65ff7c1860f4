"""What is remembered between sessions about the window, not about any job."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from ..core.errors import InputError
from ..files.atomic import write_atomic

RECENT_COUNT = 8


class Settings(BaseModel):
    """Recent files (newest first), bow to the right or left on the keel line, light, dark or the system's theme."""

    model_config = ConfigDict(frozen=True, extra="ignore")

    recent: tuple[str, ...] = ()
    bow_right: bool = False
    theme: str = "system"
    drawers: dict[str, int] = {}
    """How tall the table below each page was left, pixels, by stage; 0: closed."""

    def with_recent(self, path: Path) -> Settings:
        """The settings with a file moved to the front of the recent ones."""
        name = str(path.resolve())
        others = tuple(p for p in self.recent if p != name)
        return self.model_copy(update={"recent": (name, *others)[:RECENT_COUNT]})


def settings_folder() -> Path:
    """Where settings and the recovery file are kept; follows XDG_CONFIG_HOME."""
    base = os.environ.get("XDG_CONFIG_HOME") or str(Path.home() / ".config")
    return Path(base) / "hollow-keel"


def state_folder() -> Path:
    """Where logs are kept; follows XDG_STATE_HOME."""
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "hollow-keel"


def load_settings(folder: Path) -> Settings:
    """The settings; the plain ones where there are none or they cannot be read."""
    try:
        return Settings.model_validate_json((folder / "settings.json").read_bytes())
    except (OSError, ValidationError):
        return Settings()


def save_settings(settings: Settings, folder: Path) -> None:
    """Keep the settings; not being able to is no reason to stop anyone working."""
    with contextlib.suppress(OSError, InputError):
        folder.mkdir(parents=True, exist_ok=True)
        write_atomic(folder / "settings.json", settings.model_dump_json(indent=1).encode())
