"""The caliper bolted straight to the lugs, or by a plate stacked on the original bracket's ears."""

from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.bushings import InEars, bolt_play, bolts_in_ears, clocks_of, on_lugs, turn_apart
from bicentra.core.bracket.families.common import cut_plate
from bicentra.core.bracket.families.plates import flat_on, round_spacers
from bicentra.core.bracket.holes import UNLIKE_BOLTS, bolts_differ, one_lug_bolt
from bicentra.core.bracket.model import Bracket, Family, FamilyCheck, Listed, MadePart, refused
from bicentra.core.bracket.stack_up import StackUp, shim_pieces
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.threads import Thread

MOST_OFF_MM, MOST_SHIM_MM, NEAR_MM = 5.0, 3.0, 0.05
"""Where the holes stand further apart nobody thinks of bolting it straight on; what is thicker than this under an ear is a turned
spacer, not shims; and what an ear may stand inside its lug's face: common practice."""


def straight_on(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """The caliper on the lugs as it is: holes meet within the bolts' play, ears lie on the lugs' faces, or shims are between."""
    caliper, bolt = job.caliper, one_lug_bolt(job)
    sizes = (caliper.ear_spacing_mm, caliper.ear_thickness_mm)
    holes = caliper.ear_hole_mm is not None or caliper.ear_thread is not None
    if bolts_differ(job):
        return (refused(STRAIGHT, job, UNLIKE_BOLTS),)
    if bolt is None or not holes or None in sizes or not is_known(*line.axial_offset, line.ear_line_radius):
        why = "The ears' sizes, the lugs' places and a lug bolt decide this one."
        return (refused(STRAIGHT, job, why, ("ear sizes", "lugs", "lug bolt")),)
    sits = bolts_in_ears(job, line)
    if not is_known(*sits.eccentricity):
        return (refused(STRAIGHT, job, "The lugs are not placed yet.", ("lugs",)),)
    off = max(sits.eccentricity)
    if off > MOST_OFF_MM:
        why = f"The ears' holes stand {lengths.gap(off)} off the lugs': a bracket has to carry the caliper there."
        return (refused(STRAIGHT, job, why, turns=True),)
    bracket = on_lugs(STRAIGHT, job, line)
    stack_up, gaps = _packed(bracket.stack_up, job)
    play, spare = bolt_play(job, bolt)
    spacers, asks = _between(job, bracket.job, stack_up, gaps, bolt)
    asks = (*asks, *_asks(job, lengths, sits, (off, play, spare, min(gaps))))
    packs = max(stack_up.shims)
    what = "the caliper's ears lie on the lugs' faces"
    if packs > 0.0:
        what = f"{lengths.gap(packs)} of {'spacer' if spacers else 'shims'} under each ear bring it to the middle"
    fits = off <= play and spare >= 0.0 and min(gaps) >= -NEAR_MM
    why = f"{'No bracket is needed' if fits else 'With nothing of a bracket between'}: {what}."
    solved = {"eccentricity_mm": off, "play_mm": play, "shims_mm": packs, "clock_deg": sits.clock}
    made = replace(bracket, stack_up=stack_up, parts=spacers, asks=asks, why=why, solved=solved)
    return (replace(made, reversible=True, packed=not spacers),)


def _packed(stands: StackUp, job: Job) -> tuple[StackUp, tuple[float, ...]]:
    """Return the caliper packed off the lugs until it is centred, or as the job packs it; and what that takes at each
    lug [mm].
    """
    gaps = tuple(-stands.sign * error for error in stands.errors)
    shims = job.bracket.shims_mm or tuple(
        round(gap, 3) if gap > MOST_SHIM_MM else sum(shim_pieces(gap)) for gap in gaps
    )
    errors = tuple(error + stands.sign * shim for error, shim in zip(stands.errors, shims))
    lift = stands.sign * sum(shims) / len(shims)
    packed = replace(
        stands,
        shims=shims,
        errors=errors,
        near_z=stands.near_z + lift,
        far_z=stands.far_z + lift,
        ear_z=stands.ear_z + lift,
    )
    return packed, gaps


def _between(
    job: Job, there: Job, stack_up: StackUp, gaps: tuple[float, ...], bolt: Thread
) -> tuple[tuple[MadePart, ...], tuple[FamilyCheck, ...]]:
    """Return turned spacers where what lies under the ears is too much for shims, and whether they are stout [mm]."""
    if max(stack_up.shims) <= MOST_SHIM_MM or min(gaps) <= 0.0:
        return (), ()
    spacers, own = round_spacers(there, stack_up, list(stack_up.shims), [bolt] * len(job.knuckle.lugs))
    return spacers, (own,)


def _asks(
    job: Job, lengths: LengthFormat, sits: InEars, sizes: tuple[float, float, float, float]
) -> tuple[FamilyCheck, ...]:
    """Return whether holes and faces meet; ``sizes``: how far holes are apart, play, spare of the holes, gap at a face [mm]."""
    off, play, spare, gap = sizes
    holes = f"The ears' holes stand {lengths.gap(off)} off the lugs', and the bolts have {lengths.gap(play)} of play: "
    holes += "it goes on as it is." if off <= play else "no bolt passes both. Bushings in the ears, or a bracket."
    fills = f"The bolts have {lengths.gap(play)} of play in their holes."
    if spare < 0.0:
        fills += f" A hole is {lengths.gap(spare)} over the loose class and holds nothing in its place: "
        fills += "put sleeves in, or take thicker bolts."
    faces = "The ears lie on the lugs' faces, or stand off them by what shims fill."
    if gap < -0.005:
        faces = f"The ears stand {lengths.gap(gap)} inside the lugs' faces: no shim brings them out. "
        faces += "Face off the lugs, move the rotor, or make a bracket."
    turn = abs(turn_apart(sits.clock, known(job.fit.clock_deg)))
    where = f"The lugs set the caliper at clock {sits.clock:.2f}°, {turn:.2f}° off the job's."
    cure = Remedy(f"Set the clock angle to {sits.clock:.2f}°", None, True, (("fit.clock_deg", round(sits.clock, 4)),))
    return (
        FamilyCheck("straight-holes", play - off, holes, "needs the holes of ears and lugs"),
        FamilyCheck("straight-play", spare, fills, "needs the holes of ears and lugs"),
        FamilyCheck("bushing-axial", gap, faces, limit=Limit(-0.25, -NEAR_MM)),
        FamilyCheck("bushing-clock", turn, where, "needs the clock angle", features=("caliper",), remedies=(cure,)),
    )


STRAIGHT = Family(
    "straight-on",
    "Caliper straight on the lugs",
    straight_on,
    mounting="direct",
    sided=False,
    stands_at=clocks_of,
    appears="it shows whether it fits",
    ready="It shows whether it fits",
)


def on_original(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """A plate stacked on the original caliper bracket, whose holes then are the lugs; that bracket has to exist still."""
    del line
    before = job.before
    if before is None or before.caliper is None or before.rotor is None:
        why = "What came off is not noted: rotor and caliper of the original brake place its bracket."
        return (refused(ON_ORIGINAL, job, why, ("original rotor and caliper",)),)
    old = before.caliper
    fit = replace(job.fit, pad_inset_mm=0.0, rotor_spacer_mm=0.0, clock_deg=before.clock_deg)
    was = line_up(replace(job, rotor=before.rotor, caliper=old, fit=fit))
    holes = before.bracket_ear_thread is not None or before.bracket_ear_hole_mm is not None
    if not is_known(was.ears[0][0], was.ear_face_z) or not holes:
        why = "The original caliper's ears, its clock angle and the holes in its bracket are not all measured."
        return (refused(ON_ORIGINAL, job, why, ("original ears", "original clock angle", "original holes")),)
    side = "outboard" if old.ear_seat == "inboard" else "inboard"
    lugs = tuple(
        Lug(name=f"original ear {k + 1}", x_mm=x, y_mm=y, z_mm=was.ear_face_z, hole_mm=before.bracket_ear_hole_mm,
            thread=before.bracket_ear_thread, boss_mm=old.ear_boss_mm, thickness_mm=before.bracket_ear_mm, seat=side)
        for k, (x, y, _) in enumerate(was.ears)
    )  # fmt: skip
    plain = replace(job.bracket, side=side, shims_mm=None, cutouts=(), dowels=(), pulls=(), boss_walls_mm=())
    stacked = replace(job, knuckle=replace(job.knuckle, lugs=lugs), bracket=plain)
    plate = flat_on(ON_ORIGINAL, stacked, line_up(stacked), lengths)
    keep = Listed("re-used", 1, "original caliper bracket", "", "do not throw away: the plate is bolted to it")
    return (replace(plate, why=f"Keep the original bracket: it is part of the stack. {plate.why}", listed=(keep,)),)


ON_ORIGINAL = Family(
    "on-original-bracket",
    "Plate on the original bracket",
    on_original,
    cut_plate,
    mounting="original-bracket",
    sided=False,
)
