"""Planes, sweeps and index places against a second way: geometry, NumPy's FFT, vectors."""

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.errors import JobFileError
from bicentra.core.parts.survey import FaceReadings, PartMeasure, Spot, Survey, Sweep, SweepReading
from bicentra.core.survey.faces import against_hub, fit_face
from bicentra.core.survey.recipes import BY_NAME, RECIPES, Recipe, traced_area, work_out
from bicentra.core.survey.runout import analyse, best_index, floor_tir, index_places
from bicentra.data import data_path
from bicentra.formats.job_json import parse_vehicle
from bicentra.study.document.starting import DEMO

EDGE = Survey(straightedge_thickness_mm=9.5)


def face(z: float, tilt: float, toward: float, spots: int = 4, noise: tuple[float, ...] = ()) -> FaceReadings:
    """Depths on a plane seated at ``z`` that leans by ``tilt`` degrees, high ``toward``."""
    rows = []
    for k in range(spots):
        at = 360.0 * k / spots + 20.0
        rise = math.tan(math.radians(tilt)) * 11.0 * math.cos(math.radians(at - toward))
        off = noise[k] if noise else 0.0
        rows.append(Spot(at_deg=at, radius_mm=11.0, depth_mm=9.5 - (z + rise + off)))
    return FaceReadings(feature="upper", spots=tuple(rows))


@given(st.floats(-120, -10), st.floats(0.01, 3), st.floats(0, 359), st.integers(3, 8))
def test_a_leaning_face_is_found_again(z: float, tilt: float, toward: float, spots: int) -> None:
    """Height, lean and direction of any plane come back exactly from three or more depths."""
    found = fit_face(EDGE, face(z, tilt, toward, spots))
    assert found.z == pytest.approx(z, abs=1e-9) and found.tilt_deg == pytest.approx(tilt, rel=1e-6)
    assert abs(math.remainder(found.high_toward_deg - toward, 360)) < 1e-5


def test_uncertainty_of_a_face_against_monte_carlo() -> None:
    """Seating height and lean of 4000 noisy faces scatter as stated, and as σ/√n and σ·√(2/n)/r by hand."""
    rng = np.random.default_rng(2)
    stated = fit_face(EDGE, face(-70, 0.6, 40))
    found = [fit_face(EDGE, face(-70, 0.6, 40, noise=tuple(rng.normal(0, 0.03, 4)))) for _ in range(4000)]
    assert np.std([f.z for f in found]) == pytest.approx(stated.sd_z, rel=0.05)
    assert np.std([f.tilt_deg for f in found]) == pytest.approx(stated.sd_tilt_deg, rel=0.05)
    assert stated.sd_z == pytest.approx(0.03 / 2) and stated.sd_tilt_deg == pytest.approx(
        math.degrees(0.03 * math.sqrt(0.5) / 11)
    )


@pytest.mark.parametrize("spots", [(), (0.0,), (0.0, 90.0), (10.0, 190.0, 10.0)])
def test_too_few_spots_give_no_plane(spots: tuple[float, ...]) -> None:
    """Fewer than three spots, or spots in a row: unknown, with what is missing."""
    rows = tuple(Spot(at_deg=at, radius_mm=10.0, depth_mm=80.0) for at in spots)
    found = fit_face(EDGE, FaceReadings(feature="upper", spots=rows))
    assert math.isnan(found.z) and math.isnan(found.tilt_deg) and found.fault


def test_the_hub_faces_own_plane_is_taken_off() -> None:
    """A straightedge that rests askew is found out by depths to the hub face itself."""
    hub = fit_face(EDGE, FaceReadings(feature="pilot", spots=face(0.0, 0.3, 90).spots))
    lug = against_hub(fit_face(EDGE, face(-70.0, 0.3, 90)), hub, (0.0, 50.0))
    assert lug.tilt_deg == pytest.approx(0.0, abs=1e-9)
    assert lug.z == pytest.approx(-70.0 - math.tan(math.radians(0.3)) * 50.0)


def sweep(n: int, tilt: float, high: float, warp: float, drop: tuple[int, ...] = (), on: str = "hub-face", radius: float = 60.0,
          rng: np.random.Generator | None = None) -> Sweep:  # fmt: skip
    """A sweep of n readings; ``rng`` spaces them unequally."""
    at = np.arange(n) * 360.0 / n if rng is None else np.sort(rng.uniform(0, 360, n))
    rows = []
    for k, angle in enumerate(at):
        phi = math.radians(angle)
        value = 0.2 + tilt * math.cos(phi - math.radians(high)) + warp * math.cos(2 * phi - 0.9)
        rows.append(SweepReading(at_deg=float(angle), value_mm=None if k in drop else value))
    return Sweep(on=on, radius_mm=radius, readings=tuple(rows))


@pytest.mark.parametrize("n", [6, 8, 12, 24, 36])
def test_harmonics_are_those_of_the_fourier_transform(n: int) -> None:
    """For equal spacing, noise and all: mean, first and second harmonic equal NumPy's FFT."""
    rng = np.random.default_rng(n)
    made = sweep(n, 0.03, 70, 0.01)
    values = np.array([r.value_mm for r in made.readings]) + rng.normal(0, 0.002, n)
    made = Sweep(
        on="hub-face",
        radius_mm=60,
        readings=tuple(SweepReading(at_deg=r.at_deg, value_mm=float(v)) for r, v in zip(made.readings, values)),
    )
    found = analyse(Survey(), made)
    spectrum = np.fft.fft(values) / n
    assert found.bump is None
    assert found.mean == pytest.approx(spectrum[0].real)
    assert found.tilt == pytest.approx(np.conj(2 * spectrum[1]), abs=1e-12)
    assert found.warp == pytest.approx(np.conj(2 * spectrum[2]), abs=1e-12)
    assert found.tir == pytest.approx(values.max() - values.min())


