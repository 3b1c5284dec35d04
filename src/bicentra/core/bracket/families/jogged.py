"""A jogged plate: bent twice, so that the ears' part lies beside the lugs' part. Its flat pattern and its bend lines."""

import math

import numpy as np

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly, place
from bicentra.core.bracket.families.common import (
    LEAST_METAL_MM,
    NOT_KNOWN,
    carrying,
    evened,
    fit_bolts,
    plate_part,
    reach_of,
    reaches_of,
    stock_plate,
)
from bicentra.core.bracket.fold import bend_allowance
from bicentra.core.bracket.holes import plate_holes
from bicentra.core.bracket.model import Bend, Bore, Bracket, Family, FamilyCheck, MadePart, PlateShape, refused
from bicentra.core.bracket.plate import shape_plate
from bicentra.core.bracket.stack_up import StackUp, pack
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import FloatArray, Outline, Point
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job

PROCESSES = ("saw or laser", "drill", "bend")
ANGLES_DEG = (90.0, 75.0, 60.0, 45.0, 30.0)
RADIUS_SHARES = (("4130", 3.0), ("steel", 1.5), ("stainless", 1.5), ("", 5.0))
"""Inside radius over thickness below which a cold bend cracks, by a word of its name: normalised 4130, plain and
stainless steel (common practice); hardened aluminium (EN 485-2 asks 4 to 5 t of 6082-T6 plate, from memory) and unnamed metal."""


class Jog(Record, frozen=True):
    """Two bends [degrees, mm]: ``web`` straight between them, ``run`` along the plate, ``flat`` length of the run in the flat."""

    angle: float
    radius: float
    web: float
    run: float
    flat: float
    allowance: float


def jog_of(height: float, thickness: float, angle_deg: float, radius: float) -> Jog | None:
    """Return the jog of ``height`` [mm] bent by ``angle_deg``; ``None`` where the two bends alone are higher than that."""
    turn = math.radians(angle_deg)
    middle = radius + thickness / 2
    web = (height - 2 * middle * (1 - math.cos(turn))) / math.sin(turn)
    if web < 0:
        return None
    allowance = bend_allowance(angle_deg, radius, thickness)
    run = 2 * middle * math.sin(turn) + web * math.cos(turn)
    return Jog(angle_deg, radius, web, run, 2 * allowance + web, allowance)


def least_radius(job: Job, thickness: float) -> float:
    """Return the inside radius below which the bracket's metal cracks in a cold bend [mm]."""
    return thickness * next(share for word, share in RADIUS_SHARES if word in (job.bracket.material or ""))


def jog_within(job: Job, height: float, thickness: float, free: float) -> Jog | None:
    """Return the steepest jog of ``height`` that runs within ``free`` [mm], else the steepest; ``None`` where none can
    be bent.
    """
    radius = least_radius(job, thickness)
    jogs = [jog for jog in (jog_of(height, thickness, angle, radius) for angle in ANGLES_DEG) if jog is not None]
    return next((jog for jog in jogs if jog.run <= free), next(iter(jogs), None))


def too_low(job: Job, height: float, thickness: float, lengths: LengthFormat) -> str:
    """Say why there is no jog of ``height`` [mm]."""
    metal, radius = job.bracket.material or "an unnamed metal", least_radius(job, thickness)
    why = f"A jog of {lengths.size(height)} is lower than two bends of radius {lengths.size(radius)}; "
    return why + f"{metal} cracks in a tighter one."


