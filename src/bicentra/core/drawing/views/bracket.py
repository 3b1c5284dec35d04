"""The bracket, and what is made beside it, in the two sightlines: its parts as they sit, bent where they are."""

import numpy as np
import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.bracket.fold import fold_of, folded_plan
from bicentra.core.bracket.model import Bracket, MadePart
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.drawing.model import Note, Shape, Sheet
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import FloatArray, circle_outline

REACH_MM = 1e4


def bracket_face(sheet: Sheet, bracket: Bracket, tag: str = "bracket") -> None:
    """Draw the parts seen along the axle, at the outboard face."""
    for part in bracket.parts:
        if part.outline is not None:
            _plate_face(sheet, part, tag)
        elif is_known(part.z0, part.outer):
            rings = (circle_outline(spot, size / 2) for spot in part.centres for size in (part.outer, part.inner))
            sheet.shape(Shape(tuple(ring.vertices for ring in rings), "made", tag))
    if bracket.unmade and bracket.fault:
        sheet.examples.append(bracket.fault)


def _plate_face(sheet: Sheet, part: MadePart, tag: str) -> None:
    fold = fold_of(part)
    bent = folded_plan(part, fold) if fold is not None else None
    outline, centres = bent if bent is not None else (part.outline, tuple(bore.centre for bore in part.bores))
    if outline is None:
        return
    inner = (*([part.window] if part.window is not None else []), *part.cutouts)
    sheet.shape(Shape((outline.vertices, *(edge.vertices for edge in inner)), "made", tag))
    for pocket in part.pockets:
        for edge in pocket.kept or (pocket.outline,):
            sheet.outline(edge, "shim", tag, False, "solid" if pocket.face > 0 else "hidden")
    for centre, bore in zip(centres, part.bores):
        own = bore.feature if tag == "bracket" else tag
        sheet.outline(bore.outline_at(centre), "hole", own)
        centre_mark(sheet, centre, bore.drill * 0.8, own)
    for stud in part.edge_bores:
        sheet.polygon(stud.corners, "hole", tag, False, "hidden")


def bracket_section(sheet: Sheet, bracket: Bracket, clock_deg: float, tag: str = "bracket") -> None:
    """Draw the parts across the rotor: what lies beside the plane dashed, what it cuts filled."""
    if not is_known(clock_deg):
        return
    spin = ClockFrame(clock_deg).spin
    for part in bracket.parts:
        fold = fold_of(part)
        if fold is not None and part.outline is not None:
            along = part.outline.polygon(0.1) @ np.array(fold.u)
            facing = float(np.array(fold.u) @ spin[:, 0])
            profile = fold.profile(float(along.min()), float(along.max()) - fold.flat + fold.run)
            loop = tuple((z, s * facing, -bulge * facing) for s, z, bulge in profile.vertices)
            sheet.shape(Shape((loop,), "made", tag))
        elif part.outline is not None and not part.pockets and is_known(part.z0, part.thickness):
            _whole_section(sheet, part.outline.polygon(0.05) @ spin, part, tag)
        else:
            _prism_sections(sheet, part, spin, tag)


def _whole_section(sheet: Sheet, points: FloatArray, part: MadePart, tag: str) -> None:
    """Draw a plate of one thickness, its outline (n, 2) turned into the caliper's frame: radial, across."""
    radial, across = points[:, 0], points[:, 1]
    z0, z1 = part.z0, part.z0 + part.thickness
    sheet.box(z0, float(radial.min()), z1, float(radial.max()), "made", tag, "hidden")
    ahead, beyond = np.roll(radial, -1), np.roll(across, -1)
    crosses = across * beyond < 0
    at = radial[crosses] + (ahead - radial)[crosses] * across[crosses] / (across - beyond)[crosses]
    cuts = sorted(at.tolist())
    for low, high in zip(cuts[::2], cuts[1::2]):
        sheet.box(z0, low, z1, high, "made", tag)


def _prism_sections(sheet: Sheet, part: MadePart, spin: FloatArray, tag: str) -> None:
    for prism in part_prisms(part):
        local = shapely.transform(prism.shape, lambda points: points @ spin)
        low, _, high, _ = local.bounds
        sheet.box(prism.z0, low, prism.z1, high, "made", tag, "hidden")
        cut = local.intersection(shapely.LineString([(-REACH_MM, 0.0), (REACH_MM, 0.0)]))
        for piece in shapely.get_parts(cut):
            a, _, b, _ = piece.bounds
            if b - a > 1e-6:
                sheet.box(prism.z0, a, prism.z1, b, "made", tag)


def parking_face(sheet: Sheet, solution: Solution) -> None:
    """Draw the parking-brake caliper and its adapter, where the job has one."""
    parking, beside = solution.job.parking, solution.parking
    if parking is None or beside is None:
        return
    bracket_face(sheet, beside.bracket, "parking")
    body, frame = beside.assembly.body, ClockFrame(known(parking.clock_deg))
    if body.is_known and frame.is_known:
        corners = [(float(x), float(y)) for x, y in body.corners(frame.here)[0]]
        sheet.polygon(corners, "caliper", "parking", line="hidden")
        middle = np.mean(np.array(corners), axis=0)
        name = parking.caliper.name or "parking-brake caliper"
        sheet.note(
            Note(
                (float(middle[0]), float(middle[1])),
                name[:40],
                "parking",
                2,
                prefer=(float(middle[0]), float(middle[1])),
            )
        )
