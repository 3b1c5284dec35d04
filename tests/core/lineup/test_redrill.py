"""The redrill planner against a search of every angle, chords against the sine, and its command and template."""

import json
import math
from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.cli import main
from bicentra.core.base.errors import ExportError, QuantityError
from bicentra.core.base.finding import Verdict
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.redrill import drilling, plan_redrill, redrill_text
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.patterns import Pattern, parse_pattern
from bicentra.formats.pdf_sheets import redrill_pdf

PATTERNS = st.builds(Pattern, st.integers(3, 8), st.sampled_from([98.0, 100.0, 108.0, 112.0, 114.3, 120.0]))


def every_angle(old: Pattern, new: Pattern, hole: float) -> float:
    """The greatest smallest ligament over 0.01° steps of the whole turn, by plain distances."""
    turn = np.radians(np.arange(0.0, 360.0 / old.count, 0.01))
    olds = np.exp(1j * np.radians(old.angles())) * old.circle / 2
    news = np.exp(1j * (turn[:, None] + np.radians(new.angles()))) * new.circle / 2
    return float((np.abs(news[:, :, None] - olds).min(axis=(1, 2)) - hole).max())


@given(PATTERNS, PATTERNS, st.sampled_from([10.5, 12.5, 14.0]))
def test_the_best_clocking_is_the_best_of_all_angles(old: Pattern, new: Pattern, hole: float) -> None:
    """No angle of a brute-force search leaves more metal, and the plan's own angle leaves just what it says."""
    plan = plan_redrill(old, new, hole)
    assert plan.ligament == pytest.approx(every_angle(old, new, hole), abs=0.01)
    gaps = [math.dist(a, b) - hole for a in old.centres() for b in new.centres(plan.clock_deg)]
    assert plan.ligament == pytest.approx(min(gaps)) and len(plan.overlaps) == sum(g < 0 for g in gaps)
    assert (plan.verdict is Verdict.STOP) == (plan.ligament < 2.0 - 1e-9)


@pytest.mark.parametrize(
    ("pattern", "chord"), [("5x112", 65.832), ("5x114.3", 67.184), ("4x100", 70.711), ("4x3.937008 in", 70.711)]
)
def test_chords(pattern: str, chord: float) -> None:
    """Neighbouring studs stand D·sin(180°/n) apart (geometry; values as in the shop's tables, from memory)."""
    assert parse_pattern(pattern).chord == pytest.approx(chord, abs=1e-3)


def test_shared_holes() -> None:
    """On one circle the shared hole serves both and is left out; on unlike circles it is one oval hole, named, a watch."""
    one = plan_redrill(Pattern(4, 100), Pattern(5, 100), 13.0, share=True, thickness_mm=7.0)
    assert one.clock_deg == 0.0 and one.shared == ((0, 0),) and one.overlaps == ()
    assert one.ligament == pytest.approx(100 * math.sin(math.radians(9)) - 13.0)  # the next pair stands 18° apart
    assert one.imbalance == pytest.approx(50.0 * math.pi / 4 * 13**2 * 7 * 7.85e-3)  # four new holes of five
    slot = plan_redrill(Pattern(5, 108), Pattern(4, 100), 13.0, share=True, thickness_mm=7.0)
    assert slot.imbalance == pytest.approx(0.0, abs=1e-9)  # all four are drilled, the slotted one too
    assert (
        slot.shared == ((0, 0),) == slot.overlaps
        and slot.verdict is Verdict.CAUTION
        and slot.oval_long((0, 0)) == 4.0 + 13.0  # the circles are 4 apart along the radius
        and "one oval hole there, 17.00 mm long" in redrill_text(slot)
    )
    assert len(plan_redrill(Pattern(6, 114.3), Pattern(3, 114.3), 12.0, share=True).shared) == 3


def test_edges_count_when_they_are_asked_for() -> None:
    """A new hole near the bore stops; without bore and rim nothing is said of edges."""
    plan = plan_redrill(Pattern(3, 140), Pattern(3, 80), 14.0, bore_mm=57.0, rim_mm=150.0)
    assert plan.edge_inner == pytest.approx(40 - 7 - 28.5) and plan.edge_outer == pytest.approx(75 - 40 - 7)
    assert plan.verdict is Verdict.CAUTION
    assert plan_redrill(Pattern(3, 140), Pattern(3, 80), 14.0, bore_mm=62.0).verdict is Verdict.STOP
    assert math.isnan(plan_redrill(Pattern(3, 140), Pattern(3, 80), 14.0).edge_inner)


