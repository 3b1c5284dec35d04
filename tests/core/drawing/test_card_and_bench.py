"""The caliper card, the windows of the bleeders, the parts laid on the bench."""

import math

import numpy as np
import pytest
import shapely

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import assemble
from bicentra.core.drawing.sheets.templates import caliper_card, card_sheet
from bicentra.core.drawing.views.parts import PartSet, parts_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.body import bleeder_sweep, bleeder_windows
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.formats.pdf_sheets import card_pdf


def test_the_card_is_what_sweeps_the_wheel(good: Job) -> None:
    """Points of the caliper's body, turned about the axle into the card's plane, all lie on the card; it is one piece."""
    solution = solve(good)
    card = caliper_card(solution)
    assert card.base == 0.0 and card.outline.geom_type == "Polygon" and card.outline.is_valid
    middle = solution.line.rotor_midplane_z + solution.assembly.stack_up.error - solution.line.wheel_seat_z
    face = np.array(good.caliper.body_face_mm)
    section = shapely.Polygon(good.caliper.body_section_mm)
    grown = card.outline.buffer(1e-6)
    corners = [*face, *((face[k] + face[k - 1]) / 2 for k in range(len(face)))]
    for across, out in corners:
        for z in np.linspace(*section.bounds[::2], 40):
            if section.buffer(1e-9).covers(shapely.Point(z, out)):
                assert grown.covers(shapely.Point(z + middle, math.hypot(solution.line.pad_top_radius + out, across)))
    assert (
        shapely.distance(card.keep_out.boundary, shapely.Point(card.outline.bounds[2], card.reach - 30.0)) >= 2.0 - 1e-3
    )


def test_the_cards_outboard_edge_is_the_wheels_seat(good: Job) -> None:
    """Below the caliper nothing of the card stands outboard of the mounting face: the card can be laid there."""
    card = caliper_card(solve(good))
    low = card.outline.intersection(shapely.box(-500, 0, 500, 60))
    assert low.bounds[2] == pytest.approx(0.0) and low.bounds[1] == pytest.approx(0.0)


def test_a_floating_caliper_is_drawn_at_both_ends(good: Job) -> None:
    """The card grows by the wear of a pad to either side."""
    plain = caliper_card(solve(good)).outline.bounds
    action = with_edits(good, (("caliper.action", "floating"), ("caliper.pad_thickness_mm", 10.0)))
    floats = caliper_card(solve(action)).outline.bounds
    assert floats[2] - plain[2] == pytest.approx(10.0, abs=3.0) and floats[2] > plain[2] + 6.0


def test_a_card_too_tall_starts_above_the_axle_or_is_refused(good: Job) -> None:
    """The foot is cut off in whole steps and says so; a caliper taller than the sheet, or not measured, is refused."""
    solution = solve(good)
    card = caliper_card(solution, tallest=110.0)
    assert card.base == 50.0 and any("50 mm above the axle" in n.text for n in card_sheet(solution, 110.0).notes)
    with pytest.raises(ExportError, match="more than the sheet"):
        caliper_card(solution, tallest=20.0)
    with pytest.raises(ExportError, match="still unknown"):
        card_pdf(solve(with_edits(good, (("caliper.body_width_mm", None), ("caliper.body_face_mm", ())))))
    assert card_pdf(solution) == card_pdf(solution)


def test_each_bleeders_window_against_every_angle(good: Job) -> None:
    """Which bleeder is highest at each tenth of a degree, counted, agrees with the windows in closed form."""
    job = with_edits(good, (("caliper.bleeders_deg", (60.0, -75.0, 170.0)), ("fit.attitude_deg", 7.0)))
    assembly = assemble(job)
    windows = bleeder_windows(assembly.job, 45.0)
    for clock in np.arange(0.05, 360.0, 0.1):
        up = (clock + np.array(job.caliper.bleeders_deg) + 7.0 - 90.0 + 180.0) % 360.0 - 180.0
        high = int(np.argmin(np.abs(up)))
        inside = [k for k, (a, b) in enumerate(windows) if (clock - a) % 360.0 < (b - a)]
        assert inside == ([high] if abs(up[high]) < 45.0 else [])
        assert bleeder_sweep(assembly.job, np.radians([clock]))[0] == pytest.approx(abs(up[high]))
    assert "bleed screw 1 is the high one from" in solve(job).finding("bleeder-up").why
    same = assemble(with_edits(job, (("caliper.bleeders_deg", (60.0, 60.0)),)))
    assert bleeder_windows(same.job, 45.0)[1] is None


def test_parts_on_the_bench_are_true_to_size(good: Job) -> None:
    """Both rotors at their own diameter in one scale, the old above the new, or over it as dashed lines only."""
    small = replace(good.rotor, diameter_mm=230.0, swept_inner_diameter_mm=150.0)
    part_sets = (PartSet("old", good.rotor, good.caliper), PartSet("new", small, good.caliper))
    drawing = parts_view(part_sets, LengthFormat("mm"))
    rotors = [s.bounds for s in drawing.shapes if s.ink == "rotor" and len(s.loops) == 2]
    assert [round(b[2] - b[0], 6) for b in rotors] == [256.0, 230.0] and rotors[0][1] > rotors[1][3]
    assert {"Ø 256 mm", "Ø 230 mm", "ears 130 mm"} <= {d.text for d in drawing.dimensions}
    over = parts_view(part_sets, LengthFormat("mm"), over=True)
    old = [s for s in over.shapes if s.tag == "set-0"]
    assert old and all(s.ink == "example" and not s.filled and s.line == "hidden" for s in old)
    bare = parts_view((PartSet("nothing"), PartSet("empty", Job().rotor, Job().caliper)), LengthFormat("in"))
    assert bare.examples == ("nothing: no rotor and no caliper noted",)
