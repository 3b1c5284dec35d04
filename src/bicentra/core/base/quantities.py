"""Quantities as the shop writes them: ``12``, ``12.5 mm``, ``1 3/8 in``, ``3/8"``, ``80 thou``, ``5/64 in + 2 mm``;
inch drills by name.
"""

import math
import re
from fractions import Fraction
from typing import Literal

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.records import Record

LETTERS_IN = (
    0.234, 0.238, 0.242, 0.246, 0.250, 0.257, 0.261, 0.266, 0.272, 0.277, 0.281, 0.290, 0.295,
    0.302, 0.316, 0.323, 0.332, 0.339, 0.348, 0.358, 0.368, 0.377, 0.386, 0.397, 0.404, 0.413,
)  # fmt: skip
"""Letter drills A to Z [in]."""
SAME_MM = 0.05
"""How far a named drill may be from the size that is asked for, to be called by its name [mm]."""


def inch_drill(diameter_mm: float) -> str:
    """Return the name of the inch drill that makes a hole of ``diameter_mm`` [mm]: ``17/32``, ``Z``; empty where there
    is none.
    """
    inches = diameter_mm / 25.4
    sixty_fourth = Fraction(round(inches * 64), 64)
    named = [(abs(float(sixty_fourth) - inches), str(sixty_fourth))]
    named += [(abs(size - inches), chr(ord("A") + k)) for k, size in enumerate(LETTERS_IN)]
    off, name = min(named)
    return name if 0 < inches <= 1.0 and off * 25.4 <= SAME_MM else ""


Units = Literal["mm", "in"]

INCH = Fraction(254, 10)
POUND_FORCE = Fraction(45359237, 100000000) * Fraction(980665, 100000)

LENGTH_MM: dict[str, Fraction] = {
    "mm": Fraction(1), "cm": Fraction(10), "m": Fraction(1000), "µm": Fraction(1, 1000), "um": Fraction(1, 1000),
    "in": INCH, "inch": INCH, "inches": INCH, '"': INCH, "″": INCH, "”": INCH, "''": INCH,
    "thou": INCH / 1000, "mil": INCH / 1000, "ft": INCH * 12,
}  # fmt: skip
TORQUE_NM: dict[str, Fraction] = {
    "n m": Fraction(1), "nm": Fraction(1), "kgf m": Fraction(980665, 100000),
    "lbf ft": POUND_FORCE * INCH * 12 / 1000, "ft lbf": POUND_FORCE * INCH * 12 / 1000,
    "lb ft": POUND_FORCE * INCH * 12 / 1000, "ft lb": POUND_FORCE * INCH * 12 / 1000,
    "lbf in": POUND_FORCE * INCH / 1000, "in lbf": POUND_FORCE * INCH / 1000,
    "lb in": POUND_FORCE * INCH / 1000, "in lb": POUND_FORCE * INCH / 1000,
}  # fmt: skip
ANGLE_DEG: dict[str, Fraction] = {
    "°": Fraction(1),
    "deg": Fraction(1),
    "degrees": Fraction(1),
    "'": Fraction(1, 60),
}
MASS_KG: dict[str, Fraction] = {
    "kg": Fraction(1), "g": Fraction(1, 1000), "lb": Fraction(45359237, 100000000),
    "oz": Fraction(45359237, 100000000) / 16,
}  # fmt: skip
PRESSURE_BAR: dict[str, Fraction] = {
    "bar": Fraction(1), "mpa": Fraction(10), "kpa": Fraction(1, 100),
    "psi": POUND_FORCE / (INCH * INCH) * 10,
}  # fmt: skip
FORCE_N: dict[str, Fraction] = {
    "n": Fraction(1), "kn": Fraction(1000), "kgf": Fraction(980665, 100000), "lbf": POUND_FORCE, "lb": POUND_FORCE,
}  # fmt: skip
HEAT_C: dict[str, Fraction] = {"°c": Fraction(1), "c": Fraction(1), "°f": Fraction(5, 9), "f": Fraction(5, 9)}
ZERO_C: dict[str, Fraction] = {"°f": Fraction(-160, 9), "f": Fraction(-160, 9)}
SPEED_KMH: dict[str, Fraction] = {
    "km/h": Fraction(1), "kmh": Fraction(1), "kph": Fraction(1), "m/s": Fraction(36, 10), "mph": INCH * 63360 / 1000000,
}  # fmt: skip
PLAIN: dict[str, Fraction] = {}