def test_unequal_spacing_and_dropped_readings_change_nothing() -> None:
    """The same curve read at odd places and with gaps gives the same harmonics."""
    for made in (
        sweep(12, 0.04, 200, 0.015, drop=(1, 2, 7)),
        sweep(15, 0.04, 200, 0.015, rng=np.random.default_rng(1)),
    ):
        found = analyse(Survey(), made)
        assert abs(found.tilt) == pytest.approx(0.04) and found.high_spot_deg == pytest.approx(200)
        assert abs(found.warp) == pytest.approx(0.015) and found.rest < 1e-12


@pytest.mark.parametrize("count", [0, 1, 2])
def test_too_few_readings_are_unknown(count: int) -> None:
    """Below three readings nothing is said."""
    found = analyse(Survey(), Sweep(readings=tuple(SweepReading(at_deg=90.0 * k, value_mm=0.1) for k in range(count))))
    assert found.fault and math.isnan(abs(found.tilt))


@pytest.mark.parametrize(("wide", "height"), [(1, 0.05), (2, 0.05), (3, -0.06)])
def test_a_local_bump_is_told_from_tilt_and_warp(wide: int, height: float) -> None:
    """Dirt under a few readings is found, and does not pass for tilt; a clean sweep has none in 200 tries."""
    rng = np.random.default_rng(wide)
    for _ in range(5):
        clean = sweep(16, 0.03, 70, 0.008)
        values = [
            r.value_mm + rng.normal(0, 0.003) + (height if k in range(5, 5 + wide) else 0.0)
            for k, r in enumerate(clean.readings)
        ]
        rows = tuple(SweepReading(at_deg=r.at_deg, value_mm=float(v)) for r, v in zip(clean.readings, values))
        found = analyse(Survey(), Sweep(radius_mm=60, readings=rows))
        assert found.bump is not None and set(found.bump.readings) & set(range(5, 5 + wide))
        assert found.bump.height == pytest.approx(height, abs=0.02)
        assert abs(found.tilt) == pytest.approx(0.03, abs=0.006)
    alarms = 0
    for _ in range(200):
        rows = tuple(
            SweepReading(at_deg=r.at_deg, value_mm=r.value_mm + float(rng.normal(0, 0.003)))
            for r in sweep(12, 0.03, 70, 0.008).readings
        )
        alarms += analyse(Survey(), Sweep(readings=rows)).bump is not None
    assert alarms <= 4


def test_index_places_are_vector_sums() -> None:
    """Hub tilt scaled by the radii plus the rotor's turned by k pitches; the best index undoes what can be undone."""
    hub = analyse(Survey(), sweep(12, 0.02, 70, 0.0))
    rotor = analyse(Survey(), sweep(12, 0.03, 70, 0.0, on="rotor-face", radius=120.0))
    places = index_places(hub, rotor, 5)
    for place in places:
        x = 0.04 * math.cos(math.radians(70)) + 0.03 * math.cos(math.radians(70 + 72 * place.turn))
        y = 0.04 * math.sin(math.radians(70)) + 0.03 * math.sin(math.radians(70 + 72 * place.turn))
        assert place.tilt == pytest.approx(math.hypot(x, y)) and place.tir == pytest.approx(2 * math.hypot(x, y))
    assert best_index(places).turn == 2 and floor_tir(hub, 120.0) == pytest.approx(0.08)


@pytest.mark.parametrize("recipe", [r for r in RECIPES if r.inputs], ids=lambda r: r.name)
def test_every_recipe_is_what_its_formula_says(recipe: Recipe) -> None:
    """The number equals the printed formula evaluated, and its uncertainty the root of the squares of the factors."""
    values = {i.key: 11.0 + 7.3 * k for k, i in enumerate(recipe.inputs)}
    found = work_out(Survey(), PartMeasure(recipe=recipe.name, values_mm=values))
    formula = recipe.formula.replace("−", "-")
    assert found.value == pytest.approx(eval(formula, {}, values))
    assert found.sd == pytest.approx(0.03 * math.sqrt(sum(i.factor**2 for i in recipe.inputs)))
    short = work_out(Survey(), PartMeasure(recipe=recipe.name, values_mm={}))
    assert math.isnan(short.value) and len(short.missing) == len(recipe.inputs)


def test_a_traced_pad() -> None:
    """Height, width and area of a traced trapezium by hand."""
    points = ((0.0, 0.0), (96.0, 0.0), (90.0, 44.0), (6.0, 44.0))
    for name, value in (("pad-height", 44.0), ("pad-width", 96.0)):
        assert work_out(Survey(), PartMeasure(recipe=name, points_mm=points)).value == value
    assert traced_area(points) == pytest.approx((96 + 84) / 2 * 44) and BY_NAME["pad-width"].part == "caliper"


@pytest.mark.parametrize(("key", "value"), [("value_mm", 1e300), ("value_mm", -101.0), ("at_deg", 1e9)])
def test_an_absurd_sweep_is_refused_by_name(key: str, value: float) -> None:
    """An indicator reads millimetres: a number no indicator shows is refused with its place, and never reaches the arithmetic."""
    whole = json.loads(data_path("demo", DEMO).read_text())
    whole["corners"]["front-right"]["survey"]["sweeps"][0]["readings"][2][key] = value
    with pytest.raises(JobFileError, match=rf"sweeps\[0\]\.readings\[2\]\.{key}: found"):
        parse_vehicle(json.dumps(whole).encode(), "x")
