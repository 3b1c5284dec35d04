"""Readings of one trial that cannot all be right, each said in one sentence, with what is doubted, the likeliest first.

Both gaps at one end are the slot less the rotor, whichever way the caliper leans; no gap is wider than that by itself.
"""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import INSTRUMENTS
from bicentra.core.parts.trial import GAP_INSTRUMENTS, GAP_NAMES, GAPS, Gaps, Trial

SLOT_SD_MM = math.hypot(INSTRUMENTS["digital-caliper"], INSTRUMENTS["digital-caliper"])
"""Standard uncertainty of slot less rotor [mm]: both by digital caliper."""
APART_SD = 3.0
"""So many standard uncertainties apart two readings of one thing contradict each other: common practice (three sigma)."""
WIDEST_MM = 15.0
"""No slot leaves more room beside its rotor [mm]: common practice. Asked where slot or rotor are unknown."""
GIVEN_MM = 1.0
"""A gap wider by this than slot less rotor is asked about before it is taken [mm]."""
ENDS = ("leading", "trailing")
SIZES = ("caliper.slot_width_mm", "rotor.thickness_mm")


class Contradiction(Record, frozen=True):
    """What cannot be, in one sentence; ``doubted``: the gaps, or key paths of the job's sizes, that may be wrong."""

    text: str
    doubted: tuple[str, ...]


def spare_of(job: Job) -> float:
    """Return the room a rotor has in the caliper's slot [mm]: slot less rotor, what both gaps at one place add up to."""
    return known(job.caliper.slot_width_mm) - known(job.rotor.thickness_mm)


def is_too_wide(job: Job, gap: float) -> bool:
    """Tell whether a gap [mm] is wider than slot and rotor leave by far, so that it is asked about before it is taken."""
    spare = spare_of(job)
    return gap > (spare + GIVEN_MM if is_known(spare) else WIDEST_MM)


def contradictions(job: Job, trial: Trial) -> tuple[Contradiction, ...]:
    """Return what in ``trial`` contradicts itself, or slot and rotor of ``job``."""
    lengths, spare = job.lengths, spare_of(job)
    found = _pairs(trial.gaps_mm, trial, spare, lengths, "")
    if not any(one.doubted == SIZES for one in found):  # a gap that is too wide by itself says more than its pair does
        found = _too_wide(trial, spare, lengths) or found
    found += _pairs(trial.deep_gaps_mm, trial, spare, lengths, ", further in,")
    found += [*_bands(trial, lengths), *_band_pairs(trial, spare, lengths)]
    return (*found, *(_line(trial, lengths) if not found else ()))


def _too_wide(trial: Trial, spare: float, lengths: LengthFormat) -> list[Contradiction]:
    """Return every single gap that is wider than all the room there is."""
    slack = APART_SD * math.hypot(trial.gap_sd, SLOT_SD_MM)
    most = spare + slack if is_known(spare) else WIDEST_MM
    found = []
    for name in GAPS:
        value = getattr(trial.gaps_mm, name)
        if value is not None and value > most:
            room = (
                f"slot less rotor leaves {lengths.gap(spare)} in all"
                if is_known(spare)
                else "no slot leaves that much beside its rotor"
            )
            text = f"At the {GAP_NAMES[name]} {lengths.gap(value)} was read, but {room}: read it again."
            found.append(Contradiction(text, (name,)))
    return found


def _pairs(gaps: Gaps, trial: Trial, spare: float, lengths: LengthFormat, where: str) -> list[Contradiction]:
    """Return the ends whose two gaps do not add up to slot less rotor, or to each other's sum."""
    sums = {}
    for end in ENDS:
        pair = [getattr(gaps, f"{end}_{face}") for face in ("outboard", "inboard")]
        if None not in pair:
            sums[end] = float(sum(pair))
    both = math.sqrt(2.0) * trial.gap_sd
    slack = APART_SD * math.hypot(both, SLOT_SD_MM)
    bad = [end for end, total in sums.items() if is_known(spare) and abs(total - spare) > slack]
    alike = len(sums) == len(ENDS) and abs(sums["leading"] - sums["trailing"]) <= APART_SD * math.sqrt(2.0) * both
    if len(bad) == len(ENDS) and alike:
        total = (sums["leading"] + sums["trailing"]) / 2
        text = (
            f"The two gaps{where} add up to {lengths.gap(total)} at both ends, slot less rotor leaves {lengths.gap(spare)}: "
            "the gaps agree with each other, so measure slot width and rotor thickness again."
        )
        return [Contradiction(text, SIZES)]
    found = []
    for end in bad:
        text = (
            f"The two gaps{where} at the {end} end add up to {lengths.gap(sums[end])}, slot less rotor leaves "
            f"{lengths.gap(spare)}: one of the three is wrong, or the rotor moved between them; read them again."
        )
        found.append(Contradiction(text, _order(gaps, end, spare)))
    if not found and len(sums) == len(ENDS) and not alike:
        apart = lengths.gap(sums["leading"] - sums["trailing"])
        text = f"The gaps{where} at the two ends add up to unlike sums, {apart} apart: one of the four is wrong; read them again."
        found.append(Contradiction(text, GAPS))
    return found


