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
from dataclasses import replace
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).resolve().parent))

from bicentra.core.parts.job import Job
from bicentra.core.search.clock import search_clock
from bicentra.core.solution import solve
from bicentra.study.document.starting import demo_job


def timed(call: Callable[[], object], count: int) -> list[float]:
    """Return the wall times of ``count`` calls [ms]."""
    found = []
    for _ in range(count):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1e3)
    return found


def line(what: str, figure: float, unit: str, target: float, at_most: bool = True) -> dict[str, object]:
    """Print one result and return it."""
    met = figure <= target if at_most else figure >= target
    print(
        f"{what:<58} {figure:9.2f} {unit:<3} target {'≤' if at_most else '≥'} {target:g}  {'met' if met else 'MISSED'}"
    )
    return {"what": what, "figure": figure, "unit": unit, "target": target, "met": met}


def bench_solve(job: Job) -> dict[str, object]:
    """One full solve with all findings, a different clock angle each time."""
    jobs = [replace(job, fit=replace(job.fit, clock_deg=170.0 + k * 0.1)) for k in range(200)]
    for warm in jobs[:20]:
        solve(warm)
    times = [timed(lambda one=one: solve(one), 1)[0] for one in jobs]
    return line("full solve and findings, median", statistics.median(times), "ms", 3.0)


