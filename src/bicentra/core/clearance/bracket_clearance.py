"""Whether the bracket meets rotor, hub, obstacles or the caliper's body: its metal against each, whatever its kind."""

from collections.abc import Callable, Container, Iterator

import shapely

from bicentra.core.base.cache import cached_by_identity_of
from bicentra.core.base.finding import Finding, Remedy, Verdict, judge
from bicentra.core.base.numbers import UNKNOWN, is_known, known, smallest
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal import PLAN_CHORD_MM, metal_at
from bicentra.core.bracket.metal_checks import holes_missing, hub_missing, rotor_missing, space_text
from bicentra.core.clearance.access import retainer_reach
from bicentra.core.clearance.clock_checks import Sweep, head_room, obstacle_missing, turn_remedies
from bicentra.core.clearance.clock_sweep import bracket_caliper_sweep, bracket_obstacle_sweep, name_of
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.parts.limits import limit_for


def clearance_findings(
    assembly: Assembly, lengths: LengthFormat, turns: bool = True, but: Container[str] = ()
) -> tuple[Finding, ...]:
    """Return the room round the bracket's metal and its bolts' heads; nothing for one without a plate.

    With ``turns`` the nearest turn is looked for that cures what does not clear. ``but``: ids that need not be asked.
    """
    return tuple(clearances(assembly, lengths, turns, but))


def clearances(
    assembly: Assembly, lengths: LengthFormat, turns: bool = True, but: Container[str] = ()
) -> Iterator[Finding]:
    """Yield the same one by one, asked as they are taken [findings; no unit]."""
    bracket, job = assembly.bracket, assembly.job
    if bracket.plate is None and bracket.shape is None:
        return
    left_out = {
        "bracket-to-caliper": bracket.feet is not None,  # one on studs stands on the bracket with its body all round
        "retainer-reach": job.hub.retainer_circle_mm is None or bracket.kind.at_retainer,
    }
    yield from (_clearance(assembly, lengths, turns, id) for id in ASKS if id not in but and not left_out.get(id))


@cached_by_identity_of(16)
def _clearance(assembly: Assembly, lengths: LengthFormat, turns: bool, id: str) -> Finding:
    """Return one of them; kept, for which of several ways a bracket is made is decided by them too."""
    return ASKS[id](assembly, lengths, turns)


def _plan(assembly: Assembly) -> shapely.Geometry:
    """Return the bracket seen along the axle: a plate of one thickness by its outline, chords within ``PLAN_CHORD_MM``."""
    shape = assembly.bracket.shape
    if assembly.bracket.kind.cut is None or shape is None:
        return shapely.union_all([prism.shape for prism in assembly.metal])
    if shape.outline is None:
        return shapely.Polygon()
    inner = [shape.window.polygon(PLAN_CHORD_MM)] if shape.window is not None else []
    return shapely.Polygon(shape.outline.polygon(PLAN_CHORD_MM), inner)


def _unmade(assembly: Assembly) -> str:
    """Return why there is no metal to ask, in words."""
    return assembly.bracket.fault or holes_missing(assembly) or "the bracket is still unknown"


def _turning_hub(assembly: Assembly) -> tuple[Ring, ...]:
    """Return what turns about the axle: for a bracket on the tube only what is wider than the tube it turns in."""
    tube = known(assembly.job.hub.tube_diameter_mm)
    if not assembly.bracket.kind.on_tube or not is_known(tube):
        return assembly.hub
    return tuple(ring for ring in assembly.hub if not ring.r1 <= tube / 2)


def _to_rings(
    id: str, other: str, assembly: Assembly, rings: tuple[Ring, ...], missing: str, lengths: LengthFormat
) -> Finding:
    """The room to what turns with the wheel."""
    limit, prisms = limit_for(assembly.job, f"bracket-to-{id}"), assembly.metal
    value = smallest([nearest_gap(prism.ring, rings, limit.watch) for prism in prisms]) if prisms else UNKNOWN
    why = (
        space_text("bracket", other, value, lengths)
        + "; what turns must not meet what stands, hot and with play in its bearings."
    )
    return make_finding(
        f"bracket-to-{id}", value, limit, why, features=("bracket", id), missing=missing or _unmade(assembly)
    )


