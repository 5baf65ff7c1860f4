"""Speed and accuracy figures; printed, never a test. Compare figures of one run only: machines are noisy.

./run bench
"""

from __future__ import annotations

import gc
import math
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parent.parent))

import numpy as np
from PySide6.QtCore import QPointF, QTimer
from PySide6.QtWidgets import QApplication
from tests.core.stock.test_joints import fewest_joints, need, random_stock
from tests.core.stock.test_joints import plan as plan_pieces
from tests.outside.test_timber import ROLLS
from tests.shapes import cone, cylinder, hull_of, sphere_zone
from tests.slips import Planter, hulls
from tests.survey_trials import trials

from hollow_keel.app.batten_state import BattenState
from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS
from hollow_keel.core.fairing.doubts import find_doubts
from hollow_keel.core.fairing.ease import ease
from hollow_keel.core.fairing.fair_lines import fair_lines
from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.hull.stages import DECK, HULL
from hollow_keel.core.job import Job, Layer, MasterLine, VeneerSettings
from hollow_keel.core.molds.nesting import nest
from hollow_keel.core.molds.shape import mold_edge
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.offsets.transform import scaled
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.crossings import crossings
from hollow_keel.core.planking.end_turns import end_turns
from hollow_keel.core.planking.mechanics import behaviours
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.planking.stages import PLAN, PLANKING
from hollow_keel.core.planking.strips import Planking
from hollow_keel.core.results import SHAPE
from hollow_keel.core.settings.layout import Sheets
from hollow_keel.core.settings.mold_choices import Deduction
from hollow_keel.core.settings.strip_choices import Guide, MasterKind, StripLayout
from hollow_keel.core.settings.timber import JointSettings
from hollow_keel.core.setup.long_batten import Batten, lay_batten, pulls
from hollow_keel.core.setup.outliers import judge_row
from hollow_keel.core.stock.cutting import Bar, cut_stock
from hollow_keel.core.stock.stages import STOCK
from hollow_keel.core.veneers.layers import plan_layers
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.planking.mesh import planked_mesh
from hollow_keel.ui.views.batten_view import BattenView
from hollow_keel.ui.views.hull_view import HullView
from hollow_keel.ui.window.collector import Collector
from hollow_keel.ui.window.start import make_application, wait_for_plan
from hollow_keel.ui.window.theme import LIGHT, apply_theme
from hollow_keel.ui.window.window import MainWindow


def line(what: str, value: float, unit: str, wanted: float | None = None) -> None:
    ratio = f"   wanted {wanted:g}, ratio {value / wanted:.2f}" if wanted else ""
    print(f"{what:<58}{value:9.3f} {unit}{ratio}")


def yardstick() -> None:
    """A fixed piece of arithmetic: how fast this machine is just now (about 0.06 s when nothing else runs)."""
    values = np.linspace(0, 1, 300)

    def work() -> None:
        for _ in range(20_000):
            values * values + values

    line("yardstick: 40,000 short array operations", best_of(3, work), "s", 0.06)


def best_of(count: int, act) -> float:
    times = []
    for _ in range(count):
        start = time.perf_counter()
        act()
        times.append(time.perf_counter() - start)
    return min(times)


START = """
from hollow_keel.app.processes.launch import hold_collector, start_worker
hold_collector()
worker = start_worker()
import sys, tempfile, pathlib, time
from hollow_keel.ui.window.start import make_application
from hollow_keel.ui.window.theme import LIGHT, apply_theme
from hollow_keel.ui.window.window import MainWindow
from hollow_keel.core.veneers.layers import plan_layers
from hollow_keel.demo.jobs import demo_job
app = make_application(); apply_theme(app, LIGHT)
window = MainWindow(demo_job("linnet"), pathlib.Path(tempfile.mkdtemp()), None, worker)
window.show()
while window.state.shape is None:
    app.processEvents()
    time.sleep(0.002)
window.grab()
print(time.time() - float(sys.argv[1]))
window.close()
"""


def bench_start() -> None:
    def start() -> float:
        run = [sys.executable, "-c", START, str(time.time())]
        return float(subprocess.run(run, check=True, capture_output=True, text=True).stdout)

    start()
    line("window with Linnet on screen, warm start", min(start() for _ in range(4)), "s", 1.5)


