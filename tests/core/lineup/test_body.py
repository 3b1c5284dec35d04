"""The caliper's body as slices, against points drawn by chance in its traced section and face."""

import random
from itertools import pairwise

import numpy as np
import pytest
import shapely

from bicentra.core.lineup.body import STEP_MM, Body, caliper_body
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job

SECTION = (
    (-40.0, -30.0),
    (-12.0, -34.0),
    (-12.0, 6.0),
    (12.0, 6.0),
    (12.0, -20.0),
    (36.0, -10.0),
    (30.0, 24.0),
    (-30.0, 20.0),
)
FACE = ((-60.0, -40.0), (60.0, -40.0), (70.0, 0.0), (30.0, 26.0), (-30.0, 26.0), (-70.0, 0.0))
"""A section (z from slot centre, out from pad top) that leans everywhere, and a face (across, out): invented."""


def body_of(good: Job, *edits: tuple[str, object]) -> tuple[Body, float, float]:
    """The body, and where slot centre and pad top lie: z and radius [mm]."""
    job = with_edits(good, (("caliper.body_section_mm", SECTION), *edits))
    line = line_up(job)
    return caliper_body(job, line, 0.5), line.rotor_midplane_z + 0.5, line.pad_top_radius


def test_the_slices_hold_the_body_and_little_more(good: Job) -> None:
    """Every point of section × face lies in a slice; every point of a slice lies in it, or within what it rises in one slice."""
    body, middle, top = body_of(good, ("caliper.body_face_mm", FACE))
    section, face, chance = shapely.Polygon(SECTION), shapely.Polygon(FACE), random.Random(4)
    steepest = max(abs(b[1] - a[1]) / abs(b[0] - a[0]) for a, b in pairwise(SECTION) if b[0] != a[0])
    assert body.at == (middle, top)
    for _ in range(3000):
        z, out, across = chance.uniform(-41, 37), chance.uniform(-35, 27), chance.uniform(-71, 71)
        inside = section.contains(shapely.Point(z, out)) and face.contains(shapely.Point(across, out))
        near = section.distance(shapely.Point(z, out)) <= STEP_MM * max(steepest, 1.0) + 0.01
        sliced = any(one.z0 <= z <= one.z1 and one.shape.covers(shapely.Point(out, across)) for one in body.slices)
        assert sliced or not inside, (z, out, across)
        assert not sliced or (near and face.distance(shapely.Point(across, out)) < 0.01), (z, out, across)


def test_slices_follow_each_other(good: Job) -> None:
    """From one end of the section to the other without a gap, none thicker than a step where the section leans."""
    body, middle, _ = body_of(good, ("caliper.body_face_mm", FACE))
    low, high = body.heights
    assert (low.min(), high.max()) == pytest.approx((middle - 40.0, middle + 36.0))
    assert set(np.round(high - middle, 9)) - {36.0} <= set(np.round(low - middle, 9))
    assert (high - low).max() <= STEP_MM + 1e-9


def test_bounds_of_a_body(good: Job) -> None:
    """A traced section gives range of z and of radius, its width from the caliper; a traced face its own; a box without either."""
    body, middle, top = body_of(good, ("caliper.body_face_mm", ()), ("caliper.body_width_mm", 130.0))
    assert (body.inner, body.outer, body.half_width) == pytest.approx((top - 34.0, top + 24.0, 65.0))
    assert (body.z0, body.z1) == pytest.approx((middle - 40.0, middle + 36.0))
    faced, _, top = body_of(good, ("caliper.body_face_mm", FACE))
    assert (faced.inner, faced.outer, faced.half_width) == pytest.approx((top - 40.0, top + 26.0, 70.0))
    box = with_edits(good, (("caliper.body_section_mm", ()), ("caliper.body_face_mm", ()), ("caliper.body_inboard_mm", 41.0),
                            ("caliper.body_outboard_mm", 48.0), ("caliper.pad_height_mm", 44.0),
                            ("caliper.body_outer_mm", 20.0), ("caliper.body_width_mm", 120.0)))  # fmt: skip
    line = line_up(box)
    plain, mid, top = caliper_body(box, line, 0.0), line.rotor_midplane_z, line.pad_top_radius
    assert (plain.z0, plain.z1, plain.inner, plain.outer) == pytest.approx(
        (mid - 41.0, mid + 48.0, top - 44.0, top + 20.0)
    )
    assert len(plain.slices) == 1 and plain.slices[0].shape.area == pytest.approx(64.0 * 120.0)
