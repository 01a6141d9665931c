"""The middle frame of a pan across a picture, as video brings it: H.264, 4:2:0.

The numbers of the pan are ours: slow enough to be looked at, quick enough that each
frame is predicted from others. Rates are what players and cameras deliver at 1080p
(common practice, no source). Debian's ffmpeg does it as a program of its own.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.execution.video import PROGRAM, run_video
from glenhail.core.files.pyramid import Codes
from glenhail.core.picture import Rect

WIDTH, HEIGHT, FRAMES, RATE = 1920, 1080, 120, 30  # px, px, frames, frames a second
STEP = 2  # px that the pan moves on from frame to frame
MIDDLE = FRAMES // 2
STRIP = WIDTH + STEP * (FRAMES - 1)  # px across that the whole pan passes over
# Several frames at once, under a rate that is kept to, give another picture each time.
THREADS = 1
_SCALE = "bicubic+accurate_rnd+full_chroma_int+full_chroma_inp+bitexact"
TO_VIDEO = f"scale=out_color_matrix=bt709:out_range=tv:flags={_SCALE},format=yuv420p"
FROM_VIDEO = f"scale=in_color_matrix=bt709:in_range=tv:flags={_SCALE},format=rgb24"


def pan_part(width: int, height: int, centre: tuple[float, float]) -> Rect:
    """The part of a picture that a pan passes over: as large as fits, as near to a
    place as its edges allow.

    Parameters
    ----------
    width, height : int
        The picture, px.
    centre : (float, float)
        Shares of width and height.
    """
    scale = max(STRIP / width, HEIGHT / height)
    w, h = STRIP / scale, HEIGHT / scale
    x = min(max(0.0, centre[0] * width - w / 2), width - w)
    y = min(max(0.0, centre[1] * height - h / 2), height - h)
    return Rect(x, y, w, h)


def middle_frame(strip: Codes, mbit: float) -> tuple[Codes, int]:
    """What is left of the middle frame, and how much the whole video takes, bytes.

    Parameters
    ----------
    strip : ndarray, shape (1080, 2158, 3), uint8
        What the pan passes over, sRGB codes.
    mbit : float
        The video's rate, Mbit/s, kept to within each second.

    Raises
    ------
    BadRequest
        If the program is not there, or gives up.
    """
    if strip.shape != (HEIGHT, STRIP, 3):
        raise BadRequest(f"A pan passes over {STRIP} × {HEIGHT} px, not {strip.shape[1::-1]}.")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        source, video, middle = (folder / n for n in ("strip.rgb", "pan.mp4", "middle.rgb"))
        source.write_bytes(np.ascontiguousarray(strip).tobytes())
        run_video(folder, _encoding(mbit, source, video))
        pick = f"select=eq(n\\,{MIDDLE}),{FROM_VIDEO}"
        shown = ["-vf", pick, "-frames:v", "1", "-f", "rawvideo"]
        run_video(folder, ["-i", str(video), *shown, str(middle)])
        raw, size = middle.read_bytes(), video.stat().st_size
    if len(raw) != WIDTH * HEIGHT * 3:
        raise BadRequest(f"{PROGRAM} gave no middle frame back.")
    return np.frombuffer(raw, np.uint8).reshape(HEIGHT, WIDTH, 3), size


def _encoding(mbit: float, source: Path, video: Path) -> list[str]:
    told = ["-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{STRIP}x{HEIGHT}", "-r", str(RATE)]
    pan = f"loop={FRAMES - 1}:1:0,crop={WIDTH}:{HEIGHT}:{STEP}*n:0:exact=1"
    rate = f"{round(mbit * 1000)}k"
    coder = ["-c:v", "libx264", "-preset", "medium", "-threads", str(THREADS)]
    kept = ["-b:v", rate, "-maxrate", rate, "-bufsize", rate, "-frames:v", str(FRAMES)]
    tags = ["-colorspace", "bt709", "-color_range", "tv"]
    return [*told, "-i", str(source), "-vf", f"{pan},{TO_VIDEO}", *coder, *kept, *tags, str(video)]
