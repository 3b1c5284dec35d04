"""Runout: one turn under an indicator, taken apart into tilt, warp and dirt.

r(φ) = mean + A₁cos(φ − φ₁) + A₂cos(2φ − φ₂) + rest, by least squares, so that readings may be dropped or unequally
spaced; for equal spacing this is the discrete Fourier sum. TIR = largest reading − smallest reading.
"""

import cmath
import math
from itertools import combinations

import numpy as np

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.survey import Survey, Sweep
from bicentra.core.survey.network import Array, Whole

LEAST_FOR_TILT, LEAST_FOR_WARP, LEAST_FOR_BUMP = 3, 5, 8
BUMP_LEVEL, PRIOR_FREE = 2e-3, 10
"""Chance that a clean sweep is called bumpy, shared out over its places; and how many readings' worth of scatter the
indicator's own uncertainty counts as, beside what this sweep shows."""
LEAST_BUMP_MM, NOT_HELD = 0.01, 1e-3
WIDEST_BUMP_DEG = 75.0
FINE = np.radians(np.arange(0.0, 360.0, 0.25))


class Bump(Record, frozen=True):
    """A place where the face stands off the smooth curve: direction [degrees], height [mm], readings it shows in."""

    at_deg: float
    height: float
    readings: tuple[int, ...]


class Runout(Record, frozen=True):
    """One sweep taken apart. ``tilt`` and ``warp`` are complex amplitudes [mm]; the angle of ``tilt`` is its high spot."""

    on: str
    radius: float
    angles: Array
    values: Array
    mean: float
    tilt: complex
    warp: complex
    sd_tilt: float
    residuals: Array
    bump: Bump | None
    fault: str = ""
    on_car: bool = False

    @property
    def tir(self) -> float:
        """Total indicator reading [mm]."""
        return float(self.values.max() - self.values.min()) if len(self.values) else UNKNOWN

    @property
    def high_spot_deg(self) -> float:
        """Direction of the tilt's high spot [degrees, 0 to 360)."""
        return math.degrees(cmath.phase(self.tilt)) % 360.0

    @property
    def rest(self) -> float:
        """Root mean square of what neither tilt nor warp explains [mm]."""
        return float(np.sqrt((self.residuals**2).mean())) if len(self.residuals) else UNKNOWN

    def curve(self, angles: Array) -> Array:
        """Return mean, tilt and warp at ``angles`` [rad], (n,) [mm]."""
        once, twice = self.tilt * np.exp(-1j * angles), self.warp * np.exp(-2j * angles)
        return np.asarray(self.mean + once.real + twice.real, dtype=np.float64)


class IndexPlace(Record, frozen=True):
    """The rotor turned by ``turn`` stud pitches towards rising clock angle: what it will run out by [mm]."""

    turn: int
    tilt: float
    tir: float
    high_spot_deg: float


def analyse(survey: Survey, sweep: Sweep) -> Runout:
    """Return ``sweep`` taken apart; below three readings everything is unknown."""
    kept = [(math.radians(r.at_deg), r.value_mm) for r in sweep.readings if r.value_mm is not None]
    angles = np.array([angle for angle, _ in kept], dtype=np.float64)
    values = np.array([value for _, value in kept], dtype=np.float64)
    radius = UNKNOWN if sweep.radius_mm is None else float(sweep.radius_mm)
    sigma = survey.sd_of(sweep.instrument, sweep.sd_mm)
    places = len(np.unique(np.round(np.mod(angles, 2 * np.pi), 6)))
    if places < LEAST_FOR_TILT:
        nothing = complex(UNKNOWN, UNKNOWN)
        fault = f"{places} reading{'' if places == 1 else 's'}: three or more round the turn are needed"
        return Runout(sweep.on, radius, angles, values, UNKNOWN, nothing, nothing, UNKNOWN, np.zeros(0), None, fault)
    bump = _find_bump(angles, values, sigma) if places >= LEAST_FOR_BUMP else None
    use = np.ones(len(angles), dtype=bool)
    if bump is not None:
        use[list(bump.readings)] = False
    fit, cofactor = _fit(angles[use], values[use], places)
    full = np.zeros(5)
    full[: len(fit)] = fit
    return Runout(
        on_car=sweep.where == "on-car",
        on=sweep.on,
        radius=radius,
        angles=angles,
        values=values,
        mean=float(full[0]),
        tilt=complex(full[1], full[2]),
        warp=complex(full[3], full[4]),
        sd_tilt=sigma * math.sqrt(float(cofactor[1, 1] + cofactor[2, 2]) / 2),
        residuals=values - _basis(angles, len(fit)) @ fit,
        bump=bump,
    )


def _basis(angles: Array, terms: int) -> Array:
    """Return 1, cos φ, sin φ, cos 2φ, sin 2φ at ``angles``, (n, terms)."""
    columns = [np.ones_like(angles), np.cos(angles), np.sin(angles), np.cos(2 * angles), np.sin(2 * angles)]
    return np.stack(columns[:terms], axis=1)


def _fit(angles: Array, values: Array, places: int) -> tuple[Array, Array]:
    """Return the coefficients and their cofactor matrix; the warp is left out where the readings cannot carry it."""
    terms = 5 if places >= LEAST_FOR_WARP else 3
    if terms == 5 and np.linalg.matrix_rank(_basis(angles, 5), tol=1e-6) < 5:
        terms = 3
    at = _basis(angles, terms)
    pseudo = np.linalg.pinv(at)
    return pseudo @ values, pseudo @ pseudo.T


