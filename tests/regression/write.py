"""Writes every kept record anew: ``python -m tests.regression.write``. Look at what changed before."""

from tests.regression.jobs import JOBS
from tests.regression.others import OTHERS
from tests.regression.records import FOLDER, SECTIONS, Line, record


def write(name: str, lines: list[Line]) -> None:
    """Write the lines of one record."""
    rows = [f"{text} | {many} | {total!r} | {weighed!r} | {words}" for text, many, total, weighed, words in lines]
    (FOLDER / f"{name}.txt").write_text("\n".join(rows) + "\n" if rows else "")


def main() -> None:
    """Write every record anew."""
    FOLDER.mkdir(exist_ok=True)
    for old in FOLDER.glob("*.txt"):
        old.unlink()
    for name in JOBS:
        for section in SECTIONS:
            write(f"{name}.{section}", record(name, section))
    for name, lines in OTHERS.items():
        write(f"any.{name}", list(lines()))


if __name__ == "__main__":
    main()
