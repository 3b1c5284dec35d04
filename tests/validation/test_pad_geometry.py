"""Effective radius and pad area against a textbook example and against a polygon.

Shigley, Mechanical Engineering Design 9th ed., example 16-3 (from memory): caliper brake, inner radius 3.875 in, outer
5.5 in; uniform pressure gives an effective radius (2/3)(ro^3 - ri^3)/(ro^2 - ri^2) = 4.7344 in (own evaluation of the
printed formula, Eq. 16-36).
"""

import math

import numpy as np
import pytest
from shapely.geometry import Point, Polygon

from bicentra.core.base.records import replace
from bicentra.core.lineup.pad import effective_radius, pad_contact
from bicentra.core.parts.job import Job


def test_shigley_16_36_uniform_pressure() -> None:
    """The closed form gives the example's figure."""
    assert effective_radius(3.875, 5.5) == pytest.approx(4.7344, abs=5e-5)


def test_thin_pad_tends_to_its_mean_radius() -> None:
    """A pad of no height acts at its radius."""
    assert effective_radius(99.999, 100.001) == pytest.approx(100.0, abs=1e-6)


@pytest.mark.parametrize("inset", [-3.0, 0.0, 2.0, 12.0])
def test_area_off_the_ring_equals_a_polygon_cut_by_polygons(good: Job, inset: float) -> None:
    """The part of the pad that touches nothing, by exact sectors and by cutting polygons (1000 points an arc)."""
    job = replace(good, fit=replace(good.fit, pad_inset_mm=inset))
    pad = pad_contact(job)
    turn = np.linspace(-pad.half_angle, pad.half_angle, 1000)
    rim = [(pad.outer_radius * math.cos(a), pad.outer_radius * math.sin(a)) for a in turn]
    heel = [(pad.inner_radius * math.cos(a), pad.inner_radius * math.sin(a)) for a in turn[::-1]]
    ring = Point(0, 0).buffer(128.0, quad_segs=2000).difference(Point(0, 0).buffer(80.0, quad_segs=2000))
    shape = Polygon(rim + heel)
    assert pad.off == pytest.approx(shape.difference(ring).area, abs=0.6)
    assert pad.area == pytest.approx(shape.area, rel=1e-5)


def test_width_is_the_chord_at_the_outer_edge(good: Job) -> None:
    """The sector's ends at R_pad are the pad's width apart."""
    pad = pad_contact(good)
    assert 2 * pad.outer_radius * math.sin(pad.half_angle) == pytest.approx(96.0)
