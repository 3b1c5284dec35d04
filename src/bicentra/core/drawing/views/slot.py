"""The slot seen from its opening: rotor between the caliper's walls, four gaps, the shims at either bolt.

Along the slot to scale, leading end up; across it gaps and shims are drawn larger by a factor that stands beside the drawing.
"""

import math

from bicentra.core.base.numbers import first_known, is_known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import OLD, Dimension, Drawing, Handle, Note, Sheet, Text, short
from bicentra.core.drawing.shapes import arrow_head, scaled
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, Gaps, Trial
from bicentra.core.trialfit.contradictions import spare_of
from bicentra.core.trialfit.fit import TrialFit
from bicentra.core.trialfit.plan import ShimPlan
from bicentra.core.trialfit.pose import Pose, pose_of
from bicentra.core.trialfit.shim_station import ShimStation, stacks_at

LARGER = 8.0
"""How much larger gaps and shims are drawn than the slot is long."""
SPACING_MM, SPARE_MM, ROTOR_MM = 110.0, 3.0, 20.0
"""What is drawn, dotted, while spacing, room in the slot or rotor are unknown [mm]."""
WALL_MM, PAST_MM, BLOCK_MM, HALF_MM, AWAY_MM, LUGS_MM = 22.0, 14.0, 14.0, 11.0, 34.0, 62.0


CLEAR_MM = 12.0
"""How far outside the caliper the distance of its ends is drawn, so that its text stays clear of it [mm on the drawing]."""


def slot_view(
    job: Job,
    trial: Trial,
    number: int,
    fit: TrialFit | None,
    preview: ShimPlan | None,
    thought: ShimPlan | None = None,
    truth: ShimPlan | None = None,
) -> Drawing:
    """Return the slot of trial ``number``; ``preview``: a plan whose outcome is shown dashed; ``thought``: one whose
    shims are shown in place of those that lie there; ``truth``: where the caliper of a practice corner really sits."""
    sheet, lengths = Sheet(), job.lengths
    half = first_known(trial.station_spacing_mm, SPACING_MM) / 2
    thick = first_known(job.rotor.thickness_mm, ROTOR_MM) / 2
    spare = spare_of(job) if is_known(spare_of(job)) else SPARE_MM
    pose = fit.pose if fit is not None else None
    edge = thick + LARGER * spare + WALL_MM
    line = "hidden" if fit is None or job.rotor.thickness_mm is None else "solid"  # an example until something is tried
    sheet.box(-thick, -half - PAST_MM, thick, half + PAST_MM, "rotor" if line == "solid" else "example", "rotor", line)
    sure = pose is not None and is_known(pose.offset.value) and not pose.against
    _walls(sheet, pose, (half, thick, spare), "solid" if sure else "hidden")
    if preview is not None:
        _wished(sheet, preview, (half, thick, spare), "made", "wish")
    if truth is not None:
        _wished(sheet, truth, (half, thick, spare), "bolt", "truth")
    _gaps(sheet, trial, number, pose, (half, thick, spare), lengths)
    _spacing(sheet, trial, number, half, edge, lengths)
    for station in fit.stations if fit is not None else ():
        _stacks(sheet, station, trial, thought, -edge - AWAY_MM, lengths)
    ends = [
        abs(at) + HALF_MM for station in (fit.stations if fit is not None else ()) if station.known for at in station.at
    ]
    high = max([half + PAST_MM, *ends])
    if fit is None:
        _example_stacks(sheet, -edge - AWAY_MM, half)
    frame = (-edge - AWAY_MM - LUGS_MM - 2 * BLOCK_MM, -high, edge + CLEAR_MM + 8.0, high)
    return replace(sheet.finish(frame), frame=frame)


