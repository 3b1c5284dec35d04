"""The trial fit being worked on: which trial is shown, which move is thought of, and what becomes of what is typed. No Qt."""

import math
import re
from datetime import date

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.finding import Edit, Finding, Verdict
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.quantities import LENGTH, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.parts.corners import across
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.trial import GAP_NAMES, GAPS, Between, Leaves, Loose, Trial
from bicentra.core.parts.vehicle import Corner
from bicentra.core.trialfit.bolts import bolts_after
from bicentra.core.trialfit.fit import Move, TrialFit, plan_stays, steps_of, trial_fit
from bicentra.core.trialfit.log import State, missing_for_lock, prints_of
from bicentra.core.trialfit.plan import Plan, after_plan
from bicentra.core.trialfit.rig import Place, Rig, leaves_at
from bicentra.study.document.study import Study

_GOES = re.compile(r"^\s*(?:>\s*(?P<least>[^<>]+))?\s*(?:<\s*(?P<most>[^<>]+))?$")
SHIM = re.compile(r"\?|\d[\d./]*\s*(?:mm|in|thou)?")
STACK = re.compile(r"^stack:(lug|ear):(first|second)$")
READINGS = (
    "gaps_mm",
    "bands_mm",
    "deep_gaps_mm",
    "parting_line_mm",
    "tip_gap_mm",
    "pad_top_mm",
    "scratch_ring_mm",
    "runout_mm",
    "turned",
    "touches",
)
"""What is read anew at every trial."""


