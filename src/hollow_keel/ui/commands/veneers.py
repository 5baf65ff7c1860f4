"""Layers of veneer."""

from __future__ import annotations

from ...core.change import change
from ...core.errors import InputError
from ...core.settings.veneers import one_more, veneered
from ...core.units import format_length
from ..pages.veneers.dialogs import VeneerDialogs
from ..window.command import Command
from ..window.shell import Shell

MENU = "Veneers"


def add(shell: Shell) -> None:
    """Lay one more layer over the last one."""
    job = shell.session.job
    if not job.offsets.rows:
        shell.say("Give the hull's offsets first: layers are laid over it.")
        return
    own = job.veneers.layers
    try:
        shell.edit("a layer of veneer", change(job, "veneers", layers=(*own, one_more(own))))
    except InputError as error:
        shell.say(str(error))
        return
    shell.go_to_page("veneers")


def take_off(shell: Shell) -> None:
    """Take the outermost layer off again."""
    job = shell.session.job
    if not veneered(job):
        shell.say("There is no layer of veneer.")
        return
    shell.edit("without the outermost layer", change(job, "veneers", layers=job.veneers.layers[:-1]))
    now = shell.session.job
    if not veneered(now) and now.molds != job.molds:
        taken = format_length(now.molds.deducted, now.units.style, unit=True)
        shell.say(f"Without layers the molds take off {taken} again, as before them.")


COMMANDS = (
    Command("add-layer", MENU, "Add a layer of veneer", add),
    Command("find-layout", MENU, "Find me a layout…", lambda s: VeneerDialogs(s).find()),
    Command("bench-spiling", MENU, "Bench: spiling of the chosen veneer…", lambda s: VeneerDialogs(s).spiling()),
    Command("bench-ribbands", MENU, "Bench: ribbands on this mold…", lambda s: VeneerDialogs(s).ribbands()),
    Command("no-layer", MENU, "Take the outermost layer off", take_off),
)
