"""What a corner takes: made parts, bought ones, originals that are used again, and what is not known yet."""

from collections import Counter
from dataclasses import dataclass

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.bracket.families.model import Candidate
from bicentra.core.bracket.packing import shim_pieces
from bicentra.core.solution import Solution


@dataclass(frozen=True)
class Item:
    """One line: kind (made, bought, re-used, missing), how many, what it is, its size, material or note, mass [kg] of one."""

    kind: str
    count: int
    name: str
    size: str
    note: str
    mass_kg: float | None = None


def parts_list(solution: Solution, candidate: Candidate) -> tuple[Item, ...]:
    """Return every line for one corner."""
    job = solution.job
    found = [
        Item("made", part.count, part.name, f"{part.thickness:g} mm", part.material, or_none(round(part.mass_kg, 4)))
        for part in candidate.parts
    ]
    found += _bolts(solution)
    packing, under = solution.assembly.packing, "spacer" not in " ".join(part.name for part in candidate.parts)
    stacks = [
        (shim, "under the plate, at the lugs") for shim in packing.shims if under and "lug" in solution.assembly.bolted
    ]
    stacks += [(packing.ear_spacer, "between plate and ears")] * (2 if under else 0)
    shims = Counter((piece, where) for shim, where in stacks for piece in shim_pieces(shim))
    found += [Item("bought", n, "shim", f"{piece:g} mm", where) for (piece, where), n in sorted(shims.items())]
    for name, part in (("rotor", job.rotor), ("caliper", job.caliper), ("wheel", job.wheel)):
        if part is not None and part.name:
            found.append(Item("bought", 1, name, part.name, "", part.mass_kg))
        elif part is not None:
            found.append(Item("missing", 1, name, "", "has no name yet: which one is it?"))
    found.append(
        Item("re-used", len(job.knuckle.lugs), "original lug bolts", "", "do not throw away before the new ones are in")
    )
    if candidate.family == "on-original-bracket":
        found.append(Item("re-used", 1, "original caliper bracket", "", "do not throw away: the plate is bolted to it"))
    found += [Item("missing", 1, need, "", f"{candidate.title} needs it") for need in candidate.needs]
    return tuple(found)


def _bolts(solution: Solution) -> list[Item]:
    bolts: Counter[tuple[str, float, bool]] = Counter()
    washers: Counter[str] = Counter()
    nuts: Counter[str] = Counter()
    unknown = 0
    beside = solution.beside.stands if solution.beside is not None else None
    for placed in (*solution.assembly.joints, *(beside.joints if beside is not None else ())):
        joint = placed.joint
        if not is_known(joint.length):
            unknown += 1
            continue
        bolts[(joint.thread.name, joint.length, joint.stack.sunk)] += 1
        washers[joint.thread.size] += joint.stack.washers
        nuts[joint.thread.name] += joint.stack.female == "nut"
    heads = {False: "hexagon head, 8.8 or grade 5 at least", True: "countersunk socket screw, length with its head"}
    found = [
        Item("bought", n, "bolt", f"{name} × {length:g} mm", heads[sunk])
        for (name, length, sunk), n in sorted(bolts.items())
    ]
    found += [Item("bought", count, "washer", size, "hardened") for size, count in sorted(washers.items()) if count]
    found += [Item("bought", count, "nut", name, "with its own lock") for name, count in sorted(nuts.items()) if count]
    return found + ([Item("missing", unknown, "bolt", "", "its length is not known yet")] if unknown else [])
