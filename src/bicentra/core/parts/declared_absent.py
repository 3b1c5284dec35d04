"""What a job says that there is none of: said once, it holds nothing back, but is never OK either."""

from bicentra.core.parts.job import Job

WATCHES = {
    "wheel": "There is no wheel yet, so nothing is asked of it: before the first drive one is turned round the caliper by hand",
    "bleeders": "This caliper is said to have no bleed screw: how the air is got out has to be known before it is fitted",
}
"""What a finding says instead of *unknown*, by what there is none of."""
SAYINGS = {"wheel": "There is no wheel yet", "bleeders": "It has no bleed screws"}
"""How it is said."""


UNLOOKED = "Nothing is listed near the knuckle: look, list what is there, or say that there is nothing"
"""What keeps the room to the knuckle from being met."""


def is_unlooked(job: Job) -> bool:
    """Tell whether nobody has looked what stands beside the lugs: nothing is listed, and nothing said."""
    return not job.knuckle.obstacles and not job.knuckle.obstacles_none


def is_absent(job: Job, name: str) -> bool:
    """Tell whether the job says that there is no ``name``, and has none."""
    return name in job.fit.absent and not is_there(job, name)


def is_there(job: Job, name: str) -> bool:
    """Tell whether the job has what ``name`` stands for: then nothing that it says can take it away."""
    return job.wheel is not None if name == "wheel" else bool(job.caliper.bleeders_deg)
