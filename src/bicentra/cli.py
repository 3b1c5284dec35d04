"""The command line: open the window, check a job, export its papers, print the schema."""

import argparse
import io
import math
import os
import sys
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from bicentra import __version__
from bicentra.cli_parts import add_parts
from bicentra.cli_search import add_search
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.wording import printable

OK, STOPPED, UNUSABLE = 0, 1, 2
COMMANDS = ("check", "export", "schema", "survey", "gauge-sim", "redrill", "search", "parts", "bracket")


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command in ``argv``; returns the exit code (0 fine, 1 a finding says stop, 2 unusable)."""
    words = list(sys.argv[1:] if argv is None else argv)
    arguments = (
        _command_parser().parse_args(words)
        if words[:1] and words[0] in COMMANDS
        else _window_parser().parse_args(words)
    )
    try:
        _any_terminal()
        code = int(arguments.run(arguments))
        sys.stdout.flush()
        return code
    except BicentraError as error:
        say(f"bicentra: {' '.join(str(error).split())}", error=True)
        return UNUSABLE
    except BrokenPipeError:
        sys.stderr.close()
        return OK
    except OSError as error:  # a full disk at the other end of the output, a folder that went away
        say(f"bicentra: {error.strerror or error}", error=True)
        return UNUSABLE


def _any_terminal() -> None:
    """Let a terminal without Unicode show what it can: signs it has not come out as question marks, not as a traceback."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")


def say(text: str, error: bool = False) -> None:
    """Print one line; control characters and bytes that are no text come out as question marks."""
    told = "".join(c if c.isprintable() else "?" for c in os.fsencode(text).decode("utf-8", "replace"))
    print(told, file=sys.stderr if error else sys.stdout)


def _window_parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bicentra",
        description="Fit a brake caliper and rotor to a hub that was never meant for them.",
        epilog="Also: bicentra check JOB [--json] · bicentra export JOB --pdf F … · "
        "bicentra survey JOB [--json] · bicentra search JOB [--library DIR] · bicentra redrill OLD NEW --hole-mm D · "
        "bicentra bracket JOB [--families] [--json] · bicentra parts KIND [--write F | --take F] · bicentra gauge-sim · "
        "bicentra schema. "
        "Brakes can kill: have the work checked by someone qualified and follow local rules.",
    )
    parser.add_argument("job", nargs="?", metavar="JOB", help="the job file to open")
    parser.add_argument("--demo", action="store_true", help="open a fresh copy of the demo job")
    parser.add_argument("--picture", metavar="FILE", help="save a picture of the first view and close")
    parser.add_argument("--version", action="version", version=f"Bicentra {__version__}")
    parser.set_defaults(run=_window)
    return parser


EXPORTS = (
    ("dxf", "cutting file"),
    ("svg", "drawing"),
    ("pdf", "1:1 template and check list"),
    ("csv", "hole table"),
    ("card", "1:1 card of the caliper's section, to hold in a wheel (PDF)"),
    ("step", "solids of the bracket family's parts"),
    ("workshop", "workshop drawings of the made parts (PDF)"),
    ("assembly", "the corner pulled apart, with its parts list (PDF)"),
    ("chart", "marking chart of eccentric bushings (PDF)"),
    ("cut", "cutting file of the made plates, one layer an operation (DXF)"),
    ("step-both", "solids for both corners of the axle: mirror images, or two parts where the surveys differ"),
    ("workshop-both", "workshop drawings of both (PDF)"),
    ("cut-both", "cutting file of both (DXF)"),
    ("parts", "parts list (CSV)"),
    ("trial", "trial piece with the holes' numbers and what it is raised on it (3MF)"),
    ("trial-thin", "the same a third as thick, quickly printed"),
    ("stl", "trial piece for a printer"),
    ("3mf", "the same with names"),
    ("drilling", "1:1 drilling template for a rotor of another pattern (PDF)"),
)
"""What ``export`` writes: the flag's name and what it is."""


