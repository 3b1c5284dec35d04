"""The line-up: from hub, rotor, caliper and fit to the place of every feature.

Frame: origin where the wheel axis meets the hub face, z outboard, x forward, y up. Clock angle from forward towards
up. All formulas are plane geometry in that frame; lengths in mm.
"""

import math

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.lineup.pad import PadContact, pad_contact
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance
from bicentra.core.parts.materials import ROTOR_EXPANSION

Point3 = tuple[float, float, float]


class LineUp(Record, frozen=True):
    """Every quantity of the line-up for a caliper that is centred on the rotor (axial error zero). Unknown is nan.

    ``radial_seat``: radius at which the bracket holds a radial-mount caliper: the feet less the shims under them.
    """

    hat_outer_z: float
    rotor_midplane_z: float
    pad_top_radius: float
    ear_line_radius: float
    ear_face_z: float
    axial_offset: tuple[float, ...]
    ears: tuple[Point3, Point3]
    tip_gap: float
    tip_gap_hot: float
    slot_gap: float
    pad: PadContact
    track_change: float
    wheel_seat_z: float
    clock: float
    radial_seat: float = UNKNOWN

    @cached_property
    def frame(self) -> ClockFrame:
        """The caliper's frame, at its clock angle."""
        return ClockFrame(self.clock)


def line_up(job: Job) -> LineUp:
    """Return the line-up of ``job``. Nothing raises: what a missing measurement decides comes out unknown."""
    rotor, caliper, fit = job.rotor, job.caliper, job.fit
    hat_z = hat_outer_z(job)
    mid_z = _rotor_middle(job, hat_z)
    inset, radius = known(fit.pad_inset_mm), known(rotor.diameter_mm) / 2
    pad_top = radius - inset
    ear_line = pad_top - known(caliper.ear_line_to_pad_top_mm)
    ear_z = mid_z + known(caliper.ear_face_offset_mm)
    tip = known(caliper.bridge_to_pad_top_mm) - inset
    growth = ROTOR_EXPANSION * allowance(job, "hot-rise-k") * radius
    over_hub = job.hub.mounting == "over-hub"
    spacer, under = known(fit.rotor_spacer_mm), known(fit.wheel_spacer_mm)
    return LineUp(
        hat_outer_z=hat_z,
        rotor_midplane_z=mid_z,
        pad_top_radius=pad_top,
        ear_line_radius=ear_line,
        ear_face_z=ear_z,
        axial_offset=tuple(ear_z - known(lug.z_mm) for lug in job.knuckle.lugs),
        ears=_ears(ear_line, known(caliper.ear_spacing_mm), known(fit.clock_deg), ear_z),
        tip_gap=tip,
        tip_gap_hot=tip - growth,
        slot_gap=(known(caliper.slot_width_mm) - known(rotor.thickness_mm)) / 2,
        pad=pad_contact(job),
        track_change=2 * ((spacer if over_hub else 0.0) + under),
        wheel_seat_z=(hat_z if over_hub else 0.0) + under,
        clock=known(fit.clock_deg),
        radial_seat=ear_line - known(fit.radial_shim_mm) - _under_feet(job) if caliper.mount == "radial" else UNKNOWN,
    )


def _under_feet(job: Job) -> float:
    """Return the shims under a radial mount's feet that are listed foot by foot [mm]: the middle of both."""
    return sum(math.fsum(pieces) for pieces in job.fit.ear_shims_mm) / 2


def hat_outer_z(job: Job) -> float:
    """Return z of the hat's outer face [mm]: s + h over the hub, −f − s behind a flange of thickness f."""
    spacer = known(job.fit.rotor_spacer_mm)
    if job.hub.mounting == "over-hub":
        return spacer + known(job.rotor.flange_mm)
    return -known(job.hub.flange_thickness_mm) - spacer


def _rotor_middle(job: Job, hat_z: float) -> float:
    """Return z of the ring's middle [mm]: z_hat − H + t/2. Flipped on the hub, the face that looked outward seats and the
    ring lies on its other side: (z_hat − h) + H − t/2 over a hub; behind a flange z_hat − h + H − t/2 likewise."""
    rotor = job.rotor
    reach = known(rotor.height_mm) - known(rotor.thickness_mm) / 2
    if job.fit.rotor_way == "flipped":
        return hat_z - known(rotor.flange_mm) + reach
    return hat_z - reach


def _ears(ear_line: float, spacing: float, clock_deg: float, z: float) -> tuple[Point3, Point3]:
    """Return both ear centres, b·u ± (S/2)·w; the first one lies at +S/2 along w, towards rising clock angle."""
    if math.isnan(clock_deg):
        return (UNKNOWN, UNKNOWN, z), (UNKNOWN, UNKNOWN, z)
    frame = ClockFrame(clock_deg)
    first, second = (frame.at(ear_line, across) for across in (spacing / 2, -spacing / 2))
    return (*first, z), (*second, z)
