"""Planted faults: one change to a faultless job makes the finding that owns it speak, and only it and its kin.

What a fault is, is plain from the change: a bolt too long, a wall too thin, a hole too near. No figure is checked here; that the
right question says stop or watch is.
"""

import pytest

from bicentra.core.base.finding import Edit, Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.registry import KINDS
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Cutout, Dowel, Job, Obstacle, Parking
from bicentra.core.parts.materials import MATERIALS
from bicentra.study.document.starting import demo_job, example_vehicle

FAULTS: tuple[tuple[str, str, tuple[Edit, ...], tuple[str, ...]], ...] = (
    ("bolt-tip-to-rotor", "flat", (("bracket.caliper_bolt_length_mm",45.0),), ()),
    ("tip-gap", "flat", (("caliper.bridge_to_pad_top_mm",1.5),), ()),
    ("thread-fit", "flat", (("caliper.ear_thread","M12x1.75"),), ()),
    ("caliper-to-rotor", "flat", (("rotor.hat_outer_diameter_mm",176.0),), ()),
    ("knuckle-to-rotor", "flat", (("knuckle.obstacles[0].z_max_mm",-36.0),), ()),
    ("caliper-to-obstacle", "flat", (("knuckle.obstacles",(Obstacle(name="post",outline_mm=((-118.0,66.0),(-130.0,66.0),(-130.0,76.0),(-118.0,76.0)),z_min_mm=-90.0,z_max_mm=-30.0),)),), ('caliper-removal',)),
    ("bracket-to-rotor", "flat", (("knuckle.lugs[0].z_mm",-50.0),("knuckle.lugs[1].z_mm",-50.0),("caliper.ear_face_offset_mm",-12.3)), ('bolt-tip-to-rotor', 'caliper-to-rotor', 'bracket-to-caliper', 'edge-distance', 'corner-mismatch')),
    ("bracket-to-hub", "axle-end", (("hub.barrel_diameter_mm",70.0),), ()),
    ("axial-offset", "flat", (("bracket.thickness_mm",10.0),("bracket.shims_mm",(1.0,1.0))), ('bolt-tip-to-rotor',)),
    ("thread-engagement", "flat", (("bracket.lug_bolt_length_mm",20.0),), ()),
    ("edge-distance", "flat", (("bracket.wall_mm",4.0),), ()),
    ("ligament", "flat", (("knuckle.lugs[1].x_mm",-83.0),("knuckle.lugs[1].y_mm",-54.0)), ('bolt-head-room', 'caliper-removal', 'corner-mismatch')),
    ("cutout-metal", "flat", (("bracket.cutouts",(Cutout(x_mm=-58.0,y_mm=0.0,diameter_mm=22.0),)),), ()),
    ("dowel-metal", "flat", (("bracket.dowels",(Dowel(x_mm=-52.0,y_mm=0.0),)),), ()),
    ("chamfer-land", "flat", (("bracket.chamfer_mm",4.8),), ()),
    ("slot-hold", "flat", (("bracket.lug_hole","slot"),("bracket.slot_mm",4.0)), ()),
    ("counterbore-floor", "two-bolts", (("bracket.thickness_mm",8.0),("bracket.shims_mm",(4.2,4.2))), ('shim-stack',)),
    ("least-sizes", "flat", (("bracket.lug_bolt","M8"),("knuckle.lugs[0].thread","M8"),("knuckle.lugs[1].thread","M8"),("knuckle.lugs[0].hole_mm",6.8),("knuckle.lugs[1].hole_mm",6.8)), ('corner-mismatch',)),
    ("radial-edge", "radial", (("bracket.thickness_mm",20.0),("knuckle.lugs[0].z_mm",-74.0),("knuckle.lugs[1].z_mm",-74.0)), ()),
    ("radial-plane", "radial", (("knuckle.lugs[0].z_mm",-76.0),("knuckle.lugs[1].z_mm",-76.0)), ()),
    ("radial-stud-hole", "radial", (("caliper.ear_hole_mm",11.0),), ()),
    ("axle-end-retainer", "axle-end", (("hub.backing_plate_mm",6.0),("bracket.thickness_mm",8.0)), ('retainer-spacer',)),
    ("axle-end-pilot", "axle-end", (("hub.tube_diameter_mm",80.0),), ()),
    ("axle-end-bolts", "axle-end", (("hub.retainer_circle_mm",168.0),("hub.retainer_bolt_end_z_mm",-39.0)), ('caliper-to-rotor', 'knuckle-to-rotor')),
    ("axle-end-ligament", "axle-end", (("hub.retainer_circle_mm",184.0),("hub.retainer_first_deg",145.0)), ('caliper-to-rotor',)),
    ("weld-metal", "tube-tab", (("bracket.material","aluminium 6082-T6"),), ()),
    ("weld-height", "tube-tab", (("hub.tube_diameter_mm",156.0),), ('bracket-to-hub',)),
    ("weld-bearing-seat", "tube-tab", (("hub.retainer_face_z_mm",-40.0),), ()),
    ("bushing-axial", "bushings", (("knuckle.lugs[0].z_mm",-62.0),("knuckle.lugs[1].z_mm",-62.0)), ('bolt-tip-to-rotor', 'axial-offset')),
    ("bushing-clock", "bushings", (("fit.clock_deg",181.5),), ()),
    ("bushing-ear", "bushings", (("caliper.ear_boss_mm",24.0),), ()),
    ("straight-holes", "no-bracket", (("caliper.ear_spacing_mm",131.0),), ()),
    ("straight-play", "no-bracket", (("caliper.ear_hole_mm",16.0),), ()),
    ("bolt-head-room", "flat", (("caliper.ear_boss_mm",60.0),), ()),
    ("bracket-to-caliper", "flat", (("caliper.body_inboard_mm",42.0),("caliper.body_section_mm",((-42.0,-44.0),(-42.0,8.0),(-24.0,20.0),(38.0,20.0),(54.0,4.0),(54.0,-36.0),(46.0,-44.0)))), ()),
    ("bracket-to-obstacle", "flat", (("knuckle.obstacles",(Obstacle(name="post",outline_mm=((-44.8,0.0),(-36.0,-4.0),(-36.0,4.0)),z_min_mm=-90.0,z_max_mm=-60.0),)),), ()),
    ("handedness", "flat", (("caliper.hand","left"),), ()),
    ("wheel-room", "flat", (("wheel.weights[0].height_mm",30.0),), ()),
    ("rotor-on-hub", "flat", (("rotor.bolt_circle_mm",108.0),), ()),
    ("wheel-on-hub", "flat", (("wheel.centre_bore_mm",54.0),), ()),
    ("retainer-spacer", "flat", (("hub.retainer_spacer_mm",8.0),), ('corner-mismatch',)),
    ("retainer-reach", "flat", (("hub.retainer_circle_mm",150.0),), ('caliper-to-rotor', 'corner-mismatch')),
    ("slot-gap", "flat", (("caliper.slot_width_mm",20.6),), ()),
    ("wheel-stud-engagement", "flat", (("hub.stud_length_mm",22.0),), ('corner-mismatch',)),
    ("bleeder-up", "flat", (("caliper.bleeders_deg",(0.0,)),), ()),
    ("pad-inner-edge", "flat", (("rotor.swept_inner_diameter_mm",172.0),), ('caliper-to-rotor',)),
    ("pad-overhang", "flat", (("fit.pad_inset_mm",-2.0),), ()),
    ("shim-stack", "flat", (("knuckle.lugs[0].z_mm",-75.7),("knuckle.lugs[1].z_mm",-75.7),("bracket.thickness_mm",8.0),("bracket.shims_mm",(4.2,4.2))), ('corner-mismatch',)),
    ("corner-mismatch", "flat", (("knuckle.lugs[0].y_mm",46.0),), ()),
    ("float-travel", "flat", (("caliper.action","floating"),("caliper.pad_thickness_mm",11.0),("caliper.slide_inboard_mm",4.0),("caliper.slide_outboard_mm",20.0),("caliper.pistons_outboard_mm",())), ()),
    ("spacer-width", "flat", (("bracket.family","two-part"),("knuckle.lugs[0].z_mm",-105.0),("knuckle.lugs[1].z_mm",-105.0)), ('corner-mismatch',)),
    ("metal-under-step", "flat", (("bracket.family","stepped-plate"),("knuckle.lugs[0].z_mm",-66.0),("knuckle.lugs[1].z_mm",-66.0)), ('least-sizes', 'corner-mismatch')),
    ("radial-ligament", "radial", (("knuckle.lugs[0].x_mm",-76.0),("knuckle.lugs[1].x_mm",-76.0)), ('bolt-head-room', 'caliper-removal')),
    ("radial-stud-size", "radial", (("bracket.caliper_bolt","M8x1.25"),), ()),
    ("radial-seat", "radial", (("fit.radial_shim_mm",3.5),), ('radial-ligament',)),
    ("axle-end-offset", "axle-end", (("caliper.ear_face_offset_mm",-18.0),), ('bolt-tip-to-rotor', 'caliper-to-rotor', 'bracket-to-caliper')),
    ("sleeve-wall", "flat", (("bracket.family","sleeve"),("knuckle.lugs[0].thread",None),("knuckle.lugs[1].thread",None),("knuckle.lugs[0].hole_mm",13.3),("knuckle.lugs[1].hole_mm",13.3)), ('thread-engagement', 'corner-mismatch')),
    ("ring-on-hat", "rotor-side", (("rotor.hat_register_mm",153.0),), ()),
    ("not-shaped", "tube-tab", (("bracket.cutouts",(Cutout(x_mm=-60.0,y_mm=0.0,diameter_mm=12.0),)),), ()),
    ("caliper-tilt", "flat", (("fit.ear_shims_mm",((0.4,),())),), ()),
    ("caliper-sizes", "flat", (("caliper.pistons_outboard_mm",(44.0,44.0)),), ()),
    ("rotor-sizes", "flat", (("rotor.mass_kg",54.0),), ()),
    ("wheel-sizes", "flat", (("wheel.hole_count",24),), ()),
    ("hub-sizes", "flat", (("fit.rotor_turn_studs",5),), ()),
    ("lug-sizes", "flat", (("knuckle.lugs[0].thickness_mm",3.0),), ('thread-engagement', 'corner-mismatch')),
    ("axle-matched", "flat", (("unlike",("caliper.pistons_inboard_mm",)),), ()),
    ("bracket-choices", "flat", (("bracket.material","PLA"),), ('weld-metal',)),
    ("limit-not-accepted", "flat", (("limits",{"tip-gap":-9.0}),), ()),
    ("unused-limit", "flat", (("limits",{"no-such-limit":1.0}),), ()),
    ("parking-apart", "flat", (("parking",Parking(caliper=demo_job().caliper,clock_deg=200.0)),), ('parking-bracket', 'parking-caliper-to-obstacle', 'parking-bolt-head-room')),
    ("parking-bracket", "flat", (("parking",Parking(caliper=demo_job().caliper,clock_deg=0.0)),), ('parking-bracket-to-obstacle', 'parking-retainer-reach')),
    ("weld-length", "tube-tab", (("hub.tube_diameter_mm",24.0),), ()),
    ("bracket-suits", "tube-tab", (("bracket.tab_fork_mm",12.0),), ("caliper-to-rotor", "wheel-room", "caliper-removal")),
    ("radial-nut-room", "radial", (("bracket.studs","through the plate"),("caliper.ear_face_offset_mm",-20.0)), ('bolt-tip-to-rotor', 'caliper-to-rotor', 'bracket-to-rotor', 'radial-ligament')),
    ("bend-room", "tube-tab", (("bracket.tab_jog_mm",30.0),), ()),
    ("bushing-wall", "bushings", (("limits",{"bushing-wall":2.5}),), ()),
    ("bushing-hot", "bushings in iron", (("caliper.ear_material","aluminium"),), ()),
    ("hose-room", "flat", (("caliper.hose_port_mm",((0.0,-20.0,0.0),)),), ()),
    ("unsupported", "flat", (("bracket.family","nonesuch"),), ()),
    ("parking-clear-of-bracket", "flat", (("parking",Parking(caliper=demo_job().caliper,clock_deg=180.0,side="inboard")),), ('parking-apart', 'parking-axial-offset')),
    ("parking-adapter-to-caliper", "flat", (("parking",Parking(caliper=replace(demo_job().caliper,ear_face_offset_mm=-20.0,body_inboard_mm=20.0),clock_deg=270.0)),), ('parking-bolt-tip-to-rotor', 'parking-caliper-to-rotor', 'parking-bracket-to-caliper', 'parking-shim-stack', 'parking-retainer-reach')),
    ("caliper-removal", "flat", (("knuckle.obstacles",(Obstacle(name="post",outline_mm=((-150.0,-5.0),(-160.0,-5.0),(-160.0,5.0),(-150.0,5.0)),z_min_mm=-90.0,z_max_mm=-20.0),)),), ()),
)  # fmt: skip
"""The finding, the job, the change, and what else it may make speak: what shares the size, the place or the corner."""
BAD = (Verdict.STOP, Verdict.CAUTION, Verdict.UNKNOWN)


