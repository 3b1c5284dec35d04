"""The papers of the trial fit: the sheet to take to the car, and the log."""

from typing import TYPE_CHECKING

from bicentra.core.base.errors import ExportError
from bicentra.core.drawing.imprint import Imprint
from bicentra.core.solution import Solution

if TYPE_CHECKING:
    from bicentra.study.papers.makers import Report


def fit_sheet(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the sheet to take to the car as PDF."""
    from bicentra.formats.pdf_trial import fit_sheet_pdf

    del report
    return fit_sheet_pdf(solution, imprint)


def fit_log(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the log of all trials as PDF."""
    from bicentra.formats.pdf_trial import fit_log_pdf

    del report
    return fit_log_pdf(solution, imprint)


def fit_csv(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the log of all trials as CSV."""
    from bicentra.formats.trial_csv import trial_csv

    del report, imprint
    return trial_csv(solution)


def tried(solution: Solution) -> object:
    """Raise ``ExportError`` while no trial has been written down."""
    if not solution.job.trials:
        raise ExportError("no trial is noted at this corner")
    return None
