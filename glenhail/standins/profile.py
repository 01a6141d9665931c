"""ICC version 2 matrix profiles built by the rules of ICC.1:2001-04, without any of the
core's colour mathematics.

A tool's export and the tests use them: what the core reads is then checked against
something it did not write.
"""

from __future__ import annotations

import struct

import numpy as np

from glenhail.core.picture import Floats

D50 = np.array([0.9642, 1.0, 0.8249])
BRADFORD = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def _s15(values: np.ndarray) -> bytes:
    return b"".join(struct.pack(">i", round(float(v) * 65536)) for v in values)


Primaries = tuple[tuple[float, float], ...]
D65 = (0.3127, 0.3290)
SRGB: Primaries = ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060))
# Made up, a good deal wider than sRGB.
WIDE: Primaries = ((0.685, 0.310), (0.235, 0.690), (0.148, 0.055))


def _to_xyz(primaries: Primaries, white: tuple[float, float]) -> np.ndarray:
    columns = np.array([[x / y, 1, (1 - x - y) / y] for x, y in np.asarray(primaries)]).T
    return np.asarray(columns * np.linalg.solve(columns, _xyz(white)))


def _xyz(xy: tuple[float, float]) -> np.ndarray:
    return np.array([xy[0] / xy[1], 1, (1 - xy[0] - xy[1]) / xy[1]])


def from_srgb(linear: Floats, primaries: Primaries) -> Floats:
    """Linear light in sRGB's primaries as that of others, both with D65 white."""
    matrix = np.linalg.solve(_to_xyz(primaries, D65), _to_xyz(SRGB, D65))
    return np.asarray(linear @ matrix.T.astype(np.float32), dtype=np.float32)


def matrix_profile(
    primaries: Primaries, white: tuple[float, float], gamma: float | None, name: str = "test"
) -> bytes:
    """An RGB display profile;

    `gamma` None stands for sRGB's curve, as a parametric tag.
    """
    matrix, w = _to_xyz(primaries, white), _xyz(white)
    gain = (BRADFORD @ D50) / (BRADFORD @ w)
    matrix = np.linalg.inv(BRADFORD) @ np.diag(gain) @ BRADFORD @ matrix
    if gamma is None:
        curve = (
            b"para"
            + bytes(4)
            + struct.pack(">HH", 3, 0)
            + _s15(np.array([2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]))
        )
    elif gamma == 1.0:
        curve = b"curv" + bytes(4) + struct.pack(">I", 0)
    else:
        curve = b"curv" + bytes(4) + struct.pack(">IH", 1, round(gamma * 256)) + bytes(2)
    text = name.encode("ascii") + b"\0"
    tags = {b"desc": b"desc" + bytes(4) + struct.pack(">I", len(text)) + text + bytes(79)}
    for i, key in enumerate((b"rXYZ", b"gXYZ", b"bXYZ")):
        tags[key] = b"XYZ " + bytes(4) + _s15(matrix[:, i])
    tags |= dict.fromkeys((b"rTRC", b"gTRC", b"bTRC"), curve)
    table, body = struct.pack(">I", len(tags)), b""
    start = 132 + 12 * len(tags)
    for key, data in tags.items():
        table += struct.pack(">4sII", key, start + len(body), len(data))
        body += data + bytes(-len(data) % 4)
    size = start + len(body)
    header = struct.pack(">I4sI4s4s4s", size, bytes(4), 0x02400000, b"mntr", b"RGB ", b"XYZ ")
    header = header.ljust(36, b"\0") + b"acsp"
    header = header.ljust(68, b"\0") + _s15(D50)
    return header.ljust(128, b"\0") + table + body
