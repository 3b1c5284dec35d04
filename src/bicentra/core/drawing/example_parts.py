"""What both sightlines need while no bracket can be drawn: shapes that are not measured as dotted lines, blanks in words."""

from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.table import family_of
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.parts.job import Job
from bicentra.core.required_inputs import RequiredInput

DOTTED = ("rotor", "hub", "caliper", "pad", "lug", "ear", "bracket")
"""What is shown dotted where it is not measured; way marks and the like are drawn as ever."""
BLANK = "?"


def dotted_shapes(real: Drawing, seen: Drawing, job: Job) -> list[Shape]:
    """Return what ``seen``, of plausible sizes, shows and ``real``, of known ones, does not: dotted, without a tag to light."""
    there = {shape.tag for shape in real.shapes}
    dotted = [tag for tag in DOTTED if tag != "lug" or family_of(job).on_lugs]
    return [_dotted(s) for s in seen.shapes if s.tag.partition("-")[0] in dotted and s.tag not in there]


def _dotted(shape: Shape) -> Shape:
    return replace(shape, ink="example", tag="", filled=False, line="hidden")  # without a tag: no finding lights it


def example_text(blank: RequiredInput, value: object, lengths: LengthFormat) -> str:
    """Return a measurement as it stands on the drawing: its number, or a blank."""
    return f"{blank.title} {BLANK if value is None else _shown(value, blank.path, lengths)}"


def _shown(value: object, path: str, lengths: LengthFormat) -> str:
    if isinstance(value, int | float):
        return f"{value:g}°" if path.endswith("_deg") else lengths.size(float(value)).replace("-", "−")
    return str(value)