def _find_bump(angles: Array, values: Array, sigma: float) -> Bump | None:
    """Return the one local fault that explains the sweep far better than tilt and warp alone, if there is one.

    Windows of one to three neighbouring readings are left out in turn. A bump must stand off the curve through the rest
    by more than chance allows, all to one side. What leaving a window out does follows from the fit to all readings:
    with residuals e and hat matrix H, the window stands off by (I − H)⁻¹·e and takes eᵀ(I − H)⁻¹e of the squares away.
    """
    at = _basis(angles, 5)
    if np.linalg.matrix_rank(at, tol=1e-6) < 5:
        return None
    pseudo = np.linalg.pinv(at)
    off = values - at @ (pseudo @ values)
    order = np.argsort(np.mod(angles, 2 * np.pi))
    n = len(order)
    found: list[tuple[float, Bump]] = []
    for wide in (1, 2, 3) if n >= LEAST_FOR_WARP + 2 else ():
        groups = (
            order[(np.arange(n)[:, None] + np.arange(wide)) % n] if n - wide >= LEAST_FOR_WARP + 2 else order[:0, None]
        )
        groups = groups[_spans(angles[groups]) <= WIDEST_BUMP_DEG]
        if len(groups):
            own = np.eye(wide) - np.einsum("gap,pgb->gab", at[groups], pseudo[:, groups])
            found += _strongest(angles, off, own, sigma, groups)
    return max(found, key=lambda row: row[0], default=(0.0, None))[1]


def _spans(angles: Array) -> Array:
    """Return (g,) float [degrees]: the widest angle between any two of (g, k) angles [rad]."""
    turns = np.exp(1j * angles)
    pairs = [np.abs(np.angle(turns[:, j] / turns[:, i])) for i, j in combinations(range(angles.shape[1]), 2)]
    return np.degrees(np.max(pairs, axis=0)) if pairs else np.zeros(len(angles))


def _strongest(angles: Array, off: Array, own: Array, sigma: float, groups: Whole) -> list[tuple[float, Bump]]:
    """Return how strongly the window stands off the rest that does most, with what it would be; nothing when none does.

    ``own`` (g, k, k): I − H of each of (g, k) windows ``groups``.
    """
    from scipy.special import fdtrc

    held = np.linalg.det(own) >= NOT_HELD  # else the rest would not carry the curve
    groups, own = groups[held], own[held]
    stands = np.linalg.solve(own, off[groups][..., None])[..., 0]
    taken = (off[groups] * stands).sum(axis=1)
    free = len(angles) - groups.shape[1] - 5 + PRIOR_FREE
    noise = (np.maximum((off**2).sum() - taken, 0.0) + PRIOR_FREE * sigma**2) / free
    strength = taken / (groups.shape[1] * noise)
    one_sided = (stands > 0).all(axis=1) | (stands < 0).all(axis=1)
    stands_off = one_sided & (np.abs(stands).max(axis=1, initial=0.0) >= LEAST_BUMP_MM)
    stands_off &= fdtrc(groups.shape[1], free, strength) <= BUMP_LEVEL / len(angles)
    if not stands_off.any():
        return []
    k = int(np.argmax(np.where(stands_off, strength, -np.inf)))
    top = int(np.abs(stands[k]).argmax())
    where = math.degrees(float(angles[groups[k, top]])) % 360.0
    return [(float(strength[k]), Bump(where, float(stands[k, top]), tuple(int(g) for g in groups[k])))]


def floor_tir(hub: Runout, rotor_radius: float) -> float:
    """Return the TIR [mm] that even a true rotor shows at ``rotor_radius`` on this flange: twice the scaled tilt."""
    return 2 * abs(hub.tilt) * rotor_radius / hub.radius


def own_of(hub: Runout, rotor: Runout) -> Runout:
    """Return the rotor's own runout: what was read on the car less the hub's tilt, scaled to the rotor's radius."""
    if not rotor.on_car or hub.fault or rotor.fault or not math.isfinite(hub.radius) or not math.isfinite(rotor.radius):
        return rotor
    return replace(rotor, tilt=rotor.tilt - hub.tilt * rotor.radius / hub.radius)


def index_places(hub: Runout, rotor: Runout, studs: int) -> tuple[IndexPlace, ...]:
    """Return every way the rotor can be turned on its studs, with the runout to expect.

    The hub's tilt is scaled to the rotor's radius, the rotor's own curve (read on the bench, or what is left of that on the car)
    turned by k pitches.
    """
    if hub.fault or rotor.fault or not math.isfinite(hub.radius) or not math.isfinite(rotor.radius):
        return ()
    scaled, rotor = hub.tilt * rotor.radius / hub.radius, own_of(hub, rotor)
    found = []
    for turn in range(studs):
        step = cmath.exp(2j * math.pi * turn / studs)
        tilt = scaled + rotor.tilt * step
        profile = np.real(tilt * np.exp(-1j * FINE)) + np.real(rotor.warp * step**2 * np.exp(-2j * FINE))
        tir = float(profile.max() - profile.min()) if abs(rotor.warp) > 1e-12 else 2 * abs(tilt)
        found.append(IndexPlace(turn, abs(tilt), tir, math.degrees(cmath.phase(tilt)) % 360.0))
    return tuple(found)


def best_index(places: tuple[IndexPlace, ...]) -> IndexPlace | None:
    """Return the place with the least runout, the smallest turn among equals."""
    return min(places, key=lambda place: (round(place.tir, 6), place.turn), default=None)
