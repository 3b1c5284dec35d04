"""Small faults put into the core and what writes files, one at a time: which of them does no test notice?

``python scripts/mutants.py [PACKAGE] [COUNT] [SEED]`` looks at COUNT faults, chosen by SEED, of a package of the core (``lineup``,
``bracket/families`` …) or of ``formats``; ``all`` for every package. Which tests run a line is found once by coverage and kept in
``.mutants``; each fault meets the tests that run its line, those that run least code first. Ends with 1 when fewer than nine in
ten are noticed.

Faults that change nothing anybody could notice are listed with a reason in ``tests/unnoticed.txt``.
"""

import ast
import os
import random
import shutil
import subprocess
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from copy import deepcopy
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).resolve().parent.parent
PACKAGE = ROOT / "src/bicentra"
CORE, FORMATS, KEPT = PACKAGE / "core", PACKAGE / "formats", ROOT / ".mutants"
TESTS = ("tests/core", "tests/validation", "tests/regression", "tests/formats", "tests/study")
WORKERS, MOST_TESTS, MOST_OWN, PATIENCE_S, WANTED = 2, 140, 60, 300.0, 0.9
OTHER: dict[type, type] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Mod: ast.Mult, ast.Pow: ast.Mult,
    ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip
NAMES = {"min": "max", "max": "min", "sin": "cos", "cos": "sin", "any": "all", "all": "any"}


@dataclass(frozen=True)
class Fault:
    """One small fault: the file, its line, what is changed in words, and the whole file with it."""

    path: Path
    line: int
    text: str
    source: str

    @property
    def key(self) -> str:
        """The fault as it is listed: file, the line as it stands, what is changed."""
        text = self.path.read_text().splitlines()[self.line - 1].strip()
        return f"{package_path(self.path)} | {text} | {self.text}"


def package_path(path: Path) -> Path:
    """Return ``path`` from its package on: ``lineup/pad.py``, ``formats/svg.py``."""
    return path.relative_to(CORE if path.is_relative_to(CORE) else PACKAGE)


def files_of(package: str) -> list[Path]:
    """Return the files of a package, of all packages for ``all``."""
    places = (CORE, FORMATS) if package == "all" else (FORMATS if package == "formats" else CORE / package,)
    return sorted(path for place in places for path in place.rglob("*.py"))


def changed(node: ast.AST) -> Iterator[tuple[str, ast.AST]]:
    """Yield what may be put in the place of ``node``, each with a word for it."""
    if isinstance(node, ast.BinOp | ast.BoolOp) and type(node.op) in OTHER:
        other = OTHER[type(node.op)]
        made = deepcopy(node)
        made.op = other()
        yield f"{type(node.op).__name__} to {other.__name__}", made
    if isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in OTHER:
        other = OTHER[type(node.ops[0])]
        made = deepcopy(node)
        made.ops = [other()]
        yield f"{type(node.ops[0]).__name__} to {other.__name__}", made
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.Not):
        yield f"{type(node.op).__name__} left out", deepcopy(node.operand)
    if isinstance(node, ast.Constant) and isinstance(node.value, bool):
        yield f"{node.value} to {not node.value}", ast.Constant(not node.value)
    elif isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        value = node.value + 1 if isinstance(node.value, int) else node.value * 2 or 1.0
        yield f"{node.value} to {value}", ast.Constant(value)
    if isinstance(node, ast.Name | ast.Attribute):
        name = node.id if isinstance(node, ast.Name) else node.attr
        if name in NAMES:
            made = deepcopy(node)
            setattr(made, "id" if isinstance(node, ast.Name) else "attr", NAMES[name])
            yield f"{name} to {NAMES[name]}", made
    if isinstance(node, ast.IfExp):
        yield "choice turned round", ast.IfExp(deepcopy(node.test), deepcopy(node.orelse), deepcopy(node.body))


def faults_of(path: Path) -> list[Fault]:
    """Return every fault that can be put into the functions of a file; types, decorators and defaults are left alone."""
    tree = ast.parse(path.read_text())
    places: list[tuple[ast.AST, str, int | None, ast.expr]] = []
    for function in (n for n in ast.walk(tree) if isinstance(n, ast.FunctionDef)):
        for owner in (n for statement in function.body for n in ast.walk(statement)):
            for name, value in ast.iter_fields(owner):
                if name in ("annotation", "returns", "decorator_list", "defaults", "kw_defaults", "format_spec"):
                    continue
                for index, child in enumerate(value) if isinstance(value, list) else [(None, value)]:
                    if isinstance(child, ast.expr):
                        places.append((owner, name, index, child))
    found, seen = [], set()
    for owner, name, index, child in places:
        for text, other in changed(child):
            key = (child.lineno, child.col_offset, text)
            if key in seen:
                continue
            seen.add(key)
            _put(owner, name, index, ast.copy_location(other, child))
            found.append(Fault(path, child.lineno, text, ast.unparse(ast.fix_missing_locations(tree))))
            _put(owner, name, index, child)
    return found


