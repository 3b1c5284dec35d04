"""Bolts in their stacks, to scale: head, washers, every clamped layer and the thread from head to tip, one below the other."""

import math

from bicentra.core.base.finding import judge
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.bolt_checks import bolt_gap
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, Text, shifted
from bicentra.core.fasteners.joint import Joint
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.threads import SUNK_HEADS

ROW_MM, COLUMN_MM, HALF_MM, TITLE_MM, MOST_IN_COLUMN = 84.0, 150.0, 17.0, 26.0, 2
"""Between stacks one below the other and side by side, what is shown of a layer and where its title stands [mm]; more stacks
than this stand in two columns."""
ROTOR_MM, ROTOR_FAR_MM = 22.0, 40.0
"""How much of the rotor is shown either side of a bolt, and how far behind its tip the rotor may lie to be shown."""
SPARE = (-20.0, -60.0, 60.0, 30.0)
INKS = {
    "plate": "made",
    "spacer": "made",
    "shim": "shim",
    "lug": "knuckle",
    "ear": "caliper",
    "insert": "made",
    "nut": "bolt",
}
SHIM_MOST_MM = 3.0
"""What is thicker than this between lug and plate is called a spacer."""


def joint_view(assembly: Assembly, lengths: LengthFormat, own: bool = True) -> Drawing:
    """Return one row for every joint that is not like one above it; a joint that is unknown is named and left out.

    Of the job's ``own`` bracket length, washers, plate and shims may be typed over: every bolt through them follows.
    """
    sheet = Sheet()
    rows: dict[tuple[object, ...], list[PlacedJoint]] = {}
    for one in assembly.joints:
        key: tuple[object, ...] = (one.at, one.joint.thread.name, one.joint.length, one.joint.stack)
        rows.setdefault(key, []).append(one)
    columns = 1 if len(rows) <= MOST_IN_COLUMN else 2
    for place, alike in enumerate(rows.values()):
        stack = Sheet()
        _joint(stack, assembly, alike, 0.0, lengths)
        row, column = divmod(place, columns)
        sheet.take(shifted(stack, (column * COLUMN_MM, -row * ROW_MM)))
    if not own:
        sheet.notes = [replace(note, edits="") for note in sheet.notes]
    return sheet.finish(SPARE)


def _joint(sheet: Sheet, assembly: Assembly, alike: list[PlacedJoint], y: float, lengths: LengthFormat) -> None:
    joint, name = alike[0].joint, " and ".join(one.name for one in alike)
    thread, stack = joint.thread, joint.stack
    if not is_known(joint.length, stack.clamped, stack.depth):
        sheet.examples.append(f"{name}: still unknown")
        return
    _layers(sheet, alike[0], y, lengths)
    _rotor(sheet, assembly, alike, y)
    half = thread.major / 2
    sheet.box(0.0, y - half, joint.tip, y + half, "bolt", "bolt")
    start = max(joint.tip - joint.engagement - joint.protrusion, 0.0)
    for side in (-1.0, 1.0):
        root = y + side * (half - 0.6 * thread.pitch)
        sheet.line(((start, root), (joint.tip, root)), "construction", "bolt")
    head = _head(sheet, joint, y)
    text = lengths.bolt(thread.name, joint.length)
    left, title = -joint.washer_thickness - head, y + HALF_MM + TITLE_MM
    sheet.texts.append(Text((left, title), f"{text}: {name}", "text", "", 9.0, "start", True))
    sheet.line(((left, title + 6.0), (left + 80.0, title + 6.0)), "construction", "bolt")
    _sizes(sheet, alike[0], y, lengths)
    _tip(sheet, assembly, alike, y, lengths)


def _rotor(sheet: Sheet, assembly: Assembly, alike: list[PlacedJoint], y: float) -> None:
    """Draw the rotor where it lies behind the tip that comes nearest to it, cut through the axis and that bolt."""
    near = {gap: one for one in alike if is_known(gap := bolt_gap(assembly, one, "tip"))}
    if not near:
        return
    placed = near[min(near)]
    rho = math.hypot(*placed.centre)
    shown = []
    for ring in (ring for ring in assembly.rotor if ring.is_known):
        z0, z1 = sorted((placed.way * (ring.z0 - placed.seat_z), placed.way * (ring.z1 - placed.seat_z)))
        low, high = max(ring.r0 - rho, -ROTOR_MM), min(ring.r1 - rho, ROTOR_MM)
        if low < high and z0 <= placed.joint.tip + ROTOR_FAR_MM:
            end = min(z1, placed.joint.tip + ROTOR_FAR_MM + ROTOR_MM)
            sheet.box(z0, y + low, end, y + high, "rotor", "rotor", "solid" if ring.sure else "hidden")
            shown.append(((z0 + end) / 2, y + high - 3.0))
    if shown:
        sheet.note(Note(max(shown), "rotor", "rotor", 2, prefer=(0.4, 1.0)))