def _command_parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="bicentra")
    commands = parser.add_subparsers(required=True)
    check = commands.add_parser("check", help="print the line-up and every finding")
    check.add_argument("job", metavar="JOB")
    check.add_argument("--json", action="store_true", help="as one JSON object")
    check.add_argument("--all", action="store_true", help="every corner of the vehicle, one after the other")
    _add_corner(check)
    check.set_defaults(run=_check)
    export = commands.add_parser("export", help="write the plate and the job's papers")
    export.add_argument("job", metavar="JOB")
    _add_corner(export)
    for kind, what in EXPORTS:
        export.add_argument(f"--{kind}", metavar="F", help=what)
    export.set_defaults(run=_export)
    survey = commands.add_parser("survey", help="adjust the readings of every corner and print what follows")
    survey.add_argument("job", metavar="JOB")
    survey.add_argument("--json", action="store_true", help="as one JSON object")
    _add_corner(survey, "one corner alone (default: every one)")
    survey.set_defaults(run=_survey)
    gauge = commands.add_parser("gauge-sim", help="a simulated line gauge that plays the demo corner's readings")
    gauge.add_argument("--seed", type=int, default=1, help="of noise, drift and faults (default 1)")
    gauge.add_argument(
        "--tcp", type=_port, metavar="PORT", help="serve on this local port instead of a pseudo-terminal"
    )
    gauge.add_argument("--every", type=_seconds, default=1.0, metavar="S", help="seconds between readings (default 1)")
    gauge.add_argument("--count", type=_whole, default=0, metavar="N", help="stop after N lines (default: play on)")
    gauge.set_defaults(run=_gauge)
    redrill = commands.add_parser("redrill", help="the best clocking of a new bolt pattern against the old one")
    redrill.add_argument("old", help="the pattern that is there, such as 5x108")
    redrill.add_argument("new", help="the pattern that is wanted, such as 4x100")
    redrill.add_argument("--hole-mm", type=_finite, required=True, metavar="D", help="diameter of the holes")
    redrill.add_argument("--old-hole-mm", type=_finite, metavar="D", help="diameter of the old ones, when it differs")
    redrill.add_argument(
        "--bore-mm", type=_finite, default=math.nan, metavar="D", help="bore of the face that is drilled"
    )
    redrill.add_argument("--rim-mm", type=_finite, default=math.nan, metavar="D", help="outside diameter of that face")
    redrill.add_argument(
        "--thickness-mm", type=_finite, default=math.nan, metavar="T", help="its thickness, for the balance"
    )
    redrill.add_argument("--share", action="store_true", help="put one hole of each pattern on one radial line")
    redrill.add_argument("--json", action="store_true", help="as one JSON object")
    redrill.add_argument("--pdf", metavar="F", help="write the drilling template, 1:1")
    redrill.set_defaults(run=_redrill)
    add_search(commands)
    add_parts(commands)
    bracket = commands.add_parser("bracket", help="every bracket family solved for a job, suited ones first")
    bracket.add_argument("job", metavar="JOB")
    bracket.add_argument("--families", action="store_true", help="list the families (the only thing it does yet)")
    bracket.add_argument("--json", action="store_true", help="as one JSON object")
    _add_corner(bracket)
    bracket.set_defaults(run=_bracket)
    schema = commands.add_parser("schema", help="print the JSON Schema of the job file")
    schema.add_argument("--part", action="store_true", help="of a part file of the library instead")
    schema.set_defaults(run=_schema)
    return parser


def _add_corner(
    parser: argparse.ArgumentParser, meant: str = "the corner meant (default: the one it was left at)"
) -> None:
    from bicentra.core.parts.job import CORNERS

    parser.add_argument("--corner", choices=CORNERS, default="", metavar="NAME", help=meant)


def _port(word: str) -> int:
    """Return a port's number. Raises ``ArgumentTypeError``."""
    return _number(word, 0, 65535, "a port from 0 to 65535")


def _finite(word: str) -> float:
    """Return a number that is one. Raises ``ArgumentTypeError``."""
    try:
        value = float(word)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected a number of millimetres")
    return value


def _whole(word: str) -> int:
    """Return a count. Raises ``ArgumentTypeError``."""
    return _number(word, 0, 10**9, "a whole number, 0 or more")


def _number(word: str, least: int, most: int, expected: str) -> int:
    try:
        value = int(word)
    except ValueError:
        value = least - 1
    if not least <= value <= most:
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected {expected}")
    return value


def _seconds(word: str) -> float:
    """Return a time between readings [s]. Raises ``ArgumentTypeError``."""
    try:
        value = float(word)
    except ValueError:
        value = math.nan
    if not 0.001 <= value <= 3600.0:
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected seconds, 0.001 to 3600")
    return value


