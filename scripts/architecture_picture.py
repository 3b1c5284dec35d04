"""Draw docs/architecture.svg from the import contracts in pyproject.toml: it cannot lie. ``--check`` compares only."""

import sys
import tomllib
from html import escape
from pathlib import Path

TOP = Path(__file__).parents[1]
PICTURE = TOP / "docs" / "architecture.svg"
WIDE, HIGH, GAP, LEFT, CORE_WIDE = 200, 30, 12, 20, 640
OUTSIDE = ("app", "cli", "study", "formats")
STYLE = 'font-family="sans-serif" font-size="13"'


def layers_of(name: str) -> list[list[str]]:
    """Return the layers of the contract whose name begins so, the highest first."""
    contracts = tomllib.loads((TOP / "pyproject.toml").read_text("utf-8"))["tool"]["importlinter"]["contracts"]
    found = next(one for one in contracts if one["name"].startswith(name))
    return [[part.strip().rpartition(".")[2] for part in layer.split("|")] for layer in found["layers"]]


def box(x: float, y: float, wide: float, text: str, fill: str) -> str:
    """Return one box with its text."""
    return (
        f'<rect x="{x:g}" y="{y:g}" width="{wide:g}" height="{HIGH}" rx="5" fill="{fill}" stroke="#56646b"/>'
        f'<text x="{x + wide / 2:g}" y="{y + 20:g}" text-anchor="middle" {STYLE}>{escape(text)}</text>'
    )


def picture() -> str:
    """Return the drawing: each package may import those below it in its column, the outer ones the core."""
    core = layers_of("The steps of the core")
    drawn, y = [], 46.0
    for layer in core:
        wide = (CORE_WIDE - GAP * (len(layer) - 1)) / len(layer)
        drawn += [box(LEFT + place * (wide + GAP), y, wide, name, "#e7efe9") for place, name in enumerate(layer)]
        y += HIGH + GAP
    right = LEFT + CORE_WIDE + 60
    drawn += [box(right, 46.0 + k * (HIGH + 40), WIDE, name, "#f0e6d0") for k, name in enumerate(OUTSIDE)]
    heads = (
        f'<text x="{LEFT}" y="30" {STYLE} font-weight="bold">core: each layer may import those below it</text>'
        f'<text x="{right}" y="30" {STYLE} font-weight="bold">outside the core</text>'
    )
    notes = ("app and cli import study", "study imports formats and core", "formats imports core", "Qt is in app alone")
    text = "".join(f'<text x="{right}" y="{350 + 20 * k}" {STYLE}>{note}</text>' for k, note in enumerate(notes))
    size = f'width="{right + WIDE + LEFT}" height="{y + 10:g}"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="100%" height="100%" fill="#fcfbf7"/>'
        f"{heads}{''.join(drawn)}{text}</svg>\n"
    )


if __name__ == "__main__":
    if "--check" in sys.argv:
        sys.exit(PICTURE.read_text("utf-8") != picture())
    PICTURE.write_text(picture(), "utf-8")
