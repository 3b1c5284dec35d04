"""Redrilling one bolt pattern to another: where the new holes go, what metal is left, and the job's rotor drilled so."""

import math

from bicentra.core.base.finding import Edit, Remedy, Verdict, judge, worst
from bicentra.core.base.numbers import known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import PRACTICE, Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.job import Job
from bicentra.core.parts.patterns import Pattern
from bicentra.core.parts.threads import find_thread

LIGAMENT = Limit(2.0, 5.0, source=PRACTICE)
"""Metal left between two holes: below the first they count as run into each other."""
EDGE = Limit(0.75, 1.0, unit="× d", source=PRACTICE)
"""Hole centre to the nearest edge, in hole diameters."""
SAME_MM = 0.3
"""Centres closer than this are one hole that serves both patterns."""
ALIGNED_DEG = 1e-6
STEEL_G_MM3 = 7.85e-3
WARNING = (
    "A redrilled rotor or hub is a changed safety part: have it checked by someone qualified, and follow local rules. "
    "Drill face down on a centring puck, all holes of one pattern in one clamping, then check the runout."
)


class Redrill(Record, frozen=True):
    """How to redrill ``old`` to ``new``. Pairs are (old hole, new hole), counted from 0 counter-clockwise from the top.

    ``ligament`` is the least metal between unlike holes [mm], negative where they run into each other; ``shared`` are
    pairs on one radial line with ``share`` or in one place; ``between`` is the metal between neighbours of the new pattern;
    ``edge_inner`` and ``edge_outer`` are the least metal between a
    new hole and bore or rim [mm] and ``imbalance`` what the new holes take off centre [g·mm], unknown where not asked.
    """

    old: Pattern
    new: Pattern
    old_hole: float
    new_hole: float
    clock_deg: float
    ligament: float
    shared: tuple[tuple[int, int], ...]
    overlaps: tuple[tuple[int, int], ...]
    edge_inner: float
    edge_outer: float
    imbalance: float
    between: float = math.inf

    @property
    def verdict(self) -> Verdict:
        """Stop where holes run into each other or out at an edge; one oval hole on purpose is a caution; what was not
        asked does not count.
        """
        amiss = set(self.overlaps) - set(self.shared)
        found = [Verdict.STOP if amiss else judge(self.ligament, LIGAMENT), judge(self.between, LIGAMENT)]
        found += [Verdict.CAUTION] * bool(self.ovals)
        for edge in (self.edge_inner, self.edge_outer):
            if not math.isnan(edge):
                found.append(judge((edge + self.new_hole / 2) / self.new_hole, EDGE))
        return worst(found)

    @property
    def ovals(self) -> tuple[tuple[int, int], ...]:
        """Pairs on one radial line that run into each other: one oval hole each."""
        return tuple(pair for pair in self.shared if pair in self.overlaps)

    def oval_long(self, pair: tuple[int, int]) -> float:
        """Return how long the oval hole of ``pair`` is, along the radius [mm]."""
        apart = math.dist(self.old.centres()[pair[0]], self.new.centres(self.clock_deg)[pair[1]])
        return apart + (self.old_hole + self.new_hole) / 2


def plan_redrill(
    old: Pattern,
    new: Pattern,
    hole_mm: float,
    *,
    old_hole_mm: float | None = None,
    share: bool = False,
    bore_mm: float = math.nan,
    rim_mm: float = math.nan,
    thickness_mm: float = math.nan,
) -> Redrill:
    """Return the clocking of ``new`` against ``old`` whose smallest ligament is greatest.

    ``hole_mm`` and ``old_hole_mm`` are the diameters (the same unless told), ``bore_mm`` and ``rim_mm`` those of the face
    that is drilled. With ``share`` one hole of each pattern is put on one radial line instead.
    """
    wide = hole_mm if old_hole_mm is None else old_hole_mm
    both = math.lcm(old.count, new.count)
    clock = 0.0 if share else 180.0 / both
    olds, news = old.centres(), new.centres(clock)
    shared, overlaps, ligaments = [], [], []
    for i, (a, turned) in enumerate(zip(olds, old.angles())):
        for j, (b, towards) in enumerate(zip(news, new.angles(clock))):
            apart = math.dist(a, b)
            aligned = abs(math.remainder(turned - towards, 360.0)) < ALIGNED_DEG
            one = apart < SAME_MM
            if (share and aligned) or one:
                shared.append((i, j))
            else:
                ligaments.append(apart - (wide + hole_mm) / 2)
            if not one and apart - (wide + hole_mm) / 2 < 0:
                overlaps.append((i, j))
    made = [b for j, b in enumerate(news) if not any(j == k and math.dist(olds[i], b) < SAME_MM for i, k in shared)]
    taken = math.hypot(sum(x for x, _ in made), sum(y for _, y in made))
    return Redrill(
        old=old,
        new=new,
        old_hole=wide,
        new_hole=hole_mm,
        clock_deg=clock,
        ligament=min(ligaments, default=math.inf),
        shared=tuple(shared),
        overlaps=tuple(overlaps),
        edge_inner=new.circle / 2 - hole_mm / 2 - bore_mm / 2,
        edge_outer=rim_mm / 2 - new.circle / 2 - hole_mm / 2,
        imbalance=taken * math.pi / 4 * hole_mm**2 * thickness_mm * STEEL_G_MM3,
        between=new.chord - hole_mm,
    )


def redrill_text(plan: Redrill) -> str:
    """Return the plan in plain words."""
    said = [f"Turn the {plan.new.name} pattern {plan.clock_deg:g}° against the {plan.old.name} one."]
    if plan.ligament < 0:
        said.append(f"Holes run {-plan.ligament:.2f} mm into each other: {_pairs(plan.overlaps)}.")
    elif math.isfinite(plan.ligament):
        said.append(f"The least metal between an old and a new hole is {plan.ligament:.2f} mm.")
    if plan.between < 0:
        said.append(f"The new holes run {-plan.between:.2f} mm into each other.")
    if plan.shared:
        said.append(f"On one line: {_pairs(plan.shared)}.")
    if plan.ovals:
        said.append(f"Old and new make one oval hole there, {plan.oval_long(plan.ovals[0]):.2f} mm long: its stud centres nothing, "
                    "and its nut has to seat on whole metal.")  # fmt: skip
    for edge, what in ((plan.edge_inner, "bore"), (plan.edge_outer, "rim")):
        if not math.isnan(edge):
            said.append(f"{edge:.2f} mm is left to the {what}.")
    if plan.imbalance > 1.0:
        said.append(f"The new holes put it {plan.imbalance:.0f} g·mm out of balance.")
    return " ".join(said)


def _pairs(pairs: tuple[tuple[int, int], ...]) -> str:
    return ", ".join(f"old hole {i + 1} with new hole {j + 1}" for i, j in pairs[:4]) + (" …" if len(pairs) > 4 else "")


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
