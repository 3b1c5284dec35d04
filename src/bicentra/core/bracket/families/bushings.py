"""Eccentric bushings pressed into the caliper's ears, and sleeves for a smaller bolt in a larger hole.

Press fit of a steel bushing in an ear taken as a thick ring (Lamé; Shigley 9e eq. 3-56, from memory):
p = δ / (d [ (1/Eₒ) ((D²+d²)/(D²−d²) + νₒ) + (1/Eᵢ) ((d²+b²)/(d²−b²) − νᵢ) ]), δ the interference across.
"""

import math
from dataclasses import dataclass, replace

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.wording import Words
from bicentra.core.bracket.families.common import completed, room
from bicentra.core.bracket.families.model import Candidate, MadePart, ring_volume, unsuited
from bicentra.core.bracket.families.plates import flat
from bicentra.core.bracket.flat_plate import Assembly, assemble, placed_with
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.threads import find_thread

STEEL_E, STEEL_NU, STEEL_ALPHA = 205e3, 0.3, 11.5e-6
EAR = {"aluminium": (70e3, 0.33, 23.6e-6), "iron": (110e3, 0.27, 11.0e-6), "steel": (STEEL_E, STEEL_NU, STEEL_ALPHA)}
"""Young's modulus [N/mm2], Poisson's ratio, expansion [1/K]: handbook values from memory."""
FRICTION = 0.12
"""Steel pressed dry in aluminium or iron: usual handbook value, from memory."""
WALL_MM, INTERFERENCE_SHARE, HOT_K = 2.0, 0.0015, 100.0
"""Least wall of a bushing, interference over diameter (about H7/s6), and how much hotter an ear gets than it was pressed:
common practice, no published source."""


@dataclass(frozen=True)
class Press:
    """A bushing pressed in: pressure [N/mm2], force to press it in [N], torque it holds [N·m], hoop stress at the ear's bore."""

    pressure: float
    force: float
    torque: float
    hoop: float


def press_fit(diameter: float, inner: float, outer: float, length: float, interference: float, ear: str) -> Press:
    """Return the press of a steel bushing (``inner`` bore) in an ear of ``outer`` diameter; all [mm], 0 when loose."""
    modulus, poisson, _ = EAR[ear]
    shrunk = max(interference, 0.0)
    give = (outer**2 + diameter**2) / (outer**2 - diameter**2) + poisson
    own = (diameter**2 + inner**2) / (diameter**2 - inner**2) - STEEL_NU
    pressure = shrunk / (diameter * (give / modulus + own / STEEL_E))
    area = math.pi * diameter * length
    hoop = pressure * (outer**2 + diameter**2) / (outer**2 - diameter**2)
    return Press(pressure, FRICTION * pressure * area, FRICTION * pressure * area * diameter / 2e3, hoop)


def hot_interference(diameter: float, interference: float, rise: float, ear: str) -> float:
    """Return the interference [mm] left when both are ``rise`` [K] hotter: the ear's bore grows faster than steel."""
    return interference - diameter * rise * (EAR[ear][2] - STEEL_ALPHA)


def lens_area(hole: float, bolt: float, offset: float) -> float:
    """Return the area [mm2] to be filed so that a bolt hole of ``bolt`` clears a hole of ``hole``, ``offset`` apart [mm].

    The bolt's circle less the lens it shares with the hole (two circular segments, plane geometry).
    """
    a, b = hole / 2, bolt / 2
    if offset <= a - b:
        return 0.0
    if offset >= a + b:
        return math.pi * b * b
    if offset <= b - a:
        return math.pi * (b * b - a * a)
    x = (offset**2 + a**2 - b**2) / (2 * offset)
    shared = a * a * math.acos(x / a) - x * math.sqrt(a * a - x * x)
    y = offset - x
    shared += b * b * math.acos(y / b) - y * math.sqrt(b * b - y * y)
    return math.pi * b * b - shared