def bench_drag() -> list[dict[str, object]]:
    """Drag the caliper by pointer events, each painted at once into a picture of the window."""
    from PySide6.QtCore import QEvent, QPointF, QSettings, Qt
    from PySide6.QtGui import QMouseEvent

    from bicentra.app.main import make_app, make_window
    from bicentra.study.document.study import Study

    app = make_app()
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_STATE_HOME"] = folder
        window = make_window(Study(demo_job()), QSettings(f"{folder}/s.ini", QSettings.Format.IniFormat))
        window.show()
        app.processEvents()
        view = window.bench.face
        handle = next(h for h in view.drawing.handles if h.turns)
        at = view.to_px(handle.at)

        def send(kind: QEvent.Type, point: QPointF) -> None:
            button = Qt.MouseButton.LeftButton
            event = QMouseEvent(kind, point, view.mapToGlobal(point), button, button, Qt.KeyboardModifier.NoModifier)
            app.sendEvent(view, event)

        def frame(k: int) -> None:
            send(QEvent.Type.MouseMove, QPointF(at.x(), at.y() + (k % 60) * 1.5 - 45))
            app.processEvents()

        send(QEvent.Type.MouseButtonPress, at)
        for k in range(60):
            frame(k)
        times = sorted(timed(lambda k=k: frame(k), 1)[0] for k in range(400))
        send(QEvent.Type.MouseButtonRelease, at)
        if "--split" in sys.argv:
            send(QEvent.Type.MouseButtonPress, at)
            study = window.study
            print(
                "move",
                statistics.median(
                    timed(
                        lambda: send(QEvent.Type.MouseMove, QPointF(at.x(), at.y() + time.perf_counter_ns() % 40)), 50
                    )
                ),
            )
            print(
                "face",
                statistics.median(timed(view.repaint, 50)),
                "section",
                statistics.median(timed(window.bench.section.repaint, 50)),
            )
            print(
                "solve",
                statistics.median(timed(lambda: solve(study.job), 50)),
                "refresh",
                statistics.median(timed(window.refresh, 50)),
            )
            print("bench", statistics.median(timed(window.bench.refresh, 50)))
            from bicentra.core.drawing.face_view import face_view
            from bicentra.core.drawing.section_view import section_view

            print(
                "draw",
                statistics.median(timed(lambda: face_view(study.solution, window.bench.desk.ring), 50)),
                statistics.median(timed(lambda: section_view(study.solution), 50)),
            )
        window.study.save(Path(folder) / "x.bicentra.json")
        window.close()
    return [
        line("drag to painted frame, median", statistics.median(times), "ms", 12.0),
        line("drag to painted frame, 95th percentile", times[int(len(times) * 0.95)], "ms", 16.0),
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
    """The search through 40 rotors, 25 calipers, 3 plates, 2 sides and 360 angles, and the same sets one by one."""
    from bicentra.core.search.run import search, single_path
    from bicentra.data import data_path
    from bicentra.study.desks.search import Criteria, job_for, space_for
    from bicentra.study.library.library import load_library

    library, criteria = load_library(data_path("library")), Criteria()
    space = space_for(library, criteria)
    space = replace(space, rotors=tuple(r for r in space.rotors if r.kind == "one-piece")[:40])
    start = job_for(job, criteria)
    began = time.perf_counter()
    found = [one for step in search(start, space) for one in step.sets]
    seconds = time.perf_counter() - began
    sample = [one.job for one in found[:: len(found) // 60]]
    for warm in sample[:5]:
        single_path(warm)
    single = statistics.mean(timed(lambda one=one: single_path(one), 1)[0] for one in sample)
    ratio = single / 1e3 * space.combinations / seconds
    print(f"{'':<58} {space.combinations:9d} combinations, {len(found)} sets; {single:.2f} ms a set the long way")
    return [
        line("search through every set", seconds, "s", 3.0),
        line("search, times faster than set by set", ratio, "×", 100.0, at_most=False),
    ]


_SOLID = """
import time
from bicentra.core.proposals import find_bracket
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
    from bicentra.core.parts.edits import with_edits
    from bicentra.core.proposals import propose
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
from PySide6.QtCore import QEvent, QObject, QTimer
from bicentra.app import main
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


def bench_start() -> dict[str, object]:
    """Start to first painted window, against an empty window, each in a fresh process."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "XDG_STATE_HOME": folder, "PYTHONPYCACHEPREFIX": f"{folder}/compiled"}
        environment.pop("PYTHONDONTWRITEBYTECODE", None)  # as on a machine where the program was started before

        def run(code: str) -> list[float]:
            done = subprocess.run(
                [sys.executable, "-c", code, f"{folder}/s.ini"],
                capture_output=True,
                text=True,
                check=True,
                env=environment,
                timeout=60,
            )
            return [float(word) for word in done.stdout.split()]

        for code in (_BARE, _OURS):
            run(code)
        bare = statistics.median(run(_BARE)[0] for _ in range(7))
        runs = [run(_OURS) for _ in range(7)]
    ours, full = (statistics.median(one[k] for one in runs) for k in (0, 1))
    print(f"{'':<58} {bare * 1e3:9.0f} ms bare window, {ours * 1e3:.0f} ms Bicentra's frame")
    print(f"{'':<58} {full * 1e3:9.0f} ms to the demo drawn in it, {full / bare:.1f} × the bare window")
    return line("start to first painted window, times a bare window", ours / bare, "×", 3.0)


def bench_survey(job: Job) -> list[dict[str, object]]:
    """The survey's network, and its uncertainty carried to every finding."""
    from survey_bench import bench_network, bench_propagation

    network = bench_network()
    whole, one, count = bench_propagation(job)
    print(f"{'':<58} {one:9.2f} ms one solve; {count} numbers from the survey: {whole / one:.1f} solves' time")
    return [
        line("60 readings over 12 points, blunder test, median", network, "ms", 20.0),
        line("propagation to every finding, median", whole, "ms", 30.0),
    ]


def pace() -> float:
    """Return how long a million additions take [ms]: a busy or slowed machine shows here."""

    def add() -> int:
        total = 0
        for k in range(1_000_000):
            total += k
        return total

    return min(timed(add, 5))


def main() -> int:
    """Run every bench; ``--json FILE`` writes the results as well."""
    job = demo_job()
    print(f"{'a million additions, for the pace of this machine now':<58} {pace():9.1f} ms  (45 to 50 undisturbed)")
    results = [bench_solve(job), *bench_survey(job), *bench_drag(), bench_search(job)]
    results += [*bench_sets(job), *bench_bracket(job), bench_start()]
    if "--json" in sys.argv:
        Path(sys.argv[sys.argv.index("--json") + 1]).write_text(json.dumps(results, indent=2))
    return 0


if __name__ == "__main__":
    main()