_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d*)?|[.,]\d+)"
_TERM = re.compile(rf"\s*(?P<sign>[+\-−])?\s*(?P<number>{_NUMBER})\s*(?P<unit>(?:[^\d+\-−]|-(?=[A-Za-z]))*)")
_LONGEST = 80


class Kind(Record, frozen=True):
    """What a field holds: its units, and what to say when the text cannot be read.

    ``inner`` and ``inch``: the unit it is kept in and that of an inch job, as they are written. ``zero``: where the zero of a
    unit lies, in the inner one.
    """

    name: str
    units: dict[str, Fraction]
    example: str
    inner: str = ""
    inch: str = ""
    zero: dict[str, Fraction] = {}  # noqa: RUF012 - a frozen record: never changed


LENGTH = Kind("length", LENGTH_MM, 'a length such as 12, 12.5 mm, 1/2 in, 3/8", 80 thou or 5/64 in + 2 mm')
TORQUE = Kind("torque", TORQUE_NM, "a torque such as 47 N·m or 35 lbf ft")
ANGLE = Kind("angle", ANGLE_DEG, "an angle in degrees such as 182.5")
MASS = Kind("mass", MASS_KG, "a mass such as 4.2 kg or 9 lb")
PRESSURE = Kind("pressure", PRESSURE_BAR, "a pressure such as 25 bar or 360 psi", "bar", "psi")
FORCE = Kind("force", FORCE_N, "a force such as 300 N or 67 lbf", "N", "lbf")
HEAT = Kind("temperature", HEAT_C, "a temperature such as 230 °C or 446 °F", "°C", "°F", ZERO_C)
SPEED = Kind("speed", SPEED_KMH, "a speed such as 60 km/h or 37 mph", "km/h", "mph")
NUMBER = Kind("number", PLAIN, "a plain number such as 5 or 0.25")


KINDS = {kind.name: kind for kind in (LENGTH, TORQUE, ANGLE, MASS, PRESSURE, FORCE, HEAT, SPEED, NUMBER)}


def parse_quantity(text: str, kind: Kind, default_unit: str = "") -> float:
    """Read ``text`` as a quantity of ``kind``.

    Returns the value in mm, N·m, degrees, kg or as it stands. A number without a unit is in ``default_unit`` (mm,
    N·m, degrees or kg when that is empty). Raises ``QuantityError`` for anything that could be read two ways:
    ``1-3/8"`` (one and three eighths, or one minus three eighths?), ``5 in + 2`` (two of what?), ``1,250``.
    """
    if len(text) > _LONGEST:
        raise QuantityError(text, f"a text of {len(text)} characters", kind.example)
    if not text.strip():
        raise QuantityError(text, "nothing", kind.example)
    if re.search(r"\d-\d+\s*/", text):
        raise QuantityError(text, f"“{text.strip()}”, which can be read two ways", "“1 3/8” or “1 - 3/8” with spaces")
    terms = _terms(text, kind)
    bare = [unit == "" for _, unit in terms]
    if kind is LENGTH and default_unit != "in" and all(bare) and "/" in text:
        words = f"“{text.strip()}” without a unit, which is hardly millimetres"
        raise QuantityError(text, words, f"“{text.strip()} in” for inches, or a decimal number for millimetres")
    if any(bare) and not all(bare):
        raise QuantityError(text, f"“{text.strip()}”, where one number has no unit", "a unit on every number of a sum")
    total = Fraction(0)
    if kind.zero and len(terms) > 1:
        raise QuantityError(text, f"“{text.strip()}”, a sum of temperatures", kind.example)
    for number, unit in terms:
        named = unit or default_unit.lower()
        total += number * _factor(text, named, kind) + kind.zero.get(named, Fraction(0))
    return float(total)


def bare_unit(kind: Kind, units: Units) -> str:
    """Return the unit that a number without one is in: that of an inch job where there is one; empty for the inner unit."""
    if units != "in":
        return ""
    return "in" if kind is LENGTH else kind.inch


def in_units(value: float, kind: Kind, units: Units) -> tuple[float, str]:
    """Return a value in the unit that a job shows [unit of the kind], and that unit's name."""
    if units != "in" or not kind.inch:
        return value, kind.inner
    name = kind.inch.lower()
    return (value - float(kind.zero.get(name, 0))) / float(kind.units[name]), kind.inch


