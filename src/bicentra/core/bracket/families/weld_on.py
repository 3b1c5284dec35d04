"""A bracket welded to the axle tube."""

import math

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, apart, is_known, known, ordered
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import assemble
from bicentra.core.bracket.families.common import CUT, bore_of, carrying, counterbore_of, stock_plate
from bicentra.core.bracket.families.jogged import BendSpace, bent_blank, curved_between, jog_within, too_low
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.model import Bore, Bracket, Family, FamilyCheck, Listed, MadePart, Weld, refused
from bicentra.core.bracket.plate import bosses
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import Outline
from bicentra.core.geometry.prism import Prisms
from bicentra.core.geometry.relief import relieve
from bicentra.core.lineup.body import bleeder_windows
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import find_material
from bicentra.core.parts.threads import CLEARANCES

TACK_PLAY_MM = 1.6
"""Side play packed in beside a floating caliper before tacking: 1/16 in, rule of thumb of one shop."""
WELDABLE = ("steel S355", "steel S235", "steel 4130")
"""Metals that are welded to a steel tube; stainless and aluminium are not, without a special filler."""
WELD_LEG_MM, SADDLE_CORNER_MM = 6.0, 0.1
"""Usual leg of the fillet on either side of the tab, and what is left of the points at the saddle's ends [mm]."""


