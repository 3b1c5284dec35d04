"""How much a job may hold: the one place where every limit stands.

More than a real corner ever has, and little enough to be worked out: ``make growth`` shows what each costs up to here. Asked when
a file is read, at every change, and before anything is written.
"""

from collections.abc import Mapping, Sized

from bicentra.core.base.errors import JobError

MOST_ITEMS: dict[str, int] = {
    "body_section_mm": 2000, "body_face_mm": 2000, "pad_outline_mm": 2000, "outline_mm": 2000, "barrel_mm": 2000,
    "spokes_mm": 2000, "obstacles": 200, "lugs": 12, "distances": 2000, "directions": 2000, "features": 200, "faces": 200,
    "spots": 200, "sweeps": 4, "readings": 720, "parts": 200, "was": 200, "weights": 24, "bleeders_deg": 12,
    "pistons_inboard_mm": 12, "pistons_outboard_mm": 12, "hose_port_mm": 4, "guessed": 100, "stock_mm": 100, "shims_mm": 12,
    "boss_walls_mm": 14, "cutouts": 60, "dowels": 20, "pulls": 40, "exact": 500, "limits": 300, "survey": 4, "instruments": 20,
    "values_mm": 40, "sizes": 2000, "issued": 200, "photos": 300, "absent": 20, "points_mm": 200, "quality": 100,
    "trials": 200, "first": 12, "second": 12, "stock": 40, "floated": 12, "bands_mm": 4, "lock": 40,
    "asked": 2000, "deeds": 500, "done": 40, "steps": 4000, "read_before": 12, "again": 4, "checked": 40,
}  # fmt: skip
"""Most items of a list or a map, by its key; 100 where nothing else is said."""
MOST_LETTERS: dict[str, int] = {
    "notes": 100_000,
    "title": 300,
    "why": 4000,
    "set_aside": 1000,
    "source": 1000,
    "what": 1000,
    "changed": 1000,
}
"""Most letters of a text, by its key; 200 where nothing else is said."""
USUAL_ITEMS, USUAL_LETTERS, MOST_OBSTACLE_POINTS = 100, 200, 12_000
MOST_LUGS, MOST_POINTS = MOST_ITEMS["lugs"], MOST_ITEMS["outline_mm"]
MOST_READINGS, MOST_FEATURES = MOST_ITEMS["distances"], MOST_ITEMS["features"]
MOST_BYTES, MOST_DEPTH = 16 * 1024 * 1024, 64
"""Size of a file, and how deep its brackets may nest."""


def check_size(path: str, name: str, value: object) -> None:
    """Raise ``JobError`` for a list, a map or a text at ``path`` that is longer than the key ``name`` allows."""
    if isinstance(value, str):
        most, what = MOST_LETTERS.get(name, USUAL_LETTERS), "letters"
    elif isinstance(value, tuple | Mapping):
        most, what = MOST_ITEMS.get(name, USUAL_ITEMS), "items"
    else:
        return
    if isinstance(value, Sized) and len(value) > most:
        raise JobError(path, f"{len(value)} {what}", f"at most {most}")
    if isinstance(value, Mapping):
        for key in value:
            check_size(f"{path}.{key[:40]}", "", key)
