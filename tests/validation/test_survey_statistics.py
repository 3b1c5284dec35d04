"""Statistics of the survey against published values. All from memory; no page was seen.

JCGM 100:2008 (GUM), example H.3: calibration of a thermometer, straight line through 11 points about 20 °C: y1 = −0.1712,
u = 0.0029, y2 = 0.00218, u = 0.00067, r = −0.930, s = 0.0035 (rounded as printed).
W. Baarda, A testing procedure for use in geodetic networks, 1968: for α₀ = 0.001 and β₀ = 0.80, δ₀ = 4.13.
Chi-square table (any handbook): 99 % points 6.635 (1), 11.345 (3), 15.086 (5); 95 % point for 2 degrees 5.991.
"""

import math

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.parts.survey import Distance, FaceReadings, Feature, Spot, Survey
from bicentra.core.survey import adjust as module
from bicentra.core.survey.adjust import ELLIPSE, adjust, error_ellipse
from bicentra.core.survey.faces import fit_face

T = (21.521, 22.012, 22.512, 23.003, 23.507, 23.999, 24.513, 25.002, 25.503, 26.010, 26.511)
B = (-0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.160)


def test_gum_h3_line_through_the_face_fit() -> None:
    """The thermometer's line, each point set down twice beside it, is a plane: intercept, slope and their uncertainties."""
    spots = []
    for t, b in zip(T, B):
        for side in (-1.0, 1.0):
            at, radius = math.degrees(math.atan2(side, t - 20.0)), math.hypot(side, t - 20.0)
            spots.append(Spot(at_deg=at, radius_mm=radius, depth_mm=-b))
    s = 0.0035
    found = fit_face(
        Survey(straightedge_thickness_mm=0.0), FaceReadings(feature="x", spots=tuple(spots), sd_mm=s * math.sqrt(2))
    )
    assert found.z == pytest.approx(-0.1712, abs=5e-5) and found.slope_x == pytest.approx(0.00218, abs=5e-6)
    u1, u2 = (float(np.sqrt((found.gain[k] ** 2).sum())) for k in (0, 1))
    assert u1 == pytest.approx(0.0029, abs=5e-5) and u2 == pytest.approx(0.00067, abs=5e-6)
    assert float(found.gain[0] @ found.gain[1]) / (u1 * u2) == pytest.approx(-0.930, abs=5e-4)


def five_studs(noise: np.ndarray | None = None) -> Survey:
    """Five studs on a 112 mm circle and all ten chords, centre to centre, each ±0.02 mm."""
    at = [(56 * math.cos(2 * math.pi * k / 5), 56 * math.sin(2 * math.pi * k / 5)) for k in range(5)]
    names = [f"s{k}" for k in range(5)]
    pairs = [(a, b) for a in range(5) for b in range(a + 1, 5)]
    off = noise if noise is not None else np.zeros(10)
    chords = tuple(
        Distance(from_=names[a], to=names[b], sense="centres", sd_mm=0.02, value_mm=math.dist(at[a], at[b]) + float(e))
        for (a, b), e in zip(pairs, off)
    )
    return Survey(features=tuple(Feature(name=n) for n in names), distances=chords)


def test_redundancy_of_a_free_network() -> None:
    """Ten chords of five studs: three more than needed; adjacent 0.2553, skipping 0.3447 (own computation, checks.md N9)."""
    done = adjust(five_studs())
    assert done.dof == 3 and done.redundancy.sum() == pytest.approx(3.0)
    assert sorted(set(np.round(done.redundancy, 4))) == [0.2553, 0.3447]


def test_chi_square_of_the_free_network() -> None:
    """Over 600 noisy networks the sum of squares has mean 3, and 1 % fall beyond the 99 % point 11.345."""
    rng = np.random.default_rng(0)
    found = [adjust(five_studs(rng.normal(0, 0.02, 10))).chi_square for _ in range(600)]
    assert np.mean(found) == pytest.approx(3.0, abs=0.3)
    assert np.mean(np.array(found) > 11.345) < 0.025


def test_chi_square_limit_and_ellipse() -> None:
    """The limit of the global test is the table's 99 % point for three degrees, the ellipse's scale √5.991."""
    done = adjust(five_studs())
    beyond = replace(done, residuals=done.residuals * 0 + math.sqrt(11.36 / 10) * 0.02)
    below = replace(done, residuals=done.residuals * 0 + math.sqrt(11.33 / 10) * 0.02)
    assert below.passed is True and beyond.passed is False
    assert pytest.approx(math.sqrt(5.991)) == ELLIPSE
    turned = math.radians(30.0)
    way = np.array([math.cos(turned), math.sin(turned)])
    spread = 4.0 * np.outer(way, way) + 1.0 * (np.eye(2) - np.outer(way, way))
    assert error_ellipse(spread) == pytest.approx((2 * ELLIPSE, ELLIPSE, 30.0))


def test_smallest_detectable_blunder_is_baardas(monkeypatch: pytest.MonkeyPatch) -> None:
    """With α₀ = 0.001 and power 0.80 the shift is δ₀ = 4.13, so σ·4.13/√r; the studs' chords separate well enough."""
    monkeypatch.setattr(module, "FALSE_ALARM", 0.001 * 10)
    done = adjust(five_studs())
    expected = 0.02 * 4.13 / np.sqrt(done.redundancy)
    separable = np.abs(done.correlation_of(0, 10) - np.eye(10)).max(axis=1) < 0.88
    assert separable.any()
    assert done.detectable[separable] == pytest.approx(expected[separable], rel=2e-3)
