"""What stands against what turns with the wheel: caliper against hat, hub and studs; lugs and knuckle against the rotor.

Everything that turns is a ring in the (z, r) half plane; what stands is asked by its range of radius and of z, the caliper's
body by its section swept over its width. The friction faces inside the caliper's slot have findings of their own
(``slot-gap``, ``tip-gap``), and so have bolts and bracket against the rotor.
"""

import math
from functools import lru_cache

import numpy as np
import shapely

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal_checks import hub_missing, rotor_missing
from bicentra.core.bracket.turned import unturned
from bicentra.core.clearance.clock_sweep import name_of
from bicentra.core.clearance.half_plane import swept_outline
from bicentra.core.geometry.hull import Points, few
from bicentra.core.geometry.ring import Ring, bounded_least, distance, least_of, nearest_gap
from bicentra.core.lineup.solids import retainer_ring, section_outline, wheel_studs_ring
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

RING, HAT, HUB, STUDS = "the friction ring", "the hat", "hub and axle", "studs and nuts"
RETAINER = "the retainer bolts"
BEYOND_MM = 1e4
Turning = tuple[tuple[str, tuple[Ring, ...]], ...]


class Meeting(Record, frozen=True):
    """The room [mm] between something that stands and something that turns, both in words, and the drawing tag of the first."""

    value: float
    what: str
    tag: str
    other: str


@unturned
def turning_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the room between what stands and what turns: the caliper's, and the knuckle's."""
    return caliper_to_turning(assembly, lengths), knuckle_to_rotor(assembly, lengths)


def what_turns(assembly: Assembly) -> Turning:
    """Return what turns, as groups of rings."""
    studs = wheel_studs_ring(assembly.job, assembly.line)
    return (
        (RING, assembly.rotor[:1]),
        (HAT, assembly.rotor[1:]),
        (HUB, assembly.hub),
        (STUDS, (studs,)),
    )


def caliper_to_turning(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """Legs, pads and ears of the caliper against hat, hub and studs; ears against the ring, the caliper's bolts against hub."""
    job, limit = assembly.job, limit_for(assembly.job, "caliper-to-rotor")
    turning = what_turns(assembly)
    retainer = retainer_ring(job)
    behind: Turning = ((RETAINER, (retainer,)),) if retainer is not None else ()
    found = [
        *_legs(assembly, (*turning[1:], *behind), limit.watch),
        *(_met(_pad(assembly), "The pad", "pad", group, limit.watch) for group in turning[1:]),
    ]
    radius = math.hypot(assembly.line.ear_line_radius, known(job.caliper.ear_spacing_mm) / 2)
    for k, rounds in enumerate(assembly.turning):
        ear, *bolts = rounds
        ring = ear.ring_at(radius)
        found += [_met(ring, f"Ear {k + 1}", f"ear-{k}", group, limit.watch) for group in (*turning, *behind)]
        for bolt in bolts:
            ring = bolt.ring_at(radius)
            found += [
                _met(ring, f"The bolt at ear {k + 1}", bolt.feature, group, limit.watch)
                for group in (*turning[2:], *behind)
            ]
    return _text(
        "caliper-to-rotor", assembly, found, lengths, _caliper_missing(assembly),
        "what turns with the wheel must not meet the caliper, hot, worn and with play in its bearings",
    )  # fmt: skip


