"""Writing readings down: every change gives a new survey; repeats of one dimension and whether they scatter as their
instrument promises.
"""

import math
from collections.abc import Mapping
from typing import Any

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, names_in, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import (
    SENSE_WORDS,
    SIMULATED,
    Direction,
    Distance,
    FaceReadings,
    Feature,
    Former,
    PartMeasure,
    Spot,
    Survey,
    Sweep,
    SweepReading,
)


class Repeats(Record, frozen=True):
    """Several readings of one distance [mm]. ``scatter`` is their standard deviation, ``promised`` the instruments'."""

    ends: tuple[str, str]
    sense: str
    indices: tuple[int, ...]
    mean: float
    scatter: float
    promised: float

    @property
    def chance(self) -> float:
        """Chance that readings as good as promised scatter this much or more (chi-square with n − 1 degrees)."""
        from scipy.special import chdtrc

        if len(self.indices) < 2 or self.promised <= 0:
            return math.nan
        free = len(self.indices) - 1
        return float(chdtrc(free, free * (self.scatter / self.promised) ** 2))

    def text(self, lengths: LengthFormat) -> str:
        """Return the mean and the scatter in one sentence."""
        count = len(self.indices)
        name = f"{self.ends[0]} to {self.ends[1]}, {SENSE_WORDS[self.sense]}"
        verdict = "more than the instrument promises: clean the edges, or say what the instrument really does"
        calm = "as the instrument promises"
        return (
            f"{name}: {count} readings, mean {lengths.size(self.mean)}, "
            f"scatter ±{lengths.gap(self.scatter)} against ±{lengths.gap(self.promised)}, "
            f"{verdict if self.chance < 0.01 else calm}."
        )


def repeats(survey: Survey) -> tuple[Repeats, ...]:
    """Return every distance that was read more than once and is not set aside."""
    groups: dict[tuple[frozenset[str], str], list[tuple[int, Distance]]] = {}
    for k, item in enumerate(survey.distances):
        if item.value_mm is not None and not item.set_aside:
            ends: frozenset[str] | tuple[str, ...] = frozenset((item.from_, item.to))
            if item.sense == "near-far":
                ends = frozenset((f"1 {item.from_}", f"2 {item.to}"))
            groups.setdefault((frozenset(ends), item.sense), []).append((k, item))
    found = []
    for (_, sense), rows in groups.items():
        if len(rows) < 2:
            continue
        values = [float(item.value_mm or 0.0) for _, item in rows]
        mean = sum(values) / len(values)
        scatter = math.sqrt(sum((value - mean) ** 2 for value in values) / (len(values) - 1))
        sds = [survey.sd_of(item.instrument, item.sd_mm) for _, item in rows]
        promised = math.sqrt(sum(sd**2 for sd in sds) / len(sds))
        first = rows[0][1]
        found.append(Repeats((first.from_, first.to), sense, tuple(k for k, _ in rows), mean, scatter, promised))
    return tuple(found)


VALUE_OF = {"features": "diameter_mm", "distances": "value_mm", "directions": "clock_deg"}


class Stamp(Record, frozen=True):
    """Who took a reading, when, and with what; an empty instrument leaves the usual one of its kind."""

    by: str = ""
    taken: str = ""
    instrument: str = ""

    def fields(self) -> dict[str, Any]:
        """Return what of this is said, as fields of a reading."""
        return {name: value for name in names_in(self) if (value := getattr(self, name))}


def survey_edit(job: Job, corner: str, survey: Survey) -> tuple[Edit, ...]:
    """Return the edit that gives ``corner`` this survey."""
    return (("survey", {**job.survey, corner: survey}),)


def with_feature(survey: Survey, feature: Feature) -> Survey:
    """Return ``survey`` with one more feature."""
    return replace(survey, features=(*survey.features, feature))


def renamed(survey: Survey, old: str, new: str) -> Survey:
    """Return ``survey`` with a feature called ``new``, in every reading too."""

    def text(name: str) -> str:
        return new if name == old else name

    return replace(
        survey,
        features=tuple(replace(f, name=text(f.name)) for f in survey.features),
        distances=tuple(replace(d, from_=text(d.from_), to=text(d.to)) for d in survey.distances),
        directions=tuple(replace(d, from_=text(d.from_), to=text(d.to)) for d in survey.directions),
        faces=tuple(replace(f, feature=text(f.feature)) for f in survey.faces),
    )


def with_distance(survey: Survey, ends: tuple[str, str], sense: str, value: float, stamp: Stamp) -> Survey:
    """Return ``survey`` with one more distance [mm]; a repeat stands beside the others, never over them."""
    new = Distance(from_=ends[0], to=ends[1], sense=sense, value_mm=value, **stamp.fields())
    return replace(survey, distances=(*survey.distances, new))


def with_direction(survey: Survey, ends: tuple[str, str], clock_deg: float, stamp: Stamp) -> Survey:
    """Return ``survey`` with one more angle [degrees]."""
    text = {k: v for k, v in stamp.fields().items() if k != "instrument"}
    new = Direction(from_=ends[0], to=ends[1], clock_deg=clock_deg, **text)
    return replace(survey, directions=(*survey.directions, new))