def show_in(value: float | None, kind: Kind, units: Units = "mm", digits: int = 0) -> str:
    """Return a pressure, force, temperature or speed for reading, in the units of the job; ``unknown`` when unknown."""
    if value is None or not math.isfinite(value):
        return "unknown"
    shown, unit = in_units(value, kind, units)
    return f"{_no_minus_zero(shown, digits)} {unit}".rstrip()


def _terms(text: str, kind: Kind) -> list[tuple[Fraction, str]]:
    """Split ``text`` into signed numbers with their unit's text, in order."""
    terms: list[tuple[Fraction, str]] = []
    place = 0
    while place < len(text.rstrip()):
        match = _TERM.match(text, place)
        if match is None or (terms and not match["sign"]):
            raise QuantityError(text, f"“{text.strip()}”", kind.example)
        value = _fraction(match["number"], text, kind)
        terms.append((-value if match["sign"] in ("-", "−") else value, _plain_unit(match["unit"])))
        place = match.end()
    return terms


def _plain_unit(unit: str) -> str:
    """Return ``unit`` in lower case with every kind of dot and gap turned into one space."""
    return re.sub(r"[\s·.*⋅-]+", " ", unit.replace("μ", "µ")).strip().lower()


def _fraction(number: str, text: str, kind: Kind) -> Fraction:
    """Turn ``12``, ``1.5``, ``1,5``, ``3/8`` or ``1 3/8`` into an exact fraction."""
    if re.fullmatch(r"\d*,\d{3}", number):
        raise QuantityError(text, f"“{number}”, where the comma can mean two things", f"“{number.replace(',', '.')}”")
    try:
        return sum((Fraction(part.replace(",", ".")) for part in number.split()), Fraction(0))
    except (ValueError, ZeroDivisionError):
        raise QuantityError(text, f"“{number.strip()}”", kind.example) from None


def _factor(text: str, unit: str, kind: Kind) -> Fraction:
    """Return what one ``unit`` is worth in the inner unit of ``kind``."""
    if unit == "":
        return Fraction(1)
    if unit not in kind.units:
        raise QuantityError(text, f"the unit “{unit}”", kind.example)
    return kind.units[unit]


LEAST_TOLD_MM = 0.002
"""What is smaller reads as nothing [mm]."""


def show_length(value_mm: float | None, units: Units = "mm", gap: bool = False, trim: bool = False) -> str:
    """Return a length for reading: ``12.50 mm``, ``0.492 in``, and ``91 thou`` for a gap in inch units.

    ``gap`` marks the small distances that the trade speaks of in thousandths, ``trim`` drops idle
    zeros. What is small but not nothing has a digit more: ``0.004 mm``, ``0.2 thou``. Unknown values read ``unknown``.
    """
    if value_mm is None or not math.isfinite(value_mm):
        return "unknown"
    if units == "mm":
        digits = 3 if LEAST_TOLD_MM <= abs(value_mm) < 0.005 else 2
        return f"{_short(value_mm, digits) if trim else _no_minus_zero(value_mm, digits)} mm"
    if gap and abs(value_mm) < 25.4:
        return f"{_no_minus_zero(value_mm / 0.0254, 1 if LEAST_TOLD_MM <= abs(value_mm) < 0.0127 else 0)} thou"
    return f"{_short(value_mm / 25.4, 3) if trim else _no_minus_zero(value_mm / 25.4, 3)} in"


def edit_text(value: float | None, kind: Kind, units: Units = "mm") -> str:
    """Return ``value`` as it stands in a field: short, exact to a ten-thousandth, with its unit; empty when unknown."""
    if value is None or not math.isfinite(value):
        return ""
    if kind is LENGTH:
        return f"{_short(value / 25.4, 5)} in" if units == "in" else f"{_short(value, 4)} mm"
    if kind.inner:
        shown, unit = in_units(value, kind, units)
        return f"{_short(shown, 4)} {unit}"
    unit = {"angle": "°", "torque": " N·m", "mass": " kg"}.get(kind.name, "")
    return _short(value, 4) + unit


def _short(value: float, digits: int) -> str:
    text = _no_minus_zero(value, digits)
    return text.rstrip("0").rstrip(".") if "." in text else text


def _no_minus_zero(value: float, digits: int) -> str:
    text = f"{value:.{digits}f}"
    return text[1:] if text[0] == "-" and float(text) == 0 else text
