"""What has to be made anew or adapted when master and brakes change, from what is known of old and new."""

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.hydraulics.ends import areas_of
from bicentra.core.parts.threads import same_thread
from bicentra.core.parts.vehicle import AXLES, Axle, Master, Vehicle

CHAMBERS = ("by the rod", "far from the rod")


def rework_list(vehicle: Vehicle) -> tuple[str, ...]:
    """Return what has to be made or looked at, a sentence each; what nobody said is asked for, never passed over."""
    chassis, found = vehicle.vehicle, list[str]()
    old, new = chassis.before.master, chassis.master
    if old is not None:
        found += _outlets(old, new)
        found += _body(old, new, LengthFormat(units_of(vehicle.display_units)))
    if new.kind in ("tandem", "stepped") and new.front_from is None:
        found.append(
            "Which chamber feeds the front is not stated: follow the lines before any is loosened, and write it down."
        )
    found += [text for name in AXLES for text in _end(vehicle, name)]
    if chassis.valve.kind not in ("none", "gutted"):
        found.append("The valve stands in the rear line: IN from the master, OUT to the rear; never turned round.")
    found.append(
        "The stop-lamp switch sits in either line ahead of a valve: its thread has to be that of the port it goes into."
    )
    return tuple(found)


def _outlets(old: Master, new: Master) -> list[str]:
    if old.outlet_thread is None or new.outlet_thread is None:
        which = " and ".join(word for word, one in (("old", old), ("new", new)) if one.outlet_thread is None)
        return [f"The outlet thread of the {which} master is not stated: lines or adapters are unknown."]
    if same_thread(old.outlet_thread, new.outlet_thread):
        return [f"Outlets stay {new.outlet_thread}: the lines' nuts fit; look that their flare is the same."]
    return [f"Outlets change from {old.outlet_thread} to {new.outlet_thread}: adapters, or new flares with other nuts."]


def _body(old: Master, new: Master, lengths: LengthFormat) -> list[str]:
    found = []
    if old.kind != new.kind:
        found.append(f"A {new.kind} master in place of a {old.kind} one: lines, reservoir and switch are others.")
    sizes = known(old.stroke_mm), known(new.stroke_mm)
    if is_known(*sizes) and sizes[1] > sizes[0]:
        found.append(
            f"It strokes {lengths.size(round(sizes[1] - sizes[0], 1))} further: the pedal needs that way before its stop."
        )
    return found


def _end(vehicle: Vehicle, name: str) -> list[str]:
    """Return what one end asks of reservoir and lines."""
    axle = vehicle.axles.get(name)
    if axle is None or axle.drum is not None:
        return []
    found = []
    _, every = areas_of(axle.caliper)
    worn = known(axle.pad.thickness_mm) - known(axle.pad.min_thickness_mm)
    if is_known(every, worn) and worn > 0.0:
        cm3 = 2 * every * worn / 1e3
        found.append(f"The reservoir has to hold {cm3:.0f} cm3 for the {name} pads to wear down, that circuit alone.")
    else:
        found.append(
            f"How much the reservoir loses to worn {name} pads is unknown: pistons, pad thickness new and worn."
        )
    if _had_drums(axle):
        found.append(
            f"Hoses in the {name} were for drums: the caliper's port wants its own, looked at over lock and droop."
        )
    return found


def _had_drums(axle: Axle) -> bool:
    return axle.before is not None and axle.before.drum is not None