def _order(gaps: Gaps, end: str, spare: float) -> tuple[str, str]:
    """Return both gaps of one end, first the one that is further off where the other end would have it, square to the rotor."""
    outer, inner = f"{end}_outboard", f"{end}_inboard"
    other = ENDS[1] if end == ENDS[0] else ENDS[0]
    pair = [getattr(gaps, f"{other}_{face}") for face in ("outboard", "inboard")]
    offset = (pair[0] - pair[1]) / 2 if None not in pair else 0.0
    off = [abs(getattr(gaps, name) - (spare / 2 + sign * offset)) for name, sign in ((outer, 1.0), (inner, -1.0))]
    return (outer, inner) if off[0] >= off[1] else (inner, outer)


def _bands(trial: Trial, lengths: LengthFormat) -> list[Contradiction]:
    """Return the gaps that were read as a number outside what went in and what did not."""
    found = []
    for name, band in trial.bands_mm.items():
        value, slack = getattr(trial.gaps_mm, name, None), APART_SD * trial.gap_sd
        low = band.least if band.least is not None else -math.inf
        high = band.most if band.most is not None else math.inf
        if value is not None and not low - slack <= value <= high + slack:
            text = f"At the {GAP_NAMES[name]} {lengths.gap(value)} was read, but what went in and what did not says otherwise."
            found.append(Contradiction(text, (name,)))
    return found


def _band_pairs(trial: Trial, spare: float, lengths: LengthFormat) -> list[Contradiction]:
    """Return the ends at which what went in, or did not, leaves no sum that slot less rotor could be."""
    if not is_known(spare):
        return []
    found = []
    for end in ENDS:
        names = (f"{end}_outboard", f"{end}_inboard")
        if not any(name in trial.bands_mm for name in names):
            continue
        spans = [_span(trial, name) for name in names]
        least, most = (math.fsum(span[side] for span in spans) for side in (0, 1))
        slack = APART_SD * math.hypot(math.sqrt(2.0) * trial.gap_sd, SLOT_SD_MM)
        if least > spare + slack or most < spare - slack:
            text = (
                f"What went in and what did not at the {end} end cannot add up to the {lengths.gap(spare)} that slot less "
                "rotor leaves: try both again."
            )
            found.append(Contradiction(text, names))
    return found


def _span(trial: Trial, name: str) -> tuple[float, float]:
    """Return between which widths a gap lies [mm]."""
    value, band = getattr(trial.gaps_mm, name), trial.bands_mm.get(name)
    if value is not None:
        return float(value), float(value)
    if band is None:
        return 0.0, math.inf
    return band.least if band.least is not None else 0.0, band.most if band.most is not None else math.inf


def _line(trial: Trial, lengths: LengthFormat) -> list[Contradiction]:
    """Return that the parting line by eye stands elsewhere than all four gaps say."""
    values = [getattr(trial.gaps_mm, name) for name in GAPS]
    if trial.parting_line_mm is None or None in values:
        return []
    outer, inner, outer_2, inner_2 = (float(value) for value in values)
    offset = (outer - inner + outer_2 - inner_2) / 4
    apart = abs(offset - trial.parting_line_mm)
    if apart <= APART_SD * math.hypot(trial.gap_sd / 2, GAP_INSTRUMENTS["eye"]):
        return []
    text = (
        f"The parting line stands {lengths.gap(apart)} from where the four gaps put it: read them again, or look again."
    )
    return [Contradiction(text, GAPS)]
