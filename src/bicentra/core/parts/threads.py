"""Threads and what goes with them: stress area, hole, head, nut, washer, stock lengths.

Sources, all from memory (no page was seen) and checked in tests against an outside package where it carries them:
metric basic sizes ISO 261; stress area ISO 898-1, pi/4 (d - 0.93819 P)^2; clearance holes ISO 273 medium; heads
ISO 4014/4017; nuts ISO 4032; washers ISO 7089. Inch: ASME B1.1, stress area pi/4 (D - 0.9743/n)^2; clearance holes
ASME B18.2.8 normal; heads and nuts ASME B18.2.1/B18.2.2; washers ASME B18.21.1 type A narrow.
"""

import math
import re
from functools import lru_cache

from bicentra.core.base.records import Record

INCH = 25.4


class Hardware(Record, frozen=True):
    """What is common to one nominal diameter [mm]: clearance hole, head, nut and washer."""

    clearance: float
    head_height: float
    across_flats: float
    nut_height: float
    washer_outer: float
    washer_thickness: float


class Thread(Record, frozen=True):
    """A thread by its name in the tables: major diameter and pitch [mm], and the hardware of its diameter."""

    name: str
    major: float
    pitch: float
    hardware: Hardware
    stock_lengths: tuple[float, ...]

    @property
    def inch(self) -> bool:
        """Whether this is an inch thread."""
        return not self.name.startswith("M")

    @property
    def size(self) -> str:
        """The nominal size alone: M12, 3/8."""
        return re.split("[x-]", self.name)[0]

    @property
    def stress_area(self) -> float:
        """Tensile stress area [mm2]; ISO 898-1 and ASME B1.1 (0.9382 P and 0.9743 P off the major diameter)."""
        off = 0.9743 if self.inch else 0.93819
        return math.pi / 4 * (self.major - off * self.pitch) ** 2

    @property
    def tap_drill(self) -> float:
        """Drill before tapping [mm], major diameter less the pitch: about 77 % of full thread, common practice."""
        return self.major - self.pitch

    @property
    def minor(self) -> float:
        """Basic minor diameter of the nut thread D1 [mm]; ISO 724, d - 1.08253 P."""
        return self.major - 1.0825317547305484 * self.pitch

    @property
    def head_across_corners(self) -> float:
        """Width of the hexagon head across its corners [mm], the room a turning head needs."""
        return self.hardware.across_flats * 2 / math.sqrt(3)


_METRIC_LENGTHS = (
    16.0,
    20.0,
    25.0,
    30.0,
    35.0,
    40.0,
    45.0,
    50.0,
    55.0,
    60.0,
    65.0,
    70.0,
    80.0,
    90.0,
    100.0,
    110.0,
    120.0,
)
_INCH_LENGTHS = tuple(
    INCH * eighths / 8 for eighths in (5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 18, 20, 22, 24, 28, 32, 36, 40)
)

_METRIC = {
    5.0: Hardware(5.5, 3.5, 8.0, 4.7, 10.0, 1.0),
    6.0: Hardware(6.6, 4.0, 10.0, 5.2, 12.0, 1.6),
    8.0: Hardware(9.0, 5.3, 13.0, 6.8, 16.0, 1.6),
    10.0: Hardware(11.0, 6.4, 16.0, 8.4, 20.0, 2.0),
    12.0: Hardware(13.5, 7.5, 18.0, 10.8, 24.0, 2.5),
    14.0: Hardware(15.5, 8.8, 21.0, 12.8, 28.0, 2.5),
    16.0: Hardware(17.5, 10.0, 24.0, 14.8, 30.0, 3.0),
}
_METRIC_PITCHES = {
    5.0: (0.8,), 6.0: (1.0, 0.75), 8.0: (1.25, 1.0), 10.0: (1.5, 1.25, 1.0), 12.0: (1.75, 1.5, 1.25), 14.0: (2.0, 1.5),
    16.0: (2.0, 1.5),
}  # fmt: skip
_INCH_SIZES = {
    "#10": (Hardware(INCH * 0.221, INCH * 0.120, INCH * 5 / 16, INCH / 8, INCH * 0.500, INCH * 0.049), (24, 32)),
    "1/4": (Hardware(INCH * 9 / 32, INCH * 5 / 32, INCH * 7 / 16, INCH * 7 / 32, INCH * 0.625, INCH * 0.065), (20, 28)),
    "5/16": (Hardware(INCH * 11 / 32, INCH * 13 / 64, INCH / 2, INCH * 17 / 64, INCH * 0.688, INCH * 0.065), (18, 24)),
    "3/8": (Hardware(INCH * 13 / 32, INCH * 15 / 64, INCH * 9 / 16, INCH * 21 / 64, INCH * 0.812, INCH * 0.065), (16, 24)),
    "7/16": (Hardware(INCH * 15 / 32, INCH * 9 / 32, INCH * 5 / 8, INCH * 3 / 8, INCH * 0.922, INCH * 0.065), (14, 20)),
    "1/2": (Hardware(INCH * 9 / 16, INCH * 5 / 16, INCH * 3 / 4, INCH * 7 / 16, INCH * 1.062, INCH * 0.095), (13, 20)),
    "9/16": (Hardware(INCH * 5 / 8, INCH * 23 / 64, INCH * 13 / 16, INCH * 31 / 64, INCH * 1.156, INCH * 0.095), (12, 18)),
    "5/8": (Hardware(INCH * 11 / 16, INCH * 25 / 64, INCH * 15 / 16, INCH * 35 / 64, INCH * 1.312, INCH * 0.095), (11, 18)),
}  # fmt: skip
NUMBER_TEN_MM = 0.190 * INCH
CLEARANCES: dict[str, tuple[float, float, float]] = {
    "M5": (5.3, 5.5, 5.8), "M6": (6.4, 6.6, 7.0), "M8": (8.4, 9.0, 10.0), "M10": (10.5, 11.0, 12.0), "M12": (13.0, 13.5, 14.5),
    "M14": (15.0, 15.5, 16.5), "M16": (17.0, 17.5, 18.5),
    "#10": (INCH * 0.206, INCH * 0.221, INCH * 0.238), "1/4": (INCH * 17 / 64, INCH * 9 / 32, INCH * 19 / 64),
    "5/16": (INCH * 21 / 64, INCH * 11 / 32, INCH * 23 / 64), "3/8": (INCH * 25 / 64, INCH * 13 / 32, INCH * 27 / 64),
    "7/16": (INCH * 29 / 64, INCH * 15 / 32, INCH * 31 / 64), "1/2": (INCH * 17 / 32, INCH * 9 / 16, INCH * 39 / 64),
    "9/16": (INCH * 19 / 32, INCH * 5 / 8, INCH * 43 / 64), "5/8": (INCH * 21 / 32, INCH * 11 / 16, INCH * 47 / 64),
}  # fmt: skip
"""Clearance holes by size, close, normal, loose [mm]: ISO 273 fine, medium, coarse; ASME B18.2.8, from memory."""


