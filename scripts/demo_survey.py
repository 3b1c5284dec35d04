"""Make the demo job's survey of both front corners from an invented truth and a stated seed: ``scripts/demo_survey.py``.

Invented data. The truth: the job's lugs a few hundredths off their typed places; on the left the lower lug is bent by
0.6°; on the right one reading is 0.8 mm long; the rotor has a better index than the one it was swept in.
"""

import json
import math
import sys
from pathlib import Path

import numpy as np

SEED = 11
FILE = Path(__file__).parents[1] / "src/bicentra/data/demo/float.bicentra.json"
THICK = 9.52
SENSES = {"near-near": (-1, -1), "far-far": (1, 1), "near-far": (-1, 1)}
POINTS = {"right": {"upper lug": (-62.04, 42.03, -73.68), "lower lug": (-61.97, -38.05, -73.74)},
          "left": {"upper lug": (-61.91, 42.11, -73.60), "lower lug": (-62.16, -37.92, -73.81)}}  # fmt: skip
SIZES = {"pilot": 57.0, "upper lug": 10.5, "lower lug": 10.5, "web bolt": 8.4}
LEAN = {
    "right": {"upper lug": (0.04, 80.0), "lower lug": (0.06, 200.0)},
    "left": {"upper lug": (0.05, 10.0), "lower lug": (0.6, 160.0)},
}
WEB = (18.0, 36.0)


def far(a: tuple[float, ...], b: tuple[float, ...]) -> float:
    """Centre distance in the plane."""
    return math.hypot(a[0] - b[0], a[1] - b[1])


def corner(side: str, rng: np.random.Generator) -> dict[str, object]:
    """Return one corner's survey."""
    when = "2026-11-20" if side == "right" else "2026-11-21"
    who = {"by": "workshop", "taken": when}
    places = {"pilot": (0.0, 0.0), **POINTS[side], "web bolt": WEB}
    features = [
        {
            "name": name,
            "diameter_mm": round(size + rng.normal(0, 0.02), 2),
            **({"axis": True} if name == "pilot" else {}),
            **who,
        }
        for name, size in SIZES.items()
    ]

    def distance(a: str, b: str, sense: str, wrong: float = 0.0) -> dict[str, object]:
        s = SENSES[sense]
        value = far(places[a], places[b]) + s[0] * SIZES[a] / 2 + s[1] * SIZES[b] / 2 + rng.normal(0, 0.03) + wrong
        return {"from": a, "to": b, "sense": sense, "value_mm": round(value, 2), **who}

    distances = [
        distance("pilot", "upper lug", "near-near"),
        distance("pilot", "upper lug", "far-far"),
        distance("pilot", "lower lug", "near-near", 0.8 if side == "right" else 0.0),
        distance("pilot", "lower lug", "far-far"),
        distance("upper lug", "lower lug", "near-near"),
        distance("upper lug", "lower lug", "far-far"),
        distance("pilot", "web bolt", "near-near"),
        distance("upper lug", "web bolt", "near-near"),
        distance("lower lug", "web bolt", "near-near"),
    ]
    lean = angle(places["upper lug"], places["lower lug"]) + rng.normal(0, 0.1)
    ray = angle(places["pilot"], places["upper lug"]) + rng.normal(0, 0.2)
    directions = [
        {"from": "upper lug", "to": "lower lug", "clock_deg": round(lean, 1), **who},
        {"from": "pilot", "to": "upper lug", "clock_deg": round(ray, 1), **who},
    ]
    return {
        "features": features,
        "distances": distances,
        "directions": directions,
        "straightedge_thickness_mm": THICK,
        "faces": [face(name, POINTS[side][name][2], LEAN[side][name], rng, who) for name in ("upper lug", "lower lug")],
        "sweeps": sweeps(rng, who) if side == "right" else sweeps(rng, who)[:1],
        **({"parts": parts(who)} if side == "right" else {}),
    }


def angle(a: tuple[float, ...], b: tuple[float, ...]) -> float:
    """Clock angle of the line from ``a`` to ``b``."""
    return math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))


def face(
    name: str, z: float, lean: tuple[float, float], rng: np.random.Generator, who: dict[str, str]
) -> dict[str, object]:
    """Four depths round a lug face that leans by ``lean`` (degrees, high towards)."""
    slope, way = math.tan(math.radians(lean[0])), math.radians(lean[1])
    spots = []
    for at in (45.0, 135.0, 225.0, 315.0):
        rise = slope * 10.5 * math.cos(math.radians(at) - way)
        spots.append({"at_deg": at, "radius_mm": 10.5, "depth_mm": round(THICK - (z + rise + rng.normal(0, 0.012)), 2)})
    return {"feature": name, "spots": spots, "sd_mm": 0.015, **who}


def sweeps(rng: np.random.Generator, who: dict[str, str]) -> list[dict[str, object]]:
    """A leaning hub face, and a rotor that leans too, so that turning it by two studs undoes part of it."""

    def sweep(
        on: str, radius: float, tilt: float, high: float, warp: float, dropped: tuple[int, ...]
    ) -> dict[str, object]:
        readings = []
        for k in range(12):
            phi = math.radians(30.0 * k)
            value = tilt * math.cos(phi - math.radians(high)) + warp * math.cos(2 * phi - 0.7) + rng.normal(0, 0.003)
            readings.append({"at_deg": 30.0 * k, "value_mm": None if k in dropped else round(value + 0.25, 3)})
        return {"on": on, "radius_mm": radius, "readings": readings, **who}

    return [sweep("hub-face", 60.0, 0.016, 70.0, 0.002, ()), sweep("rotor-face", 118.0, 0.048, 95.0, 0.006, (7,))]


def parts(who: dict[str, str]) -> list[dict[str, object]]:
    """Readings of the donor parts that give just the job's numbers."""
    return [
        {"recipe": "bridge", "values_mm": {"bridge": 61.3, "pad": 57.8}, **who},
        {"recipe": "ear-spacing-near", "values_mm": {"gap": 119.5, "first": 10.5, "second": 10.5}, **who},
        {"recipe": "ear-offset-inboard", "values_mm": {"near": 24.5, "far": 47.5}, **who},
        {"recipe": "slot-width", "values_mm": {"near": 24.5, "far": 47.5}, **who},
        {"recipe": "ear-line", "values_mm": {"edge": 32.75, "hole": 10.5}, **who},
        {"recipe": "rotor-height", "values_mm": {"top": 78.52, "straightedge": 9.52, "blocks": 25.0}, **who},
        {"recipe": "rotor-thickness", "values_mm": {"one": 20.0, "other": 20.0}, **who},
        {"recipe": "rotor-diameter", "values_mm": {"one": 256.0, "other": 256.0}, **who},
    ]


def main() -> int:
    """Write the surveys into the demo vehicle."""
    rng = np.random.default_rng(SEED)
    vehicle = json.loads(FILE.read_text())
    for side in ("right", "left"):
        readings = corner(side, rng)
        parts = readings.pop("parts", None)
        vehicle["corners"][f"front-{side}"]["survey"] = readings
        if parts is not None:
            vehicle["axles"]["front"]["readings"] = parts
    FILE.write_text(json.dumps(vehicle))
    from bicentra.formats.job_json import read_vehicle, write_vehicle

    FILE.write_bytes(write_vehicle(read_vehicle(FILE)))
    print(f"written: {FILE}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
