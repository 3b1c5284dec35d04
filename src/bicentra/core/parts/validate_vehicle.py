"""What a vehicle, its surveys and its trials must be before a corner's job is made of it."""

from bicentra.core.base.errors import JobError
from bicentra.core.parts.corners import OF_AXLE, OF_CORNER, OF_VEHICLE, axle_of, corners_of, job_of
from bicentra.core.parts.fields import field_of, fields, meaning
from bicentra.core.parts.job import CORNERS, Job
from bicentra.core.parts.validate import check_value, leaves, validate
from bicentra.core.parts.vehicle import AXLES, Vehicle

_passed: list[Vehicle] = []
"""The vehicle that passed last: a file that has just been read is not looked at again when it is opened."""


def validate_vehicle(vehicle: Vehicle, trusted: Vehicle | None = None, seen: str = "") -> None:
    """Raise ``JobError`` with the file's key path, what was found and expected, for the first thing that cannot be.

    What ``vehicle`` shares with an already validated ``trusted`` one is not looked at again. ``seen``: a corner whose
    job has been looked at by itself.
    """
    if any(vehicle is passed for passed in _passed):
        return
    _check_names(vehicle)
    for name, of in ((of.name, meaning(of)) for of in fields(vehicle) if of.name in ("display_units", "corner")):
        check_value(name, of, getattr(vehicle, name))
    for path, of, value in leaves(vehicle.vehicle, "vehicle", trusted.vehicle if trusted is not None else None):
        check_value(path, of, value)
    for name, axle in vehicle.axles.items():
        before = trusted.axles.get(name) if trusted is not None else None
        for record in ("pad", "drum", "tyre_radius_mm"):
            part, old = getattr(axle, record), getattr(before, record, None)
            if part is None or part is old:
                continue
            if record == "tyre_radius_mm":
                of = meaning(field_of(type(axle), record))
                check_value(f"axles.{name}.{record}", of, part)
                continue
            for path, text, value in leaves(part, f"axles.{name}.{record}", old):
                check_value(path, text, value)
    alike: Job | None = None
    for corner in corners_of(vehicle):
        if corner == seen or (trusted is not None and _untouched(vehicle, trusted, corner)):
            continue
        job = job_of(vehicle, corner)
        try:
            validate(job, job_of(trusted, corner) if trusted is not None and corner in corners_of(trusted) else alike)
        except JobError as error:
            raise JobError(file_path(error.path, corner), error.found, error.expected) from error
        alike = job
    if trusted is None and not seen:
        _passed[:] = [vehicle]


def _untouched(vehicle: Vehicle, trusted: Vehicle, corner: str) -> bool:
    """Tell whether all that a corner's job is made of is the very same in both."""
    axle = axle_of(corner)
    return (
        corner in corners_of(trusted)
        and vehicle.axles.get(axle) is trusted.axles.get(axle)
        and all(vehicle.corners.get(name) is trusted.corners.get(name) for name in CORNERS)
        and all(getattr(vehicle, shared) is getattr(trusted, shared) for shared in OF_VEHICLE)
    )


def _check_names(vehicle: Vehicle) -> None:
    for key, names, known in (("axles", vehicle.axles, AXLES), ("corners", vehicle.corners, CORNERS)):
        for name in names:
            if name not in known:
                raise JobError(key, f"“{name[:40]}”", "one of " + ", ".join(known))
    for corner, own in vehicle.corners.items():
        wrong = [record for record in own.borrowed if record not in OF_CORNER]
        if wrong:
            raise JobError(f"corners.{corner}.borrowed", f"“{wrong[0][:40]}”", "one of " + ", ".join(OF_CORNER))


def file_path(path: str, corner: str) -> str:
    """Return where a key path of the job of ``corner`` lies in the file."""
    first, _, rest = path.partition(".")
    record = first.partition("[")[0]
    if record in OF_AXLE:
        return f"axles.{axle_of(corner)}.{path}"
    if record == "survey":
        name, _, inner = rest.partition(".")
        return f"corners.{name}.survey.{inner}".rstrip(".") if name else f"corners.{corner}.survey"
    if record in (*OF_CORNER, "exact", "trials"):
        return f"corners.{corner}.{path}"
    return path


__all__ = ["Job", "file_path", "validate_vehicle"]
