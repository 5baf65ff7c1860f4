"""Photographs of a job that comes from a stranger: pipes, devices, drawings, links, what is too large."""

from __future__ import annotations

import os
import stat
from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image

from hollow_keel.files.log.photos import MOST_BYTES, brought_along, copied, format_of, photo_bytes


def pipe(path: Path) -> None:
    os.mkfifo(path)


def null_device(path: Path) -> None:
    try:
        os.mknod(path, stat.S_IFCHR | 0o600, os.makedev(1, 3))
    except PermissionError:
        pytest.skip("only root makes devices")


def drawing(path: Path) -> None:
    path.write_text('<svg xmlns="http://www.w3.org/2000/svg"><image href="pipe"/></svg>')


def huge(path: Path) -> None:
    path.write_bytes(b"\x89PNG\r\n\x1a\n")
    os.truncate(path, MOST_BYTES + 1)


def link_out(path: Path) -> None:
    secret = path.parent.parent / "secret.png"
    Image.new("RGB", (4, 4)).save(secret)
    path.symlink_to(secret)


def folder(path: Path) -> None:
    path.mkdir()


@pytest.mark.parametrize("make", [pipe, null_device, drawing, huge, link_out, folder])
def test_what_is_no_photograph_is_not_read(make: Callable[[Path], None], tmp_path: Path) -> None:
    """None of them is waited for, or filled the disk with: each is one OSError."""
    own = tmp_path / "own"
    own.mkdir()
    make(own / "a.png")
    with pytest.raises(OSError, match=r"a\.png|directory"):
        photo_bytes("a.png", own)
    if make is not drawing:  # a copy is whatever it is; it is not shown
        assert brought_along(["a.png"], own, tmp_path / "new") == ["a.png"]
        assert not (tmp_path / "new" / "a.png").exists()


@pytest.mark.parametrize("kind", ["jpeg", "png", "gif", "bmp", "webp", "tiff"])
def test_photographs_are_known_by_how_they_begin(kind: str, tmp_path: Path) -> None:
    Image.new("RGB", (6, 4)).save(tmp_path / "a.any", format=kind)
    assert format_of(photo_bytes("a.any", tmp_path)) == kind
    (tmp_path / "boat").mkdir()
    name = copied(tmp_path / "a.any", tmp_path / "boat" / "b.hkeel")
    assert (tmp_path / "boat" / name).read_bytes() == (tmp_path / "a.any").read_bytes()
    assert copied(tmp_path / "a.any", tmp_path / "boat" / "b.hkeel") == name, "the same one is copied once"
