"""The camera, and where it puts a point of the scene."""

from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True)
class Camera:
    """A pinhole looking from ``origin`` at ``target``, z up; ``fov`` is the angle across the picture, in degrees."""

    origin: tuple[float, float, float]
    target: tuple[float, float, float]
    fov: float

    def project(self, points, width, height):
        """Points (..., 3) to places (..., 2) in pixels, (0, 0) at the upper left corner of the picture."""
        ahead = np.subtract(self.target, self.origin)
        ahead = ahead / np.linalg.norm(ahead)
        right = np.cross(ahead, [0, 0, 1])
        right /= np.linalg.norm(right)
        up = np.cross(right, ahead)
        ray = np.asarray(points, float) - self.origin
        scale = width / 2 / np.tan(np.radians(self.fov / 2)) / (ray @ ahead)
        return np.stack([width / 2 + scale * (ray @ right), height / 2 - scale * (ray @ up)], -1)
