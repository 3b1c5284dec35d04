"""Findings: what was looked at, how much, against which limit, why it matters and what can be done; verdicts for many
values at once.
"""

import math
from collections.abc import Iterable
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import Limit, kind_of


class Verdict(StrEnum):
    """The four verdicts; the value is the word used in files, ``word`` the same on screen and paper."""

    OK = "ok"
    CAUTION = "caution"
    STOP = "stop"
    UNKNOWN = "unknown"

    @property
    def word(self) -> str:
        """The word shown to a person: OK, Caution, Stop, Unknown."""
        return "OK" if self is Verdict.OK else self.value.capitalize()

    def counted(self, many: int) -> str:
        """Return ``many`` findings that say so, in words: ``2 stops``, ``1 caution``, ``3 unknown``, ``26 OK``."""
        plural = "s" if many != 1 and self in (Verdict.STOP, Verdict.CAUTION) else ""
        return f"{many} {'OK' if self is Verdict.OK else self.value}{plural}"

    @property
    def rank(self) -> int:
        """0 for the worst. A stop outranks what is unknown, which outranks a caution."""
        return _RANKS[self]


_RANKS = {Verdict.STOP: 0, Verdict.UNKNOWN: 1, Verdict.CAUTION: 2, Verdict.OK: 3}
Edit = tuple[str, object]
OF_OTHER = "measured at the other corner"
"""In what is assumed of a finding that rests on a borrowed hub or knuckle."""


class Remedy(Record, frozen=True):
    """One way to cure a finding. ``edits`` are (key path, new value) pairs that carry it out in the job."""

    action: str
    amount_mm: float | None
    reversible: bool
    edits: tuple[Edit, ...] = ()
    side_effects: tuple[str, ...] = ()


class Check(Record, frozen=True):
    """One comparison inside a finding: ``value`` against ``limit`` in ``unit``, in one plain sentence."""

    label: str
    verdict: Verdict
    value: float
    limit: float
    unit: str
    text: str


class Finding(Record, frozen=True):
    """What one question about the fit came to. ``features`` are the drawing tags of the two things it speaks of.

    ``sd`` is the standard uncertainty of ``value`` and ``probability`` the chance that it lies on the right side of
    ``limit``, both unknown where no survey stands behind the numbers. ``band``: lowest and highest value the play in
    the bolt holes allows; it is not part of ``sd``. ``statement`` says all this in one sentence.
    ``by_play``: a caution for nothing but that play, to be settled at the dry fit. ``guesses``: guessed sizes it rests on.
    """

    id: str
    verdict: Verdict
    value: float
    limit: float
    unit: str
    why: str
    remedies: tuple[Remedy, ...] = ()
    features: tuple[str, ...] = ()
    checks: tuple[Check, ...] = ()
    source: str = "Common practice, no published source"
    assumed: tuple[str, ...] = ()
    at_least: bool = True
    sd: float = math.nan
    probability: float = math.nan
    band: tuple[float, float] | None = None
    statement: str = ""
    by_play: bool = False
    guesses: tuple[str, ...] = ()

    @property
    def borrowed(self) -> bool:
        """Whether it rests on a hub or knuckle that nobody has measured at this corner."""
        return any(OF_OTHER in text for text in self.assumed)

    @property
    def title(self) -> str:
        """What it is called."""
        return kind_of(self.id).title


SLACK = 1e-6
"""A value this near to its limit meets it: an inch typed twice, 1/8 in and 3.175 mm, is the same to a nanometre."""


def judge(value: float, limit: Limit) -> Verdict:
    """Compare ``value`` with ``limit`` [unit of the limit]; anything not a number is unknown, never OK. Infinite room is met."""
    if math.isnan(value) or not is_known(limit.stop, limit.watch):
        return Verdict.UNKNOWN
    sign = 1.0 if limit.at_least else -1.0
    if sign * (value - limit.stop) < -SLACK:
        return Verdict.STOP
    return Verdict.CAUTION if sign * (value - limit.watch) < -SLACK else Verdict.OK


def governing_limit(verdict: Verdict, limit: Limit) -> float:
    """Return the number to print beside the value [its unit]: the watch level when only that is missed, else the stop."""
    return limit.watch if verdict is Verdict.CAUTION else limit.stop


def worst(verdicts: Iterable[Verdict]) -> Verdict:
    """Return the worst of ``verdicts``; unknown when there are none."""
    return min(verdicts, key=lambda verdict: verdict.rank, default=Verdict.UNKNOWN)


def worst_check(checks: Iterable[Check]) -> Check:
    """Return the check that decides: worst verdict first, then the smallest margin in the order given."""
    return min(checks, key=lambda check: check.verdict.rank)


Ranks = NDArray[np.int8]
BY_RANK = (Verdict.STOP, Verdict.UNKNOWN, Verdict.CAUTION, Verdict.OK)
STOP, UNKNOWN, CAUTION, OK = range(4)


def judge_all(values: NDArray[np.float64], limit: Limit) -> Ranks:
    """Return (n,) int8: the rank (0 stop, 1 unknown, 2 watch, 3 met) of each of (n,) ``values`` [unit of the limit]."""
    if not is_known(limit.stop, limit.watch):
        return np.full(len(values), UNKNOWN, dtype=np.int8)
    sign = 1.0 if limit.at_least else -1.0
    with np.errstate(invalid="ignore"):
        ranks = np.where(sign * (values - limit.watch) < -SLACK, CAUTION, OK)
        ranks = np.where(sign * (values - limit.stop) < -SLACK, STOP, ranks)
    return np.where(np.isnan(values), UNKNOWN, ranks).astype(np.int8)


def counted_verdicts(findings: Iterable[Finding]) -> str:
    """Return how many findings say what, the worst first, as ``2 stops · 26 OK``; no line ends between number and word."""
    verdicts = [finding.verdict for finding in findings]
    counts = [(one, verdicts.count(one)) for one in sorted(Verdict, key=lambda verdict: verdict.rank)]
    return " · ".join(one.counted(many).replace(" ", "\u00a0") for one, many in counts if many)
