"""What papers say of themselves: the mark not to cut on every one of them, date, names, revision, datum, units."""

import csv
import io
import math
import zipfile
from itertools import pairwise
from pathlib import Path

import ezdxf
import pypdfium2
import pytest
from ezdxf import recover

from bicentra.cli import main
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Bend, EdgeBore, Pocket
from bicentra.core.drawing.sheets.imprint import (
    BLANK,
    CLEAR,
    LETTERS,
    NOT_TO_CUT,
    TRIAL_ONLY,
    CutMark,
    Imprint,
    cut_mark,
    made_sizes,
    next_letter,
    revision,
    worse,
)
from bicentra.core.drawing.sheets.plate import datum_of, pitches
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import circle_outline
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Job
from bicentra.core.uncertainty.assess import assess
from bicentra.formats.pdf_dimensions import spread
from bicentra.study.document.store import load_vehicle, save
from bicentra.study.papers.makers import MAKERS
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.solids import both_mark
from bicentra.study.papers.writing import (
    DRAFT,
    imprint_of,
    note_beside,
    paper_imprint,
    ready_problem,
    today,
    write_paper,
)

NOT_CUT_FROM = {"card", "drilling", "parts", "chart", "relief", "fit-sheet", "fit-log", "fit-csv"}
"""Papers that no bracket is cut by: a card is cut from card; the chart needs bushings and has its own test."""


def go_on(*_: object) -> bool:
    """Never cancel."""
    return True


@pytest.fixture
def real(good: Job) -> Job:
    """The cured demo as a real job, all met."""
    return replace(good, practice=False)


@pytest.fixture
def stopped(real: Job) -> Job:
    """The same with bolts that run into the rotor."""
    return with_value(real, "bracket.caliper_bolt_length_mm", 60.0)


def words(data: bytes) -> str:
    """Everything that a paper says, whatever its kind."""
    if data.startswith(b"%PDF"):
        return "\n".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(data))
    if data.startswith(b"PK"):
        return zipfile.ZipFile(io.BytesIO(data)).read("3D/3dmodel.model").decode()
    if b"$ACADVER" in data[:200]:
        document, audit = recover.read(io.BytesIO(data))
        assert not audit.has_errors
        return "\n".join(text.dxf.text for text in document.modelspace().query("TEXT"))
    return data.decode(errors="replace")


@pytest.mark.parametrize("kind", [kind for kind in PAPERS if kind not in NOT_CUT_FROM])
def test_no_paper_to_cut_from_keeps_a_stop_to_itself(real: Job, stopped: Job, kind: str) -> None:
    """NOT TO CUT where something stops, TRIAL ONLY where something is unknown, neither where all is met."""
    if (
        PAPERS[kind].whose == "both"
    ):  # the demo's other corner has a bent lug, so nothing of both is cut until it is straight
        assert "Lug faces square to the hub" in words(MAKERS[kind].make(solve(real), go_on, BLANK))
        real, stopped = (replace(job, survey={job.corner: job.survey[job.corner]}) for job in (real, stopped))
    if kind.startswith("hub-"):  # a rotor spacer, and the rotor as much higher
        high = (real.rotor.overall_height_mm or 0.0) + 2.0
        edits = (("fit.rotor_spacer_mm", 2.0), ("rotor.overall_height_mm", high))
        real, stopped = (with_edits(job, edits) for job in (real, stopped))
    unknown = with_value(real, "wheel.centre_bore_mm", None)
    seen = {name: words(MAKERS[kind].make(solve(job), go_on, BLANK)) for name, job in
            (("stop", stopped), ("unknown", unknown), ("met", real))}  # fmt: skip
    assert NOT_TO_CUT in seen["stop"] and NOT_TO_CUT not in seen["unknown"] + seen["met"]
    assert "TRIAL ONLY. Still unknown" in seen["unknown"] or (kind == "stl" and TRIAL_ONLY in seen["unknown"])
    assert "TRIAL ONLY. Not" not in seen["met"]


def test_the_mark_names_what_stops(stopped: Job, real: Job) -> None:
    """Stops in front of what is unknown; what is asked of the other corner counts only for papers of both; practice is never cut."""
    mark = cut_mark(solve(stopped))
    assert mark.word == NOT_TO_CUT and mark.reasons[0] == "Bolt ends clear of the rotor"
    assert cut_mark(solve(real)) == CLEAR and cut_mark(solve(replace(real, practice=True))).word == NOT_TO_CUT
    ears = replace(real, caliper=replace(real.caliper, guessed=("ear_thickness_mm",)))
    guessed = cut_mark(assess(solve(ears)).solution)  # a guessed size is unknown: a trial piece, no metal
    assert guessed == CutMark(TRIAL_ONLY, "Still unknown", ("caliper's ear thickness (guessed)",))
    many = CutMark(TRIAL_ONLY, "Still unknown", tuple("abcdefgh"))
    assert many.line.endswith("f, and 2 more: see the check list") and many.text(8).endswith("g, h")
    assert worse(many, CLEAR) == many and worse(CLEAR, mark) == mark and worse(many, mark) == mark


