"""Renew the pictures in docs/screenshots from the demo vehicle: ``make screenshots``."""

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from bicentra.core.base.records import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEventLoop, QSettings, QTimer

from bicentra.app.bracket.bench import BracketBench
from bicentra.app.main import make_app, make_window
from bicentra.app.parts.bench import PartsBench
from bicentra.app.pedal.bench import PedalBench
from bicentra.app.start.bench import StartBench
from bicentra.app.survey.bench import SurveyBench
from bicentra.app.trialfit.bench import TrialfitBench
from bicentra.app.window import MainWindow
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Dowel, Pull
from bicentra.core.parts.vehicle import Vehicle
from bicentra.study.document.starting import demo_vehicle, empty_job, empty_vehicle
from bicentra.study.document.store import remember_file, save
from bicentra.study.document.study import Study

WAIT_MS = 1200


def wait() -> None:
    """Let the window work for a while: the clock search runs in a thread."""
    loop = QEventLoop()
    QTimer.singleShot(WAIT_MS, loop.quit)
    loop.exec()


def until(done: Callable[[], bool]) -> None:
    """Let the window work until something is worked out, and a while longer; half a minute at most."""
    for _ in range(25):
        wait()
        if done():
            return


def library_picture(window: MainWindow, folder: Path) -> None:
    """The library with a rotor beside the job's own."""
    from bicentra.app.part_dialog import LibraryDialog
    from bicentra.core.base.wording import LengthFormat
    from bicentra.study.library.library import whole_library

    dialog = LibraryDialog(window, whole_library(), window.study.job.rotor, LengthFormat("mm"))
    dialog.search.setText("4x100")
    dialog.show()
    wait()
    dialog.grab().save(str(folder / "library.png"))
    dialog.close()


def first_picture(window: MainWindow, folder: Path) -> None:
    """An empty job with half of its ten sizes typed in, and the list of what else to measure."""
    window.bench.ask_for_missing()
    wait()
    window.grab().save(str(folder / "first-ten.png"))


def sheet_pictures(window: MainWindow, folder: Path) -> None:
    """The start sheet with two jobs worked on, and the rotor's sheet of an empty job."""
    with tempfile.TemporaryDirectory() as place:
        for name, vehicle in (("kart hub", empty_vehicle()), ("delivery float", demo_vehicle())):
            path = Path(place) / f"{name}.bicentra.json"
            save(replace(vehicle, title=vehicle.title or "Kart hub, rear"), path)
            remember_file(path)
        window.show_start()
        wait()
        wait()
        for card in window.benches.of(StartBench).cards:
            card.lines = tuple(line.replace(place, "/home/shop/jobs") for line in card.lines)
        window.grab().save(str(folder / "start.png"))
    window.show_bench("lineup")
    window.show_panel("rotor")
    wait()
    window.grab().save(str(folder / "sheet-rotor.png"))


def shell_pictures(window: MainWindow, folder: Path) -> None:
    """The cover sheet and the shop view."""
    window.show_bench("cover")
    wait()
    wait()
    window.grab().save(str(folder / "cover.png"))
    window.show_bench("lineup")
    window.switch_shop()
    wait()
    window.grab().save(str(folder / "shop.png"))
    window.switch_shop()


def parts_pictures(window: MainWindow, folder: Path) -> None:
    """Plans of remedies previewed, parts side by side, a search with its map."""
    window.bench.plan_remedies()
    wait()
    window.bench.planner.cards[1].look.click()
    wait()
    window.grab().save(str(folder / "line-up-plans.png"))
    window.bench.planner.close_it()
    window.show_bench("parts")
    bench = window.benches.of(PartsBench)
    parts = {kind: bench.desk.library.of_kind(kind) for kind in ("rotor", "caliper")}
    rotor = next(p.item for p in parts["rotor"] if "260/20" in p.name)
    caliper = next(p.item for p in parts["caliper"] if "slot 24" in p.name)
    bench.compare.lay(replace(window.study.job, rotor=rotor, caliper=caliper))
    wait()
    window.grab().save(str(folder / "parts.png"))
    bench.show_page("find")
    bench.finder.start()
    while bench.finder.running:
        wait()
    wait()
    window.grab().save(str(folder / "parts-search.png"))


