"""The rotor: one piece, or a friction ring and the hat that carries it; hats for two-piece rotors."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.parts import fields as f

HAT_WALL_MM = 7.0
"""Wall of the hat's drum assumed where nothing says otherwise: usual for cast rotors, common practice."""


class Rotor(f.Described):
    """The rotor; symbols of the trade: D, t, H (overall height), h (hat thickness), inner edge of the swept band.

    ``assembled``: ring and hat were bought as one, so nobody has to know what joins them.
    """

    name: str = f.text("Name")
    diameter_mm: float | None = f.length("Diameter")
    thickness_mm: float | None = f.length("Thickness, new")
    min_thickness_mm: float | None = f.length("Discard thickness")
    overall_height_mm: float | None = f.length("Overall height", help="Hat outer face to inboard friction face")
    hat_thickness_mm: float | None = f.length("Hat thickness")
    swept_inner_diameter_mm: float | None = f.length("Swept band, inner diameter")
    centre_bore_mm: float | None = f.length("Centre bore")
    hat_inner_diameter_mm: float | None = f.length("Hat, inside diameter")
    hat_outer_diameter_mm: float | None = f.length("Hat, outside diameter", help="Empty: bounded by the swept band")
    hat_lip_mm: float | None = f.length("Narrowest inside the hat", help="A lip near its bottom; empty: none felt")
    bolt_circle_mm: float | None = f.length("Bolt circle")
    hole_count: int | None = f.count("Holes", 3, 12)
    hole_mm: float | None = f.length("Hole diameter")
    kind: str = f.choice("Kind", ("one-piece", "two-piece", "ring"), "one-piece", "Ring: a friction ring without a hat")
    vanes: str = f.choice("Vanes", ("none", "straight", "left", "right"), "straight")
    mass_kg: float | None = f.mass("Mass")
    ring_bolt_circle_mm: float | None = f.length("Ring's own bolt circle", help="Two-piece or hat-less rotors")
    ring_bolt_count: int | None = f.count("Ring's own bolts", 3, 24)
    ring_bolt_hole_mm: float | None = f.length("Ring's own bolt holes")
    ring_register_mm: float | None = f.length("Ring's register", help="Diameter that centres the ring on its hat")
    ring_seat_mm: float | None = f.length(
        "Ring's seat above inboard face", above=None, help="From the inboard friction face to where the ring seats"
    )
    ring_on: str = f.choice(
        "Ring lies on its hat's",
        ("inboard face", "outboard face"),
        "inboard face",
        "Seen with the hat's closed face outward",
    )
    assembled: bool = False
    ring_held: str | None = f.choice("Ring is held by", ("bolts", "screws", "snap ring"), None)
    ring_flange_mm: float | None = f.length("Hat's rim under the ring, thickness", most=60.0)
    hat_register_mm: float | None = f.length("Hat's register", help="Diameter on the hat that centres its ring")
    register_depth_mm: float | None = f.length("Register, how deep the ring sits on it", most=60.0)
    old_bolt_circle_mm: float | None = f.length(
        "Redrilled: old bolt circle", help="Empty: it has the holes it was made with"
    )
    old_hole_count: int | None = f.count("Redrilled: old holes", 3, 12)
    old_hole_mm: float | None = f.length("Redrilled: old hole diameter")
    old_holes: str = f.choice("Redrilled: the old holes are", ("open", "filled"), "open")
    through_holes: int | None = f.count("Drilled: holes through the ring", 0, 500, help="Empty: none")
    through_hole_mm: float | None = f.length("Drilled: their diameter", most=30.0, help="Empty: not drilled")
    slots: int | None = f.count("Slotted: slots of both faces together", 0, 200, help="Empty: none")
    slot_wide_mm: float | None = f.length("Slotted: width of a slot", most=20.0, help="Empty: not slotted")
    slot_deep_mm: float | None = f.length("Slotted: depth of a slot", most=20.0, help="Empty: not slotted")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()

    @property
    def height_mm(self) -> float | None:
        """Overall height; that of a hat-less ring is its thickness."""
        return self.thickness_mm if self._bare and self.overall_height_mm is None else self.overall_height_mm

    @property
    def flange_mm(self) -> float | None:
        """What lies under the wheel or on the hub: the hat's thickness, of a hat-less ring its own."""
        return self.thickness_mm if self._bare and self.hat_thickness_mm is None else self.hat_thickness_mm

    @property
    def hollow_mm(self) -> float | None:
        """Inside diameter of the hat; of a hat-less ring its bore."""
        return self.centre_bore_mm if self._bare and self.hat_inner_diameter_mm is None else self.hat_inner_diameter_mm

    @property
    def hat_outer_mm(self) -> float | None:
        """Outside diameter of the hat as drawn: measured, else its inside and a usual wall."""
        if self.hat_outer_diameter_mm is not None or self.hollow_mm is None:
            return self.hat_outer_diameter_mm
        return self.hollow_mm + 2 * HAT_WALL_MM

    @property
    def _bare(self) -> bool:
        return self.kind == "ring"


class Hat(f.Described):
    """A hat. ``height_mm``: from its outer (wheel-side) face to the face its ring seats on."""

    name: str = f.text("Name")
    height_mm: float | None = f.length("Outer face to ring seat", above=None)
    hat_thickness_mm: float | None = f.length("Hat thickness")
    centre_bore_mm: float | None = f.length("Centre bore")
    hat_inner_diameter_mm: float | None = f.length("Hat, inside diameter")
    bolt_circle_mm: float | None = f.length("Bolt circle")
    hole_count: int | None = f.count("Holes", 3, 12)
    hole_mm: float | None = f.length("Hole diameter")
    ring_bolt_circle_mm: float | None = f.length("Bolt circle of its ring")
    ring_bolt_count: int | None = f.count("Bolts of its ring", 3, 24)
    ring_bolt_hole_mm: float | None = f.length("Bolt holes of its ring")
    ring_register_mm: float | None = f.length("Register of its ring")
    ring_flange_mm: float | None = f.length("Rim under the ring, thickness", most=60.0)
    ring_held: str | None = f.choice("Ring is held by", ("bolts", "screws", "snap ring"), None)
    register_depth_mm: float | None = f.length("Register, how deep the ring sits on it", most=60.0)
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()


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
