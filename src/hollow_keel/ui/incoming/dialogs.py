"""What must be asked before a mesh or a lines drawing becomes a table of offsets."""

from __future__ import annotations

import re
from functools import partial

import numpy as np
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...core.errors import InputError
from ...core.inch_sizes import usual_length
from ...core.offsets.from_curves import Taken
from ...core.units import LengthStyle, format_length, parse_length
from ...drawing.model import Drawing, Layer, Stroke
from ...files.lines.drawing import ORIGINS, LayerRole, LinesDrawing, Origins, Role, offsets_from_drawing, origins_of, positions_of
from ...files.mesh.hull import AXES, MeshHull, Placing, likely_placing
from ...files.mesh.offsets import offsets_from_mesh
from ..background.aside import run_aside
from ..views.drawing_view import DrawingView
from ..views.scale_box import ScaleBox
from ..views.sentences import sentence
from ..window.theme import Theme

SNAP = 0.01
"""A click this near to a point of a curve, in shares of the drawing's size, means that point."""
AT_A_PLACE = frozenset({Role.STATION, Role.TRANSOM, Role.WATERLINE, Role.BUTTOCK})
_NUMBER = re.compile(r"(\d+(?:\.\d+)?)\s*$")


class ImportDialog(QDialog):
    """Asks; on OK makes the table. `taken` holds it. What cannot be is said in the dialog, which stays open."""

    def __init__(self, title: str, style: LengthStyle, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.style_of_lengths = style
        self.taken: Taken | None = None
        self.problem = QLabel()
        self.problem.setObjectName("note")
        self.problem.setWordWrap(True)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.buttons.accepted.connect(self._try)
        self.buttons.rejected.connect(self.reject)

    def make(self) -> Taken | None:
        """The table, or None if the work was given up. Raises InputError."""
        raise NotImplementedError

    def _try(self) -> None:
        try:
            self.taken = self.make()
        except InputError as error:
            self.problem.setText(sentence(str(error), self.style_of_lengths))
            return
        if self.taken is not None:
            self.accept()

    def length(self, text: str, where: str) -> float:
        """A typed length in mm. Raises InputError with the place."""
        try:
            return parse_length(text, self.style_of_lengths.unit)
        except InputError as error:
            raise error.at(where) from None


def _choice(name: str, choices: list[tuple[str, object]], current: object) -> QComboBox:
    box = QComboBox()
    box.setAccessibleName(name)
    for text, value in choices:
        box.addItem(text, value)
    box.setCurrentIndex(box.findData(current))
    return box


class MeshDialog(ImportDialog):
    """How a scanned hull lies, its unit, and where to cut it."""

    def __init__(self, mesh: MeshHull, style: LengthStyle, parent: QWidget | None = None) -> None:
        super().__init__("Stations from a scanned hull", style, parent)
        self.mesh = mesh
        likely = likely_placing(mesh)
        axes: list[tuple[str, object]] = [(axis, axis) for axis in AXES]
        self.scale = ScaleBox("Unit of the file", None)
        self.lies = _choice("How it lies", [("as its shape says", True), ("by the axes of the file", False)], mesh.pose is not None)
        self.lies.setEnabled(mesh.pose is not None)
        self.lies.currentIndexChanged.connect(self._say_size)
        self.along = _choice("Along", axes, likely.along)
        self.up = _choice("Up", axes, likely.up)
        plain = mesh.pose is None or mesh.pose.bow_clear
        ends: list[tuple[str, object]] = [("low end", True), ("high end", False)]
        if mesh.pose is not None:
            ends = [("where its shape says", True), ("the other end", False)]
        self.bow = _choice("Bow", ends if plain else [("choose…", None), *ends], likely.bow_low if plain else None)
        self.spacing = QLineEdit(usual_length(400.0, style))
        self.how_large = QLabel()
        self.how_large.setWordWrap(True)
        form = QFormLayout()
        for label, box in (
            ("One in the file is", self.scale),
            ("It lies", self.lies),
            ("Along the hull runs", self.along),
            ("Up is", self.up),
            ("The bow is at the", self.bow),
            ("A station every", self.spacing),
            ("", self.how_large),
        ):
            form.addRow(label, box)
        self.scale.currentTextChanged.connect(self._say_size)
        for combo in (self.along, self.up):
            combo.currentIndexChanged.connect(self._say_size)
        layout = QVBoxLayout(self)
        layout.addLayout(form)
        layout.addWidget(self.problem)
        layout.addWidget(self.buttons)
        self.resize(430, 300)
        self._say_size()

    def _placing(self) -> Placing:
        pose = self.mesh.pose if self.lies.currentData() else None
        scale = self.scale.likely or 1.0
        return Placing(self.along.currentData(), self.up.currentData(), self.bow.currentData() is not False, scale, pose)

    def _say_size(self) -> None:
        placing = self._placing()
        by_axes = placing.pose is None
        self.along.setEnabled(by_axes)
        self.up.setEnabled(by_axes)
        sizes = dict(zip(AXES, self.mesh.sizes * placing.scale, strict=True))
        out = next((a for a in AXES if a not in (placing.along, placing.up)), "")
        style = self.style_of_lengths
        closed = "" if self.mesh.closed else "\nThe mesh is not closed; it is cut as it is."
        if placing.along == placing.up:
            self.how_large.setText("Along and up cannot be the same axis.")
            return
        long, wide, high = (format_length(float(sizes[a]), style) for a in (placing.along, out, placing.up))
        start = "The hull is then" if self.scale.likely else "Were one in the file 1 mm, the hull would be"
        self.how_large.setText(f"{start} {long} long, {wide} wide and {high} high ({style.name}).{closed}")

    def make(self) -> Taken | None:
        if self.scale.mm is None:
            raise InputError("the mesh does not say in which unit it is", "One in the file is", mend="Choose it.")
        if self.bow.currentData() is None:
            raise InputError("both ends are about as fine", "The bow is at the", mend="Choose one of them; it can be turned later.")
        placing, spacing = self._placing(), self.length(self.spacing.text(), "A station every")
        return run_aside(self, "Cutting the hull at its stations…", lambda: offsets_from_mesh(self.mesh, placing, spacing))


class DrawingDialog(ImportDialog):
    """What each layer of a lines drawing is, its unit, and where its views lie on the sheet."""

    def __init__(self, drawing: LinesDrawing, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__("Stations from a lines drawing", style, parent)
        self.drawing = drawing
        self.scale = ScaleBox("Unit of the drawing", drawing.mm)
        self.layers = self._layers()
        self.preview = DrawingView("The drawing")
        strokes = [Stroke(curve, Layer.STATION, key=f"layer:{name}") for name, curves in drawing.layers.items() for curve in curves]
        self.preview.show_drawing(Drawing("", tuple(strokes)), theme, LengthStyle())
        self.preview.has_scale_bar = False  # its numbers are the file's own, of a unit perhaps not known
        self.preview.picked.connect(self._picked)
        self.preview.pointed.connect(self._pointed)
        self.layers.currentCellChanged.connect(lambda row, *_: self.preview.mark(f"layer:{self._name(row)}"))
        self.origins = {name: QLineEdit("0") for name in ORIGINS}
        self._stood_in: QLineEdit | None = None
        for box in self.origins.values():
            box.installEventFilter(self)
            box.setToolTip("Type it, or stand in this field and click the place in the drawing")
        self.bow = _choice("Bow", [("left", True), ("right", False)], True)
        self.siding = QLineEdit("0")
        self.siding.installEventFilter(self)
        self.spacing = QLineEdit(usual_length(500.0, style))
        self.spacing.setToolTip("Where no layer is a station: taken where keel, sheer, waterlines and buttocks cross it")
        form = QFormLayout()
        form.addRow("One in the drawing is", self.scale)
        form.addRow(QLabel("Where the views lie: stand in a field, then click the place in the drawing."))
        for name, label in (
            ("body_centreline", "Body plan: centreline at x ="),
            ("body_baseline", "Body plan: height 0 at y ="),
            ("profile_zero", "Profile and plan: position 0 at x ="),
            ("profile_baseline", "Profile: height 0 at y ="),
            ("plan_centreline", "Half-breadth plan: centreline at y ="),
        ):
            form.addRow(label, self.origins[name])
        form.addRow("In profile the bow is to the", self.bow)
        form.addRow("Half-siding of the stems", self.siding)
        form.addRow("Without a body plan, a station every", self.spacing)
        left = QVBoxLayout()
        left.addWidget(
            QLabel(
                "Say what each layer is, and where: a station by its position from the bow, a waterline by its height,\n"
                "a buttock by its half-breadth; all stations on one layer by 0; 500; 1000, or 0 every 500."
            )
        )
        left.addWidget(self.layers, 1)
        right = QVBoxLayout()
        right.addWidget(self.preview, 1)
        right.addLayout(form)
        halves = QHBoxLayout()
        halves.addLayout(left, 1)
        halves.addLayout(right, 1)
        layout = QVBoxLayout(self)
        layout.addLayout(halves, 1)
        layout.addWidget(self.problem)
        layout.addWidget(self.buttons)
        self.resize(1000, 680)

    def _layers(self) -> QTableWidget:
        table = QTableWidget(len(self.drawing.layers), 4)
        table.setHorizontalHeaderLabels(["Layer", "Curves", "Is", "At"])
        table.verticalHeader().setVisible(False)
        for row, (name, curves) in enumerate(self.drawing.layers.items()):
            for column, text in ((0, name), (1, str(len(curves)))):
                item = QTableWidgetItem(text)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                table.setItem(row, column, item)
            table.setCellWidget(row, 2, _choice(f"What {name} is", [(r.value, r) for r in Role], Role.UNUSED))
            number = _NUMBER.search(name)
            table.setItem(row, 3, QTableWidgetItem(number[1] if number else ""))
        table.resizeColumnToContents(1)
        table.setColumnWidth(2, 264)
        return table

    def _name(self, row: int) -> str:
        names = list(self.drawing.layers)
        return names[row] if 0 <= row < len(names) else ""

    def _picked(self, key: str) -> None:
        names = list(self.drawing.layers)
        name = key.removeprefix("layer:")
        if name in names:
            self.layers.setCurrentCell(names.index(name), 2)

    def _pointed(self, x: float, y: float) -> None:
        """A click in the drawing fills the field the builder stands in; near a point of a curve, with that point."""
        box = next((b for b in self.origins.values() if b.hasFocus() or b is self._stood_in), None)
        if box is None:
            return
        every = np.concatenate([curve for curves in self.drawing.layers.values() for curve in curves])
        away = np.hypot(every[:, 0] - x, every[:, 1] - y)
        if away.min() < SNAP * float(np.ptp(every, axis=0).max()):
            x, y = every[int(np.argmin(away))].tolist()
        across = box in (self.origins["body_centreline"], self.origins["profile_zero"])
        box.setText(f"{x if across else y:.10g}")

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.FocusIn and isinstance(watched, QLineEdit):
            self._stood_in = watched if watched in self.origins.values() else None
        return super().eventFilter(watched, event)

    def set_role(self, name: str, role: Role, position: str = "") -> None:
        """Say what a layer is."""
        row = list(self.drawing.layers).index(name)
        box = self.layers.cellWidget(row, 2)
        assert isinstance(box, QComboBox)
        box.setCurrentIndex(box.findData(role))
        item = self.layers.item(row, 3)
        if position and item is not None:
            item.setText(position)

    def _roles(self) -> dict[str, LayerRole]:
        found: dict[str, LayerRole] = {}
        for row, name in enumerate(self.drawing.layers):
            box, item = self.layers.cellWidget(row, 2), self.layers.item(row, 3)
            assert isinstance(box, QComboBox)
            role = Role(box.currentData())
            position = 0.0
            positions: tuple[float, ...] = ()
            if role is Role.STATIONS:
                where = f"layer {name}, position"
                positions = positions_of(
                    item.text() if item else "", len(self.drawing.layers[name]), partial(self.length, where=where)
                )
            elif role in AT_A_PLACE:
                position = self.length(item.text() if item else "", f"layer {name}, at")
            found[name] = LayerRole(role, position, positions)
        return found

    def _origins(self) -> Origins:
        return origins_of({name: box.text() for name, box in self.origins.items()}, bow_left=self.bow.currentData())

    def make(self) -> Taken | None:
        mm = self.scale.mm
        if mm is None:
            raise InputError("the drawing does not say its unit", mend="Choose what one in the drawing is.")
        siding = self.length(self.siding.text(), "Half-siding of the stems")
        spacing = self.length(self.spacing.text(), "A station every")
        return offsets_from_drawing(self.drawing, self._roles(), self._origins(), mm, siding, spacing)