SUNK_HEADS: dict[str, tuple[float, float, float]] = {
    "M5": (10.0, 2.8, 90.0), "M6": (12.0, 3.3, 90.0), "M8": (16.0, 4.4, 90.0), "M10": (20.0, 5.5, 90.0), "M12": (24.0, 6.5, 90.0),
    "M14": (27.0, 7.0, 90.0), "M16": (30.0, 7.5, 90.0),
    "#10": (INCH * 0.411, INCH * 0.127, 82.0), "1/4": (INCH * 0.531, INCH * 0.161, 82.0),
    "5/16": (INCH * 0.656, INCH * 0.198, 82.0), "3/8": (INCH * 0.781, INCH * 0.234, 82.0),
    "7/16": (INCH * 0.844, INCH * 0.234, 82.0), "1/2": (INCH * 0.938, INCH * 0.251, 82.0),
    "5/8": (INCH * 1.188, INCH * 0.324, 82.0),
}  # fmt: skip
"""Countersunk heads by size: diameter and height [mm], angle [degrees]: socket screws of DIN 7991 and of ASME B18.3 (sharp
edge), from memory; none are made in 9/16."""


def _build() -> dict[str, Thread]:
    table: dict[str, Thread] = {}
    for major, pitches in _METRIC_PITCHES.items():
        for pitch in pitches:
            name = f"M{major:g}x{pitch:g}"
            table[name] = Thread(name, major, pitch, _METRIC[major], _METRIC_LENGTHS)
    for size, (hardware, counts) in _INCH_SIZES.items():
        over, _, under = size.partition("/")
        major = NUMBER_TEN_MM if size == "#10" else INCH * int(over) / int(under)
        for per_inch in counts:
            name = f"{size}-{per_inch}"
            table[name] = Thread(name, major, INCH / per_inch, hardware, _INCH_LENGTHS)
    return table


THREADS: dict[str, Thread] = _build()
_COARSE = {
    "M5": "M5x0.8", "M6": "M6x1", "M8": "M8x1.25", "M10": "M10x1.5", "M12": "M12x1.75", "M14": "M14x2", "M16": "M16x2",
}  # fmt: skip


@lru_cache(maxsize=256)
def find_thread(name: str) -> Thread | None:
    """Return the thread written ``M12x1.5``, ``M12 × 1.5``, ``M12`` (coarse), ``3/8-24`` or ``3/8-24 UNF``; else ``None``."""
    plain = re.sub(r"\s+", "", name).replace("×", "x").replace("X", "x").removesuffix("UNF").removesuffix("UNC")
    plain = re.sub(r"^m", "M", plain).replace('"', "")
    if plain.startswith("M") and "x" in plain:
        size, _, pitch = plain.partition("x")
        plain = f"{size}x{pitch.rstrip('0').rstrip('.') if '.' in pitch else pitch}"
    return THREADS.get(_COARSE.get(plain, plain))


def same_thread(one: str, other: str) -> bool:
    """Tell whether two names mean one thread: M10x1.0 is M10x1, M12 is M12x1.75. Names of no table are compared as they are."""
    return (_of_name(one) or one) == (_of_name(other) or other)


def _of_name(name: str) -> str:
    thread = find_thread(name)
    return thread.name if thread is not None else ""
