"""``bicentra pedal``: from the foot to the road, and which end locks first."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, STOPPED, finite
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    pedal = commands.add_parser("pedal", help="pressure, travel, balance and master cylinders of the whole vehicle")
    pedal.add_argument("job", metavar="JOB")
    pedal.add_argument("--foot-n", type=finite, default=500.0, metavar="F", help="force on the pedal [N] (default 500)")
    pedal.add_argument("--library", metavar="DIR", help="folder of part files (default: the one that ships)")
    pedal.add_argument("--pdf", metavar="F", help="write the pedal sheet, one page (PDF)")
    pedal.add_argument("--csv", metavar="F", help="write the curves over the foot force (CSV)")
    pedal.add_argument("--json", action="store_true", help="as one JSON object")
    pedal.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.base.errors import QuantityError
    from bicentra.core.base.finding import Verdict
    from bicentra.core.hydraulics.pedal import pedal_work
    from bicentra.core.parts.brakes import MasterCylinder
    from bicentra.core.parts.corners import job_of
    from bicentra.data import data_path
    from bicentra.formats.vehicle_report import pedal_object, pedal_text
    from bicentra.study.document.store import load_vehicle
    from bicentra.study.library.library import load_library
    from bicentra.study.papers.writing import write_sheet

    if not 0.0 < arguments.foot_n <= 5000.0:
        raise QuantityError(str(arguments.foot_n), f"--foot-n {arguments.foot_n:g}", "a force above 0 and up to 5000 N")
    library = load_library(Path(arguments.library) if arguments.library else data_path("library"))
    masters = tuple(part.item for part in library.of_kind("master_cylinder") if isinstance(part.item, MasterCylinder))
    job = Path(arguments.job)
    vehicle = load_vehicle(job)
    work = pedal_work(vehicle, masters, arguments.foot_n)
    if arguments.pdf:
        from bicentra.formats.pdf_records import pedal_pdf

        write_sheet(Path(arguments.pdf), pedal_pdf(vehicle, work, job_of(vehicle).lengths), job)
    if arguments.csv:
        from bicentra.formats.csv_out import pedal_csv

        write_sheet(Path(arguments.csv), pedal_csv(work), job)
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(pedal_object(work)), indent=2).decode())
    else:
        print(printable(pedal_text(work), "\n"), end="")
    return STOPPED if any(one.verdict is Verdict.STOP for one in work.findings) else OK
