"""A lines plan as a picture: marks give it its measure, then its points are clicked, and battens run through them."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPen, QPixmap, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGraphicsScene,
    QGraphicsView,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ...app.picking import BOW, STATION, STERN, TRANSOM, Picking, Target
from ...core.errors import InputError
from ...core.offsets.calibration import SKEW
from ...core.offsets.table import OffsetsTable
from ...core.units import LengthStyle, format_length, parse_typed
from ...core.words import counted
from ...files.pictures import Picture
from ..window.theme import Theme, figures

TARGETS = (("station at", STATION), ("bow profile", BOW), ("stern profile", STERN), ("upright transom at", TRANSOM))
DRAG_PIXELS = 4
CROSS = 7.0
MOST_ZOOM = 40.0
MOST_MARKS = 8


@dataclass(frozen=True)
class Picks:
    """Points of one line, and the battens through them, in pixels; whether it is the one being picked."""

    points: list[QPointF]
    battens: list[list[QPointF]]
    present: bool


class PictureView(QGraphicsView):
    """The picture with what was picked on it. `clicked` carries the pixel."""

    clicked = Signal(float, float)

    def __init__(self, picture: Picture, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("The picture")
        self.theme = theme
        self.marks: list[QPointF] = []
        self.lines: list[Picks] = []
        image = QImage(picture.rgb, picture.width, picture.height, 3 * picture.width, QImage.Format.Format_RGB888)
        scene = QGraphicsScene(self)
        scene.addPixmap(QPixmap.fromImage(image))
        self.setScene(scene)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.AnchorUnderMouse)
        self.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self._own_zoom = False
        self._pressed: QPointF | None = None
        self._moved = False

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self._own_zoom:
            self.fitInView(self.sceneRect(), Qt.AspectRatioMode.KeepAspectRatio)

    def wheelEvent(self, event: QWheelEvent) -> None:
        step = 1.0015 ** event.angleDelta().y()
        if self.transform().m11() * step < MOST_ZOOM:
            self._own_zoom = True
            self.scale(step, step)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed, self._moved = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        step = event.position() - self._pressed
        if self._moved or step.manhattanLength() > DRAG_PIXELS:
            self._moved = True
            self._pressed = event.position()
            for bar, by in ((self.horizontalScrollBar(), step.x()), (self.verticalScrollBar(), step.y())):
                bar.setValue(bar.value() - round(by))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None and not self._moved:
            at = self.mapToScene(event.position().toPoint())
            if self.sceneRect().contains(at):
                self.clicked.emit(at.x(), at.y())
        self._pressed = None

    def show_picks(self, marks: list[QPointF], lines: list[Picks]) -> None:
        """Marks and picked lines, in pixels of the picture."""
        self.marks, self.lines = marks, lines
        self.viewport().update()

    def drawForeground(self, painter: QPainter, _rect: QRectF) -> None:  # type: ignore[override]
        size = CROSS / self.transform().m11()
        for line in self.lines:
            self._pen(painter, self.theme.bad if line.present else self.theme.water, 2.0)
            for batten in line.battens:
                painter.drawPolyline(batten)
            for point in line.points:
                self._cross(painter, point, size)
        self._pen(painter, "#2E6A4D", 2.5)
        for number, point in enumerate(self.marks, start=1):
            painter.drawEllipse(point, size, size)
            self._cross(painter, point, 1.6 * size)
            self._number(painter, number, point)

    def _number(self, painter: QPainter, number: int, at: QPointF) -> None:
        """The number of a mark beside it, as large at any zoom."""
        painter.save()
        painter.translate(at)
        scale = 1 / self.transform().m11()
        painter.scale(scale, scale)
        painter.setFont(figures(14, strong=True))
        painter.drawText(QPointF(1.8 * CROSS, -CROSS), str(number))
        painter.restore()

    def _pen(self, painter: QPainter, colour: str, width: float) -> None:
        pen = QPen(QColor(colour), width)
        pen.setCosmetic(True)
        painter.setPen(pen)

    def _cross(self, painter: QPainter, at: QPointF, size: float) -> None:
        painter.drawLine(at - QPointF(size, 0), at + QPointF(size, 0))
        painter.drawLine(at - QPointF(0, size), at + QPointF(0, size))


class PickDialog(QDialog):
    """Asks for the marks, takes the points. `table` is the changed table after OK."""

    def __init__(
        self, picture: Picture, table: OffsetsTable, style: LengthStyle, theme: Theme, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Points off a picture")
        self.table, self.style_of_lengths = table, style
        self.picking = Picking()
        self._marking: int | None = 0
        self.view = PictureView(picture, theme)
        self.view.clicked.connect(self._clicked)
        self.step = QLabel()
        self.step.setWordWrap(True)
        self.step.setFont(figures(15, strong=True))
        self.problem = QLabel()
        self.problem.setObjectName("note")
        self.problem.setWordWrap(True)
        self.fields: list[list[QLineEdit]] = []
        self.what = QComboBox()
        self.what.setAccessibleName("What is picked")
        for text, kind in TARGETS:
            self.what.addItem(text, kind)
        self.position = QLineEdit()
        self.position.setAccessibleName("Position along the hull")
        self.siding = QLineEdit("0")
        self.list = QListWidget()
        self.what.currentIndexChanged.connect(self._target_changed)
        self.position.editingFinished.connect(self._target_changed)
        self.siding.editingFinished.connect(self._target_changed)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self._finish)
        buttons.rejected.connect(self.reject)
        side = QVBoxLayout()
        side.addWidget(self.step)
        side.addLayout(self._mark_grid())
        side.addLayout(self._target_grid())
        side.addWidget(self.list, 1)
        side.addWidget(self.problem)
        side.addWidget(buttons)
        holder = QWidget()
        holder.setFixedWidth(330)
        holder.setLayout(side)
        layout = QHBoxLayout(self)
        layout.addWidget(self.view, 1)
        layout.addWidget(holder)
        self.resize(1180, 720)
        self._show()

    def _mark_grid(self) -> QVBoxLayout:
        self._marks = QGridLayout()
        for column, text in ((1, "across"), (2, "up")):
            self._marks.addWidget(QLabel(text), 0, column)
        self.more = QPushButton("One mark more")
        self.more.setToolTip("Three and more find out a stretched copy or a photograph, and a mark that is wrong")
        self.more.clicked.connect(self.add_mark)
        for start in ("0", ""):
            self._add_row(start)
        whole = QVBoxLayout()
        whole.addLayout(self._marks)
        whole.addWidget(self.more, 0, Qt.AlignmentFlag.AlignLeft)
        return whole

    def _add_row(self, start: str = "") -> None:
        """Fields for one mark more."""
        k = len(self.fields)
        boxes = [QLineEdit(start), QLineEdit(start)]
        self.fields.append(boxes)
        self._marks.addWidget(QLabel(f"Mark {k + 1}"), k + 1, 0)
        for column, box in enumerate(boxes, start=1):
            box.setAccessibleName(f"Mark {k + 1}, {'across' if column == 1 else 'up'}")
            self._marks.addWidget(box, k + 1, column)
        button = QPushButton("Set")
        button.setToolTip("Then click it in the picture")
        button.clicked.connect(lambda _=False, n=k: self.set_marking(n))
        self._marks.addWidget(button, k + 1, 3)

    def add_mark(self) -> None:
        """One mark more, which the next click sets."""
        self._add_row()
        self.more.setEnabled(len(self.fields) < MOST_MARKS)
        self.set_marking(len(self.fields) - 1)
        self.fields[-1][0].setFocus()

    def _target_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.addWidget(self.what, 0, 0)
        grid.addWidget(self.position, 0, 1)
        grid.addWidget(QLabel("half-siding of stems"), 1, 0)
        grid.addWidget(self.siding, 1, 1)
        for column, (text, slot, tip) in enumerate(
            (
                ("Take back", self._take_back, "Forget the last point (Backspace)"),
                ("Chine here", self._chine, "The last point lies on a chine, or does not"),
            )
        ):
            button = QPushButton(text)
            button.setToolTip(tip)
            button.clicked.connect(slot)
            grid.addWidget(button, 2, column)
        return grid

    # -- what the hand does ----------------------------------------------------------------------------

    def set_marking(self, number: int) -> None:
        """The next click sets this mark."""
        self._marking = number
        self._show()

    def _clicked(self, x: float, y: float) -> None:
        try:
            if self._marking is not None:
                across, up = (self._length(box) for box in self.fields[self._marking])
                self.picking.set_mark(self._marking, (x, y), (across, up))
                self._marking = 1 if self.picking.marks[1] is None else None
                self.problem.setText(self._marks_said())
            else:
                self._read_target()
                self.picking.pick(x, y)
                self.problem.setText("")
        except InputError as error:
            self.problem.setText(str(error))
        self._show()

    def _marks_said(self) -> str:
        """What is wrong with the marks. Raises InputError where they fit nothing."""
        calibration, doubt = self.picking.calibration, self.picking.doubt
        if doubt is not None:
            off = format_length(doubt[1], self.style_of_lengths, unit=True)
            return f"The marks do not agree: mark {doubt[0] + 1} lies {off} off the place the others give it."
        if calibration is not None and abs(calibration.turned) > SKEW:
            return "The picture would lie askew by this: are the marks and their measures right?"
        return ""

    def _length(self, box: QLineEdit) -> float:
        try:
            return parse_typed(box.text(), self.style_of_lengths.unit)
        except InputError as error:
            raise error.at(box.accessibleName()) from None

    def _read_target(self) -> None:
        kind = self.what.currentData()
        needs = kind in (STATION, TRANSOM)
        self.picking.target = Target(kind, self._length(self.position) if needs else 0.0)
        self.picking.half_siding = self._length(self.siding)

    def _target_changed(self) -> None:
        self.position.setEnabled(self.what.currentData() in (STATION, TRANSOM))
        try:
            self._read_target()
            self.problem.setText("")
        except InputError as error:
            if self.position.text().strip():
                self.problem.setText(str(error))
        self._show()

    def _take_back(self) -> None:
        self.picking.take_back()
        self._show()

    def _chine(self) -> None:
        self.picking.toggle_chine()
        self._show()

    def _finish(self) -> None:
        try:
            self.table = self.picking.onto(self.table)
        except InputError as error:
            self.problem.setText(str(error))
            return
        self.accept()

    # -- showing -----------------------------------------------------------------------------------------

    def _instruction(self) -> str:
        if self._marking is not None:
            return f"Type what mark {self._marking + 1} stands for, then click it in the picture."
        kind = self.what.currentData()
        if kind in (STATION, TRANSOM) and not self.position.text().strip():
            return "Type the position along the hull, then click the points from keel to sheer."
        return "Click the points from keel to sheer. Wheel: closer; drag: move."

    def _show(self) -> None:
        self.step.setText(self._instruction())
        marks = [QPointF(*m.pixel) for m in self.picking.marks if m is not None]
        targets = sorted(self.picking.points, key=lambda t: t == self.picking.target)
        battens = self.picking.lines()
        self.view.show_picks(
            marks,
            [
                Picks(
                    [QPointF(*p.pixel) for p in self.picking.points[t]],
                    [[QPointF(*at) for at in batten.tolist()] for batten in battens.get(t, [])],
                    t == self.picking.target,
                )
                for t in targets
            ],
        )
        self.list.clear()
        style = self.style_of_lengths
        for target in targets:
            name = next(text for text, kind in TARGETS if kind == target.kind)
            place = f" {format_length(target.position, style)}" if target.kind in (STATION, TRANSOM) else ""
            self.list.addItem(f"{name}{place}: {counted(len(self.picking.points[target]), 'point')}")
            if target == self.picking.target:
                for point in self.picking.points[target]:
                    chine = "  chine" if point.chine else ""
                    across, up = format_length(point.across, style), format_length(point.up, style)
                    self.list.addItem(f"      {across}   {up}{chine}")
        self.list.scrollToBottom()
