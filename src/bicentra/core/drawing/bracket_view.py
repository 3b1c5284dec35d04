"""A bracket that is no flat plate, and one made beside it, in the two sightlines: its parts as they sit, bent where they are."""

import math

import numpy as np
import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.outline import circle_outline
from bicentra.core.bracket.families.fold import fold_of, folded_plan
from bicentra.core.bracket.families.model import Candidate, MadePart
from bicentra.core.bracket.families.slabs import part_slabs
from bicentra.core.drawing.model import Note, Shape, Sheet
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.solution import Solution

REACH_MM = 1e4


def bracket_face(sheet: Sheet, candidate: Candidate, tag: str = "bracket") -> None:
    """Draw the parts seen along the axle, at the outboard face."""
    for part in (part for part in candidate.parts if part_slabs(part)):
        if part.outline is None:
            rings = (circle_outline(spot, size / 2) for spot in part.centres for size in (part.outer, part.inner))
            sheet.shape(Shape(tuple(ring.vertices for ring in rings), "made", tag))
            continue
        _plate_face(sheet, part, tag)


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
        sheet.outline(bore.outline_at(centre), "hole", tag)
        centre_mark(sheet, centre, bore.drill * 0.8, tag)
    for stud in part.edge_bores:
        sheet.polygon(stud.corners, "hole", tag, False, "hidden")


def bracket_section(sheet: Sheet, candidate: Candidate, clock_deg: float, tag: str = "bracket") -> None:
    """Draw the parts across the rotor: what lies beside the plane dashed, what it cuts filled."""
    if not is_known(clock_deg):
        return
    turn = math.radians(clock_deg)
    spin = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
    for part in candidate.parts:
        fold = fold_of(part)
        if fold is not None and part.outline is not None:
            along = part.outline.polygon(0.1) @ np.array(fold.u)
            facing = float(np.array(fold.u) @ spin[:, 0])
            profile = fold.profile(float(along.min()), float(along.max()) - fold.flat + fold.run)
            loop = tuple((z, s * facing, -bulge * facing) for s, z, bulge in profile.vertices)
            sheet.shape(Shape((loop,), "made", tag))
            continue
        for slab in part_slabs(part):
            local = shapely.transform(slab.shape, lambda points: points @ spin)
            low, _, high, _ = local.bounds
            sheet.box(slab.z0, low, slab.z1, high, "made", tag, "hidden")
            cut = local.intersection(shapely.LineString([(-REACH_MM, 0.0), (REACH_MM, 0.0)]))
            for piece in shapely.get_parts(cut):
                a, _, b, _ = piece.bounds
                if b - a > 1e-6:
                    sheet.box(slab.z0, a, slab.z1, b, "made", tag)


def parking_face(sheet: Sheet, solution: Solution) -> None:
    """Draw the parking-brake caliper and its adapter, where the job has one."""
    parking, candidate = solution.job.parking, solution.beside
    if parking is None or candidate is None or candidate.stands is None:
        return
    bracket_face(sheet, candidate, "parking")
    body, clock = candidate.stands.body, math.radians(known(parking.clock_deg))
    if body.is_known and is_known(clock):
        corners = [(float(x), float(y)) for x, y in body.corners(np.array([clock]))[0]]
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
