"""A plate stacked on the original caliper bracket's ears."""

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.common import cut_plate
from bicentra.core.bracket.families.plates import flat_on
from bicentra.core.bracket.model import Bracket, Family, Listed, refused
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job, Lug


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
