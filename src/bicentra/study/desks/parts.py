"""The parts bench without a screen: two sets of parts compared, what the change costs, and the search for the set that fits."""

import time
from collections import Counter
from collections.abc import Callable, Iterator, Mapping

from bicentra.core.base.finding import Edit, Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import Record, field
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, as_example
from bicentra.core.drawing.views.parts import PartSet, parts_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.heat.effects import Effects, effects_of, nothing_stops
from bicentra.core.heat.stops import DUTIES
from bicentra.core.inputs.required_inputs import example_job, required_inputs
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.corners import axle_of
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.library import Difference, Item, differences
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.parts.weights import Weights, weigh
from bicentra.core.parts.wheel import Wheel
from bicentra.core.search.run import BY_PLAY, FoundSet, single_path
from bicentra.study.desks.search import NEAR, Criteria, SearchResults, called, look, space_for
from bicentra.study.document.study import Study
from bicentra.study.library.library import Library, whole_library

KINDS, MOST_NAMED = ("rotor", "caliper", "wheel"), 3
"""Parts that are compared, and how many sizes are named in a sentence."""


class SetTrial(Record, frozen=True):
    """A set of parts tried in the job: its verdict, the findings behind it, what its plate weighs [kg]."""

    job: Job
    verdict: Verdict
    findings: tuple[Finding, ...]
    plate_kg: float


def try_out(job: Job) -> SetTrial:
    """Return what the parts in ``job`` come to where they stand."""
    verdict, findings = single_path(job)
    return SetTrial(job, verdict, findings, solve(job, turns=False, remedies=False).mass_kg)


def part_set_of(job: Job, label: str) -> PartSet:
    """Return the parts of ``job`` as they lie on the bench."""
    return PartSet(label, job.rotor, job.caliper, job.wheel)


def set_before(before: OriginalBrake | None) -> PartSet:
    """Return what came off the vehicle."""
    if before is None:
        return PartSet("came off the vehicle")
    return PartSet("came off the vehicle", before.rotor, before.caliper, before.wheel)


def weights_of(trial: SetTrial) -> Weights:
    """Return what the corner weighs with the parts of a trial, its plate among them."""
    return weigh(trial.job.rotor, trial.job.caliper, trial.job.wheel, trial.plate_kg)


def weights_before(job: Job) -> Weights:
    """Return what came off, on the job's wheel when no other is noted; nothing noted is unknown."""
    before = job.before
    if before is None:
        return Weights(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)
    bare = before.rotor is None and before.caliper is None
    other = known(before.other_mass_kg) if bare or before.other_mass_kg is not None else 0.0
    return weigh(before.rotor, before.caliper, before.wheel or job.wheel, other)


def set_differences(left: PartSet, right: PartSet) -> Iterator[tuple[str, tuple[Difference, ...]]]:
    """Yield (kind, what differs) for every kind of part that both kits have."""
    for kind in KINDS:
        one, other = getattr(left, kind), getattr(right, kind)
        if one is not None and other is not None:
            yield kind, differences(one, other)


def set_edits(job: Job, chosen: Job) -> tuple[Edit, ...]:
    """Return the edits that turn ``job`` into the set in ``chosen``: parts, place, plate."""
    names = (*KINDS, "fit", "bracket")
    return tuple((name, getattr(chosen, name)) for name in names if getattr(chosen, name) != getattr(job, name))


def price_of(library: Library, part_set: PartSet) -> tuple[tuple[str, float, str], ...]:
    """Return (kind, price, currency) of every part of ``part_set`` that the library has with a price."""
    found = []
    for kind in KINDS:
        item = getattr(part_set, kind)
        part = next((p for p in library.of_kind(kind) if item is not None and p.name == item.name), None)
        if part is not None and part.price is not None:
            found.append((kind, part.price, part.currency))
    return tuple(found)


SHOW_S = 0.3
MOST_STOPS = 5
"""How many of the reasons that stop most are reported."""
"""How often what has come in is shown [s]: showing it takes the interpreter from the search."""
IN_JOB, CAME_OFF = "in the job", "came off the vehicle"
ORDER = (Verdict.OK, Verdict.CAUTION, Verdict.UNKNOWN, Verdict.STOP)
Price = tuple[str, float, str]


