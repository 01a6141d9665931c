"""What lies behind the yard: its wall, saw-tooth weaving sheds, a chimney, a hill, posts of far lamps."""

import numpy as np
from scipy.ndimage import gaussian_filter

from scenes.kit.mesh import Mesh, Part, box, grid_faces, lathe, place, quad, write_ply
from scenes.night_yard import layout as at


def build(folder):
    brick, sheds, stone, dark = (Mesh() for _ in range(4))
    rng, y = np.random.default_rng(9), at.FAR_WALL_Y
    for a, b in at.FAR_WALLS:
        brick.add(
            quad(
                [[a, y, -0.05], [b, y, -0.05], [b, y, 2.05], [a, y, 2.05]],
                [[a / 6, 0], [b / 6, 0], [b / 6, 1], [a / 6, 1]],
            )
        )
        for x in np.arange(a, b, 0.6):
            stone.add(
                box(
                    (x + 0.004, y - 0.07, 2.05),
                    (min(x + 0.6, b) - 0.004, y + 0.35, 2.18),
                    0.03,
                    2.0,
                )
            )
    finial = lathe(
        [(0.001, 0.5), (0.12, 0.46), (0.19, 0.34), (0.19, 0.24), (0.10, 0.10), (0.10, 0)], 24
    )
    for x in at.PIERS:
        stone.add(box((x - 0.24, y - 0.1, 0), (x + 0.24, y + 0.4, 2.5), 0.02, 2.0))
        stone.add(box((x - 0.3, y - 0.16, 2.5), (x + 0.3, y + 0.46, 2.66), 0.05, 2.0))
        stone.add(finial, place((x, y + 0.15, 2.66)))
    for x in np.arange(-12.6, 2, 3.1):
        gable = np.array(
            [[x, 40, 0], [x + 3.1, 40, 0], [x + 3.1, 40, 4.1], [x + 0.35, 40, 5.95], [x, 40, 4.1]]
        )
        sheds.add(
            Part(
                gable,
                np.array([[0, 1, 2], [0, 2, 4], [4, 2, 3]]),
                None,
                np.c_[gable[:, 0] / 6, gable[:, 2] / 2.1],
            )
        )
        dark.add(
            quad(
                [[x + 0.35, 40, 5.95], [x + 3.1, 40, 4.1], [x + 3.1, 54, 4.1], [x + 0.35, 54, 5.95]]
            )
        )
    stack = [(1.75, 0), (1.70, 3), (1.72, 3.05), (1.62, 3.3), (1.12, 19.6), (1.30, 19.9), (1.42, 20.3), (1.42, 20.6), (1.2, 20.8), (1.15, 21.5), (0.8, 21.5), (0.8, 20)]  # fmt: skip
    dark.add(lathe(stack, 8), place((*at.CHIMNEY, 0), rz=12))
    dark.add(_hill(rng))
    for x, ly, z, r, *_ in at.FAR_LAMPS:
        dark.add(box((x - 0.07, ly + 0.1, 0), (x + 0.07, ly + 0.24, z), 0.01, 2.0))
        dark.add(
            box(
                (x - 0.3, ly - 0.12, z + r * 1.3),
                (x + 0.3, ly + 0.3, z + r * 1.3 + 0.08),
                0.01,
                2.0,
            )
        )
    for name, mesh in {"brick": brick, "sheds": sheds, "stone": stone, "dark": dark}.items():
        mesh.write(folder / f"far_{name}.ply")
    beyond = quad(
        [[-200, 17, -0.05], [200, 17, -0.05], [200, 300, -0.05], [-200, 300, -0.05]],
        [[0, 0], [28.6, 0], [28.6, 21], [0, 21]],
    )
    write_ply(folder / "far_ground.ply", beyond)
    write_ply(
        folder / "near_ground.ply",
        quad([[-30, -8, -0.12], [30, -8, -0.12], [30, 20, -0.12], [-30, 20, -0.12]]),
    )


def _hill(rng):
    x = np.linspace(-160, 60, 300)
    walk = rng.standard_normal(40).cumsum() * 0.35 + np.sin(np.linspace(0, 5, 40))
    z = (
        7
        + 3.2 * np.interp(np.arange(300), np.linspace(0, 299, 40), walk)
        + 0.25 * rng.standard_normal(300)
        + 6 * np.exp(-(((x + 95) / 45) ** 2))
    )
    z = gaussian_filter(z, 1.2)
    return Part(
        np.concatenate(
            [np.stack([x, 0 * x + 170, 0 * x - 3], 1), np.stack([x, 0 * x + 170, z], 1)]
        ),
        grid_faces(2, 300),
    )
