"""Make the library that ships with the program: 40 rotors and 25 calipers, invented, with plausible physics.

Run by hand (``scripts/make_library.py``); the same seed gives the same files. No part is a real one: sizes come from a
few rules of thumb and chance, names from the sizes.
"""

import math
import random
import sys
from pathlib import Path

from bicentra.core.parts.job import Caliper, Rotor
from bicentra.core.parts.library import Part
from bicentra.formats.parts_json import SUFFIX, write_part

FOLDER = Path(__file__).parents[1] / "src/bicentra/data/library"
SEED, FOR_THE_DEMO = 4, 6
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
    height = round(chance.uniform(30, 52) + (thick - 20) / 2, 1)
    hat = chance.choice((6.0, 6.5, 7.0, 8.0))
    band = round(chance.uniform(44, 56) + (diameter - 256) * 0.06, 0)
    count, circle = (4, 100.0) if near else chance.choice(PATTERNS)
    bore = 57.1 if near else chance.choice(BORES)
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


def caliper(chance: random.Random, number: int) -> Part:
    """One caliper: fixed ones with two to six pistons, floating ones with one or two on the inboard side."""
    fixed = chance.random() < 0.65
    pots = chance.choice((1, 2, 2, 3) if fixed else (1, 1, 2))
    bore = float(chance.choice((34, 36, 38, 40, 42) if pots > 1 else (48, 51, 54, 57)))
    pistons = tuple(bore - 2 * k for k in range(pots)) if pots < 3 else (bore - 6, bore - 4, bore)
    slot = float(chance.choice((14, 23, 25, 27, 29, 31)))
    pad_high = round(chance.uniform(36, 52), 0)
    pad_wide = round(60 + 22 * pots + chance.uniform(-6, 12), 0)
    spacing = round(pad_wide + chance.uniform(20, 46), 0)
    kind = f"fixed {2 * pots}-pot" if fixed else f"floating {pots}-pot"
    quality = {"bridge_to_pad_top_mm": "guessed"} if chance.random() < 0.2 else {}
    item = Caliper(
        name=f"Caliper {kind} {bore:.0f} slot {slot:.0f} ears {spacing:.0f} no. {number}",
        action="fixed" if fixed else "floating", mount="axial", ear_spacing_mm=spacing, ear_hole_mm=10.5, ear_thread="M12x1.5",
        ear_thickness_mm=float(chance.choice((14, 16, 18, 20))), ear_boss_mm=27.0,
        ear_line_to_pad_top_mm=round(chance.uniform(24, 42), 1), ear_face_offset_mm=-round(slot / 2 + chance.uniform(16, 26), 1),
        ear_seat="inboard", ear_material="aluminium" if fixed else "iron", slot_width_mm=slot,
        bridge_to_pad_top_mm=round(chance.uniform(2.5, 5.0), 1), pad_height_mm=pad_high, pad_width_mm=pad_wide,
        body_inboard_mm=round(slot / 2 + chance.uniform(22, 44), 0), body_outboard_mm=round(slot / 2 + chance.uniform(26, 44), 0),
        body_outer_mm=round(chance.uniform(14, 22), 0), body_width_mm=round(pad_wide + chance.uniform(34, 64), 0),
        pistons_inboard_mm=pistons, pistons_outboard_mm=pistons if fixed else (),
        bleeders_deg=(-90.0, 90.0) if fixed else (90.0,), mass_kg=round(1.6 + 0.55 * pots + (0.6 if not fixed else 0.0), 1),
    )  # fmt: skip
    return Part(caliper=item, source=SOURCE, price=float(40 + 28 * pots), currency="coins", quality=quality)


def main() -> int:
    """Write every file anew."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    for old in FOLDER.glob(f"*{SUFFIX}"):
        old.unlink()
    chance = random.Random(SEED)
    parts = [rotor(chance, k + 1) for k in range(40)] + [caliper(chance, k + 1) for k in range(25)]
    for k, part in enumerate(parts):
        (FOLDER / f"{part.kind}-{k + 1 if part.kind == 'rotor' else k - 39:02d}{SUFFIX}").write_bytes(write_part(part))
    print(f"written: {len(parts)} parts in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
