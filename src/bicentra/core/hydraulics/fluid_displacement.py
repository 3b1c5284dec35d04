"""Where the fluid goes, part by part: the pistons' way back, knock-back, pads, calipers, hoses; cold, hot, and worn."""

from collections.abc import Callable

from bicentra.core.base.records import Record
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import End

STATED_AT = 10.0
"""Line pressure at which pads and calipers give what is stated [N/mm2]: 100 bar."""
PADS_HOT, IRON = 2.0, 11e-6
"""How much more hot pads give (common practice, no source); expansion of grey iron [1/K], handbook value from memory."""
ANCHOR = 2.0
"""A shoe turns about its anchor: its piston moves about so much further than the middle of its lining (geometry)."""
HOT_PARTS = ("heat", "worn shoes")
"""What is not there yet while brakes are cold and adjusted."""
GIVES = ("pads and shoes", "calipers", "hoses")
"""What gives way under pressure, each for itself."""
Volume = Callable[[End, float], float]


class DisplacedVolume(Record, frozen=True):
    """What one cause takes in front and rear [mm3]. ``usual``: nobody stated it, common practice is taken."""

    name: str
    volume: tuple[float, float]
    usual: bool


def parts_of(
    chain: Chain, lines: tuple[float, float], hot: bool = False, worn: bool = False
) -> tuple[DisplacedVolume, ...]:
    """Return what takes fluid at the line pressures ``lines`` [N/mm2], in the order in which it is taken.

    What the vehicle states of hoses, pads and calipers together stands for all three of them while they are cold.
    """
    front, rear = chain.ends
    found = [
        DisplacedVolume("piston retraction", (front.volume, rear.volume), any(end.assumed for end in chain.ends)),
        _part("knock-back", chain, lambda end, _: end.every * end.compliance.knock_back, lines, "knock_back_mm"),
    ]
    if chain.compliance:
        half = chain.compliance * STATED_AT * (lines[0] + lines[1]) / 4
        found.append(DisplacedVolume("hoses, pads and calipers, as stated", (half, half), False))
    else:
        found += [
            _part("pads and shoes", chain, _pads, lines, "pad_mm"),
            _part("calipers", chain, _calipers, lines, "caliper_mm"),
            _part("hoses", chain, _hoses, lines, "hose_mm", "hose_mm3_per_bar_m"),
        ]
    if hot:
        by_pads = any(end.kind == "disc" for end in chain.ends)  # nobody states how much more hot pads give
        found.append(_part("heat", chain, _heat, lines, *(() if by_pads else ("hotter_k",))))
    if worn:
        found.append(_part("worn shoes", chain, _worn, lines, "stands_off_mm"))
    return tuple(found)


def _part(name: str, chain: Chain, volume: Volume, lines: tuple[float, float], *keys: str) -> DisplacedVolume:
    both = tuple(volume(end, line) for end, line in zip(chain.ends, lines))
    taking = [end for end, taken in zip(chain.ends, both) if taken]
    usual = not keys or any(key in end.compliance.usual for end in taking for key in keys)
    return DisplacedVolume(name, (both[0], both[1]), usual)


def _pads(end: End, line: float) -> float:
    """Both pads of both wheels: opposed pistons follow one pad each, a floating caliper's those of both."""
    return end.every * end.compliance.pad * line / STATED_AT * (2.0 if end.floating else 1.0)


def _calipers(end: End, line: float) -> float:
    """A caliper that opens by so much lets the pistons of one side out by it, both wheels."""
    return 2.0 * end.side * end.compliance.caliper * line / STATED_AT if end.kind == "disc" else 0.0


def _hoses(end: End, line: float) -> float:
    return 2.0 * end.compliance.hose / 1e3 * end.compliance.swell * line * 10.0


def _heat(end: End, line: float) -> float:
    """Hot pads give more; a hot drum grows away from its shoes: alpha D/2 dT at the lining, twice that at the piston."""
    if end.kind == "disc":
        return _pads(end, line) * (PADS_HOT - 1.0)
    return end.every * IRON * end.radius * end.compliance.hotter * ANCHOR


def _worn(end: End, line: float) -> float:
    """Worn shoes stand off before somebody adjusts them; a disc's pistons follow their pads."""
    del line
    return end.every * end.compliance.stands_off if end.kind == "drum" else 0.0
