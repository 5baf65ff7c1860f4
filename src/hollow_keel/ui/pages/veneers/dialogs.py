"""What is done about veneers away from their page: a layout looked for, spiling and ribbands at the bench."""

from __future__ import annotations

from ....core.change import change
from ....core.settings.veneers import veneered
from ....core.veneers.layer_plan import LayerPlan
from ....core.veneers.ribbands import Form
from ....core.veneers.stages import FORM
from ....core.veneers.veneer import Veneer
from ...views.dialogs import Dialogs, accepted


class VeneerDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def _chosen(self) -> tuple[LayerPlan, Veneer] | None:
        """The layer and the veneer that the page shows."""
        from .page import VeneersPage

        if not veneered(self.job):
            self.say("There is no layer of veneer: add one first.")
            return None
        self.shell.go_to_page("veneers")
        page = self.shell.page
        if isinstance(page, VeneersPage) and page.plan is not None and page.veneer is not None:
            return page.plan, page.veneer
        self.say("The veneers are being worked out: a moment, please.")
        return None

    def find(self) -> None:
        """Look for the way of laying the chosen layer that wastes least."""
        from .layout_dialog import LayoutDialog

        chosen = self._chosen()
        if chosen is None:
            return
        number, job = chosen[0].number, self.job
        dialog = LayoutDialog(job, number, self.state.style, self.parent)
        if not accepted(dialog) or dialog.chosen is None:
            return
        way, own = dialog.chosen, job.veneers.layers
        layers = (*own[: number - 1], way.layer, *own[number:])
        self.edit(f"another layout of layer {number}", change(job, "veneers", layers=layers, master=way.master))

    def spiling(self) -> None:
        """The chosen veneer's widths, one at a time."""
        from ...bench.veneers import spiling_steps

        chosen = self._chosen()
        if chosen is not None:
            self.bench(spiling_steps(*chosen, self.state.style))

    def ribbands(self) -> None:
        """Where every ribband comes on the current mold, one at a time."""
        from ...bench.veneers import ribband_steps

        state = self.state
        form: Form | None = state.known.get(FORM)
        if form is None or state.shape is None or state.mold is None:
            self.say("There are no ribbands: choose on the Veneers page what the layers are laid on.")
            return
        steps = ribband_steps(state.shape, form, state.mold, state.style)
        if not steps:
            self.say("No ribband crosses this mold.")
            return
        self.bench(steps)
