"""Lengths, torques and angles as the shop writes them."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import (
    ANGLE,
    FORCE,
    HEAT,
    LENGTH,
    MASS,
    PRESSURE,
    SPEED,
    TORQUE,
    Kind,
    bare_unit,
    edit_text,
    parse_quantity,
    show_length,
)

LENGTHS = [
    ("12", 12.0), ("12.5 mm", 12.5), ("12,5 mm", 12.5), ("1/2 in", 12.7), ('3/8"', 9.525), ("80 thou", 2.032),
    ("5/64 in + 2 mm", 3.984375), ("1 3/8 in", 34.925), ("1 3/8in", 34.925), ("-2 mm", -2.0), ("−2", -2.0),
    ("2 cm", 20.0), ("0.5 in - 1 mm", 11.7), ("10 mil", 0.254), ("3 + 4", 7.0), (".5 in", 12.7), ("1 ft", 304.8),
]  # fmt: skip


@pytest.mark.parametrize(("text", "mm"), LENGTHS)
def test_lengths_are_read_exactly(text: str, mm: float) -> None:
    """Every shop way of writing a length gives its exact value."""
    assert parse_quantity(text, LENGTH) == pytest.approx(mm, abs=1e-12)


REFUSED = [
    "",
    "  ",
    "abc",
    "1-3/8",
    '1-3/8"',
    "5 in + 2",
    "12 furlongs",
    "1/0",
    "1,250",
    "12 mm 3",
    "--2",
    "nan",
    "inf",
    "1e999",
    "2 mm +",
    "9" * 200,
]


@pytest.mark.parametrize("text", REFUSED)
def test_what_could_mean_two_things_or_nothing_is_refused(text: str) -> None:
    """A text that cannot be read for certain raises, with what was found and what was expected."""
    with pytest.raises(QuantityError) as caught:
        parse_quantity(text, LENGTH)
    assert caught.value.found and caught.value.expected


def test_bare_numbers_take_the_units_shown() -> None:
    """In inch units a number without a unit is in inches."""
    assert parse_quantity("1/2", LENGTH, "in") == pytest.approx(12.7)
    assert parse_quantity("2 mm", LENGTH, "in") == 2.0


@pytest.mark.parametrize(
    ("text", "nm"),
    [
        ("35 lbf ft", 47.4536),
        ("35 ft-lb", 47.4536),
        ("47 N·m", 47.0),
        ("47 Nm", 47.0),
        ("47", 47.0),
        ("120 in lbf", 13.5582),
    ],
)
def test_torques(text: str, nm: float) -> None:
    """Torques in both systems; 1 lbf ft = 1.355818 N·m (NIST SP 811, from memory)."""
    assert parse_quantity(text, TORQUE) == pytest.approx(nm, rel=1e-5)


def test_angles_and_masses() -> None:
    """Degrees with or without their sign; kilograms and pounds."""
    assert parse_quantity("182.5°", ANGLE) == 182.5
    assert parse_quantity("9 lb", MASS) == pytest.approx(4.08233133)


@pytest.mark.parametrize(
    ("mm", "units", "gap", "text"),
    [
        (12.5, "mm", False, "12.50 mm"), (12.5, "in", False, "0.492 in"), (2.311, "in", True, "91 thou"),
        (2.311, "mm", True, "2.31 mm"), (-0.001, "mm", True, "0.00 mm"),
        (0.004, "mm", True, "0.004 mm"), (-0.0049, "mm", False, "-0.005 mm"), (0.005, "mm", True, "0.01 mm"), (0.005, "in", True, "0.2 thou"), (math.nan, "mm", False, "unknown"),
        (None, "in", True, "unknown"), (50.8, "in", True, "2.000 in"),
    ],
)  # fmt: skip
def test_lengths_are_shown_for_reading(mm: float | None, units: str, gap: bool, text: str) -> None:
    """Gaps read in thou in inch units; nothing reads minus zero."""
    assert show_length(mm, units, gap) == text  # type: ignore[arg-type]


@given(st.floats(-1500, 1500), st.sampled_from(["mm", "in"]))
def test_a_field_gives_back_what_it_shows(value: float, units: str) -> None:
    """Reading the text of a field returns its value to a ten-thousandth of a millimetre, in both units."""
    text = edit_text(value, LENGTH, units)  # type: ignore[arg-type]
    assert parse_quantity(text, LENGTH) == pytest.approx(value, abs=2e-4)


@given(st.integers(0, 50), st.integers(1, 63), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_mixed_fractions_add_up(whole: int, over: int, under: int) -> None:
    """``a b/c in`` is a + b/c inches, exactly."""
    assert parse_quantity(f"{whole} {over}/{under} in", LENGTH) == pytest.approx(
        25.4 * (whole + over / under), abs=1e-9
    )


@pytest.mark.parametrize("text", ["1 3/8", "3/8", "1/2 + 1/4"])
def test_a_fraction_without_a_unit_is_no_millimetres(text: str) -> None:
    """Nobody measures three eighths of a millimetre: in a metric job it is asked which; with a unit, or in an inch job, it is taken."""
    with pytest.raises(QuantityError, match="hardly millimetres"):
        parse_quantity(text, LENGTH)
    with pytest.raises(QuantityError, match="hardly millimetres"):
        parse_quantity(text, LENGTH, "mm")
    assert parse_quantity(text, LENGTH, "in") > 9.0 and parse_quantity("3/8 mm", LENGTH) == 0.375


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("1 psi", PRESSURE, 0.06894757293), ("1000 psi", PRESSURE, 68.94757293), ("0.5 MPa", PRESSURE, 5.0), ("25", PRESSURE, 25.0),
        ("1 lbf", FORCE, 4.4482216152605), ("1 kgf", FORCE, 9.80665), ("2 kN", FORCE, 2000.0),
        ("446 °F", HEAT, 230.0), ("-40 F", HEAT, -40.0), ("32 °f", HEAT, 0.0), ("230 °C", HEAT, 230.0),
        ("1 mph", SPEED, 1.609344), ("10 m/s", SPEED, 36.0),
    ],
)  # fmt: skip
def test_pressure_force_heat_and_speed(text: str, kind: Kind, value: float) -> None:
    """Factors of NIST SP 811, appendix B.8, from memory; what stands in a field of an inch job reads back to the same."""
    assert parse_quantity(text, kind) == pytest.approx(value, rel=1e-9, abs=1e-9)
    for units in ("mm", "in"):
        shown = edit_text(value, kind, units)
        assert shown.endswith(kind.inch if units == "in" else kind.inner)
        assert parse_quantity(shown, kind) == pytest.approx(value, abs=2e-4 * max(1.0, abs(value)))
        bare = shown.split()[0]
        assert parse_quantity(bare, kind, bare_unit(kind, units)) == pytest.approx(
            value, abs=2e-4 * max(1.0, abs(value))
        )


def test_temperatures_are_not_added() -> None:
    """A sum of temperatures means nothing, and is refused."""
    with pytest.raises(QuantityError):
        parse_quantity("20 °C + 30 °C", HEAT)