def _layers(sheet: Sheet, placed: PlacedJoint, y: float, lengths: LengthFormat) -> None:
    """Every clamped part and the threaded one behind them, each named with its thickness."""
    stack, x, number = placed.joint.stack, 0.0, placed.feature.rsplit("-", 1)[1]
    for what, thick in stack.layers:
        if not thick > 0:
            continue
        if what == "room":  # nothing lies there: an ear floats in it
            x += thick
            continue
        kind = "spacer" if what == "shim" and thick > SHIM_MOST_MM else what
        sheet.box(x, y - HALF_MM, x + thick, y + HALF_MM, INKS[kind], kind)
        path = {"plate": "bracket.thickness_mm", "shim": f"bracket.shims_mm[{number}]"}.get(kind, "")
        sheet.note(
            Note(
                (x + thick / 2, y + HALF_MM * 0.75),
                f"{kind} {lengths.size(thick)}",
                kind,
                1,
                path,
                prefer=(-0.6, 1.0),
                far=1,
            )
        )
        x += thick
    sheet.box(x, y - HALF_MM, x + stack.depth, y + HALF_MM, INKS[stack.female], "female")
    sheet.note(Note((x + stack.depth * 0.8, y + HALF_MM * 0.75), f"{stack.female} {lengths.size(stack.depth)}", "female", 1,
                    prefer=(0.6, 1.0), far=1))  # fmt: skip


def _head(sheet: Sheet, joint: Joint, y: float) -> float:
    """Draw the head and its washers; returns how far the head stands above what it lies on."""
    thread, stack, washers, half = joint.thread, joint.stack, joint.washer_thickness, joint.thread.major / 2
    if stack.sunk:
        size, high, _ = SUNK_HEADS[thread.size]
        sheet.polygon(((0.0, y - size / 2), (0.0, y + size / 2), (high, y + half), (high, y - half)), "bolt", "bolt")
        return 0.0
    if stack.washers:
        wide = thread.hardware.washer_outer / 2
        sheet.box(-washers, y - wide, 0.0, y + wide, "shim", "washer")
    corner, head = thread.head_across_corners / 2, thread.hardware.head_height
    sheet.box(-washers - head, y - corner, -washers, y + corner, "bolt", "bolt")
    return head


def _sizes(sheet: Sheet, placed: PlacedJoint, y: float, lengths: LengthFormat) -> None:
    joint, stack, half = placed.joint, placed.joint.stack, placed.joint.thread.major / 2
    washers, low = joint.washer_thickness, -(y - HALF_MM)
    group = "lug" if "lug" in placed.feature else "caliper"
    length, count = f"bracket.{group}_bolt_length_mm", "" if stack.sunk else f"bracket.{group}_washers"
    sheet.note(
        Note(
            (joint.tip, y + half), f"length {lengths.size(joint.length)}", "bolt", 0, length, prefer=(1.0, 0.25), far=2
        )
    )
    many = "flush, no washer" if stack.sunk else f"{stack.washers} washer{'' if stack.washers == 1 else 's'}"
    sheet.note(Note((-washers / 2, y - HALF_MM * 0.5), many, "washer", 0, count, prefer=(-1.0, -0.4)))
    a, b = (-washers, y - HALF_MM), (stack.clamped, y - HALF_MM)
    sheet.dimension(Dimension(a, b, (1, 0), (0, -1), low, f"grip {lengths.size(joint.grip)}", "clamped", 0, 0))
    if joint.engagement > 0:
        turns = joint.engagement / joint.thread.pitch
        text = f"engaged {lengths.size(joint.engagement)}, {turns:.1f} turns"
        place = (stack.clamped + joint.engagement / 2, y)
        sheet.note(Note(place, text, "female", 0, prefer=(1.0, 0.1), far=1))


def _tip(sheet: Sheet, assembly: Assembly, alike: list[PlacedJoint], y: float, lengths: LengthFormat) -> None:
    """How far the tips stand past their thread, and the nearest of them off the rotor."""
    joint, text, verdict = alike[0].joint, [], ""
    if joint.protrusion > 0:
        text.append(f"{lengths.gap(joint.protrusion)} past the thread")
    gaps = [gap for gap in (bolt_gap(assembly, one, "tip") for one in alike) if is_known(gap)]
    if gaps:
        gap = min(gaps)
        text.append(f"{lengths.gap(gap)} {'from' if gap >= 0 else 'into'} the rotor")
        verdict = judge(gap, limit_for(assembly.job, "bolt-tip-to-rotor")).value
    if text:
        sheet.note(Note((joint.tip, y), f"tip {', '.join(text)}", "rotor", 0, "", verdict, (1.0, -0.9), 1))
