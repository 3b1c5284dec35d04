"""How much an end's pads, calipers and hoses give way, and how far its pistons are knocked back: as stated, else as is usual."""

from bicentra.core.base.records import Record
from bicentra.core.parts.vehicle import Axle

HOSE_LIMIT = 0.66e3 / 0.3048 / 68.95
"""What a 1/8 in hose may swell [mm3 a bar and metre]: 0.66 cm3 a foot at 1000 psi, FMVSS 106 for regular hoses, from memory."""
USUAL = {
    "knock_back_mm": 0.05,
    "pad_mm": 0.15,
    "caliper_mm": 0.10,
    "hose_mm": 400.0,
    "hose_mm3_per_bar_m": round(HOSE_LIMIT / 3),
}
OF_DRUM = {"knock_back_mm": 0.0, "pad_mm": 0.25, "caliper_mm": 0.0}
"""What is taken where nobody states it [mm, mm at 100 bar, mm3]; a drum's shoes bend and the drum goes oval."""
WHEN_HARD_USED = {"hotter_k": 200.0, "stands_off_mm": 0.5}
"""How much hotter a hard-used drum is [K], and how far worn shoes stand off before somebody adjusts them, each [mm], where
nobody states it: common practice, no source."""
SOURCES = {
    "knock_back_mm": "common practice, no source: runout and play of a sound bearing",
    "pad_mm": "common practice; ISO 6310 is how it is measured, from memory",
    "caliper_mm": "common practice, no source",
    "hose_mm": "common practice, no source",
    "hose_mm3_per_bar_m": "a third of what FMVSS 106 lets a 1/8 in hose swell, from memory",
}


class Flex(Record, frozen=True):
    """One end: knock-back of a piston [mm], pad or shoe and caliper at 100 bar [mm], hose of a wheel [mm], its swelling
    [mm3 a bar and metre]; a drum hotter by [K], its worn shoes off by [mm]. ``usual``: what nobody stated.
    """

    knock_back: float = USUAL["knock_back_mm"]
    pad: float = USUAL["pad_mm"]
    caliper: float = USUAL["caliper_mm"]
    hose: float = USUAL["hose_mm"]
    swell: float = USUAL["hose_mm3_per_bar_m"]
    hotter: float = WHEN_HARD_USED["hotter_k"]
    stands_off: float = WHEN_HARD_USED["stands_off_mm"]
    usual: tuple[str, ...] = tuple(USUAL)


def flex_of(axle: Axle) -> Flex:
    """Return what gives way at ``axle`` [mm, mm3 a bar and metre, K]."""
    usual = {**USUAL, **OF_DRUM} if axle.drum is not None else USUAL
    stated = {name: getattr(axle.give, name) for name in USUAL}
    stated |= {name: getattr(axle.drum, name) for name in WHEN_HARD_USED if axle.drum is not None}
    taken = {**usual, **WHEN_HARD_USED, **{name: value for name, value in stated.items() if value is not None}}
    knock, pad, caliper, hose, swell, hotter, off = taken.values()
    unstated = tuple(name for name, value in stated.items() if value is None)
    return Flex(knock, pad, caliper, hose, swell, hotter, off, unstated)