def _example_stacks(sheet: Sheet, x: float, half: float) -> None:
    """Show, dashed, where the shims of both bolts will stand: between lug and bracket, and between bracket and ear."""
    for y in (half, -half):
        for right, gap in ((x, "ear"), (x - LUGS_MM, "lug")):
            for left in (right - BLOCK_MM, right):
                sheet.box(left, y - HALF_MM, left + BLOCK_MM, y + HALF_MM, "example", "shims", "hidden")
            words = "bracket | shims | ear" if gap == "ear" else "lug | shims | bracket"
            sheet.note(Note((right, y - HALF_MM), words, "shims", 2, prefer=(0.0, -1.0)))


def _ends(pose: Pose | None, spare: float, sign: float) -> tuple[float, float]:
    """Return the gap at the trailing and at the leading end on one side [mm], where it is unknown as if centred."""
    found = []
    for end in (1, 0):
        off = pose.ends[end].value if pose is not None else 0.0
        found.append(max(spare / 2 + sign * (off if is_known(off) else 0.0), 0.0))
    return found[0], found[1]


def _walls(sheet: Sheet, pose: Pose | None, sizes: tuple[float, float, float], line: str) -> None:
    """Draw both walls of the caliper where it sits."""
    half, thick, spare = sizes
    for sign, tag in ((1.0, "wall-outboard"), (-1.0, "wall-inboard")):
        trailing, leading = (thick + LARGER * gap for gap in _ends(pose, spare, sign))
        out = max(trailing, leading) + WALL_MM
        points = ((sign * trailing, -half), (sign * leading, half), (sign * out, half), (sign * out, -half))
        sheet.polygon(points, "caliper", tag, line=line)


def _wished(sheet: Sheet, preview: ShimPlan, sizes: tuple[float, float, float], ink: str, tag: str) -> None:
    """Draw, dashed, where the walls come to stand with a plan."""
    half, thick, spare = sizes
    steep = preview.slope * half
    for sign in (1.0, -1.0):
        ends = [thick + LARGER * max(spare / 2 + sign * (preview.offset + way * steep), 0.0) for way in (1.0, -1.0)]
        sheet.line(((sign * ends[0], -half), (sign * ends[1], half)), ink, tag, "hidden")


def _gaps(
    sheet: Sheet, trial: Trial, number: int, pose: Pose | None, sizes: tuple[float, float, float], lengths: LengthFormat
) -> None:
    """Put every gap where it is read: its number to type over, or a blank."""
    half, thick, spare = sizes
    for name in GAPS:
        sign, end = (1.0 if name.endswith("outboard") else -1.0), (1.0 if name.startswith("leading") else -1.0)
        trailing, leading = _ends(pose, spare, sign)
        wide, y = LARGER * (leading if end > 0 else trailing), end * (half - 6.0)
        value, band = getattr(trial.gaps_mm, name), trial.bands_mm.get(name)
        text, old = "____" if value is None else lengths.gap(value), name in trial.read_before
        if value is None and band is not None:
            text = "–".join("" if end is None else lengths.gap(end) for end in (band.least, band.most))
        if old:
            text = f"{text} before"
        elif pose is not None and name in pose.doubted:
            text = f"{text} ?"
        sheet.dimension(
            Dimension(
                (sign * thick, y), (sign * (thick + wide), y), (1.0, 0.0), (0.0, end), half + PAST_MM, text, "gaps", 0, 0,
                f"trials[{number}].gaps_mm.{name}", OLD if old else "", value is None and band is None,
            )
        )  # fmt: skip
    for text, sign in (("outboard", 1.0), ("inboard", -1.0)):
        x = sign * (thick + LARGER * math.fsum(_ends(pose, spare, sign)) / 2 + WALL_MM / 2)
        sheet.texts.append(Text((x, half / 2), text, "text", "caliper", 8.0))
    for text, y in (("leading", half + PAST_MM * 0.3), ("trailing", -half - PAST_MM * 0.6)):
        sheet.texts.append(Text((0.0, y), text, "text", "rotor", 9.0))
    sheet.line(
        ((0.0, 14.0), (0.0, -8.0)), "centre", "rotor"
    )  # the rotor goes past from the leading end to the trailing one
    sheet.shape(arrow_head((0.0, -14.0), (0.0, -1.0), 6.0, "bolt", "rotor"))


