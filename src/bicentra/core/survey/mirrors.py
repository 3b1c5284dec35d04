"""Mirror images: places that fit the readings as well as the ones found. None is ever chosen without saying so.

A point held by distances to others that lie on one line has a twin behind that line. Its readings cannot tell the two
apart, only a stated side, a name that says it (upper, lower), or a place known from elsewhere.
"""

import math
from collections.abc import Mapping

import numpy as np

from bicentra.core.survey.network import Array, Network, Reading
from bicentra.core.survey.start import Place, settled_by_word

APART_MM, DISTINCT = 1.0, 25.0
"""Twins closer than this are one place; readings that miss by more than this (sum of squares) tell them apart."""
Twin = tuple[str, Place, Place]


def twins(network: Network, x: Array, loose: frozenset[str], hints: Mapping[str, Place]) -> tuple[Twin, ...]:
    """Return every point with its place and its twin where nothing settles which is meant [mm]; ``x`` are the unknowns."""
    places = {name: (float(x[2 * k]), float(x[2 * k + 1])) for k, name in enumerate(network.points)}
    places[network.origin] = (0.0, 0.0)
    first = 2 * len(network.points)
    edges = {name: (float(x[first + 2 * k]), float(x[first + 2 * k + 1])) for k, name in enumerate(network.edges)}
    found = []
    for name in network.points:
        ties = [r for r in network.readings if name in r.ends and r.kind != "diameter"]
        if name in loose or any(r.kind == "direction" for r in ties):
            continue
        twin = _twin(name, ties, places, edges)
        if twin is None or math.dist(places[name], twin) < APART_MM:
            continue
        if _distinct(name, ties, places, edges, twin):
            continue
        if not settled_by_word(name, places[name], twin, network, hints):
            found.append((name, places[name], twin))
    return tuple(found)


def _others(name: str, ties: list[Reading], places: dict[str, Place]) -> list[Place]:
    names = {end for r in ties for end in r.ends if end != name and end in places}
    return [places[other] for other in names]


def _twin(name: str, ties: list[Reading], places: dict[str, Place], edges: dict[str, Place]) -> Place | None:
    """Return the mirror image of a point behind the line through what it is tied to."""
    points = np.array(_others(name, ties, places)).reshape(-1, 2)
    leans = [edges[end][0] for r in ties for end in r.ends if end in edges]
    if len(points) == 0:
        return None
    middle = points.mean(axis=0)
    if len(points) >= 2:
        _, size, ways = np.linalg.svd(points - middle)
        way = ways[0] if size[0] > 1e-9 else None
    else:
        way = np.array([-math.sin(leans[0]), math.cos(leans[0])]) if leans else None
    if way is None:
        return None
    off = np.array(places[name]) - middle
    turned = middle + 2 * (off @ way) * way - off
    return float(turned[0]), float(turned[1])


def _distinct(name: str, ties: list[Reading], places: dict[str, Place], edges: dict[str, Place], twin: Place) -> bool:
    """Tell whether the readings to ``name`` would miss at the twin's place by more than their instruments allow."""
    total = 0.0
    for reading in ties:
        other = reading.ends[0] if reading.ends[1] == name else reading.ends[1]
        if other in edges:
            here, there = (_from_edge(edges[other], place) for place in (places[name], twin))
        else:
            here, there = (math.dist(place, places[other]) for place in (places[name], twin))
        total += ((here - there) / reading.sigma) ** 2
    return total > DISTINCT


def _from_edge(edge: Place, place: Place) -> float:
    return abs(-math.sin(edge[0]) * place[0] + math.cos(edge[0]) * place[1] - edge[1])
