"""Two-piece rotors: a friction ring on a hat, several hats for one ring."""

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.parts.hat import Hat
from bicentra.core.parts.rotor import Rotor

CIRCLE_MM, REGISTER_MM = 0.1, 0.1
"""How far the bolt circles of ring and hat may differ, and how loose the ring may sit on its register [mm]:
common practice for a ring that has to run true."""


def misfits(ring: Rotor, hat: Hat) -> tuple[str, ...]:
    """Return why ``ring`` does not go on ``hat``, in words; nothing when it does. What is unknown counts as a reason."""
    found = []
    off = known(ring.ring_bolt_circle_mm) - known(hat.ring_bolt_circle_mm)
    if not abs(off) <= CIRCLE_MM:
        found.append(f"bolt circles {_mm(ring.ring_bolt_circle_mm)} and {_mm(hat.ring_bolt_circle_mm)}")
    if ring.ring_bolt_count is None or ring.ring_bolt_count != hat.ring_bolt_count:
        found.append(f"{ring.ring_bolt_count or 'unknown'} and {hat.ring_bolt_count or 'unknown'} bolts")
    play = known(ring.ring_register_mm) - known(hat.ring_register_mm)
    if not -1e-9 <= play <= REGISTER_MM:
        found.append(f"registers {_mm(ring.ring_register_mm)} and {_mm(hat.ring_register_mm)}")
    if not is_known(ring.ring_seat_mm, hat.height_mm):
        found.append("the seat of the ring or the height of the hat is unknown")
    return tuple(found)


def _mm(value: float | None) -> str:
    return "unknown" if value is None else f"{value:g} mm"


def on_hat(ring: Rotor, hat: Hat) -> Rotor:
    """Return ring and hat bolted together, as one rotor.

    Overall height = hat, outer face to ring seat, plus ring, inboard face to its seat. Guesses of both are kept where the
    rotor has the dimension. Whether they fit each other is for ``misfits``.
    """
    height = known(hat.height_mm) + known(ring.ring_seat_mm)
    masses = (ring.mass_kg, hat.mass_kg)
    mass = round(sum(m for m in masses if m is not None), 3) if None not in masses else None
    names = {"height_mm": "overall_height_mm"}
    guessed = {*ring.guessed, *(names.get(name, name) for name in hat.guessed)}
    if "ring_seat_mm" in ring.guessed:
        guessed.add("overall_height_mm")
    return replace(
        ring, name=f"{ring.name} on {hat.name}", kind="two-piece", overall_height_mm=height if is_known(height) else None,
        hat_thickness_mm=hat.hat_thickness_mm, centre_bore_mm=hat.centre_bore_mm, hat_inner_diameter_mm=hat.hat_inner_diameter_mm,
        bolt_circle_mm=hat.bolt_circle_mm, hole_count=hat.hole_count, hole_mm=hat.hole_mm, mass_kg=mass,
        hat_register_mm=hat.ring_register_mm, ring_flange_mm=hat.ring_flange_mm, ring_held=hat.ring_held,
        register_depth_mm=hat.register_depth_mm,
        guessed=tuple(sorted(guessed)),
    )  # fmt: skip
