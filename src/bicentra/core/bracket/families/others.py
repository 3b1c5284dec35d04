"""Flat plates between other places: onto the original caliper bracket's ears, and to a parking-brake caliper."""

from dataclasses import replace

import numpy as np
import shapely

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.wording import Words, make_finding
from bicentra.core.bracket.families.model import Candidate, MadePart, unsuited
from bicentra.core.bracket.families.plates import flat
from bicentra.core.bracket.families.slabs import part_slabs
from bicentra.core.bracket.flat_plate import assemble
from bicentra.core.bracket.slab import Slab, slab_gap
from bicentra.core.lineup.body import Body
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
    was = line_up(
        replace(job, rotor=before.rotor, caliper=old, fit=replace(job.fit, pad_inset_mm=0.0, rotor_spacer_mm=0.0))
    )
    if not is_known(was.ears[0][0], was.ear_face_z, known(old.ear_hole_mm)):
        return unsuited(
            "on-original-bracket", title, "The original caliper's ears are not measured.", ("original ears",)
        )
    side = "outboard" if old.ear_seat == "inboard" else "inboard"
    lugs = tuple(
        Lug(name=f"original ear {k + 1}", x_mm=x, y_mm=y, z_mm=was.ear_face_z, hole_mm=old.ear_hole_mm, boss_mm=old.ear_boss_mm,
            thickness_mm=before.bracket_ear_mm, seat=side)
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
        findings = (*findings, _calipers_apart(job, plate.stands.body, words))
    parts = tuple(replace(part, name=f"parking {part.name}") for part in plate.parts)
    return replace(plate, family="parking-adapter", title=title, findings=findings, parts=parts)


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
        finding, id=f"parking-{finding.id}", title=f"Parking caliper: {finding.title[0].lower()}{finding.title[1:]}",
        features=("parking",), remedies=(),
    )  # fmt: skip


def brackets_apart(job: Job, mine: tuple[MadePart, ...], adapter: Candidate, words: Words) -> Finding:
    """The room between the caliper's own bracket and the adapter beside it: both may want the same place on the lugs."""
    one, other = (tuple(slab for part in parts for slab in part_slabs(part)) for parts in (mine, adapter.parts))
    value = min((slab_gap(a, b.shape, b.z0, b.z1) for a in one for b in other), default=UNKNOWN)
    why = f"The caliper's bracket and the adapter are {words.gap(value)} apart."
    if value <= 0:
        why = "The caliper's bracket and the adapter want the same place: put one on the lugs' other side, or make them one."
    limit, missing = limit_for(job, "bracket-to-caliper"), "needs both brackets"
    return make_finding("parking-bracket", "Parking caliper: adapter clear of the bracket", value, limit, why,
                        features=("parking", "bracket"), missing=missing)  # fmt: skip


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
        "Parking caliper: clear of the caliper",
        value,
        limit,
        why,
        features=("parking", "caliper"),
        missing=missing,
    )
