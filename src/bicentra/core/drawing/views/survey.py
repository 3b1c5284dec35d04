"""The survey on paper: the hub face with every reading as a dimension on it, what is still wanted as example."""

import math
from collections.abc import Iterable

import numpy as np

from bicentra.core.base.numbers import known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, mirrored, short
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Point
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Feature
from bicentra.core.survey.adjust import Adjusted, error_ellipse
from bicentra.core.survey.advice import ReadingAdvice
from bicentra.core.survey.corner import Surveyed, hints, lug_of
from bicentra.core.survey.network import SENSE_SIGNS, Reading
from bicentra.core.survey.words import blunder_of

ADD, EXAMPLE_MM = "add:", (70.0, 28.0)
"""What a label stands for that adds a feature, and the radii of a hub face and a pilot that are only examples [mm]."""
SPARE = (-110.0, -90.0, 110.0, 90.0)
POINT_MM, EDGE_MM, UNSIZED_MM, CLEAR_MM = 2.0, 55.0, 4.0, 16.0
FACTORS = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0)
STRAINED = 2.6
"""Normalised residual from which a reading is shown as strained: one in a hundred of good ones is."""
LARGEST_ELLIPSE_MM, MOST_GHOSTS = 13.0, 3


def feature_tag(name: str) -> str:
    """Return the drawing tag of a feature of the survey."""
    return f"feature:{name}"


def survey_view(
    job: Job, done: Surveyed, wanted: Iterable[ReadingAdvice] = (), picked: tuple[str, ...] = ()
) -> Drawing:
    """Return the hub face of ``done`` seen from outboard; a left corner is turned over."""
    sheet, lengths = Sheet(), LengthFormat("in" if job.display_units == "in" else "mm")
    places = feature_places(job, done)
    _hub(sheet, job)
    for feature in done.survey.features:
        _feature(sheet, job, done, feature, places, picked, lengths)
    if done.adjusted is not None:
        _ellipses(sheet, done.adjusted)
        _readings(sheet, done.adjusted, places, lengths)
    for rank, advice in enumerate(list(wanted)[:MOST_GHOSTS]):
        _example(sheet, done, advice, places, rank)
    if not done.survey.features:
        _hub_example(sheet)
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if done.corner.endswith("left") else drawing


def _hub_example(sheet: Sheet) -> None:
    """Show, dashed, what a hub face has to measure to, each with a label that adds it when it is clicked."""
    sheet.circle((0.0, 0.0), EXAMPLE_MM[0], "example", "hub-face", False, "hidden")
    sheet.circle((0.0, 0.0), EXAMPLE_MM[1], "example", "pilot", False, "hidden")
    sheet.note(
        Note((EXAMPLE_MM[1], 0.0), "click: add the pilot", "pilot", 0, f"{ADD}pilot", prefer=(1.0, 0.3), example=True)
    )
    for y in (40.0, -40.0):
        at = (-62.0, y)
        sheet.circle(at, 13.0, "example", "lug", False, "hidden")
        sheet.circle(at, 6.5, "example", "lug", False, "hidden")
        text = f"click: add the {'upper' if y > 0 else 'lower'} lug"
        sheet.note(
            Note((at[0] - 9.0, y), text, "lug", 1, f"{ADD}lug", prefer=(-1.0, 0.6 if y > 0 else -0.6), example=True)
        )
    sheet.line(((0.0, 0.0), (-62.0, 40.0)), "example", "lug", "hidden")
    sheet.line(((0.0, 0.0), (-62.0, -40.0)), "example", "lug", "hidden")


def feature_places(job: Job, done: Surveyed) -> dict[str, Point]:
    """Return where each point is drawn [mm]: its adjusted place; a guess, drawn as an example, while it is loose."""
    typed = hints(job, done.survey)
    found: dict[str, Point] = {}
    for k, feature in enumerate(done.survey.features):
        if feature.axis:
            found[feature.name] = (0.0, 0.0)
        elif feature.kind != "edge":
            adjusted = done.adjusted
            place = adjusted.place(feature.name) if adjusted is not None else typed.get(feature.name)
            turn = 2.6 + 0.7 * k
            found[feature.name] = place or (80.0 * math.cos(turn), 80.0 * math.sin(turn))
    return found


