"""The papers of a job: what each is called and where it stands in menus. What makes them is loaded when the first is wanted."""

from typing import Literal

from bicentra.core.base.records import Record


class Paper(Record, frozen=True):
    """One kind of paper. Its flag, menu entry, action and file name all come from here.

    ``kind``: its flag and the name of its action. ``title``: in the save dialog. ``flag``: what ``export --help`` says. ``menu``:
    its entry, with ``key`` and ``tip``; entries of one ``group`` have a menu of their own. ``of_plate``: it shows the plate.
    ``cuts``: metal is cut by it, so its revision is kept. ``whose``: of which parts, where not the corner's bracket: ``both``
    corners', or what is made for ``hub`` and rotor. ``use``: where it stands in the menu.

    What makes it stands under its kind in ``makers.MAKERS``.
    """

    kind: str
    title: str
    flag: str
    menu: str
    ending: str
    key: str = ""
    tip: str = ""
    group: str = ""
    of_plate: bool = False
    cuts: bool = False
    whose: Literal["", "both", "hub"] = ""
    use: Literal["cut", "work", "keep"] = "cut"


TRIAL, BOTH, HUB = "Trial piece for a printer", "Both sides of the axle", "Parts for hub and rotor"
USES = {"cut": "To cut by", "work": "To work from", "keep": "To keep"}
"""How the menu of all papers is grouped."""
PAPERS: dict[str, Paper] = {
    paper.kind: paper
    for paper in (
        Paper(
            "pdf",
            "Paper template and check list",
            "1:1 template and check list",
            "Paper template and check list, 1:1 (PDF)…",
            "-plate.pdf",
            "",
            "For marking out and trying in card",
            of_plate=True,
            cuts=True,
        ),
        Paper(
            "checks",
            "Check list",
            "the check list alone (PDF)",
            "Check list alone (PDF)…",
            "-check-list.pdf",
            tip="What is measured at the fit, with lines to write on; for a kind without a plate, or a second fit",
            use="work",
        ),
        Paper(
            "workshop",
            "Workshop drawings",
            "workshop drawings of the made parts (PDF)",
            "Workshop drawings (PDF)…",
            "-workshop.pdf",
            "Ctrl+Shift+W",
            "Each made part on its sheet",
            cuts=True,
            use="work",
        ),
        Paper(
            "assembly",
            "Assembly, pulled apart, with its parts list",
            "the corner pulled apart, with its parts list (PDF)",
            "Assembly, pulled apart, with its parts list (PDF)…",
            "-assembly.pdf",
            use="work",
        ),
        Paper(
            "dxf",
            "Cutting file",
            "cutting file",
            "Cutting file (DXF)…",
            "-plate.dxf",
            "Ctrl+D",
            "For a laser or water-jet shop",
            of_plate=True,
            cuts=True,
        ),
        Paper(
            "cut",
            "Cutting file, one layer an operation",
            "cutting file of the made plates, one layer an operation (DXF)",
            "Cutting file of the bracket, a layer an operation (DXF)…",
            "-cut.dxf",
            cuts=True,
        ),
        Paper("svg", "Drawing", "drawing", "Drawing (SVG)…", "-plate.svg", of_plate=True, cuts=True),
        Paper("csv", "Hole table", "hole table", "Hole table (CSV)…", "-plate.csv", of_plate=True),
        Paper(
            "parts",
            "Parts list",
            "parts list (CSV)",
            "Parts list (CSV)…",
            "-parts.csv",
            tip="Made, bought, used again, missing",
            use="keep",
        ),
        Paper(
            "card",
            "Caliper card for the wheel",
            "1:1 card of the caliper's section, to hold in a wheel (PDF)",
            "Caliper card to hold in a wheel, 1:1 (PDF)…",
            "-caliper-card.pdf",
            tip="Cut from card, turned once round inside the wheel",
            use="work",
        ),
        Paper(
            "drilling",
            "Drilling template for the rotor",
            "1:1 drilling template for a rotor of another pattern (PDF)",
            "Drilling template for the rotor, 1:1 (PDF)…",
            "-drilling.pdf",
            tip="Where rotor and hub have different patterns",
        ),
        Paper(
            "chart",
            "Marking chart of the bushings",
            "marking chart of eccentric bushings (PDF)",
            "Marking chart of the bushings, 1:1 (PDF)…",
            "-bushings.pdf",
            tip="Where eccentric bushings are pressed in",
        ),
        Paper(
            "relief",
            "Relief template for a casting or dust shield",
            "1:1 relief template of what is in the way of the caliper's body, or a dust shield's cut line (PDF)",
            "Relief template for a casting or dust shield, 1:1 (PDF)…",
            "-relief.pdf",
            tip="Where the caliper's body meets something that may lose metal",
        ),
        Paper(
            "hub-parts",
            "Drawings of what is made for hub and rotor",
            "drawings of rotor spacer, hub-centric ring, drilling jig and puck (PDF)",
            "Drawings (PDF)…",
            "-hub-parts.pdf",
            tip="Rotor spacer, hub-centric ring, drilling jig and centring puck",
            group=HUB,
            whose="hub",
            cuts=True,
        ),
        Paper(
            "hub-step",
            "Solids of what is made for hub and rotor (STEP)",
            "solids of the same",
            "Solids (STEP)…",
            "-hub-parts.step",
            group=HUB,
            whose="hub",
            cuts=True,
        ),
        Paper(
            "hub-3mf",
            "What is made for hub and rotor, for a printer (3MF)",
            "the same for a printer (3MF)",
            "For a printer (3MF)…",
            "-hub-parts.3mf",
            group=HUB,
            whose="hub",
            cuts=True,
        ),
        Paper(
            "fit-sheet",
            "Trial fit sheet",
            "sheet to take to the car for a trial fit (PDF)",
            "Sheet to take to the car (PDF)…",
            "-trial-fit.pdf",
            tip="The slot with empty fields where gaps are read, the shims now, the next shims",
            use="work",
        ),
        Paper(
            "fit-log",
            "Trial fit log",
            "log of all trial fits (PDF)",
            "Log of all trials (PDF)…",
            "-trial-log.pdf",
            tip="Every trial with its gaps, shims and verdict",
            use="keep",
        ),
        Paper(
            "fit-csv",
            "Trial fit log as a table",
            "the same as a table (CSV)",
            "Log of all trials (CSV)…",
            "-trial-log.csv",
            use="keep",
        ),
        Paper(
            "step",
            "Solids (STEP)",
            "solids of the bracket's parts",
            "Solids of the bracket (STEP)…",
            "-bracket.step",
            tip="For a mill or another program",
            cuts=True,
        ),
        Paper(
            "trial",
            "Trial piece with its words on it (3MF)",
            "trial piece with the holes' numbers and what it is raised on it (3MF)",
            "With the holes' numbers on it (3MF)…",
            "-trial.3mf",
            tip="For a printer; says that it is not the part",
            group=TRIAL,
            use="work",
        ),
        Paper(
            "trial-thin",
            "The same, a third as thick (3MF)",
            "the same a third as thick, quickly printed",
            "The same, a third as thick (3MF)…",
            "-trial-thin.3mf",
            tip="Quickly printed: for outline and holes, not for the stack",
            group=TRIAL,
            use="work",
        ),
        Paper(
            "stl",
            "Trial piece (STL)",
            "trial piece for a printer",
            "Plain (STL)…",
            "-bracket.stl",
            tip="For a printer",
            group=TRIAL,
            use="work",
        ),
        Paper(
            "3mf",
            "Trial piece (3MF)",
            "the same with names",
            "Plain (3MF)…",
            "-bracket.3mf",
            group=TRIAL,
            use="work",
        ),
        Paper(
            "workshop-both",
            "Workshop drawings of both sides",
            "workshop drawings of both (PDF)",
            "Workshop drawings of both sides (PDF)…",
            "-both-sides.pdf",
            group=BOTH,
            whose="both",
            cuts=True,
        ),
        Paper(
            "cut-both",
            "Cutting file of both sides",
            "cutting file of both (DXF)",
            "Cutting file of both sides (DXF)…",
            "-both-sides.dxf",
            group=BOTH,
            whose="both",
            cuts=True,
        ),
        Paper(
            "step-both",
            "Solids of both sides (STEP)",
            "solids for both corners of the axle: mirror images, or two parts where the surveys differ",
            "Solids of both sides (STEP)…",
            "-both-sides.step",
            tip="Mirror images, or two parts where the surveys differ",
            group=BOTH,
            whose="both",
            cuts=True,
        ),
    )
}
"""Every paper, in the order of the menu."""


def paper_name(stem: str, kind: str, corner: str) -> str:
    """Return the file name of a paper of the job called ``stem``: with its corner, or the axle where it shows both corners.

    Left and right may be two different parts, so one is never written over the other.
    """
    whose = corner.split("-")[0] if PAPERS[kind].whose == "both" else corner
    return f"{stem}-{whose}{PAPERS[kind].ending}"
