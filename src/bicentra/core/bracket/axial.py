"""The axial error and every place it can be corrected, each with its side effects, most reversible first."""

from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.model import Bracket
from bicentra.core.bracket.stack_up import shim_pieces, stock_below
from bicentra.core.bracket.turned import unturned
from bicentra.core.lineup.rotor_on_hub import other_face_height
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

MOST_HIGHER_MM = 25.0
"""Rotors of one bolt pattern are no more unlike in height than this [mm]: what is further off is another fault. Our judgement."""


def side_word(error: float) -> str:
    """Return outboard or inboard for the sign of an axial error [mm]."""
    return "outboard" if error > 0 else "inboard"


@unturned
def axial_finding(assembly: Assembly, lengths: LengthFormat, remedies: bool = True) -> Finding:
    """How far the caliper sits from the rotor's middle along the axle."""
    return axial_error(assembly.bracket, lengths, remedies)


def axial_error(bracket: Bracket, lengths: LengthFormat, remedies: bool = True) -> Finding:
    """The same of a bracket that nothing is placed round yet."""
    job, stack_up = bracket.job, bracket.stack_up
    limit, error = limit_for(job, "axial-offset"), stack_up.worst_error
    missing = _missing(job)
    why = (
        f"The caliper sits {lengths.gap(error)} too far {side_word(error)} of the rotor's middle; "
        "off centre it wears one pad, and a fixed caliper can rub."
    )
    if abs(error) < 0.005:
        why = "The caliper is centred on the rotor."
    if is_known(error) and len({round(e, 2) for e in stack_up.errors}) > 1:
        each = ", ".join(
            f"{lug.name} {lengths.gap(e)} {side_word(e)}" for lug, e in zip(job.knuckle.lugs, stack_up.errors)
        )
        why += f" The lugs differ ({each}): the caliper also leans."
    return make_finding(
        "axial-offset",
        abs(error),
        limit,
        why,
        features=("rotor", "caliper"),
        missing=missing,
        remedies=axial_remedies(bracket, lengths) if remedies and is_known(error) else (),
    )


def _missing(job: Job) -> str:
    rotor, caliper, hub = job.rotor, job.caliper, job.hub
    names: dict[str, float | None] = {
        "overall_height": rotor.height_mm,
        "rotor_thickness": rotor.thickness_mm,
        "ear_face_offset": caliper.ear_face_offset_mm,
        "seat_face_of_every_lug": None if any(lug.z_mm is None for lug in job.knuckle.lugs) else 0.0,
    }
    if hub.mounting == "over-hub":
        names["hat_thickness"] = rotor.flange_mm
    else:
        names["flange_thickness"] = hub.flange_thickness_mm
    return missing_names(**names)


