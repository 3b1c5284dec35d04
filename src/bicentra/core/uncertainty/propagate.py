"""Linear propagation: which numbers the survey stands behind, and how every finding and figure moves with them."""

import math

import numpy as np

from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import field_of, meaning
from bicentra.core.parts.job import Caliper, Hub, Job, Lug, Rotor
from bicentra.core.survey.corner import Surveyed, lug_of, seat_height
from bicentra.core.survey.network import Array
from bicentra.core.survey.use import obstacle_points
from bicentra.core.survey.words import reading_name


def figure_values(solution: Solution) -> dict[str, float]:
    """Return every figure of the line-up by its name; unknown ones are nan."""
    line = solution.line
    found = {
        "rotor_midplane_z_mm": line.rotor_midplane_z,
        "hat_outer_z_mm": line.hat_outer_z,
        "pad_top_radius_mm": line.pad_top_radius,
        "ear_line_radius_mm": line.ear_line_radius,
        "ear_face_z_mm": line.ear_face_z,
        "tip_gap_mm": line.tip_gap,
        "tip_gap_hot_mm": line.tip_gap_hot,
        "slot_gap_each_side_mm": line.slot_gap,
        "effective_radius_mm": line.pad.effective_radius,
        "pad_area_off_rotor_mm2": line.pad.off,
    }
    found.update({f"axial_offset_mm[{k}]": value for k, value in enumerate(line.axial_offset)})
    found.update({f"axial_error_mm[{k}]": value for k, value in enumerate(solution.assembly.stack_up.errors)})
    for k, ear in enumerate(line.ears):
        found.update({f"ears[{k}].{axis}_mm": value for axis, value in zip("xyz", ear)})
    return found


AGREES_MM = 0.006
"""A number of the job counts as the survey's own up to this: what rounding to a hundredth leaves."""


class Inputs(Record, frozen=True):
    """``paths`` of the job's numbers that come from readings, and ``shares`` (paths, readings): change of each number
    by one standard uncertainty of each reading [mm]. ``names`` tell the readings, ``leverage`` (readings,) how much of
    itself each decides: 1 where nothing checks it.
    """

    paths: tuple[str, ...]
    shares: Array
    names: tuple[str, ...]
    leverage: Array

    @property
    def covariance(self) -> Array:
        """Covariance of the numbers, (paths, paths) [mm²]."""
        return self.shares @ self.shares.T


