"""How time and memory grow with size, up to the limits of ``core/parts/sizes``. Run with ``make growth``.

Each row: what grows, its sizes, what the largest costs, and the exponent e of time ~ size^e fitted to the upper half. Ends with 1
when one is above 1.3: work must grow as what is given does. Exponents hold on any machine, milliseconds only on this one.
"""

import json
import math
import sys
import tempfile
import time
import tracemalloc
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

import numpy as np

from bicentra.core.base.records import replace
from bicentra.core.drawing.sheets.imprint import BLANK
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.bounds import MOST_ITEMS
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Caliper, Job, Obstacle, Rotor
from bicentra.core.parts.library import Item
from bicentra.core.parts.survey import FaceReadings, Spot, SweepReading
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.runout import analyse
from bicentra.data import data_path
from bicentra.formats.job_json import parse_vehicle, write_job
from bicentra.study.desks.search import Criteria, look, rotors_of
from bicentra.study.document.starting import demo_job
from bicentra.study.document.study import Study
from bicentra.study.library.library import Library, load_library
from bicentra.study.papers.makers import MAKERS
from measure import plain_loop

MOST_EXPONENT, FEW_LOOPS, TRIES = 1.3, 1.0, 4
"""The largest exponent; what takes less is not told by it; each size is timed so often and the best taken."""


def measured(make: Callable[[int], Callable[[], object]], size: int) -> tuple[float, float, float]:
    """Return time in plain loops, time [ms] and peak of memory [MiB] of the work that ``make`` gives for ``size``."""
    ratios, times = [], []
    for _ in range(TRIES):
        work = make(size)
        began = time.perf_counter()
        work()
        ended = time.perf_counter()
        plain_loop()
        times.append((ended - began) * 1e3)
        ratios.append((ended - began) / (time.perf_counter() - ended))
    work = make(size)
    tracemalloc.start()
    work()
    peak = tracemalloc.get_traced_memory()[1] / 2**20
    tracemalloc.stop()
    return min(ratios), min(times), peak


def exponent(sizes: list[int], times: list[float]) -> float:
    """Return e of time [plain loops] ~ size^e by least squares over the upper half; 0 where all of it is too short to tell."""
    half = len(sizes) // 2
    if times[-1] < FEW_LOOPS:
        return 0.0
    return float(np.polyfit(np.log(sizes[half:]), np.log(times[half:]), 1)[0])


def round_the_axle(count: int, least: float, most: float) -> list[tuple[float, float]]:
    """Return ``count`` places round the axle [mm], the same each time."""
    rng = np.random.default_rng(count)
    turns, radii = rng.uniform(0, 2 * math.pi, count), rng.uniform(least, most, count)
    return [(float(r * math.cos(t)), float(r * math.sin(t))) for t, r in zip(turns, radii)]


def with_lugs(job: Job, count: int) -> Callable[[], object]:
    """Solve a knuckle with so many lugs."""
    lug = job.knuckle.lugs[0]
    lugs = [replace(lug, name=f"lug {k}", x_mm=-60.0 - 4.0 * k, y_mm=70.0 - 12.0 * k) for k in range(count)]
    made = replace(job, survey={}, knuckle=replace(job.knuckle, lugs=tuple(lugs)))
    return lambda: solve(made, turns=False).findings


def with_obstacles(job: Job, count: int) -> Callable[[], object]:
    """Solve among so many obstacles, turns that would cure a clash among what is looked for."""
    found = []
    for k, (x, y) in enumerate(round_the_axle(count, 100.0, 200.0)):
        outline = ((x - 6, y - 6), (x + 6, y - 6), (x + 6, y + 6), (x - 6, y + 6))
        found.append(Obstacle(name=f"post {k}", outline_mm=outline, z_min_mm=-40.0 - k % 7, z_max_mm=10.0))
    made = replace(job, survey={}, knuckle=replace(job.knuckle, obstacles=tuple(found)))
    return lambda: solve(made).findings


def with_points(job: Job, count: int) -> Callable[[], object]:
    """Solve a caliper whose face and an obstacle whose outline are traced with so many points."""
    turns = [2 * math.pi * k / count for k in range(count)]
    face = tuple((60 * math.cos(t), -10 + (30 + 0.2 * (k % 2)) * math.sin(t)) for k, t in enumerate(turns))
    post = tuple((-150 + 12 * math.cos(t), 90 + (12 + 0.1 * (k % 2)) * math.sin(t)) for k, t in enumerate(turns))
    obstacle = Obstacle(name="traced", outline_mm=post, z_min_mm=-40.0, z_max_mm=0.0)
    knuckle = replace(job.knuckle, obstacles=(obstacle,))
    made = replace(job, survey={}, caliper=replace(job.caliper, body_face_mm=face), knuckle=knuckle)
    return lambda: solve(made, turns=False).findings


def with_readings(job: Job, count: int) -> Callable[[], object]:
    """Adjust a survey of so many distances."""
    rng, survey = np.random.default_rng(count), job.survey[job.corner]
    taken = [d for d in survey.distances if d.value_mm is not None]
    rows = [taken[k % len(taken)] for k in range(count)]
    rows = [replace(row, value_mm=float(row.value_mm or 0.0) + float(rng.normal(0, 0.02))) for row in rows]
    made = replace(job, survey={job.corner: replace(survey, distances=tuple(rows))})
    return lambda: survey_corner(made, made.corner)


