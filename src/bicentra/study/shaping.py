"""Shaping the plate: cutouts added, moved and taken out, each only as far as its metal allows; lightening to a mass."""

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Edit
from bicentra.core.base.numbers import is_known
from bicentra.core.bracket.cutouts import lightened, metal_beside
from bicentra.core.bracket.flat_plate import Assembly, FlatPlate, make_plate
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import find_material
from bicentra.core.solution import Solution

HALVINGS = 14
LEAST_WALL_MM, MOST_WALL_MM = 3.0, 60.0
"""How far a boss can be pulled [mm]; whether it then holds is for the findings."""


def bosses(job: Job) -> tuple[float, ...]:
    """Return the wall round every hole, lugs first, as it stands; nothing while no wall is chosen."""
    wall = job.bracket.wall_mm
    return job.bracket.boss_walls_mm or (() if wall is None else (wall,) * (len(job.knuckle.lugs) + 2))


def lighten(solution: Solution, target_kg: float) -> tuple[Edit, ...]:
    """Return the edit that lightens the plate to ``target_kg``, or as near as its metal allows. Raises ``ExportError``."""
    job, plate = solution.job, solution.plate
    material = find_material(job.bracket.material)
    if plate.outline is None or material is None or not is_known(plate.mass_kg):
        raise ExportError("the plate's outline, thickness and material have to be known before it can be lightened")
    to_go = (plate.mass_kg - target_kg) / (material.density * 1e-9 * solution.assembly.packing.thickness)
    if to_go <= 0:
        raise ExportError(f"the plate weighs {plate.mass_kg:.3f} kg already: ask for less")
    found = lightened(job, plate.outline, plate.window, solution.assembly.holes, to_go)
    if not found:
        keep = limit_for(job, "cutout-metal").watch
        raise ExportError(
            f"there is no room for a hole with {keep:g} mm of metal all round; widen the wall round the holes"
        )
    return (("bracket.cutouts", (*job.bracket.cutouts, *found)),)


def allowed(solution: Solution, path: str, value: float) -> tuple[float, str]:
    """Return the value nearest to ``value`` that the metal beside the cutouts allows, and why it is not ``value`` itself.

    ``path`` is a number of a cutout. What is too close already may be moved freely, so that it can be put right.
    """
    job, plate, assembly = solution.job, solution.plate, solution.assembly
    here, stop = float(get_value(job, path)), limit_for(job, "cutout-metal").stop
    if plate.outline is None or _least(job, plate, assembly)[0] < stop:
        return value, ""
    least, beside = _least(with_value(job, path, value), plate, assembly)
    if least >= stop:
        return value, ""
    good, bad = here, value
    for _ in range(HALVINGS):
        middle = (good + bad) / 2
        if _least(with_value(job, path, middle), plate, assembly)[0] >= stop:
            good = middle
        else:
            bad = middle
    return round(good, 2), f"{stop:g} mm of metal has to stay towards {beside}; {good:.1f} mm is the nearest that does"


def _least(job: Job, plate: FlatPlate, assembly: Assembly) -> tuple[float, str]:
    outline = plate.outline or make_plate(assembly).outline
    if outline is None:
        return float("nan"), ""
    metal = metal_beside(job.bracket.cutouts, outline, plate.window, assembly.holes)
    return metal.value, metal.beside
