"""Random valid jobs of every kind through every paper: no error but one in words, no nan, nothing a reader refuses.

``python scripts/soak.py [JOBS] [SEED]`` prints one line a fault and ends with 1 when there was any. The solid kernel starts a
process of its own for each file, so solids are made of one job in fifty.
"""

import io
import random
import re
import sys
import traceback
import xml.etree.ElementTree as ElementTree
from collections import Counter
from collections.abc import Iterator

from bicentra.core.base.errors import BicentraError, ExportError, JobError
from bicentra.core.base.quantities import NUMBER
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.drawing.sheets.imprint import BLANK
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.edits import get_value, with_edits, with_value
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Cutout, Dowel, Job, Parking, Pull
from bicentra.core.parts.threads import THREADS
from bicentra.core.parts.validate import validate
from bicentra.formats.corner_report import check_object, check_text
from bicentra.formats.job_json import parse_job, write_job
from bicentra.study.document.starting import demo_job, empty_job
from bicentra.study.papers.makers import MAKERS
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.writing import ready_problem

SOLID = ("step", "stl", "3mf", "step-both", "trial", "trial-thin", "workshop", "workshop-both")
NAN = re.compile(r"(?<![a-z])-?(?:nan|inf)(?![a-z])|None\b")
PARTS = (
    "hub",
    "rotor",
    "caliper",
    "fit",
    "bracket",
    "knuckle.lugs[0]",
    "knuckle.lugs[1]",
    "knuckle.obstacles[0]",
    "wheel",
)


def numbers(job: Job) -> list[str]:
    """Return the key paths of every described number, choice and thread of ``job``."""
    found = []
    for part in PARTS:
        try:
            record = get_value(job, part)
        except KeyError:
            continue
        if record is not None:
            text = ((of.name, meaning(of)) for of in fields(record))
            found += [f"{part}.{name}" for name, of in text if of.kind is not None or of.choices or of.thread]
    return found


def changed(job: Job, path: str, chance: random.Random) -> Job:
    """Return ``job`` with the value at ``path`` taken away, moved a little, moved far, or another choice."""
    part, _, name = path.rpartition(".")
    of = next(meaning(f) for f in fields(get_value(job, part)) if f.name == name)
    now = get_value(job, path)
    if of.choices:
        return with_value(job, path, chance.choice(of.choices))
    if of.thread:
        return with_value(job, path, chance.choice([*THREADS, None]))
    if of.kind is NUMBER:
        return with_value(job, path, chance.randint(int(of.least or 0), int(of.most or 9)))
    near = float(now) if isinstance(now, int | float) else 20.0
    ways = (None, near * chance.uniform(0.5, 1.6), near + chance.uniform(-30.0, 30.0), 0.0, 0.01, 1999.0)
    return with_value(job, path, chance.choice(ways))


def shaped(job: Job, chance: random.Random) -> Job:
    """Return ``job`` with some of what is worked into a plate, placed or not, and things beside it."""
    some = lambda value: value if chance.random() < 0.75 else None  # noqa: E731 - one line says it
    edits: list[tuple[str, object]] = [("bracket.family", chance.choice(list(FAMILIES)))]
    if chance.random() < 0.3:
        edits.append(
            ("bracket.dowels", (Dowel(x_mm=some(chance.uniform(-120, 0)), y_mm=some(chance.uniform(-90, 90))),))
        )
    if chance.random() < 0.3:
        cut = Cutout(x_mm=some(chance.uniform(-110, -50)), y_mm=some(0.0), diameter_mm=some(chance.uniform(1, 40)),
                     length_mm=chance.choice([0.0, 12.0]))  # fmt: skip
        edits.append(("bracket.cutouts", (cut,)))
    if chance.random() < 0.2:
        edits.append(("bracket.pulls", (Pull(from_hole=chance.randint(0, 3), to_hole=chance.randint(0, 3),
                                             out_mm=some(chance.uniform(-40, 40))),)))  # fmt: skip
    if chance.random() < 0.2:
        edits.append(("parking", Parking(caliper=job.caliper, clock_deg=some(chance.uniform(0, 360)), side="inboard")))
    if chance.random() < 0.2:
        there = OriginalBrake(
            rotor=job.rotor,
            caliper=job.caliper,
            clock_deg=some(170.0),
            bracket_ear_hole_mm=some(12.5),
            bracket_ear_mm=some(12.0),
        )
        edits.append(("before", there))
    edits.append(("bracket.material", chance.choice(["steel S355", "aluminium 6082-T6", "brass", None])))
    if chance.random() < 0.2:
        edits.append(("caliper.mount", "radial"))
    return with_edits(job, tuple(edits))


