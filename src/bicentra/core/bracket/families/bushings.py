"""Eccentric bushings pressed into the caliper's ears, and sleeves for a smaller bolt in a larger hole.

Press fit of a steel bushing in an ear taken as a thick ring (Lamé; Shigley 9e eq. 3-56, from memory):
p = δ / (d [ (1/Eₒ) ((D²+d²)/(D²−d²) + νₒ) + (1/Eᵢ) ((d²+b²)/(d²−b²) − νᵢ) ]), δ the interference across.
"""

import math

from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import assemble
from bicentra.core.bracket.holes import UNLIKE_BOLTS, Clamped, bolt_of, bolts_differ, one_lug_bolt
from bicentra.core.bracket.model import Bracket, Family, FamilyCheck, MadePart, TurnedChart, refused, ring_volume
from bicentra.core.bracket.stack_up import StackUp, ear_lift
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Point
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Caliper, Job
from bicentra.core.parts.materials import INSERT_METAL, engagement_factor, find_material
from bicentra.core.parts.threads import CLEARANCES, Thread

STEEL_E, STEEL_NU, STEEL_ALPHA = 205e3, 0.3, 11.5e-6
EAR = {"aluminium": (70e3, 0.33, 23.6e-6), "iron": (110e3, 0.27, 11.0e-6), "steel": (STEEL_E, STEEL_NU, STEEL_ALPHA)}
"""Young's modulus [N/mm2], Poisson's ratio, expansion [1/K]: handbook values from memory."""
FRICTION = 0.12
"""Steel pressed dry in aluminium or iron: usual handbook value, from memory."""
LEAST_ECCENTRIC_MM, MOST_ECCENTRIC_MM = 0.1, 10.0
"""Below the first there is nothing to make up; beyond the second no ear has the metal: common practice."""
WALL_MM, INTERFERENCE_SHARE, HOT_K, ALIKE_MM = 2.0, 0.0015, 100.0, 0.01
"""Least wall of a bushing, interference over diameter (about H7/s6), how much hotter an ear gets than it was pressed, and up to
where two are alike: common practice, no published source."""


class Press(Record, frozen=True):
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


def metal_of_ear(caliper: Caliper) -> str:
    """Return what the ears count as for a press, one of ``EAR``: aluminium, which grows most, where nobody says."""
    return caliper.ear_material if caliper.ear_material in EAR else "aluminium"


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


class InEars(Record, frozen=True):
    """Where the lugs' bolts come to sit in the caliper's ears: its clock angle [degrees] as the lugs give it, and for each ear
    how far outward and how far towards rising clock angles the bolt stands off the ear's own middle [mm]."""

    clock: float
    offsets: tuple[Point, Point]

    @property
    def eccentricity(self) -> tuple[float, float]:
        """How far each bolt is off its ear's middle [mm]."""
        one, other = self.offsets
        return math.hypot(*one), math.hypot(*other)

    @property
    def turned(self) -> tuple[float, float]:
        """Which way, from outward towards rising clock angles [degrees]."""
        one, other = (math.degrees(math.atan2(across, out)) % 360.0 for out, across in self.offsets)
        return one, other


def clocks_of(job: Job) -> tuple[float, ...]:
    """Return the clock angles at which the ears' line lies along that of the first two lugs [degrees]: either way round."""
    lugs = [(known(lug.x_mm), known(lug.y_mm)) for lug in job.knuckle.lugs[:2]]
    if len(lugs) < 2:
        return ()
    (ax, ay), (bx, by) = lugs
    return tuple(math.degrees(math.atan2(-sign * (ax - bx), sign * (ay - by))) % 360.0 for sign in (1.0, -1.0))


def bolts_in_ears(job: Job, line: LineUp) -> InEars:
    """Return where the bolts of the first two lugs sit in the ears of a caliper at its height, its ears' line along theirs.

    With t from the second ear's lug to the first's, the caliper's w is t, so tan θ = −tₓ/t_y; in that frame the middle of the
    lugs less the ears' middle (b outward) is what both bushings shift, half the difference of spacings what they spread by.
    """
    lugs = [(known(lug.x_mm), known(lug.y_mm)) for lug in job.knuckle.lugs[:2]]
    spacing = math.dist(*lugs)
    ways = [(abs(turn_apart(clock, known(job.fit.clock_deg))), clock) for clock in clocks_of(job)]
    clock = min(ways)[1] if is_known(*(way[0] for way in ways)) else ways[0][1]
    middle, across = ClockFrame(clock).into(((lugs[0][0] + lugs[1][0]) / 2, (lugs[0][1] + lugs[1][1]) / 2))
    out = middle - line.ear_line_radius
    spread = (spacing - known(job.caliper.ear_spacing_mm)) / 2
    return InEars(clock, ((out, across + spread), (out, across - spread)))


