"""Every pair of bodies that can meet, with the finding that asks for it and over which motion, or the reason why none does.

One table: a body that is added here without an owner for each of its pairs fails the tests.
"""

from bicentra.core.base.records import Record

TURNING = ("friction ring", "hat", "hub flange", "axle behind the flange", "stud heads", "studs and nuts", "wheel")
"""What turns with the wheel."""
AT_THE_CALIPER = ("caliper body", "pads", "ears", "ear bolts", "hose port")
"""What stands where the caliper is."""
AT_THE_KNUCKLE = ("lugs", "lug bolts", "obstacles", "retainer bolts")
"""What stands at the knuckle."""
MADE = ("bracket", "parking adapter", "parking caliper")
"""What is made or bought and bolted on."""
BODIES = (*TURNING, *AT_THE_CALIPER, *AT_THE_KNUCKLE, *MADE)
MOTIONS = ("turn", "float", "pad wear", "play", "heat", "removal", "steering", "none")


class Pairs(Record, frozen=True):
    """Every body of ``one`` against each of ``others``: asked by ``finding`` over ``motions``, or not asked, for a ``reason``."""

    one: tuple[str, ...]
    others: tuple[str, ...]
    finding: str = ""
    motions: tuple[str, ...] = ("turn",)
    reason: str = ""


OWN = "one body, or bodies that move as one"
MAKERS = "the vehicle's own, as its maker put them together: neither is changed by this work"
IN_PLACE = "made to touch: one is bolted to the other"
HOSE = "the hose is led clear of it by hand; its path is looked at with the wheel at full lock, droop and bump"
INSIDE = "the pads lie inside the caliper's body"
HUB = ("hub flange", "axle behind the flange", "stud heads", "studs and nuts")

