"""How each bench stands, and what the cover sheet and the list of recent jobs say of a corner."""

from collections.abc import Callable, Iterable
from datetime import datetime
from functools import lru_cache
from pathlib import Path

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record
from bicentra.core.base.registry import FindingKind, kind_of
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.bracket.families.table import family_of
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.views.drum import drum_view
from bicentra.core.drawing.views.face import face_view
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.inputs.required_inputs import is_drawn, required_inputs
from bicentra.core.parts.brakes import Drum
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.job import Job
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.uncertainty.assess import assess
from bicentra.study.document.brakes import DRUM, shown_job
from bicentra.study.document.next_step import next_step
from bicentra.study.document.starting import example_vehicle
from bicentra.study.document.store import load_vehicle, shown
from bicentra.study.document.study import Study


class BenchState(Record, frozen=True):
    """``verdict``: the worst there; ``None`` where nothing is asked. ``open``: findings that are not met. ``text``: in words."""

    verdict: Verdict | None
    open: int
    text: str


NOTHING_ASKED = BenchState(None, 0, "nothing is asked here yet")


def bench_of(kind: FindingKind) -> str:
    """Return the bench on which what ``kind`` asks is settled."""
    if kind.group == "survey":
        return "survey"
    if kind.group == "pedal":
        return "pedal"
    if kind.group == "trial":
        return "trialfit"
    if kind.of_bracket or kind.group == "parking":
        return "bracket"
    return "parts" if kind.of_parts else "lineup"


def bench_states(job: Job, findings: Iterable[Finding]) -> dict[str, BenchState]:
    """Return the state of every bench that is asked something, by name; the cover has all of it.

    The line-up counts what its list shows, which is all of the corner but its trials; others what is settled there.
    """
    held: dict[str, list[Finding]] = {"cover": []}
    for finding in findings:
        bench = bench_of(kind_of(finding.id))
        lists = {bench, "cover"} | ({"lineup"} if bench not in ("trialfit", "pedal") else set())
        for name in lists:
            held.setdefault(name, []).append(finding)
    if not job.trials:
        held["trialfit"] = []
    states = {name: _state(found) for name, found in held.items()}
    if job.corner not in job.survey:
        states["survey"] = BenchState(None, 0, "nothing measured here")
    return states


def _state(findings: list[Finding]) -> BenchState:
    still = [finding for finding in findings if finding.verdict is not Verdict.OK]
    if not findings:
        return NOTHING_ASKED
    worst = min((finding.verdict for finding in findings), key=lambda verdict: verdict.rank)
    count = len(still)
    return BenchState(worst, count, f"{worst.word}, {count} open" if count else "all OK")


class CornerSummary(Record, frozen=True):
    """One corner in brief. ``verdict``: its worst; ``None`` where nothing is known. ``picture``: along the axle.

    ``trial``: how far its trial fit has come, in words; empty before the first.
    """

    name: str
    known: str
    verdict: Verdict | None
    text: str
    step: str
    picture: Drawing | None
    left: bool = False
    trial: str = ""


def counts_text(findings: tuple[Finding, ...]) -> str:
    """Return how many findings say what, the worst first, in words; what is OK is left out unless it is all."""
    counts = [
        (verdict, sum(f.verdict is verdict for f in findings)) for verdict in sorted(Verdict, key=lambda v: v.rank)
    ]
    said = [verdict.counted(count) for verdict, count in counts if count and verdict is not Verdict.OK]
    return " · ".join(said) or ("all OK" if findings else "nothing is asked yet")


def corner_trial_text(solution: Solution) -> str:
    """Return how far the trial fit of a corner has come, in words; empty where nothing has been tried."""
    from bicentra.core.trialfit.fit import standing_fit

    fit = standing_fit(solution)
    if fit is None:
        return ""
    standing, count = fit.standing, len(solution.job.trials)
    lost = f", no longer locked: {standing.broken[0]} changed" if standing.broken else ""
    return f"trial {count}: {standing.state}{lost}"


