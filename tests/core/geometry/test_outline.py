"""Exact outlines against closed forms and against Shapely's polygons."""

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon

from bicentra.core.base.errors import OutlineError
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import Outline, Segment, bulge_between, circle_outline
from bicentra.core.geometry.relief import relieve

places = st.floats(-120, 120)
discs = st.lists(st.builds(lambda x, y, r: Disc((x, y), r), places, places, st.floats(5, 30)), min_size=1, max_size=7)


def test_circle_by_its_closed_form() -> None:
    """Area πr², perimeter 2πr, centroid in the middle, bounds a square."""
    circle = circle_outline((3.0, -4.0), 10.0)
    assert circle.area == pytest.approx(math.pi * 100)
    assert circle.perimeter == pytest.approx(2 * math.pi * 10)
    assert circle.centroid == pytest.approx((3.0, -4.0))
    assert circle.bounds == pytest.approx((-7.0, -14.0, 13.0, 6.0))


def test_half_disc_centroid() -> None:
    """The centroid of a half disc lies 4r/3π above its diameter."""
    half = Outline(((10.0, 0.0, 1.0), (-10.0, 0.0, 0.0)))
    assert half.centroid == pytest.approx((0.0, 40 / (3 * math.pi)), abs=1e-9)


def test_stadium_of_two_discs() -> None:
    """Two equal discs: πr² + 2rL, perimeter 2πr + 2L."""
    shape = convex_outline((Disc((0, 0), 10), Disc((50, 0), 10)))
    assert shape.area == pytest.approx(math.pi * 100 + 1000)
    assert shape.perimeter == pytest.approx(2 * math.pi * 10 + 100)


def test_two_unlike_discs_meet_their_tangent() -> None:
    """The common tangent of radii 20 and 10 at 50 apart is √(50² − 10²) long."""
    shape = convex_outline((Disc((0, 0), 20), Disc((50, 0), 10)))
    lines = [seg.length for seg in shape.segments if seg.bulge == 0]
    assert lines == pytest.approx([math.sqrt(2400)] * 2)


@given(discs)
def test_hull_equals_shapelys(found: list[Disc]) -> None:
    """Area and centroid of the exact hull against the convex hull of fine polygons."""
    exact = convex_outline(tuple(found))
    rough = Polygon(Point(*found[0].centre).buffer(found[0].radius, quad_segs=256).exterior)
    for disc in found[1:]:
        rough = rough.union(Point(*disc.centre).buffer(disc.radius, quad_segs=256))
    hull = rough.convex_hull
    assert exact.area == pytest.approx(hull.area, rel=2e-4)
    assert exact.centroid == pytest.approx((hull.centroid.x, hull.centroid.y), abs=0.05)
    for disc in found:
        assert exact.distance_to(disc.centre) >= disc.radius - 1e-6


def test_a_disc_inside_another_leaves_no_trace() -> None:
    """The hull of nested discs is the outer circle."""
    assert convex_outline((Disc((0, 0), 30), Disc((5, 0), 10))).area == pytest.approx(math.pi * 900)


def test_no_discs_or_unknown_ones_are_refused() -> None:
    """There is no outline round nothing or round a hole nobody has placed."""
    for bad in ((), (Disc((math.nan, 0.0), 5.0),)):
        with pytest.raises(OutlineError, match="every hole"):
            convex_outline(bad)


@given(st.floats(40, 85), st.floats(3, 8), st.floats(-60, 60), st.floats(-25, 25))
def test_relief_equals_shapelys_difference(radius: float, corner: float, y: float, spread: float) -> None:
    """The notch for the hub against a polygon difference; rounded corners take a little more away, never less."""
    plate = convex_outline((Disc((-95, y + 55), 17), Disc((-95 + spread, y - 55), 17), Disc((-70, y), 15)))
    rough = Polygon(plate.polygon(0.002))
    left = rough.difference(Point(0, 0).buffer(radius, quad_segs=720))
    assume(not left.is_empty and left.geom_type == "Polygon" and len(left.interiors) == 0)
    assume(abs(rough.area - left.area) > 1.0)
    cut = relieve(plate, radius, corner).outline
    assert cut.area <= left.area + 0.3
    assert cut.area == pytest.approx(left.area, abs=2 * corner * corner + 0.5)
    assert Polygon(cut.polygon(0.01)).is_valid
    assert cut.distance_to((0.0, 0.0)) == pytest.approx(radius, abs=1e-6)


def test_a_disc_that_cuts_the_plate_in_two_is_refused() -> None:
    """A bar across the axis cannot be relieved for a hub wider than itself; the message says what to do."""
    bar = convex_outline((Disc((-90, 0), 15), Disc((90, 0), 15)))
    with pytest.raises(OutlineError, match="turn the caliper"):
        relieve(bar, 40.0, 6.0)


def test_a_disc_wholly_inside_becomes_a_window() -> None:
    """A plate all round the hub gets a hole for it; one wholly inside the room is refused."""
    plate = convex_outline(tuple(Disc((90 * math.cos(a), 90 * math.sin(a)), 15) for a in (0.5, 2.0, 3.6, 5.2)))
    window = relieve(plate, 30.0, 6.0).window
    assert window is not None and window.area == pytest.approx(math.pi * 900)
    with pytest.raises(OutlineError, match="inside the room"):
        relieve(convex_outline((Disc((10, 0), 5),)), 40.0, 6.0)


@given(st.floats(0.05, 6.0), st.floats(-3, 3), st.booleans())
def test_arcs_keep_centre_and_radius(sweep: float, start: float, turn: bool) -> None:
    """A bulge made from centre and ends gives them back."""
    first = (7 + 20 * math.cos(start), 3 + 20 * math.sin(start))
    angle = start + (sweep if turn else -sweep)
    last = (7 + 20 * math.cos(angle), 3 + 20 * math.sin(angle))
    seg = Segment(first, last, bulge_between(first, last, (7.0, 3.0), turn))
    assert seg.radius == pytest.approx(20.0, rel=1e-6)
    assert seg.centre == pytest.approx((7.0, 3.0), abs=1e-5)
    assert seg.length == pytest.approx(20 * sweep, rel=1e-6)


@given(discs, places, places)
def test_distances_and_mirror_images(found: list[Disc], x: float, y: float) -> None:
    """Exact distances against Shapely's; a mirror image keeps area and distances."""
    exact = convex_outline(tuple(found))
    ring = Polygon(exact.polygon(0.001)).exterior
    assert exact.distance_to((x, y)) == pytest.approx(ring.distance(Point(x, y)), abs=0.01)
    assert exact.mirrored().area == pytest.approx(exact.area)
    assert exact.mirrored().distance_to((-x, y)) == pytest.approx(exact.distance_to((x, y)), abs=1e-9)