def eccentric_bushings(job: Job, words: Words) -> Candidate:
    """The caliper bolted straight to the lugs: a bushing in each ear makes up the difference of spacing, clocked to fit."""
    title = "Eccentric bushings in the ears"
    lugs, caliper, line = job.knuckle.lugs, job.caliper, line_up(job)
    bolt = find_thread(job.bracket.lug_bolt) if job.bracket.lug_bolt else None
    sizes = (caliper.ear_spacing_mm, caliper.ear_hole_mm, caliper.ear_boss_mm, caliper.ear_thickness_mm)
    if bolt is None or any(size is None for size in sizes) or not is_known(*line.axial_offset):
        return unsuited(
            "eccentric-bushings", title, "Ear sizes, lugs and a lug bolt decide this one.", ("ear sizes", "lug bolt")
        )
    spacing = math.dist(*[(known(lug.x_mm), known(lug.y_mm)) for lug in lugs[:2]])
    ear, boss, thick = known(caliper.ear_hole_mm), known(caliper.ear_boss_mm), known(caliper.ear_thickness_mm)
    eccentric = abs(spacing - known(caliper.ear_spacing_mm)) / 2
    off = max(abs(offset) for offset in line.axial_offset)
    hole = bolt.hardware.clearance
    bore = max(ear, hole + 2 * (eccentric + WALL_MM))
    wall = (bore - hole) / 2 - eccentric
    ring = (boss - bore) / 2
    material = caliper.ear_material if caliper.ear_material in EAR else "aluminium"
    interference = INTERFERENCE_SHARE * bore
    fits = ring > 0.5
    cold = (
        press_fit(bore, hole, boss, thick, interference, material)
        if fits
        else Press(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)
    )
    left = hot_interference(bore, interference, HOT_K, material)
    hot = press_fit(bore, hole, boss, thick, left, material) if fits else cold
    lens = lens_area(ear, hole, eccentric)
    had = words.size(known(caliper.ear_spacing_mm))
    off_centre, there = words.gap(eccentric), words.size(spacing)
    why = f"Bushings Ø {words.size(bore)}, {off_centre} eccentric, take {had} to the lugs' {there}; "
    why += f"file {lens:.1f} mm² out of each ear's far lip before pressing home." if lens else "nothing to file."
    warm = f"{left * 1000:.0f} µm of press and {hot.torque:.0f} N·m of holding torque are left {HOT_K:.0f} K hotter; "
    warm += "a bushing that turns lets the pads wander: add a roll pin."
    findings = (
        room("bushing-axial", "Ears meet the lugs' faces", 1.0 - off, 0.0, 0.5,
             f"The ears' faces stand {words.gap(off)} off the lugs': bushings shift the spacing, not the plane."),
        room("bushing-wall", "Wall of the bushing", wall, 1.5, WALL_MM, f"{words.gap(wall)} of wall is left at its thin side."),
        room("bushing-ear", "Metal round the bushing", ring, 3.0, 4.0,
             f"{words.gap(ring)} of ear is left round a bore of {words.size(bore)}; hoop stress {cold.hoop:.0f} N/mm² when pressed."
             if fits else f"The ear's boss of {words.size(boss)} leaves no metal round a bore of {words.size(bore)}."),
        room("bushing-hot", "Press left when hot", left if fits else UNKNOWN, 0.0, 0.01, warm),
    )  # fmt: skip
    part = MadePart(
        "eccentric bushing", "round", "steel S355", thick, ring_volume(bore, hole, thick), outer=bore, inner=hole, offset=eccentric,
        count=2, processes=("lathe", "press"),
    )  # fmt: skip
    solved = {
        "eccentricity_mm": eccentric, "bushing_mm": bore, "bolt_hole_mm": hole, "wall_mm": wall, "lens_mm2": lens,
        "lens_depth_mm": max(eccentric + hole / 2 - ear / 2, 0.0), "interference_mm": interference, "pressure_mpa": cold.pressure,
        "press_force_n": cold.force, "holding_torque_nm": cold.torque, "hot_interference_mm": left, "hot_torque_nm": hot.torque,
        "hoop_mpa": cold.hoop, "pad_height_per_degree_mm": eccentric * math.radians(1.0), "axial_offset_mm": off,
    }  # fmt: skip
    candidate = Candidate("eccentric-bushings", title, (part,), findings, why, False, solved)
    return completed(candidate, _on_lugs(job), words)


