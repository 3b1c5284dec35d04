"""Lugs, threads, bracket material and the locking of its bolts: what cannot hold, or cannot be as it is entered."""

import math
from collections.abc import Iterator

from bicentra.core.base.finding import Remedy
from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.materials import MATERIALS, find_material
from bicentra.core.parts.threads import find_thread

OPEN_SHARE, CLOSED_SHARE = 0.7, 0.6
"""A hole measured wider than this share of the way from the minor to the major diameter has lost its thread (a tap drill leaves
about a quarter); one narrower than the minor diameter by this many pitches was never tapped. Our judgement."""


def drilled_out(what: str, name: str | None, hole: float | None, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what is wrong with a ``hole`` [mm] of ``what`` that is said to have the thread called ``name``."""
    thread = find_thread(name) if name else None
    if thread is None or hole is None:
        return
    if hole > thread.minor + OPEN_SHARE * (thread.major - thread.minor):
        yield Conflict(
            f"{what}: a hole of {lengths.size(hole)} leaves next to nothing of an {thread.name} thread: it is drilled out. "
            "Clear the thread and use a nut, or enter the hole as tapped."
        )
    elif hole < thread.minor - CLOSED_SHARE * thread.pitch:
        yield Conflict(
            f"{what}: a hole of {lengths.size(hole)} is too small for an {thread.name} thread, which needs "
            f"{lengths.size(thread.minor)}.",
            stop=False,
        )


UNFIT = (
    "pla", "petg", "abs", "asa", "nylon", "pa6", "pa12", "resin", "plastic", "polymer", "print", "acetal", "pom", "delrin", "hdpe",
    "wood", "ply", "mdf", "card", "lead", "zinc", "tin", "magnesium", "solder", "pewter", "pot metal", "chocolate", "rubber",
)  # fmt: skip
"""Words of what no bracket is made of that has to hold a brake: soft, brittle, or creeping when warm. Common practice."""
METALS = ("steel", "stainless", "alumin", "titan", "en 8", "en8", "en24", "chromoly", "bronze", "iron")
USUAL = "removable threadlocker"
THIN_WALL_MM = 1.5
THIN_LUG_MM = 4.0
"""Wall round a lug's hole, and thickness of a lug, that are worth a second look [mm]. Our judgement."""


def lug_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the lugs of ``job``."""
    for k, lug in enumerate(job.knuckle.lugs):
        name = f"Lug “{lug.name}”" if lug.name else f"Lug {k + 1}"
        yield from _lug(name, lug, job, lengths)
    for k, one in enumerate(job.knuckle.lugs):
        for other in job.knuckle.lugs[:k]:
            if one.x_mm is None or one.y_mm is None or other.x_mm is None or other.y_mm is None:
                continue
            apart = math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm)
            holes = ((one.hole_mm or 0.0) + (other.hole_mm or 0.0)) / 2
            if one.hole_mm is not None and other.hole_mm is not None and apart < holes:
                yield Conflict(f"The holes of the lugs “{other.name}” and “{one.name}” run into each other.")


def _lug(name: str, lug: Lug, job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    yield from drilled_out(name, lug.thread, lug.hole_mm, lengths)
    if lug.hole_mm is not None and lug.boss_mm is not None and (wall := (lug.boss_mm - lug.hole_mm) / 2) < THIN_WALL_MM:
        text = "no metal" if wall <= 0 else f"{lengths.gap(wall)} of metal"
        yield Conflict(f"{name}: {text} round its {lengths.size(lug.hole_mm)} hole.", stop=wall <= 0)
    if lug.thickness_mm is not None and lug.thickness_mm < THIN_LUG_MM:
        yield Conflict(f"{name} is only {lengths.size(lug.thickness_mm)} thick: measure it again.", stop=False)
    barrel = job.hub.barrel_diameter_mm
    placed = barrel is not None and lug.x_mm is not None and lug.y_mm is not None
    if placed and math.hypot(lug.x_mm or 0.0, lug.y_mm or 0.0) < (barrel or 0.0) / 2:
        yield Conflict(f"{name} lies inside the hub's barrel, which turns: measure its place again.")


def bracket_conflicts(job: Job, metal: bool) -> Iterator[Conflict]:
    """Yield what speaks against how the bracket's bolts are kept from working loose and, where any part of it is made
    of the job's own ``metal``, against that.
    """
    if metal:
        yield from _material(job)
    if job.bracket.lock == "nothing":
        yield Conflict(
            "Nothing keeps the bolts from working loose: a brake shakes, and heats and cools its bolts.",
            remedies=(Remedy(f"Lock the bolts with {USUAL}", None, True, (("bracket.lock", USUAL),)),),
        )


def _material(job: Job) -> Iterator[Conflict]:
    name = (job.bracket.material or "").strip()
    if find_material(name) is not None:
        return
    others = f"Choose one of: {', '.join(MATERIALS)}."
    words = name.lower().replace("-", " ")
    if not name:
        yield Conflict(f"The bracket's metal is not chosen. {others}", unknown=True)
    elif any(word in words.split() or (len(word) > 4 and word in words) for word in UNFIT) and "steel" not in words:
        yield Conflict(
            f"A bracket of {name} does not hold a brake: it creeps, breaks or melts beside a hot rotor. A printed trial piece "
            f"is fine, the bracket itself is not. {others}"
        )
    elif any(word in words for word in METALS):
        yield Conflict(
            f"The strength of “{name}” is unknown here: have it stated by who sells it. {others}", stop=False
        )
    else:
        yield Conflict(f"“{name}” is no metal that is known here. {others}", unknown=True)
