"""Vehicles to start from: one with nothing measured, and the demo that ships with the program."""

from bicentra.core.parts.corners import job_of
from bicentra.core.parts.job import Hub, Job, Knuckle, Lug
from bicentra.core.parts.survey import Distance, Feature, Survey
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.core.survey.adjust import adjust
from bicentra.data import data_path
from bicentra.formats.job_json import read_vehicle

DEMO = "float.bicentra.json"


def empty_vehicle() -> Vehicle:
    """Return a vehicle of which nothing has been measured yet: at its first corner two lugs without a place."""
    lugs = (Lug(name="upper"), Lug(name="lower"))
    return Vehicle(corners={"front-right": Corner(hub=Hub(), knuckle=Knuckle(lugs=lugs))})


def empty_job() -> Job:
    """Return the job of its first corner."""
    return job_of(empty_vehicle())


def demo_vehicle() -> Vehicle:
    """Return a fresh copy of the demo vehicle."""
    return read_vehicle(data_path("demo", DEMO))


def demo_job() -> Job:
    """Return the job of the corner that the demo starts at."""
    return job_of(demo_vehicle())


def load_first_adjustment() -> None:
    """Load what the first adjustment of a survey will need, by adjusting the smallest there is."""
    ends = (Feature(name="pilot", axis=True), Feature(name="a"))
    adjust(Survey(features=ends, distances=(Distance(from_="pilot", to="a", value_mm=1.0),)))
