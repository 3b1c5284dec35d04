"""What parts weigh and how hard a rotor is to spin up, against textbook figures and a sum over thin rings."""

import math

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.job import Job, Rotor
from bicentra.core.parts.weights import VENTED_FILL, spin_of, weigh
from bicentra.study.desks.parts import (
    part_set_of,
    set_before,
    set_differences,
    set_edits,
    try_out,
    weights_before,
    weights_of,
)


def test_a_plain_ring_spins_as_the_textbook_says() -> None:
    """Hollow cylinder, I = ½ m (r₁² + r₂²) (any textbook of mechanics): 4 kg, 100 to 200 mm."""
    ring = Rotor(kind="ring", diameter_mm=200.0, swept_inner_diameter_mm=100.0, thickness_mm=20.0, mass_kg=4.0)
    assert spin_of(ring) == pytest.approx(0.5 * 4.0 * (0.1**2 + 0.05**2))


def test_a_rotor_with_a_hat_spins_as_its_rings_do(good: Job) -> None:
    """A second way: iron summed over thin rings of radius, ring and hat apart, scaled to the weighed mass."""
    rotor = good.rotor
    outer, inner = rotor.diameter_mm / 2, rotor.swept_inner_diameter_mm / 2
    hollow, wall, bore = (
        rotor.hat_inner_diameter_mm / 2,
        rotor.hat_inner_diameter_mm / 2 + 7.0,
        rotor.centre_bore_mm / 2,
    )
    r = (np.arange(0, 200_000) + 0.5) * outer / 200_000
    high = np.where((r > inner) & (r < outer), rotor.thickness_mm * VENTED_FILL, 0.0)
    high += np.where((r > hollow) & (r < wall), rotor.overall_height_mm - rotor.thickness_mm, 0.0)
    high += np.where((r > bore) & (r < wall), rotor.hat_thickness_mm, 0.0)
    share = high * r / np.sum(high * r) * rotor.mass_kg
    assert spin_of(rotor) == pytest.approx(float(np.sum(share * r**2)) * 1e-6, rel=1e-4)


def test_what_is_not_weighed_is_not_known(good: Job) -> None:
    """A part that is not there weighs nothing, one not weighed makes the sum unknown; nothing noted is unknown."""
    assert weigh(None, None, None, 3.0).total == 3.0
    assert math.isnan(weigh(replace(good.rotor, mass_kg=None), None, None, 0.0).total)
    assert math.isnan(spin_of(Rotor(mass_kg=3.0)))
    assert math.isnan(weights_before(replace(good, before=None)).total)


def test_old_and_new_corner(good: Job) -> None:
    """The drum that came off against the disc, on the same wheel; with old parts noted nothing else need be weighed."""
    job = replace(good, before=OriginalBrake(other_mass_kg=11.2, what="drum and shoes"))
    assert weights_before(job).total == pytest.approx(11.2 + good.wheel.mass_kg)
    trial = try_out(job)
    now = weights_of(trial)
    assert now.total == pytest.approx(5.4 + 2.9 + 6.8 + trial.plate_kg)
    old = replace(job, before=OriginalBrake(rotor=good.rotor, caliper=good.caliper))
    assert weights_before(old).other == 0.0
    taller = replace(good, rotor=replace(good.rotor, overall_height_mm=46.0))
    apart = dict(set_differences(set_before(old.before), part_set_of(taller, "new")))
    assert [(d.path, d.before, d.after) for d in apart["rotor"]] == [("overall_height_mm", 44.0, 46.0)]
    assert apart["caliper"] == () and set_edits(good, taller) == (("rotor", taller.rotor),)
