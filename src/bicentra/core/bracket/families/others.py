"""Flat plates between other places: onto the original caliper bracket's ears, and to a parking-brake caliper."""

from dataclasses import replace

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.wording import Words
from bicentra.core.bracket.families.model import Candidate, unsuited
from bicentra.core.bracket.families.plates import flat
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job, Lug


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
            thickness_mm=10.0, seat=side)
        for k, (x, y, _) in enumerate(was.ears)
    )  # fmt: skip
    plain = replace(job.bracket, side=side, shims_mm=None, cutouts=(), boss_walls_mm=())
    stacked = replace(job, knuckle=replace(job.knuckle, lugs=lugs), bracket=plain)
    return _renamed(
        flat(stacked, words), "on-original-bracket", title, "Keep the original bracket: it is part of the stack. "
    )


def parking_adapter(job: Job, words: Words) -> Candidate:
    """An offset adapter that holds a parking-brake caliper on the same rotor, from the same lugs."""
    title = "Adapter for a parking-brake caliper"
    parking = job.parking
    if parking is None or parking.clock_deg is None:
        return unsuited("parking-adapter", title, "No parking-brake caliper is in the job.", ("parking caliper",))
    fit = replace(job.fit, clock_deg=parking.clock_deg, pad_inset_mm=parking.pad_inset_mm)
    there = replace(job, caliper=parking.caliper, fit=fit, bracket=replace(job.bracket, cutouts=()))
    return _renamed(flat(there, words), "parking-adapter", title, "")


def _renamed(candidate: Candidate, family: str, title: str, note: str) -> Candidate:
    return replace(candidate, family=family, title=title, why=note + candidate.why)
