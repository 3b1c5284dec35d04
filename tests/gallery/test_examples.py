"""The examples that ship, one for each way to hold a caliper: solved, against figures worked out by hand, and taken to their papers.

The hand-worked figures follow from the sizes typed into each example by plain sums and right angles; they are written out beside
each. Threads and heads: M10 countersunk ISO 10642 head 5.5 mm high (handbook, from memory), coarse and fine pitches ISO 261.
"""

import json
import math
from pathlib import Path

import pytest

from bicentra.cli import main
from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Verdict
from bicentra.core.drawing.imprint import cut_mark
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import LugBolt
from bicentra.core.proposals import propose
from bicentra.core.solution import Solution, solve
from bicentra.data import data_path
from bicentra.study.document.starting import EXAMPLES, example_vehicle
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.writing import write_paper

WATCHED = {
    "bushings": {"bushing-hot", "caliper-removal"},
    "inserts": {"bushing-hot"},
    "moved-out": {"wheel-room", "wheel-stud-engagement"},  # said once: there is no wheel yet
    "no-bracket": {"caliper-removal"},
}
"""What is honestly a watch in an example; everything else is met."""
WITHOUT = {
    "no-bracket": {"pdf", "dxf", "svg", "csv", "workshop", "cut", "step", "stl", "3mf", "trial", "trial-thin", "workshop-both",
                    "cut-both", "step-both", "drilling", "chart", "relief"},
    "bushings": {"pdf", "dxf", "svg", "csv", "cut", "cut-both", "drilling", "relief"},
    "inserts": {"pdf", "dxf", "svg", "csv", "cut", "cut-both", "drilling", "relief"},
}  # fmt: skip
"""Papers that a kind has no use for; of all others only drilling, relief and the chart of bushings are left out."""
MID_Z = 6.5 - 44.0 + 20.0 / 2
"""Middle of the rotor that all of them have [mm]: hat 6.5 thick over the hub's face, 44 high, 20 thick: −27.5."""
EAR_Z, EAR_IN = MID_Z - 36.0, 1.0 + 38.0
"""The ears' face, 36 inboard of the slot's middle; their line, 38 inside the pad's top, that 1 inside the rotor's edge [mm]."""
EAR_R = 256.0 / 2 - EAR_IN


def solved(name: str) -> Solution:
    """An example solved."""
    return solve(job_of(example_vehicle(name)))


@pytest.mark.parametrize("name", EXAMPLES)
def test_nothing_stops_and_nothing_is_missing(name: str) -> None:
    """Each is whole: no stop, nothing unknown, and only the watches that are meant."""
    solution = solved(name)
    assert solution.job.title and "nvented" in solution.job.notes
    bad = {f.id: f.verdict.word for f in solution.findings if f.verdict in (Verdict.STOP, Verdict.UNKNOWN)}
    assert bad == {}
    watched = {f.id for f in solution.findings if f.verdict is Verdict.CAUTION}
    assert watched <= WATCHED.get(name, set()) | {"caliper-removal"}
    assert abs(solution.line.ear_face_z - EAR_Z) < 1e-9 and solution.line.ear_line_radius == pytest.approx(
        (308.0 if name == "moved-out" else 256.0) / 2 - EAR_IN
    )


def test_two_unlike_bolts() -> None:
    """12.2 mm from lug to ear is 12 of plate and 0.2 of shims; 6.5 mm of plate under the sunk head; the nut takes a long bolt."""
    solution = solved("two-bolts")
    stack_up, upper, lower = solution.assembly.stack_up, *(j for j in solution.assembly.joints if j.at == "lug")
    assert stack_up.thickness == 12.0 and stack_up.shims == pytest.approx((EAR_Z + 75.7 - 12.0,) * 2)
    assert (upper.joint.thread.name, lower.joint.thread.name) == ("M10x1.5", "M12x1.5")
    assert upper.joint.stack.sunk and upper.joint.stack.washers == 0 and not lower.joint.stack.sunk
    assert solution.finding("counterbore-floor").value == pytest.approx(12.0 - 5.5, abs=0.01)
    # washer 2.5, plate 12, shim 0.2, lug 22, then the nut and one pitch past it
    assert lower.joint.length >= 2.5 + 12.0 + 0.2 + 22.0 + 10.0 + 1.5
    assert math.isclose(upper.seat_z, -75.7 + 0.2 + 12.0, abs_tol=1e-9)


def test_spindle_faces_of_unlike_height() -> None:
    """14.2 mm from the pad's face, 6 more from the boss: 12 of plate on spacers of 2.2 and 8.2, in one plane at the ears."""
    solution = solved("spindle-faces")
    plate, *spacers = solution.bracket.parts
    assert plate.thickness == 12.0 and [s.thickness for s in spacers] == pytest.approx(
        [EAR_Z + 77.7 - 12.0, EAR_Z + 83.7 - 12.0]
    )
    assert solution.finding("axial-offset").value == pytest.approx(0.0, abs=1e-9)
    pad, boss = (j for j in solution.assembly.joints if j.at == "lug")
    assert pad.joint.stack.sunk and not boss.joint.stack.sunk
    # washer 2.5, plate 12, spacer 8.2, boss 16, then the nut and one pitch past it
    assert boss.joint.length >= 2.5 + 12.0 + 8.2 + 16.0 + 10.0 + 1.5


