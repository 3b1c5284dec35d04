"""Bolts in their stacks, to scale: head, washers, clamped parts and thread from head to tip, one below the other."""

from dataclasses import replace

from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import Words
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, Text
from bicentra.core.fasteners.joint import Joint
from bicentra.core.parts.threads import SUNK_HEADS

ROW_MM, HALF_MM = 62.0, 17.0
SPARE = (-20.0, -60.0, 60.0, 20.0)


def joint_view(placed: tuple[PlacedJoint, ...], words: Words, own: bool = True) -> Drawing:
    """Return one row for every joint that is not like one above it; a joint that is not known is named and left out.

    Length and washers of the job's ``own`` bracket may be typed over: they change every bolt of the group.
    """
    sheet = Sheet()
    rows: dict[tuple[object, ...], list[str]] = {}
    joints: dict[tuple[object, ...], PlacedJoint] = {}
    for one in placed:
        key: tuple[object, ...] = (one.feature.split("-")[0], one.joint.thread.name, one.joint.length, one.joint.stack)
        rows.setdefault(key, []).append(one.name)
        joints[key] = one
    for row, (key, names) in enumerate(rows.items()):
        one = joints[key]
        _joint(sheet, one.joint, " and ".join(names), one.feature, -row * ROW_MM, words)
    if not own:
        sheet.notes = [replace(note, edits="") for note in sheet.notes]
    return sheet.finish(SPARE)


def _joint(sheet: Sheet, joint: Joint, name: str, feature: str, y: float, words: Words) -> None:
    thread, stack = joint.thread, joint.stack
    if not is_known(joint.length, stack.clamped, stack.depth):
        sheet.ghosts.append(f"{name}: not known yet")
        return
    washers, head, half = joint.washer_thickness, thread.hardware.head_height, thread.major / 2
    end = stack.clamped + stack.depth
    sheet.box(0.0, y - HALF_MM, stack.clamped, y + HALF_MM, "made", "clamped")
    sheet.box(stack.clamped, y - HALF_MM, end, y + HALF_MM, "knuckle", "female")
    sheet.box(0.0, y - half, joint.tip, y + half, "bolt", "bolt")
    start = max(joint.tip - joint.engagement - joint.protrusion, 0.0)
    for side in (-1.0, 1.0):
        root = y + side * (half - 0.6 * thread.pitch)
        sheet.line(((start, root), (joint.tip, root)), "construction", "bolt")
    if stack.washers:
        wide = thread.hardware.washer_outer / 2
        sheet.box(-washers, y - wide, 0.0, y + wide, "shim", "washer")
    if stack.sunk:
        size, high, _ = SUNK_HEADS[thread.size]
        head = 0.0
        cone = ((0.0, y - size / 2), (0.0, y + size / 2), (high, y + half), (high, y - half))
        sheet.polygon(cone, "bolt", "bolt")
    else:
        corner = thread.head_across_corners / 2
        sheet.box(-washers - head, y - corner, -washers, y + corner, "bolt", "bolt")
    top, low = y + HALF_MM, -(y - HALF_MM)
    told = words.bolt(thread.name, joint.length)
    sheet.texts.append(Text((-washers - head, top + 7.0), f"{told}: {name}", "text", "", 9.0, "start", True))
    group = "lug" if "lug" in feature else "caliper"
    length, count = f"bracket.{group}_bolt_length_mm", f"bracket.{group}_washers"
    sheet.note(
        Note((joint.tip, y + half), f"length {words.size(joint.length)}", "bolt", 0, length, prefer=(1.0, 0.25), far=2)
    )
    if stack.sunk:
        count = ""
    many = "flush, no washer" if stack.sunk else f"{stack.washers} washer{'' if stack.washers == 1 else 's'}"
    sheet.note(Note((-washers / 2, y + HALF_MM * 0.7), many, "washer", 0, count, prefer=(-1.0, 0.6)))
    a, b = (-washers, y - HALF_MM), (stack.clamped, y - HALF_MM)
    sheet.dimension(Dimension(a, b, (1, 0), (0, -1), low, f"grip {words.size(joint.grip)}", "clamped", 0, 0))
    if joint.engagement > 0:
        turns = joint.engagement / thread.pitch
        text = f"engaged {words.size(joint.engagement)}, {turns:.1f} turns"
        place = (stack.clamped + joint.engagement / 2, y)
        sheet.note(Note(place, text, "female", 0, prefer=(1.0, 1.0), far=1))
    if joint.protrusion > 0:
        sheet.note(
            Note(
                (joint.tip, y),
                f"tip {words.gap(joint.protrusion)} past the thread",
                "bolt",
                0,
                prefer=(1.0, -0.8),
                far=1,
            )
        )
