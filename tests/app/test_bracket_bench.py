"""The bracket bench in the real window: look at families, take one, see its bolts, take its solid away."""

from pathlib import Path

import numpy as np
import pytest
import shapely
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt
from PySide6.QtWidgets import QInputDialog, QToolButton
from pytestqt.qtbot import QtBot

from bicentra.app.bracket.bench import BracketBench
from bicentra.app.bracket.kinds import KindRow
from bicentra.app.bracket.scene_view import part_name
from bicentra.app.window import MainWindow
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.drawing.space.raster import Eye, render
from bicentra.core.drawing.space.scene import Scene, SceneBody, prism, solid_scene
from bicentra.core.drawing.space.shading import corner_normals
from bicentra.core.drawing.space.wheel import with_wheel
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import empty_job, example_vehicle
from tests.app.conftest import Opener, drag, pointer
from tests.jobs import meeting, net


@pytest.fixture
def bench(window: MainWindow) -> BracketBench:
    """The bracket bench on the demo, in front."""
    window.show_bench("bracket")
    return window.benches.named("bracket")


def test_families_stand_side_by_side_and_one_is_taken(window: MainWindow, bench: BracketBench, qtbot: QtBot) -> None:
    """At least four suited on the demo; a click shows one, Take is one step, the findings speak of it, undo takes it back."""
    verdict = [card for card in bench.cards if card.proposal.verdict is Verdict.OK]
    assert len(verdict) >= 4 and "kg" in verdict[0].cells()[1]
    spacers = next(card for card in bench.cards if card.proposal.bracket.family == "two-part")
    qtbot.mouseClick(spacers, Qt.MouseButton.LeftButton)
    assert (
        bench.desk.chosen.bracket.family == "two-part"
        and "spacer" in bench.text.text()
        and bench.take_button.isEnabled()
    )
    assert "Take the plate on spacers" in bench.next_sentence()
    bench.grab()
    window.do_next()
    assert window.study.job.bracket.family == "two-part" and len(window.study.history) == 1
    assert "spacer-width" in {f.id for f in window.study.plain_solution.findings}
    assert bench.take_button.text() == "In use ✓" and bench.own_step() is None
    window.study.undo()
    assert window.study.job.bracket.family == "flat-plate" and bench.desk.chosen.bracket.family == "two-part"


def test_all_kinds_stand_in_one_table(bench: BracketBench, qtbot: QtBot) -> None:
    """Every kind has its row, those that cannot be drawn with their reason; Enter shows one whole, a double click too."""
    qtbot.mouseClick(bench.tabs["kinds"], Qt.MouseButton.LeftButton)
    assert bench.options_table.isVisible() and not bench.view.isVisible()
    rows = bench.options_table.findChildren(KindRow)
    assert len(rows) == len(bench.desk.options) > len(bench.cards)
    for row in rows:
        assert row.proposal.why and row.grab().width() > 400
        assert bool(row.cells()) == row.drawn
    aside = next(row for row in rows if not row.drawn)
    qtbot.mouseClick(aside, Qt.MouseButton.LeftButton)
    assert bench.desk.chosen is bench.desk.own
    stepped = next(row for row in bench.cards if row.proposal.bracket.family == "stepped-plate")
    qtbot.keyClick(stepped, Qt.Key.Key_Return)
    assert bench.desk.chosen is stepped.proposal and bench.view.isVisible() and "Stepped plate" in bench.view.title
    bench.show_page("kinds")
    qtbot.mouseDClick(bench.cards[0], Qt.MouseButton.LeftButton)
    assert bench.tabs["part"].isChecked()


def choose(button: QToolButton, text: str) -> None:
    """Open a button's menu and take what is called ``text``."""
    button.menu().aboutToShow.emit()
    next(action for action in button.menu().actions() if action.text() == text).trigger()


def type_over(bench: BracketBench, path: str, text: str, qtbot: QtBot) -> None:
    """Type over a number of the drawing and press Enter."""
    bench.view.typed_over.emit(path, QRectF(100.0, 100.0, 60.0, 20.0))
    bench.shaper.field.editor.clear()
    qtbot.keyClicks(bench.shaper.field.editor, text)
    qtbot.keyClick(bench.shaper.field.editor, Qt.Key.Key_Return)


