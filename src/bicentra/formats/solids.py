"""Solids of made parts by the solid kernel: exact faces, volume and centroid, STEP with names in mm.

Heavy: the kernel is imported inside the calls and belongs in a worker process (``formats.solid_worker``). Everything is in
the hub frame; a left corner's parts are mirrored in the end.
"""

import re
import tempfile
from pathlib import Path
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.bracket.fold import fold_of
from bicentra.core.bracket.model import Bore, MadePart
from bicentra.core.geometry.outline import Outline, Point, Segment
from bicentra.formats.bent_solid import bent_solid

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


def _edge(piece: Segment, z: float) -> Any:
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
        maker.Add(_edge(piece, z))
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
