"""Surveys put together by chance, that several tests share."""

import random

from bicentra.core.parts.survey import (
    SENSES,
    SIDES,
    SWEPT,
    Direction,
    Distance,
    FaceReadings,
    Feature,
    Spot,
    Survey,
    Sweep,
    SweepReading,
)

NAMES = ("pilot", "upper lug", "lower lug", "upper", "web", "flat", "edge", "p1", "p2")


def some_survey(chance: random.Random) -> Survey:
    """A survey put together by chance: features of every kind, readings that contradict each other, gaps."""

    def number(low: float, high: float, gap: float = 0.15) -> float | None:
        return None if chance.random() < gap else round(chance.uniform(low, high), chance.choice([0, 1, 3]))

    names = chance.sample(NAMES, chance.randint(0, len(NAMES)))
    kinds = {n: "edge" if n in ("flat", "edge") else chance.choice(["round", "round", "point"]) for n in names}
    features = tuple(
        Feature(name=n, kind=kinds[n], axis=n == "pilot" and chance.random() < 0.9, side=chance.choice(SIDES),
                diameter_mm=number(0, 60, 0.3) if kinds[n] == "round" else None, obstacle=chance.choice([None, None, "ridge"]))
        for n in names
    )  # fmt: skip
    pairs = [chance.sample(names, 2) for _ in range(chance.randint(0, 14))] if len(names) > 1 else []
    distances = tuple(
        Distance(
            from_=a, to=b, sense=chance.choice(SENSES), value_mm=number(0, 150), set_aside=chance.choice(["", "", "x"])
        )
        for a, b in pairs
        if {kinds[a], kinds[b]} != {"edge"}
    )
    turned = tuple(
        Direction(from_=a, to=b, clock_deg=number(-180, 360))
        for a, b in pairs[:3]
        if "edge" not in (kinds[a], kinds[b])
    )
    faces = tuple(
        FaceReadings(
            feature=n,
            spots=tuple(
                Spot(at_deg=number(0, 360), radius_mm=number(0, 20), depth_mm=number(-5, 120)) for _ in range(4)
            ),
        )
        for n in names[:2]
    )
    sweeps = tuple(
        Sweep(
            on=on,
            radius_mm=number(1, 150),
            readings=tuple(SweepReading(at_deg=30.0 * k, value_mm=number(-1, 1)) for k in range(chance.randint(0, 14))),
        )
        for on in SWEPT
    )
    return Survey(
        features=features,
        distances=distances,
        directions=turned,
        straightedge_thickness_mm=number(1, 20),
        faces=faces,
        sweeps=sweeps,
    )
