"""Benches: medians and ratios, measured on this machine. Run with ``make bench``.

Each line gives what was measured, the figure, the target and whether it is met. Ratios say more than milliseconds:
they hold on another machine.
"""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from bicentra.core.base.records import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).resolve().parent))

from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.search.clock import search_clock
from bicentra.core.uncertainty.assess import assess
from bicentra.study.document.starting import demo_job
from drag_bench import rows
from measure import in_loops, line, plain_loop, text
from waiting_bench import crowded, waits


def timed(call: Callable[[], object], count: int) -> list[float]:
    """Return the wall times of ``count`` calls [ms]."""
    return list(in_loops([call] * count, 0).ms)


def bench_solve(job: Job) -> list[dict[str, object]]:
    """One full solve with all findings: a different clock angle each time, then another number new, then with its uncertainty."""

    def solved(path: str, value: float) -> Callable[[], object]:
        there = with_edits(job, ((path, value),))
        return lambda: solve(there, turns=False).findings

    def uncertain(k: int) -> Callable[[], object]:
        there = with_edits(job, (("fit.pad_inset_mm", 1.0 + k * 0.011), ("rotor.overall_height_mm", 44.0 + 0.01 * k)))
        solution = solve(there, turns=False)
        _ = solution.findings
        return lambda: assess(solution)

    turned = in_loops(solved("fit.clock_deg", 170.0 + k * 0.1) for k in range(120))
    other = in_loops(solved("fit.pad_inset_mm", 1.0 + k * 0.01) for k in range(120))
    return [
        text("all findings, another clock angle each time", turned, 2.06),
        text("all findings, another inset each time", other, 2.2),
        text("uncertainty of all findings, cold", in_loops(map(uncertain, range(15))), 24.0),
    ]


def bench_turns(job: Job) -> dict[str, object]:
    """All findings of a corner among 200 posts, with the turns that would cure them; worked out beside the window."""
    posts = (("survey", {}), ("knuckle.obstacles", crowded(200)))
    among = with_edits(job, posts)
    return text("200 obstacles, with turns", in_loops([lambda: solve(among).findings] * 6, 1), 160.0)


