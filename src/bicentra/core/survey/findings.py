"""Findings of the survey itself: do the readings agree, do the lug faces lean, is the other corner the same, runout."""

import math

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict
from bicentra.core.base.numbers import chance_met, is_known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import PRACTICE
from bicentra.core.base.wording import LengthFormat, make_check, make_finding
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.survey.adjust import CHI_SQUARE_LEVEL
from bicentra.core.survey.advice import unchecked_sentence
from bicentra.core.survey.corner import Surveyed, boss_of, lug_of
from bicentra.core.survey.faces import Face
from bicentra.core.survey.runout import Runout, floor_tir
from bicentra.core.survey.use import takeover
from bicentra.core.survey.words import loose_sentences, suspect_sentence, way_word

UNUSED_MM = 0.05
"""A number of the job further than this from the survey's is not the survey's [mm]."""


def survey_findings(job: Job, here: Surveyed, other: Surveyed | None, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the findings of the corner ``here``; ``other`` is the corner across the axle, when it was surveyed."""
    if not here.survey.features and not here.survey.sweeps:
        return ()
    found = [
        agreement(job, here, lengths),
        unused(job, here, lengths),
        face_tilt(job, here, lengths),
        runout(job, here, lengths),
    ]
    if other is not None and other.survey.features:
        found.append(corner_mismatch(job, here, other, lengths))
    return tuple(finding for finding in found if finding is not None)


def agreement(job: Job, here: Surveyed, lengths: LengthFormat) -> Finding | None:
    """Whether the readings of the network agree as well as their instruments promise."""
    del job
    features = ("knuckle",)
    adjusted = here.adjusted
    source = f"Chi-square test at {100 * CHI_SQUARE_LEVEL:.0f} %, test for mistakes after Baarda (from memory)"
    nan = math.nan
    if adjusted is None:
        if not here.survey.features:
            return None
        return Finding("survey-agreement", Verdict.UNKNOWN, nan, nan, "", here.fault, features=features, source=source)
    if adjusted.loose or adjusted.mirrored:
        why = " ".join(loose_sentences(adjusted, lengths)[:3])
        return Finding("survey-agreement", Verdict.UNKNOWN, nan, nan, "", why, features=features, source=source)
    if adjusted.dof == 0:
        why = unchecked_sentence(adjusted) or "No reading has been taken yet."
        return Finding("survey-agreement", Verdict.UNKNOWN, nan, nan, "", why, features=features, source=source)
    from scipy.special import chdtri

    value = math.sqrt(adjusted.chi_square / adjusted.dof)
    limit = math.sqrt(float(chdtri(adjusted.dof, 1 - CHI_SQUARE_LEVEL)) / adjusted.dof)
    calm = bool(adjusted.passed) and not adjusted.suspects
    why = suspect_sentence(adjusted, lengths) or (
        f"{len(adjusted.readings)} readings, {adjusted.dof} more than needed, agree within what their instruments promise."
        if calm
        else "The readings scatter more than their instruments promise; are the instruments' uncertainties right?"
    )
    verdict = Verdict.OK if calm else Verdict.CAUTION
    return Finding(
        "survey-agreement", verdict, value, limit, "× expected", why, features=features, source=source, at_least=False
    )  # fmt: skip


def unused(job: Job, here: Surveyed, lengths: LengthFormat) -> Finding | None:
    """How far the job's numbers lie from what the survey found: lugs that were typed are not lugs that were measured."""
    plan = takeover(job, here)
    if here.survey.simulated and not job.practice:
        nan, why = math.nan, " ".join(plan.cautions)
        return Finding("survey-used", Verdict.CAUTION, nan, nan, "", why, features=("knuckle",), source=PRACTICE)
    missing = [change.what for change in plan.changes if change.before is None]
    apart = [(abs(c.after - c.before), c.what) for c in plan.changes if c.before is not None]
    value, what = max(apart, default=(0.0, ""))
    if not plan.edits:
        why = "Every number the survey gives stands in the job as it was found."
        return Finding("survey-used", Verdict.OK, 0.0, UNUSED_MM, "mm", why, features=("knuckle",), at_least=False)
    text = [f"{what} differs by {lengths.gap(value)}"] if value > UNUSED_MM else []
    text += [f"{name} is not in the job" for name in missing[:2]]
    if not text and value <= UNUSED_MM and plan.changes:
        why = f"The job's numbers lie within {lengths.gap(value)} of the survey's."
        return Finding("survey-used", Verdict.OK, value, UNUSED_MM, "mm", why, features=("knuckle",), at_least=False)
    text = text or ["outlines of obstacles differ"]
    why = f"The plate would be cut to numbers the survey does not bear out: {'; '.join(text)}."
    if here.suspects:
        why += " Settle the reading that is named as wrong first."
    corner = here.corner.replace("-", " ")
    changed = len(plan.changes)
    cure = Remedy(f"Use the survey of {corner} in the job", value or None, True, plan.edits,
                  (f"{changed} number{'' if changed == 1 else 's'} of hub, lugs and parts change",))  # fmt: skip
    own = tuple(change.path for change in plan.changes if change.before is not None and change.path not in job.exact)
    keep = Remedy("Keep the job's own numbers, as exact", None, True, (("exact", (*job.exact, *own)),),
                  ("the survey's errors then no longer count for them",))  # fmt: skip
    remedies = () if here.suspects else (cure, keep) if own else (cure,)
    return Finding(
        "survey-used", Verdict.CAUTION, value, UNUSED_MM, "mm", why, remedies,
        features=("knuckle", "bracket"), source=PRACTICE, at_least=False,
    )  # fmt: skip


def _lug_faces(job: Job, here: Surveyed) -> list[Face]:
    axis = here.survey.axis
    faces = [face for face in here.faces if axis is None or face.feature != axis.name]
    named = [face for face in faces if lug_of(job, face.feature) is not None]
    return named or faces


def face_tilt(job: Job, here: Surveyed, lengths: LengthFormat) -> Finding | None:
    """The lean of the worst lug face, and what it does to the caliper's ends."""
    limit = limit_for(job, "lug-face-tilt")
    faces = _lug_faces(job, here)
    if not faces:
        return None
    unread = [face for face in faces if face.fault]
    worst = max((f for f in faces if not f.fault), key=lambda f: f.tilt_deg, default=None)
    if worst is None or (unread and worst.tilt_deg <= limit.watch):
        missing = "; ".join(f"{face.feature}: {face.fault}" for face in unread)
        return make_finding("lug-face-tilt", math.nan, limit, "", missing=missing)
    place = lug_of(job, worst.feature)
    tag = "knuckle" if place is None else f"lug-{place}"
    finding = make_finding(
        "lug-face-tilt",
        worst.tilt_deg,
        limit,
        _tilt_why(job, here, worst, lengths),
        features=(tag, "caliper"),
        remedies=_tilt_cures(job, worst, lengths),
        assumed=("the seat is parallel to the outboard face that was read",) if _seated_inboard(job, place) else (),
    )
    chance = chance_met(worst.tilt_deg, worst.sd_tilt_deg, finding.limit, at_least=False)
    return replace(finding, sd=worst.sd_tilt_deg, probability=chance)


def _seated_inboard(job: Job, place: int | None) -> bool:
    return place is not None and job.knuckle.lugs[place].seat == "inboard"


def _rise(job: Job, face: Face) -> tuple[float, float]:
    """Return the width the lean is reported over [mm], the boss's where it is known, and the rise over it [mm]."""
    wide = boss_of(job, face.feature)
    wide = wide if is_known(wide) else 30.0
    return wide, math.tan(math.radians(face.tilt_deg)) * wide


def _tilt_why(job: Job, here: Surveyed, face: Face, lengths: LengthFormat) -> str:
    wide, rise = _rise(job, face)
    lean = f"{face.tilt_deg:.2f}° ± {1.96 * face.sd_tilt_deg:.2f}° (95 %)"
    text = f"The face of {face.feature} leans {lean}, {lengths.gap(rise)} over {lengths.size(wide)}"
    if face.tilt_deg > 1.96 * face.sd_tilt_deg:
        text += f", high towards {way_word(face.high_toward_deg)}"
    text += "."
    clock, spread = job.fit.clock_deg, job.caliper.pad_width_mm or job.caliper.ear_spacing_mm
    if clock is not None and spread is not None:
        ends = ClockFrame(clock).into((face.slope_x, face.slope_y))[1] * spread
        which = "leading" if ends > 0 else "trailing"
        text += f" Clamped to it alone, the caliper's {which} end would stand {lengths.gap(ends)} further outboard than the other."
    square = here.against_axle(face)
    if square is not None:
        text += f" Against the axle, as the hub stood at its sweep, {square.tilt_deg:.2f}°."
    return text


def _tilt_cures(job: Job, face: Face, lengths: LengthFormat) -> tuple[Remedy, ...]:
    _, rise = _rise(job, face)
    high, low = way_word(face.high_toward_deg), way_word(face.high_toward_deg + 180)
    if job.bracket.side == "inboard":  # the plate bears from the other side: what stands outboard stands away from it
        high, low = low, high
    return (
        Remedy(f"Lay a tapered shim under the plate, {lengths.gap(rise)} thicker {low}", round(rise, 3), True, (),
               ("measure the four gaps at the trial fit",)),
        Remedy(f"Face {face.feature} square: up to {lengths.gap(rise)} off its {high} side", round(rise, 3), False, (),
               ("moves its seat inboard: survey it again",)),
    )  # fmt: skip


def runout(job: Job, here: Surveyed, lengths: LengthFormat) -> Finding | None:
    """The rotor's runout to expect at the index it is mounted in, or the floor the flange sets."""
    limit, hub = limit_for(job, "rotor-runout"), here.sweep("hub-face")
    if hub is None and here.sweep("rotor-face") is None:
        return None
    features = ("rotor", "hub")
    dirt = "".join(_bump_text(sweep, lengths) for sweep in here.sweeps if sweep.bump is not None)
    if here.index:
        now = here.index[job.fit.rotor_turn_studs % len(here.index)]
        best = here.best_index or now
        why = (
            f"{_turned(now.turn)} on the hub the rotor will run out by {lengths.gap(now.tir)}; "
            f"the flange alone gives {lengths.gap(_floor(job, here))}.{dirt}"
        )
        cure = () if best.turn == now.turn else (_turn_cure(best.turn, best.tir, lengths),)
        finding = make_finding("rotor-runout", now.tir, limit, why, features=features, remedies=cure)
        sd = _tir_sd(here)
        return replace(finding, sd=sd, probability=chance_met(now.tir, sd, finding.limit, at_least=False))
    rotor = here.sweep("rotor-face")
    if rotor is not None and rotor.on_car and not rotor.fault:
        why = f"On the car the rotor runs out by {lengths.gap(rotor.tir)}, hub and rotor together.{dirt}"
        return make_finding("rotor-runout", rotor.tir, limit, why, features=features)
    floor = _floor(job, here)
    why = f"Even a true rotor will run out by {lengths.gap(floor)}: no rotor can beat the flange it sits on.{dirt}"
    missing = "a sweep of the hub face, its radius and the rotor's diameter" if not is_known(floor) else ""
    return make_finding("rotor-runout", floor, limit, why, features=features, missing=missing)


def _turn_cure(turn: int, tir: float, lengths: LengthFormat) -> Remedy:
    action = f"Turn the rotor {_studs(turn)} from where it was swept: {lengths.gap(tir)}"
    return Remedy(action, None, True, (("fit.rotor_turn_studs", turn),), ("mark rotor and stud",))


def _studs(turn: int) -> str:
    return f"by {turn} stud{'' if turn == 1 else 's'}" if turn else "back to"


def _turned(turn: int) -> str:
    return "As it was swept" if turn == 0 else f"Turned by {turn} stud{'' if turn == 1 else 's'}"


def _bump_text(sweep: Runout, lengths: LengthFormat) -> str:
    bump, where = sweep.bump, sweep.on.replace("-", " ")
    if bump is None:
        return ""
    spot = f" One spot of the {where} at {bump.at_deg:.0f}° stands {lengths.gap(bump.height)} off"
    return f"{spot}: look for dirt or a lip, clean and sweep again."


def _floor(job: Job, here: Surveyed) -> float:
    hub, rotor = here.sweep("hub-face"), here.sweep("rotor-face")
    if hub is None or hub.fault:
        return math.nan
    radius = rotor.radius if rotor is not None and is_known(rotor.radius) else (job.rotor.diameter_mm or math.nan) / 2
    return floor_tir(hub, radius)


def _tir_sd(here: Surveyed) -> float:
    hub, rotor = here.sweep("hub-face"), here.sweep("rotor-face")
    if hub is None or rotor is None:
        return math.nan
    return 2 * math.hypot(hub.sd_tilt * rotor.radius / hub.radius, rotor.sd_tilt)


def corner_mismatch(job: Job, here: Surveyed, other: Surveyed, lengths: LengthFormat) -> Finding:
    """How far the lugs of the other corner lie from where this corner's do, faces included."""
    limit, lean = limit_for(job, "corner-mismatch"), limit_for(job, "lug-face-tilt")
    checks: list[Check] = []
    spreads: list[float] = []
    for feature in (f.name for f in here.survey.features if lug_of(job, f.name) is not None):
        place, twin = here.place(feature), other.place(feature)
        apart = math.dist(place, twin) if place and twin else math.nan
        checks.append(make_check(feature, apart, limit, f"{feature}: {lengths.gap(apart)} apart along the face"))
        spreads.append(_apart_sd(here, other, feature))
        one, two = here.face(feature), other.face(feature)
        if one is None or two is None:
            continue
        dz = abs(one.z - two.z)
        checks.append(make_check(feature, dz, limit, f"{feature}: seats {lengths.gap(dz)} apart along the axle"))
        spreads.append(math.hypot(one.sd_z, two.sd_z))
        tilt = math.degrees(math.atan(math.hypot(one.slope_x - two.slope_x, one.slope_y - two.slope_y)))
        checks.append(make_check(feature, tilt, lean, f"{feature}: faces lean {tilt:.2f}° apart"))
        spreads.append(math.hypot(one.sd_tilt_deg, two.sd_tilt_deg))
    if not checks:
        missing = "lugs of the job's names in both surveys"
        return make_finding("corner-mismatch", math.nan, limit, "", missing=missing, features=("knuckle",))
    k = min(range(len(checks)), key=lambda i: (checks[i].verdict.rank, -checks[i].value / checks[i].limit))
    decides = checks[k]
    corner = other.corner.replace("-", " ")
    # However far the other corner is off, it does not stop the work on this one.
    verdict = Verdict.CAUTION if decides.verdict is Verdict.STOP else decides.verdict
    why = {
        Verdict.OK: f"The lugs of {corner} lie where these do; still measure the fit there.",
        Verdict.UNKNOWN: f"Still unknown: {decides.text}.",
    }.get(
        decides.verdict,
        f"{decides.text} on {corner}: a bracket proven here is not proven there. Line that corner up by itself.",
    )
    return Finding(
        "corner-mismatch", verdict, decides.value, decides.limit, decides.unit, why,
        features=("knuckle", "bracket"), checks=tuple(checks), source=limit.source, at_least=False, sd=spreads[k],
        probability=chance_met(decides.value, spreads[k], decides.limit, at_least=False),
    )  # fmt: skip


def _apart_sd(here: Surveyed, other: Surveyed, feature: str) -> float:
    """Return the standard uncertainty of the distance between a feature's places in both corners [mm], along it."""
    if here.adjusted is None or other.adjusted is None or not here.place(feature) or not other.place(feature):
        return math.nan
    spread = here.adjusted.spread(feature) + other.adjusted.spread(feature)
    return math.sqrt(max(float(spread.trace()) / 2, 0.0))
