"""What a trial fit must be: gaps at places there are, shims of possible thickness, at a corner there is."""

from bicentra.core.base.errors import JobError
from bicentra.core.parts.fields import Meaning
from bicentra.core.parts.trial import GAPS, Trial
from bicentra.core.parts.validate_shapes import check_number

MOST_SHIM_MM = 50.0


def check_trials(trials: tuple[Trial, ...]) -> None:
    """Raise ``JobError`` for the first thing in ``trials`` that cannot be."""
    for index, trial in enumerate(trials):
        path = f"trials[{index}]"
        for name, leaves in (("shims_mm", trial.shims_mm), ("ear_shims_mm", trial.ear_shims_mm)):
            for side, shims in zip(("first", "second"), leaves.sides):
                for place, thick in enumerate(shims):
                    if thick is not None:
                        of = Meaning("shim", least=0.0, most=MOST_SHIM_MM)
                        check_number(f"{path}.{name}.{side}[{place}]", of, float(thick))
        for name, band in trial.bands_mm.items():
            if name not in GAPS:
                raise JobError(f"{path}.bands_mm", f"“{name[:40]}”", "one of " + ", ".join(GAPS))
            for end in (band.least, band.most):
                if end is not None:
                    check_number(f"{path}.bands_mm.{name}", Meaning("gap", least=0.0, most=500.0), float(end))
            if band.least is not None and band.most is not None and band.most < band.least:
                raise JobError(
                    f"{path}.bands_mm.{name}.most", f"{band.most:g} below least {band.least:g}", "at least as much"
                )
