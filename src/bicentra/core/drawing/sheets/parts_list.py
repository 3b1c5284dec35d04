"""What a corner takes: made parts, bought ones, originals that are used again, and what is still unknown."""

from collections import Counter

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.base.quantities import show_length
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.model import Bracket
from bicentra.core.bracket.stack_up import shim_pieces
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.job import Caliper, Job, Rotor, Wheel
from bicentra.core.parts.threads import find_thread


class Item(Record, frozen=True):
    """One line: kind (made, bought, re-used, missing), how many, what it is, its size, material or note, mass [kg] of one.

    ``tags``: what drawings call it, by the beginnings of their tags: a balloon of the assembly stands for them.
    """

    kind: str
    count: int
    name: str
    size: str
    note: str
    mass_kg: float | None = None
    tags: tuple[str, ...] = ()


def parts_list(solution: Solution) -> tuple[Item, ...]:
    """Return every line for one corner: all that is made, bolted, shimmed and welded, and nothing that is not there."""
    job, assembly, bracket = solution.job, solution.assembly, solution.bracket
    lengths = job.lengths
    found = [
        Item(
            "made",
            part.count,
            part.name,
            show_length(part.thickness, trim=True),
            part.material,
            or_none(round(part.mass_kg, 4)),
            ("bracket",),
        )
        for part in solution.parts
    ]
    placed = [assembly, *([solution.parking.assembly] if solution.parking is not None else [])]
    found += _bolts(placed, lengths)
    found += _studs(bracket)
    found += _shims(placed)
    found += _packed(job, bracket.kind.at_retainer)
    own = [Item(line.kind, line.count, line.name, line.size, line.note) for line in bracket.listed]
    found += [item for item in own if item.kind == "bought"]
    parts: list[tuple[str, Rotor | Caliper | Wheel | None]] = [
        ("rotor", job.rotor),
        ("caliper", job.caliper),
        ("wheel", job.wheel),
    ]
    parts += [("parking caliper", job.parking.caliper)] if job.parking is not None else []
    for name, part in parts:
        if part is not None and part.name:
            found.append(Item("bought", 1, name, part.name, "", part.mass_kg, (name,)))
        elif part is not None:
            found.append(Item("missing", 1, name, "", "has no name yet: which one is it?", None, (name,)))
    if "lug" in assembly.bolted and job.knuckle.lugs:
        note = "do not throw away before the new ones are in"
        found.append(Item("re-used", len(job.knuckle.lugs), "original lug bolts", "", note))
    found += [item for item in own if item.kind != "bought"]
    found += [Item("missing", 1, need, "", f"{bracket.title} needs it") for need in bracket.needs]
    return tuple(found)


def _bolts(placed: list[Assembly], lengths: LengthFormat) -> list[Item]:
    """Return every bolt, washer and nut, each in its own system of sizes."""
    bolts: Counter[tuple[str, float, bool]] = Counter()
    washers: Counter[str] = Counter()
    nuts: Counter[str] = Counter()
    unknown = 0
    tags: dict[tuple[str, float, bool], dict[str, None]] = {}
    for placed_joint in (one for stands in placed for one in stands.joints):
        joint = placed_joint.joint
        if not is_known(joint.length):
            unknown += 1
            continue
        key = (joint.thread.name, joint.length, joint.stack.sunk)
        bolts[key] += 1
        tags.setdefault(key, {})[placed_joint.feature.rsplit("-", 1)[0]] = None
        washers[joint.thread.size] += joint.stack.washers
        nuts[joint.thread.name] += joint.stack.female == "nut"
    heads = {False: "hexagon head, 8.8 or grade 5 at least", True: "countersunk socket screw, length with its head"}
    found = [
        Item("bought", n, "bolt", lengths.bolt(name, long), heads[sunk], None, tuple(tags[(name, long, sunk)]))
        for (name, long, sunk), n in sorted(bolts.items())
    ]
    found += [Item("bought", count, "washer", size, "hardened") for size, count in sorted(washers.items()) if count]
    found += [Item("bought", count, "nut", name, "with its own lock") for name, count in sorted(nuts.items()) if count]
    unknown += sum(len(stands.unchosen) for stands in placed)
    return found + (
        [Item("missing", unknown, "bolt", "", "it is not chosen, or its length is still unknown")] if unknown else []
    )


