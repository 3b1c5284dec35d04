"""A photo kept with the job: where it lies beside the job's file, what it is of, a note."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class Photo(f.Described):
    """One photo. ``file``: its name in the folder beside the job; ``of``: a corner, a reading after its
    corner and a colon, or empty for the whole vehicle."""

    file: str = f.text("File")
    of: str = f.text("Of")
    note: str = f.text("Note")
    date: str = f.text("Date")
    extra: Mapping[str, Any] = f.other_keys()
