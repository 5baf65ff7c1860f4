"""Files of other programs, read in a process of their own: what they hold comes through, what is wrong with them is one message."""

from __future__ import annotations

import os
import pickle
import struct
import sys
import threading
import time
import zlib
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import trimesh
from PIL import Image

from hollow_keel.app.processes import foreign
from hollow_keel.app.processes.foreign import ForeignRead, answer_of, read_foreign
from hollow_keel.app.processes.launch import started
from hollow_keel.core.errors import InputError
from hollow_keel.files.lines.drawing import read_drawing
from hollow_keel.files.mesh.hull import read_mesh
from hollow_keel.files.pictures import read_picture


def a_drawing(path: Path) -> Path:
    drawing = ezdxf.new()
    drawing.layers.add("S1")
    drawing.modelspace().add_lwpolyline([(0, 0), (100, 50), (180, 300)], dxfattribs={"layer": "S1"})
    drawing.modelspace().add_spline([(0, 0), (90, 60), (150, 310)], dxfattribs={"layer": "S1"})
    drawing.saveas(path)
    return path


# -- what comes through ------------------------------------------------------------------------------------------


def test_what_is_read_apart_is_what_is_read_here(tmp_path: Path) -> None:
    path = a_drawing(tmp_path / "a.dxf")
    apart, here = read_foreign("drawing", path), read_drawing(path)
    assert (list(apart.layers), apart.mm) == (list(here.layers), here.mm)
    for own, other in zip(apart.layers["S1"], here.layers["S1"], strict=True):
        assert np.array_equal(own, other)
    path = tmp_path / "a.stl"
    trimesh.creation.icosphere(subdivisions=3, radius=500.0).export(path)
    apart, here = read_foreign("mesh", path), read_mesh(path)
    assert np.array_equal(apart.vertices, here.vertices)
    assert np.array_equal(apart.faces, here.faces)
    assert (apart.closed, type(apart.pose)) == (here.closed, type(here.pose))
    path = tmp_path / "a.png"
    Image.new("RGB", (40, 30), (10, 20, 30)).save(path)
    assert read_foreign("picture", path) == read_picture(path)
    assert read_foreign("pages", path) == 1


def test_a_message_of_a_reader_is_the_readers(tmp_path: Path) -> None:
    path = tmp_path / "a.dxf"
    path.write_text("no drawing at all")
    with pytest.raises(InputError) as apart:
        read_foreign("drawing", path)
    with pytest.raises(InputError) as here:
        read_drawing(path)
    assert str(apart.value) == str(here.value)
    with pytest.raises(InputError):
        read_foreign("drawing", tmp_path / "none.dxf")


# -- what is wrong -----------------------------------------------------------------------------------------------


