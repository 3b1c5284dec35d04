"""Findings of threads: each bolt in its own thread, the bolt that breaks before its thread strips, usual minimum sizes."""

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict, worst_check
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_check, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.metal_checks import chosen_bolts
from bicentra.core.fasteners.joint import engagement_against_stripping, usual_grade
from bicentra.core.parts.limits import limit_for, limit_in_mm
from bicentra.core.parts.materials import INSERT_METAL, WEAK_TENSILE, find_material
from bicentra.core.parts.threads import CLEARANCES, Thread, find_thread

SAME_THREAD = Limit(0.0, 0.0, False, "", "Geometry of the threads: ISO 261, ASME B1.1")
ALIKE_MM, ALIKE_PITCH_MM = 1.0, 0.1
SLEEVE_FIT_MM, LEAST_SLEEVE_MM = 0.1, 0.5
"""What a sleeve's hole is wider than its bolt, and the wall under which none is turned [mm]: common practice, no source."""
"""How near two threads of unlike diameter and pitch come to be taken for each other in the hand: common practice."""


class JointPlace(Record, frozen=True):
    """Where a bolt goes: what it is called, its thread where it has one, its plain or drilled hole [mm]."""

    name: str
    thread: str | None
    hole: float


def thread_fit(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """Compare every bolt with lug and ear; where the bracket is sleeved a sleeve takes the play of the lugs' plain holes."""
    sleeved = assembly.bracket.sleeved
    checks = tuple(_check(assembly, placed, lengths, sleeved) for placed in assembly.joints)
    checks += tuple(make_check(f"Bolts at the {group}s", UNKNOWN, SAME_THREAD, "") for group in assembly.unchosen)
    if not checks:
        checks = (make_check("Bolts", UNKNOWN, SAME_THREAD, ""),)
    decides = worst_check(checks)
    why = "Every bolt has the thread of its hole, or passes through it."
    if decides.verdict in (Verdict.STOP, Verdict.CAUTION):
        why = f"{decides.text}."
    if decides.verdict is Verdict.UNKNOWN:
        why = f"Still unknown: {_missing(assembly)}."
    remedies = _remedies(assembly) if decides.verdict is Verdict.STOP else ()
    return Finding(
        "thread-fit", decides.verdict, decides.value, decides.limit, decides.unit, why, remedies,
        ("bolts",), checks, SAME_THREAD.source, at_least=decides.unit == "mm",
    )  # fmt: skip


def _remedies(assembly: Assembly) -> tuple[Remedy, ...]:
    """Return the bolts whose thread the holes have, for each group whose holes have one."""
    found = []
    lugs, bracket = assembly.job.knuckle.lugs, assembly.job.bracket
    own = {"lug": {lug.thread for lug in lugs}, "caliper": {assembly.job.caliper.ear_thread}}
    for group, threads in own.items():
        name = next(iter(threads)) if len(threads) == 1 else None
        thread, now = find_thread(name) if name else None, find_thread(getattr(bracket, f"{group}_bolt") or "")
        if thread is not None and now is not None and thread.name != now.name:
            edits = ((f"bracket.{group}_bolt", thread.name), (f"bracket.{group}_bolt_length_mm", None))
            side = ("holes and bosses of the bracket change with it",)
            found.append(
                Remedy(
                    f"Use {thread.name} bolts at the {'lugs' if group == 'lug' else 'ears'}", None, True, edits, side
                )
            )
    return tuple(found)


def _missing(assembly: Assembly) -> str:
    needs = "needs the thread, or the diameter of the plain hole, of every lug and of the ears"
    return missing_names(**chosen_bolts(assembly)) or needs


def _check(assembly: Assembly, placed: PlacedJoint, lengths: LengthFormat, sleeved: bool) -> Check:
    group, index = placed.at, placed.index
    bolt, female = placed.joint.thread, placed.joint.stack.female
    place = _place(assembly, group, index)
    label = f"{placed.name[0].upper()}{placed.name[1:]}"
    if female == group:
        return _screwed(label, bolt, place)
    return _through(label, bolt, place, assembly, lengths, sleeved and group == "lug")


def _place(assembly: Assembly, group: str, index: int) -> JointPlace:
    job = assembly.job
    if group == "ear":
        return JointPlace(f"ear {index + 1}", job.caliper.ear_thread, known(job.caliper.ear_hole_mm))
    lug = job.knuckle.lugs[index]
    return JointPlace(f"the lug “{lug.name}”" if lug.name else f"lug {index + 1}", lug.thread, known(lug.hole_mm))


def _screwed(label: str, bolt: Thread, place: JointPlace) -> Check:
    """A bolt in a threaded hole: the thread of both has to be one."""
    own = find_thread(place.thread) if place.thread else None
    if own is None:
        return make_check(label, UNKNOWN, SAME_THREAD, "")
    wrong = own.name != bolt.name
    text = f"{label}: {bolt.name} in {place.name}, {own.name}"
    return make_check(
        label, float(wrong), SAME_THREAD, f"{text}: {distinct(bolt, own)}" if wrong else f"{text}, the same"
    )


def _through(
    label: str, bolt: Thread, place: JointPlace, assembly: Assembly, lengths: LengthFormat, sleeved: bool
) -> Check:
    """A bolt that passes a hole: room for its shank, and not so much that nothing centres it."""
    limit = limit_for(assembly.job, "bolt-in-hole")
    room = place.hole - bolt.major
    text = f"{label}: {bolt.name} ({lengths.size(bolt.major)}) does not pass the {lengths.size(place.hole)} hole of {place.name}"
    if place.thread and room < limit.stop:
        text += f", which is threaded {place.thread}"
    if room >= limit.stop:
        text = f"{label}: {bolt.name} passes {place.name} with {lengths.gap(room)} of room"
    if place.thread and not sleeved:
        words = (
            f"{label}: {bolt.name} passes through {place.name}, which is threaded {place.thread}: a thread that a bolt only passes "
            "holds it off its seat; drill it out, or screw the bolt into it"
        )
        return Check(label, Verdict.STOP, room, limit.stop, "mm", words)
    most = CLEARANCES[bolt.size][2] - bolt.major
    if is_known(room) and room > most + 1e-6 and not sleeved:
        cure = "a sleeve would centre it" if sleeve_wall(bolt, place.hole) >= LEAST_SLEEVE_MM else "take a thicker bolt"
        words = f"{text}, more than a loose hole has ({lengths.gap(most)}): the joint can shift, {cure}"
        return Check(label, Verdict.CAUTION, room, most, "mm", words)
    return make_check(label, room, limit, text)


def sleeve_wall(bolt: Thread, hole: float) -> float:
    """Return the wall of a sleeve round ``bolt`` that fills ``hole`` [mm]; negative where the bolt alone fills it."""
    return (hole - bolt.major - SLEEVE_FIT_MM) / 2


def distinct(bolt: Thread, hole: Thread) -> str:
    """Return what happens when ``bolt`` is screwed into ``hole``, another thread, in one clause."""
    apart, turn = bolt.major - hole.major, abs(bolt.pitch - hole.pitch)
    if abs(apart) < 1e-6:
        return (
            f"one diameter, but {_pitch(bolt)} against {_pitch(hole)}: it starts by hand and jams after a few turns; "
            "look alike by eye, a thread gauge tells them apart"
        )
    if abs(apart) <= ALIKE_MM and turn <= ALIKE_PITCH_MM:
        if apart < 0:
            return (
                f"nearly one pitch, {-apart:.2f} mm thinner: it screws in all the way, holds by the tips of its flanks and "
                "pulls out; count threads and measure the diameter"
            )
        return f"nearly one pitch, {apart:.2f} mm thicker: it starts, binds and tears the thread; measure the diameter"
    return "thinner than its hole: it holds nothing" if apart < 0 else "thicker than its hole: it does not go in"


def _pitch(thread: Thread) -> str:
    return f"{25.4 / thread.pitch:.0f} threads an inch" if thread.inch else f"{thread.pitch:g} mm pitch"


class ThreadHold(Record, frozen=True):
    """Thread engaged and needed [mm] by one bolt; ``needed`` is unknown where nobody named the material."""

    name: str
    female: str
    engaged: float
    needed: float
    tensile: float

    def text(self, lengths: LengthFormat) -> str:
        """Return one sentence for the screen and for paper."""
        if not is_known(self.needed):
            return f"{self.name}: whether the thread strips is unknown until the {self.female}'s material is."
        if not is_known(self.engaged):
            return f"{self.name}: {lengths.gap(self.needed)} of thread needed; what is engaged is still unknown."
        end = (
            "the bolt breaks first"
            if self.engaged >= self.needed
            else "the thread strips first: more thread, or an insert"
        )
        taken = (
            f"{self.tensile:.0f} N/mm²" if self.female in ("plate", "insert") else f"taken as {self.tensile:.0f} N/mm²"
        )
        return (
            f"{self.name}: {lengths.gap(self.engaged)} engaged, {lengths.gap(self.needed)} needed in the {self.female} "
            f"({taken}); {end}."
        )


def thread_holds(assembly: Assembly) -> tuple[ThreadHold, ...]:
    """Return one record for every bolt in a threaded part; a nut of the bolt's own grade holds by its standard."""
    return tuple(_hold(assembly, placed) for placed in assembly.joints if placed.joint.stack.female != "nut")


def _hold(assembly: Assembly, placed: PlacedJoint) -> ThreadHold:
    joint, tensile = placed.joint, _tensile(assembly, placed.joint.stack.female)
    grade = usual_grade(joint.thread)
    needed = engagement_against_stripping(joint.thread, grade.tensile, tensile) if is_known(tensile) else UNKNOWN
    return ThreadHold(placed.name, joint.stack.female, joint.engagement, needed, tensile)


def _tensile(assembly: Assembly, female: str) -> float:
    """Return the strength of the threaded part: the plate's own, or the weak end of the kind of metal."""
    job = assembly.job
    if female in ("plate", "insert"):
        material = find_material(job.bracket.material if female == "plate" else INSERT_METAL)
        return UNKNOWN if material is None else material.tensile
    kind = job.knuckle.material if female == "lug" else job.caliper.ear_material
    return WEAK_TENSILE.get(kind or "", UNKNOWN)


def least_sizes(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """Bolts thick enough, the bracket thick enough for them, bosses and ears wide enough round them."""
    checks = tuple(check for placed in assembly.joints for check in _checks(assembly, placed, lengths))
    checks += tuple(
        make_check(f"Bolts at the {group}s", UNKNOWN, limit_for(assembly.job, "bolt-size"), "")
        for group in assembly.unchosen
    )
    if not checks:
        checks = (make_check("Bolts", UNKNOWN, limit_for(assembly.job, "bolt-size"), ""),)
    decides = worst_check(checks)
    why = f"{decides.text}. No strength is computed yet: this is the least that is built, not proof that it holds."
    if decides.verdict is Verdict.OK:
        why = "Bolts, plate and bosses are not below what is usually built; no strength is computed yet."
    if decides.verdict is Verdict.UNKNOWN:
        why = f"Still unknown: {_least_sizes_missing(assembly)}."
    return Finding(
        "least-sizes", decides.verdict, decides.value, decides.limit, decides.unit, why,
        features=("bracket", "bolts"), checks=checks, source=limit_for(assembly.job, "bolt-size").source,
    )  # fmt: skip


def _least_sizes_missing(assembly: Assembly) -> str:
    job = assembly.job
    return (
        missing_names(
            **chosen_bolts(assembly),
            boss_of_every_lug=0.0 if all(lug.boss_mm is not None for lug in job.knuckle.lugs) else None,
            ear_boss=job.caliper.ear_boss_mm,
        )
        or "the plate's thickness is unknown"
    )


def _checks(assembly: Assembly, placed: PlacedJoint, lengths: LengthFormat) -> tuple[Check, ...]:
    job, major = assembly.job, placed.joint.thread.major
    group, index = placed.at, placed.index
    name = f"{placed.name[0].upper()}{placed.name[1:]}"
    boss = known(job.caliper.ear_boss_mm if group == "ear" else job.knuckle.lugs[index].boss_mm)
    metal = assembly.stack_up.metal_at_ears if group == "ear" else assembly.stack_up.thickness
    wall = (boss - major) / 2
    part = "an ear" if group == "ear" else "a lug"
    return (
        make_check(name, major, limit_for(job, "bolt-size"), f"{name}: {placed.joint.thread.name} is {lengths.size(major)} thick"),
        make_check(f"{name}, metal clamped", metal, limit_in_mm(job, "plate-thickness", major),
                   f"{name}: {lengths.size(metal)} of bracket for a bolt of {lengths.size(major)}"),
        make_check(f"{name}, boss", wall, limit_in_mm(job, "boss-metal", major),
                   f"{name}: {lengths.gap(wall) if is_known(wall) and wall >= 0 else 'no metal'} round it in {part} of "
                   f"{lengths.size(boss)}"),
    )  # fmt: skip
