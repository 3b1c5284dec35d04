"""The rules of the house, and that their alarms ring."""

import ast
import importlib
import inspect
import os
import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

from bicentra.core.base.registry import KINDS
from bicentra.core.bracket.families.table import FAMILIES

SOURCE = Path(__file__).parents[2] / "src" / "bicentra"

OUTSIDE: dict[str, set[str]] = {
    "core": {"numpy", "scipy", "shapely", "msgspec"},
    "data": set(),
    "formats": {"msgspec", "ezdxf", "reportlab", "fontTools", "OCP", "numpy", "pypdfium2"},
    "study": {"msgspec", "numpy", "platformdirs", "serial", "PIL"},
    "cli": {"msgspec"},
    "app": {"PySide6", "shiboken6", "numpy"},
}


def faults(module: str, text: str) -> list[str]:
    """Every library that ``module`` may not import and ``text`` does."""
    found, allowed = [], OUTSIDE[module.split(".")[0]]
    for node in ast.walk(ast.parse(text)):
        names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
        names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
        tops = {name.split(".")[0] for name in names} - sys.stdlib_module_names - {"bicentra"}
        found += [f"{module} -> {top}" for top in sorted(tops - allowed)]
    return found


def modules() -> dict[str, Path]:
    """Every module of the package by its dotted name."""
    names = {}
    for path in SOURCE.rglob("*.py"):
        dotted = ".".join(path.relative_to(SOURCE).with_suffix("").parts).removesuffix(".__init__")
        if dotted not in ("__init__", "__main__", "core"):
            names[dotted] = path
    return names


def test_each_room_takes_its_own_libraries() -> None:
    """No module imports a library that its room has no use for, even inside a function."""
    assert [fault for name, path in modules().items() for fault in faults(name, path.read_text())] == []
    assert faults("core.lineup.x", "from PySide6.QtCore import QObject"), "the alarm rings"
    assert faults("app.x", "def f():\n    import ezdxf"), "the alarm rings"


PLANTED = {
    "core/base/numbers.py": "from bicentra.core.parts.job import Job",
    "core/lineup/solve.py": "def late():\n    from bicentra.core.bracket import model",
    "core/bracket/families/plates.py": "from bicentra.core.evaluation.bracket_evaluation import judge_bracket",
    "formats/csv_out.py": "from bicentra.study.document import store",
    "study/__init__.py": "def late():\n    from bicentra.app.window import MainWindow",
    "app/theme.py": "from bicentra.formats import job_json",
    "app/survey/bench.py": "from bicentra.app.lineup import bench",
    "app/cover/bench.py": "from bicentra.app.bracket import bench",
    "core/evaluation/bracket_evaluation.py": "from bicentra.core.evaluation.solution import solve",
}
"""One import the wrong way for each contract of pyproject.toml."""


def contracts(folder: Path) -> subprocess.CompletedProcess[str]:
    """Hold the import contracts to the package in ``folder``/src."""
    call = [sys.executable, "-c", "from importlinter.cli import lint_imports_command as go; go()", "--no-cache"]
    return subprocess.run(
        call,
        cwd=folder,
        env={**os.environ, "PYTHONPATH": str(folder / "src")},
        capture_output=True,
        text=True,
        check=False,
    )


def test_imports_point_one_way_and_the_alarm_rings(tmp_path: Path) -> None:
    """The contracts hold on the house as it is, and each is broken by an import planted in a copy of it."""
    shutil.copytree(SOURCE, tmp_path / "src" / "bicentra", ignore=shutil.ignore_patterns("__pycache__", "data"))
    shutil.copytree(
        SOURCE / "data",
        tmp_path / "src" / "bicentra" / "data",
        ignore=lambda _, names: [n for n in names if not n.endswith(".py")],
    )
    shutil.copy(SOURCE.parents[1] / "pyproject.toml", tmp_path)
    whole = contracts(tmp_path)
    assert whole.returncode == 0, whole.stdout + whole.stderr
    for name, line in PLANTED.items():
        with (tmp_path / "src" / "bicentra" / name).open("a") as file:
            file.write(f"\n\n{line}\n")
    broken = contracts(tmp_path)
    assert broken.returncode == 1
    unseen = [
        name
        for name in PLANTED
        if f"bicentra.{name.removesuffix('.py').removesuffix('/__init__').replace('/', '.')} ->" not in broken.stdout
    ]
    assert unseen == [], broken.stdout


WORK = re.compile(
    r"core\.(survey(?!\.words)|lineup|fasteners|bracket|clearance|evaluation|inputs|options|uncertainty|search|trialfit"
    r"|hydraulics|heat|practice|consistency)\b"
)