class Comparison(Record, frozen=True):
    """Two sets side by side: what is compared with, what is looked at, how it fits, weighs and costs.

    ``noted``: what is compared with has been written down.
    """

    above: PartSet
    below: PartSet
    trial: SetTrial
    weights: tuple[Weights, Weights]
    prices: tuple[Price, ...]
    noted: bool


class _Text(Record, frozen=True):
    """What the search has found by now, as another thread may read it."""

    sets: tuple[FoundSet, ...] = ()
    counts: Counter[Verdict] = field(default_factory=Counter)
    passed: int = 0
    by_play: int = 0
    reasons: Counter[str] = field(default_factory=Counter)
    missed: Mapping[str, tuple[FoundSet, ...]] = field(default_factory=dict)
    near: tuple[FoundSet, ...] = ()


Seen = dict[tuple[int, int, int, float], tuple[Vehicle, FoundSet, Effects | None]]
"""What sets do to a vehicle, by vehicle, rotor, caliper and inset; each with what keeps those alive."""


def effects_on(vehicle: Vehicle, corner: str, found: FoundSet, known: Seen) -> Effects | None:
    """Return what a set does to ``vehicle`` at its ``corner``, over the street's train of stops.

    What is ``known`` is not looked at again. The plate's place, side and clock angle change nothing of it.
    """
    job = found.job
    key = (id(vehicle), id(job.rotor), id(job.caliper), job.fit.pad_inset_mm or 0.0)
    if key not in known:
        done = effects_of(vehicle, axle_of(corner), job.rotor, job.caliper, job.fit, DUTIES["street"])
        known[key] = (vehicle, found, done)
    return known[key][2]