def _to_obstacles(assembly: Assembly, lengths: LengthFormat, turns: bool) -> Finding:
    """The room to the nearest obstacle of the knuckle."""
    obstacles, limit = assembly.job.knuckle.obstacles, limit_for(assembly.job, "bracket-to-obstacle")
    swept = bracket_obstacle_sweep(assembly, assembly.metal, 1)
    value, pair = float(swept.value[0]), swept.pair()
    why = "No obstacle is recorded near the bracket."
    if obstacles:
        why = f"The bracket {_passes(name_of(assembly, pair[1]), value, lengths)}."

    def sweep(there: Assembly, clock: FloatArray) -> FloatArray:
        return bracket_obstacle_sweep(there, metal_at(there, clock), len(clock)).value

    remedies = _turned(assembly, value, limit, sweep) if turns and assembly.bracket.kind.cut is not None else ()
    if turns and judge(value, limit) in (Verdict.STOP, Verdict.CAUTION):
        short, name = limit.watch - value, name_of(assembly, pair[1])
        side = (
            "cut the bracket back there if metal is left round its holes: pull its edge in, and look at the findings on metal",
            "a casting only where it may lose metal, little by little: ask someone qualified; never a lug or a bearing's seat",
        )  # fmt: skip
        remedies += (
            Remedy(
                f"Make {lengths.gap(short)} of room between the bracket and {name}", round(short, 3), False, (), side
            ),
        )
    return make_finding(
        "bracket-to-obstacle", value, limit, why,
        features=pair, missing=obstacle_missing(assembly) or _unmade(assembly),
        remedies=remedies,
        assumed=("only the obstacles in the job are looked at",),
    )  # fmt: skip


def _turned(assembly: Assembly, value: float, limit: Limit, sweep: Sweep) -> tuple[Remedy, ...]:
    return turn_remedies(assembly, sweep, limit) if judge(value, limit) in (Verdict.STOP, Verdict.CAUTION) else ()


def _to_caliper(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """The room to the caliper's body; only the ears' faces may touch the bracket."""
    caliper, clock = assembly.job.caliper, assembly.line.frame.here
    value = float(bracket_caliper_sweep(assembly, assembly.metal, clock)[0])
    passes = _passes("the caliper's body", value, lengths)
    why = f"The bracket {passes}; only the ears' faces may touch it."
    missing = missing_names(
        body_inboard=caliper.body_inboard_mm, body_width=caliper.body_width_mm, clock_angle=assembly.job.fit.clock_deg
    )
    return make_finding(
        "bracket-to-caliper", value, limit_for(assembly.job, "bracket-to-caliper"), why,
        features=("bracket", "caliper"), missing=missing or _unmade(assembly),
    )  # fmt: skip


def _passes(other: str, value: float, lengths: LengthFormat) -> str:
    return f"clears {other} by {lengths.gap(value)}" if value > 0 else f"runs into {other}"


ASKS: dict[str, Callable[[Assembly, LengthFormat, bool], Finding]] = {
    "bracket-to-rotor": lambda a, lengths, _: _to_rings("rotor", "the rotor", a, a.rotor, rotor_missing(a), lengths),
    "bracket-to-hub": lambda a, lengths, _: _to_rings(
        "hub", "hub and axle", a, _turning_hub(a), hub_missing(a), lengths
    ),
    "bracket-to-obstacle": _to_obstacles,
    "bolt-head-room": lambda a, lengths, turns: head_room(a, a.line.frame.here, lengths, turns),
    "bracket-to-caliper": lambda a, lengths, _: _to_caliper(a, lengths),
    "retainer-reach": lambda a, lengths, _: retainer_reach(a.job, _plan(a), lengths, a.bracket.kind.comes_off),
}
"""What is asked round the bracket's metal, by the finding that says it: of an assembly, with or without the turns that
cure it.
"""