def with_sweep(job: Job, count: int) -> Callable[[], object]:
    """Take one sweep of so many indicator readings apart."""
    sweep = job.survey[job.corner].sweeps[0]
    turns = [360.0 * k / count for k in range(count)]
    rows = tuple(
        SweepReading(at_deg=t, value_mm=0.04 * math.cos(math.radians(t)) + 0.002 * (k % 3)) for k, t in enumerate(turns)
    )
    made = replace(sweep, readings=rows)
    return lambda: analyse(job.survey[job.corner], made)


def with_spots(job: Job, count: int) -> Callable[[], object]:
    """Fit the plane of a face through so many spots."""
    spots = tuple(Spot(radius_mm=12.0, at_deg=360.0 * k / count, depth_mm=30.0 + 0.01 * (k % 4)) for k in range(count))
    survey = replace(job.survey[job.corner], faces=(FaceReadings(feature="upper lug", spots=spots),))
    made = replace(job, survey={job.corner: survey})
    return lambda: survey_corner(made, made.corner)


def with_sets(job: Job, count: int) -> Callable[[], object]:
    """Look for sets among so many pairs of a rotor and a caliper, the library's own and others of slightly other size."""
    library = next(lib for lib in map(_times, range(1, 20)) if pairs_in(lib) >= count)
    return lambda: [step.done for step in look(job, library, Criteria())]


def pairs_in(library: Library) -> int:
    """How many pairs of a rotor and a caliper there are: they grow as the square of the library, faster with hats in it."""
    return len(rotors_of(library)) * len(library.of_kind("caliper"))


@lru_cache
def _times(count: int) -> Library:
    shipped = load_library(data_path("library"))
    parts = tuple(
        (replace(part, **{part.kind: _another(part.item, k)}), path)
        for k in range(count) for part, path in shipped.parts if part.kind in ("rotor", "caliper", "hat")
    )  # fmt: skip
    return Library(parts, ())


def _another(item: Item, k: int) -> Item:
    """Return a part of another name and of slightly other size."""
    named = replace(item, name=f"{item.name} {k}")
    if isinstance(named, Rotor) and named.diameter_mm is not None:
        return replace(named, diameter_mm=named.diameter_mm + 0.1 * k)
    if isinstance(named, Caliper) and named.ear_spacing_mm is not None:
        return replace(named, ear_spacing_mm=named.ear_spacing_mm + 0.1 * k)
    return named


def with_papers(job: Job, count: int) -> Callable[[], object]:
    """Make the parts list of a bracket with so many cutouts and lugs."""
    made = with_edits(job, (("bracket.caliper_washers", min(count, 2)),))
    solution = solve(replace(made, survey={}), turns=False)
    paper = MAKERS["parts"]
    return lambda: [paper.make(solution, lambda _part, _text="": True, BLANK) for _ in range(count)]


def with_steps(job: Job, count: int) -> Callable[[], object]:
    """Make so many changes and take them all back."""

    def work() -> None:
        study = Study(replace(job, survey={}))
        for k in range(count):
            study.edit(f"step {k}", (("fit.pad_inset_mm", 1.0 + 0.001 * (k + 1)),))
        for _ in range(count):
            study.undo()

    return work


def with_file(job: Job, count: int) -> Callable[[], object]:
    """Write and read a file with so many readings."""
    survey = job.survey[job.corner]
    rows = tuple(survey.distances[k % len(survey.distances)] for k in range(count))
    made = replace(job, survey={job.corner: replace(survey, distances=rows)})
    return lambda: parse_vehicle(write_job(made), "growth")


ROWS: tuple[tuple[str, list[int], Callable[[Job, int], Callable[[], object]]], ...] = (
    ("lugs: solve", [3, 6, 9, MOST_ITEMS["lugs"]], with_lugs),
    ("obstacles: solve, turns looked for", [25, 50, 100, MOST_ITEMS["obstacles"]], with_obstacles),
    ("points of an outline: solve", [100, 400, 1000, MOST_ITEMS["outline_mm"]], with_points),
    ("readings: survey worked out", [250, 500, 1000, MOST_ITEMS["distances"]], with_readings),
    ("readings of a sweep", [90, 180, 360, MOST_ITEMS["readings"]], with_sweep),
    ("spots of a face", [25, 50, 100, MOST_ITEMS["spots"]], with_spots),
    ("pairs of rotor and caliper: sets searched", [pairs_in(_times(k)) for k in (1, 2, 4, 8)], with_sets),
    ("parts lists made", [1, 4, 16, 64], with_papers),
    ("steps done and undone", [25, 50, 100, 200], with_steps),
    ("readings: file written and read", [250, 500, 1000, MOST_ITEMS["distances"] - 10], with_file),
)


def main() -> int:
    """Print every row; returns 1 when one grows too fast."""
    job, found = demo_job(), []
    for name, sizes, make in ROWS:
        figures = [measured(lambda size, make=make: make(job, size), size) for size in sizes]
        e = exponent(sizes, [loops for loops, _, _ in figures])
        text = "met" if e <= MOST_EXPONENT else "TOO FAST"
        _, ms, peak = figures[-1]
        print(
            f"{name:<42} {sizes[0]:>5} … {sizes[-1]:<6} {ms:9.1f} ms {peak:7.1f} MiB   exponent {e:5.2f}  {text}",
            flush=True,
        )
        found.append({"what": name, "sizes": sizes, "ms": [m for _, m, _ in figures], "mib": peak, "exponent": e})
    target = Path(tempfile.gettempdir()) / "bicentra-growth.json"
    target.write_text(json.dumps(found, indent=1))
    print(f"written: {target}")
    return 1 if any(float(str(row["exponent"])) > MOST_EXPONENT for row in found) else 0


if __name__ == "__main__":
    sys.exit(main())
