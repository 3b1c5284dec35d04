"""The marking chart of eccentric bushings: how each is turned in its ear, for this corner alone."""

import math

from bicentra.core.base.errors import ExportError
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, mirrored
from bicentra.core.drawing.shapes import arrow_head, centre_mark
from bicentra.core.parts.job import Job
from bicentra.core.proposals import best_charted

SPARE = (-60.0, -60.0, 60.0, 60.0)


def bushing_chart(job: Job) -> Drawing:
    """Return both bushings where they sit in the ears, seen from outboard, the thick side marked. Raises ``ExportError``."""
    found = best_charted(job)
    chart = found.bracket.chart if found is not None else None
    if found is None or chart is None:
        raise ExportError(f"there are no bushings to mark: {found.why if found is not None else 'none are known'}")
    lengths, sheet = job.lengths, Sheet()
    ears = chart.spacing
    parts = found.bracket.parts * 2 if len(found.bracket.parts) == 1 else found.bracket.parts
    for number, (part, side, (out, across), turned) in enumerate(
        zip(parts, (1.0, -1.0), chart.offsets, chart.turned), 1
    ):
        centre, far = (0.0, side * ears / 2), part.outer / 2
        sheet.circle(centre, chart.boss / 2, "mark", "ear", False, "hidden")
        sheet.circle(centre, far, "outline", "bushing", False)
        sheet.circle((out, centre[1] + across), part.inner / 2, "hole", "bolt", False)
        centre_mark(sheet, centre, far + 4.0, "ear")
        away = math.hypot(out, across)
        way = (-out / away, -across / away) if away > 0 else (0.0, side)
        rim = (centre[0] + way[0] * far, centre[1] + way[1] * far)
        sheet.shape(arrow_head(rim, (-way[0], -way[1]), 7.0, "mark", "thick"))
        spot = (centre[0] + way[0] * (far + 9.0), centre[1] + way[1] * (far + 9.0))
        sheet.note(Note(spot, f"ear {number}: thick side here", "thick", 0, prefer=(1.0, way[1])))
        words = f"{lengths.gap(away)} eccentric, bolt {turned:.1f}° from outward"
        sheet.note(Note((out, centre[1] + across), words, "bushing", 1, prefer=(1.0, -way[1])))
    sheet.line(((0.0, 0.0), (30.0, 0.0)), "mark", "outward")
    sheet.shape(arrow_head((36.0, 0.0), (1.0, 0.0), 6.0, "mark", "outward"))
    sheet.note(Note((30.0, 0.0), "outward, away from the axle", "outward", 1, prefer=(1.0, 0.3)))
    base, apart = parts[0].outer / 2 + 6.0, (-ears / 2, ears / 2)
    sheet.dimension(
        Dimension((0.0, apart[0]), (0.0, apart[1]), (0, 1), (-1, 0), base, f"ears {lengths.size(ears)}", "ears", 0, 0)
    )
    first, second = (side * ears / 2 + across for side, (_, across) in zip((1.0, -1.0), chart.offsets))
    text = f"bolts {lengths.size(first - second)}"
    sheet.dimension(Dimension((0.0, second), (0.0, first), (0, 1), (-1, 0), base, text, "bolts", 1, 0))
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if job.is_left else drawing


def chart_text(job: Job) -> str:
    """Return how the chart is used."""
    return (
        f"For the {job.corner.replace('-', ' ')} corner only; the other side's is the mirror image. File the relief first, scribe "
        "the thick side on bushing and ear, press in square with the marks together, then try both bolts by hand before anything "
        "is tightened."
    )