def png_of(width: int, height: int) -> bytes:
    """The head of a picture, and next to nothing of it."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0))
    return b"\x89PNG\r\n\x1a\n" + head + chunk(b"IDAT", zlib.compress(bytes(1000))) + chunk(b"IEND", b"")


HOSTILE = {
    "billion.stl": ("mesh", bytes(80) + struct.pack("<I", 1_000_000_000) + bytes(500)),
    "far.obj": ("mesh", b"v 1e300 0 0\nv 0 1e300 0\nv 0 0 1e300\nf 1 2 3\n"),
    "nan.ply": (
        "mesh",
        b"ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n"
        b"element face 1\nproperty list uchar int vertex_indices\nend_header\nnan 0 0\n1 0 0\n0 1 0\n3 0 1 2\n",
    ),
    "huge.png": ("picture", png_of(30_000, 30_000)),
    "cut.png": ("picture", png_of(300, 300)[:60]),
    "none.pdf": ("picture", b"%PDF-1.7\nrubbish"),
    "none.xlsx": ("tables", b"PK\x03\x04 not a spreadsheet"),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_cannot_be_is_refused_in_words(tmp_path: Path, name: str) -> None:
    reader, data = HOSTILE[name]
    (tmp_path / name).write_bytes(data)
    with pytest.raises(InputError) as raised:
        read_foreign(reader, tmp_path / name)
    assert name in str(raised.value)
    assert "trips" not in str(raised.value)


@pytest.mark.parametrize(
    ("kind", "size", "kept"),
    [("png", (8_900, 8_900), (7071, 7071)), ("png", (13_000, 130), (12_000, 120)), ("jpg", (11_000, 9_000), (5_500, 4_500))],
)
def test_a_large_picture_is_made_smaller(tmp_path: Path, kind: str, size: tuple[int, int], kept: tuple[int, int]) -> None:
    path = tmp_path / f"large.{kind}"
    Image.new("RGB", size, "white").save(path, compress_level=1)
    picture = read_foreign("picture", path)
    assert (picture.width, picture.height) == kept
    assert len(picture.rgb) == 3 * kept[0] * kept[1]
    assert picture.rgb[-3:] == bytes((255, 255, 255))


def test_a_piece_of_a_picture_that_announces_gigabytes_takes_none(tmp_path: Path) -> None:
    path = tmp_path / "a.png"
    Image.new("RGB", (40, 30)).save(path)
    data = path.read_bytes()
    at = data.index(b"IDAT")
    path.write_bytes(data[: at - 4] + struct.pack(">I", 0xF0000000) + data[at:])
    assert read_foreign("picture", path).height == 30


def test_a_picture_of_too_many_pixels_is_refused_before_they_are_decoded(tmp_path: Path) -> None:
    path = tmp_path / "large.png"
    path.write_bytes(png_of(13_000, 8_000))
    with pytest.raises(InputError, match="104 million pixels"):
        read_picture(path)


def test_a_line_far_off_is_named_with_its_layer(tmp_path: Path) -> None:
    drawing = ezdxf.new()
    drawing.layers.add("S7")
    drawing.modelspace().add_line((0, 0), (1e300, 5), dxfattribs={"layer": "S7"})
    drawing.saveas(tmp_path / "far.dxf")
    with pytest.raises(InputError, match="layer S7"):
        read_foreign("drawing", tmp_path / "far.dxf")


def reader_of(monkeypatch: pytest.MonkeyPatch, tmp_path: Path, body: str) -> Path:
    """A file, and a process that does something else than read it."""
    script = tmp_path / "hollow_keel_stand_in.py"
    script.write_text(
        f"from pathlib import Path\nfrom hollow_keel.app.processes import foreign\ndef read(path):\n    {body}\n"
        "foreign._loaded = lambda _: read\nforeign.main()\n"
    )

    monkeypatch.setattr(foreign, "start_worker", lambda _module: started([sys.executable, str(script)]))
    (tmp_path / "a.dxf").write_text("x")
    return tmp_path / "a.dxf"


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ("while True: pass", "took longer than"),
        ("return bytes(3_000_000_000)", "more memory"),
        ("read(path)", "more memory"),
        ("raise KeyError(1)", "trips what reads it (it says “KeyError”)"),
        ("import os; os.abort()", "trips what reads it"),
        ("return Path('/')", "trips what reads it"),
    ],
)
def test_whatever_a_reader_does_is_one_message(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, body: str, said: str) -> None:
    path = reader_of(monkeypatch, tmp_path, body)
    with pytest.raises(InputError) as raised:
        read_foreign("drawing", path)
    assert said in str(raised.value)


def test_an_answer_is_made_of_nothing_that_is_not_allowed() -> None:
    class Bad:
        def __reduce__(self) -> tuple[object, ...]:
            return os.system, ("true",)

    with pytest.raises(pickle.UnpicklingError, match="system"):
        answer_of(pickle.dumps(("value", Bad())))
    kind, value = answer_of(pickle.dumps(("value", {"S1": (np.arange(6.0).reshape(3, 2),)})))
    assert kind == "value"
    assert value["S1"][0].tolist() == [[0.0, 1.0], [2.0, 3.0], [4.0, 5.0]]


def test_given_up_it_ends_at_once(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    reading = ForeignRead("drawing", reader_of(monkeypatch, tmp_path, "import time; time.sleep(60)"))
    raised: list[BaseException] = []

    def run() -> None:
        try:
            reading.run()
        except InputError as error:
            raised.append(error)

    thread = threading.Thread(target=run)
    thread.start()
    time.sleep(0.5)
    reading.stop()
    thread.join(10)
    assert not thread.is_alive()
    assert raised
