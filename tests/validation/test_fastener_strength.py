"""Grades, torque and stripping against printed values, all from memory (no page was seen), and against the outside package.

Stress areas and proof loads: ISO 898-1:2013 tables 4 to 7, SAE J429. Torque: VDI 2230-1 table A1 (8.8, μ = 0.12). Shear areas: geometry
of the basic 60° profile (FED-STD-H28 form). Clearance holes: the CSV tables of bd-warehouse 0.4.0; its M12 to M16 and 9/16 differ from
ISO 273 and ASME B18.2.8 as remembered and are not compared.
"""

import math
from itertools import pairwise

import pytest

from bicentra.core.fasteners.joint import (
    GRADES,
    Grade,
    engagement_against_stripping,
    external_area,
    internal_area,
    proof_load,
    usual_grade,
)
from bicentra.core.fasteners.torque import (
    LUBRICATIONS,
    compare,
    torque_for,
    torque_per_newton,
    usual_torque,
)
from bicentra.core.parts.threads import CLEARANCES, THREADS, Thread, find_thread
from tests.validation.test_thread_standards import _mm, _row, _table

LBF = 4.4482216152605


def vdi_preload(thread: Thread, grade: Grade, friction: float) -> float:
    """Return the greatest preload [N] at which 90 % of yield is used, twist included (VDI 2230-1 table A1, from memory).

    σ = ν R_p0.2 / √(1 + 3 (3/2 d₂/d₀ (P/(π d₂) + 1.155 μ))²) on d₀ = (d₂ + d₃)/2.
    """
    d2 = thread.major - 0.6495191 * thread.pitch
    d3 = thread.major - 1.2268693 * thread.pitch
    d0 = (d2 + d3) / 2
    twist = 1.5 * d2 / d0 * (thread.pitch / (math.pi * d2) + 2 / math.sqrt(3) * friction)
    stress = 0.9 * grade.yield_ / math.sqrt(1 + 3 * twist**2)
    return stress * math.pi / 4 * d0**2


@pytest.mark.parametrize(("name", "area"), [("M5x0.8", 14.2), ("M6x1", 20.1), ("M16x2", 157.0), ("M16x1.5", 167.0)])
def test_stress_areas_of_the_sizes_added(name: str, area: float) -> None:
    """ISO 898-1 tables 4 to 7."""
    assert THREADS[name].stress_area == pytest.approx(area, rel=4e-3)


@pytest.mark.parametrize(
    ("name", "area"), [("#10-24", 0.0175), ("#10-32", 0.0200), ("1/4-20", 0.0318), ("1/4-28", 0.0364)]
)
def test_stress_areas_of_small_inch_threads(name: str, area: float) -> None:
    """ASME B1.1, Shigley table 8-2."""
    assert THREADS[name].stress_area / 25.4**2 == pytest.approx(area, abs=1e-4)
    assert find_thread(name) is THREADS[name] and THREADS[name].inch


@pytest.mark.parametrize(
    ("name", "loads"),
    [("M6x1", (11600, 16700, 19500)), ("M8x1.25", (21200, 30400, 35500)), ("M10x1.5", (33700, 48100, 56300)),
     ("M12x1.75", (48900, 70000, 81800)), ("M16x2", (91000, 130000, 152000))],
)  # fmt: skip
def test_proof_loads(name: str, loads: tuple[float, ...]) -> None:
    """ISO 898-1 table 5, classes 8.8, 10.9, 12.9; the standard rounds by itself: 0.7 %."""
    found = [proof_load(THREADS[name], GRADES[grade]) for grade in ("8.8", "10.9", "12.9")]
    assert found == pytest.approx(loads, rel=7e-3)