def pick_places(job: Job, done: Surveyed) -> dict[str, Point]:
    """Return where each feature can be taken hold of, in the survey's order [mm]: a point's place, the middle of an edge."""
    places = feature_places(job, done)
    found: dict[str, Point] = {}
    for feature in done.survey.features:
        if feature.kind != "edge":
            found[feature.name] = places[feature.name]
        elif done.adjusted is not None:
            alpha, offset = done.adjusted.place(feature.name)
            found[feature.name] = (-math.sin(alpha) * offset, math.cos(alpha) * offset)
    return found


def ellipse_factor(done: Surveyed) -> float:
    """Return how many times the error ellipses are drawn larger than they are."""
    if done.adjusted is None:
        return 1.0
    return _factor(done.adjusted)


def _factor(adjusted: Adjusted) -> float:
    spreads = [adjusted.spread(n) for n in adjusted.network.points if adjusted.known(n)]
    largest = max((error_ellipse(s)[0] for s in spreads), default=0.0)
    return max((f for f in FACTORS if f * largest <= LARGEST_ELLIPSE_MM), default=1.0) if largest > 0 else 1.0


def _hub(sheet: Sheet, job: Job) -> None:
    flange = known(job.hub.flange_diameter_mm) / 2
    sheet.circle((0.0, 0.0), flange, "hub", "hub", filled=False, line="hidden")
    circle, count = known(job.hub.bolt_circle_mm) / 2, job.hub.stud_count or 0
    for k in range(count):
        angle = math.pi / 2 + 2 * math.pi * k / count
        sheet.circle((circle * math.cos(angle), circle * math.sin(angle)), 6.0, "construction", "hub", filled=False)
    centre_mark(sheet, (0.0, 0.0), 12.0)


def _feature(
    sheet: Sheet,
    job: Job,
    done: Surveyed,
    feature: Feature,
    places: dict[str, Point],
    picked: tuple[str, ...],
    lengths: LengthFormat,
) -> None:
    tag = feature_tag(feature.name)
    fixed = feature.axis or done.place(feature.name) is not None
    if feature.kind == "edge":
        _edge(sheet, done, feature)
        return
    at = places[feature.name]
    radius = feature.diameter_mm / 2 if feature.diameter_mm else UNSIZED_MM if feature.kind == "round" else POINT_MM
    k = lug_of(job, feature.name)
    boss = known(job.knuckle.lugs[k].boss_mm) / 2 if k is not None else math.nan
    sheet.circle(at, boss, "knuckle", tag)
    ink = "picked" if feature.name in picked else "hub" if feature.axis else "hole"
    sheet.circle(at, radius, ink, tag, line="solid" if fixed else "hidden")
    if feature.axis:
        sheet.note(Note(at, short(feature.name), tag, 1, prefer=(0.3, -1.0), far=1))
        return
    centre_mark(sheet, at, radius + 5.0, tag)
    text = short(feature.name)
    if fixed and done.adjusted is not None:
        text += f"  x {_signed(at[0], lengths)}, y {_signed(at[1], lengths)} {lengths.units}"
    else:
        text += "  place still unknown"
    out = (at[0] or 1.0, at[1] or 1.0)
    sheet.note(Note(at, text, tag, 1, prefer=out, far=1))


def _signed(value: float, lengths: LengthFormat) -> str:
    return lengths.size(round(value, 2)).replace("-", "−").removesuffix(" mm").removesuffix(" in")