def test_every_paper_says_that_limits_are_the_jobs_own(real: Job) -> None:
    """A halved clearance stands on papers that forbid nothing else, by the finding's title, and beside a stop as well."""
    own = with_edits(real, (("limits", {"caliper-to-obstacle": 1.5}),))
    assert not cut_mark(solve(real)).line
    mark = cut_mark(solve(own))
    title = solve(own).finding("caliper-to-obstacle").title
    assert not mark.word and mark.line == f"LIMITS CHANGED by this job: {title}"
    for kind in ("pdf", "checks", "dxf", "svg", "csv", "parts", "card", "workshop", "cut"):
        assert "LIMITS CHANGED" in words(MAKERS[kind].make(solve(own), go_on, BLANK)), kind
    stopped = worse(cut_mark(solve(replace(own, practice=True))), mark)
    assert stopped.line.startswith(NOT_TO_CUT) and stopped.line.endswith(f"LIMITS CHANGED by this job: {title}")


def test_a_note_lies_beside_a_mesh(stopped: Job, real: Job, tmp_path: Path) -> None:
    """A mesh has no words: a note beside it says not to cut; it goes with the next good one; a stranger's file stays."""
    path = tmp_path / "piece.stl"
    write_paper("stl", solve(stopped), path)
    assert "Bolt ends clear of the rotor" in note_beside(path).read_text()
    write_paper("stl", solve(real), path)
    assert not note_beside(path).exists()
    note_beside(path).write_text("mine")
    write_paper("stl", solve(stopped), path)
    assert note_beside(path).read_text() == "mine"


def test_a_paper_says_when_and_by_whom(real: Job) -> None:
    """Date, names, revision and what it changed stand on template, check list, drawings, assembly, cutting file."""
    imprint = Imprint("2026-05-04", "A. Draughtsman", "B. Checker", "C", "hole 2 up")
    solution = solve(real)
    for kind in ("pdf", "workshop", "assembly", "dxf", "cut", "card"):
        said = words(MAKERS[kind].make(solution, go_on, imprint))
        assert "2026-05-04" in said and "A. Draughtsman" in said and "B. Checker" in said, kind


def test_a_revision_rises_with_the_part_and_says_what_changed(real: Job) -> None:
    """A first; the same again while nothing is changed; B says which size moved from what to what; nothing while it must not be cut."""
    first, new = imprint_of(solve(real), "2026-05-04")
    assert new is not None and first.revision == "A" and new.date == "2026-05-04"
    given = replace(real, issued=(new,))
    assert imprint_of(solve(given), "2026-06-01") == (Imprint("2026-06-01", revision="A"), None)
    turned = with_value(given, "bracket.wall_mm", 9.0)
    second, newer = imprint_of(solve(turned), "2026-06-01")
    assert newer is not None and second.revision == "B" and "outline's area" in newer.changed
    thicker = solve(with_value(given, "bracket.thickness_mm", 15.0))
    thick = revision(thicker.job, thicker.parts, "x")
    assert "thickness 10 mm to 15 mm" in thick.changed
    assert imprint_of(solve(with_value(given, "bracket.caliper_bolt_length_mm", 60.0)), "x") == (
        Imprint("x", revision=DRAFT),
        None,
    )
    other = replace(given, corner="front-left")
    assert revision(other, solve(other).parts, "x").revision == "A"
    letters, letter = [], ""
    for _ in range(2 * len(LETTERS)):
        letter = next_letter(letter)
        letters.append(letter)
    assert (
        letters[: len(LETTERS)] == list(LETTERS) and letters[len(LETTERS)] == "AA" and len(set(letters)) == len(letters)
    )


