"""How far pedal and master go at each stage of a stop, with every cause's share of the fluid."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.balance import locking
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.fluid_displacement import DisplacedVolume, parts_of
from bicentra.core.hydraulics.travel import Travel, moved

WORK_G = 0.6
"""Deceleration at which feel and stroke are compared [g]: common practice."""


class Stage(Record, frozen=True):
    """One stage: foot force there [N], what takes fluid, and the travel all of it makes."""

    name: str
    foot: float
    parts: tuple[DisplacedVolume, ...]
    travel: Travel

    @property
    def strokes(self) -> tuple[float, ...]:
        """What each part takes of the master's stroke [mm]."""
        whole = math.fsum(sum(part.volume) for part in self.parts)
        return tuple(self.travel.stroke * sum(part.volume) / whole if whole > 0.0 else UNKNOWN for part in self.parts)

    @property
    def usual(self) -> tuple[str, ...]:
        """Names of the parts that nobody stated."""
        return tuple(part.name for part in self.parts if part.usual)

    def without(self, names: tuple[str, ...], chain: Chain) -> Travel:
        """Return the travel that is left without the parts called ``names`` [mm]."""
        left = [part.volume for part in self.parts if part.name not in names]
        volume = math.fsum(pair[0] for pair in left), math.fsum(pair[1] for pair in left)
        return moved(chain, volume, volume)


def stages_of(chain: Chain) -> tuple[Stage, ...]:
    """Return bite, 0.6 g and lock-up cold, then 0.6 g with hot brakes and with worn ones that nobody adjusted."""
    work = chain.foot_for(WORK_G)
    lock = locking(chain, chain.body.grip).foot if is_known(chain.body.grip) else UNKNOWN
    return (
        stage(chain, "to the bite, knocked back", 0.0),
        stage(chain, f"at {WORK_G:g} g", work),
        stage(chain, f"wheels lock, grip {chain.body.grip:g}", lock),
        stage(chain, f"at {WORK_G:g} g, hot", work, hot=True),
        stage(chain, f"at {WORK_G:g} g, hot and worn", work, hot=True, worn=True),
    )


def stage(chain: Chain, name: str, foot: float, hot: bool = False, worn: bool = False) -> Stage:
    """Return one stage at a ``foot`` force [N]."""
    parts = tuple(part for part in parts_of(chain, chain.lines(foot), hot, worn) if any(part.volume))
    front, rear = (math.fsum(part.volume[place] for part in parts) for place in (0, 1))
    return Stage(name, foot, parts, moved(chain, (front, rear), (front, rear)))
