"""The readings of a survey: a row for each in words, the wrong one first; in and out of tables on disk."""

import math
from pathlib import Path

from bicentra.core.base.errors import JobFileError, ReadingsError
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.survey import STRAINED
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import SIMULATED, Survey
from bicentra.core.survey.adjust import Adjusted
from bicentra.core.survey.advice import unchecked_sentence
from bicentra.core.survey.corner import Surveyed, lug_features
from bicentra.core.survey.network import Reading
from bicentra.core.survey.recipes import traced_area, work_out
from bicentra.core.survey.record import repeats
from bicentra.core.survey.runout import floor_tir
from bicentra.core.survey.words import amount, blunder_of, loose_sentences, reading_name
from bicentra.core.uncertainty.assess import surveyed
from bicentra.formats.readings_csv import read_csv, readings_csv
from bicentra.formats.records import read_bytes
from bicentra.study.document.store import write_atomic

MOST_BYTES = 4 * 1024 * 1024


def export_readings(path: Path, survey: Survey) -> None:
    """Write every reading of ``survey`` to ``path``. Raises ``StoreError``."""
    write_atomic(path, readings_csv(survey))


def import_readings(path: Path, survey: Survey) -> tuple[Survey, int]:
    """Return ``survey`` with the readings of the table at ``path``, and how many were new. Raises ``ReadingsError``."""
    try:
        data = read_bytes(path)
    except JobFileError as error:
        raise ReadingsError(error.file, 0, "", error.found, error.expected) from error
    if len(data) > MOST_BYTES:
        raise ReadingsError(str(path), 0, "", "a very large file", f"at most {MOST_BYTES // 2**20} MiB")
    return read_csv(data, path.name, survey)


PLAYED = "simulated"
"""What the row of a reading says that the simulated gauge has played."""
LISTS = {"distances": "value_mm", "directions": "clock_deg", "features": "diameter_mm"}


class ReadingRow(Record, frozen=True):
    """One row: where the reading stands in the survey, its mark, title, value and second line, and all that is known of it."""

    list: str
    index: int
    verdict: str
    title: str
    value: str
    second: str
    text: str
    aside: bool


def reading_rows(done: Surveyed, lengths: LengthFormat) -> tuple[ReadingRow, ...]:
    """Return a row for each reading of the network: named ones first, then in the survey's order, set-aside ones last."""
    adjusted, survey = done.adjusted, done.survey
    found = [_row(adjusted, k, survey, lengths) for k in range(len(adjusted.readings))] if adjusted is not None else []
    found.sort(key=lambda r: r.verdict != "stop")
    return (*found, *_set_aside(survey))


def _row(adjusted: Adjusted, k: int, survey: Survey, lengths: LengthFormat) -> ReadingRow:
    reading = adjusted.readings[k]
    verdict, second = _state(adjusted, k, reading, lengths)
    value = (
        f"{math.degrees(reading.value) % 360:.1f}°"
        if "direction" in reading.kind
        else lengths.size(round(reading.value, 3))
    )
    text = [
        f"{reading_name(reading)[:1].upper()}{reading_name(reading)[1:]}: {value}. {second[:1].upper()}{second[1:]}."
    ]
    if adjusted.redundancy[k] > 1e-3:
        smallest = amount(reading, float(adjusted.detectable[k]), lengths)
        text.append(
            f"Partly cross-checked ({100 * adjusted.redundancy[k]:.0f} %): a mistake over {smallest} would show."
        )
    text += _history(survey, reading)
    text += [
        group.text(lengths)
        for group in repeats(survey)
        if reading.list == "distances" and reading.index in group.indices
    ]
    title, sense = _title(reading)
    played = PLAYED if getattr(survey, reading.list)[reading.index].by == SIMULATED else ""
    below = " · ".join(part for part in (played, sense, second) if part)
    return ReadingRow(reading.list, reading.index, verdict, title, value, below, "\n".join(text), False)


def _title(reading: Reading) -> tuple[str, str]:
    """Return the title of a reading and its sense, both short enough for a row."""
    if reading.kind == "diameter":
        return f"Ø {reading.ends[0]}", ""
    pair = " – ".join(dict.fromkeys(reading.ends))
    if "direction" in reading.kind:
        return f"angle {pair}", ""
    return pair, reading.sense.replace("-", " – ")


