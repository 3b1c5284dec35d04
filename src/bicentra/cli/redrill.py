"""``bicentra redrill``: the best clocking of a new bolt pattern."""

import argparse
import math
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, STOPPED, finite


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    redrill = commands.add_parser("redrill", help="the best clocking of a new bolt pattern against the old one")
    redrill.add_argument("old", help="the pattern that is there, such as 5x108")
    redrill.add_argument("new", help="the pattern that is wanted, such as 4x100")
    redrill.add_argument("--hole-mm", type=finite, required=True, metavar="D", help="diameter of the holes")
    redrill.add_argument("--old-hole-mm", type=finite, metavar="D", help="diameter of the old ones, when it differs")
    redrill.add_argument(
        "--bore-mm", type=finite, default=math.nan, metavar="D", help="bore of the face that is drilled"
    )
    redrill.add_argument("--rim-mm", type=finite, default=math.nan, metavar="D", help="outside diameter of that face")
    redrill.add_argument(
        "--thickness-mm", type=finite, default=math.nan, metavar="T", help="its thickness, for the balance"
    )
    redrill.add_argument("--share", action="store_true", help="put one hole of each pattern on one radial line")
    redrill.add_argument("--json", action="store_true", help="as one JSON object")
    redrill.add_argument("--pdf", metavar="F", help="write the drilling template, 1:1")
    redrill.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.base.errors import QuantityError
    from bicentra.core.base.finding import Verdict
    from bicentra.core.lineup.redrill import plan_redrill, redrill_text
    from bicentra.core.parts.patterns import parse_pattern
    from bicentra.formats.corner_report import redrill_object

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
        from bicentra.formats.pdf_sheets import redrill_pdf
        from bicentra.study.document.store import write_atomic

        write_atomic(Path(arguments.pdf), redrill_pdf(plan, arguments.bore_mm, arguments.rim_mm))
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(redrill_object(plan)), indent=2).decode())
    else:
        print(f"{plan.verdict.word}: {redrill_text(plan)}")
    return STOPPED if plan.verdict is Verdict.STOP else OK
