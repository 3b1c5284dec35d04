"""How far the other corner of the axle, as it is written down in the vehicle's file, is from this one.

What both corners' surveys say of each other is ``survey.findings.corner_mismatch``; this asks where one of them has none.
"""

import math
from collections.abc import Iterator

from bicentra.core.base.finding import Check, Finding, Verdict
from bicentra.core.base.numbers import known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, make_check, make_finding
from bicentra.core.parts.corners import across
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import Hub, Job, Lug
from bicentra.core.parts.limits import limit_for

PLACE = ("x_mm", "y_mm")
PASSED_OVER = (*PLACE, "name", "extra", "bolt")
MOST_LISTED = 4


def distances(job: Job, lengths: LengthFormat) -> tuple[Check, ...]:
    """Return how far lugs and hub are from those of the other corner, measure by measure [mm].

    Nothing while the other corner has no numbers of its own; what is measured at neither corner is left out.
    """
    if job.opposite is None:
        return ()
    limit, found = limit_for(job, "corner-mismatch"), []
    for label, apart in _apart(job):
        found.append(make_check(label, apart, limit, f"{label}: {lengths.gap(apart)} apart"))
    return tuple(found)


def _pairs(job: Job) -> Iterator[tuple[str, Hub | Lug, Hub | Lug]]:
    """Yield what is compared: the hub, and the lugs as far as both corners have them."""
    if job.opposite is not None:
        yield "hub", job.hub, job.opposite.hub
        for one, two in zip(job.knuckle.lugs, job.opposite.knuckle.lugs):
            yield one.name or "lug", one, two


def _apart(job: Job) -> Iterator[tuple[str, float]]:
    for label, one, two in _pairs(job):
        if isinstance(one, Lug) and isinstance(two, Lug):
            yield f"{label}, along the face", math.dist(*((known(lug.x_mm), known(lug.y_mm)) for lug in (one, two)))
        for name in (of.name for of in fields(one) if of.name.endswith("_mm") and of.name not in PASSED_OVER):
            here, there = getattr(one, name), getattr(two, name)
            if here is not None or there is not None:
                yield f"{label}, {_plain(name)}", abs(known(here) - known(there))


def unlike(job: Job, lengths: LengthFormat) -> tuple[str, ...]:
    """Return in words what the other corner has otherwise: measures beyond their limit, kinds, lugs, what it overrides."""
    other = job.opposite
    if other is None:
        return ()
    text = [check.text for check in distances(job, lengths) if check.verdict in (Verdict.STOP, Verdict.CAUTION)]
    if len(job.knuckle.lugs) != len(other.knuckle.lugs):
        text.append(f"{len(other.knuckle.lugs)} lugs instead of {len(job.knuckle.lugs)}")
    for label, one, two in _pairs(job):
        for name in (of.name for of in fields(one) if not of.name.endswith("_mm") and of.name not in PASSED_OVER):
            here, there = getattr(one, name), getattr(two, name)
            if here != there:
                text.append(f"{label}, {_plain(name)}: {there or 'none'} instead of {here or 'none'}")
    return (*text, *(f"{path} is its own" for path in sorted(other.overrides)))


def _plain(name: str) -> str:
    return {"z_mm": "seat face"}.get(name, name.removesuffix("_mm").replace("_", " "))


def both_surveyed(job: Job) -> bool:
    """Tell whether both corners of the axle have a survey, which says more of them than what is written down."""
    surveys = (job.survey.get(name) for name in (job.corner, across(job.corner)))
    return all(survey is not None and survey.features for survey in surveys)


def other_side(job: Job, lengths: LengthFormat) -> Finding | None:
    """Return whether the other corner's numbers are those of this one; nothing where surveys tell, or nothing is known of it."""
    if job.opposite is None or both_surveyed(job) or "knuckle" in job.borrowed:
        return None
    limit, checks, differ = limit_for(job, "corner-mismatch"), distances(job, lengths), unlike(job, lengths)
    apart = [check.value for check in checks]
    worst = max((value for value in apart if math.isfinite(value)), default=math.nan)
    value = worst if differ or all(map(math.isfinite, apart)) else math.nan
    corner = across(job.corner).replace("-", " ")
    why = f"The numbers of {corner} are those of this corner to {lengths.gap(worst)}; still measure the fit there."
    if differ:
        why = f"On {corner}: {'; '.join(differ[:MOST_LISTED])}. A bracket proven here is not proven there. "
        why += "Line that corner up by itself."
    missing = next((check.label for check in checks if check.verdict is Verdict.UNKNOWN), "its lugs")
    found = make_finding("corner-mismatch", value, limit, why, features=("knuckle", "bracket"), checks=checks,
                         missing=f"measured at one corner only: {missing}")  # fmt: skip
    if differ and found.verdict is not Verdict.CAUTION:  # however far the other corner is off, the work here goes on
        return replace(found, verdict=Verdict.CAUTION, why=why)
    return found
