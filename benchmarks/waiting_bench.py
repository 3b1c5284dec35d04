"""How long the interface thread is busy with one event at a time: what a hand waits for, in CPU time of that thread alone."""

import math
import random
import time
from collections.abc import Callable, Iterator
from functools import partial

from PySide6.QtCore import QEvent, QObject, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication

from bicentra.app.bracket.bench import BracketBench
from bicentra.app.drawing.view import DrawingView
from bicentra.app.main import make_ready
from bicentra.app.panels.section import SHEETS
from bicentra.app.window import MainWindow
from bicentra.core.parts.job import Obstacle
from drag_bench import demo_window
from measure import line, plain_loop

LIMIT, LOOKS_LIMIT = 28.0, 110.0
"""One event and a change from light to dark [plain loops of CPU in the interface thread]: 50 ms and 200 ms where a plain loop
takes 1.8 ms."""
MOMENT_S = 0.001
"""What takes less is not told of [s]."""
BENCHES = ("bracket", "parts", "survey", "trialfit", "pedal", "cover", "lineup")
Act = Callable[[], object]


class Watcher(QObject):
    """Runs single events of ``app`` and keeps the longest of them."""

    def __init__(self, app: QApplication) -> None:
        super().__init__()
        self.app = app
        self.longest, self.culprit = 0.0, ""

    def timed(self, what: str, call: Act) -> bool:
        """Run ``call`` as one event; tells whether it was more than a moment."""
        began = time.thread_time()
        call()
        took = time.thread_time() - began
        if took > MOMENT_S:
            began = time.thread_time()
            plain_loop()
            loops = took / (time.thread_time() - began)
            if loops > self.longest:
                self.longest, self.culprit = loops, what
        return took > MOMENT_S

    def settle(self, seconds: float) -> None:
        """Take what waits, one turn of the loop at a time, until nothing has come for ``seconds``."""
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if self.timed("what followed", self.app.processEvents):
                until = max(until, time.monotonic() + seconds)
            time.sleep(0.002)

    def of(self, act: Act, seconds: float = 0.4) -> float:
        """Return the longest event of ``act`` and all that comes of it [plain loops]."""
        self.settle(seconds)
        self.longest = 0.0
        self.timed("the act itself", act)
        self.settle(seconds)
        return self.longest


def crowded(count: int) -> tuple[Obstacle, ...]:
    """Return so many posts about the axle, some of them in the way, the same each time."""
    rng = random.Random(3)
    posts = []
    for k in range(count):
        turn, far, half = rng.uniform(0.0, 2 * math.pi), rng.uniform(90.0, 190.0), rng.uniform(4.0, 12.0)
        x, y, z = far * math.cos(turn), far * math.sin(turn), rng.uniform(-120.0, 30.0)
        outline = ((x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half))
        posts.append(Obstacle(name=f"post {k}", outline_mm=outline, z_min_mm=z, z_max_mm=z + rng.uniform(2.0, 25.0)))
    return tuple(posts)


def pulls(watcher: Watcher, view: DrawingView) -> Iterator[float]:
    """Yield the longest event while each handle of ``view`` is pulled there and back."""
    left, no = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    for handle in view.drawing.handles if view.drawing is not None else ():
        at = view.to_px(handle.at)
        way = QPointF(0.0, -1.0) if handle.turns else QPointF(handle.along[0], -handle.along[1])

        def send(kind: QEvent.Type, far: float, at: QPointF = at, way: QPointF = way) -> None:
            point = at + way * far
            watcher.app.sendEvent(view, QMouseEvent(kind, point, view.mapToGlobal(point), left, left, no))

        yield watcher.of(partial(send, QEvent.Type.MouseButtonPress, 0.0), 0.02)
        for k in range(12):
            yield watcher.of(partial(send, QEvent.Type.MouseMove, 4.0 * min(k, 12 - k)), 0.01)
        yield watcher.of(partial(send, QEvent.Type.MouseButtonRelease, 0.0), 0.3)


def waits() -> Iterator[dict[str, object]]:
    """Yield a line for everything that is done in the window, the pulls among 200 obstacles at last."""
    with demo_window() as (app, window):
        watcher = Watcher(app)
        watcher.settle(1.0)
        make_ready(window)
        watcher.settle(3.0)
        for what, act, limit in acts(window):
            yield line(what, watcher.of(act), "loops", limit, more=f"({watcher.culprit})")
        for bench in ("lineup", "trialfit"):
            window.show_bench(bench)
            watcher.settle(1.0)
            for view in window.benches.named(bench).findChildren(DrawingView):
                if view.isVisible() and view.drawing:
                    slowest = max(pulls(watcher, view), default=0.0)
                    yield line(f"{bench}: a pull, 200 obstacles about", slowest, "loops", LIMIT)


def acts(window: MainWindow) -> Iterator[tuple[str, Act, float]]:
    """Yield what is done, in words, the call that does it, and its limit [plain loops]."""
    change, study = window.bench.change, window.study
    for bench in BENCHES:
        yield f"{bench} opened for the first time", partial(window.show_bench, bench), LIMIT
    for sheet in SHEETS:
        yield f"sheet {sheet} opened", partial(window.sheets.show_sheet, sheet), LIMIT
    yield "sheet folded away", window.sheets.fold, LIMIT
    for bench in BENCHES:
        yield f"{bench} opened again", partial(window.show_bench, bench), LIMIT
        yield f"{bench}: light to dark", window.switch_look, LOOKS_LIMIT
        yield f"{bench}: dark to light", window.switch_look, LOOKS_LIMIT
    yield "a number changed", partial(change, "x", (("fit.pad_inset_mm", 1.5),)), LIMIT
    yield "undone", study.undo, LIMIT
    yield "the other corner", partial(study.go_to, "front-left"), LIMIT
    yield "and back", partial(study.go_to, "front-right"), LIMIT
    yield "millimetres to inches", window.switch_units, LIMIT
    yield "inches to millimetres", window.switch_units, LIMIT
    bracket = window.benches.of(BracketBench)
    window.show_bench("bracket")
    yield "in space", partial(bracket.show_page, "space"), LIMIT
    yield "cut in space", partial(bracket.space.cut, True), LIMIT
    yield "turned in space", partial(bracket.space.turn, 12.0, 3.0), LIMIT
    yield "the plate again", partial(bracket.show_page, "plate"), LIMIT
    crowd = (("knuckle.obstacles", crowded(200)),)
    for bench in ("bracket", "trialfit", "cover", "lineup"):
        yield f"{bench} opened", partial(window.show_bench, bench), LIMIT
        yield f"{bench}: 200 obstacles put there", partial(change, "x", crowd), LIMIT
        yield f"{bench}: a number changed among 200", partial(change, "x", (("fit.pad_inset_mm", 1.4),)), LIMIT
        yield f"{bench}: undone", partial(study.go_back, 2), LIMIT
    yield "lineup: 200 obstacles put there", partial(change, "x", crowd), LIMIT


if __name__ == "__main__":
    missed = [row for row in waits() if not row["met"]]
    print(f"{len(missed)} over their limit")