class TrialDesk:
    """The trials of the corner that is worked on. ``wish``: shims that are tried in thought, their outcome shown before a bolt is
    touched."""  # fmt: skip

    def __init__(self, study: Study, today: date | None = None) -> None:
        self.study = study
        self.number = -1
        self.place = 0  # which of the plans is looked at
        self.wish: Plan | None = None
        self._today = today
        self._kept: tuple[object, int, TrialFit | None] | None = None

    # What is known ------------------------------------------------------------------------------

    @property
    def trials(self) -> tuple[Trial, ...]:
        """Every trial of the corner, in order."""
        return self.study.job.trials

    @property
    def shown(self) -> int:
        """Which trial is shown, counted from 0; −1 while there is none."""
        last = len(self.trials) - 1
        return last if self.number < 0 or self.number > last else self.number

    @property
    def is_last(self) -> bool:
        """Whether the one shown is the present state."""
        return self.shown == len(self.trials) - 1

    @property
    def trial(self) -> Trial | None:
        """The trial that is shown."""
        return self.trials[self.shown] if self.trials else None

    @property
    def lengths(self) -> LengthFormat:
        """How numbers are written in this job."""
        return self.study.job.lengths

    @property
    def fit(self) -> TrialFit | None:
        """The trial that is shown, worked out; kept while job and number stay the same."""
        solution = self.study.plain_solution
        if self._kept is None or self._kept[0] is not solution or self._kept[1] != self.shown:
            self._kept = (solution, self.shown, trial_fit(solution, self.shown) if self.trials else None)
        return self._kept[2]

    @property
    def move(self) -> Move | None:
        """The move that is looked at: what is wished, else one of the plans."""
        fit = self.fit
        if fit is None:
            return None
        if self.wish is not None:
            after = bolts_after(self.study.plain_solution.assembly, fit.rigs, self.wish, fit.trial)
            return Move(
                self.wish, after, steps_of(fit.trial, self.wish, self.lengths), plan_stays(fit.trial, self.wish)
            )
        return fit.advised[self.place % len(fit.moves)] if fit.moves else None

    def _rig(self, place: str) -> Rig | None:
        return next((rig for rig in (self.fit.rigs if self.fit is not None else ()) if rig.place == place), None)

    def next_sentence(self) -> str:
        """Return the next thing to do at the car, in one sentence."""
        trial, fit = self.trial, self.fit
        if trial is None or fit is None:
            return "Put it on dry, bolts tight, rotor held by its nuts, and begin a trial."
        if not self.is_last:
            return f"Trial {self.shown + 1} is an earlier one: go on with the last, number {len(self.trials)}."
        blank = self.next_blank()
        if blank:
            name = blank.rpartition(".")[2]
            return (
                f"Read the gap at the {GAP_NAMES[name]}."
                if name in GAP_NAMES
                else "Measure how far apart the two ends are."
            )
        if fit.pose.against:
            return fit.pose.against[0]
        move = self.move
        if not fit.settled and move is not None and not move.stays:
            return f"{move.steps[0]}." if move.steps else "Do the move."
        if not fit.within:
            return (
                f"{fit.otherwise[0].action}."
                if fit.otherwise
                else "No shims that lie ready help: add what you have to the stock."
            )
        if fit.standing.state is State.LOCKED:
            return "Locked: this corner is done."
        stopped = self.stopped
        if stopped is not None:
            return stopped.why
        missing = fit.standing.missing
        return f"For the lock: {missing[0]}." if missing else "All is there: lock it."

    @property
    def stopped(self) -> Finding | None:
        """The finding that stops a trial whose caliper stands where it should; ``None`` while nothing does."""
        fit = self.fit
        if fit is None or not fit.settled:
            return None
        return next((finding for finding in fit.findings if finding.verdict is Verdict.STOP), None)

    def next_blank(self) -> str:
        """Return the key path of the next number to read; empty where all are there."""
        trial = self.trial
        if trial is None:
            return ""
        where = f"trials[{self.shown}]"
        for name in GAPS:
            if getattr(trial.gaps_mm, name) is None and name not in trial.bands_mm:
                return f"{where}.gaps_mm.{name}"
        return f"{where}.station_spacing_mm" if trial.station_spacing_mm is None else ""

    # What is begun and done -----------------------------------------------------------------------

    def begin(self) -> None:
        """Begin a trial: shims, stock and how it is held as at the last one, its readings blank.

        The first takes what the other corner ended with.
        """
        last = self.trials[-1] if self.trials else self._first_guess()
        self._append(_afresh(last), "Begin a trial")

    def _first_guess(self) -> Trial:
        """Return what the first trial starts from: the other corner's stock and shims as a guess, else the design's."""
        job, vehicle = self.study.job, self.study.vehicle
        other = vehicle.corners.get(across(job.corner), Corner()).trials
        if other:
            last = other[-1]
            told = f"First guess from {across(job.corner).replace('-', ' ')}."
            return replace(last, notes=told, photos=(), parts="", taken="", locked=False, lock={})
        stack_up = self.study.plain_solution.assembly.stack_up
        shims = [(shim,) if is_known(shim) and shim > 0 else () for shim in stack_up.shims[:2]] or [(), ()]
        spacing = job.caliper.pad_width_mm
        return Trial(shims_mm=Leaves(first=shims[0], second=shims[-1]), station_spacing_mm=spacing)

    def do_move(self) -> None:
        """Carry out the move that is looked at: a new trial with its shims in place, the rest back in the box, readings blank."""
        move, trial = self.move, self.trial
        if move is None or trial is None:
            return
        done = after_plan(trial, move.plan)
        self.wish, self.place = None, 0
        self._append(_afresh(done), f"Shims: {'; '.join(move.steps)}"[:200] if move.steps else "Read again")

    def _append(self, trial: Trial, label: str) -> None:
        dated = replace(trial, taken=(self._today or date.today()).isoformat())
        self.number = -1
        self.study.edit(label, (("trials", (*self.trials, dated)),))

    def remove(self) -> None:
        """Take the last trial back out of the log."""
        if self.trials:
            self.number = -1
            self.study.edit("Take the last trial out", (("trials", self.trials[:-1]),))

    def lock(self) -> tuple[str, ...]:
        """Lock the last trial; returns what is missing where it cannot be."""
        fit, job = self.fit, self.study.job
        if fit is None or not self.is_last:
            return ("the last trial: an earlier one is not what is there now",)
        missing = missing_for_lock(job, fit.trial, fit.findings)
        if not missing:
            index = f"trials[{self.shown}]"
            self.study.edit("Lock the corner", ((f"{index}.locked", True), (f"{index}.lock", prints_of(job))))
        return missing

    def unlock(self) -> None:
        """Open a locked corner again."""
        index = f"trials[{self.shown}]"
        self.study.edit("Open the lock", ((f"{index}.locked", False), (f"{index}.lock", {})))

    # What is typed and pulled ---------------------------------------------------------------------

    def text_of(self, path: str) -> str:
        """Return what stands in a field over ``path``."""
        stack = STACK.match(path)
        if stack and self.trial is not None:
            side = 0 if stack[2] == "first" else 1
            shims = leaves_at(self.trial, stack[1]).sides[side]  # type: ignore[arg-type]
            units = units_of(self.study.job.display_units)
            return " + ".join("?" if thick is None else edit_text(thick, LENGTH, units) for thick in shims)
        name = path.rpartition(".")[2]
        band = self.trial.bands_mm.get(name) if self.trial is not None else None
        units = units_of(self.study.job.display_units)
        if band is not None and get_value(self.study.job, path) is None:
            low, high = (edit_text(end, LENGTH, units) for end in (band.least, band.most))
            return f"{'>' + low if low else ''} {'<' + high if high else ''}".strip()
        return edit_text(get_value(self.study.job, path), LENGTH, units)

    def typed(self, path: str, text: str) -> None:
        """Take what was typed over ``path``: a length, for a gap also ``>1.2 <1.5`` (goes in, does not), for a stack its shims.

        Raises ``QuantityError`` for what is none, ``JobError`` for what cannot be.
        """
        stack = STACK.match(path)
        if stack:
            self._take_stack(stack[1], stack[2], text)
        elif ".gaps_mm." in path:
            self._take_gap(path, text)
        else:
            value = self._length(text) if text.strip() else None
            self.study.edit(
                f"Read the {path.rpartition('.')[2].removesuffix('_mm').replace('_', ' ')}", ((path, value),)
            )

    def _length(self, text: str) -> float:
        return parse_quantity(text, LENGTH, self.study.job.display_units)

    def _take_gap(self, path: str, text: str) -> None:
        name, trial = path.rpartition(".")[2], self.trial
        if trial is None:
            return
        label, goes = f"Gap, {GAP_NAMES[name]}", _GOES.match(text.strip())
        others = {key: band for key, band in trial.bands_mm.items() if key != name}
        bands = f"trials[{self.shown}].bands_mm"
        if goes and (goes["least"] or goes["most"]):
            low, high = (self._length(end) if end else None for end in (goes["least"], goes["most"]))
            self.study.edit(label, ((path, None), (bands, {**others, name: Between(least=low, most=high)})))
            return
        value = self._length(text) if text.strip() else None
        self.study.edit(label, ((path, value), (bands, others)))

    def take_gap(self, name: str, value: float) -> None:
        """Take a gap [mm] that a gauge has sent."""
        path = f"trials[{self.shown}].gaps_mm.{name}"
        self.study.edit(f"Gap, {GAP_NAMES[name]}", ((path, round(value, 4)),))

    def _take_stack(self, place: str, side: str, text: str) -> None:
        words = [word.strip() for word in SHIM.findall(text)]
        if SHIM.sub("", text).strip(" +;,-–").removeprefix("no").removeprefix("ne").strip():
            raise QuantityError(text, f"“{text.strip()}”", "shims such as 0.76 + 0.25, ? for an unmeasured one")
        shims = tuple(None if word == "?" else self._length(word) for word in words)
        if any(thick is not None and not 0.0 < thick <= 50.0 for thick in shims):
            raise QuantityError(
                text, f"“{text.strip()}”", "shims of 0 to 50 mm, such as 0.76 + 0.25, ? for an unmeasured one"
            )
        path = f"trials[{self.shown}].{'shims_mm' if place == 'lug' else 'ear_shims_mm'}.{side}"
        self.study.edit(f"Shims in place, {side} ear", ((path, shims),))

    def wish_for(self, path: str, height: float) -> None:
        """Think of a stack ``height`` [mm] high: the nearest that lies ready; the other bolt's follows where both are equal."""
        stack, fit = STACK.match(path), self.fit
        rig = self._rig(stack[1]) if stack else None
        if stack is None or fit is None or rig is None or not rig.known or rig.radial:
            return
        now = self.wish if self.wish is not None and self.wish.place == rig.place else None
        sides = list((now.first, now.second) if now else leaves_at(fit.trial, rig.place).sides)
        which = 0 if stack[2] == "first" else 1
        both = fit.trial.school == "equal"
        ready = _ready(fit.trial, rig.place, () if both else sides[1 - which])
        sides[which] = nearest_stack(ready, height, 2 if both else 1)
        if both:
            sides[1 - which] = sides[which]
        self.wish = _outcome(fit, rig, (sides[0], sides[1]))

    def height_of(self, path: str) -> float:
        """Return how high a stack is, as wished or as it is [mm]."""
        stack, trial = STACK.match(path), self.trial
        if stack is None or trial is None:
            return math.nan
        place: Place = "lug" if stack[1] == "lug" else "ear"
        now = self.wish if self.wish is not None and self.wish.place == place else None
        sides = (now.first, now.second) if now else leaves_at(trial, place).sides
        return math.fsum(thick for thick in sides[0 if stack[2] == "first" else 1] if thick is not None)

    def next_plan(self, step: int = 1) -> None:
        """Look at the next of the plans."""
        self.wish = None
        many = len(self.fit.moves) if self.fit is not None else 0
        self.place = (self.place + step) % many if many else 0

    def set_stock(self, thick: float, count: int, group: str = "") -> None:
        """Say how many shims of a thickness [mm] lie ready; none takes it out. Steps of one ``group`` are undone together."""
        trial = self.trial
        if trial is None:
            return
        rest = [loose for loose in trial.stock if loose.thickness_mm != thick]
        old = next((loose for loose in trial.stock if loose.thickness_mm == thick), Loose(thickness_mm=thick))
        stock = [*rest, *([replace(old, count=count)] if count > 0 else [])]
        stock.sort(key=lambda loose: known(loose.thickness_mm))
        self.study.edit(
            f"Shims of {thick:g} mm: {count}", ((f"trials[{self.shown}].stock", tuple(stock)),), group=group
        )

    def add_stock(self, text: str) -> None:
        """Add shims typed as ``0.25 x 8``. Raises ``QuantityError``."""
        found = re.fullmatch(r"\s*(?P<thick>.+?)\s*(?:[x×*]\s*(?P<count>\d{1,2}))?\s*", text)
        if found is None:
            raise QuantityError(text, f"“{text.strip()}”", "a thickness and how many, such as 0.25 x 8")
        thick = self._length(found["thick"])
        if not 0.0 < thick <= 50.0:
            raise QuantityError(text, f"“{text.strip()}”", "a thickness above 0 and up to 50 mm")
        self.set_stock(round(thick, 4), int(found["count"] or 1))

    def set(self, name: str, value: object) -> None:
        """Set one thing about how the trial was held or what was found."""
        if self.trial is not None and getattr(self.trial, name) != value:
            edits: tuple[Edit, ...] = ((f"trials[{self.shown}].{name}", value),)
            self.study.edit(f"Trial: {name.removesuffix('_mm').replace('_', ' ')}", edits)


