"""The caliper: how it is held, what it spans, what room its body takes."""

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
