"""Jobs to start from: an empty one with nothing measured, and the demo that ships with the program."""

from bicentra.core.parts.job import BracketDesign, Job, Knuckle, Lug
from bicentra.data import data_path
from bicentra.formats.job_json import read_job

DEMO = "float-front-right.bicentra.json"


def empty_job() -> Job:
    """Return a job in which nothing has been measured yet: two lugs without a place."""
    lugs = (Lug(name="upper"), Lug(name="lower"))
    return Job(title="", knuckle=Knuckle(lugs=lugs), bracket=BracketDesign())


def demo_job() -> Job:
    """Return a fresh copy of the demo job."""
    return read_job(data_path("demo", DEMO))
