"""Rings on hats: heights by hand, what does not fit said, a ring without a hat as a flat disc."""

import pytest

from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.solids import rotor_rings
from bicentra.core.parts.job import Job, Rotor
from bicentra.core.parts.rotor import Hat, misfits, on_hat

RING = Rotor(name="ring", kind="ring", diameter_mm=280.0, thickness_mm=22.0, min_thickness_mm=20.0, swept_inner_diameter_mm=180.0,
             centre_bore_mm=57.1, ring_bolt_circle_mm=158.0, ring_bolt_count=8, ring_register_mm=142.0, ring_seat_mm=14.0, mass_kg=4.0)  # fmt: skip
HAT = Hat(name="hat", height_mm=30.0, hat_thickness_mm=7.0, centre_bore_mm=57.1, hat_inner_diameter_mm=138.0, bolt_circle_mm=100.0,
          hole_count=4, hole_mm=12.6, ring_bolt_circle_mm=158.0, ring_bolt_count=8, ring_register_mm=142.0, mass_kg=0.8)  # fmt: skip


def test_height_of_ring_on_hat(good: Job) -> None:
    """30 from the hat's face to the seat, 14 from there to the inboard face: 44 high; the middle lies 44 − 11 in from the face."""
    whole = on_hat(RING, HAT)
    assert (whole.overall_height_mm, whole.kind, whole.mass_kg) == (44.0, "two-piece", 4.8)
    line = solve(replace(good, rotor=whole)).line
    assert line.rotor_midplane_z == pytest.approx(7.0 - 44.0 + 11.0)


@pytest.mark.parametrize(
    ("change", "word"),
    [({"ring_bolt_circle_mm": 160.0}, "circles"), ({"ring_bolt_count": 6}, "bolts"), ({"ring_register_mm": 143.0}, "registers"),
     ({"ring_register_mm": 141.0}, "registers"), ({"height_mm": None}, "unknown"), ({"ring_bolt_count": None}, "unknown")],
)  # fmt: skip
def test_what_does_not_fit_is_told(change: dict[str, object], word: str) -> None:
    """Every way a hat can be the wrong one is said in words; the right one leaves nothing to say."""
    assert misfits(RING, HAT) == ()
    text = misfits(RING, replace(HAT, **change))
    assert len(text) == 1 and word in text[0]


def test_guesses_of_both_are_kept() -> None:
    """A guessed height of the hat is a guessed overall height of the rotor."""
    assert "overall_height_mm" in on_hat(RING, replace(HAT, guessed=("height_mm",))).guessed
    assert "overall_height_mm" in on_hat(replace(RING, guessed=("ring_seat_mm",)), HAT).guessed


def test_a_ring_without_a_hat_lies_flat_on_the_hub(good: Job) -> None:
    """Bolted straight to the hub: its middle half its thickness out of the hub face, no hat to be too small."""
    flat = replace(RING, bolt_circle_mm=100.0, hole_count=4, hole_mm=12.6)
    solution = solve(replace(good, rotor=flat))
    assert solution.line.rotor_midplane_z == pytest.approx(11.0)
    assert all(c.label != "Hat over flange" for c in solution.finding("rotor-on-hub").checks)
    assert all(ring.is_known for ring in rotor_rings(solution.job, solution.line))