def _put(owner: ast.AST, name: str, index: int | None, child: ast.AST) -> None:
    if index is None:
        setattr(owner, name, child)
    else:
        getattr(owner, name)[index] = child


def who_runs() -> dict[tuple[str, int], list[str]]:
    """Return the tests that run each line of the core, those that run least code first."""
    from coverage import CoverageData

    data_file = KEPT / "coverage"
    newest = max(path.stat().st_mtime for folder in ("src", "tests") for path in (ROOT / folder).rglob("*.py"))
    if not data_file.exists() or data_file.stat().st_mtime < newest:
        KEPT.mkdir(exist_ok=True)
        data_file.unlink(missing_ok=True)
        words = [
            "-q",
            "-n",
            "2",
            "--cov=bicentra.core",
            "--cov=bicentra.formats",
            "--cov-context=test",
            "--cov-report=",
            *TESTS,
        ]
        made = dict(os.environ, COVERAGE_FILE=str(data_file), QT_QPA_PLATFORM="offscreen")
        subprocess.run([sys.executable, "-m", "pytest", *words], cwd=ROOT, env=made, check=True)
    data = CoverageData(str(data_file))
    data.read()
    lines: dict[tuple[str, int], set[str]] = {}
    size: dict[str, int] = {}
    for file in data.measured_files():
        for line, contexts in data.contexts_by_lineno(file).items():
            tests = {context.partition("|")[0] for context in contexts if context}
            lines[str(Path(file).resolve()), line] = tests
            for test in tests:
                size[test] = size.get(test, 0) + 1
    return {place: sorted(tests, key=lambda test: size[test]) for place, tests in lines.items()}


def noticed(fault: Fault, tests: list[str], folder: Path) -> bool:
    """Tell whether one of ``tests`` fails with the fault in place; one that hangs is noticed too."""
    place = folder / fault.path.relative_to(ROOT / "src")
    before = place.read_bytes()
    place.write_text(fault.source)
    made = dict(os.environ, PYTHONPATH=str(folder), QT_QPA_PLATFORM="offscreen", PYTHONDONTWRITEBYTECODE="1")
    words = ["-x", "-q", "-p", "no:xdist", "-p", "no:cov", *tests[:MOST_TESTS]]
    try:
        done = subprocess.run([sys.executable, "-m", "pytest", *words], cwd=ROOT, env=made, capture_output=True,
                              timeout=PATIENCE_S, check=False)  # fmt: skip
        return done.returncode == 1
    except subprocess.TimeoutExpired:
        return True
    finally:
        place.write_bytes(before)


def _near_first(tests: list[str], fault: Fault) -> list[str]:
    """Return ``tests`` with those of the fault's own package and the outside values first, then the records, then the others."""
    package = package_path(fault.path).parts[0]
    near = ("tests/formats",) if package == "formats" else (f"tests/core/{package}", "tests/validation")
    own = [test for test in tests if test.startswith(near)][:MOST_OWN]
    kept = sorted(
        (test for test in tests if test.startswith("tests/regression")), key=lambda test: "by_chance" not in test
    )
    return [*own, *kept, *(test for test in tests if test not in own and test not in kept)]


def main(package: str, count: int, seed: int) -> int:
    """Look at ``count`` faults of ``package``; returns 1 when too few are noticed."""
    runs = who_runs()
    every = [fault for path in files_of(package) for fault in faults_of(path)]
    listed = (ROOT / "tests/unnoticed.txt").read_text().splitlines()
    accepted = {" | ".join(line.split(" | ")[:3]) for line in listed}
    asked = random.Random(seed).sample(every, min(count, len(every)))
    folders: Queue[Path] = Queue()
    for number in range(WORKERS):
        folder = KEPT / f"copy-{number}"
        shutil.rmtree(folder, ignore_errors=True)
        shutil.copytree(ROOT / "src", folder, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
        folders.put(folder)
    missed, let_pass, began = [], 0, time.monotonic()

    def look(fault: Fault) -> tuple[Fault, bool]:
        tests, folder = _near_first(runs.get((str(fault.path), fault.line), []), fault), folders.get()
        try:
            return fault, bool(tests) and noticed(fault, tests, folder)
        finally:
            folders.put(folder)

    with ThreadPoolExecutor(WORKERS) as pool:
        for fault, found in pool.map(look, asked):
            if not found and fault.key in accepted:
                let_pass += 1
            elif not found:
                missed.append(fault)
                print(f"not noticed: {fault.key} (line {fault.line})", flush=True)
    share = 1.0 - len(missed) / max(len(asked) - let_pass, 1)
    minutes = (time.monotonic() - began) / 60
    print(
        f"{package}: {len(asked)} faults of {len(every)}, {let_pass} listed, {len(missed)} not noticed: {share:.0%}; "
        f"{minutes:.1f} min"
    )
    return 0 if share >= WANTED else 1


if __name__ == "__main__":
    given = sys.argv[1:]
    package, count, seed = (*given, *("all", "60", "1")[len(given) :])
    sys.exit(main(package, int(count), int(seed)))
