"""The drilling template: old holes dashed, new holes to drill, centred on the bore."""

import math

from bicentra.core.base.finding import Verdict
from bicentra.core.drawing.model import Drawing, Note, Sheet
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.lineup.redrill import Redrill

SPARE = (-60.0, -60.0, 60.0, 60.0)


def redrill_sheet(plan: Redrill, bore_mm: float = math.nan, rim_mm: float = math.nan) -> Drawing:
    """Return the face that is drilled, seen on it; holes are numbered counter-clockwise from the top."""
    sheet = Sheet()
    sheet.circle((0.0, 0.0), rim_mm / 2, "mark", "rim", filled=False)
    sheet.circle((0.0, 0.0), bore_mm / 2, "outline", "bore", filled=False)
    for circle in {plan.old.circle, plan.new.circle}:
        sheet.circle((0.0, 0.0), circle / 2, "centre", "circle", filled=False, line="centre")
    for k, centre in enumerate(plan.old.centres()):
        sheet.circle(centre, plan.old_hole / 2, "mark", f"old-{k}", filled=False, line="hidden")
        sheet.note(Note(centre, f"old {k + 1}", f"old-{k}", 2, prefer=centre))
    for k, centre in enumerate(plan.new.centres(plan.clock_deg)):
        sheet.circle(centre, plan.new_hole / 2, "hole", f"new-{k}", filled=False)
        centre_mark(sheet, centre, plan.new_hole * 0.8, f"new-{k}")
        bad = next((i for i, j in plan.overlaps if j == k), None)
        text = f"new {k + 1}: drill Ø {plan.new_hole:g}" if bad is None else f"new {k + 1}: runs into old {bad + 1}"
        sheet.note(Note(centre, text, f"new-{k}", 1, prefer=centre, verdict="" if bad is None else "stop"))
    centre_mark(sheet, (0.0, 0.0), 14.0)
    return sheet.finish(SPARE)


def redrill_title(plan: Redrill) -> str:
    """Return what the sheet is called; a plan that says stop says so."""
    stop = "DO NOT DRILL: " if plan.verdict is Verdict.STOP else ""
    return f"{stop}Drilling template {plan.old.name} to {plan.new.name}, turned {plan.clock_deg:g}°"
