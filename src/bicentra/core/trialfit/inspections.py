"""What is looked at on the car when a trial does not come out as it should: habits of the trade (common practice)."""

INSPECTIONS = {
    "heads": "Look under the bolts' heads",
    "ears": "Start every bolt by hand, and measure the ears' spacing",
    "clean": "Clean and stone every face",
    "turn": "Turn the rotor half a turn on its studs",
    "shims": "Measure every shim",
    "sizes": "Measure slot width and rotor thickness again",
    "side": "Look on which side of the lugs the bracket lies",
    "rotor": "Measure the rotor's height",
    "lugs": "Measure the lugs' faces again",
    "seal": "Try the hub once without its seal",
    "lip": "Take the rotor off and look into its hat",
    "weight": "Move the wheel weights to the other flange",
    "hands": "Look where bleed screws and large pistons lie",
    "fouls": "Push it by hand as far as worn pads let it",
}
"""What can be looked at, by name, as it is said."""
BEFORE_LOCK = ("heads", "ears", "hands", "fouls")
"""What is looked at once before a corner is locked: quick, and what it finds cannot be seen in any gap."""
ABOUT_OFFSET = ("shims", "rotor", "lugs")
"""What is looked at where the caliper sits far from where the drawing puts it, quick things first."""
ABOUT_TILT = ("ears", "clean", "turn", "lugs")
"""What is looked at before a tilt is shimmed away."""
ABOUT_REPEATING = ("heads", "seal")
"""What is looked at where readings do not repeat."""
