"""Deciding on a drawing: dotted numbers are typed where they stand, rings are dragged."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QGraphicsItem

from ...app.deciding import record_of
from ...app.setting_text import style_of
from ...core.settings.record import Kind
from ...core.settings_table import Record, is_length
from ...core.units import round_to
from ...drawing.model import Drawing, Label, Layer, Ring
from ...drawing.placing import Box, Placed
from ..background.later import later
from ..window.theme import Theme
from .dotted import FIGURES
from .in_place import InPlace, choose, is_typed
from .values import drawn_value, written

if TYPE_CHECKING:
    from ..views.drawing_view import DrawingView
    from ..views.label_item import LabelItem
    from ..views.ring_item import RingItem

REST_MS = 70
"""A ring that rests so long has its value tried; until then it moves with what hangs on it alone."""
EDITOR_WIDE, EDITOR_TALL = 96, 26


class OnDrawing(QObject):
    """What of a drawing view decides: it asks by the view's signals `tried`, `kept` and `left`."""

    def __init__(self, view: DrawingView) -> None:
        super().__init__(view)
        self._view = view
        self.labels: list[LabelItem] = []
        self.rings: list[RingItem] = []
        self.chosen = ""
        self.editor: InPlace | None = None
        self._held: RingItem | None = None
        self._value: float | None = None
        self._flag: LabelItem | None = None
        self._carried: list[tuple[QGraphicsItem, QPointF]] = []
        self._theme: Theme | None = None
        self._rest = later(self, REST_MS, self._try_held)

    # -- what is shown ---------------------------------------------------------------------------------

    def show_drawing(self, drawing: Drawing, labels: Sequence[LabelItem], theme: Theme) -> None:
        """The drawing was replaced; what is typed or dragged goes on."""
        from ..views.ring_item import RingItem

        self._theme = theme
        self.labels = [item for item in labels if item.label.decides]
        held = self._held.ring.decides if self._held is not None else ""
        self.rings = [RingItem(ring, theme) for ring in drawing.rings]
        self._held, self._flag, self._carried = None, None, []
        for item in self.rings:
            self._view.scene().addItem(item)
            if item.ring.decides == held:
                self._take(item)
        if held and self._held is None:  # it is not there any more
            self._value = None
            self._view.left.emit()
        elif self._held is not None and self._value is not None:
            self._follow(self._value)
        for text in self.labels:
            text.chosen = text.label.decides == self.chosen and self._view.hasFocus()
        if self.editor is not None:
            self._put_editor()

    @property
    def dragging(self) -> bool:
        """Whether a ring is held."""
        return self._held is not None

    def boxes(self) -> list[Box]:
        """Where the rings are, pixels: texts keep off them."""
        found = []
        for item in self.rings:
            x, y = self._view.frame.point(item.ring.at)
            found.append((x - 6, y - 6, x + 6, y + 6))
        return found

    # -- dragging --------------------------------------------------------------------------------------

    def _ring_at(self, at: QPointF) -> RingItem | None:
        from ..views.ring_item import REACH

        best: tuple[float, RingItem] | None = None
        for item in self.rings:
            x, y = self._view.frame.point(item.ring.at)
            away = max(abs(x - at.x()), abs(y - at.y()))
            if away <= REACH and (best is None or away < best[0]):
                best = (away, item)
        return best[1] if best else None

    def press(self, at: QPointF) -> bool:
        """Whether a ring was taken hold of."""
        if self.editor is not None:
            self.editor.clearFocus()
        item = self._ring_at(at)
        if item is None:
            return False
        self._value = None
        self._take(item)
        self._view.chose.emit(item.ring.decides)
        return True

    def _take(self, item: RingItem) -> None:
        self._held = item
        item.hold(True)
        moves = item.ring.moves
        self._carried = [(own, own.pos()) for own in self._hanging(moves)] if moves else []

    def _hanging(self, key: str) -> list[QGraphicsItem]:
        """What goes with a ring."""
        strokes: list[QGraphicsItem] = [item for item, _ in self._view.items_of(key)]
        return [*strokes, *(item for item in self._view.label_items if item.label.key == key)]

    def move(self, at: QPointF) -> bool:
        """The held ring goes where the pointer is, as far as it may; whether there is one."""
        if self._held is None:
            over = self._ring_at(at)
            for item in self.rings:
                item.hold(item is over)
            hand = over is not None or self._label_at(at) is not None
            self._view.viewport().setCursor(Qt.CursorShape.PointingHandCursor if hand else Qt.CursorShape.ArrowCursor)
            return False
        ring = self._held.ring
        place = self._view.mapToScene(at.toPoint())
        value = self._snapped(ring, ring.value_at(place.x(), -place.y()))
        if value != self._value:
            self._value = value
            self._follow(value)
            self._rest.start()
        return True

    def _snapped(self, ring: Ring, value: float) -> float:
        """A value at the job's rounding, within the limits."""
        record = record_of(ring.decides)
        step = self._step(record)
        snapped = round_to(value, step)
        if snapped < ring.low - 1e-9:
            snapped += step
        return snapped - step if snapped > ring.high + 1e-9 else snapped

    def _step(self, record: Record) -> float:
        if is_length(record):
            return style_of(record, self._view.style_of_lengths).step_mm
        return 0.01 if record.setting.kind is Kind.PER_CENT else 1.0

    def _follow(self, value: float) -> None:
        """Ring, what hangs on it and its number stand for a value: at once, before anything is worked out."""
        assert self._held is not None
        ring = self._held.ring
        x, y = ring.place_of(value)
        self._held.setPos(x, -y)
        for item, home in self._carried:
            item.setPos(home.x() + x - ring.at[0], home.y() - (y - ring.at[1]))
        self._show_flag(ring, value, (x, y))

    def _show_flag(self, ring: Ring, value: float, at: tuple[float, float]) -> None:
        from ..views.label_item import LabelItem

        scene = self._view.scene()
        if self._flag is not None:
            scene.removeItem(self._flag)
        text = written(ring.decides, value, self._view.style_of_lengths)
        assert self._theme is not None
        self._flag = LabelItem(Label(at, text, Layer.TITLE, "left", 1, strong=True), self._theme)
        left, top = self._flag.box.left() + 12, self._flag.box.top() - 4
        self._flag.put(Placed(left, top, False))
        self._flag.setZValue(20)
        scene.addItem(self._flag)

    def _try_held(self) -> None:
        if self._held is not None and self._value is not None:
            ring = self._held.ring
            self._view.tried.emit(ring.decides, drawn_value(ring.decides, self._value))

    def release(self) -> bool:
        """The held ring stays where it is; whether there was one."""
        if self._held is None:
            return False
        self._rest.stop()
        held, self._held, value = self._held, None, self._value
        held.hold(False)
        if self._flag is not None:
            self._view.scene().removeItem(self._flag)
            self._flag = None
        self._carried, self._value = [], None
        if value is not None:
            self._view.kept.emit(held.ring.decides, drawn_value(held.ring.decides, value))
        return True

    def drop(self) -> None:
        """Give up what is being dragged."""
        self._rest.stop()
        if self._held is not None:
            self._held = None
            self._value = None
            self._view.left.emit()

    # -- typing ----------------------------------------------------------------------------------------

    def _label_at(self, at: QPointF) -> LabelItem | None:
        for item in self.labels:
            if item.isVisible() and self._value_place(item).adjusted(-4, -3, 4, 5).contains(at):
                return item
        return None

    def _value_place(self, item: LabelItem) -> QRectF:
        x, y = self._view.frame.point(item.label.at)
        return item.value_box().translated(x, y)

    def click(self, at: QPointF) -> bool:
        """Whether a dotted number was clicked: it is typed there now."""
        item = self._label_at(at)
        if item is not None:
            self.open(item.label.decides)
        return item is not None

    def key(self, event: QKeyEvent) -> bool:
        """Enter opens the chosen number, a figure begins to type it; Esc gives up a drag. Whether it meant anything."""
        if event.key() == Qt.Key.Key_Escape and self.dragging:
            self.drop()
            return True
        if not self.chosen:
            return False
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.open(self.chosen)
            return True
        if event.text() and event.text() in FIGURES:
            self.open(self.chosen)
            if self.editor is not None:
                self.editor.begin(event.text())
            return True
        return False

    def step(self, by: int) -> bool:
        """Choose the next dotted number (1) or the one before (-1); False at the ends."""
        found = [item.label.decides for item in self._in_order()]
        at = found.index(self.chosen) if self.chosen in found else (-1 if by > 0 else len(found))
        if not 0 <= at + by < len(found):
            self._choose("")
            return False
        self._choose(found[at + by])
        return True

    def _in_order(self) -> list[LabelItem]:
        """The numbers on show, from top to bottom."""
        shown = [item for item in self.labels if item.isVisible()]
        return sorted(shown, key=lambda item: (round(self._value_place(item).top() / 12), self._value_place(item).left()))

    def _choose(self, decides: str) -> None:
        self.chosen = decides
        for item in self.labels:
            item.chosen = bool(decides) and item.label.decides == decides
            item.update()
        if decides:
            self._view.chose.emit(decides)
            self._view.said.emit(f"{record_of(decides).setting.label}: Enter to change it")

    def open(self, decides: str) -> None:
        """Type a setting where it stands, or choose among its words."""
        item = next((own for own in self.labels if own.label.decides == decides), None)
        if item is None:
            return
        self._choose(decides)
        record, now = record_of(decides), self._view.setting_now(decides)
        if not is_typed(record):
            place = self._value_place(item)
            below = self._view.viewport().mapToGlobal(place.bottomLeft().toPoint())
            chosen = choose(record, now, below, self._view, self._view.job)
            if chosen != now:
                self._view.kept.emit(decides, chosen)
            return
        self.editor = InPlace(
            record, now, style_of(record, self._view.style_of_lengths), self._view.viewport(), self._view.job.offsets.ends
        )
        self.editor.tried.connect(lambda value: self._view.tried.emit(decides, value))
        self.editor.kept.connect(self._keep)
        self.editor.left.connect(self._leave)
        self.editor.fault.connect(self._view.said)
        self.editor.stepped.connect(self._stepped)
        self._put_editor()
        self.editor.show()
        self.editor.setFocus()

    def _put_editor(self) -> None:
        assert self.editor is not None
        item = next((own for own in self.labels if own.label.decides == self.chosen and own.isVisible()), None)
        if item is None:
            return
        place = self._value_place(item)
        wide = max(EDITOR_WIDE, round(place.width()) + 24)
        port = self._view.viewport()
        left = min(max(round(place.center().x() - wide / 2), 2), max(port.width() - wide - 2, 2))
        self.editor.setGeometry(left, round(place.center().y()) - EDITOR_TALL // 2, wide, EDITOR_TALL)

    def _keep(self, value: Any) -> None:
        decides = self.chosen
        self._close()
        self._view.kept.emit(decides, value)

    def _leave(self) -> None:
        self._close()
        self._view.left.emit()

    def _close(self) -> None:
        editor, self.editor = self.editor, None
        if editor is not None:
            had = editor.window().focusWidget() is editor
            editor.hide()
            editor.deleteLater()
            if had:
                self._view.setFocus()

    def _stepped(self, by: int) -> None:
        self._view.setFocus()
        if not self.step(by):
            self._view.focus_beside(by)