def bolt_play(job: Job, bolt: Thread) -> tuple[float, float]:
    """Return how far a bolt can stand off in the plain holes of an ear and its lug together, and by how much the
    largest of these holes is within the loose class [mm]: a larger one holds nothing in its place. A thread gives no
    play.
    """
    ear = [] if job.caliper.ear_thread else [known(job.caliper.ear_hole_mm)]
    passed = [[*ear, *([] if lug.thread else [known(lug.hole_mm)])] for lug in job.knuckle.lugs[:2]]
    play = min(math.fsum(hole - bolt.major for hole in holes) for holes in passed) / 2
    return play, CLEARANCES[bolt.size][-1] - max((hole for holes in passed for hole in holes), default=0.0)


def turn_apart(one: float, other: float) -> float:
    """Return the turn from ``other`` to ``one`` [degrees], within half a turn."""
    return (one - other + 180.0) % 360.0 - 180.0


def eccentric_bushings(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """The caliper bolted straight to the lugs: a bushing in each ear takes its bolt to the lug, clocked to fit."""
    caliper = job.caliper
    bolt = one_lug_bolt(job)
    sizes = (caliper.ear_spacing_mm, caliper.ear_hole_mm, caliper.ear_boss_mm, caliper.ear_thickness_mm)
    placed = len(job.knuckle.lugs) >= 2 and is_known(*line.axial_offset, line.ear_line_radius)
    if bolts_differ(job):
        return (refused(BUSHINGS, job, UNLIKE_BOLTS),)
    if bolt is None or any(size is None for size in sizes) or not placed:
        return (refused(BUSHINGS, job, "Ear sizes, lugs and a lug bolt decide this one.", ("ear sizes", "lug bolt")),)
    sits, stands = bolts_in_ears(job, line), on_lugs(BUSHINGS, job, line)
    if not is_known(*sits.eccentricity):
        return (refused(BUSHINGS, job, "The lugs are not placed yet.", ("lugs",)),)
    ear, boss, thick = known(caliper.ear_hole_mm), known(caliper.ear_boss_mm), known(caliper.ear_thickness_mm)
    eccentric, tapped = max(sits.eccentricity), all(bolt_of(stands.job, k).kind == "tapped" for k in (0, 1))
    hole = bolt.tap_drill if tapped else bolt.hardware.clearance
    needless = _needless(job, eccentric, bolt, lengths)
    if needless:
        return (refused(BUSHINGS, job, needless, turns=True),)
    off = max(abs(error) for error in stands.stack_up.errors)
    widest = bolt.major if tapped else hole  # the wall of a threaded one is what is left over its thread
    bore = max(ear, widest + 2 * (eccentric + WALL_MM))
    wall, ring = (bore - widest) / 2 - eccentric, (boss - bore) / 2
    material = metal_of_ear(caliper)
    interference = INTERFERENCE_SHARE * bore
    left = hot_interference(bore, interference, HOT_K, material)
    loose = Press(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)
    cold, hot = (
        press_fit(bore, hole, boss, thick, amount, material) if ring > 0.5 else loose for amount in (interference, left)
    )
    lens = lens_area(ear, hole, eccentric)
    what = f"Inserts tapped {bolt.name}, their bolts from behind the lugs," if tapped else "Bushings"
    why = f"{what} Ø {lengths.size(bore)}, {lengths.gap(eccentric)} eccentric, "
    why += f"take ears {lengths.size(known(caliper.ear_spacing_mm))} apart to the lugs, "
    why += f"{lengths.gap(sits.offsets[0][0])} {'outward' if sits.offsets[0][0] >= 0 else 'inward'}; "
    why += f"file {lens:.1f} mm² out of each ear's far lip before pressing home." if lens else "nothing to file."
    asks = _asks(job, lengths, sits, (off, wall, ring, bore), (left, cold, hot))
    solved = {
        "eccentricity_mm": eccentric, "bushing_mm": bore, "bolt_hole_mm": hole, "wall_mm": wall, "lens_mm2": lens,
        "lens_depth_mm": max(eccentric + hole / 2 - ear / 2, 0.0), "interference_mm": interference, "pressure_mpa": cold.pressure,
        "press_force_n": cold.force, "holding_torque_nm": cold.torque, "hot_interference_mm": left, "hot_torque_nm": hot.torque,
        "hoop_mpa": cold.hoop, "axial_offset_mm": off, "clock_deg": sits.clock, "radial_shift_mm": sits.offsets[0][0],
        "first_turned_deg": sits.turned[0], "second_turned_deg": sits.turned[1],
        "pad_height_per_degree_mm": max(abs(across) for _, across in sits.offsets) * math.radians(1.0),
    }  # fmt: skip
    chart = TurnedChart(known(caliper.ear_spacing_mm), boss, sits.offsets, sits.turned)
    insert = find_material(INSERT_METAL)
    held = Clamped("ear", "insert", insert.engagement if insert is not None else None)
    made = replace(
        stands,
        clamped=held,
        parts=_made(sits, thick, (bore, hole), tapped),
        asks=asks,
        why=why,
        solved=solved,
        chart=chart,
    )
    return (made,)


def _needless(job: Job, eccentric: float, bolt: Thread, lengths: LengthFormat) -> str:
    """Return why no bushing ``eccentric`` by so much [mm] is made; empty where one is."""
    if not LEAST_ECCENTRIC_MM <= eccentric <= MOST_ECCENTRIC_MM:
        fits = eccentric < LEAST_ECCENTRIC_MM
        rest = "bolt the caliper on as it is." if fits else "no bushing in an ear makes that up."
        return f"The ears stand {lengths.gap(eccentric)} off the lugs' bolts: {rest}"
    play, spare = bolt_play(job, bolt)
    if eccentric <= play and spare >= 0.0:
        apart = f"The holes stand {lengths.gap(eccentric)} apart, and the bolts have {lengths.gap(play)} of play"
        return f"{apart}: bolt the caliper on as it is."
    return ""


def _made(sits: InEars, thick: float, sizes: tuple[float, float], tapped: bool) -> tuple[MadePart, ...]:
    """Return both bushings: of one kind where they are as eccentric, else one for each ear; ``sizes``: outside, hole [mm].

    ``tapped``: they are threaded inserts, and the bolts come from behind the lugs.
    """
    (bore, hole), (one, other) = sizes, sits.eccentricity
    alike, what = abs(one - other) < ALIKE_MM, "threaded insert" if tapped else "bushing"
    kinds = ((f"eccentric {what}", one, 2),) if alike else ((f"{what}, ear 1", one, 1), (f"{what}, ear 2", other, 1))
    work = ("lathe", "tap", "press") if tapped else ("lathe", "press")
    return tuple(
        MadePart(name, "round", INSERT_METAL, thick, ring_volume(bore, hole, thick), outer=bore, inner=hole, offset=offset,
                 count=count, processes=work)
        for name, offset, count in kinds
    )  # fmt: skip


def _asks(
    job: Job,
    lengths: LengthFormat,
    sits: InEars,
    sizes: tuple[float, float, float, float],
    presses: tuple[float, Press, Press],
) -> tuple[FamilyCheck, ...]:
    """Return what speaks for and against; ``sizes``: off the plane, wall, ring of ear, bore [mm]; press left hot, cold, hot."""
    (off, wall, ring, bore), (left, cold, hot), fits = sizes, presses, sizes[2] > 0.5
    warm = f"{left * 1000:.0f} µm of press and {hot.torque:.0f} N·m of holding torque are left {HOT_K:.0f} °C hotter; "
    warm += "a bushing that turns lets the pads wander: add a roll pin."
    boss = known(job.caliper.ear_boss_mm)
    turn = turn_apart(sits.clock, known(job.fit.clock_deg))
    where = f"The lugs set the caliper at clock {sits.clock:.2f}°, {abs(turn):.2f}° off the job's: no bushing turns it."
    cure = Remedy(f"Set the clock angle to {sits.clock:.2f}°", None, True, (("fit.clock_deg", round(sits.clock, 4)),))
    lip = (
        f"{lengths.gap(ring)} of ear is left round a bore of {lengths.size(bore)}; hoop stress {cold.hoop:.0f} N/mm² when pressed."
        if fits
        else f"The ear's boss of {lengths.size(boss)} leaves no metal round a bore of {lengths.size(bore)}."
    )
    plane = f"The ears' faces stand {lengths.gap(off)} off the lugs': bushings shift the spacing, not the plane."
    return (
        FamilyCheck("bushing-axial", 1.0 - off, plane),
        FamilyCheck(
            "bushing-clock", abs(turn), where, "needs the clock angle", features=("caliper",), remedies=(cure,)
        ),
        FamilyCheck("bushing-wall", wall, f"{lengths.gap(wall)} of wall is left at its thin side."),
        FamilyCheck("bushing-ear", ring, lip),
        FamilyCheck("bushing-hot", left if fits else UNKNOWN, warm),
    )


def on_lugs(kind: Family, job: Job, line: LineUp) -> Bracket:
    """Return the caliper's ears bolted right to the lugs: what a lug bolt clamps is the ear, and how far it is off centre."""
    side = "outboard" if job.caliper.ear_seat == "inboard" else "inboard"
    there = replace(
        job, bracket=replace(job.bracket, side=side, lug_hole="clearance", thickness_mm=None, shims_mm=None)
    )
    thick, stack_up = known(job.caliper.ear_thickness_mm), assemble(there, line).stack_up
    lift = ear_lift(stack_up.sign, True, stack_up.ear_shims)
    errors = tuple(face + lift - line.ear_face_z for face in stack_up.lug_faces)
    near = math.fsum(stack_up.lug_faces) / len(stack_up.lug_faces)
    stands: StackUp = replace(
        stack_up, thickness=thick, shims=(0.0,) * len(errors), errors=errors, near_z=near,
        far_z=near + stack_up.sign * thick, ear_z=near + lift,
    )  # fmt: skip
    held = Clamped("ear", "ear", engagement_factor(job.caliper.ear_material))
    return Bracket(kind, there, stands, reversible=False, bolted=("lug",), packed=False, clamped=held)


BUSHINGS = Family(
    "eccentric-bushings",
    "Eccentric bushings in the ears",
    eccentric_bushings,
    charted=True,
    sided=False,
    stands_at=clocks_of,
    mounting="direct",
    appears="the bushings appear",
    ready="The bushings are drawn",
)
