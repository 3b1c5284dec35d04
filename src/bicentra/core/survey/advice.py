"""What to measure next, and what it brings.

A further reading with derivatives a (over its standard uncertainty) changes the covariance C to
C − C·aᵀ·a·C / (1 + a·C·aᵀ), and adds (gᵢ·C·aᵀ)² / (1 + a·C·aᵀ) to the redundancy of reading i. So the gain of every
possible reading is known before it is taken.
"""

import math
from collections.abc import Iterable
from itertools import combinations

import numpy as np

from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import SENSE_WORDS, Survey
from bicentra.core.survey.adjust import Adjusted
from bicentra.core.survey.network import Array, Reading
from bicentra.core.survey.words import reading_name, suspect_sentence

CHECKED = 0.1
"""Redundancy from which a reading counts as checked."""
MOST_OFFERED, MOST_TRIED = 6, 160


class ReadingAdvice(Record, frozen=True):
    """One thing to do next. ``kind``: again, feature, diameter, distance, direction, side, face, sweep, straightedge.

    For a distance or a direction ``ends`` and ``sense`` say which; ``gain`` says in words what it brings.
    ``sharpens``: everything is located and checked, it only makes a number surer.
    """

    kind: str
    sentence: str
    ends: tuple[str, ...] = ()
    sense: str = ""
    gain: str = ""
    index: int = -1
    list: str = ""
    sharpens: bool = False


def advise(
    survey: Survey, adjusted: Adjusted | None, lengths: LengthFormat, lugs: Iterable[str] | None = None
) -> tuple[ReadingAdvice, ...]:
    """Return what to do next, the most useful first; never empty while anything is left to gain.

    ``lugs`` are the features whose faces matter; every hole off the axle when they are not reported.
    """
    found: list[ReadingAdvice] = []
    if adjusted is not None and adjusted.suspects:
        found += _again(adjusted, lengths)
    found += _basics(survey)
    if adjusted is not None and survey.axis is not None:
        found += _network_advice(adjusted, lengths)
    found += _faces_and_sweeps(survey, lugs)
    return tuple(found[: MOST_OFFERED + 4])


def _again(adjusted: Adjusted, lengths: LengthFormat) -> list[ReadingAdvice]:
    text = suspect_sentence(adjusted, lengths)
    rows = [adjusted.readings[k] for k in adjusted.suspects]
    return [
        ReadingAdvice("again", text, r.ends, r.sense, "settles which reading is wrong", r.index, r.list)
        for r in rows[:3]
    ]


def _basics(survey: Survey) -> list[ReadingAdvice]:
    if survey.axis is None:
        text = "Add the feature that is centred on the axle, such as the pilot: everything is measured from it."
        return [ReadingAdvice("feature", text, gain="gives the survey its origin")]
    bare = [f for f in survey.features if f.kind == "round" and not f.diameter_mm]
    found = [
        ReadingAdvice(
            "diameter", f"Measure the diameter of {f.name}.", (f.name,), gain="turns edge readings into centres"
        )
        for f in bare
    ]
    if len(survey.features) < 2:
        text = "Add a lug hole to measure to."
        found.append(ReadingAdvice("feature", text, gain="gives the bracket a place to bolt to"))
    return found[:3]


def _network_advice(adjusted: Adjusted, lengths: LengthFormat) -> list[ReadingAdvice]:
    network = adjusted.network
    sides = [
        ReadingAdvice("side", f"Say where {name} lies: above, below, ahead or behind.", (name,), gain="settles a mirror image")
        for name, *_ in adjusted.mirrored
    ]  # fmt: skip
    proposals = _candidates(adjusted)
    if not proposals:
        return sides
    rows = replace(network, readings=tuple(proposals)).slopes(adjusted.x)
    free = _free_directions(adjusted)
    if adjusted.loose:
        return sides + _fixing(adjusted, proposals, rows, free)
    unchecked = int((adjusted.redundancy < CHECKED).sum()) if len(adjusted.redundancy) else 0
    if unchecked:
        return sides + _checking(adjusted, proposals, rows)
    return sides + _sharpening(adjusted, proposals, rows, lengths)