def moved(job: Job, step: float) -> Job:
    rows = list(job.offsets.rows)
    k = len(rows) // 2
    rows[k] = rows[k].model_copy(update={"half_breadth": rows[k].half_breadth + step})
    return change(job, "", offsets=job.offsets.model_copy(update={"rows": tuple(rows)}))


def bench_stages() -> None:
    job = demo_job("linnet")
    pipeline = Pipeline()
    pipeline.results(job)
    line("shape after an edit (no window)", best_of(5, lambda: Pipeline().shape(job)), "s", 0.1)
    shape = pipeline.shape(job)
    line(
        f"strips of Linnet ({len(pipeline.value(shape.job, PLANKING).strips)} a side)",
        best_of(5, lambda: plank(shape.hull, job.strips.cover)),
        "s",
        0.3,
    )


@contextmanager
def planned_window() -> Iterator[tuple[QApplication, MainWindow]]:
    """A window with Linnet, planned; closed afterwards, and garbage is collected as before it."""
    app = make_application()
    apply_theme(app, LIGHT)
    with tempfile.TemporaryDirectory() as folder:
        window = MainWindow(demo_job("linnet"), Path(folder))
        window.show()
        wait_for_plan(app, window)
        yield app, window
        window.close()
    gc.unfreeze()  # no window runs any more that would collect
    gc.enable()


def bench_edits() -> None:
    with planned_window() as (app, window):
        gaps: list[float] = []
        last = time.perf_counter()

        def beat() -> None:
            nonlocal last
            now = time.perf_counter()
            gaps.append(now - last - 0.002)
            last = now

        timer = QTimer()
        timer.setInterval(2)
        timer.timeout.connect(beat)
        for page in range(len(window.pages)):
            window.go_to(page)
            window.pages[page].prepare_picture()
            for _ in range(80):
                app.processEvents()
                time.sleep(0.005)
            redrawn, laid = [], []
            gaps.clear()
            last = time.perf_counter()
            timer.start()
            app.findChild(Collector).settle()  # as a window does some seconds after its start
            for k in range(6):
                start = time.perf_counter()
                window.edit("bench", moved(window.session.job, 1.0 if k % 2 else -1.0))
                while not window.state.shape_known:
                    app.processEvents()
                    time.sleep(0.0005)
                redrawn.append(time.perf_counter() - start)
                while window.state.stale:
                    app.processEvents()
                    time.sleep(0.0005)
                laid.append(time.perf_counter() - start)
            timer.stop()
            name = window.pages[page].question.text()[:28]
            line(f"{name}: redrawn after an edit", statistics.median(redrawn), "s", 0.1)
            line(f"{name}: strips laid again", statistics.median(laid), "s", 0.5)
            line(f"{name}: longest the window was busy", max(gaps), "s", 0.05)


def bench_rings() -> None:
    """A ring dragged to and fro on the molds page: how long until it is painted where the pointer is."""
    with planned_window() as (app, window):
        window.go_to_page("molds")
        window.choose_mold(6)
        for _ in range(80):
            app.processEvents()
            time.sleep(0.005)
        view = window.page.view
        for path in ("waterline", "setup.beam_width"):
            ring = next(r for r in view.drawing.rings if r.decides == path)
            x, y = view.frame.point(ring.at)
            view.deciding.press(QPointF(x, y))
            times = []
            for k in range(200):
                away = 30 * math.sin(k / 9)
                start = time.perf_counter()
                view.deciding.move(QPointF(x + away * ring.way[0], y - away * ring.way[1]))
                app.processEvents()
                times.append(time.perf_counter() - start)
                time.sleep(0.004)
            view.deciding.drop()
            app.processEvents()
            line(f"ring of {path}: follows within, median", statistics.median(times), "s", 0.033)
            line(f"ring of {path}: worst of 200, drawings that came with it", max(times), "s")
            wait_for_plan(app, window)


