"""Writing a DXF document to bytes that are the same on every run: no clock, no chance, no order of a set."""

import io
from collections.abc import Callable
from typing import Any

from bicentra.core.base.quantities import Units


def dxf_bytes(draw: Callable[[Any], None], layers: dict[str, int], read_in: Units = "mm") -> bytes:
    """Return the DXF R2010 file of what ``draw`` puts, in mm, into a new document with ``layers`` (name: colour).

    ``read_in`` inches, everything is drawn in inches and the file says so.
    """
    from ezdxf import units
    from ezdxf._options import options
    from ezdxf.filemanagement import new

    before = options.write_fixed_meta_data_for_testing
    options.write_fixed_meta_data_for_testing = True
    try:
        document = new("R2010", setup=False, units=units.MM)
        for name, colour in layers.items():
            document.layers.add(name, color=colour)
        draw(document)
        if read_in == "in":
            _to_inches(document)
        for name in sorted(document.entitydb.dxf_types_in_use()):  # the library adds them in the order of a set
            document.classes.add_class(name)
        stream = io.StringIO()
        document.write(stream)
        return stream.getvalue().encode(document.output_encoding)
    finally:
        options.write_fixed_meta_data_for_testing = before


def _to_inches(document: Any) -> None:
    """Make the drawing 25.4 times smaller, and let the file say that its units are inches."""
    from ezdxf import units
    from ezdxf.math import Matrix44

    smaller = 1.0 / 25.4
    for entity in document.modelspace():
        entity.transform(Matrix44.scale(smaller, smaller, smaller))
    document.units = units.IN
    document.header["$MEASUREMENT"] = 0
