"""The marking chart of eccentric bushings: how each is turned in its ear, for this corner alone."""

import math

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import known
from bicentra.core.base.wording import Words, units_of
from bicentra.core.bracket.families.propose import find_family
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, mirrored
from bicentra.core.drawing.shapes import arrow_head, centre_mark
from bicentra.core.parts.job import Job

SPARE = (-60.0, -60.0, 60.0, 60.0)


def bushing_chart(job: Job) -> Drawing:
    """Return both bushings where they sit in the ears, seen from outboard, the thick side marked. Raises ``ExportError``."""
    candidate = find_family(job, "eccentric-bushings")
    if not candidate.parts or not math.isfinite(candidate.solved.get("eccentricity_mm", math.nan)):
        raise ExportError(f"there are no bushings to mark: {candidate.why}")
    part, eccentric = candidate.parts[0], candidate.solved["eccentricity_mm"]
    words, sheet = Words(units_of(job.display_units)), Sheet()
    spacing = math.dist(*[(known(lug.x_mm), known(lug.y_mm)) for lug in job.knuckle.lugs[:2]])
    ears = known(job.caliper.ear_spacing_mm)
    outward = 1.0 if spacing > ears else -1.0
    for side in (1.0, -1.0):
        centre, bolt = (0.0, side * ears / 2), (0.0, side * spacing / 2)
        sheet.circle(centre, known(job.caliper.ear_boss_mm) / 2, "mark", "ear", False, "hidden")
        sheet.circle(centre, part.outer / 2, "outline", "bushing", False)
        sheet.circle(bolt, part.inner / 2, "hole", "bolt", False)
        centre_mark(sheet, centre, part.outer / 2 + 4.0, "ear")
        thick = (0.0, centre[1] - side * outward * (part.outer / 2 + 9.0))
        sheet.shape(
            arrow_head((0.0, centre[1] - side * outward * part.outer / 2), (0.0, side * outward), 7.0, "mark", "thick")
        )
        sheet.note(Note(thick, "mark: thick side here", "thick", 0, prefer=(1.0, 0.0)))
    base = part.outer / 2 + 6.0
    for lane, (long, name) in enumerate(((ears, "ears"), (spacing, "bolts"))):
        a, b = (0.0, -long / 2), (0.0, long / 2)
        sheet.dimension(Dimension(a, b, (0, 1), (-1, 0), base, f"{name} {words.size(long)}", name, lane, 0))
    sheet.note(
        Note((0.0, spacing / 2), f"{words.gap(eccentric)} eccentric, both alike", "bushing", 1, prefer=(1.0, 1.0))
    )
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if job.is_left else drawing


def chart_told(job: Job) -> str:
    """Return how the chart is used."""
    return (
        f"For the {job.corner.replace('-', ' ')} corner only; the other side's is the mirror image. File the relief first, scribe "
        "the thick side on bushing and ear, press in square with the marks together, then try both bolts by hand before anything "
        "is tightened."
    )
