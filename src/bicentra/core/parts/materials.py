"""Plate materials: density, strength, and how much thread a bolt needs in them.

Densities are handbook values from memory (steel 7850, stainless 7900-8000, 6082 and 6061 2700, 7075 2810 kg/m3);
tests compare the aluminium ones with an outside table. Engagement: one diameter in steel, one and a half in
aluminium, common practice, no published source. Tensile strengths are the least ones of EN 10025-2 (S235, S355), ASTM A240 (304),
ASTM B209 (6061-T6, 7075-T6 plate), EN 485-2 (6082-T6 plate) and normalised 4130, from memory.
"""

from bicentra.core.base.records import Record


class Material(Record, frozen=True):
    """A plate material: density [kg/m3], wanted engagement in bolt diameters, least tensile strength [N/mm2] and its source."""

    name: str
    density: float
    engagement: float
    tensile: float
    source: str

    @property
    def text(self) -> str:
        """What is taken of it, in one sentence."""
        return f"{self.name}: {self.density:g} kg/m³, at least {self.tensile:g} N/mm² ({self.source}, from memory)"


STEEL_ENGAGEMENT, SOFT_ENGAGEMENT = 1.0, 1.5

MATERIALS: dict[str, Material] = {
    m.name: m
    for m in (
        Material("steel S355", 7850.0, STEEL_ENGAGEMENT, 470.0, "EN 10025-2"),
        Material("steel S235", 7850.0, STEEL_ENGAGEMENT, 360.0, "EN 10025-2"),
        Material("steel 4130", 7850.0, STEEL_ENGAGEMENT, 655.0, "normalised, a handbook value"),
        Material("stainless 304", 7930.0, STEEL_ENGAGEMENT, 515.0, "ASTM A240"),
        Material("aluminium 6061-T6", 2700.0, SOFT_ENGAGEMENT, 290.0, "ASTM B209"),
        Material("aluminium 6082-T6", 2700.0, SOFT_ENGAGEMENT, 295.0, "EN 485-2"),
        Material("aluminium 7075-T6", 2810.0, SOFT_ENGAGEMENT, 530.0, "ASTM B209"),
    )
}

WEAK_TENSILE = {"steel": 360.0, "iron": 400.0, "aluminium": 230.0}
"""Least tensile strength [N/mm2] a part of unnamed alloy is taken for: plain steel, ductile iron, cast aluminium; from memory."""

METRIC_STOCK_MM = (5.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
"""Plate on the library when a job names no list of its own: common metric flat stock."""

INCH_STOCK_MM = tuple(round(25.4 * sixteenths / 16, 4) for sixteenths in (3, 4, 5, 6, 8, 10, 12, 16))
"""Inch plate: 3/16 to 1 in, common flat stock."""
SHELVES = {"metric": METRIC_STOCK_MM, "inch": INCH_STOCK_MM, "both": tuple(sorted((*METRIC_STOCK_MM, *INCH_STOCK_MM)))}
"""Plate on the library by what it is bought in."""

SHIM_STOCK_MM = (1.0, 0.8, 0.5, 0.25, 0.2, 0.1)
"""Shims on sale, thickest first: 0.5, 0.8 and 1.0 mm are common practice, the thin ones are shim-washer sizes."""

ROTOR_EXPANSION = 11.5e-6
"""Linear expansion of grey cast iron [1/K], handbook value from memory (10 to 12e-6)."""


CALIPER_EXPANSION = 23.6e-6
"""Linear expansion of aluminium [1/K], handbook value from memory (6061: 23.6e-6); an iron body grows half as much."""


def find_material(name: str | None) -> Material | None:
    """Return the material called ``name``, or ``None``; one that is only assumed counts as what it is assumed to be."""
    return MATERIALS.get((name or "").removesuffix(ASSUMED))


ASSUMED = ", assumed"
"""What stands behind a material that nobody chose, on every paper."""
ASSUMED_METAL = "steel S355" + ASSUMED
"""What a bracket is taken to be made of as long as nobody said."""
INSERT_METAL = "steel S355"
"""What bushings and threaded inserts are turned from."""


def engagement_factor(kind: str | None) -> float | None:
    """Return the wanted engagement, in diameters for a ``kind`` of part (steel, iron …); ``None`` when unstated."""
    return {"steel": STEEL_ENGAGEMENT, "iron": STEEL_ENGAGEMENT, "aluminium": SOFT_ENGAGEMENT}.get(kind or "")
