"""Shaping the plate where it is drawn: what can be pulled, added and taken away, each only as far as its findings allow."""

from collections.abc import Callable

from bicentra.core.base.errors import ExportError, OutlineError
from bicentra.core.base.finding import Edit, Verdict
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.registry import KINDS, kind_of
from bicentra.core.bracket.cutouts import lightened, open_spot
from bicentra.core.bracket.plate import LEAST_PULL_MM, PlateEdge, plate_edges
from bicentra.core.evaluation.own_bracket import own_bracket
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Cutout, Dowel, Job, Pull
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import find_material

SHAPED = frozenset(kind.group for kind in KINDS if kind.shaped)
"""Rooms of the registry that hold what the plate's shape changes."""
HALVINGS, LIGHTEN_TRIES = 14, 4
LEAST_WALL_MM, MOST_WALL_MM = 3.0, 60.0
"""How far a boss can be pulled [mm]; whether it then holds is for the findings."""
LEAST_EDGE_MM, LEAST_CUTOUT_MM, DOWEL_MM = 12.0, 8.0, 6.0
"""Shortest edge that is offered to be pulled, smallest cutout and usual dowel [mm]."""


def boss_edits(job: Job) -> tuple[float, ...]:
    """Return the wall round every hole, lugs first, as it stands; nothing while no wall is chosen."""
    wall = job.bracket.wall_mm
    return job.bracket.boss_walls_mm or (() if wall is None else (wall,) * (len(job.knuckle.lugs) + 2))


def pulled_edges(solution: Solution) -> tuple[tuple[PlateEdge, float], ...]:
    """Return the straight edges that can be pulled, each with how far out it is [mm]; nothing while a hole is unknown."""
    out = {(pull.from_hole, pull.to_hole): known(pull.out_mm) for pull in solution.job.bracket.pulls}
    try:
        edges = plate_edges(solution.assembly.holes)
    except OutlineError:
        return ()
    return tuple((edge, out.get((edge.first, edge.second), 0.0)) for edge in edges if edge.length >= LEAST_EDGE_MM)


def pull_edits(job: Job, path: str, value: float) -> tuple[Edit, ...]:
    """Return the edit that gives what ``path`` names a ``value``: a wall, an edge (``bracket.pulls[0-3]``), or a number."""
    name, _, index = path.removesuffix("]").partition("[")
    if name == "bracket.boss_walls_mm":
        walls = list(boss_edits(job))
        walls[int(index)] = min(max(value, LEAST_WALL_MM), MOST_WALL_MM)
        return ((name, tuple(walls)),)
    if name == "bracket.pulls":
        first, _, second = index.partition("-")
        pair = int(first), int(second)
        rest = tuple(pull for pull in job.bracket.pulls if (pull.from_hole, pull.to_hole) != pair)
        own = (Pull(from_hole=pair[0], to_hole=pair[1], out_mm=value),) if abs(value) >= LEAST_PULL_MM else ()
        return ((name, (*rest, *own)),)
    return ((path, value),)


def standing_at(job: Job, path: str) -> float:
    """Return the value that ``path`` (see ``pull_edits``) has now."""
    name, _, index = path.removesuffix("]").partition("[")
    if name == "bracket.boss_walls_mm":
        return boss_edits(job)[int(index)]
    if name == "bracket.pulls":
        pairs = {f"{pull.from_hole}-{pull.to_hole}": known(pull.out_mm) for pull in job.bracket.pulls}
        return pairs.get(index, 0.0)
    return float(get_value(job, path))


def standing_value(solution: Solution, path: str) -> float | int | None:
    """Return what is typed over at ``path`` as it stands; a thickness or a shim that was chosen as it was chosen."""
    stack_up = solution.assembly.stack_up
    if path.startswith("bracket.shims_mm["):
        return stack_up.shims[int(path.removesuffix("]").partition("[")[2])]
    value: float | int | None = get_value(solution.job, path)
    return stack_up.thickness if path == "bracket.thickness_mm" and value is None else value