def _candidates(adjusted: Adjusted) -> list[Reading]:
    """Return every reading that could still be taken: each pair once more, and the angle of each line from the axle."""
    network = adjusted.network
    names = [network.origin, *network.points]
    taken = {(frozenset(r.ends), r.sense) for r in network.readings if r.kind in ("distance", "edge-distance")}
    sized = [
        n for n in names if n and (n in network.diameters or network.features[n].kind == "point" or n == network.origin)
    ]
    found = []
    for one, other in combinations(sized, 2):
        if network.origin in (one, other) and network.origin not in network.diameters:
            continue
        ends = (one, other)
        sense = next((s for s in ("near-near", "far-far") if (frozenset(ends), s) not in taken), "near-near")
        found.append(Reading("distances", -1, "distance", ends, 0.0, 0.03, sense))
    found += [
        Reading("distances", -1, "edge-distance", (edge, name), 0.0, 0.03, "near-near")
        for edge in network.edges
        for name in sized
        if (frozenset((edge, name)), "near-near") not in taken
    ]
    angled = {r.ends for r in network.readings if "direction" in r.kind}
    found += [
        Reading("directions", -1, "direction", (network.origin, n), 0.0, math.radians(0.2))
        for n in network.points
        if (network.origin, n) not in angled
    ]
    found += [
        Reading("directions", -1, "edge-direction", (e, e), 0.0, math.radians(0.2))
        for e in network.edges
        if (e, e) not in angled
    ]
    return found[:MOST_TRIED]


def _free_directions(adjusted: Adjusted) -> Array:
    """Return the directions no reading holds, (k, unknowns), unit vectors."""
    network = adjusted.network
    if not network.readings:
        return np.eye(network.count)
    slopes = network.slopes(adjusted.x)
    _, s, vt = np.linalg.svd(slopes, full_matrices=len(slopes) < network.count)
    rank = int((s > 1e-7 * max(float(s.max(initial=0.0)), 1.0)).sum())
    return vt[rank:]


def _fixing(adjusted: Adjusted, proposals: list[Reading], rows: Array, free: Array) -> list[ReadingAdvice]:
    """Readings that hold what is loose, those that hold it hardest first; an easy distance before an angle."""
    if len(free):
        holds = np.linalg.norm(rows @ free.T, axis=1) * np.array([r.sigma for r in proposals])
        scale = np.where([r.kind.endswith("direction") for r in proposals], 40.0, 1.0)  # mm per rad, as on a lug
        holds = holds * scale
    else:
        holds = np.einsum("ij,jk,ik->i", rows, adjusted.covariance, rows)
    order = [int(k) for k in np.argsort(-np.round(holds, 3), kind="stable") if holds[k] > 0.02]
    found = []
    loose = adjusted.loose_names
    for k in order[:MOST_OFFERED]:
        held = [name for name in proposals[k].ends if name in loose] or ["the whole corner"]
        found.append(_offer(proposals[k], f"this locates {held[-1]}"))
    return found


def _offer(reading: Reading, gain: str) -> ReadingAdvice:
    if reading.kind == "direction":
        text = f"Read the angle of the line from {reading.ends[0]} to {reading.ends[1]}: {gain}."
        return ReadingAdvice("direction", text, reading.ends, "", gain, list="directions")
    if reading.kind == "edge-direction":
        text = f"Read the lean of {reading.ends[0]}: {gain}."
        return ReadingAdvice("direction", text, reading.ends, "", gain, list="directions")
    text = f"Measure {reading.ends[0]} to {reading.ends[1]}, {SENSE_WORDS[reading.sense]}: {gain}."
    return ReadingAdvice("distance", text, reading.ends, reading.sense, gain, list="distances")


def _spreading(adjusted: Adjusted, rows: Array) -> tuple[Array, Array]:
    """Return C·aᵀ for each candidate, (unknowns, m), and 1 + a·C·aᵀ, (m,)."""
    reach = adjusted.covariance @ rows.T
    return reach, 1.0 + np.einsum("ij,ji->i", rows, reach)