def _on_lugs(job: Job) -> Assembly:
    """Return the caliper's ears bolted right to the lugs: what a lug bolt clamps is the ear, and how far it is off centre."""
    side = "outboard" if job.caliper.ear_seat == "inboard" else "inboard"
    base = assemble(
        replace(job, bracket=replace(job.bracket, side=side, lug_hole="clearance", thickness_mm=None, shims_mm=None))
    )
    thick, packing = known(job.caliper.ear_thickness_mm), base.packing
    errors = tuple(face - base.line.ear_face_z for face in packing.lug_faces)
    near = math.fsum(packing.lug_faces) / len(packing.lug_faces)
    stands = replace(
        packing, thickness=thick, shims=(0.0,) * len(errors), errors=errors, near_z=near, far_z=near + packing.sign * thick,
        ear_z=near,
    )  # fmt: skip
    return placed_with(base.job, base.line, stands, ("lug",))


def sleeves(job: Job, words: Words) -> Candidate:
    """The flat plate with a smaller bolt: a sleeve in each lug hole centres it."""
    title = "Flat plate with sleeves in the lug holes"
    bolt = find_thread(job.bracket.lug_bolt) if job.bracket.lug_bolt else None
    plain = [lug for lug in job.knuckle.lugs if lug.thread is None and lug.hole_mm is not None]
    if bolt is None or not plain:
        return unsuited("sleeve", title, "A plain lug hole and a lug bolt decide this one.", ("lug hole", "lug bolt"))
    inner, hole = bolt.major + 0.1, min(known(lug.hole_mm) for lug in plain)
    wall = (hole - inner) / 2
    if wall <= 0.2:
        return unsuited(
            "sleeve", title, f"The {bolt.name} bolt fills the {words.size(hole)} hole: there is no play to take."
        )
    plate = flat(job, words)
    if plate.stands is None:
        return replace(plate, family="sleeve", title=title)
    why = f"A sleeve {words.size(inner)} by {words.size(hole)} takes the play of an {bolt.name} bolt in a {words.size(hole)} hole. "
    told = f"{words.gap(wall)} of wall; a thinner sleeve cracks when it is pressed in."
    own = room("sleeve-wall", "Wall of the sleeve", wall, 0.75, 1.0, told)
    parts = tuple(_sleeve(lug, inner, plate.stands) for lug in plain)
    solved = {**plate.solved, "outer_mm": hole, "inner_mm": inner, "wall_mm": wall, "play_mm": hole - bolt.major}
    return replace(
        plate, family="sleeve", title=title, parts=(*plate.parts, *parts), findings=(own, *plate.findings),
        why=why + plate.why, solved=solved,
    )  # fmt: skip


def _sleeve(lug: Lug, inner: float, stands: Assembly) -> MadePart:
    """Return the sleeve of one lug, as long as the lug is thick."""
    outer, depth = known(lug.hole_mm), known(lug.thickness_mm)
    packing, k = stands.packing, stands.job.knuckle.lugs.index(lug)
    back = packing.lug_faces[k] - packing.sign * depth
    return MadePart(
        f"sleeve at {lug.name}", "round", "steel S355", depth, ring_volume(outer, inner, depth), outer=outer, inner=inner,
        centres=((known(lug.x_mm), known(lug.y_mm)),), z0=min(back, packing.lug_faces[k]), processes=("lathe", "press"),
    )  # fmt: skip
