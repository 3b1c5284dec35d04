"""The survey being taken: which corner, what is asked for, and what becomes of a value that comes in. No Qt.

A value, whoever gives it (typed, a gauge's keyboard, a gauge's line), answers the reading asked for; then the next one
is asked for.
"""

import math
from collections.abc import Callable
from datetime import datetime

from bicentra.core.base.quantities import show_length
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import INSTRUMENTS, SENSE_WORDS, SIMULATED, Feature, PartMeasure, Spot, Survey
from bicentra.core.survey import record
from bicentra.core.survey.advice import ReadingAdvice, advise
from bicentra.core.survey.corner import Surveyed, boss_of, lug_features, survey_corner
from bicentra.core.survey.use import Takeover, takeover
from bicentra.core.uncertainty.assess import surveyed
from bicentra.study.document.study import Study

SPOTS, SWEEP_SPOTS = 4, 12


class ReadingAsk(Record, frozen=True):
    """One reading asked for. ``list`` and ``index`` name the reading it corrects, for kind ``again``."""

    kind: str
    ends: tuple[str, ...] = ()
    sense: str = "near-near"
    list: str = ""
    index: int = -1
    at_deg: float = 0.0
    radius_mm: float | None = None
    why: str = ""

    @property
    def is_angle(self) -> bool:
        """Whether an angle is asked for, not a length."""
        return self.kind == "direction" or (self.kind == "again" and self.list == "directions")

    @property
    def name(self) -> str:
        """What to put the instrument on, in words."""
        if self.kind == "straightedge":
            return "thickness of the straightedge"
        if self.kind == "depth":
            return f"depth to the face of {self.ends[0]}, spot at {self.at_deg:g}°"
        if self.kind == "sweep":
            return f"{self.ends[0].replace('-', ' ')} at {self.at_deg:g}°"
        if self.kind == "diameter" or (self.kind == "again" and self.list == "features"):
            return f"diameter of {self.ends[0]}"
        pair = " to ".join(dict.fromkeys(self.ends))
        if self.is_angle:
            return f"clock angle of the line {pair}" if len(set(self.ends)) > 1 else f"lean of {pair}"
        return f"{pair}, {SENSE_WORDS[self.sense]}"