def test_the_command_gives_out_only_when_asked(real: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Without ``--give-out`` the paper says so and the file stays; with it the file keeps the revision; the day may be set."""
    monkeypatch.setenv("SOURCE_DATE_EPOCH", "1700000000")
    assert today() == "2023-11-14"
    job, paper = tmp_path / "j.bicentra.json", tmp_path / "w.pdf"
    save(vehicle_of(real), job)
    assert main(["export", str(job), "--workshop", str(paper)]) == 0
    assert "A, not given out" in words(paper.read_bytes()) and not load_vehicle(job).issued
    assert main(["export", str(job), "--workshop", str(paper), "--give-out"]) == 0
    (given,) = load_vehicle(job).issued
    assert given.revision == "A" and given.date == "2023-11-14" and "not given out" not in words(paper.read_bytes())
    assert (
        main(["export", str(job), "--workshop", str(paper), "--give-out"]) == 0 and len(load_vehicle(job).issued) == 1
    )


def test_places_count_from_the_datum(real: Job) -> None:
    """By plain geometry: X and Y are distances along and across the line of the two holes, whichever are chosen, mirrored or not."""
    part = solve(real).part
    assert part is not None
    for picked in (None, (3, 4), (2, 1)):
        for left in (False, True):
            datum = datum_of(part, picked, left)
            assert datum is not None
            a, b = (part.bores[number - 1].centre for number in datum.holes)
            assert datum.at(a) == pytest.approx((0.0, 0.0)) and datum.at(b) == pytest.approx((math.dist(a, b), 0.0))
            for bore in part.bores:
                x, y = datum.at(bore.centre)
                assert math.hypot(x, y) == pytest.approx(math.dist(a, bore.centre))
                cross = (b[0] - a[0]) * (bore.centre[1] - a[1]) - (b[1] - a[1]) * (bore.centre[0] - a[0])
                assert y * math.dist(a, b) == pytest.approx(-cross if left else cross)
            shown = datum.outline(part.outline)
            assert shown.area == pytest.approx(part.outline.area) and shown.perimeter == pytest.approx(
                part.outline.perimeter
            )
    assert datum_of(part, (1, 9)) == datum_of(part) and datum_of(part, (2, 2)) == datum_of(part)
    assert [(one, other) for one, other, _ in pitches(part)] == [(1, 2), (3, 4)]
    assert pitches(part)[0][2] == pytest.approx(80.0)


def test_the_drawing_counts_from_the_datum_and_from_the_axle(real: Job) -> None:
    """Both places of every hole stand in the table of the drawing, a left one's Y turned over; the cutting file marks the datum."""
    for corner in ("front-right", "front-left"):
        job = replace(real, corner=corner)
        solution = solve(job)
        page = words(MAKERS["workshop"].make(solution, go_on, BLANK))
        datum = datum_of(solution.part, None, job.is_left)
        for bore in solution.part.bores:
            for value in (*datum.at(bore.centre), *bore.centre):
                assert f"{round(value, 2) + 0.0:.2f}" in page
        data = MAKERS["cut"].make(solution, go_on, BLANK)
        document, _ = recover.read(io.BytesIO(data))
        space = document.modelspace()
        cross = space.query('LINE[layer=="NOTE"]')
        holes = [circle.dxf.center for circle in space.query("CIRCLE")]
        along = cross[0].dxf.end - cross[0].dxf.start
        assert min((cross[0].dxf.start + along.normalize(6.0) - centre).magnitude for centre in holes) < 1e-6
        assert (
            "wheel axis at X" in words(data) and "datum: upper lug" in words(data) and "10 mm aluminium" in words(data)
        )


def test_an_inch_job_has_inch_papers(real: Job) -> None:
    """One system a paper: DXF in inches that says so, drawing on Letter with inch drills; sizes are the metric ones over 25.4."""
    inch = replace(real, display_units="in")
    for kind in ("dxf", "cut"):
        one, two = (recover.read(io.BytesIO(MAKERS[kind].make(solve(job), go_on, BLANK)))[0] for job in (real, inch))
        assert two.units == ezdxf.units.IN and two.header["$MEASUREMENT"] == 0 and one.units == ezdxf.units.MM
        radii = [
            sorted(circle.dxf.radius for circle in document.modelspace().query("CIRCLE")) for document in (one, two)
        ]
        assert radii[1] == pytest.approx([radius / 25.4 for radius in radii[0]])
    data = MAKERS["workshop"].make(solve(inch), go_on, BLANK)
    width, height = pypdfium2.PdfDocument(data)[0].get_size()
    assert (round(width / 72, 1), round(height / 72, 1)) == (11.0, 8.5)
    assert " mm" not in words(data).replace("(10 mm)", "") and "0.531 in (17/32)" in words(data)


def test_drills_have_the_names_of_the_rack() -> None:
    """Sixty-fourths and letter drills as the tables have them (ASME B94.11M and any drill index; from memory)."""
    inch, mm = LengthFormat("in"), LengthFormat("mm")
    for size, name in ((13.5, "17/32"), (10.49, "Z"), (8.43, "Q"), (6.35, "1/4"), (12.7, "1/2"), (25.4, "1")):
        assert f"({name})" in inch.drill(size)
    assert inch.drill(14.6) == "Ø 0.575 in" and mm.drill(13.5) == "Ø 13.5 mm" and inch.drill(math.nan) == "Ø ____"


def test_ordinates_stand_apart_and_in_order() -> None:
    """Close places are moved apart about their middle, far ones stay."""
    assert spread([0.0, 100.0], 10.0) == [0.0, 100.0]
    placed = spread([0.0, 1.0, 2.0, 50.0], 10.0)
    assert placed == pytest.approx([-9.0, 1.0, 11.0, 50.0])
    crowd = spread([float(k) for k in range(20)], 10.0)
    assert min(b - a for a, b in pairwise(crowd)) > 10.0 - 1e-9 and sum(crowd) / 20 == pytest.approx(9.5)


def test_what_does_not_apply_is_said_at_once(real: Job) -> None:
    """Drilling and bushings say so before a file name is asked for."""
    solution = solve(real)
    assert "nothing is to be drilled" in ready_problem(solution, "drilling")
    assert "bushings" in ready_problem(solution, "chart").lower() and not ready_problem(solution, "cut")


def test_the_hole_table_carries_the_mark(stopped: Job, real: Job) -> None:
    """Every row says what keeps metal from being cut; empty where nothing does."""
    for job, text in ((stopped, NOT_TO_CUT), (real, "")):
        rows = list(csv.DictReader(io.StringIO(MAKERS["csv"].make(solve(job), go_on, BLANK).decode())))
        assert all(row["state"].startswith(text) and bool(row["state"]) == bool(text) for row in rows)


def test_a_revision_sees_every_work(real: Job) -> None:
    """A slot turned, a stud hole in the edge deepened, a pocket wider, a bend moved: each changes what is kept of the part."""
    part = solve(real).part
    turned = [
        replace(part, bores=(replace(part.bores[0], slot=6.0, way=way), *part.bores[1:]))
        for way in ((1.0, 0.0), (0.6, 0.8))
    ]
    edge = [
        replace(part, edge_bores=(EdgeBore((1.0, 2.0, 3.0), (1.0, 0.0), 10.2, deep, "M12"),)) for deep in (20.0, 25.0)
    ]
    milled = [replace(part, pockets=(Pocket(circle_outline((0.0, 0.0), r), 2.0, 1.0),)) for r in (20.0, 22.0)]
    bent = [replace(part, bends=(Bend((x, 0.0), (x, 50.0), 30.0, 20.0, True),)) for x in (0.0, 5.0)]
    for one, other in (turned, edge, milled, bent):
        assert made_sizes(one, 1) == made_sizes(one, 1) != made_sizes(other, 1)


def test_papers_of_both_have_their_own_mark_and_revision(demo: Job, real: Job) -> None:
    """The other corner's bent lug, which only its survey knows, keeps both from being cut; where nothing stops, the axle has a revision."""
    job = replace(demo, practice=False, bracket=real.bracket)
    mark = both_mark(assess(solve(job)).solution)
    assert mark.word == NOT_TO_CUT and "Lug faces square to the hub" in mark.reasons
    plain = replace(real, survey={}, opposite=None)
    imprint, new = imprint_of(solve(plain), "x", "both")
    assert new is not None and new.corner == "front axle" and imprint.revision == "A"
    assert any(key.startswith("part 2") for key in new.sizes)
    assert imprint_of(solve(replace(plain, issued=(new,))), "x")[1] is not None  # the corner's own is another
    ring = with_edits(
        plain, (("fit.rotor_spacer_mm", 2.0), ("rotor.overall_height_mm", (plain.rotor.overall_height_mm or 0.0) + 2.0))
    )
    _, hub = paper_imprint("hub-parts", solve(ring), "x")
    assert hub is not None and (hub.corner, hub.revision) == (f"hub and rotor {plain.corner}", "A")
    kept = with_edits(replace(ring, issued=(new, hub)), (("bracket.material", "steel S355"),))
    assert (
        paper_imprint("hub-step", solve(kept), "y")[1] is None
    )  # another metal of the bracket changes nothing at the hub
    wider = with_edits(
        kept, (("fit.rotor_spacer_mm", 2.5), ("rotor.overall_height_mm", (ring.rotor.overall_height_mm or 0.0) + 0.5))
    )
    text, second = paper_imprint("hub-parts", solve(wider), "y")
    assert second is not None and second.revision == text.revision == "B" and "thickness 2 mm to 2.5 mm" in text.changed
    card, none = paper_imprint("card", solve(plain), "x")
    assert none is None and card.revision == "A, not given out"