def _studs(bracket: Bracket) -> list[Item]:
    """Return the studs in a bracket's edge with a washer and a nut each, and the shims under the feet they carry."""
    studs = Counter(bore.thread for part in bracket.parts for bore in part.edge_bores if bore.thread)
    found = []
    for name, count in sorted(studs.items()):
        thread = find_thread(name)
        size = thread.size if thread is not None else name
        found.append(Item("bought", count, "stud", name, "as long as its thread, the foot, a washer and a nut need"))
        found.append(Item("bought", count, "washer", size, "hardened"))
        found.append(Item("bought", count, "nut", name, "with its own lock"))
    under = bracket.solved.get("shims_under_feet_mm", 0.0)
    pieces = Counter(shim_pieces(under)) if studs else Counter[float]()
    return found + [
        Item("bought", 2 * n, "shim", f"{piece:g} mm", "under the caliper's feet")
        for piece, n in sorted(pieces.items())
    ]


def _packed(job: Job, at_retainer: bool) -> list[Item]:
    """Return what is packed behind rotor, wheel and bearing retainer, and the bolts of a rotor in two pieces."""
    plates = [
        (job.fit.rotor_spacer_mm, "rotor spacer", "flat and of one thickness; holes of rotor and pilot"),
        (job.fit.wheel_spacer_mm, "spacer under the wheel", "flat and of one thickness; holes of wheel and pilot"),
        (0.0 if at_retainer else job.hub.retainer_spacer_mm, "spacer under the bearing retainer",
         "in place of the drum's backing plate: without it the seal is crushed"),
    ]  # fmt: skip
    found = [Item("made", 1, name, f"{thick:g} mm", note) for thick, name, note in plates if thick]
    if job.fit.hub_ring != "none":
        found.append(
            Item("made", 1, "hub-centric ring", job.fit.hub_ring, "takes up the play on the pilot; drawn, or bought")
        )
    rotor, hub = job.rotor, job.hub
    if hub.mounting == "behind-flange" and hub.stud_count:
        grip = f", {rotor.flange_mm:g} mm longer between head and thread" if rotor.flange_mm else ""
        found.append(Item("bought", hub.stud_count, "wheel stud", f"{hub.stud_thread or 'unknown'}{grip}",
                          "through rotor and flange, pressed in from behind"))  # fmt: skip
    if rotor.ring_held == "snap ring":
        found.append(Item("bought", 1, "snap ring of the rotor", "", "new, seated in its groove all round"))
    elif rotor.ring_bolt_count:
        hole = f"for Ø {rotor.ring_bolt_hole_mm:g} mm holes" if rotor.ring_bolt_hole_mm else ""
        found.append(
            Item("bought", rotor.ring_bolt_count, "bolt of the ring on its hat", hole, "the maker's, with their lock")
        )
    return found


def _shims(placed: list[Assembly]) -> list[Item]:
    """Return the shims at the lugs and between plate and ears; what is a made spacer is no shim."""
    stacks: list[tuple[float, str]] = []
    for k, assembly in enumerate(placed):
        stack_up, bracket = assembly.stack_up, assembly.bracket
        plate = "the plate" if k == 0 else "the parking adapter"
        spaced = any("spacer" in part.name for part in bracket.parts)
        if bracket.packed and not spaced and "lug" in assembly.bolted:
            stacks += [(shim, f"under {plate}, at the lugs") for shim in stack_up.shims]
        if not spaced:
            stacks += [(stack_up.ear_spacer, f"between {plate} and ears")] * 2
    shims = Counter((piece, where) for shim, where in stacks for piece in shim_pieces(shim))
    return [Item("bought", n, "shim", f"{piece:g} mm", where) for (piece, where), n in sorted(shims.items())]
