"""The command ``bicentra search``: the best sets of a library for one hub and knuckle."""

import argparse
import sys
import time
from pathlib import Path
from typing import Any

from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    search = commands.add_parser(
        "search", help="the sets of parts of a library that fit this hub and knuckle, best first"
    )
    search.add_argument("job", metavar="JOB")
    search.add_argument(
        "--library", metavar="DIR", help="folder of part files (default: the library that ships, and your own)"
    )
    search.add_argument("--top", type=int, default=10, metavar="N", help="how many sets to print (default 10)")
    search.add_argument("--json", action="store_true", help="as one JSON object")
    search.add_argument("--plates", default="0,3,5", metavar="MM,…", help="rotor spacers to try (default 0,3,5)")
    search.add_argument(
        "--sides", choices=("both", "outboard", "inboard"), default="both", help="of the lugs, for the plate"
    )
    search.add_argument("--mount", choices=("any", "axial", "radial"), default="any", help="of the caliper")
    search.add_argument("--action", choices=("any", "fixed", "floating"), default="any", help="of the caliper")
    search.add_argument(
        "--duty", choices=("any", "light", "loaded", "hard"), default="any", help="least mass of the rotor"
    )
    search.add_argument("--wheel", metavar="NAME", help="a wheel of the library instead of the job's own")
    search.add_argument(
        "--free-plate",
        action="store_true",
        help="choose plate thickness, shims and bolt lengths again for each set (default: as the job says, null is chosen)",
    )
    search.add_argument(
        "--corner", default="", metavar="NAME", help="the corner meant (default: the one it was left at)"
    )
    search.set_defaults(run=run_search)


def run_search(arguments: argparse.Namespace) -> int:
    """Search and print. Raises ``BicentraError`` for a library, a wheel or a number that is no use."""
    import msgspec

    from bicentra.formats.corner_report import search_object, search_text
    from bicentra.study.desks.search import SearchResults, look
    from bicentra.study.document.store import load

    job = load(Path(arguments.job), arguments.corner)
    library, criteria = _request(arguments)
    began = time.perf_counter()
    results = SearchResults(0)
    for results in look(job, library, criteria, arguments.top):
        if sys.stderr.isatty():
            print(f"\r{results.done:4.0%}", end="", file=sys.stderr)
    seconds = time.perf_counter() - began
    best = results.sets[: arguments.top]
    if arguments.json:
        said = search_object(results.combinations, seconds, best)
        print(msgspec.json.format(msgspec.json.encode(said), indent=2).decode())
    else:
        print(printable(search_text(results.combinations, seconds, best, job.display_units), "\n"), end="")
        held = [job.bracket.thickness_mm, job.bracket.lug_bolt_length_mm, job.bracket.caliper_bolt_length_mm]
        if any(held) and not arguments.free_plate and all(found.feasible == 0 for found in best):
            print("The plate thickness or bolt lengths of the job stop these: --free-plate chooses them for each set.")
    return 0


def _request(arguments: argparse.Namespace) -> tuple[Any, Any]:
    """Return the library and the criteria that the command asks for."""
    from bicentra.core.base.errors import QuantityError, StoreError
    from bicentra.core.parts.wheel import Wheel
    from bicentra.study.desks.search import Criteria
    from bicentra.study.library.library import load_library, whole_library

    if arguments.top < 1:
        raise QuantityError(str(arguments.top), f"--top {arguments.top}", "a number of at least 1")
    if arguments.library is not None and not Path(arguments.library).is_dir():
        raise StoreError(f"--library {arguments.library}: no such folder; expected one with part files (*.part.json)")
    library = whole_library() if arguments.library is None else load_library(Path(arguments.library))
    for problem in library.problems:
        print(f"bicentra: skipped: {problem}", file=sys.stderr)
    wheels = {part.name: part.item for part in library.of_kind("wheel")}
    if arguments.wheel is not None and arguments.wheel not in wheels:
        raise StoreError(
            f"--wheel: found “{arguments.wheel[:60]}”; expected one of the library: " + "; ".join(list(wheels)[:3])
        )
    try:
        plates = tuple(float(word) for word in arguments.plates.split(","))
    except ValueError:
        plates = (-1.0,)
    if not plates or not all(0.0 <= plate <= 500.0 for plate in plates):
        raise QuantityError(
            arguments.plates, f"--plates {arguments.plates[:40]}", "lengths of 0 to 500 mm with commas between"
        )
    sides = ("outboard", "inboard") if arguments.sides == "both" else (arguments.sides,)
    wheel = wheels.get(arguments.wheel)
    criteria = Criteria(
        tuple(dict.fromkeys(plates)), sides, arguments.mount, arguments.action, arguments.duty,
        wheel if isinstance(wheel, Wheel) else None, arguments.free_plate,
    )  # fmt: skip
    return library, criteria