def _edge(sheet: Sheet, done: Surveyed, feature: Feature) -> None:
    tag = feature_tag(feature.name)
    if done.adjusted is None:
        return
    alpha, offset = done.adjusted.place(feature.name)
    foot = (-math.sin(alpha) * offset, math.cos(alpha) * offset)
    along = (math.cos(alpha) * EDGE_MM, math.sin(alpha) * EDGE_MM)
    ends = ((foot[0] - along[0], foot[1] - along[1]), (foot[0] + along[0], foot[1] + along[1]))
    known_ = done.adjusted.known(feature.name)
    sheet.line(ends, "obstacle", tag, line="solid" if known_ else "hidden")
    sheet.note(Note(ends[1], short(feature.name), tag, 2))


def _ellipses(sheet: Sheet, adjusted: Adjusted) -> None:
    factor = _factor(adjusted)
    turn = np.linspace(0.0, 2 * np.pi, 49)[:-1]
    for name in (n for n in adjusted.network.points if adjusted.known(n)):
        long, short, toward = error_ellipse(adjusted.spread(name))
        frame = ClockFrame(toward)
        x, y = adjusted.place(name)
        along, across = factor * long * np.cos(turn), factor * short * np.sin(turn)
        off = [frame.at(*point) for point in zip(along, across)]
        sheet.polygon([(float(x + dx), float(y + dy)) for dx, dy in off], "ellipse", "")


def _readings(sheet: Sheet, adjusted: Adjusted, places: dict[str, Point], lengths: LengthFormat) -> None:
    groups: dict[tuple[str, tuple[str, ...], str], list[int]] = {}
    for k, reading in enumerate(adjusted.readings):
        if reading.kind != "diameter":
            groups.setdefault((reading.kind, tuple(sorted(reading.ends)), reading.sense), []).append(k)
    lanes: dict[tuple[str, ...], int] = {}
    for (kind, ends, _), members in groups.items():
        worst = next((k for k in members if k in adjusted.suspects), members[0])
        reading = adjusted.readings[worst]
        text = _reading_text(adjusted, worst, lengths)
        if len(members) > 1 and worst not in adjusted.suspects:
            text = _mean_text(adjusted, members, lengths)
        strained = not adjusted.suspects and abs(float(adjusted.normalised[worst])) > STRAINED
        verdict = "stop" if worst in adjusted.suspects else "caution" if strained else ""
        tag = f"reading:{reading.list}:{reading.index}"
        if kind == "distance" and all(name in places for name in ends):
            lane = 0 if reading.sense == "near-near" else lanes.get(ends, 0)
            lanes[ends] = lane + 1
            _dimension(sheet, reading, places, adjusted.network.features, text, tag, lane, 0 if verdict else 1, verdict)
        elif kind == "direction" and all(name in places for name in ends):
            one, other = places[reading.ends[0]], places[reading.ends[1]]
            sheet.line((one, other), "centre", tag, line="centre")
            at = (one[0] + 0.62 * (other[0] - one[0]), one[1] + 0.62 * (other[1] - one[1]))
            sheet.note(
                Note(at, f"angle {text}", tag, 2, verdict=verdict, prefer=(other[1] - one[1], one[0] - other[0]))
            )
        elif kind == "edge-distance":
            point = next((places[name] for name in ends if name in places), None)
            if point is not None:
                sheet.note(
                    Note(point, f"{text} to {next(n for n in ends if n not in places)}", tag, 2, verdict=verdict)
                )


def _reading_text(adjusted: Adjusted, k: int, lengths: LengthFormat) -> str:
    """Return the value, with its residual where something checks it, and by how much it is wrong when it is named."""
    reading = adjusted.readings[k]
    angle = "direction" in reading.kind
    value = f"{math.degrees(reading.value) % 360.0:.1f}°" if angle else lengths.size(round(reading.value, 3))
    if k in adjusted.suspects:
        wrong = blunder_of(adjusted, k)
        amount = f"{abs(math.degrees(wrong)):.1f}°" if angle else lengths.gap(wrong)
        return f"{value} → {amount} {'long' if wrong > 0 else 'short'}?"
    if adjusted.redundancy[k] < 1e-3:
        return value
    off = math.degrees(adjusted.residuals[k]) if angle else float(adjusted.residuals[k])
    shown = f"{off:+.2f}°" if angle else f"{off / 0.0254:+.0f}" if lengths.units == "in" else f"{off:+.2f}"
    shown = shown.replace("-0.00", "+0.00") if shown.startswith("-0.00") else shown
    return f"{value} ({shown.replace('-', '−')})"


