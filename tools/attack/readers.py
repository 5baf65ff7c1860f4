"""Every reader of files and lines, fed what is nearly right."""

from __future__ import annotations

import io
import random
import tempfile
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date
from functools import partial
from pathlib import Path

from hollow_keel.app.open_any import open_job
from hollow_keel.core.log.quick import read_line
from hollow_keel.core.units import parse_length
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files import pictures as picture
from hollow_keel.files.lines import closed_curve
from hollow_keel.files.lines import drawing as lines_drawing
from hollow_keel.files.log.entries import read_log_csv, write_log_csv
from hollow_keel.files.mesh import hull as mesh_hull
from hollow_keel.files.offsets.plan import parse_offsets_json, write_offsets_json
from hollow_keel.files.offsets.points_csv import write_offsets_csv
from hollow_keel.files.store.job_file import job_text, parse_job
from hollow_keel.files.tables.grid import grids_of

from .mutations import Mutation, by_bytes, by_cells, by_groups, by_json, by_numbers
from .outcome import tried_all
from .tally import REFUSAL, Tally

TODAY = date(2026, 11, 29)
TOGETHER = 40
"""So many inputs are read in one fork: a fork takes longer than most of them."""


@dataclass(frozen=True)
class Reader:
    """A name, a good input, how it is made bad, what reads it (a path)."""

    name: str
    suffix: str
    good: bytes
    mutations: tuple[Mutation, ...]
    read: Callable[[Path], object]


def readers() -> Iterator[Reader]:
    """All of them."""
    job = demo_job("linnet")
    pipit = demo_job("pipit")
    csv = write_offsets_csv(pipit.offsets).encode()
    yield Reader("job file", ".hkeel", job_text(job).encode(), (by_json, by_bytes), lambda p: parse_job(p.read_bytes()))
    yield Reader("own offsets CSV", ".csv", csv, (by_cells, by_bytes), open_job)
    yield Reader("any table", ".txt", csv.replace(b",", b"\t"), (by_groups, by_bytes), open_job)
    offsets = write_offsets_json(pipit.offsets, "x", None).encode()
    yield Reader("offsets JSON", ".json", offsets, (by_json, by_bytes), lambda p: parse_offsets_json(p.read_text(errors="replace")))
    log = write_log_csv(job.log.entries).encode()
    yield Reader("log CSV", ".csv", log, (by_cells, by_bytes), lambda p: read_log_csv(p.read_text(errors="replace")))
    line = b"2h planking strips 21-24 port, 250 g at 14 C mixed 19:10 used up 19:40, two of us, 12 m of cedar"
    yield Reader("line of the log", ".txt", line, (by_numbers, by_bytes), lambda p: read_line(p.read_text(errors="replace"), TODAY))
    yield Reader("length", ".txt", b"5 ft 3 1/2 in", (by_numbers, by_bytes), lambda p: parse_length(p.read_text(errors="replace")))
    yield Reader("spreadsheet", ".xlsx", _spreadsheet(csv), (by_bytes,), grids_of)
    yield Reader("drawing, DXF", ".dxf", _dxf(), (by_groups, by_bytes), lines_drawing.read_drawing)
    yield Reader("opening, DXF", ".dxf", _dxf(), (by_groups,), closed_curve.largest_closed_curve)
    yield Reader("drawing, SVG", ".svg", _svg(), (by_numbers, by_bytes), lines_drawing.read_drawing)
    for suffix in ("stl", "obj", "ply"):
        ways = (by_bytes,) if suffix == "stl" else (by_groups, by_bytes)
        yield Reader(f"mesh, {suffix.upper()}", f".{suffix}", _mesh(suffix), ways, mesh_hull.read_mesh)
    for suffix in ("png", "jpg", "pdf"):
        yield Reader(f"picture, {suffix.upper()}", f".{suffix}", _picture(suffix), (by_bytes,), picture.read_picture)


def _text(path: Path) -> str:
    return path.read_text(encoding="utf-8", errors="replace")


def attacked(name: str, count: int, seed: int, seconds: float) -> Tally:
    """So many bad inputs of the reader of that name, or as many as there is time for."""
    reader = next(own for own in readers() if own.name == name)
    tally, dice = Tally(), random.Random(f"{seed} {name}")
    until = time.monotonic() + seconds
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"input{reader.suffix}"

        def read(data: bytes) -> object:
            path.write_bytes(data)
            return reader.read(path)

        read(reader.good)  # a good one is read; and what reads is loaded before there are forks
        while tally.count < count and time.monotonic() < until:
            some = min(TOGETHER, count - tally.count)
            bad = [dice.choice(reader.mutations)(reader.good, dice) for _ in range(some)]
            for outcome in tried_all([partial(read, data) for data in bad], REFUSAL):
                tally.add(outcome)
    return tally


def _spreadsheet(csv: bytes) -> bytes:
    import openpyxl

    book = openpyxl.Workbook()
    for row in csv.decode().splitlines()[:60]:
        book.active.append([float(cell) if cell.replace(".", "").lstrip("-").isdigit() else cell for cell in row.split(",")])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _dxf() -> bytes:
    import ezdxf

    drawing = ezdxf.new()
    space = drawing.modelspace()
    for k in range(4):
        space.add_spline([(0, 0), (90 + 9 * k, 60), (150, 310)], dxfattribs={"layer": f"S{k}"})
        space.add_lwpolyline([(0, 0), (50, 5, 0.3), (60 + k, 300)], dxfattribs={"layer": "P"})
    space.add_circle((500, 20), 60)
    space.add_ellipse((900, 0), (200, 0), 0.4)
    block = drawing.blocks.new("B")
    block.add_line((0, 0), (10, 30))
    space.add_blockref("B", (5, 5))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def _svg() -> bytes:
    return (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="400mm" height="200mm" viewBox="0 0 400 200"> <g id="S1" '
        b'transform="translate(3 4) rotate(10)"> <path d="M 0 0 C 20 30 40 50 60 190 S 80 90 100 100 A 30 20 0 1 0 150 60 Z" /> '
        b'<polyline points="0,0 30,40 60,90" /> </g> '
        b'<g id="S2"> <line x1="0" y1="0" x2="50" y2="90" /> <circle cx="9" cy="9" r="4" /> </g> </svg>'
    )


def _mesh(suffix: str) -> bytes:
    import trimesh

    mesh = trimesh.creation.icosphere(subdivisions=2, radius=500.0)
    mesh.apply_scale((6.0, 1.0, 0.7))
    data = mesh.export(file_type=suffix)
    return data.encode() if isinstance(data, str) else data


def _picture(suffix: str) -> bytes:
    from PIL import Image, ImageDraw

    image = Image.new("RGB", (320, 40), "white")
    ImageDraw.Draw(image).line((0, 0, 300, 30), "black", 3)
    out = io.BytesIO()
    image.save(out, {"jpg": "JPEG"}.get(suffix, suffix.upper()))
    return out.getvalue()