@pytest.mark.parametrize("text", ["5", "x100", "5x", "2x100", "13x100", "5x10", "5x1000", "five x 100", "5x100 kg", ""])
def test_what_is_no_pattern_is_refused(text: str) -> None:
    """Found and expected, in words."""
    with pytest.raises(QuantityError):
        parse_pattern(text)


def test_the_command(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    """Keys of the contract, exit codes, and a template that can be read back: 1 : 1, with its warning."""
    assert main(["redrill", "5x108", "4x100", "--hole-mm", "13", "--json"]) == 1
    found = json.loads(capsys.readouterr().out)
    assert found["clock_deg"] == 9.0 and found["min_ligament_mm"] == pytest.approx(
        every_angle(Pattern(5, 108), Pattern(4, 100), 13), abs=1e-3
    )
    assert found["shared"] == [] and [0, 0] in found["overlaps"]
    target = tmp_path / "r.pdf"
    assert (
        main(
            ["redrill", "3x140", "4x90", "--hole-mm", "12", "--bore-mm", "57", "--rim-mm", "160", "--pdf", str(target)]
        )
        == 0
    )
    page = pypdfium2.PdfDocument(target)[0]
    assert page.get_size() == pytest.approx((210 * 72 / 25.4, 297 * 72 / 25.4), abs=0.01)
    text = page.get_textpage().get_text_range()
    assert "Drilling template 3×140 to 4×90" in text and "100 mm between the ticks" in text and "qualified" in text
    for wrong in (
        ["5x108", "4x", "--hole-mm", "13"],
        ["5x108", "4x100", "--hole-mm", "0"],
        ["5x108", "4x100", "--hole-mm", "13", "--rim-mm", "-3"],
    ):
        assert main(["redrill", *wrong]) == 2


def test_the_template_is_the_same_twice_and_fits_or_says_so() -> None:
    """Equal bytes for an equal plan; a face larger than the sheet is refused; a stop is printed across it."""
    plan = plan_redrill(Pattern(5, 108), Pattern(4, 100), 13.0)
    assert redrill_pdf(plan, 57.0, 150.0) == redrill_pdf(plan, 57.0, 150.0)
    assert "DO NOT DRILL" in pypdfium2.PdfDocument(redrill_pdf(plan))[0].get_textpage().get_text_range()
    with pytest.raises(ExportError, match="more than a sheet"):
        redrill_pdf(plan, 57.0, 390.0)


def test_a_rotor_of_another_pattern_can_be_redrilled(good: Job) -> None:
    """The finding offers the redrilled rotor where the holes keep clear, with its warning; carried out, it is a watch."""
    other = with_edits(good, (("rotor.bolt_circle_mm", 139.7), ("rotor.hole_count", 5), ("rotor.hole_mm", 14.0)))
    finding = solve(other).finding("rotor-on-hub")
    cure = next(r for r in finding.remedies if r.edits)
    assert (
        "from 5×139.7 to 4×100" in cure.action
        and not cure.reversible
        and any("qualified" in s for s in cure.side_effects)
    )
    after = with_edits(other, cure.edits)
    told_after = solve(after).finding("rotor-on-hub")
    again, first = (redrill_text(plan) for plan in (drilling(after), drilling(other)) if plan is not None)
    assert told_after.verdict is Verdict.CAUTION and "from 5×139.7" in told_after.why and again == first
    near = with_edits(good, (("rotor.bolt_circle_mm", 108.0), ("rotor.hole_count", 5)))
    assert [r.action for r in solve(near).finding("rotor-on-hub").remedies if "one hole shared" in r.action]
    full = with_edits(good, (("rotor.hole_count", 5), ("rotor.hole_mm", 16.0)))  # 18° apart on 100 leaves 1.3 of metal
    filled = next(r for r in solve(full).finding("rotor-on-hub").remedies if r.edits)
    assert filled.action.endswith("the old holes filled") and "plugged first" in filled.side_effects[0]
    plugged = with_edits(full, filled.edits)
    assert solve(plugged).finding("rotor-on-hub").verdict is Verdict.CAUTION
    assert solve(with_edits(plugged, (("rotor.old_holes", "open"),))).finding("rotor-on-hub").verdict is Verdict.STOP
    tight = with_edits(good, (("rotor.hat_inner_diameter_mm", 133.0),))
    remedies = solve(tight).finding("rotor-on-hub").remedies
    assert [r.edits[0][0] for r in remedies] == [
        "rotor.hat_inner_diameter_mm",
        "hub.flange_diameter_mm",
        "hub.mounting",
    ]
    assert [any("then stops" in text for text in r.side_effects) for r in remedies] == [False, False, True]
    for cure in remedies:
        assert solve(with_edits(tight, cure.edits)).finding("rotor-on-hub").verdict is Verdict.OK
