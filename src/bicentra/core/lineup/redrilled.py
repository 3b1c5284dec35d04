"""The job's rotor drilled to the hub's pattern: from which one, which way, with its old holes open or filled."""

from bicentra.core.base.finding import Edit, Remedy, Verdict
from bicentra.core.base.numbers import known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.lineup.redrill import WARNING, Redrill, plan_redrill, redrill_text
from bicentra.core.parts.job import Job
from bicentra.core.parts.patterns import Pattern
from bicentra.core.parts.threads import find_thread

STUD_ROOM_MM = 0.6
"""Room between a stud and its hole across [mm]: common practice."""
FILLED = "the old holes filled"


def redrill_plans(job: Job) -> tuple[Redrill, ...]:
    """Return how the rotor is redrilled to the hub's pattern: turned for most metal, and with one hole shared.

    A rotor that the job says was drilled already is looked at from the pattern it had. Nothing while a size is unknown.
    """
    rotor, hub = job.rotor, job.hub
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    drilled = rotor.old_bolt_circle_mm is not None
    circle, count, hole = (
        (rotor.old_bolt_circle_mm, rotor.old_hole_count, rotor.old_hole_mm) if drilled
        else (rotor.bolt_circle_mm, rotor.hole_count, rotor.hole_mm)
    )  # fmt: skip
    if thread is None or circle is None or count is None or hole is None:
        return ()
    if hub.bolt_circle_mm is None or hub.stud_count is None:
        return ()
    old, new = Pattern(count, circle), Pattern(hub.stud_count, hub.bolt_circle_mm)
    return tuple(
        plan_redrill(old, new, round(thread.major + STUD_ROOM_MM, 1), old_hole_mm=hole, share=share,
                     bore_mm=known(rotor.centre_bore_mm), thickness_mm=known(rotor.flange_mm))
        for share in (False, True)
    )  # fmt: skip


def patterns_differ(job: Job) -> bool:
    """Tell whether rotor and hub have different patterns, as far as both were measured."""
    rotor, hub = (job.rotor.bolt_circle_mm, job.rotor.hole_count), (job.hub.bolt_circle_mm, job.hub.stud_count)
    return None not in (*rotor, *hub) and rotor != hub


def drilling(job: Job) -> Redrill | None:
    """Return the way the rotor is drilled: the first that nothing stops, else the first. ``None`` where nothing is known."""
    plans = redrill_plans(job)
    return next((plan for plan in plans if plan.verdict is not Verdict.STOP), next(iter(plans), None))


def redrilled(job: Job, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return the rotor redrilled to the hub's pattern, the better way of two; its old holes filled where neither leaves metal."""
    if not patterns_differ(job):
        return ()
    plans = redrill_plans(job)
    found = [plan for plan in plans if plan.verdict is not Verdict.STOP][:1]
    if found:
        return tuple(_remedy(plan, "open", lengths) for plan in found)
    solid = [plan for plan in plans if plan.between >= 0 and not plan.shared][:1]
    return tuple(_remedy(plan, "filled", lengths) for plan in solid)


def _remedy(plan: Redrill, holes: str, lengths: LengthFormat) -> Remedy:
    way = "one hole shared" if plan.shared else f"turned {plan.clock_deg:g}°"
    filled = holes == "filled"
    edits: tuple[Edit, ...] = (
        ("rotor.bolt_circle_mm", plan.new.circle),
        ("rotor.hole_count", plan.new.count),
        ("rotor.hole_mm", plan.new_hole),
        ("rotor.old_bolt_circle_mm", plan.old.circle),
        ("rotor.old_hole_count", plan.old.count),
        ("rotor.old_hole_mm", plan.old_hole),
        ("rotor.old_holes", holes),
    )
    side = [redrill_text(plan), WARNING]
    if filled:
        side.insert(
            0,
            "old holes plugged first, flush, pressed or welded in by someone qualified; then balanced, runout checked",
        )
    text = f"Redrill the rotor from {plan.old.name} to {plan.new.name}, Ø {lengths.size(plan.new_hole)}, {way}"
    return Remedy(f"{text}, {FILLED}" if filled else text, None, False, edits, tuple(side))
