"""The benches in the order of the work, each one record: bar, keys, menu, help and the window take it from here."""

from typing import NamedTuple


class BenchPlace(NamedTuple):
    """One bench: ``name`` of its folder, action and page of help, ``title`` on its button, its ``key``, its class.

    ``help``: what it is for in a few words.
    """

    name: str
    title: str
    key: str
    help: str
    made_by: str


BENCHES = (
    BenchPlace("cover", "Cover", "Ctrl+1", "The vehicle, its corners, and what is open at each", "CoverBench"),
    BenchPlace(
        "survey", "Survey", "Ctrl+2", "Measure this corner and check the readings against each other", "SurveyBench"
    ),
    BenchPlace("parts", "Parts", "Ctrl+3", "Compare old and new, find the set that fits", "PartsBench"),
    BenchPlace("lineup", "Line-up", "Ctrl+4", "Place caliper and rotor, see what clears", "LineupBench"),
    BenchPlace("bracket", "Bracket", "Ctrl+5", "Every kind of bracket side by side, drawn and solved", "BracketBench"),
    BenchPlace(
        "trialfit",
        "Trial fit",
        "Ctrl+6",
        "From four gaps to the right shims, and the log of every trial",
        "TrialfitBench",
    ),
    BenchPlace(
        "pedal",
        "Pedal",
        "Ctrl+7",
        "From the foot to the road: pressure, travel, balance, master cylinder",
        "PedalBench",
    ),
)
START = BenchPlace("start", "Start", "", "Recent jobs, and ways to begin", "StartBench")
"""What lies in front while no job is open; it is no bench of the work and stands on no bar."""
