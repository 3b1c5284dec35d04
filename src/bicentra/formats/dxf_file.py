"""Writing a DXF document to bytes that are the same on every run: no clock, no chance, no order of a set."""

import io
from collections.abc import Callable
from typing import Any


def dxf_bytes(draw: Callable[[Any], None], layers: dict[str, int]) -> bytes:
    """Return the DXF R2010 file, in millimetres, of what ``draw`` puts into a new document with ``layers`` (name: colour)."""
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
        for name in sorted(document.entitydb.dxf_types_in_use()):  # the library adds them in the order of a set
            document.classes.add_class(name)
        stream = io.StringIO()
        document.write(stream)
        return stream.getvalue().encode(document.output_encoding)
    finally:
        options.write_fixed_meta_data_for_testing = before