PAIRS: tuple[Pairs, ...] = (
    Pairs(("friction ring",), ("friction ring", "hat"), reason=OWN),
    Pairs(("hat",), ("hat",), reason=OWN),
    Pairs(HUB, HUB, reason=OWN),
    Pairs(("friction ring", "hat"), HUB, "rotor-on-hub", ("none",)),
    Pairs(("wheel",), ("wheel",), reason=OWN),
    Pairs(("wheel",), ("friction ring", "hat"), reason="both turn with the hub; the wheel seats on the hat"),
    Pairs(("wheel",), HUB, "wheel-on-hub", ("none",)),
    Pairs(("caliper body",), ("friction ring",), "slot-gap", ("turn", "play", "heat")),
    Pairs(("caliper body", "pads", "ears"), ("hat", *HUB), "caliper-to-rotor", ("turn", "play", "heat", "pad wear")),
    Pairs(("ears",), ("friction ring",), "caliper-to-rotor", ("turn", "heat")),
    Pairs(("ear bolts",), HUB, "caliper-to-rotor"),
    Pairs(("pads",), ("friction ring",), "pad-overhang", ("none",)),
    Pairs(("ear bolts", "lug bolts"), ("friction ring", "hat"), "bolt-tip-to-rotor", ("turn", "play", "heat")),
    Pairs(("lug bolts",), HUB, reason="a lug and its bolt lie where the old brake's did, beside the hub they were made for"),
    Pairs(("hose port",), ("friction ring", "hat"), "hose-room", ("turn",)),
    Pairs(("hose port",), (*HUB, "wheel"), reason=HOSE),
    Pairs(("lugs", "obstacles"), ("friction ring", "hat"), "knuckle-to-rotor"),
    Pairs(("lugs", "obstacles", "retainer bolts"), HUB, reason=MAKERS),
    Pairs(("retainer bolts",), ("friction ring", "hat"), "knuckle-to-rotor"),
    Pairs(("bracket",), ("friction ring", "hat"), "bracket-to-rotor", ("turn", "play", "heat")),
    Pairs(("bracket",), HUB, "bracket-to-hub", ("turn", "play")),
    Pairs(("wheel",), ("caliper body", "ears", "ear bolts", "lugs", "lug bolts", "obstacles", "bracket"), "wheel-room",
          ("turn", "play", "heat")),
    Pairs(("wheel",), ("pads",), reason=INSIDE),
    Pairs(("wheel",), ("retainer bolts",), reason="behind the hub, which the wheel does not reach past"),
    Pairs(("caliper body",), ("caliper body", "pads", "ears", "ear bolts", "hose port"), reason=OWN),
    Pairs(("pads",), ("pads", "ears", "ear bolts", "hose port"), reason=OWN),
    Pairs(("ears",), ("ears", "ear bolts", "hose port"), reason=OWN),
    Pairs(("ear bolts",), ("ear bolts", "hose port"), reason=OWN),
    Pairs(("hose port",), ("hose port",), reason=OWN),
    Pairs(("caliper body",), ("lugs", "obstacles"), "caliper-to-obstacle", ("float", "pad wear", "removal")),
    Pairs(("ears", "ear bolts"), ("obstacles",), "caliper-to-obstacle", ("removal",)),
    Pairs(("caliper body", "ears", "ear bolts"), ("lug bolts",), "bolt-head-room", ("none",)),
    Pairs(("ears", "ear bolts"), ("lugs",), "bolt-head-room", ("none",)),
    Pairs(("pads",), ("lugs", "lug bolts", "obstacles", "retainer bolts", "bracket"), reason=INSIDE),
    Pairs(("hose port",), ("lugs", "lug bolts", "obstacles"), "hose-room", ("none",)),
    Pairs(("hose port",), ("retainer bolts", "bracket"), reason=HOSE),
    Pairs(("caliper body", "ears", "ear bolts"), ("retainer bolts",), "caliper-to-rotor", ("none",)),
    Pairs(("lugs", "obstacles", "retainer bolts"), ("lugs", "obstacles", "retainer bolts"), reason=MAKERS),
    Pairs(("lug bolts",), ("obstacles",), "bolt-head-room", ("removal",)),
    Pairs(("lug bolts",), ("lugs",), reason=IN_PLACE),
    Pairs(("lug bolts",), ("lug bolts",), "ligament", ("none",)),
    Pairs(("lug bolts",), ("retainer bolts",), reason=MAKERS),
    Pairs(("bracket",), ("caliper body",), "bracket-to-caliper", ("float", "pad wear")),
    Pairs(("bracket",), ("ears", "ear bolts", "lugs", "lug bolts"), reason=IN_PLACE),
    Pairs(("bracket",), ("obstacles",), "bracket-to-obstacle", ("none",)),
    Pairs(("bracket",), ("retainer bolts",), "retainer-reach", ("removal",)),
    Pairs(("bracket",), ("bracket",), reason=OWN),
    Pairs(("parking adapter",), ("friction ring", "hat"), "parking-bracket-to-rotor"),
    Pairs(("parking adapter",), HUB, "parking-bracket-to-hub"),
    Pairs(("parking adapter",), ("obstacles",), "parking-bracket-to-obstacle", ("none",)),
    Pairs(("parking adapter",), ("bracket",), "parking-bracket", ("none",)),
    Pairs(("parking adapter",), ("caliper body", "ears", "ear bolts"), "parking-adapter-to-caliper", ("none",)),
    Pairs(("parking adapter",), ("lugs", "lug bolts", "parking adapter", "parking caliper"), reason=IN_PLACE),
    Pairs(("parking adapter",), ("pads", "hose port", "retainer bolts"), reason=f"{INSIDE}, or led and reached by hand"),
    Pairs(("parking adapter", "parking caliper"), ("wheel",), "parking-wheel-room"),
    Pairs(("parking caliper",), ("friction ring", "hat", *HUB), "parking-caliper-to-rotor"),
    Pairs(("parking caliper",), ("caliper body", "ears", "ear bolts", "pads", "hose port"), "parking-apart", ("none",)),
    Pairs(("parking caliper",), ("lugs", "obstacles"), "parking-caliper-to-obstacle", ("none",)),
    Pairs(("parking caliper",), ("lug bolts",), "parking-bolt-head-room", ("none",)),
    Pairs(("parking caliper",), ("bracket",), "parking-clear-of-bracket", ("none",)),
    Pairs(("parking caliper",), ("retainer bolts",), reason="reached with the parking caliper off"),
    Pairs(("parking caliper",), ("parking caliper",), reason=OWN),
)  # fmt: skip


def owners(one: str, other: str) -> tuple[Pairs, ...]:
    """Return every row of the table that speaks of the two bodies."""
    return tuple(
        row for row in PAIRS if (one in row.one and other in row.others) or (other in row.one and one in row.others)
    )
