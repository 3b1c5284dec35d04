"""A jogged plate: bent twice, so that the ears' part lies beside the lugs' part. Bend allowance and flat pattern.

Two equal bends of angle θ about an inside radius R on plate t: the neutral line runs at R + K t, so each bend takes
BA = θ (R + K t) of the flat pattern. On the middle surface the jog is J = 2 (R + t/2)(1 − cos θ) + w sin θ and its run
X = 2 (R + t/2) sin θ + w cos θ, with w the straight web between the bends (plane geometry).
"""

import math
from dataclasses import dataclass, replace

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.outline import Outline, Point
from bicentra.core.base.wording import Words
from bicentra.core.bracket.checks import edge, ligament
from bicentra.core.bracket.families.common import LEAST_METAL_MM, plate_of, plate_part, reach_of, room
from bicentra.core.bracket.families.model import Bend, Bore, Candidate, MadePart, decided, unsuited
from bicentra.core.bracket.flat_plate import assemble
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import METRIC_STOCK_MM

Lines = tuple[tuple[Point, Point], tuple[Point, Point]]
ANGLES_DEG = (90.0, 75.0, 60.0, 45.0, 30.0)
RADIUS_SHARE = 1.5
"""Inside radius over thickness: common practice for steel bent cold across the grain."""


@dataclass(frozen=True)
class Jog:
    """Two bends [degrees, mm]: ``web`` straight between them, ``run`` along the plate, ``flat`` length of the run in the flat."""

    angle: float
    radius: float
    web: float
    run: float
    flat: float
    allowance: float


def neutral_factor(radius: float, thickness: float) -> float:
    """Return K, the neutral line's place over the thickness: ½ (0.65 + ½ log₁₀(R/t)), ½ at most (DIN 6935, from memory)."""
    ratio = radius / thickness
    return 0.5 if ratio >= 5.0 else 0.5 * (0.65 + 0.5 * math.log10(ratio))


def bend_allowance(angle_deg: float, radius: float, thickness: float) -> float:
    """Return the length [mm] that a bend takes of the flat pattern: θ (R + K t)."""
    return math.radians(angle_deg) * (radius + neutral_factor(radius, thickness) * thickness)


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


def jogged(job: Job, words: Words) -> Candidate:
    """Bent so that lugs and ears lie in planes of their own; the bend lines run along the ears."""
    title = "Jogged plate"
    base = assemble(job)
    reach, far = reach_of(base), base.packing.ears_on_far_face
    if not is_known(reach) or not all(is_known(*hole.centre) for hole in base.holes):
        return unsuited(
            "jogged-plate", title, "The line-up is not known yet: the findings name what to measure.", ("line-up",)
        )
    stock = job.bracket.stock_mm or METRIC_STOCK_MM
    thick = min((t for t in stock if t >= LEAST_METAL_MM), default=max(stock))
    height = reach - thick if far else reach
    if height <= 1.0:
        return unsuited(
            "jogged-plate", title, f"There is nothing to bend: a plate makes up the {words.size(reach)} as it is."
        )
    space, lines = _space(base.line.clock, [h.centre for h in base.holes], [h.boss_radius for h in base.holes])
    radius = RADIUS_SHARE * thick
    jogs = [jog for jog in (jog_of(height, thick, angle, radius) for angle in ANGLES_DEG) if jog is not None]
    if not jogs:
        why = f"A jog of {words.size(height)} is lower than two bends of radius {words.size(radius)}."
        return unsuited("jogged-plate", title, why)
    jog = next((jog for jog in jogs if jog.run <= space), jogs[0])
    assembly, plate = plate_of(job, thick, tuple(0.0 for _ in job.knuckle.lugs))
    if plate.outline is None:
        return unsuited("jogged-plate", title, plate.fault)
    why = (
        f"{words.size(thick)} plate bent twice by {jog.angle:g}° about {words.size(radius)} makes a jog of {words.size(height)}; "
        f"its bends take {words.size(jog.flat)} of flat plate for {words.size(jog.run)} of run."
    )
    findings = (
        ligament(assembly, words), edge(assembly, plate, words),
        room("bend-room", "Room for the bends between lugs and ears", space - jog.run, 0.0, 2.0,
             f"The bends need {words.size(jog.run)} of run and find {words.size(max(space, 0.0))} between the bosses."),
    )  # fmt: skip
    flat = plate_part(assembly, plate, "jogged plate", ("saw or laser", "drill", "bend"))
    grown = jog.flat - jog.run
    outline, bores, area = unfolded(flat, lines, grown)
    bends = tuple(Bend(a, b, jog.angle, radius, up) for (a, b), up in zip(lines, (True, False)))
    part = MadePart(
        flat.name, "plate", flat.material, thick, area * thick, outline, None, z0=flat.z0, bores=bores, bends=bends,
        processes=flat.processes,
    )  # fmt: skip
    solved = {
        "thickness_mm": thick, "jog_mm": height, "bend_deg": jog.angle, "bend_radius_mm": radius, "web_mm": jog.web,
        "run_mm": jog.run, "allowance_mm": jog.allowance, "flat_longer_mm": grown, "offset_mm": reach,
    }  # fmt: skip
    return decided(Candidate("jogged-plate", title, (part,), findings, why, True, solved))


def _space(
    clock: float, centres: list[Point], radii: list[float]
) -> tuple[float, tuple[tuple[Point, Point], tuple[Point, Point]]]:
    """Return the run free between the lugs' bosses and the ears' along the radius, and the two bend lines across it."""
    turn = math.radians(known(clock))
    u, w = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    along = [x * u[0] + y * u[1] for x, y in centres]
    lugs, ears = list(zip(along, radii))[:-2], list(zip(along, radii))[-2:]
    inner, outer = max(at + r for at, r in lugs), min(at - r for at, r in ears)
    if outer < inner and min(at - r for at, r in lugs) > max(at + r for at, r in ears):
        inner, outer = max(at + r for at, r in ears), min(at - r for at, r in lugs)
    across = [x * w[0] + y * w[1] for x, y in centres]
    low, high = min(c - r for c, r in zip(across, radii)), max(c + r for c, r in zip(across, radii))

    def line(at: float) -> tuple[Point, Point]:
        return (at * u[0] + low * w[0], at * u[1] + low * w[1]), (at * u[0] + high * w[0], at * u[1] + high * w[1])

    return outer - inner, (line(inner), line(outer))


def unfolded(part: MadePart, lines: Lines, grown: float) -> tuple[Outline, tuple[Bore, ...], float]:
    """Return outline, bores and net area of the flat pattern: what lies beyond the bends is moved out by ``grown``.

    Between the bosses only straight edges run, so moving the corners beyond the bend zone lengthens just those.
    """
    (a, b), (c, _) = lines
    way = ((c[0] - a[0]), (c[1] - a[1]))
    long = math.hypot(*way) or 1.0
    u = (way[0] / long, way[1] / long)
    middle = (a[0] + way[0] / 2) * u[0] + (a[1] + way[1] / 2) * u[1]
    del b

    def moved(point: Point) -> Point:
        beyond = point[0] * u[0] + point[1] * u[1] > middle
        return (point[0] + u[0] * grown, point[1] + u[1] * grown) if beyond else point

    vertices = part.outline.vertices if part.outline is not None else ()
    outline = Outline(tuple((*moved((x, y)), bulge) for x, y, bulge in vertices))
    bores = tuple(replace(bore, centre=moved(bore.centre)) for bore in part.bores)
    return outline, bores, outline.area - math.fsum(math.pi / 4 * bore.drill**2 for bore in bores)