def corrected(survey: Survey, which: str, index: int, value: float | None, why: str, stamp: Stamp) -> Survey:
    """Return ``survey`` with the reading ``index`` of the list ``which`` saying ``value`` [mm]; its former self is kept."""
    items = list(getattr(survey, which))
    old, name = items[index], VALUE_OF[which]
    before = getattr(old, name)
    stamped = stamp.fields()
    if which == "directions":
        stamped.pop("instrument", None)
    kept = old.was if before is None else (*old.was, Former(value=before, by=old.by, taken=old.taken, why=why))
    items[index] = replace(old, **{name: value, "was": kept, **stamped})
    if which != "features":
        items[index] = replace(items[index], set_aside="")
    changed: dict[str, Any] = {which: tuple(items)}
    return replace(survey, **changed)


def set_aside(survey: Survey, which: str, index: int, why: str) -> Survey:
    """Return ``survey`` with a reading set aside (``why``), or taken up again (empty)."""
    items = list(getattr(survey, which))
    items[index] = replace(items[index], set_aside=why)
    changed: dict[str, Any] = {which: tuple(items)}
    return replace(survey, **changed)


def with_spot(survey: Survey, feature: str, spot: Spot, stamp: Stamp) -> Survey:
    """Return ``survey`` with one more depth on the face of ``feature``."""
    stamped = stamp.fields()
    faces = list(survey.faces)
    k = next((k for k, face in enumerate(faces) if face.feature == feature), None)
    if k is None:
        return replace(survey, faces=(*faces, FaceReadings(feature=feature, spots=(spot,), **stamped)))
    played = stamped if SIMULATED in (stamped.get("by"), faces[k].by) and faces[k].by != SIMULATED else {}
    faces[k] = replace(faces[k], spots=(*faces[k].spots, spot), **played)
    return replace(survey, faces=tuple(faces))


def with_spots(survey: Survey, feature: str, spots: tuple[Spot, ...], why: str, stamp: Stamp) -> Survey:
    """Return ``survey`` with other depths on the face of ``feature``; what the former ones gave is kept in words."""
    faces = list(survey.faces)
    k = next((k for k, face in enumerate(faces) if face.feature == feature), None)
    if k is None:
        return replace(survey, faces=(*faces, FaceReadings(feature=feature, spots=spots, **stamp.fields())))
    old = faces[k]
    before = ", ".join(
        f"{s.depth_mm:g} at {s.at_deg:g}°" for s in old.spots if s.depth_mm is not None and s.at_deg is not None
    )
    kept = (*old.was, Former(by=old.by, taken=old.taken, why=f"{why}: {before}")) if before else old.was
    faces[k] = replace(old, spots=spots, was=kept, **stamp.fields())
    return replace(survey, faces=tuple(faces))


def with_sweep(
    survey: Survey, on: str, radius: float | None, readings: Mapping[float, float | None], stamp: Stamp
) -> Survey:
    """Return ``survey`` with the sweep on the face ``on``: angle [degrees] to reading [mm].

    A sweep is one turn: taken again it takes the place of the one before, whose readings are kept in words.
    """
    rows = tuple(SweepReading(at_deg=at, value_mm=value) for at, value in readings.items())
    old = next((s for s in survey.sweeps if s.on == on), None)
    kept = old.was if old is not None else ()
    if old is not None and any(readings.get(r.at_deg, 0.0) != r.value_mm for r in old.readings):
        before = ", ".join("–" if r.value_mm is None else f"{r.value_mm:g}" for r in old.readings)
        kept = (*kept, Former(by=old.by, taken=old.taken, why=f"swept before: {before}"))
    stamped = stamp.fields()
    still = old is not None and any(
        r.value_mm is not None and readings.get(r.at_deg) == r.value_mm for r in old.readings
    )
    if old is not None and old.by == SIMULATED and still:
        stamped["by"] = SIMULATED  # some of it was played, whoever reads the rest
    where = old.where if old is not None else "bench"
    new = Sweep(on=on, where=where, radius_mm=radius, readings=rows, was=kept, **stamped)
    return replace(survey, sweeps=(*(s for s in survey.sweeps if s.on != on), new))


def with_part(survey: Survey, measure: PartMeasure) -> Survey:
    """Return ``survey`` with what was read for one number of a part; the former readings of it are kept in words."""
    old = next((m for m in survey.parts if m.recipe == measure.recipe), None)
    if old is None:
        return replace(survey, parts=(*survey.parts, measure))
    text = ", ".join(f"{key} {value:g}" for key, value in old.values_mm.items() if value is not None)
    changed = text and old.values_mm != measure.values_mm
    kept = (*old.was, Former(by=old.by, taken=old.taken, why=text)) if changed else old.was
    return replace(survey, parts=tuple(replace(measure, was=kept) if m is old else m for m in survey.parts))
