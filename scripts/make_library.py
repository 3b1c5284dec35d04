"""Make the library that ships with the program: rotors, rings and hats, calipers, wheels, master cylinders, pads and what else
the pedal asks for, all invented but the fluids.

Run by hand (``scripts/make_library.py``); the same seed gives the same files. No part is a real one: sizes come from a
few rules of thumb and chance, names from the sizes.
"""

import math
import random
import sys
from collections import Counter
from pathlib import Path

from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.job import Caliper, Rotor, Wheel
from bicentra.core.parts.library import Part
from bicentra.core.parts.rotor import Hat
from bicentra.core.parts.vehicle import Booster, Drum, Fluid, Pad, Valve
from bicentra.core.parts.wheel import Tyre, WeightBand
from bicentra.formats.part_files import SUFFIX, write_part

FOLDER = Path(__file__).parents[1] / "src/bicentra/data/library"
SEED, FOR_THE_DEMO = 4, 6
CALIPERS_FOR_THE_DEMO, WHEELS_FOR_THE_DEMO = 8, 5
ARCH_MM, RING_CIRCLE = 146.0, 158.0
"""Radius the backs of the calipers are struck with, and the bolt circle that all rings and hats share."""
"""The first few rotors suit the demo's hub: its pattern, bore and a slot of 23 mm."""
PATTERNS = ((4, 98.0), (4, 100.0), (4, 108.0), (5, 98.0), (5, 100.0), (5, 108.0), (5, 112.0), (5, 114.3))
BORES = (54.1, 56.6, 57.1, 58.1, 60.1, 63.4, 64.1, 66.6)
IRON = 7.2e-6
"""kg per mm³."""
SOURCE = "Invented for the library that ships with Bicentra; no part is a real one"


