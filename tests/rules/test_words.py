"""How the program speaks: one set of verdict words, short titles, none of the words that went, never a key path where a person reads."""

import ast
import re
import runpy
from pathlib import Path

import pytest

import bicentra
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.registry import KINDS
from bicentra.core.base.wording import shown_value
from bicentra.core.parts.edits import label_at, spoken
from bicentra.core.parts.validate import leaves
from bicentra.study.document.starting import demo_job, demo_vehicle

SOURCE = Path(bicentra.__file__).parent
LONGEST_TITLE = 32
GONE = re.compile(
    r"\bnobody\b|\ba watch\b|\bnot known\b|\bcoins?\b|\bdoes not suit\b|\btake away\b|\bbrings with it\b|\bworked on last\b|\blay over\b"
    r"|\bgives way\b|\bmends?\b|\bblunder\b|\bdeed\b|\bshelf\b|\btrain of stops\b|\bstands the heat\b|\bplate behind the rotor\b"
    r"|\bwould go unseen\b|\bway back\b|\banew\b|\bnipples?\b|\bthings missing\b",
    re.IGNORECASE,
)


def shown_texts() -> list[tuple[str, str]]:
    """Every text of the program with a blank in it that is no docstring, with its module."""
    found = []
    for path in sorted(SOURCE.rglob("*.py")):
        tree = ast.parse(path.read_text("utf-8"))
        docs = {
            id(first.value)
            for node in ast.walk(tree)
            for first in (getattr(node, "body", None) if isinstance(getattr(node, "body", None), list) else [])
            if isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant)
        }
        for node in ast.walk(tree):
            if (
                isinstance(node, ast.Constant)
                and isinstance(node.value, str)
                and " " in node.value
                and id(node) not in docs
            ):
                found.append((path.stem, node.value))
    return found


def test_none_of_the_old_words_is_left() -> None:
    """No text that a person may read has one of the words that were replaced."""
    assert [(where, text) for where, text in shown_texts() if GONE.search(text)] == []


def test_titles_are_short_and_verdicts_are_the_files() -> None:
    """Titles of findings fit one line; the four words are those of the file; counts have their plural."""
    assert [kind.title for kind in KINDS if len(kind.title) > LONGEST_TITLE] == []
    assert [verdict.word.lower() for verdict in Verdict] == [verdict.value for verdict in Verdict]
    counted = [Verdict.STOP.counted(2), Verdict.CAUTION.counted(1), Verdict.UNKNOWN.counted(3), Verdict.OK.counted(26)]
    assert counted == ["2 stops", "1 caution", "3 unknown", "26 OK"]


def test_no_key_path_where_a_person_reads() -> None:
    """Every field of the demo's job and vehicle has a name without brackets, dots or underscores; a message begins with it."""
    job = demo_job()
    paths = [path for path, _, _ in leaves(job, "")]
    assert len(paths) > 200
    for path in (
        *paths,
        "trials[1].gaps_mm.leading_outboard",
        "stack:ear:second",
        "limits.tip-gap",
        "bracket.shims_mm[1]",
    ):
        name = label_at(job, path)
        assert name and not re.search(r"[_\[\]]|\w\.\w", name), (path, name)
    assert label_at(demo_vehicle(), "vehicle.pedal.ratio") == "pedal ratio"
    assert label_at(job, "knuckle.lugs[0].x_mm") == "upper lug: forward of the axle"
    assert (
        spoken(job, "rotor.diameter_mm: found 3; expected a number above 5")
        == "rotor: diameter: found 3; expected a number above 5"
    )
    assert spoken(job, "no path here: found") == "no path here: found"


@pytest.mark.parametrize(
    ("value", "limit", "unit", "units", "text"),
    [
        (126.05, 500.0, "N", "mm", ("126 N", "500 N")), (0.84, 0.75, "of the stroke", "mm", ("84 % of the stroke", "75 % of the stroke")),
        (62.36, -150.0, "K", "mm", ("62 °C below its limit", "–")), (-8.2, 0.0, "K", "in", ("15 °F above its limit", "–")),
        (173.26, 200.0, "bar", "mm", ("173.3 bar", "200 bar")), (512.4, 650.0, "°C", "mm", ("512 °C", "650 °C")),
        (2.311, 1.78, "mm", "mm", ("2.31 mm", "1.78 mm")), (2.0, 0.0, "", "mm", ("2 to fix", "–")),
    ],
)  # fmt: skip
def test_numbers_have_the_digits_a_person_can_use(
    value: float, limit: float, unit: str, units: str, text: tuple[str, str]
) -> None:
    """Forces to 1 N, pressures to 0.1 bar, temperatures to 1 °C, shares in per cent; a margin against no limit of another sense."""
    at_least = unit in ("K", "mm")
    finding = Finding("heat-paint", Verdict.OK, value, limit, unit, "", at_least=at_least)
    assert shown_value(finding, "in" if units == "in" else "mm") == text


TOP = SOURCE.parents[1]


def test_the_readme_is_short_and_every_link_leads_somewhere() -> None:
    """At most 700 words for a fabricator; every link and picture of README, tour, guide and commands is there; the table of limits is
    that of the program."""
    assert len((TOP / "README.md").read_text("utf-8").split()) <= 700
    for page in (TOP / "README.md", *(TOP / "docs").glob("*.md"), *(TOP / "docs" / "guide").glob("*.md")):
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert target.startswith("http") or (page.parent / target).exists(), (page.name, target)
    made = runpy.run_path(str(TOP / "scripts" / "checks.py"))["page"]()
    assert made == (TOP / "docs" / "checks.md").read_text("utf-8")
    drawn = runpy.run_path(str(TOP / "scripts" / "architecture_picture.py"))["picture"]()
    assert drawn == (TOP / "docs" / "architecture.svg").read_text("utf-8")
    assert len((TOP / "docs" / "architecture.md").read_text("utf-8").split()) <= 900


def test_no_two_things_share_a_name() -> None:
    """One word, one meaning: every public class and function has a name of its own; commands have ``add`` and ``run`` each."""
    homes: dict[str, list[str]] = {}
    for path in sorted(SOURCE.rglob("*.py")):
        for node in ast.parse(path.read_text("utf-8")).body:
            if not isinstance(node, ast.ClassDef | ast.FunctionDef) or node.name.startswith("_"):
                continue
            if path.parent.name != "cli" or node.name not in ("add", "run"):
                homes.setdefault(node.name, []).append(path.stem)
    assert len(homes) > 1000 and {name: where for name, where in homes.items() if len(where) > 1} == {}