def axial_remedies(bracket: Bracket, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return every way to bring the axial error to nothing, most reversible first."""
    lugs = bool(bracket.stack_up.lug_faces)
    found = [
        _no_ear_shims(bracket, lengths),
        _shims(bracket, lengths) if lugs else None,
        _rotor_plate(bracket, lengths),
        _other_plate(bracket, lengths) if lugs else None,
        _other_face(bracket, lengths),
        _turned_over(bracket, lengths),
        _other_rotor(bracket, lengths),
        _machined_lugs(bracket, lengths) if lugs else None,
    ]
    return tuple(remedy for remedy in found if remedy is not None)


def level_lugs(bracket: Bracket, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return the ways to make the caliper stand square on lugs that differ: shims of unlike height, or the high face machined.

    Where a lug already stands too far out its face is the one all others are brought to: the caliper stays off by that much.
    """
    stack_up, lugs = bracket.stack_up, bracket.job.knuckle.lugs
    if not stack_up.lug_faces or not is_known(*stack_up.errors) or len(lugs) != len(stack_up.errors):
        return ()
    needed = [shim - stack_up.sign * error for shim, error in zip(stack_up.shims, stack_up.errors)]
    over = max(-min(needed), 0.0)
    made = tuple(round(sum(shim_pieces(amount + over)), 3) for amount in needed)
    text = ", ".join(
        f"{lengths.gap(amount)} at {lug.name or f'lug {k + 1}'}" for k, (lug, amount) in enumerate(zip(lugs, made))
    )
    side = (
        "unequal shims take out the lean",
        *((f"the caliper stays {lengths.gap(over)} off the middle",) if over > 0.005 else ()),
    )
    edits = (("bracket.thickness_mm", stack_up.thickness), ("bracket.shims_mm", made))
    amount = max(abs(new - old) for new, old in zip(made, stack_up.shims))
    found = [] if made == stack_up.shims else [Remedy(f"Shims of {text}", round(amount, 4), True, edits, side)]
    machined = _machined_lugs(bracket, lengths)
    return (*found, machined) if machined is not None else tuple(found)


def _shims(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """More or fewer shims at each lug."""
    stack_up = bracket.stack_up
    needed = tuple(shim - stack_up.sign * error for shim, error in zip(stack_up.shims, stack_up.errors))
    if min(needed) < -1e-6:
        return None
    made = tuple(round(sum(shim_pieces(amount)), 3) for amount in needed)
    more = stack_up.sign * stack_up.error < 0
    change = abs(sum(made) - sum(stack_up.shims)) / len(made)
    stack = limit_for(bracket.job, "shim-stack")
    if max(made) > stack.stop:
        return None  # no stack like that is ever put in
    side = [
        f"shims of {_pieces(made[0], lengths)} at each lug" if len(set(made)) == 1 else "different shims at each lug"
    ]
    if max(made) > stack.watch:
        side.append(f"a stack over {lengths.gap(stack.watch)} wants a thicker plate instead")
    if len(set(made)) > 1:
        side.append("unequal shims take out the lean")
    edits = (("bracket.thickness_mm", stack_up.thickness), ("bracket.shims_mm", made))
    text = f"{'Add' if more else 'Take out'} {lengths.gap(change)} of shims between lug and plate"
    return Remedy(text, round(change, 4), True, edits, tuple(side))


def _no_ear_shims(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """The shims at the ears taken out again."""
    first, second = bracket.stack_up.ear_shims
    if first + second <= 0.0:
        return None
    text = f"Take the shims at the ears out ({lengths.gap(first)} and {lengths.gap(second)})"
    return Remedy(text, round(max(first, second), 4), True, (("fit.ear_shims_mm", ((), ())),))


def _pieces(amount: float, lengths: LengthFormat) -> str:
    return " + ".join(lengths.gap(piece) for piece in shim_pieces(amount)) or "nothing"


def _rotor_plate(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """A rotor spacer: moves the rotor outboard over the hub, inboard behind a flange."""
    job, error = bracket.job, bracket.stack_up.error
    over_hub = job.hub.mounting == "over-hub"
    spacer = known(job.fit.rotor_spacer_mm)
    target = spacer + (error if over_hub else -error)
    if not is_known(target) or target < -1e-9:
        return None
    target = round(max(target, 0.0), 4)
    verb = "Add" if target > spacer else "Take"
    amount = lengths.gap(target - spacer)
    text = f"Add {amount} rotor spacer" if verb == "Add" else f"Take {amount} off the rotor spacer"
    sense = "less" if target > spacer else "more"
    side = [f"{amount} {sense} engagement on the pilot"]
    if over_hub:
        wider = "wider" if target > spacer else "narrower"
        side += [
            f"track {lengths.gap(2 * (target - spacer))} {wider} over the axle",
            f"{amount} {sense} stud for the wheel nuts",
        ]
    else:
        side += ["track unchanged", f"{amount} {'more' if target > spacer else 'less'} rotor bolt needed"]
    return Remedy(text, round(abs(target - spacer), 4), True, (("fit.rotor_spacer_mm", target),), tuple(side))


def _other_plate(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """Another plate thickness, from stock with the rest as shims."""
    stack_up, stock = bracket.stack_up, bracket.job.bracket.stock
    if not stack_up.ears_on_far_face:
        return None
    needs = [stack_up.thickness + shim - stack_up.sign * error for shim, error in zip(stack_up.shims, stack_up.errors)]
    thickness = stock_below(min(needs), stock)
    shims = tuple(round(sum(shim_pieces(need - thickness)), 3) for need in needs)
    if min(needs) < thickness - 1e-6 or thickness == stack_up.thickness:
        return None
    rest = f" with {lengths.gap(max(shims))} of shims" if max(shims) > 0 else ""
    text = f"Make the plate from {lengths.size(thickness)} stock instead of {lengths.size(stack_up.thickness)}{rest}"
    side = ["a new plate, if one is cut already", "caliper bolts of another length: look at them again"]
    edits = (("bracket.thickness_mm", thickness), ("bracket.shims_mm", shims))
    return Remedy(text, round(abs(thickness - stack_up.thickness), 4), True, edits, tuple(side))


def _other_rotor(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """A rotor of another overall height."""
    job, error = bracket.job, bracket.stack_up.error
    height = round(known(job.rotor.height_mm) - error, 4)
    hat = known(job.rotor.flange_mm)
    if not is_known(height) or height <= max(hat, 0.0) or abs(error) > MOST_HIGHER_MM:
        return None
    lower = "lower" if error > 0 else "higher"
    what = "Put the ring on a hat that makes it" if job.rotor.kind == "two-piece" else "Use a rotor"
    text = f"{what} {lengths.size(height)} high, {lengths.gap(error)} {lower}"
    side = ("bore, swept band and hat may differ: check them again", "track unchanged if its hat is as thick")
    return Remedy(text, round(abs(error), 4), True, (("rotor.overall_height_mm", height),), side)


def _turned_over(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """The rotor turned over on its hub, where that centres the caliper and its vanes have no hand."""
    job, error = bracket.job, bracket.stack_up.error
    way = "flipped" if job.fit.rotor_way == "hat-outward" else "hat-outward"
    turned = replace(job, fit=replace(job.fit, rotor_way=way))
    moved = line_up(turned).rotor_midplane_z - line_up(job).rotor_midplane_z
    if job.rotor.kind == "ring" or job.rotor.vanes in ("left", "right") or not _remedies(job, error, error - moved):
        return None
    side = (
        f"the ring moves {lengths.size(moved)} {side_word(moved)}; {lengths.gap(error - moved)} off the middle is left",
        "the hat's other face seats on the hub: flat, bare and unworn there, or faced by someone qualified",
        "other parts of it then face wheel, hub and knuckle: look at those findings again",
        "a drum inside the hat has its shoes on the wrong side then",
    )
    text = "Turn the rotor over on its hub" if way == "flipped" else "Put the rotor on the hub the usual way round"
    return Remedy(text, round(abs(moved), 4), True, (("fit.rotor_way", way),), side)


def _other_face(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """The ring of a two-piece rotor turned over onto the other face of its hat, where that centres the caliper."""
    job, error, rotor = bracket.job, bracket.stack_up.error, bracket.job.rotor
    high = other_face_height(rotor)
    lower = known(rotor.overall_height_mm) - high
    if rotor.kind != "two-piece" or rotor.vanes in ("left", "right") or job.fit.rotor_way == "flipped":
        return None
    if not is_known(high) or high <= known(rotor.flange_mm) or not _remedies(job, error, error - lower):
        return None
    face = "outboard face" if rotor.ring_on == "inboard face" else "inboard face"
    side = (
        f"the rotor is {lengths.size(high)} high then, {lengths.gap(lower)} {'lower' if lower > 0 else 'higher'}",
        "the ring's register must reach the hat from that side as well",
        "heads and nuts of its bolts change sides: look whether they clear knuckle and caliper",
    )
    edits = (("rotor.overall_height_mm", round(high, 4)), ("rotor.ring_on", face))
    return Remedy(f"Bolt the ring to the {face} of its hat", round(abs(lower), 4), True, edits, side)


def _remedies(job: Job, error: float, left: float) -> bool:
    """Tell whether ``left`` [mm] is a cure for ``error``: within the limit, which the error is not."""
    most = limit_for(job, "axial-offset").watch
    return is_known(error, left) and abs(left) <= most < abs(error)


def _machined_lugs(bracket: Bracket, lengths: LengthFormat) -> Remedy | None:
    """Metal taken off the lugs' seat faces: only ever towards the lug."""
    job, stack_up = bracket.job, bracket.stack_up
    cuts = [stack_up.sign * error for error in stack_up.errors]
    if min(cuts) < -1e-9 or any(lug.z_mm is None for lug in job.knuckle.lugs):
        return None
    lugs = []
    for lug, cut in zip(job.knuckle.lugs, cuts):
        if lug.thickness_mm is not None and cut >= lug.thickness_mm:
            return None
        seated = lug.seat == job.bracket.side
        thick = None if lug.thickness_mm is None else round(lug.thickness_mm - cut, 4)
        z = round(known(lug.z_mm) - stack_up.sign * cut, 4) if seated else lug.z_mm
        lugs.append(replace(lug, z_mm=z, thickness_mm=thick))
    side = (
        "cannot be put back",
        "thinner lugs: less thread or clamp length",
        "have a cut knuckle checked by someone qualified",
    )
    text = f"Machine {lengths.gap(max(cuts))} off the lug faces"
    return Remedy(text, round(max(cuts), 4), False, (("knuckle.lugs", tuple(lugs)),), side)


@unturned
def shim_finding(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """How much of the plate's place is made up by shims."""
    stack_up, limit = assembly.stack_up, limit_for(assembly.job, "shim-stack")
    value = max(stack_up.shims, default=float("nan")) if is_known(*stack_up.errors) else float("nan")
    stock = assembly.job.bracket.stock
    thicker = min((t for t in stock if t > stack_up.thickness), default=None)
    pieces = _pieces(value, lengths)
    chosen = ", chosen by Bicentra," if assembly.job.bracket.shims_mm is None and stack_up.chosen else ""
    why = f"{lengths.gap(value)} of shims ({pieces}){chosen} lie between lug and plate; a tall stack beds down and loosens."
    remedies = []
    if thicker is not None and stack_up.ears_on_far_face:
        to = stack_up.thickness + max(stack_up.shims)
        remedies.append(
            Remedy(
                f"Mill a {lengths.stock(thicker)} plate to {lengths.size(to)}",
                round(to - stack_up.thickness, 4),
                True,
                (("bracket.thickness_mm", round(to, 3)), ("bracket.shims_mm", (0.0,) * len(stack_up.shims))),
                ("one more operation on the plate",),
            )
        )
    finding = make_finding(
        "shim-stack",
        value,
        limit,
        why,
        features=("bracket", "lug-0"),
        missing="the axial offset is unknown",
        remedies=tuple(remedies),
    )
    if finding.verdict is Verdict.OK and value == 0.0:
        return replace(finding, why="No shims are needed between lug and plate.")
    return finding
