"""ICC version 2 matrix profiles built by the rules of ICC.1:2001-04, for tests."""

from __future__ import annotations

import struct

import numpy as np

D50 = np.array([0.9642, 1.0, 0.8249])
BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def _s15(values: np.ndarray) -> bytes:
    return b"".join(struct.pack(">i", round(float(v) * 65536)) for v in values)


def matrix_profile(primaries: np.ndarray, white: tuple[float, float], gamma: float | None) -> bytes:
    """An RGB display profile; `gamma` None stands for sRGB's curve, as a parametric tag."""
    columns = np.array([[x / y, 1, (1 - x - y) / y] for x, y in np.asarray(primaries)]).T
    w = np.array([white[0] / white[1], 1, (1 - white[0] - white[1]) / white[1]])
    matrix = columns * np.linalg.solve(columns, w)
    gain = (BRADFORD @ D50) / (BRADFORD @ w)
    matrix = np.linalg.inv(BRADFORD) @ np.diag(gain) @ BRADFORD @ matrix
    if gamma is None:
        curve = b"para" + bytes(4) + struct.pack(">HH", 3, 0) + _s15(np.array([2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]))
    elif gamma == 1.0:
        curve = b"curv" + bytes(4) + struct.pack(">I", 0)
    else:
        curve = b"curv" + bytes(4) + struct.pack(">IH", 1, round(gamma * 256)) + bytes(2)
    text = b"test\0"
    tags = {b"desc": b"desc" + bytes(4) + struct.pack(">I", len(text)) + text + bytes(79)}
    for i, name in enumerate((b"rXYZ", b"gXYZ", b"bXYZ")):
        tags[name] = b"XYZ " + bytes(4) + _s15(matrix[:, i])
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
