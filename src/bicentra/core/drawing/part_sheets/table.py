"""Which drawing belongs to which part's sheet."""

from bicentra.core.drawing.model import Drawing, Sheet
from bicentra.core.drawing.part_sheets.caliper import draw_caliper
from bicentra.core.drawing.part_sheets.draft import Draft
from bicentra.core.drawing.part_sheets.hub import draw_hub, draw_lugs, draw_wheel_cut
from bicentra.core.drawing.part_sheets.rotor import draw_rotor
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import made_view
from bicentra.core.evaluation.solution import Solution
from bicentra.core.inputs.placeholder_sizes import sizes_of

SPARE = (-100.0, -100.0, 100.0, 100.0)


def part_sheet(name: str, solution: Solution) -> Drawing | None:
    """Return the drawing of the part called ``name``, its sizes typed where they are measured; ``None`` where there is none."""
    job, sheet = solution.job, Sheet()
    lengths = job.lengths
    if name == "rotor":
        draw_rotor(sheet, Draft(sheet, "rotor", job.rotor, sizes_of("rotor"), lengths))
    elif name == "caliper":
        draw_caliper(sheet, Draft(sheet, "caliper", job.caliper, sizes_of("caliper"), lengths))
    elif name == "hub":
        draw_hub(sheet, Draft(sheet, "hub", job.hub, sizes_of("hub"), lengths))
    elif name == "wheel" and job.wheel is not None:
        draw_wheel_cut(Draft(sheet, "wheel", job.wheel, sizes_of("wheel"), lengths))
    elif name == "knuckle":
        draw_lugs(sheet, job.knuckle.lugs, lengths)
    elif name == "bracket":
        return made_view(solution.bracket, lengths, job.is_left)
    elif name == "bolts":
        return joint_view(solution.assembly, lengths)
    else:
        return None
    return sheet.finish(SPARE)