def corner_summary(job: Job, solution: Solution, known: str, doubted: bool = True) -> CornerSummary:
    """Return a corner of which something is known in brief; before a plate can be drawn, how many sizes that takes.

    ``doubted``: whether survey, play and guesses have been asked.
    """
    left = required_inputs(job)
    if left:
        text = f"{len(left)} size{'s' if len(left) > 1 else ''} to go until {family_of(job).appears}"
        return CornerSummary(job.corner, known, Verdict.UNKNOWN, text, f"Measure {left[0].title}", None)
    worst = min((f.verdict for f in solution.findings), key=lambda verdict: verdict.rank)
    picture = face_view(solution, None) if is_drawn(job) else None
    step = next_step(solution, doubted).sentence
    text = counts_text(solution.findings) + ("" if doubted else " so far")
    return CornerSummary(job.corner, known, worst, text, step, picture, job.is_left, corner_trial_text(solution))


def drum_summary(vehicle: Vehicle, corner: str, known: str) -> CornerSummary:
    """Return a corner with a drum in brief: the drum, and what is known of it; its findings are the pedal's."""
    axle = vehicle.axles.get(corner.split("-")[0])
    drum = axle.drum if axle is not None and axle.drum is not None else Drum()
    sizes = (("drum", drum.diameter_mm), ("cylinder", drum.cylinder_bore_mm))
    lengths = LengthFormat(units_of(vehicle.display_units))
    text = ", ".join(f"{name} {lengths.size(value)}" for name, value in sizes if value is not None)
    step = "its numbers stand on the pedal bench" if text else "type its numbers on the pedal bench"
    return CornerSummary(corner, known, None, text, step, drum_view(drum), "left" in corner)


def own_corner(study: Study) -> CornerSummary:
    """Return the corner that is worked on in brief, as it is shown."""
    known = dict(study.corners)[study.job.corner]
    if study.brake == DRUM:
        return drum_summary(study.vehicle, study.job.corner, known)
    return corner_summary(study.job, study.solution, known, study.doubted)


def other_corners(study: Study) -> Callable[[], tuple[CornerSummary, ...]]:
    """Return what tells every other corner in brief, with its survey, to be worked out wherever there is time."""
    vehicle, there = study.vehicle, [(name, known) for name, known in study.corners if name != study.job.corner]

    def text(name: str, known: str) -> CornerSummary:
        if known == "drum brake":
            return drum_summary(vehicle, name, known)
        if known == "nothing yet":
            return CornerSummary(name, known, None, "", "", None)
        job = job_of(vehicle, name)
        return corner_summary(job, assess(solve(job)).solution, known)

    return lambda: tuple(text(*corner) for corner in there)


def picture_of(vehicle: Vehicle) -> tuple[Drawing | None, bool]:
    """Return the corner a vehicle was left at as it looks along the axle, and whether it is a left one."""
    job = shown_job(vehicle)
    return face_view(solve(job), None) if is_drawn(job) else None, job.is_left


@lru_cache(maxsize=32)
def example_picture(name: str) -> tuple[Drawing | None, bool]:
    """Return the corner of the example called ``name`` as it looks along the axle, and whether it is a left one; kept."""
    return picture_of(example_vehicle(name))


class RecentJob(Record, frozen=True):
    """A job that was worked on before: its file, when that was written, its name, its corner in brief; or why it cannot
    be read.
    """

    path: Path
    date: str
    title: str
    corner: CornerSummary | None
    fault: str = ""


def recent_job(path: Path) -> RecentJob:
    """Read the job at ``path`` and look at the corner it was left at; a file that cannot be used says why."""
    try:
        date = datetime.fromtimestamp(path.stat().st_mtime).strftime("%Y-%m-%d %H:%M")
        vehicle = load_vehicle(path)
        job = shown_job(vehicle)
        corner = corner_summary(job, assess(solve(job)).solution, "")
    except (BicentraError, OSError, ValueError) as error:
        return RecentJob(path, "", shown(path.name), None, str(error))
    return RecentJob(path, date, job.title or "Untitled job", corner)