def solvers_called(text: str) -> list[str]:
    """Every function of the core's steps that ``text`` takes in; records and what is only named for types do not count."""
    tree = ast.parse(text)
    typed = {
        id(n)
        for top in ast.walk(tree)
        if isinstance(top, ast.If) and "TYPE_CHECKING" in ast.unparse(top.test)
        for n in ast.walk(top)
    }
    taken = [
        n
        for n in ast.walk(tree)
        if isinstance(n, ast.ImportFrom) and id(n) not in typed and WORK.search(n.module or "")
    ]
    found = [
        getattr(importlib.import_module(node.module or ""), alias.name, None) for node in taken for alias in node.names
    ]
    return [getattr(one, "__name__", str(one)) for one in found if inspect.isfunction(one) or inspect.ismodule(one)]


def test_the_window_solves_nothing_itself() -> None:
    """The window takes records of the core and draws them; what is worked out is asked of the study."""
    window = {name: path for name, path in modules().items() if name.startswith("app")}
    assert {name: found for name, path in window.items() if (found := solvers_called(path.read_text()))} == {}
    planted = {
        "search.clock import ClockSearch, search_clock": "search_clock",
        "hydraulics.travel import Travel, travel_at": "travel_at",
        "heat.train import train_of": "train_of",
        "trialfit.fit import trial_fit": "trial_fit",
        "inputs.missing import missing_sizes": "missing_sizes",
    }
    for line, name in planted.items():
        assert solvers_called(f"from bicentra.core.{line}") == [name], "it rings"


FLOATS = re.compile(r"\bfloat\b|FloatArray|\bPoints?\b")
WITHOUT = re.compile(
    r"(^|_)(share|shares|factor|ratio|scale|score|count|number|first|last|most|studs|seed|level|grip|efficiency|gain|guess|mu|key"
    r"|values?|default|record|other|faces|judge|decimals|digits|weight|weights|bulge|places)(_|$)"
)
"""Names of what is counted, compared or given in whatever unit it has."""
WITH_UNIT = re.compile(r"(_mm|_deg|_rad|_nm?|_kg|_k|_c|_px|_bar|_s|_mm2|_mm3)$")
UNIT = re.compile(
    r"\[[^\]]*(mm|rad|deg|°|units?|\bN\b|\bK\b|kg|kelvin|1|share|turns|inches|bar|MiB|px|minutes)[^\]]*\]"
    r"|\bmm[23²³]?\b|\bdegrees?\b|\bradians?\b|N·m|N/mm|\bkg\b|\bkelvin\b|\b0 to 1\b|\bunits?\b|\bshares?\b|standard|chance|probab|\bnan\b|percent|per cent|sum of"
)


def without_units(text: str) -> list[str]:
    """Every public function of a module that takes or gives plain numbers whose unit neither name nor docstring says."""
    found, waiting = [], [(ast.parse(text), "")]
    while waiting:
        node, inside = waiting.pop()
        for item in node.body:
            if isinstance(item, ast.ClassDef) and not item.name.startswith("_"):
                waiting.append((item, f"{item.name}."))
            elif isinstance(item, ast.FunctionDef) and not item.name.startswith("_"):
                given = [(a.arg, a.annotation) for a in item.args.args + item.args.kwonlyargs] + [
                    (item.name, item.returns)
                ]
                plain = [
                    n
                    for n, kind in given
                    if kind and FLOATS.search(ast.unparse(kind)) and not (WITH_UNIT.search(n) or WITHOUT.search(n))
                ]
                if plain and not UNIT.search(ast.get_docstring(item) or ""):
                    found.append(f"{inside}{item.name}")
    return found


def test_every_number_of_the_core_has_a_unit() -> None:
    """Each public function of the core says the unit of the numbers it takes and gives, in a name or its docstring."""
    core = {name: path for name, path in modules().items() if name.startswith("core.")}
    assert {name: found for name, path in core.items() if (found := without_units(path.read_text()))} == {}
    assert without_units('def f(x: float) -> float:\n    """Twice."""') == ["f"], "the alarm rings"


def test_every_public_thing_tells_what_it_is() -> None:
    """Modules, public classes and functions carry a docstring; no file holds 500 lines, no function more than 60."""
    for name, path in modules().items():
        text = path.read_text()
        tree = ast.parse(text)
        assert ast.get_docstring(tree), name
        assert text.count("\n") < 500, name
        functions = [node for node in ast.walk(tree) if isinstance(node, ast.FunctionDef)]
        inner = {id(node) for function in functions for node in ast.walk(function) if node is not function}
        for node in ast.walk(tree):
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                assert id(node) in inner or ast.get_docstring(node), f"{name}.{node.name}"
            if isinstance(node, ast.FunctionDef):
                assert (node.end_lineno or 0) - node.lineno < 60, f"{name}.{node.name}"


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
    text = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)
        and node.body
        and isinstance(node.body[0], ast.Expr)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in text:
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


def test_scripts_and_benches_ask_for_what_is_there() -> None:
    """Whatever a script or a bench imports from the program, inside a function too, exists under that name."""
    missing = []
    for path in (*Path("scripts").glob("*.py"), *Path("benchmarks").glob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("bicentra"):
                module = importlib.import_module(node.module or "")
                missing += [f"{path}: {node.module}.{a.name}" for a in node.names if not hasattr(module, a.name)]
    assert missing == []