def test_bolts_in_their_stacks(window: MainWindow, bench: BracketBench, qtbot: QtBot) -> None:
    """Each kind of bolt once, with grip and engagement; another state of the threads is another torque."""
    qtbot.mouseClick(bench.tabs["bolts"], Qt.MouseButton.LeftButton)
    texts = [d.text for d in bench.view.drawing.dimensions] + [n.text for n in bench.view.drawing.notes]
    bench.grab()
    assert any(text.startswith("grip") for text in texts) and any("turns" in text for text in texts)
    dry = bench.text.text()
    bench.state.setCurrentText("oiled")
    assert "N·m oiled" in bench.text.text() and bench.text.text() != dry
    label = next(label for label in bench.view.labels if label.edits == "bracket.caliper_bolt_length_mm")
    assert "Wet threadlocker is slippery" in bench.text.text()
    bench.state.setCurrentText("threadlocker")
    assert "slippery" not in bench.text.text() and "Locked by removable threadlocker" in bench.text.text()
    type_over(bench, "bracket.shims_mm[0]", "0.5", qtbot)
    assert window.study.job.bracket.shims_mm[0] == 0.5 and window.study.job.bracket.thickness_mm == 12.0
    window.study.undo()
    type_over(bench, label.edits, "35", qtbot)
    assert window.study.job.bracket.caliper_bolt_length_mm == 35.0 and bench.shaper.field.editor is None
    type_over(bench, "bracket.lug_washers", "two", qtbot)
    assert window.study.job.bracket.lug_washers == 1 and "two" in window.footer.message.text()
    qtbot.keyClick(bench.shaper.field.editor, Qt.Key.Key_Escape)
    assert bench.shaper.field.editor is None
    grips = next(text for text in texts if text.startswith("grip"))
    window.study.edit("one more washer", (("bracket.lug_washers", 2),))
    assert grips not in [d.text for d in bench.view.drawing.dimensions][:1]
    bench.grab()


def test_every_family_is_drawn_in_the_window(open_window: Opener, good: Job) -> None:
    """Made-up jobs on which each family has parts: each is chosen, drawn with its notes, and taken."""
    plain = tuple(replace(lug, thread=None, hole_mm=14.0) for lug in good.knuckle.lugs)
    jobs = {
        "weld-on": with_edits(good, (("hub.tube_diameter_mm", 70.0),)),
        "radial-mount": with_edits(good, (("caliper.mount", "radial"),)),
        "sleeve": with_edits(good, (("knuckle.lugs", plain), ("bracket.lug_bolt", "M10x1.5"))),
        "on-original-bracket": with_edits(good, (("before", OriginalBrake(rotor=good.rotor, caliper=replace(
            good.caliper, ear_spacing_mm=100.0, ear_face_offset_mm=-44.0), clock_deg=180.0, bracket_ear_hole_mm=12.5)),)),
        "eccentric-bushings": meeting(good, 77.0),
        "straight-on": job_of(example_vehicle("no-bracket")),
        "jogged-plate": with_edits(good, (("caliper.ear_line_to_pad_top_mm", -60.0), ("knuckle.lugs", tuple(
            replace(lug, z_mm=lug.z_mm - 20.0) for lug in good.knuckle.lugs)))),
    }  # fmt: skip
    jobs |= {family: good for family in FAMILIES if family not in jobs}
    window = open_window(good)
    window.show_bench("bracket")
    bench = window.benches.named("bracket")
    for family, job in jobs.items():
        window.study.edit(
            family,
            tuple(
                (name, getattr(job, name))
                for name in ("hub", "knuckle", "caliper", "fit", "bracket", "before", "parking")
            ),
        )
        proposal = next(c for c in bench.desk.options if c.bracket.family == family)
        bench.choose(proposal)
        drawn = bench.view.drawing.shapes if proposal.bracket.parts else bench.view.drawing.texts
        assert proposal.bracket.shown and drawn, family
        boxes = [label.box for label in bench.view.labels]
        assert not any(a.meets(b, 0.0) for k, a in enumerate(boxes) for b in boxes[:k])
        bench.take()
        assert window.study.job.bracket.family == family
        bench.grab()


def test_an_unmeasured_job_names_what_is_missing(open_window: Opener) -> None:
    """No card, no crash; the sentence leads back to the findings."""
    window = open_window(empty_job())
    window.show_bench("bracket")
    bench = window.benches.named("bracket")
    assert not bench.cards and "No kind of bracket fits yet" in bench.next_sentence()
    bench.take_focus()
    window.switch_look()
    bench.grab()


