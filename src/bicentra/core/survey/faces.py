"""Faces: a plane through depths read from a straightedge that lies on the hub face.

A spot at (dx, dy) from the feature's centre has z = straightedge thickness − depth. Least squares for
z = z₀ + a·dx + b·dy gives the seating height z₀ at the centre and the tilt atan √(a² + b²), rising towards atan2(b, a).
"""

import math

import numpy as np

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.parts.survey import FaceReadings, Survey
from bicentra.core.survey.network import Array

LEAST_SPOTS = 3
FLAT = 0.05
"""Smallest spread of the spots across their narrowest direction, over their widest: three spots in a row give no plane."""


class Face(Record, frozen=True):
    """The plane of one face. ``gain`` (3, n): change of height and slopes by one standard uncertainty of each depth.

    ``residuals`` [mm], (n,) are measured minus plane; ``spots`` are the places in the survey of the depths used, and
    ``leverage`` how much of itself each decides: 1 with three spots, where nothing is checked.
    """

    feature: str
    z: float
    slope_x: float
    slope_y: float
    gain: Array
    residuals: Array
    spots: tuple[int, ...]
    sigma: float
    leverage: tuple[float, ...] = ()
    fault: str = ""
    hub: "Face | None" = None
    flange_gain: Array | None = None

    @property
    def sd_z(self) -> float:
        """Standard uncertainty of the seating height [mm], the hub face's own included where it was read."""
        flange = float((self.flange_gain**2).sum()) if self.flange_gain is not None else 0.0
        return float(np.sqrt((self.gain[0] ** 2).sum() + flange)) if self.gain.size else UNKNOWN

    @property
    def tilt_deg(self) -> float:
        """Tilt against the straightedge's plane [degrees], never negative."""
        return math.degrees(math.atan(math.hypot(self.slope_x, self.slope_y)))

    @property
    def high_toward_deg(self) -> float:
        """Clock direction in which the face rises outboard [degrees, 0 to 360)."""
        return math.degrees(math.atan2(self.slope_y, self.slope_x)) % 360.0

    @property
    def sd_tilt_deg(self) -> float:
        """Standard uncertainty of the tilt along its own direction [degrees]; of either slope when the face is flat."""
        if not self.gain.size:
            return UNKNOWN
        way = np.array([self.slope_x, self.slope_y])
        long = float(np.hypot(*way))
        unit = way / long if long > 1e-12 else np.array([1.0, 0.0])
        return math.degrees(float(np.sqrt(((unit @ self.gain[1:]) ** 2).sum())))

    def height_at(self, dx: float, dy: float) -> float:
        """Return z of the plane at (dx, dy) from the feature's centre [mm]."""
        return self.z + self.slope_x * dx + self.slope_y * dy


def fit_face(survey: Survey, face: FaceReadings) -> Face:
    """Return the plane of ``face``; with fewer than three spots, or spots in a row, everything is unknown."""
    thick = survey.straightedge_thickness_mm
    sigma = survey.sd_of(face.instrument, face.sd_mm)
    rows = [
        (k, *ClockFrame(s.at_deg).at(s.radius_mm), s.depth_mm)
        for k, s in enumerate(face.spots)
        if s.radius_mm is not None and s.at_deg is not None and s.depth_mm is not None
    ]
    if thick is None:
        return _unknown(face, sigma, "the straightedge's thickness is missing")
    if len(rows) < LEAST_SPOTS:
        need = LEAST_SPOTS - len(rows)
        return _unknown(face, sigma, f"{need} more spot{'s' if need > 1 else ''} needed: a plane takes three")
    at = np.array([[1.0, x, y] for _, x, y, _ in rows])
    spread = np.linalg.svd(at[:, 1:] - at[:, 1:].mean(axis=0), compute_uv=False)
    if spread[1] < FLAT * spread[0]:
        return _unknown(face, sigma, "the spots lie in a row: read one off to the side")
    z = np.array([thick - depth for *_, depth in rows])
    pseudo = np.linalg.pinv(at)
    fit = pseudo @ z
    return Face(
        feature=face.feature,
        z=float(fit[0]),
        slope_x=float(fit[1]),
        slope_y=float(fit[2]),
        gain=pseudo * sigma,
        residuals=z - at @ fit,
        spots=tuple(k for k, *_ in rows),
        sigma=sigma,
        leverage=tuple(float(h) for h in np.einsum("ij,ji->i", at, pseudo)),
    )


def _unknown(face: FaceReadings, sigma: float, fault: str) -> Face:
    return Face(face.feature, UNKNOWN, UNKNOWN, UNKNOWN, np.zeros((0, 0)), np.zeros(0), (), sigma, fault=fault)


def against_hub(face: Face, hub: Face | None, centre: tuple[float, float]) -> Face:
    """Return ``face`` against the plane of the hub face itself, where that has its own readings.

    ``centre`` is the feature's place [mm]. The hub plane's own uncertainty goes with it: one error of the flange moves every lug
    together. Not done while either is unknown.
    """
    from bicentra.core.base.records import replace

    if hub is None or hub.fault or face.fault or not all(map(math.isfinite, centre)):
        return face
    return replace(
        face,
        z=face.z - hub.height_at(*centre),
        slope_x=face.slope_x - hub.slope_x,
        slope_y=face.slope_y - hub.slope_y,
        hub=hub,
        flange_gain=-(np.array([1.0, *centre]) @ hub.gain),
    )
