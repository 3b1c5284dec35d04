"""Solids of made parts by the solid kernel: exact faces, volume and centroid, STEP in mm; meshes as STL and 3MF."""

import io
import re
import struct
import tempfile
import zipfile
from html import escape
from pathlib import Path
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import printable
from bicentra.core.bracket.fold import Fold, fold_of, folded_plan
from bicentra.core.bracket.model import Bore, MadePart
from bicentra.core.geometry.outline import Outline, Point, Segment

PAST_MM = 5.0
"""How far the section is drawn beyond the outline before it is cut to it."""


def bent_solid(part: MadePart, fold: Fold, plan_solid: Any) -> Any:
    """Return the bent plate. ``plan_solid(outline, centres, z0, height)`` makes the upright prism of the plan."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Common

    outline, centres = folded_plan(part, fold)
    if outline is None:
        raise ExportError(f"{part.name}: there is no outline")
    low, high = fold.z0 + min(0.0, fold.up * fold.height), fold.z0 + max(0.0, fold.up * fold.height) + part.thickness
    plan = plan_solid(outline, centres, low - PAST_MM, high - low + 2 * PAST_MM)
    return BRepAlgoAPI_Common(_drawn_out(part, fold), plan).Shape()


def _drawn_out(part: MadePart, fold: Fold) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
    from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
    from OCP.gp import gp_Vec

    assert part.outline is not None
    (ux, uy), corners = fold.u, part.outline.polygon(0.1)
    along, across = corners @ (ux, uy), corners @ (-uy, ux)
    foot, wide = float(across.min()) - PAST_MM, float(across.max() - across.min()) + 2 * PAST_MM
    maker = BRepBuilderAPI_MakeWire()
    for piece in fold.profile(float(along.min()) - PAST_MM, float(along.max()) + PAST_MM).segments:
        maker.Add(_edge(piece, fold, foot))
    face = BRepBuilderAPI_MakeFace(maker.Wire(), True).Face()
    return BRepPrimAPI_MakePrism(face, gp_Vec(-uy * wide, ux * wide, 0.0)).Shape()


def _edge(piece: Segment, fold: Fold, foot: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge
    from OCP.GC import GC_MakeArcOfCircle
    from OCP.gp import gp_Pnt

    (ux, uy) = fold.u

    def at(spot: tuple[float, float]) -> Any:
        return gp_Pnt(spot[0] * ux - foot * uy, spot[0] * uy + foot * ux, spot[1])

    start, end = at(piece.start), at(piece.end)
    if piece.bulge == 0.0:
        return BRepBuilderAPI_MakeEdge(start, end).Edge()
    return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(start, at(piece.points(1e9)[1]), end).Value()).Edge()


STAMP = "1970-01-01T00:00:00"
"""Written instead of the hour: the same job gives the same bytes."""
MESH_MM, MESH_RAD = 0.02, 0.15
"""How far a chord of a mesh may lie from the true face, and how far its facets may turn."""


def solid_of(part: MadePart, mirrored: bool = False, flat: bool = False) -> Any:
    """Return the kernel's solid of one part where it sits; ``flat``: before it is bent.

    Raises ``ExportError`` for a part that is unknown.
    """
    if not is_known(part.thickness) or part.thickness <= 0:
        raise ExportError(f"{part.name}: its thickness is unknown")
    fold = fold_of(part)
    if fold is not None and not flat:
        made = bent_solid(part, fold, lambda outline, centres, z0, height: _drilled(part, outline, centres, z0, height))
    else:
        made = _plate(part) if part.shape == "plate" else _round(part)
    return _mirror(made) if mirrored or part.mirrored else made


def _drilled(part: MadePart, outline: Outline, centres: tuple[Point, ...], z0: float, height: float) -> Any:
    holes = [_rim(bore, centre, z0) for centre, bore in zip(centres, part.bores)]
    return _prism(_wire(outline, z0), holes, height)


def _plate(part: MadePart) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    if part.outline is None:
        raise ExportError(f"{part.name}: there is no outline")
    z0 = part.z0 if is_known(part.z0) else 0.0
    holes = [_rim(bore, bore.centre, z0) for bore in part.bores]
    if part.window is not None:
        holes.append(_wire(part.window, z0))
    holes += [_wire(cutout, z0) for cutout in part.cutouts]
    made = _prism(_wire(part.outline, z0), holes, part.thickness)
    if part.chamfer:
        made = _chamfered(made, part, z0)
    for pocket in part.pockets:
        start = z0 + part.thickness - pocket.depth if pocket.face > 0 else z0
        made = _cut(made, _prism(_wire(pocket.outline, start), [_wire(k, start) for k in pocket.kept], pocket.depth))
    for bore in part.bores:
        if bore.sink is not None:
            start = z0 + part.thickness if bore.sink.face > 0 else z0
            axis = gp_Ax2(gp_Pnt(*bore.centre, start), gp_Dir(0.0, 0.0, -bore.sink.face))
            made = _cut(made, BRepPrimAPI_MakeCone(axis, bore.sink.wide / 2, bore.drill / 2, bore.depth).Shape())
    for stud in part.edge_bores:
        axis = gp_Ax2(gp_Pnt(*stud.at), gp_Dir(*stud.way, 0.0))
        made = _cut(made, _cylinder(axis, stud.drill / 2, stud.depth))
    return made


def _chamfered(made: Any, part: MadePart, z0: float) -> Any:
    """Chamfer both rims of the outline. Raises ``ExportError`` where the kernel cannot."""
    from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer
    from OCP.BRepGProp import BRepGProp
    from OCP.BRepTools import BRepTools
    from OCP.GProp import GProp_GProps
    from OCP.TopAbs import TopAbs_ShapeEnum
    from OCP.TopExp import TopExp_Explorer

    maker, faces = BRepFilletAPI_MakeChamfer(made), TopExp_Explorer(made, TopAbs_ShapeEnum.TopAbs_FACE)
    while faces.More():
        face, sizes = cast("Face", faces.Current()), GProp_GProps()
        BRepGProp.SurfaceProperties_s(face, sizes)
        z = sizes.CentreOfMass().Z()
        if min(abs(z - z0), abs(z - z0 - part.thickness)) < 1e-6:
            edges = TopExp_Explorer(BRepTools.OuterWire_s(face), TopAbs_ShapeEnum.TopAbs_EDGE)
            while edges.More():
                maker.Add(part.chamfer, cast("Edge", edges.Current()))
                edges.Next()
        faces.Next()
    maker.Build()
    if not maker.IsDone():
        raise ExportError(
            f"{part.name}: a chamfer of {part.chamfer:g} mm does not fit its outline; ask for a smaller one"
        )
    return maker.Shape()


def cast(kind: str, shape: Any) -> Any:
    """Return ``shape`` as the kind (Face, Edge) it is; the kernel's bindings call it by one of two names."""
    from OCP.TopoDS import TopoDS

    return (getattr(TopoDS, f"{kind}_s", None) or getattr(TopoDS, kind))(shape)