class PartsDesk:
    """``proposal``: parts looked at, not taken. ``sets``: what the search has found so far, ``chosen`` one of them."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self.proposal: Job | None = None
        self.sets: tuple[FoundSet, ...] = ()
        self.chosen: FoundSet | None = None
        self.looked = 0.0
        self._fresh = _Text()
        self._text = _Text()
        self._asked = Criteria()
        self._library: Library | None = None
        self._on_vehicle: Seen = {}

    def example_view(self) -> Drawing:
        """Return rotor and caliper as they will lie here, dashed: sizes that are only examples."""
        return as_example(parts_view((part_set_of(example_job(self.study.job), "in the job"),), self.lengths))

    @property
    def needs_hub(self) -> str:
        """What of hub and knuckle is to be measured before any part can be tried on them, in words; empty where all is there."""
        left = [one.title for one in required_inputs(self.study.job) if one.path.startswith(("hub.", "knuckle."))]
        more = f" and {len(left) - MOST_NAMED} more" if len(left) > MOST_NAMED else ""
        return ", ".join(left[:MOST_NAMED]) + more

    @property
    def lengths(self) -> LengthFormat:
        """How lengths are written now."""
        return self.study.job.lengths

    @property
    def library(self) -> Library:
        """The library, read when it is first needed."""
        if self._library is None:
            self._library = whole_library()
        return self._library

    def read_anew(self, library: Library | None = None) -> None:
        """Read the library again when it is next needed: parts were added to it; or work with ``library`` from now on."""
        self._library = library

    # Side by side

    @property
    def shown_job(self) -> Job:
        """The job with the parts that lie below: those looked at, or its own."""
        return self.proposal or self.study.job

    def comparison(self, came_off: bool) -> Comparison:
        """Return the parts looked at beside the job's own, or beside those that ``came_off`` the vehicle."""
        job, shown_job = self.study.job, self.shown_job
        above = set_before(job.before) if came_off else part_set_of(job, f"Above: {IN_JOB}")
        below = part_set_of(shown_job, "Below: " + ("looked at" if self.proposal is not None else IN_JOB))
        trial = try_out(shown_job)
        before = weights_before(job) if came_off else weights_of(trial if shown_job is job else try_out(job))
        prices = price_of(self.library, below)
        return Comparison(
            above, below, trial, (before, weights_of(trial)), prices, not came_off or job.before is not None
        )

    def part_now(self, kind: str) -> Item:
        """Return the part of ``kind`` that lies below."""
        now: Item = getattr(self.shown_job, kind) or Wheel()
        return now

    def lay(self, kind: str, item: Item) -> None:
        """Lay a part below in place of the one of its kind; the job stays as it is."""
        self.proposal = with_value(self.shown_job, kind, item)

    def use(self) -> tuple[str, tuple[Edit, ...]]:
        """Return what putting the parts below into the job is called, and its edits: none when they are its own."""
        edits = set_edits(self.study.job, self.proposal) if self.proposal is not None else ()
        names = ", ".join(path for path, _ in edits if path in KINDS) or "place"
        return f"Use the {names} from the bench", edits

    # The search

    def combinations(self, criteria: Criteria) -> int:
        """Return how many combinations of parts, plates, sides and clock angles a search would look at."""
        return space_for(self.library, criteria).combinations

    def search(self, criteria: Criteria) -> Iterator[tuple[float, bool]]:
        """Begin again and return the search, to be gone through wherever there is time.

        It gives the part that is done (0 to 1) and whether there is something new for ``take_in``; no further is no harm.
        """
        self.chosen, self._fresh, self.looked, self._asked = None, _Text(), 0.0, criteria
        self._on_vehicle = {}
        return self._found(look(self.study.job, self.library, criteria))

    def _found(self, harvests: Iterator[SearchResults]) -> Iterator[tuple[float, bool]]:
        reported = 0.0
        for results in harvests:
            new = results.done >= 1.0 or time.monotonic() - reported >= SHOW_S
            if new:
                counts, reasons = Counter(results.counts), Counter(results.reasons)
                missed = {reason: tuple(sets) for reason, sets in results.missed.items()}
                near = tuple(results.near_misses())
                self._fresh = _Text(tuple(results.sets), counts, results.passed, results.by_play, reasons, missed, near)
                reported = time.monotonic()
            yield results.done, new

    def take_in(self, looked: float) -> None:
        """Take what the search has found by now; ``looked``: the part of it that is done, 0 to 1."""
        self.looked, self._text = looked, self._fresh
        self.sets = self._text.sets

    def counts(self) -> str:
        """Return how many sets have been looked at, and what they are."""
        counts, passed = self._text.counts, self._text.passed
        more = {Verdict.CAUTION: f" ({self._text.by_play} {BY_PLAY})"} if self._text.by_play else {}
        text = ", ".join(f"{one.counted(counts[one])}{more.get(one, '')}" for one in ORDER if counts[one])
        by = f"; {passed} more could be no better than the {len(self.sets)} kept" if passed else ""
        return f"{counts.total()} sets looked at: {text}{by}"

    def stops(self) -> tuple[tuple[str, str, int], ...]:
        """Return what stops most sets: id, title and how many, the worst first."""
        return tuple((id, kind_of(id).title, count) for id, count in self._text.reasons.most_common(MOST_STOPS))

    def named(self, text: str, reason: str = "") -> tuple[FoundSet, ...]:
        """Return the kept sets whose names hold every word of ``text``, best first; of those that ``reason`` stops, or of those
        that miss least (``NEAR``), the nearest first."""
        asked = text.lower().replace("x", "×").split()
        near = reason == NEAR
        kept = self._text.near if near else self._text.missed.get(reason, ()) if reason else self.sets
        return tuple(s for s in kept if all(word in s.name.lower().replace("x", "×") for word in asked))

    def called(self, text: str) -> Callable[[], tuple[FoundSet, ...]]:
        """Return the work, for any thread, that finds sets by ``text`` which are not kept: why not this one?"""
        job, library, asked = self.study.job, self.library, self._asked
        return lambda: called(job, library, asked, text)

    def effects(self, found: FoundSet) -> Effects | None:
        """Return what a set does to pedal and heat; ``None`` while the vehicle's numbers are not there."""
        return effects_on(self.study.vehicle, self.study.job.corner, found, self._on_vehicle)

    def suiting(self) -> Callable[[], frozenset[int]]:
        """Return the work, for any thread, that finds which of the kept sets pedal and heat do not stop: the ids of those."""
        vehicle, corner, sets, known = self.study.vehicle, self.study.job.corner, self.sets, self._on_vehicle
        return lambda: frozenset(
            id(one) for one in sets if one.feasible and nothing_stops(effects_on(vehicle, corner, one, known))
        )

    def take(self, found: FoundSet) -> tuple[str, tuple[Edit, ...]]:
        """Return what taking a set is called, and its edits: none when the job has it already."""
        name = f"Take the set {found.job.rotor.name} + {found.job.caliper.name}"
        return name, set_edits(self.study.job, found.job)