def test_a_solid_is_taken_away(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    """STEP from the window, made beside it: the file is whole, the kernel is not in this program's memory of the window."""
    task = window.papers.write("step", tmp_path / "b.step")
    with qtbot.waitSignal(task.signals.finished, timeout=60000):
        pass
    assert (tmp_path / "b.step").read_bytes().startswith(b"ISO-10303-21")
    assert "Written" in window.footer.message.text()


def test_in_space(bench: BracketBench, qtbot: QtBot) -> None:
    """Turned by keys, pulled apart by the slider, cut by the box: each gives another picture; turning back gives the first."""
    qtbot.mouseClick(bench.tabs["space"], Qt.MouseButton.LeftButton)
    space = bench.space
    qtbot.waitUntil(lambda: space.width() > bench.width() // 2, timeout=3000)
    first = space.picture()
    paper = first[0, 0]
    assert (first != paper).any(axis=2).mean() > 0.05
    qtbot.keyClick(space, Qt.Key.Key_Right)
    assert space._coarse
    qtbot.waitUntil(lambda: not space._coarse, timeout=3000)
    assert (space.picture() != first).any()
    qtbot.keyClick(space, Qt.Key.Key_Left)
    qtbot.waitUntil(lambda: not space._coarse, timeout=3000)
    assert (space.picture() == first).all()
    bench.pull.setValue(50)
    qtbot.waitUntil(lambda: not space._coarse, timeout=3000)
    apart = space.picture()
    bench.cut.setChecked(True)
    assert (apart != first).any() and (space.picture() != apart).any()
    space.zoom(2.0)
    space.mouseDoubleClickEvent(None)
    bench.grab()


def cube(size: float, z: float, ink: str, veil: bool = False) -> SceneBody:
    """A cube about the axis, its middle at ``z``."""
    return prism(shapely.box(-size / 2, -size / 2, size / 2, size / 2), z - size / 2, z + size / 2, ink, ink, 0.0, veil)


def test_the_depth_buffer_is_right() -> None:
    """By hand: a cube of 40 at 2 px/mm is 80 × 80 from the front and √2 as wide turned by 45°; the nearer one hides the farther,
    a veil is seen through all over, edges are drawn round and within, a cut is closed by its own face."""
    inks = {"near": (200, 0, 0), "far": (0, 200, 0)}
    front = Eye(0.0, 0.0, 2.0)

    def picture(bodies: tuple[SceneBody, ...], eye: Eye) -> np.ndarray:
        made, whose = render(
            Scene(bodies, ((1.0, 0.0, 0.0), 0.0)), inks, (255, 255, 255), eye, (200, 200), (0.0, 0.0, 0.0)
        )
        assert ((made[..., :3] != 255).any(axis=2) == (whose >= 0)).all()
        return made

    alone = (picture((cube(40.0, 0.0, "near"),), front) != 255).any(axis=2)
    assert alone.sum() == pytest.approx(80 * 80, rel=0.03)
    turned = (picture((cube(40.0, 0.0, "near"),), replace(front, yaw=np.pi / 4)) != 255).any(axis=2)
    assert turned.any(axis=0).sum() == pytest.approx(80 * 2**0.5, abs=2)
    both = (cube(40.0, 0.0, "far"), cube(20.0, 60.0, "near"))
    for order in (both, both[::-1]):
        middle = picture(order, front)[100, 100]
        assert middle[0] > 0 and middle[1] == 0
    veiled = picture((both[0], cube(20.0, 60.0, "near", veil=True)), front)[90:110, 90:110]
    assert (veiled[..., 0] > 0).all() and (veiled[..., 1] > 0).all()
    cut = (picture((cube(40.0, 0.0, "near"),), replace(front, cut=True)) != 255).any(axis=2)
    assert cut.sum() == pytest.approx(80 * 40, rel=0.05)
    slanted = replace(front, yaw=-np.pi / 4, cut=True)
    face = picture((cube(40.0, 0.0, "near"),), slanted)[..., 0].astype(int)
    whole = picture((cube(40.0, 0.0, "near"),), replace(slanted, cut=False))[..., 0].astype(int)
    assert (face != whole).any() and face[100, 100] > 120  # the cut, not the dark inside of the far wall
    edge = picture((cube(40.0, 0.0, "near"),), replace(front, yaw=np.pi / 4))[100, :, 0].astype(int)
    inside = np.flatnonzero(edge != 255)
    assert (
        edge[inside[0]] < edge[inside[8]] and edge[98:103].min() < edge[inside[8]] - 20
    )  # round it, and where two walls meet


def test_round_things_are_shaded_smoothly() -> None:
    """Corner normals of a fine cylinder point away from its axis; a cube's are those of its faces, split at every edge."""
    disc = prism(shapely.Point(0.0, 0.0).buffer(30.0, 14), 0.0, 20.0, "near", "near", 0.0)
    normals = corner_normals(disc)
    at = disc.corners[disc.triangles]
    wall = np.abs(normals[..., 2]) < 0.5
    assert wall.any()
    outward = at[wall][:, :2] / np.linalg.norm(at[wall][:, :2], axis=1, keepdims=True)
    assert (np.einsum("ij,ij->i", outward, normals[wall][:, :2]) > 0.999).all()
    block = corner_normals(cube(10.0, 0.0, "near"))
    assert np.allclose(np.sort(np.abs(block.reshape(-1, 3)), axis=1), [0.0, 0.0, 1.0])


def test_parts_are_named_where_they_are_pointed_at(bench: BracketBench, qtbot: QtBot) -> None:
    """Every body of the scene has a name; paper has none; the made part is in front when the picture opens."""
    qtbot.mouseClick(bench.tabs["space"], Qt.MouseButton.LeftButton)
    space = bench.space
    qtbot.waitUntil(lambda: space.width() > bench.width() // 2, timeout=3000)
    space.picture()
    names = {space.name_at(QPointF(x, y)) for x in range(4, space.width(), 9) for y in range(4, space.height(), 9)}
    assert {"", "Bracket", "Rotor", "Caliper", "Hub"} <= names
    assert all(part_name(body)[0].isupper() for body in space.scene.bodies)


def test_meshes_of_the_scene_are_closed(good: Job) -> None:
    """Every body's volume is inside its skin (divergence theorem), the plate's that of the core; the left one is mirrored."""
    scene = solid_scene(solve(good))
    for body in scene.bodies:
        a, b, c = (body.corners[body.triangles[:, k]] for k in range(3))
        volume = np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6
        assert volume > 0
        if body.tag == "bracket":
            assert volume == pytest.approx(net(solve(good)) * solve(good).assembly.stack_up.thickness, rel=3e-3)
    whole = with_wheel(scene, solve(good))
    more = whole.bodies[len(scene.bodies) :]
    assert {body.tag for body in more} == {"wheel", "hub"} and not any("bracket" in body.tag for body in more)
    for body in more:
        a, b, c = (body.corners[body.triangles[:, k]] for k in range(3))
        assert np.einsum("ij,ij->i", a, np.cross(b, c)).sum() > 0, body.tag
    left = solid_scene(solve(replace(good, corner="front-left")))
    assert left.bodies[0].corners[:, 0].min() == pytest.approx(-scene.bodies[0].corners[:, 0].max())
    assert all(body.tag != "bracket" for body in solid_scene(solve(empty_job())).bodies)


def test_the_plate_is_lightened_and_shaped(
    window: MainWindow, bench: BracketBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Lighten asks for a mass and is one step; a cutout is pulled, held at its metal with the reason, and put back whole."""
    window.study.edit("10 mm", (("bracket.thickness_mm", None),))
    before = window.study.plain_solution.mass_kg
    monkeypatch.setattr(QInputDialog, "getDouble", lambda *_: (before * 0.85, True))
    qtbot.mouseClick(bench.lighten_button, Qt.MouseButton.LeftButton)
    assert window.study.plain_solution.mass_kg < before and "weighs" in window.footer.message.text()
    handle = next(h for h in bench.view.drawing.handles if h.path.endswith("x_mm"))
    at = bench.view.to_px(handle.at)
    drag(bench.view, at, at + QPointF(400.0, 0.0))
    assert "nearest that can be" in window.footer.message.text()
    assert window.study.plain_solution.finding("cutout-metal").value == pytest.approx(5.0, abs=0.05)
    assert len(window.study.history) == 3
    choose(bench.away_button, "Remove everything")
    assert window.study.job.bracket.cutouts == () and window.study.plain_solution.mass_kg == pytest.approx(before)
    rim = next(h for h in bench.view.drawing.handles if h.name.startswith("Wall round ear 1"))
    at = bench.view.to_px(rim.at)
    drag(bench.view, at, at + QPointF(rim.along[0] * 30.0, -rim.along[1] * 30.0))
    walls = window.study.job.bracket.boss_walls_mm
    assert len(walls) == 4 and walls[2] > 10.0 and walls[0] == 10.0
    monkeypatch.setattr(QInputDialog, "getDouble", lambda *_: (50.0, True))
    bench.shaper.lighten()
    assert "already" in window.footer.message.text()


def test_a_plate_is_shaped_by_keys_alone(window: MainWindow, bench: BracketBench, qtbot: QtBot) -> None:
    """N goes from handle to handle; arrows pull the one chosen, those across it do nothing; on the bolts Enter types over."""
    window.study.edit("10 mm", (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None)))
    for _ in range(20):
        qtbot.keyClick(bench.view, Qt.Key.Key_N)
        if bench.view.keyboard.chosen == "bracket.pulls[3-2]":
            break
    before = len(window.study.history)
    qtbot.keyClick(bench.view, Qt.Key.Key_Right)
    qtbot.keyClick(bench.view, Qt.Key.Key_Up)
    qtbot.keyClick(bench.view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert window.study.job.bracket.pulls[0].out_mm == -5.5 and len(window.study.history) == before + 2
    bench.grab()
    qtbot.keyClick(bench.view, Qt.Key.Key_Escape)
    assert bench.view.keyboard.chosen == ""
    bench.show_page("bolts")
    bench.grab()
    qtbot.keyClick(bench.view, Qt.Key.Key_N, Qt.KeyboardModifier.ShiftModifier)
    assert bench.view.keyboard.typed
    qtbot.keyClick(bench.view, Qt.Key.Key_Return)
    assert bench.shaper.field.editor is not None


def test_edges_holes_and_dowels_where_they_are_drawn(
    window: MainWindow, bench: BracketBench, monkeypatch: pytest.MonkeyPatch
) -> None:
    """An edge is pulled in until the ears' edge distance holds it, Escape lets it be; things are added and removed by name."""
    window.study.edit("10 mm", (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None)))
    handle = next(h for h in bench.view.drawing.handles if h.path == "bracket.pulls[3-2]")
    at = bench.view.to_px(handle.at)
    others, scale = [c for c in bench.desk.options if c is not bench.desk.own], bench.view_state.scale
    drag(bench.view, at, at + QPointF(20.0, 0.0), release=False)
    assert [c for c in bench.desk.options if c is not bench.desk.own] == others and bench.view_state.scale == scale
    assert bench.desk.own.bracket.parts[0] == window.study.plain_solution.part, (
        "the part follows the pointer, the proposals wait"
    )
    pointer(bench.view, QEvent.Type.MouseButtonRelease, at + QPointF(20.0, 0.0))
    assert all(a is not b for a, b in zip([c for c in bench.desk.options if c is not bench.desk.own], others))
    assert -40.0 < window.study.job.bracket.pulls[0].out_mm < -2.0 and "waist" not in window.footer.message.text()
    drag(bench.view, at + QPointF(20.0, 0.0), at + QPointF(400.0, 0.0))
    assert (
        "nearest that can be" in window.footer.message.text()
        and window.study.plain_solution.bracket.shape.outline is not None
    )
    for what in ("round hole", "dowel"):
        choose(bench.add_button, f"Add a {what}")
    monkeypatch.setattr(QInputDialog, "getDouble", lambda *_: (1.5, True))
    choose(bench.add_button, "Chamfer all round…")
    bracket = window.study.job.bracket
    assert len(bracket.cutouts) == len(bracket.dowels) == 1 and bracket.chamfer_mm == 1.5
    labels = [label.box for label in bench.view.labels]
    assert not any(a.meets(b, 0.0) for k, a in enumerate(labels) for b in labels[:k])
    choose(bench.away_button, "Remove dowel 1")
    choose(bench.away_button, "Remove the pull between ear 2 and ear 1")
    assert window.study.job.bracket.dowels == window.study.job.bracket.pulls == ()
    bench.grab()