class _Builder:
    """Collects rows over a growing list of readings."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self.names: list[str] = []
        self.leverage: list[float] = []
        self.rows: list[tuple[str, dict[int, float]]] = []

    def readings(self, names: list[str], leverage: list[float]) -> int:
        """Add readings; returns the place of the first."""
        first = len(self.names)
        self.names += names
        self.leverage += leverage
        return first

    def number(
        self, path: str, value: float, first: int, shares: Array, flange: int = 0, common: Array | None = None
    ) -> None:
        """Add a number of the job that was surveyed; ``shares`` start at the reading ``first``, what it has in ``common`` with
        others at ``flange``.

        One typed beside the survey keeps the survey's uncertainty, and its difference from it counts as one more, unless the
        job says that it is exact.
        """
        try:
            held = get_value(self.job, path)
        except KeyError:
            return
        if not isinstance(held, int | float) or path in self.job.exact:
            return
        row = {first + k: float(share) for k, share in enumerate(shares) if share}
        row |= {flange + k: float(share) for k, share in enumerate(common if common is not None else ()) if share}
        if abs(held - value) > AGREES_MM:
            row[self.readings([f"{text_of(path)} in the job, {abs(held - value):.2f} mm off the survey"], [1.0])] = (
                held - value
            )
        self.rows.append((path, row))

    def finish(self) -> Inputs:
        """Return what was collected."""
        shares = np.zeros((len(self.rows), len(self.names)))
        for k, (_, row) in enumerate(self.rows):
            for column, share in row.items():
                shares[k, column] = share
        return Inputs(tuple(path for path, _ in self.rows), shares, tuple(self.names), np.array(self.leverage))


def text_of(path: str) -> str:
    """Return what a key path is called: ``seat face, outboard of hub face (lug 1)``."""
    owner, _, name = path.rpartition(".")
    kind, _, place = owner.removeprefix("knuckle.").removesuffix("]").partition("[")
    record = {"hub": Hub, "rotor": Rotor, "caliper": Caliper, "lugs": Lug}.get(kind)
    label = meaning(field_of(record, name)).label if record is not None else name
    return f"{label[0].lower()}{label[1:]}" + (f" (lug {int(place) + 1})" if place.isdigit() and kind == "lugs" else "")


def survey_inputs(job: Job, here: Surveyed) -> Inputs:
    """Return the numbers of ``job`` that ``here`` stands behind."""
    builder = _Builder(job)
    _network(builder, job, here)
    hub = next((face.hub for face in here.faces if face.hub is not None), None)
    flange = builder.readings([f"depth {k + 1} on the hub face" for k in hub.spots], list(hub.leverage)) if hub else 0
    for face in here.faces:
        k = lug_of(job, face.feature)
        if k is not None and not face.fault and here.face(face.feature) is face:
            names = [f"depth {spot + 1} on the face of {face.feature}" for spot in face.spots]
            first = builder.readings(names, list(face.leverage))
            path = f"knuckle.lugs[{k}].z_mm"
            builder.number(path, seat_height(job, face), first, face.gain[0], flange, face.flange_gain)
    for result in here.parts:
        if math.isfinite(result.value):
            names = [f"{label} ({result.recipe.title})" for label, _ in result.shares]
            first = builder.readings(names, [1.0] * len(names))
            builder.number(result.recipe.path, result.value, first, np.array([share for _, share in result.shares]))
    return builder.finish()


def _network(builder: _Builder, job: Job, here: Surveyed) -> None:
    adjusted = here.adjusted
    if adjusted is None:
        return
    names = [reading_name(reading) for reading in adjusted.readings]
    first = builder.readings(names, [float(1.0 - r) for r in adjusted.redundancy])
    wanted: list[tuple[str, int, float]] = []
    for name in adjusted.network.points:
        columns, place, k = adjusted.columns(name), here.place(name), lug_of(job, name)
        if columns is not None and place is not None and k is not None:
            wanted += [(f"knuckle.lugs[{k}].{axis}_mm", columns[i], place[i]) for i, axis in enumerate("xy")]
    for obstacle, points in obstacle_points(here).items():
        at = next((k for k, o in enumerate(job.knuckle.obstacles) if o.name == obstacle), None)
        for corner, name in enumerate(points):
            columns, place = adjusted.columns(name), here.place(name)
            if at is not None and columns is not None and place is not None:
                path = f"knuckle.obstacles[{at}].outline_mm[{corner}]"
                wanted += [(f"{path}[{i}]", columns[i], place[i]) for i in (0, 1)]
    axis = here.survey.axis
    if axis is not None and axis.name in adjusted.network.diameters:
        column = adjusted.size_column(axis.name)
        wanted.append(("hub.pilot_diameter_mm", column, float(adjusted.x[column])))
    for path, column, value in wanted:
        builder.number(path, value, first, adjusted.gain[column])


STEP_MM = 1e-3


class Spread(Record, frozen=True):
    """What the readings do to one result: standard uncertainty, and its ``slopes`` (readings,) per reading."""

    sd: float
    slopes: Array


class Propagated(Record, frozen=True):
    """Every finding by its id and every figure by its name. ``names`` and ``leverage`` follow the readings."""

    findings: dict[str, Spread]
    figures: dict[str, Spread]
    names: tuple[str, ...]
    leverage: Array

    def helps_most(self, id: str) -> str:
        """Return the reading which, taken once more, would sharpen the finding ``id`` most; empty when none would."""
        spread = self.findings.get(id)
        if spread is None or not len(spread.slopes) or not np.any(spread.slopes):
            return ""
        return self.names[int(np.argmax(spread.slopes**2 / (1.0 + self.leverage)))]


class Frozen(Record, frozen=True):
    """A job with what was chosen for it written down, and the bracket as it is cut, so that a small change changes no choice."""

    job: Job
    fixed_stack_up: StackUp | None

    def solved(self, path: str = "", step: float = 0.0) -> Solution:
        """Return the job solved, the number at ``path`` moved by ``step`` [unit of that number]."""
        job = with_value(self.job, path, float(get_value(self.job, path)) + step) if path else self.job
        return solve(job, turns=False, remedies=False, fixed_stack_up=self.fixed_stack_up)


def frozen_choices(solution: Solution) -> Frozen:
    """Return the job of ``solution`` with its choices held fast; a bracket on the knuckle's own lugs is held as it is cut."""
    job, assembly = solution.job, solution.assembly
    stack_up, bracket = assembly.stack_up, job.bracket
    fixed_stack_up = None
    if math.isfinite(stack_up.thickness) and all(map(math.isfinite, stack_up.shims)):
        bracket = replace(bracket, thickness_mm=stack_up.thickness, shims_mm=stack_up.shims)
        if "lug" in assembly.bolted and assembly.job.knuckle is job.knuckle:
            fixed_stack_up = stack_up
    for group, field in (("lug", "lug_bolt_length_mm"), ("ear", "caliper_bolt_length_mm")):
        lengths = {p.joint.length for p in solution.assembly.joints if p.at == group}
        if len(lengths) == 1 and math.isfinite(next(iter(lengths))):
            bracket = replace(bracket, **{field: lengths.pop()})
    return Frozen(replace(job, bracket=bracket), fixed_stack_up)


def propagate(solution: Solution, inputs: Inputs) -> Propagated:
    """Return the spread of every finding and figure of ``solution`` under the errors of ``inputs``."""
    frozen = frozen_choices(solution)
    base = frozen.solved()
    ids = [finding.id for finding in base.findings]
    figures = figure_values(base)
    start = np.array([*_values(base, ids), *figures.values()])
    slopes = np.zeros((len(start), len(inputs.paths)))
    for k, path in enumerate(inputs.paths):
        moved = frozen.solved(path, STEP_MM)
        with np.errstate(invalid="ignore"):  # what is endless here and there has no slope
            slopes[:, k] = (np.array([*_values(moved, ids), *figure_values(moved).values()]) - start) / STEP_MM
    by_reading = slopes @ inputs.shares
    spreads = [Spread(_sd(row), row) for row in by_reading]
    return Propagated(
        dict(zip(ids, spreads)),
        dict(zip(figures, spreads[len(ids) :])),
        inputs.names,
        inputs.leverage,
    )


def _sd(row: Array) -> float:
    return float(np.sqrt((row**2).sum())) if np.all(np.isfinite(row)) else math.nan


def _values(solution: Solution, ids: list[str]) -> list[float]:
    found = {finding.id: finding.value for finding in solution.findings}
    return [found.get(id, math.nan) for id in ids]
