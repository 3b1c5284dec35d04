"""Texts round the parts: none over what is drawn while there is room beside it, no leader through a text, nothing jumps in a pull."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.records import replace
from bicentra.core.bracket.bolt_checks import bolt_gap
from bicentra.core.drawing.boxes import Box, cross, crosses
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Drawing, Note, Sheet
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job

FRAME = Box(-300.0, -300.0, 300.0, 300.0)
numbers = st.integers(-50_000, 50_000).map(lambda thousandths: thousandths / 1000.0)
points = st.tuples(numbers, numbers)


def measure(text: str) -> tuple[float, float]:
    """A stand-in for a face: seven units a letter."""
    return 7.0 * len(text) + 8, 17.0


def block(count: int) -> Drawing:
    """A filled block with ``count`` notes pointing into it."""
    sheet = Sheet()
    sheet.box(-60.0, -60.0, 60.0, 60.0, "made", "block")
    for k in range(count):
        turn = 2 * math.pi * k / count
        at = (50.0 * math.cos(turn), 50.0 * math.sin(turn))
        sheet.note(Note(at, f"note number {k}", f"n{k}", 1, prefer=(-at[0], -at[1])))
    return sheet.finish((-1.0, -1.0, 1.0, 1.0))


@given(box=st.tuples(points, points), line=st.tuples(points, points))
def test_a_line_through_a_box_is_seen(
    box: tuple[tuple[float, float], ...], line: tuple[tuple[float, float], ...]
) -> None:
    """Against two thousand points along the line: what meets the box there is called crossing, and what passes far off is not."""
    (ax, ay), (bx, by) = box
    there = Box(min(ax, bx), min(ay, by), max(ax, bx), max(ay, by))
    t = np.linspace(0.0, 1.0, 2001)
    x, y = line[0][0] + t * (line[1][0] - line[0][0]), line[0][1] + t * (line[1][1] - line[0][1])
    inside = (x >= there.x0) & (x <= there.x1) & (y >= there.y0) & (y <= there.y1)
    away = np.hypot(
        np.maximum(there.x0 - x, np.maximum(x - there.x1, 0)), np.maximum(there.y0 - y, np.maximum(y - there.y1, 0))
    )
    if inside.any():
        assert crosses(there, line)
    elif away.min() > 0.2:
        assert not crosses(there, line)


def test_two_leaders_cross_or_do_not() -> None:
    """A cross, two beside each other, two that would only meet past an end."""
    assert cross(((0.0, 0.0), (2.0, 2.0)), ((0.0, 2.0), (2.0, 0.0)))
    assert not cross(((0.0, 0.0), (2.0, 0.0)), ((0.0, 1.0), (2.0, 1.0)))
    assert not cross(((0.0, 0.0), (1.0, 1.0)), ((0.0, 4.0), (4.0, 0.0)))


@pytest.mark.parametrize("count", [1, 4, 12])
def test_notes_stand_round_the_block(count: int) -> None:
    """Though each would rather point inward, none lies over the block, no leader runs through a text or across another."""
    placed = lay_out(block(count), 2.0, measure, FRAME, margins=True)
    parts = Box(-120.0, -120.0, 120.0, 120.0)
    assert len(placed) == count and not any(label.box.meets(parts, 0.0) for label in placed)
    leaders = [line for label in placed for line in label.lines]
    assert not any(crosses(label.box, line) for label in placed for line in leaders if line not in label.lines)
    assert not any(cross(one, other) for k, one in enumerate(leaders) for other in leaders[:k])
    assert any(label.box.meets(parts, 0.0) for label in lay_out(block(count), 2.0, measure, FRAME))


def test_a_pull_moves_no_text(good: Job) -> None:
    """From frame to frame of a pull the texts stay in their places, and what they say follows."""
    before = lay_out(section_view(solve(good)), 1.2, measure, FRAME, margins=True)
    for inset in (1.1, 1.2, 1.3):
        moved = section_view(solve(with_value(good, "fit.pad_inset_mm", inset)))
        after = lay_out(moved, 1.2, measure, FRAME, margins=True, before=before)
        stood = {label.key: label for label in before}
        text = {label.key: label for label in after}
        assert len(text) >= len(stood) - 1
        for key, label in text.items():
            if key in stood and label.nth == stood[key].nth:
                assert math.dist(label.box.middle, stood[key].box.middle) < 4.0
        before = after


def test_the_rotor_stands_behind_the_tip(good: Job) -> None:
    """Between the tip and the rotor drawn behind it lies the room the bolt is judged by, and the rotor is as thick as it is."""
    assembly = solve(good).assembly
    drawing = joint_view(assembly, good.lengths)
    ear = min((j for j in assembly.joints if j.at == "ear"), key=lambda j: bolt_gap(assembly, j, "tip"))
    rings = [s.bounds for s in drawing.shapes if s.tag == "rotor"]
    beside = [b for b in rings if b[0] > ear.joint.tip]
    assert beside and min(b[0] for b in beside) - ear.joint.tip == pytest.approx(bolt_gap(assembly, ear, "tip"))
    assert max(b[2] - b[0] for b in beside) <= good.rotor.thickness_mm + 1e-9
    assert any(note.text == "rotor" for note in drawing.notes)
    far = replace(good, rotor=replace(good.rotor, diameter_mm=None))
    assert not [s for s in joint_view(solve(far).assembly, good.lengths).shapes if s.tag == "rotor"]
