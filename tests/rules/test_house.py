"""The rules of the house, and that their alarms ring."""

import ast
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

from bicentra.core.base.registry import KINDS
from bicentra.core.bracket.families.table import FAMILIES

SOURCE = Path(__file__).parents[2] / "src" / "bicentra"

ALLOWED: dict[str, set[str]] = {
    "core.base": {"core.base"},
    "core.parts": {"core.base", "core.parts"},
    "core.survey": {"core.base", "core.parts", "core.survey"},
    "core.lineup": {"core.base", "core.parts", "core.lineup"},
    "core.fasteners": {"core.base", "core.parts", "core.fasteners"},
    "core.bracket": {"core.base", "core.parts", "core.lineup", "core.fasteners", "core.bracket"},
    "core.clearance": {"core.base", "core.parts", "core.lineup", "core.bracket", "core.clearance"},
    "core.judged": {"core.base", "core.parts", "core.lineup", "core.bracket", "core.clearance"},
    "core.beside": {"core.base", "core.parts", "core.lineup", "core.bracket", "core.clearance", "core.judged"},
    "core.solution": {
        "core.base",
        "core.parts",
        "core.lineup",
        "core.bracket",
        "core.clearance",
        "core.judged",
        "core.beside",
    },
    "core.proposals": {"core.base", "core.parts", "core.lineup", "core.bracket", "core.judged", "core.beside"},
    "core.certainty": {
        "core.base",
        "core.parts",
        "core.survey",
        "core.lineup",
        "core.bracket",
        "core.solution",
        "core.proposals",
        "core.certainty",
    },
    "core.search": {
        "core.base",
        "core.parts",
        "core.lineup",
        "core.bracket",
        "core.clearance",
        "core.judged",
        "core.solution",
        "core.certainty",
        "core.search",
    },
    "core.drawing": {
        "core.base",
        "core.parts",
        "core.lineup",
        "core.fasteners",
        "core.bracket",
        "core.clearance",
        "core.solution",
        "core.proposals",
        "core.survey",
        "core.certainty",
        "core.search",
        "core.drawing",
    },
    "data": set(),
    "formats": {"core", "data", "formats"},
    "study": {"core", "data", "formats", "study"},
    "cli": {"core", "study", "formats", "app.main", "cli", ""},
    "app": {"core", "data", "study", "app"},
}
"""Which room may import which. The command line starts the window by name; the report of ``check`` is a format."""

OUTSIDE: dict[str, set[str]] = {
    "core": {"numpy", "scipy", "shapely"},
    "data": set(),
    "formats": {"msgspec", "ezdxf", "reportlab", "fontTools", "OCP", "numpy"},
    "study": {"msgspec", "numpy", "platformdirs", "serial"},
    "cli": {"msgspec"},
    "app": {"PySide6", "shiboken6", "numpy"},
}


def room(module: str) -> str:
    """The room a module belongs to."""
    parts = module.split(".")
    return ".".join(parts[:2]) if parts[0] == "core" and len(parts) > 1 else parts[0]


def faults(module: str, text: str) -> list[str]:
    """Every import in ``text`` that ``module`` may not make."""
    found = []
    here = room(module)
    for node in ast.walk(ast.parse(text)):
        names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
        if isinstance(node, ast.ImportFrom):
            names = (
                [f"{node.module}.{a.name}" for a in node.names] if node.module == "bicentra" else [node.module or ""]
            )
        for name in names:
            top = name.split(".")[0]
            if top == "bicentra":
                target = name.removeprefix("bicentra").lstrip(".")
                allowed = ALLOWED.get(here, set())
                if (
                    target
                    and not any(target == a or target.startswith(f"{a}.") for a in allowed if a)
                    and target != "__version__"
                ):
                    found.append(f"{module} -> {target}")
            elif top not in sys.stdlib_module_names and top not in OUTSIDE.get(here.split(".")[0], set()):
                found.append(f"{module} -> {top}")
    return found


def modules() -> dict[str, Path]:
    """Every module of the package by its dotted name."""
    names = {}
    for path in SOURCE.rglob("*.py"):
        dotted = ".".join(path.relative_to(SOURCE).with_suffix("").parts).removesuffix(".__init__")
        if dotted not in ("__init__", "__main__", "core"):
            names[dotted] = path
    return names


def test_arrows_point_one_way() -> None:
    """No module imports what its room may not."""
    assert [fault for name, path in modules().items() for fault in faults(name, path.read_text())] == []


