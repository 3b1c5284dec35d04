"""The caliper and the rotor in space look like what they are: a slot, a bridge over the rotor, ears, pads at their place, vanes."""

import math

import numpy as np
import pytest
import shapely

from bicentra.core.base.records import replace
from bicentra.core.drawing.space.scene import caliper_pieces, ring_pieces, solid_scene
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.ring import Ring
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import empty_job


@pytest.mark.parametrize("clock", [20.0, 184.0, 300.0])
def test_the_rotor_runs_in_the_slot(good: Job, clock: float) -> None:
    """No metal of the body between the walls below the bridge; above it there is, either side of the window; pads lie where the
    caliper is, inside the rotor's edge."""
    solution = solve(with_edits(good, (("fit.clock_deg", clock),)))
    (slot, top), job = solution.assembly.body.at, solution.job
    turn = math.radians(clock)
    below, above = top + job.caliper.bridge_to_pad_top_mm - 0.5, top + job.caliper.bridge_to_pad_top_mm + 2.0
    pieces = caliper_pieces(solution)
    body = [piece for piece in pieces if piece[4] == "caliper"]

    def there(radius: float, z: float, beside: float = 0.0) -> bool:
        spot = shapely.Point(
            radius * math.cos(turn) - beside * math.sin(turn), radius * math.sin(turn) + beside * math.cos(turn)
        )
        return any(low < z < high and shape.covers(spot) for shape, low, high, _, _ in body)

    arm = 0.25 * job.caliper.pad_width_mm + 6.0
    assert not there(below, slot) and not there(above, slot)  # through the window the pads are seen
    assert all(not there(below - 12.0, slot, side) and there(above, slot, side) for side in (-arm, arm))
    wall = slot + job.caliper.slot_width_mm / 2 + 1.0
    assert there(below, wall) and not there(below, wall - 2.0)
    pads = [piece for piece in pieces if piece[4] == "pad"]
    assert len(pads) == 2
    for shape, low, high, _, _ in pads:
        x, y = shape.centroid.coords[0]
        assert math.remainder(math.degrees(math.atan2(y, x)) - clock, 360.0) == pytest.approx(0.0, abs=0.5)
        assert shape.hausdorff_distance(shapely.Point(0, 0)) <= job.rotor.diameter_mm / 2 and high > low


def test_ears_and_pistons_are_there(good: Job) -> None:
    """Two bosses as thick as the ears on the side away from their face; as many pistons as the caliper has; a block without a slot."""
    job = with_edits(
        good, (("caliper.pistons_inboard_mm", (36.0, 40.0)), ("caliper.pistons_outboard_mm", (36.0, 40.0)))
    )
    solution = solve(job)
    pieces = caliper_pieces(solution)
    face = solution.line.ears[0][2] + solution.assembly.stack_up.error
    ears = [
        piece
        for piece in pieces
        if math.isclose(piece[2] - piece[1], job.caliper.ear_thickness_mm) and piece[4] == "caliper"
    ]
    assert len(ears) >= 2 and all(min(abs(ear[1] - face), abs(ear[2] - face)) < 1e-9 for ear in ears[-2:])
    assert sum(piece[3:] == ("caliper", "bolt") for piece in pieces) == 4
    assert sum(piece[3] == "bleeder" for piece in pieces) == len(job.caliper.bleeders_deg)
    bare = solve(with_edits(job, (("caliper.slot_width_mm", None),)))
    assert [piece[4] for piece in caliper_pieces(bare)] in ([], ["caliper"])
    assert caliper_pieces(solve(with_edits(job, (("fit.clock_deg", None),)))) == ()


def test_a_vented_ring_has_a_gap(good: Job) -> None:
    """Two skins with ribs between them; a solid one is one piece; both as thick as the ring."""
    ring = Ring(80.0, 128.0, -10.0, 10.0)
    (solid,), vented = ring_pieces(ring, "none"), ring_pieces(ring, "straight")
    assert solid[1:3] == (-10.0, 10.0) and len(vented) == 3
    assert (
        vented[0][1] == -10.0 and vented[2][2] == 10.0 and vented[0][2] == vented[1][1] and vented[1][2] == vented[2][1]
    )
    assert vented[1][0].area < 0.5 * vented[0][0].area
    bodies = solid_scene(solve(replace(good, rotor=replace(good.rotor, vanes="straight")))).bodies
    assert all(np.isfinite(body.corners).all() for body in bodies)


def test_the_tube_stands_behind_the_hub(good: Job) -> None:
    """A measured tube is shown inboard of the retainer, as wide as it is."""
    hubs = [
        [
            body
            for body in solid_scene(solve(with_edits(good, (("hub.tube_diameter_mm", size),)))).bodies
            if body.tag == "hub"
        ]
        for size in (None, 77.3)
    ]
    (tube,) = [body for body in hubs[1] if np.isclose(np.hypot(*body.corners[:, :2].T).max(), 38.65, atol=0.05)][-1:]
    assert len(hubs[1]) >= len(hubs[0]) and tube.corners[:, 2].max() <= 0.0


def test_what_is_not_measured_is_left_out(good: Job) -> None:
    """Nothing of caliper and rotor in space raises while sizes are missing, one at a time or all of them."""
    for path in ("rotor.diameter_mm", "rotor.hat_inner_diameter_mm", "rotor.thickness_mm", "caliper.pad_width_mm", "caliper.pad_height_mm",
                 "caliper.bridge_to_pad_top_mm", "caliper.ear_boss_mm", "caliper.ear_hole_mm", "fit.clock_deg"):  # fmt: skip
        assert all(
            np.isfinite(body.corners).all() for body in solid_scene(solve(with_edits(good, ((path, None),)))).bodies
        ), path
    assert solid_scene(solve(empty_job())).bodies is not None