def rotor(chance: random.Random, number: int) -> Part:
    """One rotor: vented from 240 mm up, taller hats on larger ones."""
    near = number <= FOR_THE_DEMO
    diameter = float(chance.choice(range(244, 272, 4) if near else range(220, 360, 4)))
    vented = near or (diameter > 240 and chance.random() < 0.85)
    thick = 20.0 if near else float(chance.choice((20, 22, 24, 26, 28, 30, 32) if vented else (9, 10, 11, 12)))
    height = round((chance.uniform(40, 47) if near else chance.uniform(30, 52)) + (thick - 20) / 2, 1)
    hat = chance.choice((6.0, 6.5, 7.0, 8.0))
    band = round(chance.uniform(44, 56) + (diameter - 256) * 0.06, 0)
    count, circle = (4, 100.0) if near else chance.choice(PATTERNS)
    bore = 57.1 if near else chance.choice(BORES)
    band = min(band, float((diameter - circle - 32) // 2))  # the stud holes stay out of the hat's wall
    hat_inside = round(min(circle + (40 if near else chance.uniform(28, 44)), diameter - 2 * band - 12), 0)
    ring = math.pi / 4 * (diameter**2 - (diameter - 2 * band) ** 2) * thick * (0.68 if vented else 1.0)
    cup = math.pi / 4 * (hat_inside + 14) ** 2 * hat + math.pi * (hat_inside + 7) * 7 * max(height - thick, 0)
    quality = {"hat_inner_diameter_mm": "guessed"} if chance.random() < 0.25 else {}
    item = Rotor(
        name=f"Rotor {diameter:.0f}/{thick:.0f} height {height:g} {count}×{circle:g} no. {number}",
        diameter_mm=diameter, thickness_mm=thick, min_thickness_mm=thick - (2.0 if vented else 1.5),
        overall_height_mm=height, hat_thickness_mm=hat, swept_inner_diameter_mm=diameter - 2 * band, centre_bore_mm=bore,
        hat_inner_diameter_mm=hat_inside, bolt_circle_mm=circle, hole_count=count, hole_mm=chance.choice((12.6, 13.0, 14.6)),
        vanes="straight" if vented else "none", mass_kg=round((ring + cup) * IRON, 1),
    )  # fmt: skip
    price = round(18 + diameter * 0.09 + thick * 0.6)
    return Part(rotor=item, source=SOURCE, price=price, currency="coins", quality=quality)


def arch(half: float, outer: float, high: float) -> tuple[tuple[float, float], ...]:
    """The body seen along the axle: its back struck about the axle, its sides drawn in below. (across, out) points."""
    back = [(x * half, outer - (ARCH_MM - math.sqrt(ARCH_MM**2 - (x * half) ** 2))) for x in (1.0, 0.8, 0.5, 0.0)]
    one = [(0.75 * half, -high), (half, -0.7 * high), *back]
    points = [*one, *((-w, u) for w, u in reversed(one[:-1]))]
    return tuple((round(w, 1), round(u, 1)) for w, u in points)


def section(inboard: float, outboard: float, outer: float, high: float) -> tuple[tuple[float, float], ...]:
    """The body cut at its middle, corners taken off: (z from slot centre, out) points."""
    return (
        (-inboard, -high), (-inboard, outer - 12.0), (-inboard + 11.0, outer), (outboard - 15.0, outer),
        (outboard, outer - 15.0), (outboard, 8.0 - high), (outboard - 8.0, -high),
    )  # fmt: skip


def caliper(chance: random.Random, number: int) -> Part:
    """One caliper: fixed ones with two to six pistons, floating ones with one or two on the inboard side.

    The first few suit the demo's slot, wheel and lugs.
    """
    near = number <= CALIPERS_FOR_THE_DEMO
    fixed = chance.random() < 0.65
    pots = chance.choice((1, 2, 2, 3) if fixed else (1, 1, 2))
    bore = float(chance.choice((34, 36, 38, 40, 42) if pots > 1 else (48, 51, 54, 57)))
    pistons = tuple(bore - 2 * (pots - 1 - k) for k in range(pots))
    slot = float(chance.choice((22, 23, 24) if near else (14, 23, 25, 27, 29, 31)))
    pad_high = max(
        round(chance.uniform(36, 46 if near else 52), 0), float(round(bore / 1.15))
    )  # a piston stands on its pad
    pad_wide = round(60 + 22 * pots + chance.uniform(-6, 12), 0)
    spacing = round(pad_wide + chance.uniform(20, 46), 0)
    kind = f"fixed {2 * pots}-pot" if fixed else f"floating {pots}-pot"
    quality = {"bridge_to_pad_top_mm": "guessed"} if chance.random() < 0.2 else {}
    inboard = round(slot / 2 + (chance.uniform(13, 18) if near else chance.uniform(20, 44)), 0)
    outboard = round(slot / 2 + chance.uniform(24, 34 if near else 44), 0)
    outer, wide = round(chance.uniform(14, 20), 0), round(pad_wide + chance.uniform(34, 56), 0)
    reach = round(slot / 2 + chance.uniform(20.0, 26.0), 1) if near else round(slot / 2 + chance.uniform(16, 26), 1)
    radial = not near and fixed and chance.random() < 0.25
    material = "aluminium" if fixed else "iron"
    item = Caliper(
        name=f"Caliper {kind} {bore:.0f} slot {slot:.0f} ears {spacing:.0f} no. {number}",
        action="fixed" if fixed else "floating", mount="radial" if radial else "axial", ear_spacing_mm=spacing, ear_hole_mm=10.5,
        ear_thread=None if radial else "M12x1.5", ear_thickness_mm=float(chance.choice((14, 16, 18, 20))), ear_boss_mm=27.0,
        ear_line_to_pad_top_mm=round(chance.uniform(24, 42), 1), ear_face_offset_mm=-reach,
        ear_seat="inboard", ear_material=material, slot_width_mm=slot if fixed else slot + 22.0,
        bridge_to_pad_top_mm=round(chance.uniform(3.6 if near else 2.5, 5.0), 1), pad_height_mm=pad_high, pad_width_mm=pad_wide,
        body_inboard_mm=inboard, body_outboard_mm=outboard, body_outer_mm=outer, body_width_mm=wide,
        body_section_mm=section(inboard, outboard, outer, pad_high), body_face_mm=arch(wide / 2, outer, pad_high),
        pad_thickness_mm=float(chance.choice((9, 10, 11, 12))),
        slide_inboard_mm=None if fixed else float(chance.choice((12, 14, 16))),
        slide_outboard_mm=None if fixed else float(chance.choice((12, 14, 16))),
        pistons_inboard_mm=pistons, pistons_outboard_mm=pistons if fixed else (),
        bleeders_deg=(-90.0, 90.0) if fixed else (-90.0,), mass_kg=round(1.6 + 0.55 * pots + (0.6 if not fixed else 0.0), 1),
    )  # fmt: skip
    return Part(caliper=item, source=SOURCE, price=float(40 + 28 * pots), currency="coins", quality=quality)


def ring(number: int, diameter: float, thick: float) -> Part:
    """One friction ring without a hat, for the hats below."""
    mass = math.pi / 4 * (diameter**2 - (diameter - 100) ** 2) * thick * 0.68 * IRON
    inner = max(diameter - 100.0, RING_CIRCLE + 9.0)  # its bolts stay out of the friction face
    item = Rotor(
        name=f"Ring {diameter:.0f}/{thick:.0f} on {RING_CIRCLE:g} no. {number}", kind="ring", diameter_mm=diameter,
        thickness_mm=thick, min_thickness_mm=thick - 2.0, swept_inner_diameter_mm=inner, centre_bore_mm=diameter - 116.0,
        vanes="straight", ring_bolt_circle_mm=RING_CIRCLE, ring_bolt_count=8, ring_bolt_hole_mm=8.4,
        ring_register_mm=RING_CIRCLE - 16.0, ring_seat_mm=thick, mass_kg=round(mass, 1),
    )  # fmt: skip
    return Part(rotor=item, source=SOURCE, price=round(30 + diameter * 0.1), currency="coins")


def hat(number: int, height: float, count: int, circle: float, bore: float) -> Part:
    """One hat: its height decides where the ring comes to lie."""
    item = Hat(
        name=f"Hat {height:g} high {count}×{circle:g} no. {number}", height_mm=height, hat_thickness_mm=7.0, centre_bore_mm=bore,
        hat_inner_diameter_mm=138.0, bolt_circle_mm=circle, hole_count=count, hole_mm=12.6, ring_bolt_circle_mm=RING_CIRCLE,
        ring_bolt_count=8, ring_bolt_hole_mm=8.4, ring_register_mm=RING_CIRCLE - 16.0, mass_kg=0.9,
    )  # fmt: skip
    return Part(hat=item, source=SOURCE, price=55.0, currency="coins")


def wheel(chance: random.Random, number: int) -> Part:
    """One wheel: odd numbers traced, even ones known by their size only."""
    near = number <= WHEELS_FOR_THE_DEMO
    inches = 14 + number % 3 if near else chance.choice((13, 14, 15, 16, 17, 18))
    width = chance.choice((5.5, 6.0, 6.5, 7.0))
    offset = float(chance.choice((18, 25, 30, 35, 38, 42)))
    count, circle = (4, 100.0) if near else chance.choice(PATTERNS)
    bore = 57.1 if near else chance.choice(BORES)
    bead, half = inches * 25.4 / 2, width * 25.4 / 2
    traced = number % 2 == 1
    low, high = -offset - half, half - offset
    well = bead - 23.0
    barrel = (
        (low, bead - 7.0),
        (low + 14.0, bead - 7.0),
        (low + 40.0, well + 6.0),
        (high - 40.0, well),
        (high - 8.0, well),
        (high, bead - 9.0),
    )
    dish = high - chance.uniform(9.0, 13.0)
    spokes = (
        (0.0, circle / 2 + 14.0),
        (dish - 6.0, circle / 2 + 20.0),
        (dish, circle / 2 + 34.0),
        (dish + 2.0, well - 12.0),
        (dish - 4.0, well),
    )
    band = WeightBand(
        name="stick-on weights", z_min_mm=round(low + 44.0, 1), z_max_mm=round(low + 66.0, 1), height_mm=4.0
    )
    item = Wheel(
        name=f"Wheel {inches} × {width:g} offset {offset:.0f} {count}×{circle:g} no. {number}", rim_diameter_mm=inches * 25.4,
        rim_width_mm=width * 25.4, offset_mm=offset, centre_thickness_mm=float(chance.choice((5, 8, 10))), centre_bore_mm=bore,
        bolt_circle_mm=circle, hole_count=count, barrel_mm=_rounded(barrel) if traced else (),
        spokes_mm=_rounded(spokes) if traced else (),
        weights=(band,) if traced else (), mass_kg=round(3.2 + 0.35 * (inches - 12) + width * 0.3, 1),
    )  # fmt: skip
    return Part(wheel=item, source=SOURCE, price=float(round(22 + inches * 2)), currency="coins")


def _rounded(points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    return tuple((round(z, 1), round(r, 1)) for z, r in points)


def master(number: int, bore: float, circuits: int) -> Part:
    """One master cylinder."""
    item = MasterCylinder(
        name=f"Master {bore:g} {'tandem' if circuits == 2 else 'single'} no. {number}", bore_mm=bore,
        stroke_mm=36.0 if circuits == 2 else 30.0,
        circuits=circuits, outlet_thread="M10x1.0" if number % 2 else None, mass_kg=1.4 if circuits == 2 else 0.6,
    )  # fmt: skip
    return Part(master_cylinder=item, source=SOURCE, price=35.0 + 20.0 * circuits, currency="coins")


CLASSES = ((3, 205.0, 140.0), (4, 230.0, 155.0), (5.1, 260.0, 180.0))
"""Classes of brake fluid with the least boiling points they must have, dry and wet [°C]: FMVSS 116 and ISO 4925, from memory."""
OF_CLASS = "Least boiling points of its class, FMVSS 116 and ISO 4925, from memory; no maker's fluid"
PADS = (
    ("Street pad no. 1, soft", 0.36, 0.38, 0.26, -20.0, 350.0), ("Street pad no. 2, hard", 0.33, 0.37, 0.30, 0.0, 450.0),
    ("Fast road pad no. 3", 0.35, 0.42, 0.36, 50.0, 600.0), ("Trailer pad no. 4", 0.34, 0.36, 0.32, 0.0, 550.0),
    ("Track pad no. 5", 0.28, 0.48, 0.44, 200.0, 800.0), ("Mud pad no. 6, sintered", 0.38, 0.40, 0.37, 0.0, 650.0),
)  # fmt: skip
"""Name, friction cold, working and hot [no unit], working range [°C]."""


def for_the_pedal() -> list[Part]:
    """Pads, fluids, boosters, valves, drums and tyres."""
    pads = [
        Pad(
            name=name,
            mu=work,
            mu_cold=cold,
            mu_hot=hot,
            from_c=low,
            to_c=high,
            thickness_mm=11.0 + k % 3,
            min_thickness_mm=3.0,
        )
        for k, (name, cold, work, hot, low, high) in enumerate(PADS)
    ]
    fluids = [Fluid(name=f"Brake fluid, class {kind:g}", dry_boil_c=dry, wet_boil_c=wet) for kind, dry, wet in CLASSES]
    boosters = [
        Booster(name=f"Vacuum booster {wide:.0f} mm no. {k}", kind="vacuum", gain=gain, runout_n=most)
        for k, (wide, gain, most) in enumerate(((180.0, 3.0, 2200.0), (205.0, 3.8, 3200.0), (230.0, 4.6, 4300.0)), 1)
    ]
    valves = [
        Valve(name=f"Proportioning valve {knee:g} bar", kind="fixed", knee_bar=knee, slope=0.3)
        for knee in (15.0, 25.0, 35.0)
    ]
    valves.append(Valve(name="Adjustable proportioning valve", kind="adjustable", slope=0.43))
    drums = [
        Drum(
            name=f"Drum {wide:.0f}, cylinder {bore:g}",
            cylinder_bore_mm=bore,
            diameter_mm=wide,
            layout="leading-trailing",
        )
        for wide, bore in ((180.0, 17.46), (200.0, 19.05), (228.0, 20.64))
    ]
    tyres = [
        Tyre(name=f"Tyre, rolling radius {radius:.0f}", radius_mm=radius)
        for radius in (265.0, 280.0, 295.0, 310.0, 330.0)
    ]
    return [
        *(Part(pad=one, source=SOURCE, price=30.0 + 5.0 * k, currency="coins") for k, one in enumerate(pads)),
        *(Part(fluid=one, source=OF_CLASS) for one in fluids), *(Part(booster=one, source=SOURCE) for one in boosters),
        *(Part(valve=one, source=SOURCE) for one in valves), *(Part(drum=one, source=SOURCE) for one in drums),
        *(Part(tyre=one, source=SOURCE) for one in tyres),
    ]  # fmt: skip


def everything(chance: random.Random) -> list[Part]:
    """Every part of the library, in the order of its files."""
    rings = [ring(k + 1, d, t) for k, (d, t) in enumerate(((256.0, 20.0), (280.0, 22.0), (300.0, 26.0)))]
    hats = [
        hat(k + 1, *row)
        for k, row in enumerate(
            ((24.0, 4, 100.0, 57.1), (30.0, 4, 100.0, 57.1), (26.0, 5, 112.0, 57.1), (34.0, 5, 114.3, 66.6))
        )
    ]
    bores = ((15.87, 1), (17.46, 1), (19.05, 1), (19.05, 2), (20.64, 2), (22.22, 2), (23.81, 2), (25.4, 2))
    return [
        *(rotor(chance, k + 1) for k in range(40)), *rings, *(caliper(chance, k + 1) for k in range(25)), *hats,
        *(wheel(chance, k + 1) for k in range(12)), *(master(k + 1, *row) for k, row in enumerate(bores)),
        *for_the_pedal(),
    ]  # fmt: skip


def main() -> int:
    """Write every file anew."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    for old in FOLDER.glob(f"*{SUFFIX}"):
        old.unlink()
    parts = everything(random.Random(SEED))
    numbers: Counter[str] = Counter()
    for part in parts:
        numbers[part.kind] += 1
        stem = part.kind.replace("_", "-")
        (FOLDER / f"{stem}-{numbers[part.kind]:02d}{SUFFIX}").write_bytes(write_part(part))
    print(f"written: {len(parts)} parts in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