def _rim(bore: Bore, centre: Point, z: float) -> Any:
    return _wire(bore.outline_at(centre), z) if bore.slot else _circle(*centre, bore.drill / 2, z)


def _round(part: MadePart) -> Any:
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    z0 = part.z0 if is_known(part.z0) else 0.0
    x, y = part.centres[0] if part.centres else (0.0, 0.0)
    up = gp_Dir(0, 0, 1)
    body = _cylinder(gp_Ax2(gp_Pnt(x, y, z0), up), part.outer / 2, part.thickness)
    bore = _cylinder(gp_Ax2(gp_Pnt(x + part.offset, y, z0), up), part.inner / 2, part.thickness)
    return _cut(body, bore)


def _solid_edge(piece: Segment, z: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge
    from OCP.GC import GC_MakeArcOfCircle
    from OCP.gp import gp_Pnt

    start, end = gp_Pnt(*piece.start, z), gp_Pnt(*piece.end, z)
    if piece.bulge == 0.0:
        return BRepBuilderAPI_MakeEdge(start, end).Edge()
    middle = piece.points(1e9)[1]  # with so coarse a chord: half way along the arc
    return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(start, gp_Pnt(*middle, z), end).Value()).Edge()


def _wire(outline: Outline, z: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeWire

    maker = BRepBuilderAPI_MakeWire()
    for piece in outline.segments:
        maker.Add(_solid_edge(piece, z))
    return maker.Wire()


def _circle(x: float, y: float, radius: float, z: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
    from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pnt

    ring = gp_Circ(gp_Ax2(gp_Pnt(x, y, z), gp_Dir(0, 0, 1)), radius)
    return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(ring).Edge()).Wire()


def _prism(outer: Any, holes: list[Any], height: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
    from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
    from OCP.gp import gp_Vec

    face = BRepBuilderAPI_MakeFace(outer, True)
    for hole in holes:
        hole.Reverse()
        face.Add(hole)
    return BRepPrimAPI_MakePrism(face.Face(), gp_Vec(0, 0, height)).Shape()


def _cylinder(axis: Any, radius: float, height: float) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder

    return BRepPrimAPI_MakeCylinder(axis, radius, height).Shape()


def _cut(body: Any, tool: Any) -> Any:
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

    return BRepAlgoAPI_Cut(body, tool).Shape()


def _mirror(shape: Any) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf

    turn = gp_Trsf()
    turn.SetMirror(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0)))
    return BRepBuilderAPI_Transform(shape, turn, True).Shape()


