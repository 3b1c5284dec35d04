"""Numbers in sentences, in the units the job is read in; a finding's value and limit as they are read on screen and paper."""

import math
from collections.abc import Callable
from fractions import Fraction

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict, governing_limit, judge, worst_check
from bicentra.core.base.quantities import (
    FORCE,
    HEAT,
    MASS_KG,
    PRESSURE,
    SPEED,
    TORQUE_NM,
    Units,
    inch_drill,
    show_in,
    show_length,
)
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import Limit

THOUSANDS_N = 1000.0
POUND_KG, FOOT_POUND = float(MASS_KG["lb"]), float(TORQUE_NM["lbf ft"])


class LengthFormat(Record, frozen=True):
    """Writes lengths for one job: ``gap`` for small distances (thou in inch units), ``size`` for the others."""

    units: Units

    def gap(self, value_mm: float) -> str:
        """Return a small distance, unsigned: ``1.80 mm`` or ``71 thou``."""
        return show_length(abs(value_mm), self.units, gap=True)

    def shim(self, value_mm: float) -> str:
        """Return a shim's thickness so that no two on sale read alike: ``0.50 mm``, ``0.508 mm``, ``0.020 in``, ``0.0197 in``."""
        value, digits = (value_mm / 25.4, 3) if self.units == "in" else (value_mm, 2)
        digits += abs(round(value, digits) - value) > 0.05 * 10**-digits
        return f"{value:.{digits}f} {self.units}"

    def size(self, value_mm: float) -> str:
        """Return a length, signed as it is, without idle zeros: ``12 mm``, ``12.5 mm``, ``0.472 in``."""
        return show_length(value_mm, self.units, trim=True)

    def stock(self, value_mm: float) -> str:
        """Return a plate's thickness with the name it is bought under: ``10 mm``, ``9.53 mm (3/8 in)``, ``0.394 in (10 mm)``."""
        if not math.isfinite(value_mm):
            return "____ thick"
        shown, inches = self.size(value_mm), inch_name(value_mm)
        if inches:
            return f"{inches} in" if self.units == "in" else f"{shown} ({inches} in)"
        metric = abs(value_mm * 2 - round(value_mm * 2)) < 2e-3
        return f"{shown} ({value_mm:g} mm)" if self.units == "in" and metric else shown

    def drill(self, value_mm: float) -> str:
        """Return a hole's diameter with its unit, and in inches the drill that makes it: ``Ø 13.5 mm``, ``Ø 0.531 in
        (17/32)``.
        """
        if self.units == "mm" or not math.isfinite(value_mm):
            return f"Ø {value_mm:.1f} mm" if math.isfinite(value_mm) else "Ø ____"
        name = inch_drill(value_mm)
        return f"Ø {value_mm / 25.4:.3f} in" + (f" ({name})" if name else "")

    def bare(self, value_mm: float) -> str:
        """Return a length without its unit, for a table that names it: ``-62.00``, ``2.441``."""
        value, digits = (value_mm / 25.4, 3) if self.units == "in" else (value_mm, 2)
        return f"{round(value, digits) + 0.0:.{digits}f}" if math.isfinite(value_mm) else "____"

    def mass(self, value_kg: float, digits: int = 2) -> str:
        """Return a mass for reading: ``0.41 kg``, ``0.91 lb``."""
        if not math.isfinite(value_kg):
            return "unknown"
        shown, unit = (value_kg / POUND_KG, "lb") if self.units == "in" else (value_kg, "kg")
        return f"{shown:.{digits}f} {unit}"

    def force(self, value_n: float, digits: int = 0) -> str:
        """Return a force for reading: ``320 N``, ``10.2 kN``, ``72 lbf``."""
        if self.units == "mm" and math.isfinite(value_n) and abs(value_n) >= THOUSANDS_N:
            return f"{value_n / 1e3:.1f} kN"
        return show_in(value_n, FORCE, self.units, digits)

    def pressure(self, value_bar: float) -> str:
        """Return a pressure [bar, 0.1 N/mm2] for reading: ``26.7 bar``, ``200 bar``, ``387 psi``."""
        return show_in(value_bar, PRESSURE, self.units, 0 if self.units == "in" else 1).replace(".0 ", " ")

    def heat(self, value_c: float) -> str:
        """Return a temperature [degrees Celsius] for reading: ``230 °C``, ``446 °F``."""
        return show_in(value_c, HEAT, self.units)

    def warmer(self, value_k: float) -> str:
        """Return a difference of temperatures [K] for reading: ``112 °C``, ``202 °F``."""
        if not math.isfinite(value_k):
            return "unknown"
        return f"{value_k * 1.8:.0f} °F" if self.units == "in" else f"{value_k:.0f} °C"

    def speed(self, value_kmh: float) -> str:
        """Return a speed [km/h, 1/3.6 m/s] for reading: ``60 km/h``, ``37 mph``."""
        return show_in(value_kmh, SPEED, self.units)

    def torque(self, value_nm: float) -> str:
        """Return a torque [N·m] for reading: ``441 N·m``, ``325 lbf ft``."""
        if not math.isfinite(value_nm):
            return "unknown"
        return f"{value_nm / FOOT_POUND:.0f} lbf ft" if self.units == "in" else f"{value_nm:.0f} N·m"

    def area(self, value_mm2: float) -> str:
        """Return an area [mm2] for reading: ``1810 mm2``, ``2.80 in2``."""
        if not math.isfinite(value_mm2):
            return "unknown"
        return f"{value_mm2 / 645.16:.2f} in2" if self.units == "in" else f"{value_mm2:.0f} mm2"

    def bolt(self, name: str, length_mm: float) -> str:
        """Return a bolt as it is bought: ``M12x1.5 × 35 mm`` and ``3/8-24 × 1.5 in``, whatever the units shown."""
        units: Units = "mm" if name.startswith("M") else "in"
        return f"{name} × {show_length(length_mm, units, trim=True)}"


