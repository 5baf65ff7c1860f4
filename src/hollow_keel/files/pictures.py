"""A picture of a lines plan: PNG, JPEG or a page of a PDF, as pixels."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from ..core.errors import InputError

SUFFIXES = (".png", ".jpg", ".jpeg", ".pdf")
LARGEST_BYTES = 200_000_000
PAGE_PIXELS = 4000
"""A page of a PDF is drawn so many pixels long on its longer side."""
LONGEST_SIDE, MOST_KEPT = 12_000, 50_000_000
"""A larger picture is made smaller: so many pixels on its longer side, and so many in all."""
MOST_DECODED = 80_000_000
"""One of more pixels is refused before it is decoded: each takes four bytes, and four more while its colours are converted."""


@dataclass(frozen=True)
class Picture:
    """Rows of red, green, blue, a byte each."""

    width: int
    height: int
    rgb: bytes


def page_count(path: Path) -> int:
    """How many pages: 1 for a picture. Raises InputError."""
    if path.suffix.lower() != ".pdf":
        return 1
    document = _pdf(path)
    try:
        return len(document)
    finally:
        document.close()


def read_picture(path: Path, page: int = 0) -> Picture:
    """Read a picture or a page (from 0) of a PDF. Raises InputError for a file that holds none."""
    from PIL.Image import DecompressionBombError

    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise InputError("this picture is too large", path.name, mend="Scan it at fewer dots to the inch.")
        image = _page(path, page) if path.suffix.lower() == ".pdf" else _decoded(path)
    except InputError:
        raise
    except OSError as error:
        raise InputError("this is no picture we can read", path.name, str(error)[:60], "Save it as PNG, JPEG or PDF.") from None
    except (ValueError, DecompressionBombError) as error:
        raise InputError("this picture cannot be used", path.name, str(error)[:60], "Scan it smaller.") from None
    except MemoryError:
        raise
    except Exception as error:  # the readers of pictures raise whatever they stumble over
        raise InputError(
            "this picture is damaged", path.name, str(error)[:60] or type(error).__name__, "Save it again as PNG, JPEG or PDF."
        ) from None
    smaller = min(1.0, LONGEST_SIDE / max(image.size), (MOST_KEPT / _pixels(image)) ** 0.5)
    if smaller < 1.0:
        image.thumbnail((max(1, int(image.width * smaller)), max(1, int(image.height * smaller))))
    return Picture(image.width, image.height, image.tobytes())


def _decoded(path: Path) -> Any:
    from PIL import Image

    with warnings.catch_warnings():
        warnings.simplefilter("ignore", Image.DecompressionBombWarning)  # we look at the pixels ourselves
        found = Image.open(io.BytesIO(path.read_bytes()))  # of bytes no reader asks for more than there are
    with found as opened:
        if _pixels(opened) > MOST_DECODED:
            # a JPEG can be decoded at half its size
            opened.draft("RGB", (opened.width // 2, opened.height // 2))
        if _pixels(opened) > MOST_DECODED:
            mend = f"Scan it at fewer dots to the inch: {MOST_DECODED / 1e6:.0f} million pixels at most."
            said = f"{_pixels(opened) / 1e6:.0f} million pixels"
            raise InputError("this picture is too large", path.name, said, mend)
        opened.load()
        return opened if opened.mode == "RGB" else opened.convert("RGB")


def _pixels(image: Any) -> int:
    count: int = image.width * image.height
    return count


def _pdf(path: Path) -> Any:
    import pypdfium2

    try:
        return pypdfium2.PdfDocument(path)
    except (pypdfium2.PdfiumError, OSError) as error:
        raise InputError("this PDF cannot be read", path.name, str(error)[:60], "Save it again, without a password.") from None


def _page(path: Path, page: int) -> Any:
    document = _pdf(path)
    try:
        if not 0 <= page < len(document):
            raise InputError("the PDF has no such page", path.name, str(page + 1), f"It has {len(document)}.")
        sheet = document[page]
        scale = PAGE_PIXELS / max(sheet.get_width(), sheet.get_height())
        return sheet.render(scale=scale).to_pil().convert("RGB")
    finally:
        document.close()
