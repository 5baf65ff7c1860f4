"""Photographs of an entry, small, in a row."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, Qt
from PySide6.QtGui import QImageReader, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QLabel

from ....files.log.photos import format_of, photo_bytes, place_of

THUMB, MOST_PIXELS = 84, 200_000_000


class Thumbs(QHBoxLayout):
    """A small picture of each; one that is gone is said."""

    def __init__(self) -> None:
        super().__init__()
        self.setAlignment(Qt.AlignmentFlag.AlignLeft)

    def show_photos(self, photos: Iterable[str], beside: Path | None) -> None:
        """Show these in place of those before; `beside` is the folder of the job."""
        while (item := self.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        for photo in photos:
            label = QLabel()
            place = place_of(photo, beside)
            picture = thumbnail(photo, beside)
            if picture.isNull():
                label.setText(f"{place.name} is gone, or no picture")
                label.setObjectName("small")
            else:
                label.setPixmap(picture)
            label.setToolTip(str(place))
            self.addWidget(label)


def thumbnail(photo: str, beside: Path | None) -> QPixmap:
    """A small picture of a photograph, the way up that the camera noted; an empty one where it is gone, or no photograph."""
    try:
        data = photo_bytes(photo, beside)
    except (OSError, ValueError):  # no name can have a NUL in it
        return QPixmap()
    buffer = QBuffer()
    buffer.setData(data)
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer, (format_of(data) or "").encode())
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isEmpty() or size.width() * size.height() > MOST_PIXELS:
        return QPixmap()
    reader.setScaledSize(size.scaled(16 * THUMB, THUMB, Qt.AspectRatioMode.KeepAspectRatio))
    return QPixmap.fromImage(reader.read())
