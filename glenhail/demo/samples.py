"""The sample scenes and frames: what was photographed, with what, and where a reviewer
would look.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

from glenhail.core.measures.landmarks import Landmarks, read_known

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
        """The archive print shows the loom table; every other sample is named after its
        scene.
        """
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


LOOM_TABLE = Sample(
    "loom-table",
    "Loom table",
    ("fine texture", "hard edges"),
    12800,
    1 / 125,
    "Corvane 50 mm f/2",
    4,
    50,
    "2026:03:14 11:20:05",
    1101,
    (
        ("Check cloth", "texture", 620, 760, 280, 210),
        ("Gauge lettering", "print", 1890, 330, 280, 210),
        ("Dial face", "flat", 1936, 336, 64, 64),
        ("Inside the crate", "shadow", 2000, 1232, 64, 64),
        ("Yellow bobbin", "texture", 1290, 1130, 240, 180),
    ),
)
GAUGE_WALL = Sample(
    "gauge-wall",
    "Gauge wall",
    ("hard edges", "plain areas", "highlights"),
    12800,
    1 / 8000,
    "Corvane 50 mm f/2",
    11,
    50,
    "2026:03:14 12:31:40",
    1105,
    (
        ("Plain wall", "flat", 1690, 790, 128, 128),
        ("Dial lettering", "print", 920, 670, 230, 90),
        ("Dial ticks", "texture", 1196, 560, 100, 200),
        ("Slate, left edge", "edge", 1850, 405, 58, 160),
        ("Damper arm, left edge", "edge", 1585, 465, 60, 120),
    ),
)
DYE_SHED = Sample(
    "dye-shed",
    "Dye shed",
    ("deep shadow", "fine texture"),
    12800,
    1 / 30,
    "Corvane 35 mm f/2",
    2,
    35,
    "2026:03:14 15:02:11",
    1106,
    (
        ("Blue skein", "texture", 580, 580, 160, 140),
        ("Raw fleece", "texture", 230, 1120, 220, 165),
        ("Frayed rope", "texture", 1725, 735, 160, 140),
        ("Lettering in the dark", "print", 1225, 125, 240, 95),
        ("Dye in the tub", "shadow", 600, 1012, 80, 48),
    ),
)
NIGHT_YARD = Sample(
    "night-yard",
    "Night yard",
    ("lights at night", "deep shadow"),
    6400,
    1 / 15,
    "Corvane 35 mm f/2",
    2.8,
    35,
    "2026:03:14 21:47:33",
    1102,
    (
        ("Sky", "flat", 64, 48, 120, 110),
        ("Boards in the shade", "shadow", 100, 745, 110, 110),
        ("Yard lamp", "lights", 350, 320, 200, 170),
        ("Gate lettering", "print", 1050, 780, 240, 90),
        ("Wet cobbles", "texture", 1100, 1180, 260, 195),
    ),
)
ARCHIVE_PRINT = Sample(
    "archive-print",
    "Archive print",
    ("fine texture", "hard edges"),
    400,
    1 / 60,
    "",
    0,
    0,
    "2026:03:16 10:00:00",
    1104,
    (
        ("Check cloth", "texture", 165, 200, 90, 68),
        ("Gauge lettering", "print", 500, 85, 84, 62),
        ("Plaster", "flat", 4, 120, 34, 60),
    ),
)


@dataclass(frozen=True)
class Shot:
    """A raw file of a body: its own name, what it shows, and how it was exposed;
    ``dark`` with the cap on, ``second`` the other one of a pair.
    """

    file: str
    name: str
    scene: str
    body: str
    iso: int
    shutter_s: float
    seed: int
    dark: bool = False
    second: bool = False


# What both bodies recorded of a part of the loom table that holds lit cloth and the inside of a
# crate.
RAW_PART = (1180, 700, 960, 640)  # x, y, w, h of the scene
BODY_NAMES = {"quill24": "Corvane Quill 24", "quill33": "Corvane Quill 33"}
SERIES = (
    (100, 1 / 8),
    (200, 1 / 15),
    (400, 1 / 30),
    (800, 1 / 60),
    (1600, 1 / 125),
    (3200, 1 / 250),
    (6400, 1 / 500),
    (12_800, 1 / 1000),
    (25_600, 1 / 2000),
    (51_200, 1 / 4000),
)
RAW_SERIES = tuple(
    Shot(
        f"loom-table-{body}-iso{iso}{'-b' if second else ''}.dng",
        f"Loom table, {BODY_NAMES[body]}, ISO {iso:,}{', second' if second else ''}",
        "Loom table",
        body,
        iso,
        shutter,
        iso + second,
        second=second,
    )
    for body in BODY_NAMES
    for iso, shutter in SERIES
    for second in (False, True)
)
# With the cap on, eight of each body: what is left is the sensor's own.
DARKS = tuple(
    Shot(
        f"dark-{body}-iso3200-{number}.dng",
        f"Cap on, {BODY_NAMES[body]}, ISO 3,200, {number} of 8",
        "",
        body,
        3200,
        1 / 250,
        900 + number,
        dark=True,
    )
    for body in BODY_NAMES
    for number in range(1, 9)
)
# Frames that have their base-ISO twin as a truth, and those with patches.
TWIN_ISOS = (100, 800, 3200, 12_800, 51_200)
BODY_ISOS = (3200, 12_800, 51_200)
BODY_SPOTS = (
    ("Crate front", "flat", 584, 320, 112, 112),
    ("Yellow bobbin", "texture", 180, 440, 128, 112),
    ("Rust thread", "texture", 270, 150, 112, 112),
    ("Inside the crate", "shadow", 800, 520, 112, 80),
    ("Crate corner", "leave-alone", 690, 330, 120, 120),
)
# What a meter told of the first of them, cd/m2, and the lens's T-number at f/4 on either body.
LUMINANCE = 52.0
T_NUMBERS = {"quill24": 4.4, "quill33": 4.4}
RAW_BURST = tuple(
    Shot(
        f"dye-shed-burst-{i}.dng",
        f"Dye shed, burst {i} of 4",
        "Dye shed",
        "quill24",
        12_800,
        1 / 30,
        700 + i,
    )
    for i in range(1, 5)
)
BURST_PART = (540, 540, 720, 480)
# A target sheet and two raw files of it, as it hung on the wall.
TARGET_NAME = "Bench target"
TARGET_SHEET = {
    "width": 1800,
    "height": 1200,
    "blur": 0.7,
    "fields": [
        {"kind": "edges"},
        {"kind": "leaves"},
        {"kind": "star"},
        {"kind": "wedge"},
        {"kind": "lines"},
        {"kind": "lights"},
    ],
}
TARGET_SHOTS = (
    Shot(
        "target-quill24-iso400.dng",
        "Bench target, Corvane Quill 24, ISO 400",
        "Target: Bench target",
        "quill24",
        400,
        1 / 125,
        31,
    ),
    Shot(
        "target-quill33-iso6400.dng",
        "Bench target, Corvane Quill 33, ISO 6,400",
        "Target: Bench target",
        "quill33",
        6400,
        1 / 2000,
        32,
    ),
)
# Invented bodies: sensor in mm and px, filters, noise in electrons as the stand-in camera has it.
BODIES = (
    {
        "name": "Corvane Quill 24",
        "width_mm": 35.9,
        "height_mm": 23.9,
        "width": 6000,
        "height": 4000,
        "cfa": "Bayer",
        "full_well": 42_000,
        "read_noise": 4.4,
        "second_gain_iso": 800,
        "second_read_noise": 2.1,
    },
    {
        "name": "Corvane Quill 33",
        "width_mm": 35.9,
        "height_mm": 23.9,
        "width": 7020,
        "height": 4680,
        "cfa": "Bayer",
        "full_well": 30_000,
        "read_noise": 3.4,
        "second_gain_iso": 560,
        "second_read_noise": 1.5,
    },
    {
        "name": "Lull Two",
        "width_mm": 7.3,
        "height_mm": 5.5,
        "width": 4032,
        "height": 3024,
        "cfa": "2 x 2 of four each",
    },
)


SAMPLES = (LOOM_TABLE, GAUGE_WALL, DYE_SHED, NIGHT_YARD)


def known_of(sample: Sample) -> Landmarks | None:
    """The lights and edges whose places are known in a sample's scene, or None."""
    path = SCENES / sample.known_file
    return read_known(path.read_bytes(), path.name) if path.exists() else None
