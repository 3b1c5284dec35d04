"""Lines over lines: what of some lines no other one lies on."""

import shapely

from bicentra.core.geometry.outline import Point

Line = tuple[Point, ...]
SHORTEST_MM = 0.2
"""A piece that is left is dropped when it is shorter [mm]."""


def uncovered(lines: list[Line], over: list[Line], within: float) -> tuple[Line, ...]:
    """Return what of ``lines`` lies further than ``within`` [mm] from the lines ``over`` them, and each such piece only once."""
    seen = shapely.union_all([shapely.LineString(line) for line in over if len(line) > 1]).buffer(within)
    left: list[Line] = []
    for line in lines:
        rest = shapely.LineString(line).difference(seen) if len(line) > 1 else shapely.LineString()
        pieces = [piece for piece in shapely.get_parts(rest) if piece.length > SHORTEST_MM]
        left += [tuple((float(x), float(y)) for x, y in piece.coords) for piece in pieces]
        seen = seen.union(rest.buffer(within)) if pieces else seen
    return tuple(left)
