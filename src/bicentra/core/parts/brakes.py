"""What presses: the caliper, the drum brake, the master cylinder."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class Caliper(f.Described):
    """The caliper in its own frame: radial away from the axle, tangential towards rising clock angle, axial.

    Outlines in the caliper's frame: ``body_section_mm`` (z from slot centre, out from pad top) in the axial section,
    ``body_face_mm`` and ``pad_outline_mm`` (along w, out from pad top) seen along the axle. ``hose_port_mm``: one point
    (along w, out from pad top, z from slot centre) that needs a finger's room. Pistons are listed from the leading
    end (+w) to the trailing one.
    """

    name: str = f.text("Name")
    action: str = f.choice("Action", ("fixed", "floating"), "fixed")
    mount: str = f.choice("Mount", ("axial", "radial"), "axial")
    ear_spacing_mm: float | None = f.length("Ear hole spacing")
    ear_hole_mm: float | None = f.length("Ear hole diameter")
    ear_thread: str | None = f.thread("Ear thread", help="Empty for plain ears")
    ear_thickness_mm: float | None = f.length("Ear thickness")
    ear_boss_mm: float | None = f.length("Ear boss diameter")
    ear_line_to_pad_top_mm: float | None = f.length(
        "Ear line to pad top", above=None, help="How far the hole line lies inside the pad's outer edge"
    )
    ear_face_offset_mm: float | None = f.length(
        "Ear face offset", above=None, help="From slot centre, outboard positive"
    )
    ear_seat: str = f.choice("Ear seat looks", ("inboard", "outboard"), "inboard")
    ear_material: str | None = f.choice(
        "Ear material", ("steel", "iron", "aluminium"), None, "Decides thread engagement"
    )
    slot_width_mm: float | None = f.length("Slot width")
    bridge_to_pad_top_mm: float | None = f.length("Gap, pad top to inside of bridge", above=None)
    pad_height_mm: float | None = f.length("Pad height")
    pad_width_mm: float | None = f.length("Pad width")
    body_inboard_mm: float | None = f.length("Body, inboard of slot centre")
    body_outboard_mm: float | None = f.length("Body, outboard of slot centre")
    body_outer_mm: float | None = f.length("Body, outside pad top")
    body_width_mm: float | None = f.length("Body width")
    body_section_mm: tuple[tuple[float, float], ...] = ()
    body_face_mm: tuple[tuple[float, float], ...] = ()
    pad_outline_mm: tuple[tuple[float, float], ...] = ()
    pad_outer_radius_mm: float | None = f.length("Pad's own outer radius", help="Empty: struck about the axle")
    pad_thickness_mm: float | None = f.length("Pad material, new", most=100.0)
    slide_inboard_mm: float | None = f.thickness("Slides allow, inboard", "Floating: from new pads")
    slide_outboard_mm: float | None = f.thickness("Slides allow, outboard", "Floating: from new pads")
    hose_port_mm: tuple[tuple[float, float, float], ...] = ()
    hand: str = f.choice(
        "Made for", ("either", "right", "left"), "either", "Side of the vehicle, mounted behind the axle"
    )
    pistons_inboard_mm: tuple[float, ...] = ()
    pistons_outboard_mm: tuple[float, ...] = ()
    bleeders_deg: tuple[float, ...] = ()
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()


SHOES = {"leading-trailing": (1.8, 2.2, 2.8), "twin-leading": (2.4, 3.0, 3.8), "duo-servo": (3.2, 4.6, 6.5)}
"""Brake factor of a drum by its shoes, at least, usually, at most: about friction 0.35 ± 0.05; Limpert, Brake
Design and Safety ch. 2, from memory.
"""


class Drum(f.Described):
    """A drum brake: torque = factor · max(p − threshold, 0) · cylinder area · radius."""

    name: str = f.text("Name")
    cylinder_bore_mm: float | None = f.length("Wheel cylinder bore", most=100.0)
    diameter_mm: float | None = f.length("Drum diameter")
    layout: str | None = f.choice("Shoes", tuple(SHOES), None, "For a guess of the brake factor")
    factor: float | None = f.number("Brake factor", most=20.0)
    threshold_bar: float | None = f.pressure("Pressure before the shoes bite", most=50.0)
    hotter_k: float | None = f.number("In hard use hotter by, °C", most=800.0)
    stands_off_mm: float | None = f.thickness("Worn shoes stand off by", "Before somebody adjusts them, each shoe")
    extra: Mapping[str, Any] = f.other_keys()


class MasterCylinder(f.Described):
    """A master cylinder as it lies on the library."""

    name: str = f.text("Name")
    bore_mm: float | None = f.length("Bore", most=100.0)
    stroke_mm: float | None = f.length("Stroke", most=200.0)
    circuits: int | None = f.count("Circuits", 1, 2)
    outlet_thread: str | None = f.thread("Outlet thread")
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()
