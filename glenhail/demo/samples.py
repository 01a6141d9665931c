"""The sample scenes and frames: what was photographed, with what, and where a reviewer would look."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from glenhail.core.known import Known, KnownEdge, read_known
from glenhail.demo.chart import HEIGHT, SQUARES, STEPS, WEDGE, WIDTH

SCENES = Path(__file__).parent / "scenes"

Spot = tuple[str, str, float, float, float, float]


@dataclass(frozen=True)
class Sample:
    """One sample frame of the scene of that name.

    ``spots`` are patches: (name, role, x, y, w, h) in its pixels.
    """

    key: str
    name: str
    kinds: tuple[str, ...]
    iso: float
    shutter_s: float
    lens: str
    aperture: float
    focal_mm: float
    taken: str
    seed: int
    spots: tuple[Spot, ...] = field(repr=False)

    @property
    def scene(self) -> str:
        """The archive print shows the loom table; every other sample is named after its scene."""
        return "Loom table" if self.key == "archive-print" else self.name

    @property
    def truth_file(self) -> str:
        return f"{self.key}-truth.tif"

    @property
    def frame_file(self) -> str:
        return f"{self.key}-iso{self.iso:.0f}.tif"

    @property
    def known_file(self) -> str:
        """Lights and edges, where some are known."""
        return f"{self.key.replace('-', '_')}_known.json"


def _chart_spots() -> Iterator[Spot]:
    for name, square in SQUARES.items():
        rect = square.edge_patch()
        yield name, "edge", rect.x, rect.y, rect.w, rect.h
    yield "Fine star", "texture", 1510, 230, 260, 260
    step = WEDGE.w / STEPS
    for i, stop, role in ((1, "light", "flat"), (4, "middle", "flat"), (8, "dark", "shadow")):
        yield f"Wedge, {stop}", role, round(WEDGE.x + i * step) + 20, WEDGE.y + 15, 120, 130


LOOM_TABLE = Sample(
    "loom-table", "Loom table", ("fine texture", "hard edges"), 12800, 1 / 125, "Corvane 50 mm f/2", 4, 50,
    "2026:03:14 11:20:05", 1101,
    (
        ("Check cloth", "texture", 620, 760, 280, 210),
        ("Gauge lettering", "print", 1890, 330, 280, 210),
        ("Dial face", "flat", 1936, 336, 64, 64),
        ("Inside the crate", "shadow", 2000, 1232, 64, 64),
        ("Yellow bobbin", "texture", 1290, 1130, 240, 180),
    ),
)  # fmt: skip
GAUGE_WALL = Sample(
    "gauge-wall", "Gauge wall", ("hard edges", "plain areas", "highlights"), 12800, 1 / 8000, "Corvane 50 mm f/2", 11, 50,
    "2026:03:14 12:31:40", 1105,
    (
        ("Plain wall", "flat", 1690, 790, 128, 128),
        ("Dial lettering", "print", 920, 670, 230, 90),
        ("Dial ticks", "texture", 1196, 560, 100, 200),
        ("Slate, left edge", "edge", 1850, 405, 58, 160),
        ("Damper arm, left edge", "edge", 1585, 465, 60, 120),
    ),
)  # fmt: skip
DYE_SHED = Sample(
    "dye-shed", "Dye shed", ("deep shadow", "fine texture"), 12800, 1 / 30, "Corvane 35 mm f/2", 2, 35, "2026:03:14 15:02:11", 1106,
    (
        ("Blue skein", "texture", 580, 580, 160, 140),
        ("Raw fleece", "texture", 230, 1120, 220, 165),
        ("Frayed rope", "texture", 1725, 735, 160, 140),
        ("Lettering in the dark", "print", 1225, 125, 240, 95),
        ("Dye in the tub", "shadow", 600, 1012, 80, 48),
    ),
)  # fmt: skip
NIGHT_YARD = Sample(
    "night-yard", "Night yard", ("lights at night", "deep shadow"), 6400, 1 / 15, "Corvane 35 mm f/2", 2.8, 35,
    "2026:03:14 21:47:33", 1102,
    (
        ("Sky", "flat", 64, 48, 120, 110),
        ("Boards in the shade", "shadow", 100, 745, 110, 110),
        ("Yard lamp", "lights", 350, 320, 200, 170),
        ("Gate lettering", "print", 1050, 780, 240, 90),
        ("Wet cobbles", "texture", 1100, 1180, 260, 195),
    ),
)  # fmt: skip
BENCH_CHART = Sample(
    "bench-chart", "Bench chart", ("hard edges", "plain areas"), 3200, 1 / 60, "Corvane 50 mm f/2", 5.6, 50,
    "2026:03:15 09:12:00", 1103,
    tuple(_chart_spots()),
)  # fmt: skip
ARCHIVE_PRINT = Sample(
    "archive-print", "Archive print", ("fine texture", "hard edges"), 400, 1 / 60, "", 0, 0, "2026:03:16 10:00:00", 1104,
    (
        ("Check cloth", "texture", 165, 200, 90, 68),
        ("Gauge lettering", "print", 500, 85, 84, 62),
        ("Plaster", "flat", 4, 120, 34, 60),
    ),
)  # fmt: skip

# What both bodies recorded of a part of the loom table, as raw files: body, ISO, shutter.
RAW_SERIES = tuple((body, iso, shutter) for body in ("m24", "m33") for iso, shutter in ((400, 1 / 30), (6400, 1 / 500)))
RAW_PART = (600, 640, 1200, 800)  # x, y, w, h of the scene


def raw_file(body: str, iso: int) -> str:
    """What a body's raw file of the series is called."""
    return f"loom-table-{body}-iso{iso}.dng"


SAMPLES = (LOOM_TABLE, GAUGE_WALL, DYE_SHED, NIGHT_YARD, BENCH_CHART)


def known_of(sample: Sample) -> Known | None:
    """The lights and edges whose places are known in a sample's scene, or None."""
    if sample is BENCH_CHART:
        edges = (KnownEdge(name, *square.right_edge()) for name, square in SQUARES.items())
        return Known(WIDTH, HEIGHT, (), tuple(edges))
    path = SCENES / sample.known_file
    return read_known(path.read_bytes(), path.name) if path.exists() else None