def bench_accuracy() -> None:
    edge = mold_edge(hull_of(cone()), 2900.0, 10.0, Deduction.NORMAL, 0.0)
    true = 2900 * math.tan(math.radians(9)) - 10 / math.cos(math.radians(9))
    worst = max(abs(math.hypot(y, z) - true) for y, z in edge.points)
    line("cone: mold off by at most", worst, "mm", 0.1)
    strips = plank(hull_of(cylinder()), 30.0).strips
    line("cylinder: strip length off by at most", max(abs(s.length - 3000) for s in strips), "mm", 3.0)
    surface = hull_of(sphere_zone()).panels[0].surface
    off = 0.0
    for front in propagate(surface, 1.0, 20.0)[:65]:
        own = (front.g >= 0) & (front.g <= 1)
        off = max(off, float(abs(front.point[own][:, 2] + 1000 * math.sin(front.distance / 1000)).max()))
    line("sphere: edges off by at most", off, "mm", 0.2)


def bench_doubts() -> None:
    """Slips planted at random, the faulty table read afresh each time."""
    random = np.random.default_rng(11)
    planters = [Planter(table) for table in hulls().values()]
    times: list[float] = []
    for skin, count, first_wanted, three_wanted in ((6.0, 200, 0.90, 0.98), (3.0, 100, None, 0.75)):
        places = []
        for k in range(count):
            planter = planters[k % len(planters)]
            table, row, _ = planter.plant(skin, random)
            start = time.perf_counter()
            found = [d.row for d in find_doubts(table, planter.build(table), planter.build)]
            times.append(time.perf_counter() - start)
            places.append(found.index(row) if row in found else 99)
        share = [sum(p < k for p in places) / count for k in (1, 3)]
        line(f"{count} slips of {skin:g} mm of skin: first", share[0], "", first_wanted)
        line(f"{count} slips of {skin:g} mm of skin: among the first three", share[1], "", three_wanted)
    clean = sum(len(find_doubts(p.table, p.build(p.table), p.build)) for p in planters)
    line("doubts raised in clean tables", clean, "")
    line("a faulty table looked over, median", statistics.median(times), "s", 1.0)


def bench_fairing() -> None:
    table = demo_job("linnet").offsets
    hull = build_hull(read_lines(table))
    line("ease the whole hull (Linnet)", best_of(3, lambda: ease(table, hull, 3.2, 0.5)), "s", 1.0)
    app = make_application()
    apply_theme(app, LIGHT)
    view = BattenView()
    view.resize(840, 150)
    view.show()
    batten = BattenState(fair_lines(table)[0])
    view.show_batten(batten, "", LIGHT, Job().units.style)
    app.processEvents()

    def drag() -> None:
        batten.drag(5, float(batten.values[5]) + 1.0)
        view.repaint()

    line("a duck dragged and the batten drawn again", best_of(30, drag), "s", 1 / 30)


def bench_molds() -> None:
    job = change(demo_job("linnet"), "molds", stations=tuple(float(x) for x in range(400, 5200, 200)))
    pipeline = Pipeline()
    results = pipeline.results(job, SHAPE)
    count = len(results.shape.molds.molds)

    def write() -> None:
        for kind in ("molds-pdf", "molds-dxf"):
            export_named(kind).write(results)

    line(f"{count} molds to A4 patterns and DXF", best_of(2, write), "s", 4.0 * count / 24)
    shape = pipeline.shape(change(demo_job("linnet"), "molds", halves=True, beyond_sheer=50.0))
    parts = shape.parts.flat
    for length, width in ((2440.0, 1220.0), (1525.0, 1525.0), (1220.0, 1220.0)):
        start = time.perf_counter()
        layouts = list(nest(parts, Sheets(length=length, width=width), 20.0))
        name = f"{len(parts)} half-molds on {length:g} x {width:g}: {layouts[0].count} sheets as rectangles"
        print(f"{name}, {layouts[-1].count} as shapes, in {time.perf_counter() - start:.0f} s")


MEMORY = """
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.offsets.transform import scaled
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.veneers.layers import plan_layers
from hollow_keel.demo.jobs import demo_job
times = 15.5 / 5.353
plank(build_hull(read_lines(scaled(demo_job("linnet").offsets, times, times, times))), 10.0)
lines = open("/proc/self/status").read().splitlines()  # the most it ever held; getrusage tells of the parent as well
print(next(int(line.split()[1]) for line in lines if line.startswith("VmHWM")) / 1024)
"""


