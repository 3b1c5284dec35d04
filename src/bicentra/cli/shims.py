"""``bicentra shims``: from the gaps of the last trial to the shims that put the caliper right."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, STOPPED, add_corner
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    shims = commands.add_parser("shims", help="from the gaps of the last trial fit to the right shims")
    shims.add_argument("job", metavar="JOB")
    shims.add_argument("--json", action="store_true", help="as one JSON object")
    add_corner(shims)
    shims.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.base.finding import Verdict
    from bicentra.core.evaluation.solution import solve
    from bicentra.core.trialfit.fit import trial_fit
    from bicentra.formats.measuring_report import trial_object, trial_text
    from bicentra.study.document.store import load

    job = load(Path(arguments.job), arguments.corner)
    fit = trial_fit(solve(job))
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(trial_object(fit)), indent=2).decode())
    else:
        print(printable(trial_text(fit, job.lengths), "\n"), end="")
    return STOPPED if fit is not None and any(f.verdict is Verdict.STOP for f in fit.findings) else OK