class SurveyDesk:
    """The survey of one corner of the open job. ``changed`` callables are called when what is asked for changes."""

    def __init__(self, study: Study, now: Callable[[], str] | None = None) -> None:
        self.study = study
        self.by = ""
        self.played = False
        self.instrument = ""
        self.current_ask: ReadingAsk | None = None
        self._before = 0  # readings of the sweep or face asked for, when it was asked
        self.picked: tuple[str, ...] = ()
        self.changed: list[Callable[[], None]] = []
        self._queue: list[ReadingAsk] = []
        self._read_again: set[tuple[str, int]] = (
            set()
        )  # suspects measured once more since the readings began to disagree
        self._now = now or (lambda: datetime.now().replace(microsecond=0).isoformat(sep=" "))
        self._done: tuple[Job, str, Surveyed] | None = None
        self._advice: tuple[Surveyed, tuple[ReadingAdvice, ...]] | None = None

    # What is known ------------------------------------------------------------------------------

    @property
    def corner(self) -> str:
        """The corner that is worked on, here as everywhere."""
        return self.study.job.corner

    @property
    def survey(self) -> Survey:
        """The readings of the corner; empty when none has been taken."""
        return self.study.job.survey.get(self.corner, Survey())

    @property
    def done(self) -> Surveyed:
        """The survey worked out; kept while job and corner stay the same."""
        job = self.study.job
        if self._done is None or self._done[0] is not job or self._done[1] != self.corner:
            found = surveyed(job, self.corner)
            if found is None:
                found = survey_corner(replace(job, survey={}), self.corner)
            self._done = (job, self.corner, found)
        return self._done[2]

    @property
    def lengths(self) -> LengthFormat:
        """How numbers are written in this job."""
        return self.study.job.lengths

    @property
    def advice(self) -> tuple[ReadingAdvice, ...]:
        """What to do next, the most useful first."""
        done = self.done
        if self._advice is None or self._advice[0] is not done:
            lugs = lug_features(self.study.job, self.survey)
            self._advice = (done, advise(self.survey, done.adjusted, self.lengths, lugs))
        return self._advice[1]

    @property
    def wanted(self) -> tuple[ReadingAdvice, ...]:
        """Distances and angles that are still wanted, the one asked for first: the example on the sheet."""
        ask = self.current_ask
        own = (ReadingAdvice(ask.kind, "", ask.ends, ask.sense, ask.why),) if ask is not None else ()
        found = [a for a in (*own, *self.advice) if a.kind in ("distance", "direction") and len(a.ends) == 2]
        return tuple({(a.kind, a.ends, a.sense): a for a in reversed(found)}.values())[::-1]

    # Asking -------------------------------------------------------------------------------------

    def turn_to(self, corner: str) -> None:
        """Work on another corner."""
        self.picked, self._queue = (), []
        self.study.go_to(corner)
        self.ask_next()

    def ask(self, ask: ReadingAsk | None) -> None:
        """Ask for this reading now."""
        self.current_ask, self._before = ask, self._rows_of(ask)
        if ask is not None and ask.kind in ("distance", "direction"):
            self.picked = ask.ends
        self._tell()

    def _rows_of(self, ask: ReadingAsk | None) -> int:
        """Return how many readings there are of the sweep or the face that ``ask`` belongs to."""
        rows: list[int] = []
        if ask is not None and ask.kind == "sweep":
            rows = [len(sweep.readings) for sweep in self.survey.sweeps if sweep.on == ask.ends[0]]
        elif ask is not None and ask.kind == "depth":
            rows = [len(face.spots) for face in self.survey.faces if face.feature == ask.ends[0]]
        return rows[0] if rows else 0

    def ask_for(self, advice: ReadingAdvice) -> bool:
        """Ask for what ``advice`` says; False when it is not a reading (a feature to add, a side to state)."""
        found = self._ask_of(advice)
        if found is not None:
            self.ask(found)
        return found is not None

    def ask_next(self) -> None:
        """Ask for the next reading: what is queued, else the most useful one that is advised.

        A suspect that was measured once more and still does not agree is not asked for again while another may be the wrong one.
        """
        if self._queue:
            self.ask(self._queue.pop(0))
            return
        if self.advice and self.advice[0].kind == "feature":  # there is nothing to put an instrument on yet
            self.ask(None)
            return
        asks = [ask for ask in map(self._ask_of, self.advice) if ask is not None]
        if not any(ask.kind == "again" for ask in asks):
            self._read_again.clear()
        fresh = (ask for ask in asks if ask.kind != "again" or (ask.list, ask.index) not in self._read_again)
        self.ask(next(fresh, next(iter(asks), None)))

    def ask_all_again(self) -> None:
        """Ask for every length of the network once more, in the order of the survey: a repeat beside each."""
        self._queue = [
            ReadingAsk("distance", (d.from_, d.to), d.sense, why="once more")
            for d in self.survey.distances
            if not d.set_aside
        ]
        self.ask_next()

    def pick(self, name: str) -> None:
        """Pick a feature on the sheet; two of them ask for the distance between them, an edge twice for its lean."""
        feature = self.survey.feature(name)
        if feature is None:
            return
        if name in self.picked and len(self.picked) == 1:
            self.picked = ()
            if feature.kind == "edge":
                self.ask(ReadingAsk("direction", (name, name), why="as picked on the sheet"))
                return
        elif len(self.picked) == 1 and not self._both_edges(self.picked[0], name):
            self.picked = (*self.picked, name)
            sense = self._free_sense(self.picked)
            self.ask(ReadingAsk("distance", self.picked, sense, why="as picked on the sheet"))
            return
        else:
            self.picked = (name,)
        self._tell()

    def _both_edges(self, one: str, other: str) -> bool:
        return all(f.kind == "edge" for f in self.survey.features if f.name in (one, other))

    def _free_sense(self, ends: tuple[str, ...]) -> str:
        taken = {d.sense for d in self.survey.distances if {d.from_, d.to} == set(ends)}
        return next((s for s in ("near-near", "far-far") if s not in taken), "near-near")

    def with_sense(self, sense: str) -> None:
        """Read the distance asked for in another sense."""
        if self.current_ask is not None and self.current_ask.kind == "distance":
            self.current_ask = replace(self.current_ask, sense=sense)
            self._tell()

    def as_angle(self) -> None:
        """Ask for the angle of the line between the two picked features instead of their distance."""
        if len(self.picked) == 2:
            self.ask(ReadingAsk("direction", self.picked, why="as picked on the sheet"))

    def _ask_of(self, advice: ReadingAdvice) -> ReadingAsk | None:
        if advice.kind == "again":
            return ReadingAsk(
                "again", advice.ends, advice.sense or "near-near", advice.list, advice.index, why=advice.sentence
            )
        if advice.kind in ("distance", "direction", "diameter"):
            return ReadingAsk(advice.kind, advice.ends, advice.sense or "near-near", why=advice.gain)
        if advice.kind == "straightedge":
            return ReadingAsk("straightedge", why=advice.gain)
        if advice.kind == "face":
            return self.spot_ask(advice.ends[0], advice.gain)
        if advice.kind == "sweep":
            return self.sweep_ask(advice.ends[0], advice.gain)
        return None

    def spot_ask(self, feature: str, why: str = "") -> ReadingAsk:
        """Return the next spot to read on a face: evenly round the hole, well out on the boss."""
        face = next((f for f in self.survey.faces if f.feature == feature), None)
        count = len(face.spots) if face else 0
        boss, hole = boss_of(self.study.job, feature), self.survey.feature(feature)
        bore = (hole.diameter_mm or 8.0) / 2 if hole else 4.0
        radius = round((bore + boss / 2) / 2 if math.isfinite(boss) else bore + 5.0, 1)
        return ReadingAsk("depth", (feature,), at_deg=(45.0 + 360.0 * count / SPOTS) % 360.0, radius_mm=radius, why=why)

    def sweep_ask(self, on: str, why: str = "") -> ReadingAsk:
        """Return the next reading of a sweep."""
        sweep = self.done.survey.sweeps
        rows = next((s for s in sweep if s.on == on), None)
        count = len(rows.readings) if rows else 0
        radius = rows.radius_mm if rows else self._sweep_radius(on)
        return ReadingAsk("sweep", (on,), at_deg=(360.0 * count / SWEEP_SPOTS) % 360.0, radius_mm=radius, why=why)

    def _sweep_radius(self, on: str) -> float | None:
        job = self.study.job
        if on == "hub-face":
            return None if job.hub.flange_diameter_mm is None else round(job.hub.flange_diameter_mm / 2 - 5.0, 1)
        return None if job.rotor.diameter_mm is None else round(job.rotor.diameter_mm / 2 - 10.0, 1)

    def swept_on_car(self, on_car: bool) -> None:
        """Write down where the rotor was when its face was swept: bolted down on the car, or on the bench."""
        where = "on-car" if on_car else "bench"
        sweeps = tuple(
            replace(sweep, where=where) if sweep.on == "rotor-face" else sweep for sweep in self.survey.sweeps
        )
        self.write(f"Rotor swept {'on the car' if on_car else 'on the bench'}", replace(self.survey, sweeps=sweeps))

    # Taking -------------------------------------------------------------------------------------

    def stamp(self, angle: bool = False) -> record.Stamp:
        """Return who, when and with what, for a reading taken now."""
        fits = self.instrument in INSTRUMENTS and (self.instrument == "angle-gauge") == angle
        return record.Stamp(SIMULATED if self.played else self.by, self._now(), self.instrument if fits else "")

    def take_played(self, value: float) -> str:
        """The same as ``take`` for a reading that the simulated gauge played: it is marked as such wherever it goes."""
        self.played = True
        try:
            return self.take(value)
        finally:
            self.played = False

    def take(self, value: float) -> str:
        """Write down ``value`` [mm or degrees] for the reading asked for and ask for the next; returns what was done.

        Raises ``JobError`` when the value cannot be; the same reading is then still asked for.
        """
        ask = self.current_ask
        if ask is None:
            return ""
        after = self._with(ask, value)
        shown = f"{value:.2f}°" if ask.is_angle else show_length(value, units_of(self.study.job.display_units))
        label = f"{'Correct' if ask.kind == 'again' else 'Take'} {ask.name}: {shown}"
        self.write(label, after)
        self._after(ask)
        return label

    def take_lean(self, lean_deg: float) -> str:
        """Write down an angle read from plumb, forward positive: the clock angle is 90° − lean, either way round.

        Of the line's two ends the one is meant that lies nearest to where the line is known to point.
        """
        ask = self.current_ask
        if ask is None:
            return ""
        upward, downward = (90.0 - lean_deg) % 360.0, (270.0 - lean_deg) % 360.0
        adjusted = self.done.adjusted
        if adjusted is None or len(set(ask.ends)) < 2:
            return self.take(upward)
        (x0, y0), (x1, y1) = (adjusted.place(name) for name in ask.ends)
        now = math.degrees(math.atan2(y1 - y0, x1 - x0))
        off = [abs(math.remainder(angle - now, 360.0)) for angle in (upward, downward)]
        return self.take(upward if off[0] <= off[1] else downward)

    def skip(self) -> None:
        """Pass over the reading asked for; in a sweep it counts as dropped."""
        ask = self.current_ask
        if ask is None or ask.kind != "sweep":
            skipped = [a for a in map(self._ask_of, self.advice) if a is not None]
            places = [k for k, a in enumerate(skipped) if a == ask]
            following = skipped[(places[0] + 1) % len(skipped)] if places else next(iter(skipped), None)
            self.ask(self._queue.pop(0) if self._queue else following)
            return
        old = next((s for s in self.survey.sweeps if s.on == ask.ends[0]), None)
        rows = {r.at_deg: r.value_mm for r in old.readings} if old else {}
        after = record.with_sweep(self.survey, ask.ends[0], ask.radius_mm, {**rows, ask.at_deg: None}, self.stamp())
        self.write(f"Drop {ask.name}", after)
        self._after(ask)

    def write(self, label: str, survey: Survey) -> None:
        """Put ``survey`` in place as one step of the history. Raises ``JobError`` when it cannot be."""
        self.study.edit(label, record.survey_edit(self.study.job, self.corner, survey))

    def again_of(self, which: str, index: int) -> ReadingAsk:
        """Return the question that has the reading ``index`` of the list ``which`` measured once more."""
        item = getattr(self.survey, which)[index]
        ends = (item.name,) if which == "features" else (item.from_, item.to)
        return ReadingAsk("again", ends, getattr(item, "sense", "near-near"), which, index, why="as chosen in the list")

    def set_aside(self, which: str, index: int, out: bool) -> None:
        """Leave a reading out, or count it again. Raises ``JobError``."""
        label = f"{'Set aside' if out else 'Count again'} {self.again_of(which, index).name}"
        self.write(label, record.set_aside(self.survey, which, index, "by hand" if out else ""))

    def correct(self, which: str, index: int, value: float) -> None:
        """Have a reading say ``value`` [mm, or degrees of a direction]; what it said is kept. Raises ``JobError``."""
        stamp = self.stamp(which == "directions")
        after = record.corrected(self.survey, which, index, value, "written down wrongly", stamp)
        self.write(f"Correct {self.again_of(which, index).name}", after)

    def face_anew(self, name: str) -> None:
        """Take the depths of a face away and ask for them again; they stay in its history. Raises ``JobError``."""
        self.write(
            f"Read the face of {name} again", record.with_spots(self.survey, name, (), "read again", self.stamp())
        )
        self.ask(self.spot_ask(name))

    def sweep_anew(self, on: str) -> None:
        """Ask for a sweep from its beginning; a finished one is taken again. Raises ``JobError``."""
        old = next((s for s in self.survey.sweeps if s.on == on), None)
        if old is not None and old.readings:
            anew = record.with_sweep(self.survey, on, old.radius_mm, {}, self.stamp())
            self.write(f"Sweep the {on.replace('-', ' ')} again", anew)
        self.ask(self.sweep_ask(on))

    def measure_part(self, measure: PartMeasure) -> None:
        """Note readings of a donor part. Raises ``JobError``."""
        self.write("Measure a part", record.with_part(self.survey, replace(measure, **self.stamp().fields())))

    def takeover(self) -> Takeover:
        """Return what the survey would change in the job."""
        return takeover(self.study.job, self.done)

    def _with(self, ask: ReadingAsk, value: float) -> Survey:
        survey, stamp = self.survey, self.stamp(ask.is_angle)
        if ask.kind == "again":
            return record.corrected(survey, ask.list, ask.index, value, "measured again", stamp)
        if ask.kind == "distance":
            return record.with_distance(survey, (ask.ends[0], ask.ends[1]), ask.sense, value, stamp)
        if ask.kind == "direction":
            return record.with_direction(survey, (ask.ends[0], ask.ends[-1]), value, stamp)
        if ask.kind == "diameter":
            index = [f.name for f in survey.features].index(ask.ends[0])
            return record.corrected(survey, "features", index, value, "measured again", stamp)
        if ask.kind == "straightedge":
            return replace(survey, straightedge_thickness_mm=value, straightedge_by=stamp.by)
        if ask.kind == "depth":
            return record.with_spot(
                survey, ask.ends[0], Spot(at_deg=ask.at_deg, radius_mm=ask.radius_mm, depth_mm=value), stamp
            )
        old = next((s for s in survey.sweeps if s.on == ask.ends[0]), None)
        rows = {r.at_deg: r.value_mm for r in old.readings} if old else {}
        return record.with_sweep(survey, ask.ends[0], ask.radius_mm, {**rows, ask.at_deg: value}, stamp)

    def _after(self, ask: ReadingAsk) -> None:
        """Ask for what follows: the rest of a face or of a sweep first, then what is most useful."""
        self.picked = ()
        if ask.kind == "again":
            self._read_again.add((ask.list, ask.index))
        if ask.kind == "depth":
            face = next((f for f in self.survey.faces if f.feature == ask.ends[0]), None)
            if face is not None and len(face.spots) < SPOTS:
                self.ask(self.spot_ask(ask.ends[0]))
                return
        if ask.kind == "sweep":
            sweep = next((s for s in self.survey.sweeps if s.on == ask.ends[0]), None)
            if sweep is not None and len(sweep.readings) < SWEEP_SPOTS:
                self.ask(self.sweep_ask(ask.ends[0]))
                return
        self.ask_next()

    def add_feature(self, feature: Feature) -> None:
        """Add a feature and ask for its diameter. Raises ``JobError``."""
        self.write(f"Add {feature.name}", record.with_feature(self.survey, feature))
        if feature.kind == "round" and not feature.diameter_mm:
            self.ask(ReadingAsk("diameter", (feature.name,)))
        else:
            self.ask_next()

    def refresh(self) -> None:
        """Bring what is asked for up to date after the job has changed from outside (undo, another file)."""
        ask = self.current_ask
        names = {f.name for f in self.survey.features}
        gone = ask is not None and ask.kind not in ("straightedge", "sweep") and not set(ask.ends) <= names
        short = ask is not None and ask.kind == "again" and ask.index >= len(getattr(self.survey, ask.list))
        self.picked = tuple(name for name in self.picked if name in names)
        if ask is None or gone or short:
            self._queue = []
            self.ask_next()
        elif (
            self._rows_of(ask) < self._before
        ):  # a reading was taken back: its place is asked for again, none is passed over
            self.ask(self.sweep_ask(ask.ends[0]) if ask.kind == "sweep" else self.spot_ask(ask.ends[0]))

    def _tell(self) -> None:
        for call in tuple(self.changed):
            call()
