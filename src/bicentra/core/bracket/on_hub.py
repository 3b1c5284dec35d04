"""What is made for the rotor's side: the plate behind it, the ring that centres it, what a redrilled pattern is drilled with.

They are parts like those of a bracket, so they are drawn, printed and turned into solids as those are. Fits are usual slip fits
of a lathe, common practice, no published source.
"""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.holes import sink_volume
from bicentra.core.bracket.model import Bore, HeadSink, MadePart, Pocket
from bicentra.core.geometry.outline import Outline, circle_outline
from bicentra.core.lineup.redrill import Redrill
from bicentra.core.parts.job import Job
from bicentra.core.parts.patterns import Pattern
from bicentra.core.parts.threads import find_thread

HAT_ROOM_MM, STUD_ROOM_MM = 0.5, 0.6
"""Left between a plate and the hat round it, and across a stud [mm]."""
SLIP_MM, PRINTED_SLIP_MM = 0.05, 0.15
"""Play across of a turned part on what it centres on, and of a printed one [mm]."""
SHORT_MM = 0.5
"""A ring stays this much below the face it lies under, so that the nuts clamp the rotor and not the ring [mm]."""
JIG_MM, JIG_RIM_MM, UNDER_MM, FOOT_RIM_MM = 12.0, 12.0, 1.0, 20.0
"""A jig's thickness and its metal outside the holes; a puck's foot, how far below the hat and past the bore [mm]."""
PIN_METAL_MM = 2.0
"""Least metal between a pin of the jig and a hole drilled through it [mm]."""
SLIT_MM, SLIT_SHARE, WALL_MM = 1.5, 0.8, 4.0
"""Saw cuts that let a puck spread: width [mm], share of the spigot they go down; least wall beside the cone [mm]."""
CONE, CONE_DEG, CONE_SHARE = "M10", 60.0, 0.6
"""The screw whose cone spreads a puck, the angle its head is turned to, how deep that goes as a share of the spigot."""
PLUG_PRESS_MM = 0.03
"""How much larger than its hole a plug is [mm]."""
STEEL, ALUMINIUM = "steel S235", "aluminium 6082-T6"


class OnHub(Record, frozen=True):
    """The parts, and why one of them cannot be drawn yet. ``open``: what to measure, by part."""

    parts: tuple[MadePart, ...] = ()
    open: tuple[str, ...] = ()


def hub_parts(job: Job, plan: Redrill | None, lengths: LengthFormat) -> OnHub:
    """Return what is made for hub and rotor of ``job`` [mm]: with ``plan``, its rotor is drilled to another pattern."""
    made = [
        _behind(job, lengths) if job.fit.rotor_spacer_mm else None,
        _ring(job, lengths) if job.fit.hub_ring != "none" else None,
        *((_jig(job, plan, lengths), _puck(job, lengths)) if plan is not None else ()),
        _plugs(job, plan) if plan is not None and job.rotor.old_holes == "filled" else None,
    ]
    parts = tuple(one for one in made if isinstance(one, MadePart))
    return OnHub(parts, tuple(one for one in made if isinstance(one, str)))


