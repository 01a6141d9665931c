"""``python -m tests.core.hostile SEED ROUNDS``: reads damaged files of every format and
tells how that went.

A process of its own: a crash, a hang or a flood of memory ends it, and is seen from
outside.
"""

from __future__ import annotations

import io
import json
import random
import resource
import sys
import tempfile
import time
import zlib
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from glenhail.core.errors import BadFile
from glenhail.core.files.decoding import read_picture
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.pictures import photograph

DATA = Path(__file__).resolve().parents[1] / "data"
CODES = (photograph("astronaut")[:60, :48] * 255).astype(np.uint8)
CODES16 = np.random.default_rng(5).integers(0, 65536, (60, 48, 3), dtype=np.uint16)


def _tiff(**options: object) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(
        out,
        CODES if options.get("compression") == "jpeg" else CODES16,
        photometric="rgb",
        **options,
    )  # type: ignore[arg-type]
    return out.getvalue()


def _pillow(kind: str, **options: object) -> bytes:
    out = io.BytesIO()
    exif = Image.Exif()
    exif[272] = "Corvane Quill 24"
    Image.fromarray(CODES).save(out, kind, exif=exif, **options)  # type: ignore[arg-type]
    return out.getvalue()


def _dng() -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path, body = Path(folder) / "a.dng", BODIES["quill24"]
        write_dng(path, expose(photograph("china")[:64, :64], body, 400, 1), body, {"iso": 400})
        return path.read_bytes()


def whole_files() -> dict[str, bytes]:
    """One good file of each kind, by its name."""
    return {
        "plain.tif": _tiff(),
        "tiled.tif": _tiff(compression="zlib", tile=(32, 32)),
        "lzw.tif": _tiff(compression="lzw", predictor=True),
        "jpeg.tif": _tiff(compression="jpeg"),
        "big.tif": _tiff(bigtiff=True),
        "deep.png": bytes(imagecodecs.png_encode(CODES16)),
        "plain.png": _pillow("PNG"),
        "plain.jpg": _pillow("JPEG", quality=90),
        "progressive.jpg": _pillow("JPEG", quality=90, progressive=True),
        "plain.webp": _pillow("WEBP", quality=90),
        "plain.avif": _pillow("AVIF", quality=80),
        "deep.avif": bytes(imagecodecs.avif_encode(CODES16 >> 6, level=90, bitspersample=10)),
        "phone.heic": (DATA / "phone.heic").read_bytes(),
        "shot.dng": _dng(),
    }


def damaged(raw: bytes, chance: random.Random) -> bytes:
    """Cut short, bytes changed (most of them where the header is), or numbers made
    huge.
    """
    made = bytearray(raw)
    if chance.random() < 0.3:
        made = made[: chance.randrange(len(made))]
    for _ in range(chance.randrange(1, 10)):
        if made:
            reach = min(len(made), 600) if chance.random() < 0.7 else len(made)
            made[chance.randrange(reach)] = chance.choice(
                (0, 1, 0x7F, 0x80, 0xFF, chance.randrange(256))
            )
    if (
        made[:4] == b"\x89PNG" and len(made) > 33 and chance.random() < 0.5
    ):  # a header that is told to be right
        made[29:33] = zlib.crc32(made[12:29]).to_bytes(4, "big")
    return bytes(made)


def main() -> None:
    """Print one JSON object: counts, the slowest file in s, and the most memory used in
    MB.
    """
    chance, rounds = random.Random(int(sys.argv[1])), int(sys.argv[2])
    counts = {"read": 0, "refused": 0}
    slowest = 0.0
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "stored"
        for name, raw in whole_files().items():
            path.write_bytes(raw)
            read_picture(path, name)  # the good one is good
            for _ in range(rounds // 8 if name.endswith(".heic") else rounds):
                path.write_bytes(damaged(raw, chance))
                began = time.monotonic()
                try:
                    assert np.isfinite(read_picture(path, name).pixels).all(), name
                    counts["read"] += 1
                except BadFile as error:
                    assert str(error).startswith(f"{name}: "), error
                    counts["refused"] += 1
                slowest = max(slowest, time.monotonic() - began)
    usage = max(
        resource.getrusage(who).ru_maxrss
        for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)
    )
    print(json.dumps({**counts, "slowest_s": round(slowest, 2), "most_mb": usage // 1024}))


if __name__ == "__main__":
    main()
