"""``bicentra heat``: what a train of stops does to rotors, pads and fluid."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, STOPPED, finite, whole_number
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    heat = commands.add_parser("heat", help="temperatures of rotors, pads and fluid over repeated stops")
    heat.add_argument("job", metavar="JOB")
    heat.add_argument("--from-kmh", type=finite, required=True, metavar="V", help="speed before each stop")
    heat.add_argument("--to-kmh", type=finite, default=0.0, metavar="W", help="speed after it (default 0)")
    heat.add_argument("--stops", type=whole_number, required=True, metavar="N", help="how many")
    heat.add_argument("--every-s", type=finite, required=True, metavar="S", help="seconds from one to the next")
    heat.add_argument("--ambient-c", type=finite, default=20.0, metavar="T", help="temperature of the air (default 20)")
    heat.add_argument("--pdf", metavar="F", help="write the heat sheet, one page (PDF)")
    heat.add_argument("--csv", metavar="F", help="write the temperatures after every stop (CSV)")
    heat.add_argument("--json", action="store_true", help="as one JSON object")
    heat.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.base.errors import QuantityError
    from bicentra.core.base.finding import Verdict
    from bicentra.core.heat.stops import MOST_STOPS, Train
    from bicentra.core.heat.train import train_of
    from bicentra.core.parts.corners import job_of
    from bicentra.formats.vehicle_report import heat_object, heat_text
    from bicentra.study.document.store import load_vehicle
    from bicentra.study.papers.writing import write_sheet

    ranges = (
        ("from_kmh", 0.0, 400.0, "a speed up to 400 km/h"), ("to_kmh", 0.0, arguments.from_kmh, "a speed from 0 to --from-kmh"),
        ("stops", 1, MOST_STOPS, f"1 to {MOST_STOPS} stops"), ("every_s", 0.1, 86400.0, "0.1 s to a day"),
        ("ambient_c", -60.0, 80.0, "-60 to 80 °C"),
    )  # fmt: skip
    for name, least, most, wanted in ranges:
        value = getattr(arguments, name)
        if not least <= value <= most:
            raise QuantityError(str(value), f"--{name.replace('_', '-')} {value:g}", wanted)
    train = Train(arguments.from_kmh, arguments.to_kmh, arguments.stops, arguments.every_s, arguments.ambient_c)
    job = Path(arguments.job)
    vehicle = load_vehicle(job)
    hot = train_of(vehicle, train)
    if arguments.pdf:
        from bicentra.formats.pdf_records import heat_pdf

        write_sheet(Path(arguments.pdf), heat_pdf(vehicle, hot, job_of(vehicle).lengths), job)
    if arguments.csv:
        from bicentra.formats.csv_out import heat_csv

        write_sheet(Path(arguments.csv), heat_csv(hot), job)
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(heat_object(hot)), indent=2).decode())
    else:
        print(printable(heat_text(hot), "\n"), end="")
    return STOPPED if any(one.verdict is Verdict.STOP for one in hot.findings) else OK
