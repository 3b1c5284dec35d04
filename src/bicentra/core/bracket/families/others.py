"""Flat plates between other places: onto the original caliper bracket's ears, and to a parking-brake caliper."""

from dataclasses import replace

import numpy as np
import shapely

from bicentra.core.base.clearance import least_of
from bicentra.core.base.finding import Finding
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import BESIDE
from bicentra.core.base.wording import Words, make_finding
from bicentra.core.bracket.body_gaps import body_gaps
from bicentra.core.bracket.clock_checks import clock_findings
from bicentra.core.bracket.families.model import Candidate, MadePart, unsuited
from bicentra.core.bracket.families.plates import flat
from bicentra.core.bracket.families.slabs import part_slabs
from bicentra.core.bracket.flat_plate import Assembly, assemble
from bicentra.core.bracket.slab import Slab, slab_gap
from bicentra.core.bracket.turning import caliper_to_turning
from bicentra.core.bracket.wheel_room import wheel_room
from bicentra.core.lineup.body import Body
from bicentra.core.lineup.checks import pad_inner_edge, pad_overhang, slot_gap, tip_gap
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Bracket, Job, Lug, Parking
from bicentra.core.parts.limits import limit_for


def on_original(job: Job, words: Words) -> Candidate:
    """A plate stacked on the original caliper bracket, whose holes then are the lugs; that bracket has to exist still."""
    title = "Plate on the original bracket"
    before = job.before
    if before is None or before.caliper is None or before.rotor is None:
        why = "What came off is not noted: rotor and caliper of the original brake place its bracket."
        return unsuited("on-original-bracket", title, why, ("original rotor and caliper",))
    old = before.caliper
    fit = replace(job.fit, pad_inset_mm=0.0, rotor_spacer_mm=0.0, clock_deg=before.clock_deg)
    was = line_up(replace(job, rotor=before.rotor, caliper=old, fit=fit))
    holes = before.bracket_ear_thread is not None or before.bracket_ear_hole_mm is not None
    if not is_known(was.ears[0][0], was.ear_face_z) or not holes:
        why = "The original caliper's ears, its clock angle and the holes in its bracket are not all measured."
        return unsuited("on-original-bracket", title, why, ("original ears", "original clock angle", "original holes"))
    side = "outboard" if old.ear_seat == "inboard" else "inboard"
    lugs = tuple(
        Lug(name=f"original ear {k + 1}", x_mm=x, y_mm=y, z_mm=was.ear_face_z, hole_mm=before.bracket_ear_hole_mm,
            thread=before.bracket_ear_thread, boss_mm=old.ear_boss_mm, thickness_mm=before.bracket_ear_mm, seat=side)
        for k, (x, y, _) in enumerate(was.ears)
    )  # fmt: skip
    plain = replace(job.bracket, side=side, shims_mm=None, cutouts=(), boss_walls_mm=())
    stacked = replace(job, knuckle=replace(job.knuckle, lugs=lugs), bracket=plain)
    plate = flat(stacked, words)
    why = "Keep the original bracket: it is part of the stack. " + plate.why
    return replace(plate, family="on-original-bracket", title=title, why=why)


def parking_adapter(job: Job, words: Words) -> Candidate:
    """An offset adapter that holds a parking-brake caliper on the same rotor, from the same lugs."""
    title = "Adapter for a parking-brake caliper"
    parking = job.parking
    if parking is None or parking.clock_deg is None:
        return unsuited("parking-adapter", title, "No parking-brake caliper is in the job.", ("parking caliper",))
    plate = flat(parking_job(job, parking), words)
    findings = tuple(_of_parking(finding) for finding in plate.findings)
    if plate.stands is not None:
        asked = _asked_of_a_caliper(plate.stands, words)
        findings = (*findings, *(_of_parking(f) for f in asked), _calipers_apart(job, plate.stands.body, words))
    parts = tuple(replace(part, name=f"parking {part.name}") for part in plate.parts)
    return replace(plate, family="parking-adapter", title=title, findings=findings, parts=parts)


def _asked_of_a_caliper(stands: Assembly, words: Words) -> tuple[Finding, ...]:
    """Return what any caliper is asked that a plate is not: its place on the ring, its room to what turns and what stands."""
    job, line = stands.job, stands.line
    turned = clock_findings(stands, words, turns=False)
    return (
        tip_gap(job, line, words),
        slot_gap(job, line, words),
        pad_overhang(job, line, words),
        pad_inner_edge(job, line, words),
        caliper_to_turning(stands, words),
        wheel_room(stands, words, cures=False),
        *(f for f in turned if f.id == "caliper-to-obstacle"),
    )