def random_jobs(count: int, seed: int) -> Iterator[tuple[int, Job]]:
    """Yield ``count`` valid jobs, each with its number."""
    made, number = 0, 0
    while made < count:
        number += 1
        chance = random.Random(seed * 1_000_003 + number)
        job = demo_job() if chance.random() < 0.9 else empty_job()
        job = shaped(job, chance)
        job = with_edits(
            job,
            (("display_units", chance.choice(["mm", "in"])), ("corner", chance.choice(["front-right", "rear-left"]))),
        )
        if chance.random() < 0.5:
            job = with_edits(job, (("survey", {}),))
        for path in chance.sample(numbers(job), chance.randint(0, 5)):
            job = changed(job, path, chance)
        try:
            validate(job)
        except JobError:
            continue
        made += 1
        yield number, job


def looked_at(kind: str, data: bytes) -> str:
    """Return what is wrong with a paper that was written; empty when its reader takes it."""
    if kind in ("svg", "csv", "parts"):
        text = data.decode()
        if NAN.search(text):
            return f"“{NAN.search(text)[0]}” in it"  # type: ignore[index]
        if kind == "svg":
            ElementTree.fromstring(text)
    elif kind in ("dxf", "cut", "cut-both"):
        from ezdxf.filemanagement import read as read_dxf

        drawing = read_dxf(io.StringIO(data.decode()))
        if drawing.audit().has_errors:
            return "its audit finds errors"
        numbers = re.findall(r"(?m)^\s*(-?nan|-?inf)\s*$", data.decode())
        return f"{numbers[0]} in it" if numbers else ""
    elif data[:4] == b"%PDF":
        import pypdfium2

        pages = pypdfium2.PdfDocument(data)
        for page in pages:
            text = page.get_textpage().get_text_range()
            if NAN.search(text):
                return f"“{NAN.search(text)[0]}” on a page"  # type: ignore[index]
    return ""


def faults_of(solution: Solution, solids: bool) -> Iterator[str]:
    """Yield every fault of one job's reports and papers."""
    text = check_text(solution)
    if NAN.search(text):
        yield f"check: “{NAN.search(text)[0]}”"  # type: ignore[index]
    for finding in solution.findings:
        sentence = " ".join(
            (finding.why, finding.statement, *(r.action for r in finding.remedies), *(c.text for c in finding.checks))
        )
        if NAN.search(sentence):
            yield f"{finding.id}: {NAN.search(sentence)[0]}: {sentence[:120]}"  # type: ignore[index]
    check_object(solution)
    for kind in PAPERS:
        if kind in SOLID and not solids:
            continue
        try:
            problem = ready_problem(solution, kind)
            data = MAKERS[kind].make(solution, lambda _part, _text: True, BLANK)
            wrong = looked_at(kind, data)
            if wrong or problem:
                yield f"{kind}: {wrong or f'made although {problem}'}"
        except ExportError as refused:
            if NAN.search(str(refused)):
                yield f"{kind}: refused with “{refused}”"


def main(count: int, seed: int) -> int:
    """Run the campaign; return how many jobs had a fault."""
    seen: Counter[str] = Counter()
    for place, (number, job) in enumerate(random_jobs(count, seed)):
        try:
            if parse_job(write_job(job), "job") != job:
                seen[f"[{number}] does not come back from its file"] += 1
            found = list(faults_of(solve(job), place % 50 == 0))
        except BicentraError as error:
            found = [f"raised {type(error).__name__}: {error}"]
        except Exception as error:
            where = traceback.extract_tb(error.__traceback__)[-1]
            found = [f"{type(error).__name__} at {where.filename.rpartition('/')[2]}:{where.lineno}: {error}"]
        for fault in found:
            if not seen[fault]:
                print(f"[{number}] {fault}", flush=True)
            seen[fault] += 1
    print(f"{count} jobs, {sum(seen.values())} faults")
    return int(bool(seen))


if __name__ == "__main__":
    sys.exit(main(*(int(a) for a in (sys.argv[1:] + ["5000", "1"][len(sys.argv) - 1 :]))))
