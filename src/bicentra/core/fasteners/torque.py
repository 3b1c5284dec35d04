"""Tightening torque for a preload, and what the state of lubrication does to it.

M_A = F (0.159 P + 0.577 d₂ μ_thread + D_Km/2 μ_head) for a 60° thread (VDI 2230-1, eq. for the tightening torque, from
memory; 0.159 = 1/2π, 0.577 = 1/(2 cos 30°)). The friction of one state is a range: the same torque gives a band of preloads.
"""

import math

from bicentra.core.base.records import Record
from bicentra.core.fasteners.joint import Grade, proof_load
from bicentra.core.parts.threads import Thread

FACE_OFF_MM = 1.4
"""How much smaller the washer face of a hexagon head is than its width across flats [mm]: within 0.3 mm of the d_w of
ISO 4014 from M6 to M16, from memory."""
PRELOAD_SHARE = 0.75
"""Preload aimed at as a share of the proof load, for joints that are taken apart again (Shigley 9e eq. 8-31, from memory)."""


class Lubrication(Record, frozen=True):
    """A state of thread and head: least, usual and greatest friction coefficient."""

    name: str
    least: float
    usual: float
    most: float


LUBRICATIONS: dict[str, Lubrication] = {
    state.name: state
    for state in (
        Lubrication("dry", 0.14, 0.18, 0.24),
        Lubrication("oiled", 0.08, 0.12, 0.16),
        Lubrication("threadlocker", 0.10, 0.14, 0.20),
    )
}
"""Dry and oiled: friction classes C and B of VDI 2230-1, from memory. Threadlocker: common practice, no published source; it
lubricates while it is wet."""


class Torque(Record, frozen=True):
    """A tightening torque [N·m] for ``preload`` [N], and the preloads [N] that the friction's scatter makes of it."""

    value: float
    preload: float
    least: float
    most: float
    lubrication: Lubrication

    @property
    def text(self) -> str:
        """The torque with its state and band, as it stands on paper."""
        return (
            f"{self.value:.0f} N·m {self.lubrication.name}: {self.least / 1e3:.1f} to {self.most / 1e3:.1f} kN, "
            f"aimed at {self.preload / 1e3:.1f} kN"
        )


def bearing_diameter(thread: Thread) -> float:
    """Return the mean diameter of the head's bearing face [mm]: between clearance hole and washer face d_w."""
    return (thread.hardware.clearance + thread.hardware.across_flats - FACE_OFF_MM) / 2


def pitch_diameter(thread: Thread) -> float:
    """Return the basic pitch diameter d₂ [mm]; ISO 724, d − 0.64952 P."""
    return thread.major - 0.6495190528383290 * thread.pitch


def torque_per_newton(thread: Thread, friction: float) -> float:
    """Return torque over preload [mm] at one friction coefficient, the same at thread and head."""
    lead = thread.pitch / (2 * math.pi)
    flanks = pitch_diameter(thread) / (2 * math.cos(math.radians(30.0)))
    return lead + (flanks + bearing_diameter(thread) / 2) * friction


def torque_for(thread: Thread, preload: float, state: Lubrication) -> Torque:
    """Return the torque that gives ``preload`` [N] at the state's usual friction, with the band it really gives."""
    value = preload * torque_per_newton(thread, state.usual)
    least, most = (value / torque_per_newton(thread, friction) for friction in (state.most, state.least))
    return Torque(value / 1e3, preload, least, most, state)


def usual_torque(thread: Thread, grade: Grade, state: Lubrication) -> Torque:
    """Return the torque for three quarters of the proof load, lowered where the band's top would pass the proof load."""
    proof = proof_load(thread, grade)
    made = torque_for(thread, PRELOAD_SHARE * proof, state)
    return made if made.most <= proof else torque_for(thread, made.preload * proof / made.most, state)


def compare(one: Torque, other: Torque) -> str:
    """Return how two torques compare, or why they cannot be compared: unlike lubrication is never compared silently."""
    if one.lubrication.name != other.lubrication.name:
        return (
            f"{one.value:.0f} N·m {one.lubrication.name} and {other.value:.0f} N·m {other.lubrication.name} cannot be compared: "
            "the same torque clamps harder on a slippery thread"
        )
    apart = one.value - other.value
    return f"{abs(apart):.0f} N·m {'more' if apart > 0 else 'less'}" if abs(apart) >= 0.5 else "the same torque"