def _afresh(trial: Trial) -> Trial:
    """Return a trial like this one with nothing read yet."""
    blank = Trial()
    bare = {name: getattr(blank, name) for name in READINGS}
    return replace(trial, **bare, floated=(), photos=(), locked=False, lock={})


def _ready(trial: Trial, place: Place, other: tuple[float | None, ...]) -> dict[float, int]:
    """Return how many shims of each thickness [mm] can go under one bolt, those under the ``other`` one left there."""
    many: dict[float, int] = {}
    for loose in trial.stock:
        if loose.thickness_mm:
            many[loose.thickness_mm] = many.get(loose.thickness_mm, 0) + loose.count
    for thick in (thick for side in leaves_at(trial, place).sides for thick in side if thick):
        many[thick] = many.get(thick, 0) + 1
    for taken in other:
        if taken:
            many[taken] = many.get(taken, 0) - 1
    return many


def nearest_stack(ready: dict[float, int], height: float, bolts: int = 1) -> tuple[float, ...]:
    """Return the shims whose sum comes nearest to ``height`` [mm] from those that are ``ready`` for so many bolts alike, the fewest
    pieces among equals; at most six."""  # fmt: skip
    best: dict[float, tuple[float, ...]] = {0.0: ()}
    for thick in sorted((t for t, many in ready.items() if many >= bolts), reverse=True):
        for total, pieces in list(best.items()):
            for more in range(1, ready[thick] // bolts + 1):
                stack = pieces + (thick,) * more
                at = round(total + more * thick, 6)
                if len(stack) > 6 or at > height + max(ready):
                    break
                if at not in best or len(stack) < len(best[at]):
                    best[at] = stack
    return best[min(best, key=lambda at: (round(abs(at - height), 6), len(best[at])))]


def _outcome(fit: TrialFit, rig: Rig, sides: tuple[tuple[float | None, ...], tuple[float | None, ...]]) -> Plan:
    """Return stacks as a plan, with what they lead to."""
    now = leaves_at(fit.trial, rig.place).sides
    grown = [math.fsum(t for t in new if t) - math.fsum(t for t in old if t) for new, old in zip(sides, now)]
    move, turn = rig.moved(grown[0], grown[1])
    tilt = math.degrees(math.atan(math.tan(math.radians(fit.pose.tilt.value)) + turn))
    return Plan(rig.place, sides[0], sides[1], fit.pose.offset.value + move, tilt)
