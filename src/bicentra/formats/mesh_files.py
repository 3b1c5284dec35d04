"""Meshes of made parts as STL (binary) and 3MF: for a trial piece from a printer."""

import io
import struct
import zipfile
from html import escape

from bicentra.core.base.wording import printable

Mesh = tuple[str, list[tuple[float, float, float]], list[tuple[int, int, int]]]
_TYPES = (
    '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
    '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
    '<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>'
)
_RELS = (
    '<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
    '<Relationship Target="/3D/3dmodel.model" Id="rel0" '
    'Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>'
)


def welded(
    corners: list[list[float]], faces: list[list[int]]
) -> tuple[list[tuple[float, float, float]], list[tuple[int, int, int]]]:
    """Return corners and triangles with corners that lie on each other made one."""
    places: dict[tuple[float, float, float], int] = {}
    number = [places.setdefault((round(x, 6), round(y, 6), round(z, 6)), len(places)) for x, y, z in corners]
    return list(places), [(number[a], number[b], number[c]) for a, b, c in faces]


def stl_bytes(meshes: list[Mesh], mark: str = "") -> bytes:
    """Return every mesh in one binary STL [mm]; the kind of file that has no names, and room for a word of the ``mark`` only."""
    out = io.BytesIO()
    head = "Bicentra, trial piece, mm. " + mark
    out.write(head.encode("ascii", "replace")[:80].ljust(80))
    out.write(struct.pack("<I", sum(len(faces) for _, _, faces in meshes)))
    for _, corners, faces in meshes:
        for face in faces:
            a, b, c = (corners[k] for k in face)
            out.write(struct.pack("<12fH", *_normal(a, b, c), *a, *b, *c, 0))
    return out.getvalue()


def _normal(a: tuple[float, ...], b: tuple[float, ...], c: tuple[float, ...]) -> tuple[float, float, float]:
    u = [b[k] - a[k] for k in range(3)]
    v = [c[k] - a[k] for k in range(3)]
    n = (u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0])
    long = (n[0] ** 2 + n[1] ** 2 + n[2] ** 2) ** 0.5 or 1.0
    return n[0] / long, n[1] / long, n[2] / long


def threemf_bytes(meshes: list[Mesh], thickness_scale: float = 1.0, mark: str = "") -> bytes:
    """Return a 3MF package [mm], every part under its name; ``thickness_scale`` stretches z for a trial print only.

    A stretched piece says so in its name: it is not the part. ``mark``: what keeps metal from being cut, as its description.
    """
    objects, items = [], []
    for number, (name, corners, faces) in enumerate(meshes, 1):
        words = name if thickness_scale == 1.0 else f"{name}, trial, thickness times {thickness_scale:g}"
        points = "".join(f'<vertex x="{x:.6g}" y="{y:.6g}" z="{z * thickness_scale:.6g}"/>' for x, y, z in corners)
        shapes = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in faces)
        mesh = f"<mesh><vertices>{points}</vertices><triangles>{shapes}</triangles></mesh>"
        objects.append(f'<object id="{number}" type="model" name="{escape(printable(words))}">{mesh}</object>')
        items.append(f'<item objectid="{number}"/>')
    described = f'<metadata name="Description">{escape(printable(mark))}</metadata>' if mark else ""
    model = (
        '<?xml version="1.0" encoding="UTF-8"?>\n<model unit="millimeter" xml:lang="en" '
        'xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">'
        f"{described}<resources>{''.join(objects)}</resources><build>{''.join(items)}</build></model>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
        for path, text in (("[Content_Types].xml", _TYPES), ("_rels/.rels", _RELS), ("3D/3dmodel.model", model)):
            package.writestr(zipfile.ZipInfo(path, (1980, 1, 1, 0, 0, 0)), text, zipfile.ZIP_DEFLATED)
    return out.getvalue()