def weld_on(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """A tab welded to the axle tube: its height from the tube to the ears, what is packed in for tacking, the clock window."""
    tube, base = known(job.hub.tube_diameter_mm), assemble(job, line)
    ears = base.ear_holes
    if not is_known(tube, line.ear_line_radius, line.clock, line.ear_face_z, *(h.boss_radius for h in ears)) or not all(
        hole.is_known for hole in ears
    ):
        why = "The axle tube's diameter and the line-up decide this one."
        return (refused(WELD_ON, job, why, ("axle tube", "line-up")),)
    thick = stock_plate(job, 10.0)
    saddle = tube / 2
    height, top = line.ear_line_radius - saddle, line.pad_top_radius - saddle
    try:
        outline = _outline(job, line, ears, saddle)
    except OutlineError as error:
        return (refused(WELD_ON, job, str(error), turns=True),)
    along, rise = saddle_length(outline, saddle), known(job.bracket.tab_jog_mm)
    if not is_known(rise):
        return (refused(WELD_ON, job, "The tab's jog is unknown: 0 for a flat one.", ("jog of the tab",)),)
    fork = _fork_of(job, rise, lengths)
    if isinstance(fork, str):
        return (refused(WELD_ON, job, fork),)
    outward = -1.0 if job.caliper.ear_seat == "inboard" else 1.0
    bores = tuple(bore_of(hole, outward, lengths) for hole in ears)
    seat_z = line.ear_face_z + outward * fork.play / 2
    z0 = min(seat_z, seat_z + outward * thick)
    why = (
        f"{lengths.stock(thick)} tab from the {lengths.size(tube)} tube: ears {lengths.size(height)} above it, pad top "
    )
    tack = f"Pack {lengths.size(TACK_PLAY_MM)} beside the caliper before tacking (one shop's rule){_high(job)}. "
    why += f"{lengths.size(top)}. {fork.text or tack}Welding by someone qualified, away from seals and bearing seats."
    leg, seat = min(thick, WELD_LEG_MM), known(job.hub.retainer_face_z_mm)
    near, far = ordered(z0, z0 - outward * fork.room) if fork.room else (z0, z0)
    away = max(apart(near - rise - leg, far - rise + thick + leg, seat, seat), 0.0) if is_known(seat) else UNKNOWN
    asks = _asks(job.bracket.material or "", lengths, height, along, away)
    area = outline.area - math.fsum(b.area for b in bores)
    sunk = math.fsum(hole.sunk_volume for hole in ears)
    pockets = tuple(pocket for hole in ears for pocket in counterbore_of(hole, outward))
    part = MadePart(
        "weld-on tab", "plate", job.bracket.material or "", thick, area * thick - sunk, outline, z0=z0, bores=bores,
        pockets=pockets, processes=(*CUT, "file the saddle", "weld"), weld=Weld(leg, along, line.frame.at(saddle)),
    )  # fmt: skip
    parts: tuple[MadePart, ...] = (part,)
    if rise:
        bent = _jogged(job, line, part, rise, ears, lengths)
        if isinstance(bent, str):
            return (refused(WELD_ON, job, bent),)
        parts, asks = bent[:1], (*asks, bent[1])
    if fork.room:
        parts = (part, _other_leaf(part, ears, -outward * fork.room, lengths))
    solved = {
        "thickness_mm": thick, "tube_mm": tube, "jog_mm": rise, "fork_mm": fork.room, "ear_height_mm": height, "pad_height_mm": top,
        "weld_mm": along, "packing_mm": fork.play or TACK_PLAY_MM, "weld_leg_mm": leg, "weld_throat_mm": leg / math.sqrt(2.0),
    }  # fmt: skip
    stack_up = carrying(base.stack_up, line, thick, (0.0,) * len(job.knuckle.lugs), (thick, fork.play / 2), z0)
    if fork.room:
        stack_up = replace(stack_up, beyond_ears=(fork.play / 2, thick))
    listed = (_welds(leg, along, len(parts), lengths), *fork.listed)
    return (Bracket(WELD_ON, job, stack_up, parts, asks, why, False, solved, bolted=("ear",), listed=listed),)


def _outline(job: Job, line: LineUp, ears: tuple[Hole, ...], saddle: float) -> Outline:
    """Return the tab from the tube of radius ``saddle`` [mm] round the ears. Raises ``OutlineError`` where there is none."""
    half = min(max(saddle * 0.8, known(job.caliper.ear_spacing_mm) / 3), saddle * 0.95)
    foot = math.sqrt(saddle**2 - half**2)
    discs = [*bosses(ears), *(Disc(line.frame.at(foot, by), 1.0) for by in (half, -half))]
    return relieve(convex_outline(tuple(discs)), saddle, SADDLE_CORNER_MM).outline


class _Fork(Record, frozen=True):
    """Two tabs with the ears between them: how far apart they stand and what of that is the ears' play [mm], 0 for one tab alone;
    how it is reported, and what is bought for it."""

    room: float = 0.0
    play: float = 0.0
    text: str = ""
    listed: tuple[Listed, ...] = ()


def _fork_of(job: Job, rise: float, lengths: LengthFormat) -> _Fork | str:
    """Return the fork that is asked for, or why it cannot be made. ``rise``: the tab's jog [mm]."""
    room, ear, size = known(job.bracket.tab_fork_mm), known(job.caliper.ear_thickness_mm), lengths.size
    if not is_known(room):
        return "The room inside the fork is unknown: 0 for one tab."
    if not room:
        return _Fork()
    if not is_known(ear):
        return "A fork is made round the ears: their thickness is unknown."
    if room < ear:
        return (
            f"The ears are {size(ear)} thick and do not go into a fork of {size(room)}: it takes them and their play."
        )
    if job.caliper.ear_thread:
        return "A threaded ear is drawn against one tab and cannot float in a fork: it needs plain holes, or one tab."
    if rise:
        return "A fork whose tabs are bent as well is not worked out: take the fork or the jog."
    play = room - ear
    text = f"A fork: two tabs {size(room)} apart, the {size(ear)} ears between them with {size(play)} of play in all. "
    text += f"Pack {size(play / 2)} on either side before tacking; a sleeve on each bolt keeps the tabs apart. "
    sleeve = Listed(
        "bought",
        2,
        "sleeve between the tabs",
        f"{size(room)} long",
        "the ear floats on it: its hole has to pass the sleeve",
    )
    return _Fork(room, play, text, (sleeve,))


def _other_leaf(tab: MadePart, ears: tuple[Hole, ...], up: float, lengths: LengthFormat) -> MadePart:
    """Return the fork's second tab, ``up`` [mm] from the first's face: the same outline, clear holes."""
    clear = tuple(
        Bore(hole.name, hole.centre, wide, f"drill {lengths.drill(wide)}", feature=hole.feature)
        for hole in ears
        for wide in (hole.drill if hole.kind != "tapped" or hole.thread is None else CLEARANCES[hole.thread.size][1],)
    )
    area = known(tab.outline.area if tab.outline is not None else None) - math.fsum(b.area for b in clear)
    z0 = tab.z0 + up + math.copysign(tab.thickness, up)
    return replace(tab, name="fork's other tab", z0=z0, bores=clear, pockets=(), volume=area * tab.thickness)


def _welds(leg: float, along: float, tabs: int, lengths: LengthFormat) -> Listed:
    each = " of either tab" if tabs > 1 else ""
    return Listed(
        "bought",
        1,
        "filler and weld",
        f"{lengths.size(along)} a side{each}, leg {lengths.size(leg)}, throat {lengths.size(leg / math.sqrt(2.0))}",
        "by a qualified welder, away from seals and bearing seats",
    )


def _jogged(
    job: Job, line: LineUp, tab: MadePart, rise: float, ears: tuple[Hole, ...], lengths: LengthFormat
) -> tuple[MadePart, FamilyCheck] | str:
    """Return the tab bent twice, its ears ``rise`` [mm] outboard of its foot, and whether the bends find room; or why not."""
    frame, high = line.frame, abs(rise)
    along, across = zip(*(frame.into(hole.centre) for hole in ears))
    radii = [hole.boss_radius for hole in ears]
    inner, outer = known(job.hub.tube_diameter_mm) / 2 + WELD_LEG_MM, min(at - r for at, r in zip(along, radii))
    wide = min(c - r for c, r in zip(across, radii)), max(c + r for c, r in zip(across, radii))
    space = BendSpace(frame.u, frame.w, inner, outer - inner, wide, True)
    jog = jog_within(job, high, tab.thickness, space.free)
    if jog is None:
        return too_low(job, high, tab.thickness, lengths)
    if any(hole.recess for hole in ears):
        return "Counterbores and countersinks are not worked out for a bent tab: ask for plain holes."
    begin = space.inner + max(space.free - jog.run, 0.0) / 2
    if tab.outline is None or curved_between(tab.outline, frame.u, begin, begin + jog.run):
        return f"The jog needs {lengths.size(jog.run)} of straight edges between saddle and ears."
    bent = bent_blank(replace(tab, z0=tab.z0 - rise), jog, space, begin, rise)
    text = f"The bends need {lengths.size(jog.run)} of run and find {lengths.size(max(space.free, 0.0))} between weld and ears."
    processes = (*CUT, "file the saddle", "bend", "weld")
    return replace(bent, processes=processes, weld=tab.weld), FamilyCheck("bend-room", space.free - jog.run, text)


def tab_of(job: Job, line: LineUp) -> Prisms:
    """Return the whole tab, or both of a fork: the tube is round, so all of it goes round with the caliper."""
    parts = weld_on(job, line, job.lengths)[0].parts
    return tuple(prism for part in parts for prism in part_prisms(part))


def saddle_length(outline: Outline, radius: float) -> float:
    """Return how much of ``outline`` lies on a tube of ``radius`` about the axle [mm]: what there is to weld along, one side."""
    return math.fsum(
        piece.length for piece in outline.segments
        if piece.bulge < 0.0 and abs(piece.radius - radius) < 1e-6 and math.hypot(*piece.centre) < 1e-6
    )  # fmt: skip


def _asks(metal: str, lengths: LengthFormat, height: float, along: float, away: float) -> tuple[FamilyCheck, ...]:
    """Return what is asked of the tab: its metal, its height, a weld's length, how far its edge is off a bearing seat [mm]."""
    known_metal = find_material(metal)
    steel = UNKNOWN if known_metal is None else 1.0 if known_metal.name in WELDABLE else -1.0
    text = f"{metal[:1].upper()}{metal[1:]} {'is welded' if steel > 0 else 'does not weld'} to a steel tube."
    along_text = f"Each side has {lengths.size(along)} of saddle to weld on; no strength is computed."
    stand, heat = f"The ears stand {lengths.size(height)} above the tube.", ""
    if is_known(away):
        heat = f"The weld's nearer edge lies {lengths.size(away)} from the retainer's face; heat draws a bearing seat out of round."
    return (
        FamilyCheck("weld-metal", steel, text, "needs a material of the tables"),
        FamilyCheck("weld-height", height, stand),
        FamilyCheck("weld-length", along, along_text),
        FamilyCheck("weld-bearing-seat", away, heat, "needs the retainer's face"),
    )


def _high(job: Job) -> str:
    """Say at which clock angles a bleed screw is the high one; nothing where no bleed screw is known."""
    found = bleeder_windows(job, limit_for(job, "bleeder-up").stop)
    text = [f"{window[0] % 360:.0f}° to {window[1] % 360:.0f}°" for window in found if window is not None]
    return f"; a bleed screw is high from clock {' or '.join(text)}" if text else ""


WELD_ON = Family(
    "weld-on",
    "Weld-on tube bracket",
    weld_on,
    chamfered=False,
    on_tube=True,
    comes_off=False,
    mounting="tube",
    sided=False,
    riding=tab_of,
    appears="the tab appears",
    ready="The tab's outline is ready",
)
