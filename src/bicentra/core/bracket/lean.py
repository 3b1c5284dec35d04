"""How the caliper sits at its ears where lug faces or shims are not alike: offset there, tilt along the rotor, lean
outward.

The axial error at each lug lies on a plane e(x, y) = e0 + g·(p − p0), by least squares through all lugs (through two,
along their line alone). At an ear it is that plane's height there and what its own shims lift it by beyond the mean of
both. With S between the ears: tilt = atan((trailing − leading)/S), lean = atan(g·u). Plane geometry.
"""

import numpy as np

from bicentra.core.base.finding import Finding, Ranks, Remedy, Verdict, judge_all, worst_check
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import PRACTICE, Limit
from bicentra.core.base.wording import LengthFormat, make_check
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.axial import level_lugs
from bicentra.core.bracket.stack_up import ear_lift
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.limits import limit_for

ALIKE_MM = 1e-6
"""Stacks that differ by less stand level [mm]."""
LEVEL_DEG = 0.005
"""Told as square [degrees]: less than is written."""


class EarPose(Record, frozen=True, eq=False):
    """The caliper at its ears, at each of n clock angles: ``offsets`` (n, 2) [mm] at the first and second ear, positive outboard;
    ``tilt`` and ``lean`` (n,) [degrees], positive where the trailing end, the outer edge, is further outboard.
    """

    offsets: FloatArray
    tilt: FloatArray
    lean: FloatArray


def can_lean(assembly: Assembly) -> bool:
    """Tell whether anything could tilt the caliper: lugs of more than one height, or shims at the ears that differ."""
    stack_up = assembly.stack_up
    return len(stack_up.errors) > 1 or abs(stack_up.ear_shims[0] - stack_up.ear_shims[1]) > ALIKE_MM


def ear_pose(assembly: Assembly, clock_rad: FloatArray) -> EarPose:
    """Return how the caliper sits at its ears at each of n clock angles [rad]."""
    job, stack_up = assembly.job, assembly.stack_up
    ears = ear_centres(assembly, clock_rad)
    middle, slope = _plane(assembly)
    first, second = stack_up.ear_shims
    far = stack_up.ears_on_far_face
    lifts = np.array([ear_lift(stack_up.sign, far, (2 * one, 0.0)) for one in (first, second)])
    lifts = lifts - lifts.mean()
    offsets = stack_up.error + (ears - middle) @ slope + lifts
    spacing = known(job.caliper.ear_spacing_mm)
    across = (offsets[:, 1] - offsets[:, 0]) / spacing
    outward = np.stack([np.cos(clock_rad), np.sin(clock_rad)], axis=1) @ slope
    return EarPose(offsets, np.degrees(np.arctan(across)), np.degrees(np.arctan(outward)))


def _plane(assembly: Assembly) -> tuple[FloatArray, FloatArray]:
    """Return the middle of the lugs [mm] and the slope of the axial error there, (2,) each [mm per mm]."""
    errors = np.array(assembly.stack_up.errors)
    lugs = assembly.job.knuckle.lugs
    if len(errors) < 2 or len(errors) != len(lugs):
        return np.zeros(2), np.zeros(2)
    places = np.array([(known(lug.x_mm), known(lug.y_mm)) for lug in lugs])
    middle = places.mean(axis=0)
    if not (np.isfinite(places).all() and np.isfinite(errors).all()):
        return middle, np.full(2, UNKNOWN)
    slope, *_ = np.linalg.lstsq(places - middle, errors - errors.mean(), rcond=1e-9)
    return middle, slope