def bracket_pictures(window: MainWindow, folder: Path) -> None:
    """A shaped plate, all kinds in one table, the bolts, the corner pulled apart."""
    window.show_bench("bracket")
    bench = window.benches.of(BracketBench)
    plain = window.study.job
    edits = (("thickness_mm", None), ("caliper_bolt_length_mm", None), ("lug_hole", "slot"), ("slot_mm", 6.0))
    shape = (("pulls", (Pull(from_hole=3, to_hole=2, out_mm=-12.0),)), ("chamfer_mm", 1.0))
    pins = tuple(Dowel(x_mm=-56.0, y_mm=y) for y in (19.0, -13.0))
    named = tuple((f"bracket.{name}", value) for name, value in (*edits, *shape, ("dowels", pins)))
    window.study.edit("A shaped plate", named)
    wait()
    window.grab().save(str(folder / "bracket.png"))
    window.study.undo()
    assert window.study.job == plain
    bench.show_page("kinds")
    wait()
    window.grab().save(str(folder / "bracket-kinds.png"))
    bench.choose(next(c for c in bench.desk.options if c.bracket.family == "stepped-plate"))
    bench.show_page("space")
    bench.pull.setValue(45)
    bench.space.turn(0.0, 0.0)
    wait()
    window.grab().save(str(folder / "bracket-space.png"))


def survey_pictures(window: MainWindow, folder: Path) -> None:
    """The survey bench: the wrong reading, and the bent lug of the left corner in the dark look."""
    window.show_bench("survey")
    wait()
    window.grab().save(str(folder / "survey.png"))
    window.benches.of(SurveyBench).turn_to("front-left")
    window.benches.of(SurveyBench).show_side("faces")
    window.switch_look()
    wait()
    window.grab().save(str(folder / "survey-bent-lug-dark.png"))
    window.switch_look()


def trial_pictures(window: MainWindow, folder: Path) -> None:
    """The trial fit bench: the demo's first trial and the move it asks for."""
    window.show_bench("trialfit")
    window.benches.of(TrialfitBench).show_trial(0)
    wait()
    window.grab().save(str(folder / "trial-fit.png"))


def pedal_pictures(window: MainWindow, folder: Path) -> None:
    """The pedal bench: the machine from foot to road and the balance of the axles; where the stroke goes; the heat."""
    window.show_bench("pedal")
    for page in ("pedal", "travel", "heat"):
        window.benches.of(PedalBench).show_drawn(page)
        wait()
        window.grab().save(str(folder / ("pedal.png" if page == "pedal" else f"pedal-{page}.png")))


def main() -> int:
    """Take every picture."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    make_app()
    with tempfile.TemporaryDirectory() as state:
        os.environ["XDG_STATE_HOME"] = os.environ["XDG_DATA_HOME"] = state

        def window_on(vehicle: Vehicle) -> MainWindow:
            window = make_window(Study(vehicle), QSettings(f"{state}/settings.ini", QSettings.Format.IniFormat))
            window.show()
            until(lambda: window.study.assessment is not None)
            until(lambda: window.bench.desk.looked_round)
            return window

        first = window_on(demo_vehicle())
        first.grab().save(str(folder / "line-up.png"))
        known = (
            ("knuckle.lugs[0].x_mm", -62.0),
            ("knuckle.lugs[0].y_mm", 40.0),
            ("knuckle.lugs[1].x_mm", -62.0),
            ("rotor.diameter_mm", 256.0),
        )
        sheet_pictures(window_on(empty_vehicle()), folder)
        shell_pictures(window_on(demo_vehicle()), folder)
        first_picture(window_on(with_edits(empty_job(), known)), folder)
        library_picture(first, folder)
        survey_pictures(window_on(demo_vehicle()), folder)
        parts_pictures(window_on(demo_vehicle()), folder)
        bracket_pictures(window_on(demo_vehicle()), folder)
        trial_pictures(window_on(demo_vehicle()), folder)
        pedal_pictures(window_on(demo_vehicle()), folder)
        os._exit(0)


if __name__ == "__main__":
    main()