def _state(adjusted: Adjusted, k: int, reading: Reading, lengths: LengthFormat) -> tuple[str, str]:
    if k in adjusted.suspects:
        wrong = blunder_of(adjusted, k)
        sure = "reads" if len(adjusted.suspects) == 1 else "may read"
        return "stop", f"{sure} {amount(reading, wrong, lengths)} {'long' if wrong > 0 else 'short'}: measure it again"
    if adjusted.redundancy[k] < 1e-3:
        return "unknown", "nothing checks it"
    off = amount(reading, float(adjusted.residuals[k]), lengths)
    weight = abs(float(adjusted.normalised[k]))
    if weight > STRAINED and adjusted.suspects:
        return "caution", f"{off} off, affected by the bad reading"
    if weight > STRAINED:
        return "caution", f"{off} off, more than its instrument usually is"
    return "ok", f"{off} off the rest, agrees"


def _history(survey: Survey, reading: Reading) -> list[str]:
    item = getattr(survey, reading.list)[reading.index]
    unit = "°" if reading.list == "directions" else " mm"
    sd = survey.sd_of(item.instrument, item.sd_deg if reading.list == "directions" else item.sd_mm)
    who = " · ".join(part for part in (item.by, item.taken) if part)
    text = [f"{item.instrument.replace('-', ' ')}, ±{sd:g}{unit}" + (f" · {who}" if who else "")]
    text += [f"Before: {old.value:g}{unit} ({old.why})" for old in item.was if old.value is not None]
    return text


def _set_aside(survey: Survey) -> list[ReadingRow]:
    found = []
    for which in ("distances", "directions"):
        for index, item in enumerate(getattr(survey, which)):
            value = getattr(item, LISTS[which])
            if item.set_aside and value is not None:
                name = f"{item.from_} to {item.to}"
                shown = f"{value:g}{'°' if which == 'directions' else ' mm'}"
                played = f"{PLAYED} · " if item.by == SIMULATED else ""
                why = f"{played}set aside: {item.set_aside}"
                text = f"{name}: {shown}. Not counted: {item.set_aside}."
                found.append(ReadingRow(which, index, "unknown", name, shown, why, text, True))
    return found


def summary_of(done: Surveyed, lengths: LengthFormat) -> str:
    """Return how the readings stand as a whole: how many, whether they agree, what is loose or cannot be checked."""
    adjusted = done.adjusted
    if adjusted is None:
        return done.fault
    if not adjusted.readings:
        return ""
    text = loose_sentences(adjusted, lengths)[:2]
    unchecked = unchecked_sentence(adjusted)
    if text or unchecked:
        return " ".join((*text, unchecked)).strip()
    agree = "agree" if adjusted.passed else "do not agree"
    ratio = (adjusted.chi_square / adjusted.dof) ** 0.5
    return (
        f"{len(adjusted.readings)} readings, {adjusted.dof} more than needed, {agree}: "
        f"scatter {ratio:.1f} × what the instruments promise."
    )


def corner_state(job: Job, corner: str) -> str:
    """Return none, open, wrong or good for the survey of a corner."""
    done = surveyed(job, corner)
    if done is None or done.adjusted is None:
        return "none"
    if done.suspects:
        return "wrong"
    return "good" if done.adjusted.passed and not done.adjusted.loose_names else "open"


def face_names(job: Job, done: Surveyed) -> tuple[str, ...]:
    """Return the features whose faces are those of lugs."""
    return tuple(lug_features(job, done.survey))


def least_runout(job: Job, done: Surveyed) -> float:
    """Return the runout [mm] that even a true rotor shows on this flange; nan while it is not swept."""
    hub, rotor = done.sweep("hub-face"), done.sweep("rotor-face")
    if hub is None or hub.fault:
        return math.nan
    return floor_tir(hub, rotor.radius if rotor else (job.rotor.diameter_mm or math.nan) / 2)


class WorkedOut(Record, frozen=True):
    """What the readings of a donor part come to [mm], with its standard uncertainty, and the area traced [mm²]; nan unknown."""

    value: float = math.nan
    sd: float = math.nan
    area: float = math.nan


def worked_out(survey: Survey, recipe: str) -> WorkedOut:
    """Return what the readings taken by ``recipe`` come to."""
    measure = next((m for m in survey.parts if m.recipe == recipe), None)
    if measure is None:
        return WorkedOut()
    result, area = work_out(survey, measure), traced_area(measure.points_mm)
    return WorkedOut(area=area) if result is None else WorkedOut(result.value, result.sd, area)