def jogged(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """Bent so that lugs and ears lie in planes of their own; the bend lines run along the ears."""
    stack_up, holes = pack(job, line), plate_holes(job, line)
    reach = reach_of(stack_up, line)
    if not is_known(reach) or not all(is_known(*hole.centre) for hole in holes):
        return (refused(JOGGED, job, NOT_KNOWN, ("line-up",)),)
    thick, rise = _rise(job, stack_up, reach)
    height = abs(rise)
    if height <= 1.0:
        why = f"There is nothing to bend: a plate makes up the {lengths.size(reach)} as it is."
        return (refused(JOGGED, job, why),)
    space = _space(line.frame, [h.centre for h in holes], [h.boss_radius for h in holes])
    jog = jog_within(job, height, thick, space.free)
    if jog is None:
        return (refused(JOGGED, job, too_low(job, height, thick, lengths)),)
    shims = evened(reaches_of(stack_up, line))
    lying = fit_bolts(job, line, thick, shims)
    why = (
        f"{lengths.stock(thick)} plate bent twice by {jog.angle:g}° about {lengths.size(jog.radius)} "
        f"makes a jog of {lengths.size(height)}; its bends take {lengths.size(jog.flat)} "
        f"of flat plate for {lengths.size(jog.run)} of run."
    )
    solved = {
        "thickness_mm": thick, "jog_mm": height, "bend_deg": jog.angle, "bend_radius_mm": jog.radius, "web_mm": jog.web,
        "run_mm": jog.run, "allowance_mm": jog.allowance, "flat_longer_mm": jog.flat - jog.run, "offset_mm": reach,
    }  # fmt: skip
    room = f"The bends need {lengths.size(jog.run)} of run and find {lengths.size(max(space.free, 0.0))} between the bosses."
    asks = (FamilyCheck("bend-room", space.free - jog.run, room),)
    flat = Bracket(JOGGED, job, lying, asks=asks, why=why, solved=solved)
    standing = carrying(lying, line, thick, shims, (thick, 0.0))
    return (_bent(replace(flat, stack_up=standing), jog, space, place(flat, line), rise),)


def _rise(job: Job, stack_up: StackUp, reach: float) -> tuple[float, float]:
    """Return the plate's thickness and how far its bends have to lead [mm]: negative back towards the other side of the lugs."""
    thick = stock_plate(job, LEAST_METAL_MM)
    return thick, reach - thick if stack_up.ears_on_far_face else reach


def room_at(job: Job, line: LineUp, clock_rad: FloatArray) -> dict[str, FloatArray]:
    """Return the room for the bends at n clock angles [rad]: (n,) float, mm, by the name of its finding; nothing where unknown.

    As ``jogged`` has it: the ears stay at their radius, the lugs go round.
    """
    stack_up, holes = pack(job, line), plate_holes(job, line)
    reach, radii = reach_of(stack_up, line), [hole.boss_radius for hole in holes]
    lugs = np.array([hole.centre for hole in holes[:-2]]).reshape(-1, 2)
    if not len(lugs) or not (is_known(reach, line.ear_line_radius, *radii) and np.isfinite(lugs).all()):
        return {}
    thick, rise = _rise(job, stack_up, reach)
    radius = least_radius(job, thick)
    runs = [jog.run for jog in (jog_of(abs(rise), thick, angle, radius) for angle in ANGLES_DEG) if jog is not None]
    if not runs:
        return {}
    along = np.outer(np.cos(clock_rad), lugs[:, 0]) + np.outer(np.sin(clock_rad), lugs[:, 1])
    ear, wide = line.ear_line_radius, np.array(radii)
    beyond = ear - wide[-2:].max() - (along + wide[:-2]).max(axis=1)
    within = (along - wide[:-2]).min(axis=1) - ear - wide[-2:].max()
    free = np.where(along.mean(axis=1) <= ear, beyond, within)
    run = np.select([run <= free for run in runs], runs, runs[0])
    return {"bend-room": free - run}


def _bent(bracket: Bracket, jog: Jog, space: "BendSpace", flat: Assembly, rise: float) -> Bracket:
    """Return the bracket with its flat pattern, or why it cannot be bent. ``flat``: as it lies before it is bent;
    ``rise``: how far the bends have to lead [mm].
    """
    shape = shape_plate(flat)
    if shape.outline is None:
        return replace(bracket, shape=shape, why=shape.fault)
    begin = space.inner + max(space.free - jog.run, 0.0) / 2
    why = _not_bent(flat, shape, space.u, (begin, begin + jog.run))
    if why:
        return refused(JOGGED, bracket.job, why, turns=True)
    whole = plate_part(flat, shape, "jogged plate", PROCESSES)
    return replace(bracket, shape=shape, parts=(bent_blank(whole, jog, space, begin, flat.stack_up.sign * rise),))


def _not_bent(assembly: Assembly, plate: PlateShape, u: Point, between: tuple[float, float]) -> str:
    """Return why this plate cannot be bent ``between`` two places along ``u`` [mm]; empty when it can."""
    bracket = assembly.job.bracket
    if plate.window is not None or (plate.outline is not None and curved_between(plate.outline, u, *between)):
        return "The plate is cut round the hub where it would have to be bent."
    if any(hole.recess for hole in assembly.holes) or bracket.chamfer_mm or bracket.cutouts:
        worked = "Counterbores, countersinks, chamfers and cutouts"
        return f"{worked} are not worked out for a bent plate: ask for plain holes and edges."
    return ""


def bent_blank(flat: MadePart, jog: Jog, space: "BendSpace", begin: float, rise: float) -> MadePart:
    """Return the flat pattern with its bend lines; ``rise``: how far outboard the ears' part lies of the lugs' [mm]."""
    outline, bores, area = unfolded(flat, space.u, begin + jog.run / 2, jog.flat - jog.run)
    at = begin + jog.allowance / 2, begin + jog.flat - jog.allowance / 2
    rises = (rise > 0) is space.lugs_first
    bends = tuple(Bend(*space.line(s), jog.angle, jog.radius, up) for s, up in zip(at, (rises, not rises)))
    return MadePart(
        flat.name, "plate", flat.material, flat.thickness, area * flat.thickness, outline, None,
        z0=flat.z0 if space.lugs_first else flat.z0 + rise, bores=bores, bends=bends, processes=flat.processes,
    )  # fmt: skip


class BendSpace(Record, frozen=True):
    """Where the bends can lie: ``free`` run from ``inner`` on along ``u`` [mm]; ``across``: extent along ``w``."""

    u: Point
    w: Point
    inner: float
    free: float
    across: tuple[float, float]
    lugs_first: bool

    def line(self, at: float) -> tuple[Point, Point]:
        """Return the ends of the line across the plate at ``at`` along ``u`` [mm]."""
        (ux, uy), (wx, wy), (low, high) = self.u, self.w, self.across
        return (at * ux + low * wx, at * uy + low * wy), (at * ux + high * wx, at * uy + high * wy)


def _space(frame: ClockFrame, centres: list[Point], radii: list[float]) -> BendSpace:
    """Return the room between the lugs' bosses and the ears' along the radius."""
    along, across = zip(*(frame.into(centre) for centre in centres))
    lugs, ears = list(zip(along, radii))[:-2], list(zip(along, radii))[-2:]
    lugs_first = sum(at for at, _ in lugs) / len(lugs) <= sum(at for at, _ in ears) / 2
    first, second = (lugs, ears) if lugs_first else (ears, lugs)
    inner, outer = max(at + r for at, r in first), min(at - r for at, r in second)
    wide = min(c - r for c, r in zip(across, radii)), max(c + r for c, r in zip(across, radii))
    return BendSpace(frame.u, frame.w, inner, outer - inner, wide, lugs_first)


def curved_between(outline: Outline, u: Point, low: float, high: float) -> bool:
    """Tell whether anything but straight edges lies between ``low`` and ``high`` [mm] along ``u``: the flat is not just
    longer.
    """
    for piece in (piece for piece in outline.segments if piece.bulge):
        along = [x * u[0] + y * u[1] for x, y in (*piece.points(0.01), piece.end)]
        if max(along) > low + 0.01 and min(along) < high - 0.01:
            return True
    return False


def unfolded(part: MadePart, u: Point, middle: float, grown: float) -> tuple[Outline, tuple[Bore, ...], float]:
    """Return outline, bores, net area of the flat pattern [mm, mm²]: what lies beyond ``middle`` on ``u`` moves out by ``grown``.

    Between the bosses only straight edges run, so moving the corners beyond the bends lengthens just those.
    """

    def moved(point: Point) -> Point:
        beyond = point[0] * u[0] + point[1] * u[1] > middle
        return (point[0] + u[0] * grown, point[1] + u[1] * grown) if beyond else point

    vertices = part.outline.vertices if part.outline is not None else ()
    outline = Outline(tuple((*moved((x, y)), bulge) for x, y, bulge in vertices))
    bores = tuple(replace(bore, centre=moved(bore.centre)) for bore in part.bores)
    return outline, bores, outline.area - math.fsum(bore.area for bore in bores)


JOGGED = Family("jogged-plate", "Jogged plate", jogged, shaping="carried", at_best=room_at)