def _spacing(sheet: Sheet, trial: Trial, number: int, half: float, edge: float, lengths: LengthFormat) -> None:
    text = (
        "ends ____ apart"
        if trial.station_spacing_mm is None
        else f"ends {lengths.size(trial.station_spacing_mm)} apart"
    )
    sheet.dimension(
        Dimension(
            (edge, -half), (edge, half), (0.0, 1.0), (1.0, 0.0), edge + CLEAR_MM, text, "gaps", 0, 0,
            f"trials[{number}].station_spacing_mm", example=trial.station_spacing_mm is None,
        )
    )  # fmt: skip


def _stacks(
    sheet: Sheet, station: ShimStation, trial: Trial, preview: ShimPlan | None, right: float, lengths: LengthFormat
) -> None:
    """Draw both bolts' stacks at one place: what they lie between, and every leaf; a plan's leaves in place of those."""
    if not station.known:
        return
    planned = preview is not None and preview.place == station.place
    leaves = (
        (preview.first, preview.second) if planned and preview is not None else stacks_at(trial, station.place).sides
    )
    x = right if station.place == "ear" else right - LUGS_MM
    blocks = ("made", "caliper") if station.place == "ear" else ("knuckle", "made")
    names = ("bracket", "ear") if station.place == "ear" else ("lug", "bracket")
    if station.sign < 0:
        blocks, names = (blocks[1], blocks[0]), (names[1], names[0])
    for side, (name, shims) in enumerate(zip(("first", "second"), leaves)):
        y = station.at[side]
        at = x - BLOCK_MM
        sheet.box(at - BLOCK_MM, y - HALF_MM, at, y + HALF_MM, blocks[0], names[0])
        for leaf, thick in enumerate(shims):
            wide = LARGER * (thick if thick is not None else 0.5)
            line = "solid" if thick is not None else "hidden"
            sheet.box(at, y - HALF_MM, at + wide, y + HALF_MM, "shim", f"shim-{station.place}-{name}-{leaf}", line)
            at += wide
        sheet.box(at, y - HALF_MM, at + BLOCK_MM, y + HALF_MM, blocks[1], names[1])
        low, path, way = y - HALF_MM if side else y + HALF_MM, f"stack:{station.place}:{name}", -1.0 if side else 1.0
        lug = short(station.names[side]) or "lug"
        called = [lug if word == "lug" else word for word in names]
        text = f"{called[0]} | {shims_text(shims, lengths)} | {called[1]}"
        if station.place == "ear":  # along the slot the bolt is here
            sheet.line(((at + BLOCK_MM, y), (right + AWAY_MM, y)), "construction", "", "hidden")
        sheet.note(Note((at, low), text, f"stack-{station.place}", 0, path, prefer=(0.0, way)))
        sheet.handle(
            Handle(f"shims at the {name} ear's bolt", (at, y), (1.0, 0.0), path, 1.0 / LARGER, 0.05, tag="shim")
        )


def shims_text(shims: tuple[float | None, ...], lengths: LengthFormat) -> str:
    """Return a stack of shims [mm] as it is typed: ``0.76 + 0.25``, a question mark for one nobody measured."""
    return " + ".join("?" if thick is None else lengths.shim(thick).partition(" ")[0] for thick in shims) or "no shim"


def slot_sheet(job: Job, trial: Trial, fit: TrialFit | None, wide: float) -> Drawing:
    """Return the slot for paper, ``wide`` [mm] across at most: its gaps blank, to be written in at the car."""
    blank = replace(trial, gaps_mm=Gaps(), bands_mm={}, read_before={})
    whole = slot_view(job, blank, 0, replace(fit, pose=pose_of(job, blank)) if fit is not None else None, None)
    x0, _, x1, _ = whole.bounds
    return scaled(whole, min(wide / (x1 - x0), 1.0))