def _behind(job: Job, lengths: LengthFormat) -> MadePart | str:
    """The rotor spacer: as wide as the flange, within the hat, on the pilot, over the studs."""
    hub, thick = job.hub, known(job.fit.rotor_spacer_mm)
    wide = known(hub.flange_diameter_mm)
    if hub.mounting == "over-hub" and job.rotor.hollow_mm is not None:
        wide = min(wide, job.rotor.hollow_mm - 2 * HAT_ROOM_MM)
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    over = hub.mounting == "over-hub"  # behind the flange it slides over the barrel instead
    sizes = (wide, known(hub.pilot_diameter_mm if over else hub.barrel_diameter_mm), known(hub.bolt_circle_mm))
    if thread is None or hub.stud_count is None or not is_known(*sizes):
        return f"rotor spacer: flange, {'pilot' if over else 'hub barrel'}, bolt circle and studs decide it"
    bores = (_pilot_bore(sizes[1] + SLIP_MM, lengths), *_over_studs(Pattern(hub.stud_count, sizes[2]), thread.major + STUD_ROOM_MM,
                                                                     lengths))  # fmt: skip
    return _disc(
        "rotor spacer", ALUMINIUM, wide, thick, bores, processes=("turn", "drill"),
        text=(f"Stud holes: {hub.stud_count} evenly on Ø {lengths.size(sizes[2])}",
              "Both faces turned or ground in one clamping: what is not parallel runs out at the rotor",
              "Nothing of it may stand under the rotor's edge or lift it off: look for burrs round every hole"),
        kept=(("thickness", f"±{lengths.size(0.02)}", "the caliper's place along the axle: slot gap"),
              ("both faces", f"parallel {lengths.size(0.02)}", "runout of the rotor"),
              ("bore", f"+{lengths.size(0.05)} / 0", "the rotor runs true")),
    )  # fmt: skip


def _ring(job: Job, lengths: LengthFormat) -> MadePart | str:
    """The hub-centric ring between pilot and rotor bore: it centres, the nuts hold."""
    hub, rotor, printed = job.hub, job.rotor, job.fit.hub_ring == "plastic"
    slip = PRINTED_SLIP_MM if printed else SLIP_MM
    outer, inner = known(rotor.centre_bore_mm) - slip, known(hub.pilot_diameter_mm) + slip
    long = min(known(hub.pilot_length_mm) - known(job.fit.rotor_spacer_mm), known(rotor.flange_mm)) - SHORT_MM
    if hub.mounting != "over-hub":
        return (
            "hub-centric ring: behind a flange it is not the pilot that centres the rotor; fit it to the barrel by hand"
        )
    if not is_known(outer, inner, known(hub.pilot_length_mm), known(rotor.flange_mm)):
        return "hub-centric ring: pilot, its length, the rotor's bore and hat thickness decide it"
    if outer <= inner or long <= 0.0:
        return "hub-centric ring: the rotor's bore leaves no room for one on this pilot"
    material = {"aluminium": ALUMINIUM, "steel": STEEL}.get(job.fit.hub_ring, "plastic")
    text = [f"Wall {lengths.size((outer - inner) / 2)}: it centres the rotor and carries nothing, the nuts hold"]
    text += [
        "Printed: heat-resistant stuff, in one piece, lying flat; it softens next to a hot rotor: look each time"
    ] * printed
    return MadePart(
        "hub-centric ring", "round", material, long, math.pi / 4 * (outer**2 - inner**2) * long, outer=outer, inner=inner,
        processes=("print",) if printed else ("turn",), text=tuple(text),
        kept=(("outside", f"0 / -{lengths.size(0.05)}", "it goes into the rotor by hand"),
              ("bore", f"+{lengths.size(0.05)} / 0", "the rotor runs true"),
              ("length", f"0 / -{lengths.size(0.2)}", "the rotor is clamped, not the ring")),
    )  # fmt: skip