def _checking(adjusted: Adjusted, proposals: list[Reading], rows: Array) -> list[ReadingAdvice]:
    """Readings that let the most others be checked."""
    slopes = adjusted.network.slopes(adjusted.x)
    reach, weight = _spreading(adjusted, rows)
    grown = adjusted.redundancy[:, None] + (slopes @ reach) ** 2 / weight
    newly = ((grown >= CHECKED) & (adjusted.redundancy[:, None] < CHECKED)).sum(axis=0)
    raised = np.minimum(grown, 0.5).sum(axis=0) - np.minimum(adjusted.redundancy, 0.5).sum()
    order = sorted(range(len(proposals)), key=lambda k: (-int(newly[k]), -round(float(raised[k]), 4)))
    found = []
    for k in order[:MOST_OFFERED]:
        if raised[k] < 1e-3:
            break
        count = int(newly[k])
        gain = (
            f"it would catch a wrong reading among {count} that nothing checks now"
            if count
            else "it makes the checks surer"
        )
        found.append(_offer(proposals[k], gain))
    return found


def _sharpening(
    adjusted: Adjusted, proposals: list[Reading], rows: Array, lengths: LengthFormat
) -> list[ReadingAdvice]:
    """Readings that sharpen the place known worst."""
    spreads = {name: math.sqrt(float(np.trace(adjusted.spread(name)))) for name in adjusted.network.points}
    if not spreads:
        return []
    worst = max(spreads, key=lambda name: spreads[name])
    columns = adjusted.columns(worst) or (0, 1)
    reach, weight = _spreading(adjusted, rows)
    gains = (reach[list(columns)] ** 2).sum(axis=0) / weight
    found = []
    for k in np.argsort(-gains, kind="stable")[:MOST_OFFERED]:
        after = math.sqrt(max(spreads[worst] ** 2 - float(gains[k]), 0.0))
        if spreads[worst] - after < 0.02 * spreads[worst]:
            break
        gain = f"{worst} from ±{lengths.gap(2 * spreads[worst])} to ±{lengths.gap(2 * after)} (95 %)"
        found.append(replace(_offer(proposals[int(k)], gain), sharpens=True))
    return found


def _faces_and_sweeps(survey: Survey, lugs: Iterable[str] | None) -> list[ReadingAdvice]:
    found = []
    holes = (
        list(lugs)
        if lugs is not None
        else [f.name for f in survey.features if f.kind == "round" and not f.axis and not f.obstacle]
    )
    if holes and survey.straightedge_thickness_mm is None:
        text = "Measure the straightedge's thickness: depths to the lug faces are read from it."
        found.append(ReadingAdvice("straightedge", text, gain="gives the lugs their seating height"))
    for name in holes:
        count = sum(
            len([s for s in face.spots if s.depth_mm is not None]) for face in survey.faces if face.feature == name
        )
        if count < 3:
            text = f"Read the depth from the straightedge at three spots of the face of {name}."
            found.append(ReadingAdvice("face", text, (name,), gain="gives its seating height and shows a bent lug"))
    for on, words in (("hub-face", "hub face, wiped clean"), ("rotor-face", "rotor's face, on the bench")):
        if not any(sweep.on == on and sweep.readings for sweep in survey.sweeps):
            text = f"Sweep the {words}: eight indicator readings or more."
            found.append(ReadingAdvice("sweep", text, (on,), gain="shows the runout to expect and the best index"))
    return found


def unchecked_sentence(adjusted: Adjusted) -> str:
    """Return what to say where nothing can be checked; empty when something can."""
    if adjusted.dof > 0 or not adjusted.readings:
        return ""
    return "No spare readings yet: a mistake would not show."


def helps_most(adjusted: Adjusted, shares: Array) -> str:
    """Return the name of the reading with the largest share, (n,)."""
    return reading_name(adjusted.readings[int(np.argmax(shares))]) if len(shares) else ""