@pytest.mark.parametrize(
    ("module", "line"),
    [
        ("core.lineup.x", "from PySide6.QtCore import QObject"),
        ("core.lineup.x", "from bicentra.core.bracket.hull import Disc"),
        ("core.parts.x", "import bicentra.core.lineup.solve"),
        ("core.base.x", "import serial"),
        ("formats.x", "from bicentra.study.document import store"),
        ("study.x", "def f():\n    from bicentra.app.window import MainWindow"),
        ("app.x", "import ezdxf"),
    ],
)
def test_the_alarm_rings(module: str, line: str) -> None:
    """A forbidden import is caught, even inside a function."""
    assert faults(module, line)


def test_every_public_thing_tells_what_it_is() -> None:
    """Modules, public classes and functions carry a docstring; no file holds more than 500 lines."""
    for name, path in modules().items():
        text = path.read_text()
        tree = ast.parse(text)
        assert ast.get_docstring(tree), name
        assert text.count("\n") < 500, name
        for node in ast.walk(tree):
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                inner = any(
                    node in ast.walk(f) and node is not f for f in ast.walk(tree) if isinstance(f, ast.FunctionDef)
                )
                assert inner or ast.get_docstring(node), f"{name}.{node.name}"


def test_every_test_says_what_it_shows() -> None:
    """One sentence a test."""
    for path in (SOURCE.parents[1] / "tests").rglob("test_*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.FunctionDef) and node.name.startswith("test_"):
                assert ast.get_docstring(node), f"{path.name}: {node.name}"


def test_nothing_heavy_is_loaded_for_the_first_window() -> None:
    """Importing the window loads none of the libraries that only papers need."""
    code = "import sys, bicentra.app.main, bicentra.app.window; print([m for m in ('ezdxf','reportlab','fontTools','scipy','serial','PIL') if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"
    code = "import sys, bicentra.app.main; print([m for m in ('numpy', 'shapely', 'msgspec') if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def strings(tree: ast.AST) -> Iterator[ast.Constant]:
    """Every plain string of a module that is no docstring."""
    told = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)
        and node.body
        and isinstance(node.body[0], ast.Expr)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in told:
            yield node


def names_of_families(text: str) -> list[str]:
    """Every kind of bracket that ``text`` names."""
    return [node.value for node in strings(ast.parse(text)) if node.value in FAMILIES]


def test_nothing_outside_the_families_names_one() -> None:
    """A kind of bracket is known by its traits; only its own file says what it is called."""
    outside = {name: path for name, path in modules().items() if not name.startswith("core.bracket.families")}
    assert {name: found for name, path in outside.items() if (found := names_of_families(path.read_text()))} == {}
    assert names_of_families('x = "weld-on" if y else "plain"') == ["weld-on"], "the alarm rings"


def lists_of_findings(text: str) -> list[str]:
    """Every tuple, list or set that keeps two or more findings' ids by hand."""
    ids, found = {kind.id for kind in KINDS}, []
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Tuple | ast.List | ast.Set):
            named = [e.value for e in node.elts if isinstance(e, ast.Constant) and e.value in ids]
            if len(named) > 1:
                found.append(", ".join(named))
    return found


def test_findings_are_declared_once() -> None:
    """Each id is declared in the registry and asked somewhere; lists of ids are derived from it, none is kept by hand."""
    texts = {name: path.read_text() for name, path in modules().items() if name != "core.base.registry"}
    kept = {name: found for name, text in texts.items() if (found := lists_of_findings(text))}
    assert kept == {}
    assert lists_of_findings('X = ("ligament", "tip-gap")') == ["ligament, tip-gap"], "the alarm rings"
    asked = {node.value for text in texts.values() for node in strings(ast.parse(text))}
    made = {"bracket-to-rotor", "bracket-to-hub"}  # of one function that is given which
    assert {kind.id for kind in KINDS} - asked - made == set()
    assert len({kind.id for kind in KINDS}) == len(KINDS)


def test_no_import_goes_round() -> None:
    """No module imports, over however many others, itself; what is only imported for types does not count."""
    arrows = {name: set(imports_of(path)) for name, path in modules().items()}
    done: set[str] = set()

    def walk(name: str, trail: tuple[str, ...]) -> list[str]:
        if name in trail:
            return [" -> ".join((*trail[trail.index(name) :], name))]
        if name in done:
            return []
        found = [circle for other in sorted(arrows.get(name, ())) for circle in walk(other, (*trail, name))]
        done.add(name)
        return found

    assert [circle for name in sorted(arrows) for circle in walk(name, ())] == []


def imports_of(path: Path) -> Iterator[str]:
    """The project's modules that a module imports when it is loaded."""
    for node in ast.parse(path.read_text()).body:
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("bicentra"):
            base = (node.module or "").removeprefix("bicentra").lstrip(".")
            yield base
            yield from (f"{base}.{alias.name}" for alias in node.names)