def test_the_same_caliper_further_out() -> None:
    """Lugs at 87, ears at 154 − 39 = 115: 28 mm between them on one spacing, less half of both holes."""
    solution = solved("moved-out")
    out = 308.0 / 2 - EAR_IN
    ears = sorted((x, y) for x, y, _ in solution.line.ears)
    assert all(math.dist(ear, want) < 1e-9 for ear, want in zip(ears, [(-out, -65.0), (-out, 65.0)], strict=True))
    assert solution.assembly.stack_up.thickness == 15.0 and pytest.approx(15.0) == EAR_Z + 78.5
    widest = {hole.name: hole.widest for hole in solution.assembly.holes}
    sunk, plain = widest["upper lug"], widest["ear 1"]
    assert sunk > plain and solution.finding("ligament").value == pytest.approx(out - 87.0 - (sunk + plain) / 2)


def test_axle_end_plate() -> None:
    """8 mm plate for an 8 mm backing plate, its face at −74; spacers fill the 10.5 mm to the ears; bolts on 48 mm at 45 degrees."""
    solution = solved("axle-end")
    plate, *spacers = solution.bracket.parts
    assert plate.thickness == 8.0 and [s.thickness for s in spacers] == pytest.approx([EAR_Z - (-82.0 + 8.0)] * 2)
    places = sorted(bore.centre for bore in plate.bores if bore.name.startswith("retainer"))
    half = 48.0 / math.sqrt(2.0)
    wanted = [(-half, -half), (-half, half), (half, -half), (half, half)]
    assert all(math.dist(place, want) < 1e-9 for place, want in zip(places, wanted, strict=True))


def test_weld_on_tab() -> None:
    """A 60 mm tube: ears 89 − 30 = 59 above it, the pad's top 127 − 30 = 97; the saddle is cut to the tube's radius."""
    solution = solved("tube-tab")
    assert solution.bracket.solved["ear_height_mm"] == pytest.approx(59.0)
    assert solution.bracket.solved["pad_height_mm"] == pytest.approx(97.0)
    outline = solution.bracket.parts[0].outline
    saddle = [s for s in outline.segments if s.bulge and abs(s.radius - 30.0) < 1e-6]
    assert saddle and all(math.hypot(*s.centre) < 1e-6 for s in saddle)


def test_plate_on_the_original_bracket() -> None:
    """The old rotor's middle at 6.5 − 40 + 5, its ears 47.2 inboard of it: 12.2 mm to the new ones. Its holes at radius 116 − 20."""
    solution = solved("on-original")
    old = (6.5 - 40.0 + 10.0 / 2) - 47.2
    assert solution.assembly.stack_up.thickness + max(solution.assembly.stack_up.shims) == pytest.approx(EAR_Z - old)
    lugs = [(lug.x_mm, lug.y_mm) for lug in solution.bracket.job.knuckle.lugs]
    assert all(
        math.dist(at, want) < 1e-9 for at, want in zip(sorted(lugs), [(-96.0, -37.0), (-96.0, 37.0)], strict=True)
    )


def test_bushings_and_straight_on() -> None:
    """1.0 out and 0.3 apart is 1.044 eccentric; 0.1 by 0.1 is 0.141, within the 0.3 that an M12 bolt has in a 12.6 hole."""
    bushed, straight = solved("bushings"), solved("no-bracket")
    assert bushed.bracket.solved["eccentricity_mm"] == pytest.approx(math.hypot(90.0 - EAR_R, (129.4 - 130.0) / 2))
    assert straight.bracket.parts == () and straight.bracket.solved["play_mm"] == pytest.approx((12.6 - 12.0) / 2)
    assert straight.bracket.solved["eccentricity_mm"] == pytest.approx(math.hypot(89.1 - EAR_R, (130.2 - 130.0) / 2))
    assert straight.assembly.stack_up.shims == pytest.approx((EAR_Z + 64.3,) * 2) and straight.feasible
    assert straight.finding("axial-offset").value == pytest.approx(0.0)


def test_threaded_inserts_from_behind() -> None:
    """M12x1.5 tapped: hole 12 − 1.5; 1.044 eccentric with a wall of 2 makes Ø 10.5 + 2 (1.044 + 2). Head behind the lug, 12 of thread
    in steel; the bolt comes out with the rotor on, which one from the rotor's side does not."""
    solution, bushed = solved("inserts"), solved("bushings")
    out = math.hypot(90.0 - EAR_R, 0.3)
    assert solution.bracket.solved["bushing_mm"] == pytest.approx(12.0 - 1.5 + 2 * (out + 2.0))
    joint = next(j for j in solution.assembly.joints if j.at == "lug")
    assert joint.way == 1.0 and joint.head_z < -63.5 - 22.0 and joint.joint.stack.female == "insert"
    assert joint.joint.stack.layers[0] == ("lug", 22.0) and joint.joint.engagement >= 12.0
    assert solution.finding("caliper-removal").verdict is Verdict.OK
    assert bushed.finding("caliper-removal").verdict is Verdict.CAUTION
    assert bushed.assembly.joints[0].joint.stack.layers[0][0] == "ear"


