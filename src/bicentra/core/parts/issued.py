"""What was given out to be cut, and when: the sizes of a corner's made parts under the revision their papers carried."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.records import field
from bicentra.core.parts import fields as f


class Issued(f.Described):
    """One revision of one corner's bracket. ``sizes``: every size of its parts by name [mm, mm2];

    ``changed``: since the one before.
    """

    corner: str = f.text("Corner")
    revision: str = f.text("Revision")
    date: str = f.text("Date")
    changed: str = f.text("What changed")
    material: str = f.text("Material")
    sizes: Mapping[str, float] = field(default_factory=dict)
    extra: Mapping[str, Any] = f.other_keys()
