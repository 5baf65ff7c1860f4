"""A lines plan as a picture: two marks give it its measure, then its points are clicked."""

from __future__ import annotations

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

from ..app.picking import BOW, STATION, STERN, TRANSOM, Picking, Target
from ..core.errors import InputError
from ..core.offsets.calibration import SKEW
from ..core.offsets.table import OffsetsTable
from ..core.units import LengthStyle, format_length, parse_length
from ..files.picture import Picture
from .theme import Theme, figures

TARGETS = (
    ("station at", STATION),
    ("bow profile", BOW),
    ("stern profile", STERN),
    ("upright transom at", TRANSOM),
)
DRAG_PIXELS = 4
CROSS = 7.0
MOST_ZOOM = 40.0


class PictureView(QGraphicsView):
    """The picture with what was picked on it. `clicked` carries the pixel."""

    clicked = Signal(float, float)

    def __init__(self, picture: Picture, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("The picture")
        self.theme = theme
        self.marks: list[QPointF] = []
        self.lines: list[list[QPointF]] = []
        image = QImage(
            picture.rgb, picture.width, picture.height, 3 * picture.width, QImage.Format.Format_RGB888
        )
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

    def show_picks(self, marks: list[QPointF], lines: list[list[QPointF]]) -> None:
        """Marks and picked lines, in pixels of the picture; the last line is the present one."""
        self.marks, self.lines = marks, lines
        self.viewport().update()

    def drawForeground(self, painter: QPainter, _rect: QRectF) -> None:  # type: ignore[override]
        size = CROSS / self.transform().m11()
        for k, points in enumerate(self.lines):
            present = k == len(self.lines) - 1
            self._pen(painter, self.theme.bad if present else self.theme.water, 2.0)
            painter.drawPolyline(points)
            for point in points:
                self._cross(painter, point, size)
        self._pen(painter, "#2E6A4D", 2.5)
        for point in self.marks:
            painter.drawEllipse(point, size, size)
            self._cross(painter, point, 1.6 * size)

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
        self,
        picture: Picture,
        table: OffsetsTable,
        style: LengthStyle,
        theme: Theme,
        parent: QWidget | None = None,
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
        self.fields = [[QLineEdit("0"), QLineEdit("0")], [QLineEdit(), QLineEdit()]]
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
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
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

    def _mark_grid(self) -> QGridLayout:
        grid = QGridLayout()
        for column, text in ((1, "across"), (2, "up")):
            grid.addWidget(QLabel(text), 0, column)
        for k, name in enumerate(("First mark", "Second mark")):
            grid.addWidget(QLabel(name), k + 1, 0)
            for column, box in enumerate(self.fields[k], start=1):
                box.setAccessibleName(f"{name}, {'across' if column == 1 else 'up'}")
                grid.addWidget(box, k + 1, column)
            button = QPushButton("Set")
            button.setToolTip("Then click it in the picture")
            button.clicked.connect(lambda _=False, n=k: self.set_marking(n))
            grid.addWidget(button, k + 1, 3)
        return grid

    def _target_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.addWidget(self.what, 0, 0)
        grid.addWidget(self.position, 0, 1)
        grid.addWidget(QLabel("half-siding of stems"), 1, 0)
        grid.addWidget(self.siding, 1, 1)
        for column, (text, slot, tip) in enumerate((
            ("Take back", self._take_back, "Forget the last point (Backspace)"),
            ("Chine here", self._chine, "The last point lies on a chine, or does not"),
        )):  # fmt: skip
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
                calibration = self.picking.calibration
                turned = calibration is not None and abs(calibration.turned) > SKEW
                self.problem.setText(
                    "The picture would lie askew by this: are both marks and their measures right?"
                    if turned
                    else ""
                )
            else:
                self._read_target()
                self.picking.pick(x, y)
                self.problem.setText("")
        except InputError as error:
            self.problem.setText(str(error))
        self._show()

    def _length(self, box: QLineEdit) -> float:
        try:
            return parse_length(box.text(), self.style_of_lengths.unit)
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
            name = ("first", "second")[self._marking]
            return f"Type what the {name} mark stands for, then click it in the picture."
        kind = self.what.currentData()
        if kind in (STATION, TRANSOM) and not self.position.text().strip():
            return "Type the position along the hull, then click the points from keel to sheer."
        return "Click the points from keel to sheer. Wheel: closer; drag: move."

    def _show(self) -> None:
        self.step.setText(self._instruction())
        marks = [QPointF(*m.pixel) for m in self.picking.marks if m is not None]
        targets = sorted(self.picking.points, key=lambda t: t == self.picking.target)
        self.view.show_picks(marks, [[QPointF(*p.pixel) for p in self.picking.points[t]] for t in targets])
        self.list.clear()
        style = self.style_of_lengths
        for target in targets:
            name = next(text for text, kind in TARGETS if kind == target.kind)
            place = f" {format_length(target.position, style)}" if target.kind in (STATION, TRANSOM) else ""
            self.list.addItem(f"{name}{place}: {len(self.picking.points[target])} points")
            if target == self.picking.target:
                for point in self.picking.points[target]:
                    chine = "  chine" if point.chine else ""
                    across, up = format_length(point.across, style), format_length(point.up, style)
                    self.list.addItem(f"      {across}   {up}{chine}")
        self.list.scrollToBottom()
