"""The note beside a mesh, whose kind of file has no room for words: what keeps metal from being cut."""

from pathlib import Path

from bicentra.core.drawing.imprint import CutMark
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.study.document.store import shown, write_atomic

FIRST = "Bicentra, about "


def note_beside(path: Path) -> Path:
    """Return where the note about the file at ``path`` stands."""
    return path.with_name(f"{path.name}.note.txt")


def write_note(path: Path, mark: CutMark) -> None:
    """Write the note about the mesh at ``path``; without a mark take away one that an earlier mesh left.

    A file of that name that is none of ours stays as it is. Raises ``StoreError``.
    """
    beside = note_beside(path)
    if beside.exists() and not _ours(beside):
        return
    if mark.line:
        text = f"{FIRST}{shown(path.name)}\n\n{mark.text(len(mark.reasons) + len(mark.limits))}\n\n{CAUTION}\n"
        write_atomic(beside, text.encode())
    elif beside.exists():
        beside.unlink()


def _ours(path: Path) -> bool:
    try:
        with path.open("rb") as file:
            return file.read(len(FIRST)).decode(errors="replace") == FIRST
    except OSError:
        return False