def turned(shape: Any, datum: tuple[float, float, float, float]) -> Any:
    """Return ``shape`` moved and turned so that a ``datum`` (x, y [mm], cosine, sine) lies at the origin and along x."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf

    x, y, cos, sin = datum
    turn = gp_Trsf()
    turn.SetTransformation(gp_Ax3(gp_Pnt(x, y, 0.0), gp_Dir(0, 0, 1), gp_Dir(cos, sin, 0.0)))
    return BRepBuilderAPI_Transform(shape, turn, True).Shape()


def volume_and_centroid(shape: Any) -> tuple[float, tuple[float, float, float]]:
    """Return a solid's volume [mm3] and centre of mass [mm]."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps

    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    middle = found.CentreOfMass()
    return found.Mass(), (middle.X(), middle.Y(), middle.Z())


def step_bytes(parts: tuple[MadePart, ...], mirrored: bool = False, mark: str = "") -> bytes:
    """Return a STEP file (AP214, mm) with every part under its own name, and ``mark`` in its header."""
    from OCP.Interface import Interface_Static
    from OCP.STEPCAFControl import STEPCAFControl_Writer
    from OCP.TCollection import TCollection_ExtendedString
    from OCP.TDataStd import TDataStd_Name
    from OCP.TDocStd import TDocStd_Document
    from OCP.XCAFDoc import XCAFDoc_DocumentTool

    _be_silent()
    document = TDocStd_Document(TCollection_ExtendedString("bicentra"))
    tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    for part in parts:
        label = tool.AddShape(solid_of(part, mirrored), False)
        TDataStd_Name.Set_s(label, TCollection_ExtendedString(part.name))
    writer = STEPCAFControl_Writer()
    writer.SetNameMode(True)
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "part.step"
        if not writer.Transfer(document) or int(writer.Write(str(path))) != 1:
            raise ExportError("the solid kernel could not write the STEP file")
        text = path.read_text("utf-8")
    name = "FILE_NAME('Bicentra','" + STAMP + "',(''),(''),'Bicentra','Bicentra','');"
    text = re.sub(r"FILE_NAME\(.*?\);", name, text, count=1, flags=re.DOTALL)
    words = ",".join(f"'{_quoted(line)}'" for line in ("Bicentra made parts", *([mark] if mark else [])))
    described = f"FILE_DESCRIPTION(({words}),'2;1');"
    text = re.sub(r"FILE_DESCRIPTION\(.*?\);", lambda _: described, text, count=1, flags=re.DOTALL)
    return text.encode()


def _quoted(text: str) -> str:
    """Return ``text`` as it may stand in a string of the exchange structure: plain letters, apostrophes doubled (ISO
    10303-21).
    """
    return text.encode("ascii", "replace").decode().replace("\\", "/").replace("'", "''")[:250]


def _be_silent() -> None:
    """Take away the kernel's printers: it writes its progress to standard output."""
    from OCP.Message import Message

    messenger = Message.DefaultMessenger_s()
    for printer in list(messenger.Printers()):
        messenger.RemovePrinter(printer)


def triangles(
    parts: tuple[MadePart, ...], mirrored: bool = False
) -> list[tuple[str, list[Any], list[tuple[int, int, int]]]]:
    """Return (name, corners, triangles of corner numbers) of every part, outward faces counter-clockwise."""
    return [(part.name, *_mesh(solid_of(part, mirrored))) for part in parts]


def _mesh(shape: Any) -> tuple[list[tuple[float, float, float]], list[tuple[int, int, int]]]:
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_FACE, TopAbs_REVERSED
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopLoc import TopLoc_Location

    BRepMesh_IncrementalMesh(shape, MESH_MM, False, MESH_RAD, False)
    places: dict[tuple[float, float, float], int] = {}
    corners: list[tuple[float, float, float]] = []
    faces: list[tuple[int, int, int]] = []
    walk = TopExp_Explorer(shape, TopAbs_FACE)
    while walk.More():
        face = cast("Face", walk.Current())
        where = TopLoc_Location()
        mesh = BRep_Tool.Triangulation_s(face, where)
        turn = where.Transformation()
        back = face.Orientation() == TopAbs_REVERSED
        numbers = []
        for k in range(1, mesh.NbNodes() + 1):
            point = mesh.Node(k).Transformed(turn)
            key = (round(point.X(), 6), round(point.Y(), 6), round(point.Z(), 6))
            if key not in places:
                places[key] = len(corners)
                corners.append(key)
            numbers.append(places[key])
        for k in range(1, mesh.NbTriangles() + 1):
            a, b, c = (numbers[n - 1] for n in mesh.Triangle(k).Get())
            if len({a, b, c}) == 3:
                faces.append((a, c, b) if back else (a, b, c))
        walk.Next()
    return corners, faces


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