def typed_edits(solution: Solution, path: str, value: object) -> tuple[Edit, ...]:
    """Return the edits for a value typed at ``path``; a shim goes with the plate and the other shims as they stand."""
    stack_up = solution.assembly.stack_up
    if not path.startswith("bracket.shims_mm["):
        return ((path, value),)
    if value is None:
        return (("bracket.shims_mm", None),)
    shims = list(stack_up.shims)
    shims[int(path.removesuffix("]").partition("[")[2])] = float(str(value))
    return (("bracket.thickness_mm", stack_up.thickness), ("bracket.shims_mm", tuple(shims)))


def allowed(solution: Solution, path: str, value: float) -> tuple[float, str]:
    """Return the value nearest to ``value`` that the plate's findings allow, and why it is not ``value`` itself.

    What says stop already holds nothing back, so that it can be put right.
    """
    job = solution.job
    here, bad_now = standing_at(job, path), set(_stops(solution))
    why = _worse(job, path, value, bad_now)
    if not why:
        return value, ""
    good, bad = here, value
    for _ in range(HALVINGS):
        middle = (good + bad) / 2
        worse = _worse(job, path, middle, bad_now)
        if worse:
            bad, why = middle, worse
        else:
            good = middle
    return round(good, 2), f"{why} {good:.1f} mm is the nearest that can be"


def _worse(job: Job, path: str, value: float, bad_now: set[str]) -> str:
    """Return why ``value`` is worse than what stands now; empty when it is not."""
    moved = with_edits(job, pull_edits(job, path, value))
    found = _stops(solve(moved, turns=False, remedies=False))
    return next((why for id, why in found.items() if id not in bad_now), "")


def _stops(solution: Solution) -> dict[str, str]:
    """Return what stops the plate, each with its reason; what its shape does not change is not asked."""
    bracket = solution.bracket
    if not bracket.parts:
        return {"no-plate": f"{bracket.why[:1].upper()}{bracket.why[1:]}."}
    found = solution.lazy.of_groups(SHAPED)
    return {f.id: f.why for f in found if kind_of(f.id).shaped and f.verdict is Verdict.STOP}


def lighten(solution: Solution, target_kg: float) -> tuple[Edit, ...]:
    """Return the edit that lightens the plate to ``target_kg``, or as near as its metal allows. Raises ``ExportError``."""
    job, part = solution.job, solution.part
    if solution.bracket.kind.shaping == "left out":
        raise ExportError(f"a bracket of this kind ({solution.bracket.title.lower()}) is not lightened by holes")
    material = find_material(job.bracket.material)
    if part is None or part.outline is None or material is None or not is_known(part.mass_kg):
        raise ExportError("the plate's outline, thickness and material have to be known before it can be lightened")
    if part.mass_kg <= target_kg:
        raise ExportError(f"the plate weighs {job.lengths.mass(part.mass_kg, 3)} already: ask for less")
    area, found = 0.0, tuple[Cutout, ...]()
    for _ in range(LIGHTEN_TRIES):  # a milled plate loses less by a hole where it is thin
        now = _weighed(job, found, part.mass_kg)
        if now <= target_kg:
            break
        area += (now - target_kg) / (material.density * 1e-9 * part.thickness)
        more = lightened(job, part.outline, part.window, solution.assembly.holes, area)
        if more == found:
            break
        found = more
    if not found:
        raise ExportError(_no_room(limit_for(job, "cutout-metal").watch))
    return (("bracket.cutouts", (*job.bracket.cutouts, *found)),)


def _weighed(job: Job, found: tuple[Cutout, ...], before: float) -> float:
    """Return what the plate weighs with ``found`` cut out of it as well [kg]."""
    if not found:
        return before
    plate = own_bracket(with_edits(job, (("bracket.cutouts", (*job.bracket.cutouts, *found)),))).bracket.plate
    return plate.mass_kg if plate is not None else before


