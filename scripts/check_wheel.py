"""Build the wheel and run a command from it alone: what ships has its data, fonts and demo with it."""

import os
import shutil
import subprocess
import sys
import tempfile
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
NEEDED = (
    "bicentra/data/demo/float.bicentra.json",
    "bicentra/data/fonts/OFL-IBM-Plex.txt",
    "bicentra/data/library/rotor-01.part.json",
)


def main() -> int:
    """Return 0 when the wheel is whole and its ``check`` works on its own demo."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "source"  # a build leaves its workings beside what it builds
        shutil.copytree(ROOT / "src", copy / "src", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy(ROOT / name, copy)
        build = [
            sys.executable,
            "-m",
            "pip",
            "wheel",
            "--quiet",
            "--disable-pip-version-check",
            "--no-deps",
            "-w",
            folder,
            str(copy),
        ]
        subprocess.run(build, check=True)
        (wheel,) = Path(folder).glob("*.whl")
        with zipfile.ZipFile(wheel) as packed:
            missing = [name for name in NEEDED if name not in packed.namelist()]
            packed.extractall(Path(folder) / "whole")
        if missing:
            print(f"{wheel.name}: not in the wheel: {', '.join(missing)}")
            return 1
        demo = Path(folder) / "whole" / NEEDED[0]
        code = "import sys; from bicentra.cli import main; sys.exit(main(sys.argv[1:]))"
        ran = subprocess.run(
            [sys.executable, "-P", "-c", code, "check", str(demo), "--all", "--json"],
            env={**os.environ, "PYTHONPATH": str(Path(folder) / "whole")}, cwd=folder, capture_output=True, check=False,
        )  # fmt: skip
        if ran.returncode != 1:  # two findings of the demo say stop
            print(f"{wheel.name}: check ended with {ran.returncode}: {ran.stderr.decode()}")
            return 1
        print(f"{wheel.name}: whole, checks its own demo")
    return 0


if __name__ == "__main__":
    sys.exit(main())
