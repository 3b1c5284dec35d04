"""Parts of the pedal on the shelf: taken whole, guesses left open, kept under a name of their own."""

from pathlib import Path

import pytest

from bicentra.cli import main
from bicentra.core.base.errors import JobError, StoreError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.hydraulics.missing import missing_text
from bicentra.core.hydraulics.pedal import pedal_findings
from bicentra.core.parts.library import KINDS, Part, part_kind_of
from bicentra.core.parts.vehicle import Booster, Drum, Pad
from bicentra.formats.part_files import write_part
from bicentra.study.desks.pedal import PedalDesk
from bicentra.study.desks.pedal_numbers import NumberPlace, places_of
from bicentra.study.document.starting import demo_vehicle, empty_vehicle
from bicentra.study.document.study import Study
from bicentra.study.library.library import own_folder, whole_library


def numbers_of(desk: PedalDesk, kind: str) -> list[str]:
    """The names of what lies on the shelf."""
    return [part.name for part in desk.library.of_kind(kind)]


@pytest.mark.parametrize(
    "heading", ["Fluid", "Booster", "Valve to the rear", "Front axle", "Pads, front", "Drums, rear"]
)
def test_every_part_is_taken_whole_and_given_back(heading: str) -> None:
    """Each part of the shelf goes in as one step; what it does not state is open afterwards, not left from the part before."""
    desk = PedalDesk(Study(demo_vehicle()))
    place = places_of(desk.vehicle)[heading]
    before = desk.study.vehicle
    for number, part in enumerate(desk.library.of_kind(place.kind)):
        assert desk.take_part(place, number) == "" and len(desk.in_library(place.kind)) > number
        desk.study.undo()
        assert desk.study.vehicle == before
        desk.study.redo()
        if place.kind == "tyre":
            assert desk.vehicle.axles["front"].tyre_radius_mm == part.item.radius_mm  # type: ignore[union-attr]
        if place.kind == "valve":
            assert desk.vehicle.vehicle.valve == part.item
        if place.kind == "pad":
            retraction = before.axles["front"].pad.retraction_mm
            assert desk.vehicle.axles["front"].pad == replace(part.item, retraction_mm=retraction)  # type: ignore[call-arg]
        desk.study.undo()


def test_a_guess_on_the_shelf_is_never_taken_as_known() -> None:
    """Friction that a part only guesses stays open in the vehicle, is told, and the order of locking is unknown."""
    guess = Part(pad=Pad(name="Found in a drawer", mu=0.4, mu_hot=0.35), quality={"mu": "guessed"}, source="no box")
    (own_folder() / "drawer.part.json").write_bytes(write_part(guess))
    desk = PedalDesk(Study(demo_vehicle()))
    place = places_of(desk.vehicle)["Pads, front"]
    text = desk.take_part(place, numbers_of(desk, "pad").index("Found in a drawer"))
    pad = desk.vehicle.axles["front"].pad
    assert text.startswith("Found in a drawer: friction, working only guessed") and (pad.mu, pad.mu_hot) == (None, 0.35)
    assert any("guessed: mu" in one for one in desk.in_library("pad"))
    order = next(f for f in pedal_findings(desk.vehicle) if f.id == "pedal-order")
    assert order.verdict is Verdict.UNKNOWN and "friction of the front pads" in order.why


def test_kept_on_the_shelf_and_found_again() -> None:
    """The demo's pads and tyre are kept under a name and lie there for the next vehicle; of nothing, nothing is kept."""
    desk = PedalDesk(Study(demo_vehicle()))
    places = places_of(desk.vehicle)
    for heading, kind in (("Pads, front", "pad"), ("Rear axle", "tyre"), ("Drums, rear", "drum")):
        path = desk.keep_part(places[heading], " Mine ")
        assert path.parent == own_folder() and "Mine" in numbers_of(desk, kind)
    kept = next(part for part in whole_library().of_kind("pad") if part.name == "Mine")
    assert replace(kept.item, retraction_mm=0.15) == replace(desk.vehicle.axles["front"].pad, name="Mine")  # type: ignore[call-arg]
    fresh = PedalDesk(Study(empty_vehicle()))
    with pytest.raises(StoreError, match="nothing is known of the pad yet"):
        fresh.keep_part(NumberPlace("pad", "axles.front.pad"), "Nothing")
    with pytest.raises(StoreError, match="no name"):
        desk.keep_part(places["Fluid"], "  ")
    number = numbers_of(fresh, "tyre").index("Mine")
    fresh.take_part(NumberPlace("tyre", "axles.rear"), number)  # an axle that nobody has spoken of yet
    assert fresh.vehicle.axles["rear"].tyre_radius_mm == desk.vehicle.axles["rear"].tyre_radius_mm


def test_a_booster_whose_gain_nobody_stated_is_not_known() -> None:
    """No gain is taken for one: force and order wait for it by name. Every kind of part has one record."""
    vehicle = demo_vehicle()
    boosted = replace(vehicle, vehicle=replace(vehicle.vehicle, booster=Booster(kind="vacuum")))
    assert missing_text(boosted) == "gain of the booster"
    found = {f.id: f.verdict for f in pedal_findings(boosted)}
    assert found["pedal-force"] is Verdict.UNKNOWN is found["pedal-boost"]
    assert {part_kind_of(part.item) for part, _ in whole_library().parts} == set(KINDS) and part_kind_of(
        Drum()
    ) == "drum"


def test_a_part_file_that_is_none_is_told(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Two parts in one file, a radius below nothing, a slope beyond one: each skipped by name, the good one still there."""
    whole = '{"format": "bicentra.part", "version": 1, %s}'
    for name, part in (
        ("two", '"pad": {"name": "x"}, "tyre": {"name": "y", "radius_mm": 300}'),
        ("short", '"tyre": {"name": "y", "radius_mm": -3}'),
        ("steep", '"valve": {"name": "z", "kind": "fixed", "slope": 2}'),
        ("good", '"tyre": {"name": "Round one", "radius_mm": 300}'),
    ):
        (tmp_path / f"{name}.part.json").write_text(whole % part)
    assert main(["parts", "tyre", "--library", str(tmp_path)]) == 0
    text = capsys.readouterr()
    assert text.out == "Round one\n" and text.err.count("skipped") == 3
    assert "tyre.radius_mm" in text.err and "valve.slope" in text.err and "exactly one of" in text.err


def test_what_is_not_there_any_more_is_refused() -> None:
    """A number or a part for drums that meanwhile gave way to discs is refused by name, and nothing changes."""
    desk = PedalDesk(Study(demo_vehicle()))
    place = places_of(desk.vehicle)["Drums, rear"]
    desk.set_drums("rear", False)
    before = desk.study.vehicle
    for act in (lambda: desk.set_number("axles.rear.drum.factor", 2.0), lambda: desk.take_part(place, 0)):
        with pytest.raises(JobError, match="asked for now"):
            act()
        assert desk.study.vehicle is before
