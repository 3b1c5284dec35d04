"""A rotor in two pieces: whether the ring is centred and held on its hat, and how high it is on the hat's other face."""

from collections.abc import Callable

from bicentra.core.base.finding import Check, Finding, Verdict, worst_check
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import PRACTICE
from bicentra.core.base.wording import LengthFormat, make_check
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.rotor import Rotor

HELD = {
    "snap ring": "A snap ring holds the ring: seated in its groove all round, its drive lugs unworn, looked at by eye",
    "screws": "Screws hold the ring: every one locked or staked, none reused that has been over-tightened, looked at by eye",
}
"""What is a watch at best: nothing here can see whether it sits as it should."""


def ring_on_hat(job: Job, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the finding about ring and hat; nothing for a rotor in one piece, or one of which no joint is told."""
    rotor = job.rotor
    given = (rotor.hat_register_mm, rotor.ring_held, rotor.register_depth_mm)
    if rotor.kind != "two-piece" or rotor.assembled or all(value is None for value in given):
        return ()
    asks: tuple[Callable[[Job, LengthFormat], Check | None], ...] = (_register, _depth, _held, _bolts)
    checks = tuple(check for ask in asks if (check := ask(job, lengths)) is not None)
    decides = worst_check(list(checks))
    return (
        Finding(
            id="ring-on-hat",
            verdict=decides.verdict,
            value=decides.value,
            limit=decides.limit,
            unit=decides.unit,
            why=f"{decides.text}.",
            features=("rotor",),
            checks=checks,
            source=PRACTICE,
        ),
    )


def _register(job: Job, lengths: LengthFormat) -> Check:
    """The ring's bore on the hat's register: what is tight does not go on, what is loose runs out."""
    play = known(job.rotor.ring_register_mm) - known(job.rotor.hat_register_mm)
    if play < 0:
        text = f"The ring's register is {lengths.gap(play)} smaller than the hat's: it does not go on"
        return make_check("Register", play, Limit(0.0, 0.0), text)
    text = f"The ring has {lengths.gap(play)} of play on the hat's register; its bolts alone do not centre it"
    return make_check("Register", play, limit_for(job, "register-play"), text)


def _depth(job: Job, lengths: LengthFormat) -> Check | None:
    deep = job.rotor.register_depth_mm
    if deep is None:
        return None
    return make_check(
        "Depth of register", deep, limit_for(job, "register-depth"), f"The ring sits {lengths.gap(deep)} deep on it"
    )


def _held(job: Job, lengths: LengthFormat) -> Check | None:
    del lengths
    held = HELD.get(job.rotor.ring_held or "")
    return Check("Held by", Verdict.CAUTION, UNKNOWN, UNKNOWN, "", held) if held else None


def _bolts(job: Job, lengths: LengthFormat) -> Check | None:
    """The ring's own bolts, where bolts or screws hold it: how many there are was counted."""
    del lengths
    if job.rotor.ring_held == "snap ring":
        return None
    count = job.rotor.ring_bolt_count
    return make_check(
        "Ring's bolts", known(count), Limit(3.0, 3.0, unit=""), f"{count or 'An unknown number of'} bolts hold it"
    )


def other_face_height(rotor: Rotor) -> float:
    """Return the overall height [mm] with the ring turned over onto the other face of its hat's rim; unknown while a size is.

    With h from the hat's outer face to the rim's inboard face, f the rim, s the ring's seat above its inboard face and t its
    thickness, the ring inboard of the rim gives H = h + s, outboard of it H' = h − f − s + t: turned over, its seat lies s
    below what is then its outboard face. Plane geometry.
    """
    high, seat = known(rotor.overall_height_mm), known(rotor.ring_seat_mm)
    rim, thick = known(rotor.ring_flange_mm), known(rotor.thickness_mm)
    if not is_known(high, seat, rim, thick):
        return UNKNOWN
    if rotor.ring_on == "inboard face":
        return (high - seat) - rim - seat + thick
    return (high + rim + seat - thick) + seat