def _check(arguments: argparse.Namespace) -> int:
    import msgspec

    from bicentra.core.base.finding import Verdict
    from bicentra.core.certainty.assess import assess
    from bicentra.core.parts.corners import job_of
    from bicentra.core.solution import solve
    from bicentra.formats.check_report import check_object, check_text
    from bicentra.formats.job_json import known_corners
    from bicentra.study.store import load, load_vehicle

    path = Path(arguments.job)
    if arguments.all:
        vehicle = load_vehicle(path)
        jobs = {name: job_of(vehicle, name) for name in known_corners(vehicle)}
    else:
        one = load(path, arguments.corner)
        jobs = {one.corner: one}
    solved = {name: assess(solve(job)).solution for name, job in jobs.items()}
    if arguments.json:
        said = {name: check_object(solution) for name, solution in solved.items()}
        whole = said if arguments.all else next(iter(said.values()))
        print(msgspec.json.format(msgspec.json.encode(whole), indent=2).decode())
    else:
        print(printable("\n".join(check_text(solution) for solution in solved.values()), "\n"), end="")
    return STOPPED if any(Verdict.STOP in solution.verdicts for solution in solved.values()) else OK


def _export(arguments: argparse.Namespace) -> int:
    from bicentra.core.base.errors import ExportError
    from bicentra.core.certainty.assess import assess
    from bicentra.core.solution import solve
    from bicentra.study.papers import PAPERS, write_paper
    from bicentra.study.store import load, shown

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
    left = 0
    for kind, name in wanted.items():
        try:
            write_paper(kind, solution, Path(name), job_file=source)
            say(f"written: {shown(name)}")
        except ExportError as reason:
            left += 1
            say(f"left out: --{kind}: {' '.join(str(reason).split())}", error=True)
    return UNUSABLE if left else OK


def _survey(arguments: argparse.Namespace) -> int:
    import msgspec

    from bicentra.formats.survey_report import survey_object, survey_text
    from bicentra.study.store import load

    job = load(Path(arguments.job), arguments.corner)
    if arguments.corner:
        job = replace(job, survey={name: one for name, one in job.survey.items() if name == arguments.corner})
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(survey_object(job)), indent=2).decode())
    else:
        print(printable(survey_text(job), "\n"), end="")
    return OK


def _gauge(arguments: argparse.Namespace) -> int:
    from bicentra.study.gauge_sim import play

    return play(arguments.seed, arguments.tcp, arguments.every, arguments.count)


def _redrill(arguments: argparse.Namespace) -> int:
    import msgspec

    from bicentra.core.base.errors import QuantityError
    from bicentra.core.base.finding import Verdict
    from bicentra.core.lineup.redrill import plan_redrill, told
    from bicentra.core.parts.patterns import parse_pattern
    from bicentra.formats.redrill_report import redrill_object

    for name in ("hole_mm", "old_hole_mm", "bore_mm", "rim_mm", "thickness_mm"):
        value = getattr(arguments, name)
        if value is not None and not math.isnan(value) and not 0 < value < 1000:
            raise QuantityError(
                str(value), f"--{name.replace('_', '-')} {value:g}", "a length above 0 and below 1000 mm"
            )
    plan = plan_redrill(
        parse_pattern(arguments.old), parse_pattern(arguments.new), arguments.hole_mm, old_hole_mm=arguments.old_hole_mm,
        share=arguments.share, bore_mm=arguments.bore_mm, rim_mm=arguments.rim_mm, thickness_mm=arguments.thickness_mm,
    )  # fmt: skip
    if arguments.pdf:
        from bicentra.formats.pdf_redrill import redrill_pdf
        from bicentra.study.store import write_atomic

        write_atomic(Path(arguments.pdf), redrill_pdf(plan, arguments.bore_mm, arguments.rim_mm))
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(redrill_object(plan)), indent=2).decode())
    else:
        print(f"{plan.verdict.word}: {told(plan)}")
    return STOPPED if plan.verdict is Verdict.STOP else OK


def _bracket(arguments: argparse.Namespace) -> int:
    import msgspec

    from bicentra.core.proposals import own_bracket, propose
    from bicentra.formats.family_report import families_object, families_text
    from bicentra.study.store import load

    job = load(Path(arguments.job), arguments.corner)
    found, own = propose(job), own_bracket(job)
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(families_object(found, own)), indent=2).decode())
    else:
        print(printable(families_text(found, own, job.display_units), "\n"), end="")
    return OK


def _schema(arguments: argparse.Namespace) -> int:
    import msgspec

    from bicentra.formats.schema import job_schema, part_schema

    schema = part_schema() if arguments.part else job_schema()
    print(msgspec.json.format(msgspec.json.encode(schema), indent=2).decode())
    return OK


def _window(arguments: argparse.Namespace) -> int:
    from bicentra.app.main import run

    return run(arguments.job, arguments.demo, arguments.picture)