def _no_room(keep: float) -> str:
    return f"no hole leaves {keep:g} mm of metal all round it: make the walls round the holes wider, or ask for a heavier plate"


def _spot(solution: Solution, finding: str, least: float) -> tuple[float, float, float]:
    """Return the middle and radius of the widest free place that leaves what ``finding`` wants. Raises ``ExportError``."""
    job, plate = solution.job, solution.bracket.shape
    if plate is None or plate.outline is None:
        raise ExportError("the plate's outline has to be known before anything can be cut into it")
    keep = limit_for(job, finding).watch
    (x, y), radius = open_spot(job, plate.outline, plate.window, solution.assembly.holes, keep)
    if 2 * radius < least:
        raise ExportError(_no_room(keep))
    return x, y, radius


def add_hole(solution: Solution) -> tuple[Edit, ...]:
    """Return the edit that cuts a round hole where most room is. Raises ``ExportError``."""
    x, y, radius = _spot(solution, "cutout-metal", LEAST_CUTOUT_MM)
    new = Cutout(x_mm=round(x, 2), y_mm=round(y, 2), diameter_mm=float(int(2 * radius)))
    return (("bracket.cutouts", (*solution.job.bracket.cutouts, new)),)


def add_slot(solution: Solution) -> tuple[Edit, ...]:
    """Return the edit that cuts a slot, half as wide as long, where most room is. Raises ``ExportError``."""
    x, y, radius = _spot(solution, "cutout-metal", 2 * LEAST_CUTOUT_MM)
    new = Cutout(
        x_mm=round(x, 2), y_mm=round(y, 2), diameter_mm=float(int(radius)), length_mm=float(int(radius)), angle_deg=90.0
    )
    return (("bracket.cutouts", (*solution.job.bracket.cutouts, new)),)


def add_dowel(solution: Solution) -> tuple[Edit, ...]:
    """Return the edit that puts a dowel where most room is. Raises ``ExportError``."""
    x, y, _ = _spot(solution, "dowel-metal", DOWEL_MM)
    new = Dowel(x_mm=round(x, 2), y_mm=round(y, 2), diameter_mm=DOWEL_MM)
    return (("bracket.dowels", (*solution.job.bracket.dowels, new)),)


ADDED: dict[str, Callable[[Solution], tuple[Edit, ...]]] = {
    "round hole": add_hole, "slot": add_slot, "dowel": add_dowel,
}  # fmt: skip


def taken_away(solution: Solution) -> tuple[tuple[str, tuple[Edit, ...]], ...]:
    """Return (what it is, the edit that takes it away) for everything that shapes the plate."""
    bracket, holes = solution.job.bracket, solution.assembly.holes
    found: list[tuple[str, tuple[Edit, ...]]] = []
    for name, what in (("cutouts", "cutout"), ("dowels", "dowel")):
        items = getattr(bracket, name)
        found += [(f"{what} {k + 1}", ((f"bracket.{name}", (*items[:k], *items[k + 1 :])),)) for k in range(len(items))]
    for k, pull in enumerate(bracket.pulls):
        names = [holes[n].name if n < len(holes) else str(n) for n in (pull.from_hole, pull.to_hole)]
        rest = (*bracket.pulls[:k], *bracket.pulls[k + 1 :])
        found.append((f"the pull between {names[0]} and {names[1]}", (("bracket.pulls", rest),)))
    if bracket.chamfer_mm:
        found.append(("the chamfer", (("bracket.chamfer_mm", 0.0),)))
    if bracket.boss_walls_mm:
        found.append(("the bosses' own walls", (("bracket.boss_walls_mm", ()),)))
    everything: tuple[Edit, ...] = (
        ("bracket.cutouts", ()), ("bracket.dowels", ()), ("bracket.pulls", ()), ("bracket.chamfer_mm", 0.0),
        ("bracket.boss_walls_mm", ()),
    )  # fmt: skip
    return (*found, ("everything", everything)) if found else ()
