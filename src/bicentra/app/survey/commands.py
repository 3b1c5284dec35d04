"""Commands of the survey bench that ask somebody something: a feature, a side, a corrected value, a table, the takeover."""

from pathlib import Path
from typing import TYPE_CHECKING

from bicentra.app import dialogs
from bicentra.app.photographing import photo_of
from bicentra.app.survey import questions
from bicentra.core.base.quantities import ANGLE, LENGTH, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.parts.survey import Feature
from bicentra.study.desks.photos import of_reading, photos_of
from bicentra.study.desks.readings import export_readings, import_readings
from bicentra.study.desks.readings_text import LISTS

if TYPE_CHECKING:
    from bicentra.app.survey.bench import SurveyBench


class Commands:
    """Each asks, and does what was answered as one step of the history."""

    def __init__(self, bench: "SurveyBench") -> None:
        self.bench = bench

    def add_feature(self) -> None:
        """Ask for a feature and add it."""
        desk = self.bench.desk
        if desk is None:
            return
        have = {f.name for f in desk.survey.features}
        names = [
            n for n in ("pilot", *(lug.name for lug in desk.study.job.knuckle.lugs), "helper hole") if n not in have
        ]
        feature = questions.ask_feature(self.bench, desk.survey.axis is not None, names, desk.lengths.units)
        if feature is not None and self.bench.attempt(lambda: desk.add_feature(feature)):
            self.bench.fit()
            self.bench.entry.value.setFocus()

    def add_at_once(self, what: str) -> None:
        """Add the pilot, the next lug or another hole under the name it goes by here; anything else is asked about."""
        desk = self.bench.desk
        if desk is None or what == "other":
            self.add_feature()
            return
        have = {f.name for f in desk.survey.features}
        lugs = [lug.name for lug in desk.study.job.knuckle.lugs] if what == "lug" else []
        names = (*lugs, *([what] if what == "pilot" else ()), *(f"{what} {k}" for k in range(1, len(have) + 2)))
        feature = Feature(name=next(name for name in names if name not in have), axis=what == "pilot")
        if self.bench.attempt(lambda: desk.add_feature(feature)):
            self.bench.fit()
            self.bench.entry.value.setFocus()

    def _of(self, which: str, index: int) -> str:
        desk = self.bench.desk
        return of_reading(desk.corner, desk.again_of(which, index).name) if desk is not None else ""

    def has_photo(self, which: str, index: int) -> bool:
        """Tell whether there is a photo of a reading."""
        desk = self.bench.desk
        return desk is not None and bool(photos_of(desk.study, self._of(which, index)))

    def photo(self, which: str, index: int) -> None:
        """Show the photo of a reading; where there is none yet, ask for its file."""
        desk = self.bench.desk
        if desk is not None:
            photo_of(self.bench, desk.study, self._of(which, index), self.bench.attempt)

    def state_side(self, name: str) -> None:
        """Ask on which side a feature lies and note it."""
        desk = self.bench.desk
        side = questions.ask_side(self.bench, name) if desk is not None else ""
        if desk is not None and side:
            features = tuple(replace(f, side=side) if f.name == name else f for f in desk.survey.features)
            self.bench.attempt(lambda: desk.write(f"{name} lies {side}", replace(desk.survey, features=features)))

    def set_instruments(self) -> None:
        """Ask how well each instrument reads, and note it in this survey."""
        desk = self.bench.desk
        found = questions.ask_instruments(self.bench, desk.survey) if desk is not None else None
        if desk is not None and found is not None and found != dict(desk.survey.instruments):
            self.bench.attempt(lambda: desk.write("Set the instruments", replace(desk.survey, instruments=found)))

    def use(self) -> None:
        """Show what the survey would change in the job, and take it over as one step."""
        desk = self.bench.desk
        if desk is None:
            return
        plan = desk.takeover()
        if questions.ask_takeover(self.bench, plan, desk.lengths):
            label = f"Use the survey of {desk.corner.replace('-', ' ')}"
            if self.bench.attempt(lambda: desk.study.edit(label, plan.edits)):
                count = len(plan.changes)
                self.bench.message.emit(
                    f"{count} number{'' if count == 1 else 's'} of the survey are in the job. Undo takes them back."
                )

    def take_csv(self) -> None:
        """Add the readings of a CSV table."""
        desk = self.bench.desk
        path = (
            dialogs.ask_file(self.bench, "Import readings", Path.home(), "Tables (*.csv);;All files (*)")
            if desk
            else None
        )
        if desk is None or path is None:
            return

        def take() -> None:
            survey, added = import_readings(path, desk.survey)
            if added:
                desk.write(f"Import {added} readings from {path.name}", survey)
            self.bench.message.emit(f"{added} readings imported from {path.name}; readings already there are skipped.")

        self.bench.attempt(take)
        self.bench.fit()

    def write_csv(self) -> None:
        """Write the readings of this corner as a CSV table."""
        desk = self.bench.desk
        if desk is None:
            return
        name = Path.home() / f"{desk.corner}-readings.csv"
        path = dialogs.ask_save(self.bench, name, "Write readings", "Tables (*.csv)")
        if path is not None and self.bench.attempt(lambda: export_readings(path, desk.survey)):
            self.bench.message.emit(f"Written: {path}")

    def correct(self, which: str, index: int) -> None:
        """Ask what a reading should say, and keep what it said."""
        desk = self.bench.desk
        if desk is None:
            return
        kind = ANGLE if which == "directions" else LENGTH
        item = getattr(desk.survey, which)[index]
        now = edit_text(getattr(item, LISTS[which]), kind, desk.lengths.units)
        text = questions.ask_value(self.bench, desk.again_of(which, index).name, now)
        if text is None or not text.strip() or text == now:
            return

        def write() -> None:
            value = parse_quantity(text, kind, "" if kind is ANGLE else desk.lengths.units)
            desk.correct(which, index, value)

        self.bench.attempt(write)