def bench_picture(job: Job) -> list[dict[str, object]]:
    """The picture in space at 1280 by 800, sharp and as it is shown while it is turned."""
    from bicentra.core.drawing.space.raster import Eye, render
    from bicentra.core.drawing.space.scene import solid_scene

    scene = solid_scene(solve(job))
    inks = {body.ink: (100, 120, 140) for body in scene.bodies}

    def picture(step: int) -> Callable[[], object]:
        return lambda: render(
            scene, inks, (250, 250, 245), Eye(-0.66, 0.38, 2.2 / step), (1280 // step, 800 // step), (0.0, 0.0, 0.0)
        )

    return [
        text("picture in space, 1280 × 800", in_loops([picture(1)] * 12), 21.0),
        text("picture in space, while it is turned", in_loops([picture(3)] * 12), 8.5),
    ]


def bench_search(job: Job) -> dict[str, object]:
    """The vectorised search against the plain loop of ``plain_search`` over the same 1,440 angles."""
    from plain_search import plain_search

    search_clock(job)
    fast = statistics.median(timed(lambda: search_clock(job), 7))
    share = 90  # the loop is timed on every sixteenth angle and scaled up
    slow = timed(lambda: plain_search(job, [k * 4.0 for k in range(share)]), 1)[0] * 1440 / share
    print(f"{'':<58} {fast:9.2f} ms vectorised, {slow:.0f} ms plain")
    return line("clock search, times faster than a plain loop", slow / fast, "×", 50.0, at_most=False)


def bench_sets(job: Job) -> list[dict[str, object]]:
    """The search through the shipped library as users begin it, and the same sets one by one."""
    from bicentra.core.search.run import search, single_path
    from bicentra.data import data_path
    from bicentra.study.desks.search import Criteria, job_for, space_for
    from bicentra.study.library.library import load_library

    library, criteria = load_library(data_path("library")), Criteria()
    space, start = space_for(library, criteria), job_for(job, criteria)
    began = time.process_time()
    found = [one for step in search(start, space) for one in step.sets]
    seconds = time.process_time() - began
    sample = [one.job for one in found[:: len(found) // 60]]
    for warm in sample[:5]:
        single_path(warm)
    single = statistics.mean(timed(lambda one=one: single_path(one), 1)[0] for one in sample)
    ratio = single / 1e3 * space.combinations / seconds
    print(f"{'':<58} {space.combinations:9d} combinations, {len(found)} sets; {single:.2f} ms a set the long way")
    return [
        line("search through the shipped library", seconds, "s CPU", 3.0),
        line("search, times faster than set by set", ratio, "×", 100.0, at_most=False),
    ]


def bench_kinds() -> list[dict[str, object]]:
    """A small search for kinds of bracket that are made anew at every angle, against the same sets with flat plates."""
    from bicentra.core.parts.corners import job_of
    from bicentra.core.search.run import search
    from bicentra.data import data_path
    from bicentra.study.desks.search import Criteria, job_for, space_for
    from bicentra.study.document.starting import example_vehicle
    from bicentra.study.library.library import load_library

    criteria = Criteria()
    space = space_for(load_library(data_path("library")), criteria)
    space = replace(space, rotors=space.rotors[:4], calipers=space.calipers[:5])

    def seconds(home: str, family: str) -> float:
        job = demo_job() if not home else job_of(example_vehicle(home))
        start = job_for(with_edits(job, (("bracket.family", family),)), criteria)
        return timed(lambda: [one for step in search(start, space) for one in step.sets], 1)[0]

    flat = statistics.median(seconds("", "") for _ in range(3))
    kinds = (("", "stepped-plate"), ("", "jogged-plate"), ("axle-end", "axle-end-plate"), ("tube-tab", "weld-on"),
             ("radial", "radial-mount"), ("bushings", "eccentric-bushings"))  # fmt: skip
    return [
        line(f"search, {family}, times flat plates", seconds(home, family) / flat, "×", 2.0) for home, family in kinds
    ]


_SOLID = """
import time
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.formats.solids import step_bytes
from bicentra.study.document.starting import demo_job
parts = find_bracket(demo_job(), "stepped-plate").bracket.parts
step_bytes(parts)
start = time.perf_counter()
step_bytes(parts)
print(time.perf_counter() - start)
"""


def bench_bracket(job: Job) -> list[dict[str, object]]:
    """Plate, families, solid and workshop drawing."""
    from bicentra.core.bracket.assembly import assemble
    from bicentra.core.bracket.plate import shape_plate
    from bicentra.core.options import propose
    from bicentra.study.papers.solids import solid_file, workshop_file

    stepped = with_edits(job, (("bracket.family", "stepped-plate"),))
    plate = statistics.median(timed(lambda: shape_plate(assemble(job)), 40))
    families = statistics.median(timed(lambda: propose(job), 15))
    kernel = float(subprocess.run([sys.executable, "-c", _SOLID], capture_output=True, text=True, check=True).stdout)
    whole = timed(lambda: solid_file(stepped, "step", lambda *_: True), 1)[0] / 1e3
    drawn = timed(lambda: workshop_file(stepped, lambda *_: True), 1)[0] / 1e3
    print(f"{'':<58} {whole:9.2f} s with the worker's start and the kernel's load")
    return [
        line("plate solved, median", plate, "ms", 15.0),
        line("all families proposed, median", families, "ms", 250.0),
        line("solid and STEP, kernel loaded", kernel, "s", 1.5),
        line("workshop drawing, worker and all", drawn, "s", 3.0),
    ]


_BARE = """
import sys, time
start = time.perf_counter()
from PySide6.QtWidgets import QApplication, QWidget
app = QApplication(sys.argv)
window = QWidget(); window.resize(1280, 800); window.show(); app.processEvents(); window.repaint()
print(time.perf_counter() - start)
"""
_OURS = """
import os, sys, time
start = time.perf_counter()
from bicentra.app import main
from PySide6.QtCore import QEvent, QObject, QTimer
from bicentra.app.shell import Shell

class Watch(QObject):
    painted = None
    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Paint and isinstance(watched, Shell) and self.painted is None:
            self.painted = time.perf_counter() - start
        if event.type() == QEvent.Type.Paint and type(watched).__name__ == "DrawingView":
            QTimer.singleShot(0, self.full)
        return False
    def full(self):
        print(self.painted, time.perf_counter() - start, flush=True)
        os._exit(0)

app = main.make_app()
watch = Watch()
app.installEventFilter(watch)
main.run(None, True)
"""


_SHEET = """
import os, sys, time
sys.path.insert(0, sys.argv[2])
from bicentra.app import main
from measure import plain_loop
from PySide6.QtCore import QSettings, QThreadPool
from bicentra.study.document.starting import demo_vehicle
from bicentra.study.document.study import Study
app = main.make_app()
window = main.make_window(Study(demo_vehicle()), QSettings(sys.argv[1], QSettings.Format.IniFormat))
window.show()
shown = time.perf_counter()
while window.study.assessment is None or QThreadPool.globalInstance().activeThreadCount() or time.perf_counter() - shown < 1.0:
    app.processEvents()
    time.sleep(0.01)
start = time.perf_counter()
window.show_panel(sys.argv[3])
app.processEvents()
took = time.perf_counter() - start
loops = []
for _ in range(9):
    start = time.perf_counter()
    plain_loop()
    loops.append(time.perf_counter() - start)
print(took / sorted(loops)[4], took, flush=True)
os._exit(0)
"""


def bench_start() -> list[dict[str, object]]:
    """Start to first painted window, against an empty window; a part's sheet opened first thing; each in a fresh process."""
    here = str(Path(__file__).resolve().parent)
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "XDG_STATE_HOME": folder, "PYTHONPYCACHEPREFIX": f"{folder}/compiled"}
        environment.pop("PYTHONDONTWRITEBYTECODE", None)  # as on a machine where the program was started before

        def run(code: str, *words: str) -> list[float]:
            done = subprocess.run(
                [sys.executable, "-c", code, f"{folder}/s.ini", *words],
                capture_output=True,
                text=True,
                check=True,
                env=environment,
                timeout=60,
            )
            return [float(word) for word in done.stdout.split()]

        for code in (_BARE, _OURS):
            run(code)
        pairs = [(run(_BARE)[0], run(_OURS)) for _ in range(11)]  # in turn: a slow moment hits both
        sheets = [run(_SHEET, here, name) for name in ("rotor", "caliper", "knuckle") for _ in range(4)]
    bare = statistics.median(one for one, _ in pairs)
    ours, full = (bare * statistics.median(both[k] / one for one, both in pairs) for k in (0, 1))
    print(f"{'':<58} {bare * 1e3:9.0f} ms bare window, {ours * 1e3:.0f} ms Bicentra's frame")
    print(f"{'':<58} {full * 1e3:9.0f} ms to the demo drawn in it")
    opened, in_ms = (statistics.median(one[k] for one in sheets) for k in (0, 1))
    return [
        line(
            "a part's sheet opened for the first time, none made ahead",
            opened,
            "loops",
            33.0,
            more=f"({in_ms * 1e3:.0f} ms here and now)",
        ),
        line("start to first painted window, times a bare window", ours / bare, "×", 1.8),
        line("start to the demo drawn, times a bare window", full / bare, "×", 4.0),
    ]


def bench_trial(job: Job) -> list[dict[str, object]]:
    """Shims planned from twelve sizes, eight of each; and the slot painted anew while a stack is pulled."""
    from bicentra.core.lineup.solve import line_up
    from bicentra.core.parts.trial import Gaps, LooseShims, ShimStacks, Trial, TrialLimits
    from bicentra.core.trialfit.plan import plans_of
    from bicentra.core.trialfit.pose import pose_of

    sizes = (0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.76, 0.8, 1.0, 1.27)
    line, calls = line_up(job), list[Callable[[], object]]()
    for k in range(12):
        off = 0.3 + 0.05 * k
        gaps = Gaps(
            leading_outboard=1.5 + off,
            leading_inboard=1.5 - off,
            trailing_outboard=1.6 + off,
            trailing_inboard=1.4 - off,
        )
        box = tuple(LooseShims(thickness_mm=size, count=8) for size in sizes)
        trial = Trial(gaps_mm=gaps, station_spacing_mm=96.0, shims_mm=ShimStacks(first=(1.0, 1.0), second=(1.0, 1.0)), stock=box,
                      school="unequal", limits=TrialLimits(offset_mm=0.02, tilt_deg=0.02))  # fmt: skip
        calls.append(lambda trial=trial: plans_of(job, line, trial, pose_of(job, trial)))
    return [text("shims planned, 12 sizes, 8 pieces a bolt", in_loops(calls, 1), 28.0)]


def bench_pedal() -> list[dict[str, object]]:
    """The whole pedal solved, 200 masters ranked, a train of 40 stops."""
    from bicentra.core.heat.stops import Train
    from bicentra.core.heat.train import train_of
    from bicentra.core.hydraulics.chain import chain_of
    from bicentra.core.hydraulics.masters import rank
    from bicentra.core.hydraulics.pedal import pedal_work
    from bicentra.core.parts.brakes import MasterCylinder
    from bicentra.study.document.starting import demo_vehicle

    vehicle = demo_vehicle()
    shelf = tuple(MasterCylinder(name=f"{k}", bore_mm=14.0 + k / 16, stroke_mm=30.0, circuits=2) for k in range(200))
    solved = in_loops([lambda k=k: pedal_work(vehicle, (), 100.0 + k) for k in range(20)], 3)
    ranked = in_loops([lambda: rank(chain_of(vehicle), shelf)] * 6, 1)
    train = in_loops([lambda k=k: train_of(vehicle, Train(60.0, 0.0, 40, 30.0 + k)) for k in range(12)], 2)
    return [
        text("the whole pedal solved", solved, 1.1),
        text("200 masters ranked", ranked, 53.0),
        text("a train of 40 stops", train, 11.0),
    ]


def bench_survey() -> dict[str, object]:
    """The survey's network with its blunder test."""
    from survey_bench import network_calls

    return text("60 readings over 12 points, with blunder test", in_loops(network_calls(25)), 11.0)


def main() -> int:
    """Run every bench; ``--json FILE`` writes the results as well."""
    job = demo_job()
    print(f"a plain loop takes {in_loops([plain_loop] * 40).median_ms:.2f} ms here and now (1.8 undisturbed)")
    results = [
        *bench_solve(job),
        bench_survey(),
        *bench_trial(job),
        *bench_pedal(),
        bench_turns(job),
        *bench_picture(job),
        *rows(),
        *waits(),
        bench_search(job),
    ]
    results += [*bench_sets(job), *bench_kinds(), *bench_bracket(job), *bench_start()]
    if "--json" in sys.argv:
        Path(sys.argv[sys.argv.index("--json") + 1]).write_text(json.dumps(results, indent=2))
    return 0


if __name__ == "__main__":
    main()