def bench_planking() -> None:
    """Linnet drawn out to 15.5 m, her sections 2.87 times as large, and broader as well."""
    linnet = demo_job("linnet")
    times = 15.5 / 5.353
    for what, beam, width, wanted in (
        ("15.5 m hull, 45 mm strips", times, 45.0, 0.6),
        ("15.5 m hull, 10 mm strips", times, 10.0, 3.0),
        ("15.5 m hull a third broader, 45 mm strips", 1.3 * times, 45.0, 0.6),
    ):
        hull = build_hull(read_lines(scaled(linnet.offsets, times, beam, beam)))
        laid = plank(hull, width)
        widest = 2 * math.ceil(max(g for _, g in hull.girths) / width)
        line(f"{what}: {len(laid.strips)} a side, {widest} around", best_of(3, lambda h=hull, w=width: plank(h, w)), "s", wanted)
    hull = build_hull(read_lines(linnet.offsets))
    line("strips of Linnet (65 a side)", best_of(4, lambda: plank(hull, 14.0)), "s", 0.3)
    for layout in (StripLayout.TAPERED, StripLayout.MIXED):
        line(f"strips of Linnet, {layout.value}", best_of(3, lambda y=layout: plank(hull, Laying(14.0, layout=y))), "s")
    natural = MasterLine(kind=MasterKind.NATURAL, height=330.0)
    line("strips of Linnet, natural master line", best_of(3, lambda: plank(hull, Laying(14.0, Guide.MASTER, master=natural))), "s")
    shape = Pipeline().shape(linnet)
    laid = Pipeline().value(shape.job, PLANKING)
    stations = [m.station for m in shape.molds.molds]
    line("how 65 strips behave", best_of(3, lambda: behaviours(linnet.strips, laid, stations)), "s")
    mold = shape.molds.molds[5]
    line("65 strips where they cross a mold", best_of(3, lambda: crossings(shape.hull, mold, laid, linnet.strips)), "s")
    for name in ("linnet", "sedge", "pipit", "teasel"):
        own = demo_job(name)
        line(
            f"ends of {own.name}'s strips, every layout: the sharpest turn in the last 250 mm",
            max(end.turn for layout in StripLayout for end in end_turns(_divided(own, layout))),
            "°",
            12.0,
        )
    run = subprocess.run([sys.executable, "-c", MEMORY], check=True, capture_output=True, text=True)
    line("15.5 m hull, 10 mm strips: memory, in a process of its own", float(run.stdout), "MB", 500)
    _orbit(laid)


def _divided(job: Job, layout: StripLayout) -> Planking:
    """Her strips from the sheer, divided so."""
    hull = build_hull(read_lines(job.offsets))
    return plank(hull, Laying(job.strips.cover, layout=layout, least=job.strips.least_width))


def _orbit(laid: Planking) -> None:
    """Frames of the planked hull turned by hand, at the size it has on its page."""
    view = HullView()
    view.resize(560, 320)
    view.show()
    view.show_hull(lambda: planked_mesh(laid), LIGHT)
    view.wait_until_known()
    frames, start = 0, time.perf_counter()
    while time.perf_counter() - start < 2.0:
        view.set_view(-120.0 + 3 * frames, 25.0)
        view.wait_until_painted()
        view.grab()
        frames += 1
    line("frames a second turning the planked hull (more is better)", frames / (time.perf_counter() - start), "", 20)
    view.close_scene()