def test_what_a_bolt_is_screwed_into_is_asked_of_that_metal() -> None:
    """From behind into the caliper's own ear: aluminium wants 1.5 diameters whatever metal the job names for a bracket."""
    behind = LugBolt(thread="M12x1.5", from_="inboard", into="plate")
    lugs = tuple((f"knuckle.lugs[{k}].{name}", value) for k in (0, 1)
                 for name, value in (("thread", None), ("hole_mm", 13.0), ("bolt", behind)))  # fmt: skip
    job = with_edits(
        job_of(example_vehicle("no-bracket")), (*lugs, ("caliper.ear_thread", "M12x1.5"), ("caliper.ear_hole_mm", 10.5))
    )
    for metal in ("steel S355", "aluminium 6082-T6", None):
        found = solve(with_edits(job, (("bracket.material", metal),)))
        stack = found.assembly.joints[0].joint.stack
        assert stack.female == "ear" and stack.wanted == pytest.approx(1.5 * 12.0)
        assert (
            found.finding("thread-engagement").verdict is Verdict.CAUTION
        )  # 13 mm of ear: one diameter, less than wanted


def test_bushings_are_not_made_where_nothing_asks_for_them() -> None:
    """Within the play of the bolts no bushing is proposed; the chart says so; with sloppy holes straight on is no answer either."""
    job = job_of(example_vehicle("no-bracket"))
    kinds = {one.bracket.family: one for one in propose(job)}
    assert kinds["eccentric-bushings"].bracket.refused and "as it is" in kinds["eccentric-bushings"].bracket.why
    assert kinds["straight-on"].suited in (Verdict.OK, Verdict.CAUTION)
    sloppy = solve(with_edits(job, (("caliper.ear_hole_mm", 15.0),)))
    assert sloppy.finding("straight-play").verdict is Verdict.STOP and "sleeves" in sloppy.finding("straight-play").why
    inside = solve(with_edits(job, (("knuckle.lugs[0].z_mm", -63.0), ("knuckle.lugs[1].z_mm", -63.0))))
    assert inside.finding("bushing-axial").verdict is Verdict.STOP and "no shim" in inside.finding("bushing-axial").why


def test_shims_in_both_places() -> None:
    """−74.3 and 0.5 at the lugs, 10 of plate, 0.3 at the ears: the ears' face to the hundredth."""
    stack_up = solved("ear-shims").assembly.stack_up
    assert pytest.approx(EAR_Z) == -74.3 + 0.5 + 10.0 + 0.3 and stack_up.error == pytest.approx(0.0)
    assert stack_up.ear_shims == (0.3, 0.3) and stack_up.shims == (0.5, 0.5)


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_paper_is_written_or_says_why_not(name: str, tmp_path: Path) -> None:
    """From the command line as from the window: what the kind has a use for is a whole file that says neither stop nor trial."""
    file = data_path("examples", f"{name}.bicentra.json")
    assert main(["check", str(file), "--json"]) in (0, 1)
    left = set()
    for kind, paper in PAPERS.items():
        if kind in ("step", "stl", "3mf", "trial", "trial-thin", "workshop", "workshop-both", "step-both"):
            continue  # those made by the worker have their own tests of every kind
        try:
            write_paper(kind, solved(name), tmp_path / f"x{paper.ending}")
        except ExportError as reason:
            left.add(kind)
            assert len(str(reason)) > 20
            continue
        data = (tmp_path / f"x{paper.ending}").read_bytes()
        assert len(data) > 100, paper.title
    assert cut_mark(solved(name)).word == ""  # no paper says not to cut, nor that it is for a trial
    expected = WITHOUT.get(name, {"drilling", "chart", "relief"})
    assert left == expected - {"step", "stl", "3mf", "trial", "trial-thin", "workshop", "workshop-both", "step-both"}


def test_the_worker_makes_their_solids(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Workshop drawings and STEP of one example from the command line; of a kind with nothing made the reason, and exit code 2."""
    weld, straight = (str(data_path("examples", f"{name}.bicentra.json")) for name in ("tube-tab", "no-bracket"))
    assert main(["export", weld, "--workshop", str(tmp_path / "w.pdf"), "--step", str(tmp_path / "w.step")]) == 0
    assert (tmp_path / "w.step").read_bytes().startswith(b"ISO-10303-21") and (tmp_path / "w.pdf").stat().st_size > 2000
    assert main(["export", straight, "--step", str(tmp_path / "s.step"), "--checks", str(tmp_path / "s.pdf")]) == 2
    assert "No bracket is needed" in capsys.readouterr().err and (tmp_path / "s.pdf").stat().st_size > 2000
    main(["check", straight, "--json"])
    assert json.loads(capsys.readouterr().out)