def _jig(job: Job, plan: Redrill, lengths: LengthFormat) -> MadePart | str:
    """The drilling jig: centred on the puck, pinned through old holes, its holes where the new ones come."""
    bore = known(job.rotor.centre_bore_mm)
    if not is_known(bore):
        return "drilling jig: the rotor's bore decides it"
    wide = max(plan.old.circle + plan.old_hole, plan.new.circle + plan.new_hole) + 2 * JIG_RIM_MM
    news, pins = plan.new.centres(plan.clock_deg), pin_holes(plan)
    olds = plan.old.centres()
    bores = (
        Bore("bore", (0.0, 0.0), bore + SLIP_MM, f"{lengths.drill(bore + SLIP_MM)}, on the puck"),
        *(Bore(f"guide {k + 1}", at, plan.new_hole, f"{lengths.drill(plan.new_hole)}, reamed: guides the drill")
          for k, at in enumerate(news)),
        *(Bore(f"pin {k + 1}", olds[k], plan.old_hole, f"{lengths.drill(plan.old_hole)}, a close bolt through old hole {k + 1}")
          for k in pins),
    )  # fmt: skip
    text = [
        f"Guides: {plan.new.count} evenly on Ø {lengths.size(plan.new.circle)}, the first straight up",
        f"Old holes: {plan.old.count} evenly on Ø {lengths.size(plan.old.circle)}, the first {_turned(plan)}",
        "On the hat's outer face, centred on the puck; clamped there until the last hole is drilled",
        "For one rotor and its fellow: worn guides are worse than none",
    ]
    if not pins:
        text.append("No old hole is free for a pin: set its clock by the template's lines")
    return _disc(
        "drilling jig", STEEL, wide, JIG_MM, bores, processes=("turn", "drill", "ream"), text=tuple(text),
        kept=(("holes, place", f"±{lengths.size(0.03)}", "studs pass without strain"),
              ("bore", f"+{lengths.size(0.03)} / 0", "the new pattern runs true"),
              ("guides", f"+{lengths.size(0.03)} / 0", "the drill does not wander")),
    )  # fmt: skip


def _turned(plan: Redrill) -> str:
    return f"{plan.clock_deg:g}° before the first guide" if plan.clock_deg else "straight up as well"


def pin_holes(plan: Redrill) -> tuple[int, ...]:
    """Return the two old holes furthest apart that a jig can be pinned through beside the new ones; none where fewer."""
    news, olds = plan.new.centres(plan.clock_deg), plan.old.centres()
    least = (plan.old_hole + plan.new_hole) / 2 + PIN_METAL_MM
    free = [k for k, at in enumerate(olds) if all(math.dist(at, new) >= least for new in news)]
    pairs = [(math.dist(olds[a], olds[b]), (a, b)) for a in free for b in free if a < b]
    return max(pairs, key=lambda pair: (round(pair[0], 6), -pair[1][0]))[1] if pairs else ()


def _puck(job: Job, lengths: LengthFormat) -> MadePart | str:
    """The expanding puck: a foot for the drill's table, a slit spigot that a cone spreads in the rotor's bore."""
    bore, hat = known(job.rotor.centre_bore_mm), known(job.rotor.flange_mm)
    foot_high, hollow = known(job.rotor.height_mm) - hat - UNDER_MM, known(job.rotor.hollow_mm)
    if not is_known(bore, foot_high, hollow):
        return "centring puck: the rotor's bore, its heights and the hat's inside decide it"
    if foot_high < UNDER_MM:
        return "centring puck: a flat rotor needs no foot; turn a plain spigot and clamp it through its bore"
    screw = find_thread(CONE)
    spigot, high = bore - SLIP_MM, hat + JIG_MM
    drill = screw.tap_drill if screw is not None else UNKNOWN
    wide = drill + 2 * CONE_SHARE * high * math.tan(math.radians(CONE_DEG / 2))
    if wide > spigot - 2 * WALL_MM:
        return "centring puck: the bore is too narrow for a cone; turn a plain spigot and a clamp instead"
    cone = Bore("cone", (0.0, 0.0), drill, f"tap {CONE}, {CONE_DEG:g}° cone to Ø {lengths.size(wide)}", CONE,
                sink=HeadSink(wide, CONE_DEG, 1.0))  # fmt: skip
    deep, slits = SLIT_SHARE * high, tuple(_slit(spigot, across) for across in (False, True))
    foot = circle_outline((0.0, 0.0), min(bore / 2 + FOOT_RIM_MM, hollow / 2 - 1.0))
    turned = Pocket(foot, high, 1.0, kept=(circle_outline((0.0, 0.0), spigot / 2),))
    thick = foot_high + high
    volume = foot.area * thick - (foot.area - math.pi / 4 * spigot**2) * high
    volume -= math.pi / 4 * drill**2 * thick + sink_volume(wide, drill, CONE_DEG)
    volume -= sum(slit.area for slit in slits) * deep - SLIT_MM**2 * deep
    volume += _in_slits(cone, deep)
    return MadePart(
        "centring puck", "plate", STEEL, thick, volume, outline=foot, z0=0.0, bores=(cone,),
        pockets=(turned, *(Pocket(slit, deep, 1.0) for slit in slits)), processes=("turn", "drill", "tap", "saw"),
        text=(f"Spigot Ø {lengths.size(spigot)}, {lengths.size(high)} high on a foot {lengths.size(foot_high)} high",
              f"Two saw cuts right across it, {lengths.size(SLIT_MM)} wide, {lengths.size(deep)} deep",
              "Turn the spigot and the cone in one clamping; saw the slits last",
              f"Screw: {CONE}, its head turned to {CONE_DEG:g}°; a quarter turn grips",
              "The rotor lies on its friction face over it, hat up; the foot stands a little short of the hat; the jig on top"),
        kept=(("spigot", f"0 / -{lengths.size(0.03)}", "the new pattern runs true"),
              ("cone to spigot", f"round {lengths.size(0.02)}", "it spreads evenly")),
    )  # fmt: skip


