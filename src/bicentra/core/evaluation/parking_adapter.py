"""The adapter that holds a parking-brake caliper on the same rotor, from the same lugs, beside the job's own bracket."""

import math

import shapely

from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import BESIDE, Limit
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.bracket.assembly import Assembly, assemble
from bicentra.core.bracket.families.table import PLAIN
from bicentra.core.clearance.clock_checks import obstacle_room
from bicentra.core.clearance.clock_sweep import body_gaps
from bicentra.core.clearance.turning import caliper_to_turning
from bicentra.core.clearance.wheel_room import wheel_room
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation, judge_bracket
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.prism import FAR_MM, Prism, Prisms, prism_gaps
from bicentra.core.geometry.ring import least_of
from bicentra.core.lineup.body import Body
from bicentra.core.lineup.checks import pad_inner_edge, pad_overhang, slot_gap, tip_gap
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import BracketDesign, Job, Parking
from bicentra.core.parts.limits import limit_for

TITLE = "Adapter for a parking-brake caliper"


def parking_evaluation(job: Job, lengths: LengthFormat) -> BracketEvaluation | None:
    """Return the adapter that is made beside the job's own bracket: for a parking-brake caliper, where the job has one."""
    parking = job.parking
    if parking is None or parking.kind != "second-caliper" or parking.clock_deg is None:
        return None
    there = parking_job(job, parking)
    evaluation = judge_bracket(PLAIN, there, line_up(there), lengths)
    assembly = evaluation.assembly
    findings = (
        *(_of_parking(finding) for finding in (*evaluation.findings, *_caliper_findings(assembly, lengths))),
        _calipers_apart(job, assembly.body, lengths),
    )
    parts = tuple(replace(part, name=f"parking {part.name}") for part in evaluation.bracket.parts)
    return BracketEvaluation(replace(assembly, bracket=replace(evaluation.bracket, parts=parts)), findings, TITLE)


def _caliper_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return what any caliper is asked that a plate is not: its place on the ring, its room to what turns and what stands."""
    job, line = assembly.job, assembly.line
    return (
        tip_gap(job, line, lengths),
        _wider(slot_gap(job, line, lengths), job, lengths),
        pad_overhang(job, line, lengths),
        pad_inner_edge(job, line, lengths),
        caliper_to_turning(assembly, lengths),
        wheel_room(assembly, lengths, remedies=False),
        obstacle_room(assembly, line.frame.here, lengths, turns=False),
    )


def _wider(finding: Finding, job: Job, lengths: LengthFormat) -> Finding:
    """Return the parking caliper's slot gap with its cure: a carrier that is made wider between its halves.

    Either half moves out from the slot's middle by half of it, and the ears with theirs.
    """
    limit, caliper = limit_for(job, "slot-gap"), job.caliper
    wider = round(2 * (limit.watch - finding.value), 2)
    if finding.verdict not in (Verdict.STOP, Verdict.CAUTION) or caliper.slot_width_mm is None:
        return replace(finding, remedies=())
    away = math.copysign(wider / 2, known(caliper.ear_face_offset_mm))
    moved = {
        "slot_width_mm": wider,
        "ear_face_offset_mm": away,
        "body_inboard_mm": wider / 2,
        "body_outboard_mm": wider / 2,
    }
    sizes = ((name, getattr(caliper, name), by) for name, by in moved.items())
    edits = tuple((f"parking.caliper.{name}", round(size + by, 4)) for name, size, by in sizes if size is not None)
    side = (
        f"two spacers {lengths.size(wider)} long between the carrier's halves, their bolts longer by as much",
        "slide pins and pads must still be held over their whole travel",
        "a widened carrier is a changed safety part: have it checked by someone qualified",
    )
    return replace(finding, remedies=(Remedy(f"Widen its carrier by {lengths.size(wider)}", wider, True, edits, side),))


def parking_job(job: Job, parking: Parking) -> Job:
    """Return the job as if the parking-brake caliper were its caliper, on a flat plate of its own."""
    fit = replace(job.fit, clock_deg=parking.clock_deg, pad_inset_mm=parking.pad_inset_mm)
    bracket = replace(
        chosen_anew(job.bracket),
        family=PLAIN.name,
        side=parking.side,
        caliper_bolt=parking.bolt or parking.caliper.ear_thread or job.bracket.caliper_bolt,
        cutouts=(),
        boss_walls_mm=(),
        dowels=(),
        pulls=(),
    )
    return replace(job, caliper=parking.caliper, fit=fit, bracket=bracket)


def chosen_anew(bracket: BracketDesign) -> BracketDesign:
    """Return the bracket without what was chosen for one kind of it: thickness, shims and bolt lengths."""
    return replace(bracket, thickness_mm=None, shims_mm=None, lug_bolt_length_mm=None, caliper_bolt_length_mm=None)


def _of_parking(finding: Finding) -> Finding:
    return replace(
        finding, id=f"{BESIDE}{finding.id}", features=("parking",),
        remedies=tuple(r for r in finding.remedies if r.edits and all(path.startswith("parking.") for path, _ in r.edits)),
    )  # fmt: skip


def brackets_apart(assembly: Assembly, adapter: BracketEvaluation, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the room between bracket and adapter, and of each to the other's caliper: all want the same place on the lugs."""
    limit, one, other = limit_for(assembly.job, "bracket-to-caliper"), assembly.metal, adapter.assembly.metal
    value = least_of(prism_gaps(one, other, FAR_MM).ravel().tolist()) if one and other else UNKNOWN
    why = f"The caliper's bracket and the adapter are {lengths.gap(value)} apart."
    if value <= 0:
        why = "The caliper's bracket and the adapter want the same place: put one on the lugs' other side, or make them one."
    apart = make_finding(
        "parking-bracket", value, limit, why, features=("parking", "bracket"), missing="needs both brackets"
    )
    return (
        apart,
        _clear("parking-adapter-to-caliper", assembly, other, lengths, limit),
        _clear("parking-clear-of-bracket", adapter.assembly, one, lengths, limit),
    )


def _clear(id: str, assembly: Assembly, prisms: Prisms, lengths: LengthFormat, limit: Limit) -> Finding:
    """The room between a caliper's body and the other one's metal."""
    value = least_of(body_gaps(assembly.body, assembly.line.frame.here, prisms)[0].tolist()) if prisms else UNKNOWN
    why = f"They are {lengths.gap(value)} apart." if value > 0 else "They run into each other."
    return make_finding(id, value, limit, why, features=("parking", "caliper"),
                        missing="needs both brackets and both bodies")  # fmt: skip


def _calipers_apart(job: Job, there: Body, lengths: LengthFormat) -> Finding:
    """The room between the two calipers on one rotor."""
    base = assemble(job)
    here, frames = base.body, (base.line.frame, ClockFrame(known(job.parking.clock_deg if job.parking else None)))
    value = UNKNOWN
    if here.is_known and there.is_known and all(frame.is_known for frame in frames):
        one, other = (
            Prism(body.z0, body.z1, shapely.Polygon(body.corners(frame.here)[0]))
            for body, frame in zip((here, there), frames)
        )
        value = float(prism_gaps((one,), (other,), FAR_MM)[0, 0, 0])
    why = f"The two calipers are {lengths.gap(value)} apart." if value > 0 else "The two calipers run into each other."
    limit, missing = limit_for(job, "caliper-to-obstacle"), "needs both bodies and both clock angles"
    return make_finding(
        "parking-apart",
        value,
        limit,
        why,
        features=("parking", "caliper"),
        missing=missing,
    )