def knuckle_to_rotor(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """Every lug and obstacle against the rotor, wherever it stands round it."""
    job, limit = assembly.job, limit_for(assembly.job, "knuckle-to-rotor")
    turning, found = what_turns(assembly)[:2], []
    for round_one in assembly.fixed:
        if "bolt" not in round_one.feature:  # bolts and the rotor: bolt-tip-to-rotor
            what = _capital(name_of(assembly, round_one.feature))
            found += [_met(round_one.ring, what, round_one.feature, group, limit.watch) for group in turning]
    for obstacle in assembly.obstacles:
        what = _capital(obstacle.name)
        found += [_met(obstacle.ring, what, obstacle.feature, group, limit.watch) for group in turning]
    retainer = retainer_ring(job)
    if retainer is not None:
        found += [_met(retainer, "A retainer bolt", "hub", group, limit.watch) for group in turning]
    missing = (
        rotor_missing(assembly) or "needs place, boss and thickness of every lug, and how far every obstacle reaches"
    )
    return _text(
        "knuckle-to-rotor", assembly, found, lengths, missing,
        "a larger rotor, or one that sits further inboard, meets what the old one cleared",
    )  # fmt: skip


def _capital(name: str) -> str:
    return f"{name[:1].upper()}{name[1:]}" if name else "An obstacle"


def _met(ring: Ring, what: str, tag: str, group: tuple[str, tuple[Ring, ...]], enough: float) -> Meeting:
    other, rings = group
    return Meeting(nearest_gap(ring, rings, enough), what, tag, other)


def _pad(assembly: Assembly) -> Ring:
    """Return the ring the pads lie in, from wall to wall of the slot."""
    pad, middle = assembly.line.pad, assembly.line.rotor_midplane_z + assembly.stack_up.error
    half = known(assembly.job.caliper.slot_width_mm) / 2
    return Ring(pad.inner_radius, pad.outer_radius, middle - half, middle + half)


def legs_outline(job: Job) -> shapely.Geometry:
    """Return the caliper's section less the slot that the rotor runs in, (z from slot centre, out from pad top) [mm].

    The whole section while slot or bridge is unknown, which errs towards a clash; empty while the section is unknown.
    """
    half, bridge = known(job.caliper.slot_width_mm) / 2, known(job.caliper.bridge_to_pad_top_mm)
    return _beside_slot(section_outline(job), half, bridge)


@lru_cache(maxsize=16)
def _beside_slot(outline: Points, half: float, bridge: float) -> shapely.Geometry:
    if not outline:
        return shapely.Polygon()
    whole = shapely.make_valid(shapely.Polygon(outline))
    return whole.difference(shapely.box(-half, -BEYOND_MM, half, bridge)) if is_known(half, bridge) else whole


def _legs(assembly: Assembly, turning: Turning, enough: float) -> list[Meeting]:
    """Return the room between the body beside the slot and each group: exact in the half plane."""
    job, top = assembly.job, assembly.line.pad_top_radius
    middle = assembly.line.rotor_midplane_z + assembly.stack_up.error
    width, legs = known(job.caliper.body_width_mm) / 2, _rings_of(legs_outline(job))
    wide = bool(job.caliper.body_face_mm) or is_known(width)
    if not legs or not wide or not is_known(top, middle):
        return [Meeting(UNKNOWN, "The caliper's body", "caliper", other) for other, _ in turning]
    body, found = _swept_legs(legs, few(job.caliper.body_face_mm), width, top), []
    every = [ring for _, rings in turning for ring in rings]
    z0, r0, z1, r1 = np.array([(ring.z0, ring.r0, ring.z1, ring.r1) for ring in every]).T
    gaps = iter(distance(body, shapely.box(z0 - middle, r0, z1 - middle, r1)).tolist())
    for other, rings in turning:
        here = [(ring.sure, next(gaps) if ring.is_known else next(gaps) + UNKNOWN) for ring in rings]
        value = bounded_least([gap for sure, gap in here if sure], [gap for sure, gap in here if not sure], enough)
        found.append(Meeting(value, "The caliper's body", "caliper", other))
    return found


@cached_by_identity
def _rings_of(shape: shapely.Geometry) -> tuple[Points, ...]:
    """Return the outlines of the polygons in ``shape``, each without its first point again [mm]."""
    return tuple(tuple(part.exterior.coords[:-1]) for part in shapely.get_parts(shape) if not part.is_empty)


@lru_cache(maxsize=16)
def _swept_legs(outlines: tuple[Points, ...], face: Points, width: float, top: float) -> shapely.Geometry:
    """Return the caliper beside its slot, swept over its width: (z from slot centre, r) [mm]."""
    swept = []
    for outline in outlines:
        body = swept_outline(outline, face, width, top)
        swept += [shapely.Polygon(body.inner), body.line()]
    return shapely.GeometryCollection(swept)


def _caliper_missing(assembly: Assembly) -> str:
    caliper, job = assembly.job.caliper, assembly.job
    names: dict[str, float | str | None] = {
        "pad_height": caliper.pad_height_mm, "slot_width": caliper.slot_width_mm, "ear_boss": caliper.ear_boss_mm,
        "ear_thickness": caliper.ear_thickness_mm, "ear_hole_spacing": caliper.ear_spacing_mm,
        "bolt_circle": job.hub.bolt_circle_mm, "stud_thread": job.hub.stud_thread, "stud_length": job.hub.stud_length_mm,
    }  # fmt: skip
    if not caliper.body_section_mm:
        names["body_inboard"], names["body_outboard"] = caliper.body_inboard_mm, caliper.body_outboard_mm
        names["body_outside_pad_top"] = caliper.body_outer_mm
    if not caliper.body_face_mm:
        names["body_width"] = caliper.body_width_mm
    return assembly.unsolved or missing_names(**names) or rotor_missing(assembly) or hub_missing(assembly)


def _text(
    id: str, assembly: Assembly, found: list[Meeting], lengths: LengthFormat, missing: str, because: str
) -> Finding:
    """Return the finding of the nearest meeting; unknown while one is unknown, unless two things meet for certain."""
    limit = limit_for(assembly.job, id)
    value = least_of(meeting.value for meeting in found)
    nearest = min((m for m in found if not math.isnan(m.value)), key=lambda m: m.value, default=None)
    tag, other, why = "caliper", "rotor", ""
    if nearest is not None:
        clears = f"clears {nearest.other} by {lengths.gap(value)}" if value > 0 else f"runs into {nearest.other}"
        why, tag = f"{nearest.what} {clears}; {because}.", nearest.tag
        other = "hub" if nearest.other in (HUB, STUDS, RETAINER) else "rotor"
    finding = make_finding(id, value, limit, why, features=(tag, other), missing=missing)
    unseen = (
        ("the hat's outside is bounded by the swept band",) if assembly.job.rotor.hat_outer_diameter_mm is None else ()
    )
    return replace(finding, assumed=(*finding.assumed, *unseen, "only the obstacles in the job are looked at"))