def _plugs(job: Job, plan: Redrill) -> MadePart | str:
    """Plugs for the old holes, pressed in before the new ones are drilled."""
    wide, thick = plan.old_hole + PLUG_PRESS_MM, known(job.rotor.flange_mm)
    if not is_known(wide, thick):
        return "plugs: the old holes and the hat's thickness decide them"
    text = (
        "Pressed in flush, both faces dressed flat; one that a new hole cuts is pinned or welded by someone qualified",
    )
    plug = _disc(
        "plug of an old hole", STEEL, wide, thick, (), ("turn", "press in"), text, (("outside", "s6", "the press"),)
    )
    return replace(plug, count=plan.old.count, outer=wide)


def _disc(
    name: str,
    material: str,
    wide: float,
    thick: float,
    bores: tuple[Bore, ...],
    processes: tuple[str, ...],
    text: tuple[str, ...],
    kept: tuple[tuple[str, str, str], ...],
) -> MadePart:
    """Return a round plate with holes through it [mm]."""
    rim = circle_outline((0.0, 0.0), wide / 2)
    volume = (rim.area - math.fsum(bore.area for bore in bores)) * thick
    return MadePart(
        name, "plate", material, thick, volume, outline=rim, z0=0.0, bores=bores, processes=processes, text=text, kept=kept
    )  # fmt: skip


def _pilot_bore(wide: float, lengths: LengthFormat) -> Bore:
    return Bore("bore", (0.0, 0.0), wide, f"{lengths.drill(wide)}, on the hub")


def _over_studs(pattern: Pattern, hole: float, lengths: LengthFormat) -> tuple[Bore, ...]:
    return tuple(
        Bore(f"stud {k + 1}", at, hole, f"{lengths.drill(hole)}, over a stud") for k, at in enumerate(pattern.centres())
    )


def _slit(long: float, across: bool) -> Outline:
    """Return a saw cut right through a spigot [mm]."""
    a, b = (long / 2, SLIT_MM / 2) if across else (SLIT_MM / 2, long / 2)
    return Outline(((a, b, 0.0), (-a, b, 0.0), (-a, -b, 0.0), (a, -b, 0.0)))


def _in_slits(bore: Bore, deep: float, steps: int = 400) -> float:
    """Return what slits and cone share, taken twice elsewhere [mm3]: at each depth, the cuts within the hole there."""
    wide, total = bore.sink.wide if bore.sink is not None else bore.drill, 0.0
    for k in range(steps):
        down = deep * (k + 0.5) / steps
        radius = max(bore.drill, wide - (wide - bore.drill) * down / bore.depth) / 2
        half = SLIT_MM / 2
        chord = half * math.sqrt(radius**2 - half**2) + radius**2 * math.asin(half / radius)
        total += (4 * chord - SLIT_MM**2) * deep / steps
    return total