def bench_survey() -> None:
    for what, faults, sizes, noise in (
        ("1 to 3 molds out by 4 to 12 mm", (1, 3), (4.0, 12.0), 0.5),
        ("four out", (4, 4), (4.0, 12.0), 0.5),
        ("1 to 3 out by 3 mm", (1, 3), (3.0, 3.01), 0.5),
        ("noise of 1 mm", (1, 3), (4.0, 12.0), 1.0),
    ):
        score = trials(500, faults, sizes, noise, 6.0)
        hard = None if what != "1 to 3 molds out by 4 to 12 mm" else 0.05
        line(f"500 set-ups, {what}: missed", score.missed_share, "", hard)
        line(f"500 set-ups, {what}: innocent among the named", score.innocent_share, "", hard)
    places = np.arange(30) * 400.0
    values = np.random.default_rng(1).normal(0, 0.5, 30)
    values[[4, 11, 20]] += 7.0
    line("30 molds judged, six directions", best_of(5, lambda: [judge_row(places, values, 0.5) for _ in range(6)]), "s", 0.05)
    far = np.arange(40) * 400.0
    round_hull = np.sqrt(30_000.0**2 - (far - far.mean()) ** 2)
    built = round_hull + np.random.default_rng(2).normal(0, 3, 40)
    strip = Batten.of_strip(20, 8)
    line("batten over 40 molds", best_of(5, lambda: lay_batten(far, built, strip, pulls(far, round_hull))), "s", 0.02)


def bench_stock() -> None:
    line("published cutting stock, proven at 73", best_of(3, lambda: cut_stock(ROLLS, [Bar(5600)])), "s", 2.0)
    needs = [need(k + 1, 15400.0, side) for k in range(60) for side in ("port", "starboard")]
    waste, joints, times = [], [], []
    for seed in range(1, 7):
        lengths = random_stock(seed, 120 * 15400.0)
        start = time.perf_counter()
        made = plan_pieces(needs, lengths, JointSettings(stagger=600, rows=1, least_piece=600))
        times.append(time.perf_counter() - start)
        waste.append(100 * made.waste)
        joints.append(made.joints / fewest_joints(120, 120 * 15400.0, lengths))
    line("120 strips of 15.4 m, six stocks: waste at most", max(waste), "%", 1.3)
    line("joints over the fewest there can be, at most", max(joints), "", 1.25)
    line("time for each, median", statistics.median(times), "s", 5.0)
    pipeline = Pipeline()
    shape = pipeline.shape(demo_job("linnet"))
    pipeline.value(shape.job, PLANKING)
    start = time.perf_counter()
    pipeline.value(shape.job, STOCK)
    line("the whole stock plan of Linnet", time.perf_counter() - start, "s")


def bench_decks() -> None:
    """Hull and deck of a decked boat planned together, and an edit of the deck."""
    job = demo_job("teasel")
    pipeline = Pipeline()
    pipeline.results(job, [PLAN, DECK_OPENINGS])

    def planned(width: float) -> None:
        wider = change(change(job, "strips", width=width), "deck", width=width)
        pipeline.results(wider, [PLAN, DECK_OPENINGS])

    widths = iter((17.0, 17.5, 18.5, 19.0))
    line("hull and deck of Teasel planned, with openings", best_of(4, lambda: planned(next(widths))), "s", 0.6)
    rows = job.offsets.rows
    place = next(k for k, row in enumerate(rows) if row.label == "deck" and row.station == 2000)
    heights = iter((1.0, 2.0, 3.0, 4.0))

    def moved() -> None:
        row = rows[place].model_copy(update={"height": rows[place].height + next(heights)})
        pipeline.results(change(job, "", offsets=job.offsets.with_row(place, row)), [DECK, MOLDS])

    line("an offset of the deck to its surface and closed molds", best_of(4, moved), "s")


def bench_veneers() -> None:
    """One layer of the launch, and three, as the worker lays them."""
    hull = Pipeline().results(demo_job("sedge"), [HULL])[HULL]
    one = VeneerSettings(layers=(Layer(),))
    three = VeneerSettings(layers=(Layer(), Layer(angle=-45.0), Layer(angle=90.0)))
    line("a layer of Sedge at 100 mm", best_of(3, lambda: plan_layers(hull, one)), "s", 0.5)
    line("three layers of Sedge", best_of(2, lambda: plan_layers(hull, three)), "s", 1.5)


if __name__ == "__main__":
    yardstick()
    bench_start()
    bench_stages()
    bench_edits()
    bench_rings()
    yardstick()
    bench_fairing()
    bench_doubts()
    bench_molds()
    bench_planking()
    bench_decks()
    bench_veneers()
    bench_survey()
    bench_stock()
    bench_accuracy()