def beside(job: Job, words: Words) -> Candidate | None:
    """Return the adapter that is made beside the job's own bracket: for a parking-brake caliper, where the job has one."""
    if job.parking is None or job.parking.clock_deg is None or job.bracket.family == "parking-adapter":
        return None
    return parking_adapter(replace(job, bracket=chosen_anew(job.bracket)), words)


def parking_job(job: Job, parking: Parking) -> Job:
    """Return the job as if the parking-brake caliper were its caliper, on a flat plate of its own."""
    fit = replace(job.fit, clock_deg=parking.clock_deg, pad_inset_mm=parking.pad_inset_mm)
    bracket = replace(
        chosen_anew(job.bracket),
        family="flat-plate",
        side=parking.side,
        caliper_bolt=parking.bolt or parking.caliper.ear_thread or job.bracket.caliper_bolt,
        cutouts=(),
        boss_walls_mm=(),
        dowels=(),
        pulls=(),
    )
    return replace(job, caliper=parking.caliper, fit=fit, bracket=bracket)


def chosen_anew(bracket: Bracket) -> Bracket:
    """Return the bracket without what was chosen for one kind of it: thickness, shims and bolt lengths."""
    return replace(bracket, thickness_mm=None, shims_mm=None, lug_bolt_length_mm=None, caliper_bolt_length_mm=None)


def _of_parking(finding: Finding) -> Finding:
    return replace(
        finding, id=f"{BESIDE}{finding.id}",
        features=("parking",), remedies=(),
    )  # fmt: skip


def brackets_apart(
    assembly: Assembly, mine: tuple[MadePart, ...], adapter: Candidate, words: Words
) -> tuple[Finding, ...]:
    """Return the room between bracket and adapter, and of each to the other's caliper: all want the same place on the lugs."""
    job = assembly.job
    one, other = (tuple(slab for part in parts for slab in part_slabs(part)) for parts in (mine, adapter.parts))
    value = least_of(slab_gap(a, b.shape, b.z0, b.z1) for a in one for b in other) if one and other else UNKNOWN
    why = f"The caliper's bracket and the adapter are {words.gap(value)} apart."
    if value <= 0:
        why = "The caliper's bracket and the adapter want the same place: put one on the lugs' other side, or make them one."
    limit, missing = limit_for(job, "bracket-to-caliper"), "needs both brackets"
    apart = make_finding("parking-bracket", value, limit, why,
                         features=("parking", "bracket"), missing=missing)  # fmt: skip
    if adapter.stands is None:
        return (apart,)
    return (
        apart,
        _clear("parking-adapter-to-caliper", assembly, other, words, limit),
        _clear("parking-clear-of-bracket", adapter.stands, one, words, limit),
    )


def _clear(id: str, stands: Assembly, slabs: tuple[Slab, ...], words: Words, limit: Limit) -> Finding:
    """The room between a caliper's body and the other one's metal."""
    clock = np.radians([stands.line.clock])
    shapes = np.array([slab.shape for slab in slabs], dtype=object)[None, :]
    low, high = np.array([(slab.z0, slab.z1) for slab in slabs]).reshape(-1, 2).T
    value = least_of(body_gaps(stands.body, clock, shapes, low, high)[0].tolist()) if slabs else UNKNOWN
    why = f"They are {words.gap(value)} apart." if value > 0 else "They run into each other."
    return make_finding(id, value, limit, why, features=("parking", "caliper"),
                        missing="needs both brackets and both bodies")  # fmt: skip


def _calipers_apart(job: Job, there: Body, words: Words) -> Finding:
    """The room between the two calipers on one rotor."""
    base = assemble(job)
    here, clocks = base.body, np.radians([base.line.clock, known(job.parking.clock_deg if job.parking else None)])
    value = UNKNOWN
    if here.is_known and there.is_known and is_known(*clocks):
        one, other = (shapely.Polygon(b.corners(clocks[k : k + 1])[0]) for k, b in enumerate((here, there)))
        value = slab_gap(Slab(one, here.z0, here.z1), other, there.z0, there.z1)
    why = f"The two calipers are {words.gap(value)} apart." if value > 0 else "The two calipers run into each other."
    limit, missing = limit_for(job, "caliper-to-obstacle"), "needs both bodies and both clock angles"
    return make_finding(
        "parking-apart",
        value,
        limit,
        why,
        features=("parking", "caliper"),
        missing=missing,
    )
