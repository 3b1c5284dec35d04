"""What was given out to be cut, and when: the sizes of a corner's made parts under the revision their papers carried."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from bicentra.core.parts import fields as f


@dataclass(frozen=True, kw_only=True)
class Issued:
    """One revision of one corner's bracket. ``sizes``: every size of its parts by name [mm, mm2];

    ``changed``: since the one before.
    """

    corner: str = f.text("Corner")
    revision: str = f.text("Revision")
    date: str = f.text("Date")
    changed: str = f.text("What changed")
    material: str = f.text("Material")
    sizes: Mapping[str, float] = field(default_factory=dict, hash=False)
    extra: Mapping[str, Any] = field(default_factory=dict, repr=False, hash=False)
