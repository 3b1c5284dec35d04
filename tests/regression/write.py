"""Writes every kept record anew: ``python -m tests.regression.write``. Read what changed with ``git diff``."""

from bicentra.study.document.starting import demo_job
from tests.regression.chance import CHANCE
from tests.regression.jobs import JOBS, KEPT
from tests.regression.records import FOLDER, record


def main() -> None:
    """Write every record anew."""
    FOLDER.mkdir(exist_ok=True)
    for old in FOLDER.glob("*.txt"):
        old.unlink()
    for name in KEPT:
        (FOLDER / f"{name}.txt").write_text("\n".join(record(JOBS[name](demo_job()))) + "\n")
    for name, tell in CHANCE.items():
        (FOLDER / f"{name}.txt").write_text("\n".join(tell()) + "\n")


if __name__ == "__main__":
    main()
