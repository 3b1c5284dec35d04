"""The arithmetic done on the back of a box: numbers of a donor part from what can be read on the bench.

Every recipe is a sum of readings with known factors, so its uncertainty follows without approximation. The factors
come from the geometry stated in each formula.
"""

import math

from bicentra.core.base.records import Record
from bicentra.core.parts.survey import PartMeasure, Survey


class Input(Record, frozen=True):
    """One reading a recipe takes: its key, what to put the instrument on, and its factor in the sum."""

    key: str
    label: str
    factor: float


class Recipe(Record, frozen=True):
    """How one number of the job is worked out; ``path`` is where it goes."""

    name: str
    title: str
    path: str
    inputs: tuple[Input, ...]
    formula: str

    @property
    def part(self) -> str:
        """The part it belongs to: rotor, caliper or hub."""
        return self.path.split(".")[0]


RECIPES: tuple[Recipe, ...] = (
    Recipe("ear-spacing-near", "Ear hole spacing, inside jaws", "caliper.ear_spacing_mm",
           (Input("gap", "Metal between the two holes", 1.0), Input("first", "Diameter of the first hole", 0.5),
            Input("second", "Diameter of the second hole", 0.5)), "gap + first/2 + second/2"),
    Recipe("ear-spacing-far", "Ear hole spacing, far edges", "caliper.ear_spacing_mm",
           (Input("over", "Over both holes, far edge to far edge", 1.0), Input("first", "Diameter of the first hole", -0.5),
            Input("second", "Diameter of the second hole", -0.5)), "over − first/2 − second/2"),
    Recipe("ear-offset-inboard", "Ear face to slot centre, ears inboard of it", "caliper.ear_face_offset_mm",
           (Input("near", "Ear face to the near slot wall", -0.5), Input("far", "Ear face to the far slot wall", -0.5)),
           "−(near + far)/2"),
    Recipe("ear-offset-outboard", "Ear face to slot centre, ears outboard of it", "caliper.ear_face_offset_mm",
           (Input("near", "Ear face to the near slot wall", 0.5), Input("far", "Ear face to the far slot wall", 0.5)),
           "(near + far)/2"),
    Recipe("slot-width", "Slot width from two depths", "caliper.slot_width_mm",
           (Input("far", "Ear face to the far slot wall", 1.0), Input("near", "Ear face to the near slot wall", -1.0)),
           "far − near"),
    Recipe("bridge", "Bridge above the pad top", "caliper.bridge_to_pad_top_mm",
           (Input("bridge", "Slot mouth to the inside of the bridge", 1.0),
            Input("pad", "Slot mouth to the pads' outer edge", -1.0)), "bridge − pad"),
    Recipe("ear-line", "Ear line inside the pad top", "caliper.ear_line_to_pad_top_mm",
           (Input("edge", "Rule along the pads' outer edge to the near rim of an ear hole", 1.0),
            Input("hole", "Diameter of that ear hole", 0.5)), "edge + hole/2"),
    Recipe("pad-height", "Pad height from a traced outline", "caliper.pad_height_mm", (), "highest − lowest point traced"),
    Recipe("pad-width", "Pad width from a traced outline", "caliper.pad_width_mm", (), "widest reach of the points traced"),
    Recipe("rotor-height", "Overall height, straightedge and blocks", "rotor.overall_height_mm",
           (Input("top", "Table to the top of the straightedge on the hat", 1.0),
            Input("straightedge", "Thickness of the straightedge", -1.0),
            Input("blocks", "Height of the blocks under the friction face", -1.0)), "top − straightedge − blocks"),
    Recipe("hat-thickness", "Hat thickness from depths", "rotor.hat_thickness_mm",
           (Input("height", "Overall height", 1.0), Input("inside", "Straightedge on the inboard face to the hat's floor", -1.0),
            Input("straightedge", "Thickness of the straightedge", 1.0)), "height − (inside − straightedge)"),
    Recipe("rotor-thickness", "Thickness at two places", "rotor.thickness_mm",
           (Input("one", "At one place", 0.5), Input("other", "At the opposite place", 0.5)), "(one + other)/2"),
    Recipe("rotor-diameter", "Diameter two ways", "rotor.diameter_mm",
           (Input("one", "Across one way", 0.5), Input("other", "Across the other way", 0.5)), "(one + other)/2"),
)  # fmt: skip
BY_NAME = {recipe.name: recipe for recipe in RECIPES}


class PartResult(Record, frozen=True):
    """One number of a part: value and standard uncertainty [mm], and the share of each reading [mm]."""

    recipe: Recipe
    value: float
    shares: tuple[tuple[str, float], ...]
    missing: tuple[str, ...]

    @property
    def sd(self) -> float:
        """Standard uncertainty [mm]."""
        return math.sqrt(sum(share**2 for _, share in self.shares)) if self.shares else math.nan


def work_out(survey: Survey, measure: PartMeasure) -> PartResult | None:
    """Return the number that ``measure`` gives; unknown while a reading is missing, ``None`` for an unknown recipe."""
    recipe = BY_NAME.get(measure.recipe)
    if recipe is None:
        return None
    sigma = survey.sd_of(measure.instrument, measure.sd_mm)
    if not recipe.inputs:
        return _traced(recipe, measure, sigma)
    missing = tuple(i.label for i in recipe.inputs if measure.values_mm.get(i.key) is None)
    if missing:
        return PartResult(recipe, math.nan, (), missing)
    value = sum(i.factor * float(measure.values_mm[i.key] or 0.0) for i in recipe.inputs)
    shares = tuple((i.label, abs(i.factor) * sigma) for i in recipe.inputs)
    return PartResult(recipe, value, shares, ())


def _traced(recipe: Recipe, measure: PartMeasure, sigma: float) -> PartResult:
    """Height or width of a traced outline: x along the pad, y away from the axle. Two points decide each."""
    if len(measure.points_mm) < 3:
        return PartResult(recipe, math.nan, (), ("at least three points of the outline",))
    axis = 1 if recipe.name == "pad-height" else 0
    along = [point[axis] for point in measure.points_mm]
    shares = (("the point furthest one way", sigma), ("the point furthest the other way", sigma))
    return PartResult(recipe, max(along) - min(along), shares, ())


def traced_area(points: tuple[tuple[float, float], ...]) -> float:
    """Return the area inside a traced outline [mm²], by the shoelace sum."""
    if len(points) < 3:
        return math.nan
    turned = (*points[1:], points[0])
    return abs(sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(points, turned))) / 2
