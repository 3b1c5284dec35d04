"""Everything that follows from the readings of one corner."""

import math

from bicentra.core.base.cache import cached_property
from bicentra.core.base.errors import ConvergenceError
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.survey import Survey
from bicentra.core.survey.adjust import Adjusted, adjust
from bicentra.core.survey.faces import Face, against_hub, fit_face
from bicentra.core.survey.recipes import PartResult, work_out
from bicentra.core.survey.runout import IndexPlace, Runout, analyse, best_index, index_places
from bicentra.core.survey.start import Place


class Surveyed(Record, frozen=True, eq=False):
    """One corner's survey, worked out. ``fault`` says why there is no adjusted network."""

    corner: str
    survey: Survey
    adjusted: Adjusted | None
    fault: str
    faces: tuple[Face, ...]
    sweeps: tuple[Runout, ...]
    index: tuple[IndexPlace, ...]
    parts: tuple[PartResult, ...]

    def face(self, feature: str) -> Face | None:
        """Return the face of ``feature``, the last one read."""
        return next((face for face in reversed(self.faces) if face.feature == feature), None)

    def sweep(self, on: str) -> Runout | None:
        """Return the last sweep on ``on``."""
        return next((sweep for sweep in reversed(self.sweeps) if sweep.on == on), None)

    def against_axle(self, face: Face) -> Face | None:
        """Return ``face`` against the axle instead of the hub face: the hub's own lean, from its sweep, is added.

        It holds for the hub as it stood at the sweep's 0°. ``None`` without a sweep, for a face that is unknown, or
        where the feature's place is not.
        """
        hub, place = self.sweep("hub-face"), self.place(face.feature)
        if hub is None or hub.fault or face.fault or place is None or not math.isfinite(hub.radius):
            return None
        lean = hub.tilt / hub.radius  # rise per mm, towards the high spot
        return replace(
            face,
            z=face.z + lean.real * place[0] + lean.imag * place[1],
            slope_x=face.slope_x + lean.real,
            slope_y=face.slope_y + lean.imag,
        )

    @property
    def best_index(self) -> IndexPlace | None:
        """The index place with the least runout."""
        return best_index(self.index)

    def place(self, name: str) -> Place | None:
        """Return the adjusted place of ``name`` [mm]; ``None`` while it is unknown."""
        if self.adjusted is None or name not in self.adjusted.network.features or not self.adjusted.known(name):
            return None
        return self.adjusted.place(name)

    @cached_property
    def suspects(self) -> tuple[int, ...]:
        """Readings (by their place in the adjusted network) that are named as wrong."""
        return self.adjusted.suspects if self.adjusted is not None else ()


def survey_corner(job: Job, corner: str) -> Surveyed:
    """Return the survey of ``corner`` worked out. Nothing raises: what cannot be worked out is reported in ``fault``."""
    survey = job.survey.get(corner, Survey())
    adjusted, fault = None, ""
    if survey.features:
        try:
            adjusted = adjust(survey, hints(job, survey))
        except ConvergenceError as error:
            fault = str(error)
    raw = {face.feature: fit_face(survey, face) for face in survey.faces}
    axis = survey.axis
    hub = raw.get(axis.name) if axis else None
    faces = tuple(
        face if axis and face.feature == axis.name else against_hub(face, hub, _centre(adjusted, face.feature))
        for face in raw.values()
    )
    sweeps = tuple(analyse(survey, sweep) for sweep in survey.sweeps)
    on = {sweep.on: sweep for sweep in sweeps}
    studs = job.hub.stud_count or job.rotor.hole_count or 0
    index = index_places(on["hub-face"], on["rotor-face"], studs) if len(on) == 2 else ()
    parts = tuple(r for r in (work_out(survey, m) for m in survey.parts) if r is not None)
    return Surveyed(corner, survey, adjusted, fault, faces, sweeps, index, parts)


def _centre(adjusted: Adjusted | None, name: str) -> Place:
    if adjusted is None or name not in adjusted.network.features or not adjusted.known(name):
        return math.nan, math.nan
    return adjusted.place(name)


def hints(job: Job, survey: Survey) -> dict[str, Place]:
    """Return the places of the job's lugs by the features that stand for them, for choosing between mirrored places."""
    found = {}
    for feature in survey.features:
        k = lug_of(job, feature.name)
        lug = job.knuckle.lugs[k] if k is not None else None
        if lug is not None and lug.x_mm is not None and lug.y_mm is not None:
            found[feature.name] = (lug.x_mm, lug.y_mm)
    return found


def seat_height(job: Job, face: Face) -> float:
    """Return z of the seat of the lug that ``face`` belongs to [mm]; nan when it stands for none.

    Depths are read to the outboard face. A lug that is seated on its inboard side has its seat a thickness further in;
    without that thickness it is unknown.
    """
    k = lug_of(job, face.feature)
    if k is None or face.fault:
        return math.nan
    lug = job.knuckle.lugs[k]
    if lug.seat == "outboard":
        return face.z
    return math.nan if lug.thickness_mm is None else face.z - lug.thickness_mm


def lug_of(job: Job, feature: str) -> int | None:
    """Return which lug of the job a feature stands for: the one of the same name, as a person would read it."""
    names = [_plain(lug.name) for lug in job.knuckle.lugs]
    wanted = _plain(feature)
    return names.index(wanted) if wanted in names and wanted else None


def lug_features(job: Job, survey: Survey) -> list[str]:
    """Return the features of ``survey`` that stand for lugs of the job; every hole off the axle when none does."""
    holes = [f.name for f in survey.features if f.kind == "round" and not f.axis and not f.obstacle]
    return [name for name in holes if lug_of(job, name) is not None] or holes


def boss_of(job: Job, feature: str) -> float:
    """Return the boss diameter of the lug that ``feature`` stands for [mm]; unknown when nobody measured it."""
    place = lug_of(job, feature)
    lug: Lug | None = job.knuckle.lugs[place] if place is not None else None
    return math.nan if lug is None or lug.boss_mm is None else lug.boss_mm


def _plain(name: str) -> str:
    words = name.casefold().replace("-", " ").split()
    return " ".join(word for word in words if word not in ("lug", "hole", "the"))
