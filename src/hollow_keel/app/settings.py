"""What is remembered between sessions about the window, not about any job."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from ..core.errors import InputError
from ..files.store.atomic import write_atomic

RECENT_COUNT = 8
OURS = "hollow-keel"


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
    return _own_folder("XDG_CONFIG_HOME", ".config")


def state_folder() -> Path:
    """Where logs are kept; follows XDG_STATE_HOME."""
    return _own_folder("XDG_STATE_HOME", ".local/state")


def _own_folder(variable: str, usual: str) -> Path:
    """A folder of ours under the one that a variable names; by the standard one that is not absolute does not count. Without a home
    it is one of this user's among the temporary files."""
    named = Path(os.environ.get(variable, ""))
    if named.is_absolute():
        return named / OURS
    try:
        home = Path.home()
    except RuntimeError:  # neither HOME nor an entry of this user
        home = Path()
    if home.is_absolute():
        return home / usual / OURS
    return Path(tempfile.gettempdir()) / f"{OURS}-{os.getuid()}" / usual


def load_settings(folder: Path) -> Settings:
    """The settings; the plain ones where there are none or they cannot be read."""
    try:
        return Settings.model_validate_json((folder / "settings.json").read_bytes())
    except (OSError, ValidationError):
        return Settings()


def save_settings(settings: Settings, folder: Path) -> None:
    """Keep the settings; not being able to is no reason to stop anyone working."""
    with contextlib.suppress(OSError, InputError):
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        write_atomic(folder / "settings.json", settings.model_dump_json(indent=1).encode(), 0o600)