def printable(text: str, keep: str = "") -> str:
    """Return ``text`` without control characters and half characters: each shows as a blank; those in ``keep`` stay."""
    if text.isprintable():
        return text
    return "".join(c if c.isprintable() or c in keep else " " for c in text)


def inch_name(value_mm: float) -> str:
    """Return ``3/8`` or ``1 1/4`` for a length that is so many sixteenths of an inch; empty for any other."""
    if not math.isfinite(value_mm) or value_mm <= 0:
        return ""
    sixteenths = round(value_mm / 25.4 * 16)
    if abs(value_mm - sixteenths * 25.4 / 16) > 5e-3 or not sixteenths:
        return ""
    whole, part = divmod(Fraction(sixteenths, 16), 1)
    return " ".join(str(piece) for piece in (whole, part) if piece)


def units_of(name: str) -> Units:
    """Return the units called ``name`` in a job file."""
    return "in" if name == "in" else "mm"


def make_finding(
    id: str,
    value: float,
    limit: Limit,
    why: str,
    *,
    features: tuple[str, ...] = (),
    remedies: tuple[Remedy, ...] = (),
    assumed: tuple[str, ...] = (),
    missing: str = "",
    checks: tuple[Check, ...] = (),
) -> Finding:
    """Judge ``value`` and return the finding. ``missing`` names what to measure when the value is unknown."""
    verdict = judge(value, limit)
    if verdict is Verdict.UNKNOWN:
        why = f"Still unknown: {missing or 'a measurement is missing'}."
    return Finding(
        id=id,
        verdict=verdict,
        value=value,
        limit=governing_limit(verdict, limit),
        unit=limit.unit,
        why=why,
        remedies=remedies if verdict in (Verdict.STOP, Verdict.CAUTION) else (),
        features=features,
        checks=checks,
        source=limit.source,
        assumed=assumed,
        at_least=limit.at_least,
    )


def decided_by(finding: Finding, checks: tuple[Check, ...], other: Limit, remedies: tuple[Remedy, ...]) -> Finding:
    """Return ``finding`` as its worst check has it, judged by the ``other`` limit when that is not its own: verdict,
    value and limit always belong together."""
    decides = worst_check(checks)
    if decides.verdict.rank >= finding.verdict.rank:
        return finding
    why = decides.text + "." if decides.verdict is Verdict.UNKNOWN else f"{decides.text}. {finding.why}"
    offered = remedies if decides.verdict in (Verdict.STOP, Verdict.CAUTION) else ()
    return replace(
        finding,
        verdict=decides.verdict,
        value=decides.value,
        limit=decides.limit,
        source=other.source,
        why=why,
        remedies=offered,
    )


def make_check(label: str, value: float, limit: Limit, text: str) -> Check:
    """Judge one comparison inside a finding."""
    verdict = judge(value, limit)
    shown = f"{label}: unknown, a measurement is missing" if verdict is Verdict.UNKNOWN else text
    return Check(label, verdict, value, governing_limit(verdict, limit), limit.unit, shown)


def missing_names(**measured: float | int | str | None) -> str:
    """Return ``needs a, b`` for those of ``measured`` that are not there; keywords are names with underscores."""
    absent = [name.replace("_", " ") for name, value in measured.items() if _absent(value)]
    return "needs " + ", ".join(absent) if absent else ""


def _absent(value: float | int | str | None) -> bool:
    return value is None or value == "" or (isinstance(value, float) and math.isnan(value))


PLAIN: dict[str, Callable[[LengthFormat, float], str]] = {
    "K": LengthFormat.warmer, "°C": LengthFormat.heat, "bar": LengthFormat.pressure,
}  # fmt: skip
"""How the other units are written, with the digits a person can use."""


def value_text(value: float, unit: str, units: Units) -> str:
    """Return a finding's value [``unit``] in the units shown; a dash when it is unknown or without bound."""
    if not math.isfinite(value):
        return "–"
    if unit == "mm":
        return show_length(value, units, gap=True).replace("-", "−")
    lengths = LengthFormat(units)
    if unit == "N":
        return show_in(value, FORCE, units, 0)
    if unit in PLAIN:
        return PLAIN[unit](lengths, value)
    if unit.startswith("of the "):
        return f"{value * 100:.0f} % {unit}"
    if unit == "°" and abs(value) < 10 and value != round(value):
        return f"{value:.2f}°"  # a lean of a face, not a clock angle
    return f"{value:.0f}{unit}" if unit in ("°", "") else f"{value:.2f} {unit}"


def play_text(finding: Finding, units: Units) -> str:
    """Return the value that makes a finding a caution for nothing but play, as ``1.00 mm with play``; else empty."""
    if not finding.by_play or finding.band is None:
        return ""
    worst = finding.band[0] if finding.at_least else max(finding.band, key=abs)
    return f"{value_text(worst, finding.unit, units)} with play"


def shown_value(finding: Finding, units: Units) -> tuple[str, str]:
    """Return a finding's value and its limit as shown; what is counted against none at all is reported in words,
    without a limit.
    """
    if not finding.unit and finding.limit == 0 and not finding.at_least and math.isfinite(finding.value):
        return (f"{finding.value:.0f} to fix" if finding.value else "all right"), "–"
    if finding.unit == "K" and math.isfinite(finding.value):  # so far off its own limit: nothing to hold it against
        side = "below" if finding.value >= 0 else "above"
        return f"{LengthFormat(units).warmer(abs(finding.value))} {side} its limit", "–"
    return value_text(finding.value, finding.unit, units), value_text(finding.limit, finding.unit, units)