def _mean_text(adjusted: Adjusted, members: list[int], lengths: LengthFormat) -> str:
    """Return the mean of repeat readings and how many there are."""
    mean = sum(adjusted.readings[k].value for k in members) / len(members)
    angle = "direction" in adjusted.readings[members[0]].kind
    value = f"{math.degrees(mean) % 360.0:.1f}°" if angle else lengths.size(round(mean, 3))
    return f"{value}, mean of {len(members)}"


def _rim(places: dict[str, Point], features: dict[str, Feature], name: str, unit: Point, way: float) -> Point:
    """Return where a jaw touches: ``way`` along the unit vector from the centre, by the radius; 0 is the centre."""
    x, y = places[name]
    radius = (features[name].diameter_mm or 0.0) / 2 if features[name].kind == "round" else 0.0
    return x + unit[0] * way * radius, y + unit[1] * way * radius


def _dimension(
    sheet: Sheet, reading: Reading, places: dict[str, Point], features: dict[str, Feature], text: str, tag: str,
    lane: int, rank: int, verdict: str = "", example: bool = False,
) -> None:  # fmt: skip
    a, b = places[reading.ends[0]], places[reading.ends[1]]
    long = math.dist(a, b)
    if long < 1e-6:
        return
    unit = ((b[0] - a[0]) / long, (b[1] - a[1]) / long)
    first, second = SENSE_SIGNS[reading.sense]
    start, end = (
        _rim(places, features, reading.ends[0], unit, -first),
        _rim(places, features, reading.ends[1], unit, second),
    )
    side = (-unit[1], unit[0])
    heart = np.mean(np.array(list(places.values())), axis=0)
    off = side[0] * (a[0] - heart[0]) + side[1] * (a[1] - heart[1])
    if off < -1e-6:
        side = (-side[0], -side[1])  # away from the middle of everything, where there is room
    inline = example or reading.sense == "near-near"
    wide = 0.0 if inline else max((features[n].diameter_mm or 0.0) / 2 for n in reading.ends)
    base = a[0] * side[0] + a[1] * side[1] + min(wide, CLEAR_MM)
    sheet.dimension(
        Dimension(
            start,
            end,
            unit,
            side,
            base,
            text,
            tag,
            lane,
            rank,
            edits=tag,
            verdict=verdict,
            example=example,
            inline=inline,
        )
    )


def _example(sheet: Sheet, done: Surveyed, advice: ReadingAdvice, places: dict[str, Point], rank: int) -> None:
    """Draw a reading that is still wanted, numbered in the best order."""
    features = {f.name: f for f in done.survey.features}
    if not all(name in places for name in advice.ends) or len(advice.ends) != 2:
        return
    tag = f"wanted:{rank}"
    if advice.kind == "distance":
        reading = Reading("distances", -1, "distance", advice.ends, 0.0, 1.0, advice.sense)
        _dimension(sheet, reading, places, features, f"{rank + 1}. measure", tag, 0, 1, example=True)
    elif advice.ends[0] != advice.ends[1]:
        one, other = places[advice.ends[0]], places[advice.ends[1]]
        sheet.line((one, other), "fit", tag, line="hidden")
        at = ((one[0] + other[0]) / 2, (one[1] + other[1]) / 2)
        sheet.note(Note(at, f"{rank + 1}. read the angle", tag, 1, edits=tag))
