"""Repeat readings of one dimension: their mean, and whether they scatter as their instrument promises."""

import math

from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import SENSE_WORDS, Distance, Survey


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
