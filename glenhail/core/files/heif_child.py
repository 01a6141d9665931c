"""Run as a program of its own by `heif`: opens a HEIC file and writes what it says, and
its pixels, to standard output.

``heif_child.py FILE header|pixels``. Its own process, because the decoder can crash on
hostile bytes and must not take a worker along. It imports nothing of Glenhail, so that
it starts quickly.
"""

import base64
import json
import resource
import sys

import pi_heif

MOST_MEMORY = (
    6 << 30
)  # address space; the decoder's own buffers of the largest picture taken fit in


def main() -> int:
    """Write one line of JSON, then the pixels."""
    path, wanted = sys.argv[1:]
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    image = pi_heif.open_heif(path, convert_hdr_to_8bit=False)
    width, height = image.size
    told = {
        "width": width,
        "height": height,
        "mode": image.mode,
        "bits": int(image.info.get("bit_depth") or 8),
        "icc": _text(image.info.get("icc_profile")),
        "exif": _text(image.info.get("exif")),
    }
    if wanted == "pixels":
        told["stride"] = image.stride
    sys.stdout.write(json.dumps(told) + "\n")
    sys.stdout.flush()
    if wanted == "pixels":
        sys.stdout.buffer.write(memoryview(image.data))
    return 0


def _text(raw: bytes | None) -> str:
    return base64.b64encode(raw or b"").decode()


if __name__ == "__main__":
    sys.exit(main())
