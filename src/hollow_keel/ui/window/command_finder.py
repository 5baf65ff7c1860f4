"""Finds any command by a few letters of its name."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget


class CommandFinder(QDialog):
    """Type, choose with the arrows, Enter; the chosen action runs when the finder has closed."""

    def __init__(self, actions: list[tuple[str, QAction]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find a command")
        self.resize(460, 340)
        self._actions = actions
        self.line = QLineEdit()
        self.line.setPlaceholderText("a few letters of what you want to do")
        self.list = QListWidget()
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        layout = QVBoxLayout(self)
        layout.addWidget(self.line)
        layout.addWidget(self.list)
        self.line.textChanged.connect(self._narrow)
        self.line.returnPressed.connect(self._take)
        self.list.itemActivated.connect(lambda _: self._take())
        self.list.itemClicked.connect(lambda _: self._take())
        self.chosen: QAction | None = None
        self._narrow("")

    def _narrow(self, text: str) -> None:
        words = text.lower().split()
        self.list.clear()
        for menu, action in self._actions:
            name = f"{menu} › {action.text().replace('&', '')}"
            if action.isEnabled() and all(w in name.lower() for w in words):
                keys = action.shortcut().toString()
                item = QListWidgetItem(f"{name}    {keys}")
                item.setData(Qt.ItemDataRole.UserRole, action)
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self.chosen = item.data(Qt.ItemDataRole.UserRole)
            self.accept()

    def keyPressEvent(self, event: object) -> None:
        key = event.key()  # type: ignore[attr-defined]
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            step = 1 if key == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(min(max(self.list.currentRow() + step, 0), self.list.count() - 1))
        else:
            super().keyPressEvent(event)  # type: ignore[arg-type]
