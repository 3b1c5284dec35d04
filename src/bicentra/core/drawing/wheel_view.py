"""The wheel round the caliper, in the section across the rotor: inside profile, balance weights, the least room."""

from bicentra.core.base.numbers import is_known
from bicentra.core.clearance.swept_body import swept_body
from bicentra.core.clearance.travel import pad_wear
from bicentra.core.clearance.wheel_room import wheel_gap
from bicentra.core.drawing.model import Note, Sheet
from bicentra.core.lineup.solids import section_outline
from bicentra.core.lineup.wheel import wheel_inside
from bicentra.core.parts.wheel import Wheel
from bicentra.core.solution import Solution

RIM_MM, SPOKE_MM = 4.0, 7.0


def draw_wheel(sheet: Sheet, wheel: Wheel, seat: float) -> None:
    """Draw barrel, spokes and weights on the caliper's side [mm]; dashed where the inside is only nominal."""
    inside = wheel_inside(wheel)
    if inside is None or not is_known(seat):
        return
    line = "hidden" if inside.guessed else "solid"
    barrel = tuple((z + seat, r) for z, r in inside.barrel)
    spokes = tuple((z + seat, r) for z, r in inside.spokes)
    sheet.polygon((*barrel, *((z, r + RIM_MM) for z, r in reversed(barrel))), "wheel", "wheel", line=line)
    sheet.polygon((*spokes, *((z + SPOKE_MM, r) for z, r in reversed(spokes))), "wheel", "wheel", line=line)
    for _, points in inside.weights:
        sheet.polygon(tuple((z + seat, r) for z, r in points), "shim", "wheel")


def draw_wheel_room(sheet: Sheet, solution: Solution, verdict: str) -> None:
    """Draw the caliper swept over its width and the least room between it and the wheel."""
    job, line, assembly = solution.job, solution.line, solution.assembly
    inside = wheel_inside(job.wheel) if job.wheel is not None else None
    middle = line.rotor_midplane_z + assembly.stack_up.error
    swept = swept_body(job, line.pad_top_radius)
    if inside is None or swept is None or not is_known(middle, line.wheel_seat_z):
        return
    outward = tuple((z + middle, r) for z, r in swept.section if r >= line.pad_top_radius)
    sheet.line(outward, "construction", "caliper", "hidden")
    gap = wheel_gap(assembly)
    lengths = job.lengths
    text = f"wheel {lengths.gap(gap.value)}" if gap.value >= 0 else f"{lengths.gap(gap.value)} into wheel"
    sheet.line((gap.at, gap.to), "fit", "wheel")
    sheet.note(Note(gap.to, text, "wheel", 0, "", verdict, (0.6, -1.0)))


def draw_float(sheet: Sheet, solution: Solution) -> None:
    """Draw a floating caliper's body as ghosts where worn pads would let it slide to, either way."""
    job, assembly = solution.job, solution.assembly
    wear, body, outline = pad_wear(job), assembly.body, section_outline(job)
    if job.caliper.action != "floating" or not outline or not is_known(wear, body.z0):
        return
    middle, top = solution.line.rotor_midplane_z + assembly.stack_up.error, solution.line.pad_top_radius
    for shift in (-wear, wear):
        sheet.polygon(
            tuple((z + middle + shift, top + out) for z, out in outline), "example", "caliper", False, "hidden"
        )