def test_inch_proof_loads() -> None:
    """SAE J429: 3/8-16 and 3/8-24, grades 5 and 8 [lbf]."""
    found = [proof_load(THREADS[n], GRADES[g]) / LBF for g in ("grade 5", "grade 8") for n in ("3/8-16", "3/8-24")]
    assert found == pytest.approx([6600, 7450, 9300, 10500], rel=4e-3)
    assert usual_grade(THREADS["3/8-24"]).name == "grade 5" and usual_grade(THREADS["M10x1.5"]).name == "8.8"


@pytest.mark.parametrize(
    ("name", "preload", "torque"),
    [("M6x1", 10.2, 10.1), ("M8x1.25", 18.6, 24.6), ("M10x1.5", 29.6, 48.0), ("M12x1.75", 43.0, 84.0), ("M14x2", 59.1, 133.0),
     ("M16x2", 80.9, 206.0)],
)  # fmt: skip
def test_vdi_2230_table_a1(name: str, preload: float, torque: float) -> None:
    """F_M and M_A at μ = 0.12 for class 8.8; our bearing diameter takes the ISO 273 medium hole: 1.5 %."""
    thread = THREADS[name]
    force = vdi_preload(thread, GRADES["8.8"], 0.12)
    assert force / 1e3 == pytest.approx(preload, rel=8e-3)
    assert force * torque_per_newton(thread, 0.12) / 1e3 == pytest.approx(torque, rel=1.5e-2)


def test_shear_areas_and_the_engagement_they_ask_for() -> None:
    """M10x1.5 over 10 mm: 197.36 and 274.89 mm2 (own numbers); the softer the tapped part, the longer the engagement."""
    m10 = THREADS["M10x1.5"]
    assert external_area(m10, 10.0) == pytest.approx(197.36, abs=0.01)
    assert internal_area(m10, 10.0) == pytest.approx(274.89, abs=0.01)
    strong, soft = engagement_against_stripping(m10, 800.0, 800.0), engagement_against_stripping(m10, 800.0, 290.0)
    assert 4.0 < strong < 6.0 and soft > 1.3 * strong
    assert soft == pytest.approx(800 * m10.stress_area / (0.577 * 290 * 27.489), rel=1e-3)


def test_a_torque_is_a_band_of_preloads() -> None:
    """The same torque clamps harder on a slippery thread; the band never passes the proof load; unlike states are not compared."""
    thread, grade = THREADS["M12x1.5"], GRADES["8.8"]
    made = {name: usual_torque(thread, grade, state) for name, state in LUBRICATIONS.items()}
    for torque in made.values():
        assert torque.least < torque.preload < torque.most <= proof_load(thread, grade) + 1e-6
    assert made["dry"].value > made["oiled"].value
    assert "cannot be compared" in compare(made["dry"], made["oiled"])
    again = torque_for(thread, made["dry"].preload * 1.1, LUBRICATIONS["dry"])
    assert "more" in compare(again, made["dry"]) and compare(made["dry"], made["dry"]) == "the same torque"
    assert made["oiled"].text.startswith(f"{made['oiled'].value:.0f} N·m oiled")


@pytest.mark.parametrize("size", ["M5", "M6", "M8", "M10", "1/4", "5/16", "3/8", "7/16", "1/2", "5/8"])
def test_clearance_classes(size: str) -> None:
    """ISO 273 fine, medium, coarse and ASME B18.2.8 close, normal, loose agree with the outside table."""
    row = _row(_table("clearance_hole_sizes.csv"), "Size", size)
    assert [_mm(row[c]) for c in ("Close", "Normal", "Loose")] == pytest.approx(list(CLEARANCES[size]), abs=0.01)


def test_every_thread_has_its_clearances_and_lengths() -> None:
    """Close below normal below loose, normal the one the tables of hardware carry; lengths rise."""
    for thread in THREADS.values():
        close, normal, loose = CLEARANCES[thread.size]
        assert thread.major < close < normal < loose and normal == pytest.approx(thread.hardware.clearance)
        assert all(a < b for a, b in pairwise(thread.stock_lengths))
