"""``bicentra export``: write the plate and the job's papers."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, UNUSABLE, add_corner, say


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    from bicentra.study.papers.papers import PAPERS

    export = commands.add_parser("export", help="write the plate and the job's papers")
    export.add_argument("job", metavar="JOB")
    add_corner(export)
    for paper in PAPERS.values():
        export.add_argument(f"--{paper.kind}", metavar="F", help=paper.flag)
    export.add_argument("--give-out", action="store_true", help="keep the revision of what is cut in the job file")
    export.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    from bicentra.core.base.errors import ExportError
    from bicentra.core.evaluation.solution import solve
    from bicentra.core.uncertainty.assess import assess
    from bicentra.study.document.store import load, shown
    from bicentra.study.papers.papers import PAPERS
    from bicentra.study.papers.writing import kept_in, paper_imprint, today, write_paper

    named = {kind: getattr(arguments, kind.replace("-", "_")) for kind in PAPERS}
    wanted = {kind: name for kind, name in named.items() if name}
    if not wanted:
        raise ExportError(
            "nothing to write was named; expected one of " + ", ".join(f"--{kind}" for kind in PAPERS) + " with a file"
        )
    source = Path(arguments.job)
    solution = assess(solve(load(source, arguments.corner))).solution
    for kind, name in wanted.items():
        if name == "-":
            raise ExportError(f"--{kind} -: found a terminal; expected a file name")
    left, given, day = 0, [], today()
    for kind, name in wanted.items():
        try:
            imprint, new = paper_imprint(kind, solution, day, arguments.give_out)
            given += [new] if new is not None and new not in given else []
            write_paper(kind, solution, Path(name), job_file=source, imprint=imprint)
            say(f"written: {shown(name)}")
        except ExportError as reason:
            left += 1
            say(f"left out: --{kind}: {' '.join(str(reason).split())}", error=True)
    for new in given if not left else ():
        kept_in(source, new)
        say(f"revision {new.revision} of {new.corner.replace('-', ' ')} given out: kept in {shown(source)}")
    return UNUSABLE if left else OK
