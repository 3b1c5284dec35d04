"""Pads by exact area: the closed form for traced outlines against Shapely, sampling and the plain sector."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.records import replace
from bicentra.core.lineup.pad import area_within, nearest_radius, pad_contact
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job

PADS = st.lists(st.tuples(st.floats(-30.0, 30.0), st.floats(-60.0, 60.0)), min_size=3, max_size=9)


@given(PADS, st.floats(60.0, 180.0))
def test_area_within_a_circle_is_that_of_shapely(points: list[tuple[float, float]], radius: float) -> None:
    """Any convex outline about 110 mm out, cut by a circle of 20 000 corners."""
    hull = shapely.convex_hull(shapely.MultiPoint([(110.0 + u, w) for u, w in points]))
    if hull.geom_type != "Polygon" or hull.area < 1.0:
        return
    outline = tuple(hull.exterior.coords)[:-1]
    disc = shapely.Point(0, 0).buffer(radius, quad_segs=5000)
    area, _ = area_within(outline, radius)
    assert area == pytest.approx(hull.intersection(disc).area, abs=2e-3)


def test_moment_of_area_by_sampling() -> None:
    """∫ r dA of a quadrilateral between two circles against a fine grid of squares."""
    outline = ((85.0, -40.0), (130.0, -52.0), (128.0, 47.0), (88.0, 36.0))
    step = 0.1
    u, w = np.meshgrid(np.arange(80, 140, step) + step / 2, np.arange(-60, 60, step) + step / 2)
    r = np.hypot(u, w)
    inside = shapely.contains_xy(shapely.Polygon(outline), u, w) & (r > 95.0) & (r < 128.0)
    (area, moment), (less, less_moment) = area_within(outline, 128.0), area_within(outline, 95.0)
    assert area - less == pytest.approx(inside.sum() * step**2, rel=1e-3)
    assert moment - less_moment == pytest.approx((r[inside]).sum() * step**2, rel=1e-3)


def test_a_sector_drawn_as_points_gives_the_sector(good: Job) -> None:
    """The plain sector traced finely: the same area, effective radius and area off the rotor as the closed form."""
    plain = pad_contact(good)
    top = good.rotor.diameter_mm / 2 - good.fit.pad_inset_mm
    turns = np.linspace(-plain.half_angle, plain.half_angle, 400)
    outer = [(plain.outer_radius * math.sin(t), plain.outer_radius * math.cos(t) - top) for t in turns]
    inner = [(plain.inner_radius * math.sin(t), plain.inner_radius * math.cos(t) - top) for t in turns[::-1]]
    traced = pad_contact(replace(good, caliper=replace(good.caliper, pad_outline_mm=(*outer, *inner))))
    for name in ("area", "on", "effective_radius", "overhang", "inner_margin", "outer_lip"):
        assert getattr(traced, name) == pytest.approx(getattr(plain, name), abs=0.05, rel=1e-4)


def test_a_pad_of_its_own_radius_hangs_over_at_its_ends(good: Job) -> None:
    """A pad struck flatter than the rotor, flush at its middle, stands over the edge at its ends: √(u² + w²) − R."""
    job = replace(
        good, caliper=replace(good.caliper, pad_outer_radius_mm=160.0), fit=replace(good.fit, pad_inset_mm=0.0)
    )
    contact = pad_contact(job)
    half = good.caliper.pad_width_mm / 2
    end = math.hypot(128.0 - 160.0 + math.sqrt(160.0**2 - half**2), half)
    assert contact.overhang == pytest.approx(end - 128.0) and contact.overhang > 0
    assert contact.outside > 0 and contact.off == pytest.approx(contact.outside + contact.inside)
    assert contact.pad_lip == pytest.approx(contact.overhang) and contact.outer_lip == 0.0


@given(PADS)
def test_nearest_radius_is_that_of_shapely(points: list[tuple[float, float]]) -> None:
    """The axis' distance from the outline as a line, by a geometry library."""
    ring = shapely.LinearRing([(110.0 + u, w) for u, w in points])
    assert nearest_radius(tuple((110.0 + u, w) for u, w in points)) == pytest.approx(
        ring.distance(shapely.Point(0.0, 0.0)), abs=1e-9
    )


def test_half_of_a_traced_pad(good: Job) -> None:
    """100 wide with corners at 90 and 130: the corner at (130, 50) is furthest out, and half the pad reaches asin(50 / 139.28)."""
    top = line_up(good).pad_top_radius
    traced = tuple((across, out - top) for out, across in ((90.0, -50.0), (130.0, -50.0), (130.0, 50.0), (90.0, 50.0)))
    pad = line_up(with_edits(good, (("caliper.pad_outline_mm", traced),))).pad
    far = math.hypot(130.0, 50.0)
    assert pad.outer_radius == pytest.approx(far) and pad.inner_radius == pytest.approx(90.0)
    assert pad.half_angle == pytest.approx(math.asin(50.0 / far)) and pad.area == pytest.approx(4000.0)