def tilt_ranks(assembly: Assembly, clock_rad: FloatArray) -> Ranks:
    """Return (n,) int8: what the finding on tilt comes to at each of n clock angles [rad]."""
    pose, job = ear_pose(assembly, clock_rad), assembly.job
    ranks = np.minimum(
        judge_all(np.abs(pose.tilt), limit_for(job, "caliper-tilt")),
        judge_all(np.abs(pose.lean), limit_for(job, "caliper-lean")),
    )
    at_ears = limit_for(job, "axial-offset")
    if not _off_already(assembly, at_ears):
        ranks = np.minimum(ranks, judge_all(np.abs(pose.offsets).max(axis=1), at_ears))
    return ranks.astype(np.int8)


def _off_already(assembly: Assembly, limit: Limit) -> bool:
    """Tell whether the whole caliper is off centre: that is a finding of its own, and the ears only say it again."""
    return abs(assembly.stack_up.worst_error) > limit.stop


def tilt_finding(assembly: Assembly, lengths: LengthFormat, remedies: bool = True) -> tuple[Finding, ...]:
    """Return how far the caliper tilts and leans, and how far off centre each ear is; nothing where nothing could tilt it."""
    if not can_lean(assembly):
        return ()
    job, pose = assembly.job, ear_pose(assembly, assembly.line.frame.here)
    tilt, lean = float(pose.tilt[0]), float(pose.lean[0])
    offsets = tuple(float(offset) for offset in pose.offsets[0])
    at_ears = limit_for(job, "axial-offset")
    checks = (
        make_check("Tilt", abs(tilt), limit_for(job, "caliper-tilt"), _tilt_text(tilt, offsets, lengths)),
        make_check("Lean", abs(lean), limit_for(job, "caliper-lean"), _lean_text(lean)),
        *(
            make_check(f"Offset at ear {k + 1}", abs(offset), at_ears, _ear_text(k, offset, lengths))
            for k, offset in enumerate(offsets)
            if not _off_already(assembly, at_ears)
        ),
    )
    decides = worst_check(checks)
    why = f"{decides.text}." if decides.verdict is not Verdict.OK else f"{checks[0].text}."
    if decides.verdict is Verdict.STOP:
        why += " A tilted caliper wears its pads in a taper, and a fixed one can rub."
    if decides.verdict is Verdict.UNKNOWN:
        why = "Still unknown: needs the place and face of every lug, and the ears."
    offered = _remedies(assembly, lengths) if remedies and decides.verdict is Verdict.STOP else ()
    return (
        Finding(
            "caliper-tilt", decides.verdict, decides.value, decides.limit, decides.unit, why, offered, ("caliper", "rotor"),
            checks, PRACTICE, at_least=False,
        ),
    )  # fmt: skip


def _remedies(assembly: Assembly, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return what takes the tilt out: like shims at both ears, unlike ones at the lugs, or faces machined to one height."""
    found = []
    first, second = assembly.stack_up.ear_shims
    if abs(first - second) > ALIKE_MM:
        less = min(assembly.job.fit.ear_shims_mm, key=sum)
        text = "Take the shims at the ears out" if not less else "Put the same shims at both ears"
        edits = (("fit.ear_shims_mm", (less, less)),)
        found.append(
            Remedy(text, round(abs(first - second), 4), True, edits, ("the caliper's middle moves by half of it",))
        )
    return (*found, *level_lugs(assembly.bracket, lengths))


def _tilt_text(tilt: float, offsets: tuple[float, ...], lengths: LengthFormat) -> str:
    if not abs(tilt) >= LEVEL_DEG:
        return "The caliper stands square to the rotor"
    end = "trailing" if tilt > 0 else "leading"
    return (
        f"The {end} ear stands {lengths.gap(offsets[1] - offsets[0])} further outboard than the other: {abs(tilt):.2f}°"
    )


def _lean_text(lean: float) -> str:
    way = "outboard" if lean > 0 else "inboard"
    return f"The caliper's outer edge leans {way} by {abs(lean):.2f}°"


def _ear_text(k: int, offset: float, lengths: LengthFormat) -> str:
    side = "outboard" if offset > 0 else "inboard"
    return f"At ear {k + 1} the caliper sits {lengths.gap(offset)} too far {side}"