def faultless(name: str) -> Job:
    """An example, or the demo with both of its faults cured and without its survey."""
    if name == "bushings in iron":  # which grows as much as they do
        return with_edits(faultless("bushings"), (("caliper.ear_material", "iron"),))
    if name != "flat":
        return job_of(example_vehicle(name))
    return with_edits(
        demo_job(), (("survey", {}), ("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None))
    )


@pytest.mark.parametrize(("id", "name", "edits", "kin"), FAULTS, ids=[row[0] for row in FAULTS])
def test_a_fault_is_told_by_its_owner(id: str, name: str, edits: tuple[Edit, ...], kin: tuple[str, ...]) -> None:
    """The finding was met or not asked, and says stop or watch after the change; of the others only its kin say anything new."""
    job = faultless(name)
    before = {f.id: f.verdict for f in solve(job).findings if f.verdict in BAD}
    after = {f.id: f.verdict for f in solve(with_edits(job, edits)).findings if f.verdict in BAD}
    new = {key: verdict for key, verdict in after.items() if before.get(key) is not verdict}
    assert id not in before and new.get(id) in (
        (Verdict.UNKNOWN,) if id == "unsupported" else (Verdict.STOP, Verdict.CAUTION)
    )
    assert set(new) - {id} <= set(kin)


NEVER = {"radial-stud-thread": "the studs' holes are made as deep as their metal asks for"}
"""Findings that no change makes speak, because the bracket is made so that they do not; with the reason."""


def test_every_finding_of_a_corner_is_planted() -> None:
    """Every row names a finding of the registry, none twice; every finding has one, but those of survey, trial fit and pedal, which have
    theirs where those are tested, and what never speaks."""
    ids = [row[0] for row in FAULTS]
    here = {kind.id for kind in KINDS if kind.group not in ("survey", "trial", "pedal")}
    assert len(set(ids)) == len(ids) and set(ids) | set(NEVER) == here | {"corner-mismatch"}


@pytest.mark.parametrize("metal", list(MATERIALS))
@pytest.mark.parametrize("stud", ["M8x1.25", "M10x1.5", "M12x1.75", "3/8-16"])
def test_studs_are_always_deep_enough(metal: str, stud: str) -> None:
    """Whatever metal and stud: the thread in the edge is as long as that against stripping (ISO 898-1, FED-STD-H28/2 by way of
    ``engagement_against_stripping``, tested with its own truths)."""
    job = with_edits(faultless("radial"), (("bracket.material", metal), ("bracket.caliper_bolt", stud)))
    found = {f.id: f for f in solve(job, turns=False).findings}.get("radial-stud-thread")
    assert found is None or found.verdict is Verdict.OK
