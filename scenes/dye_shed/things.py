"""Tubs of dye, the bench, and what stands about in the dark corners."""

import numpy as np

from scenes.dye_shed import layout as at
from scenes.kit.mesh import Mesh, box, lathe, place, rounded, tube, write_ply
from scenes.kit.yarn import smooth


def build(folder):
    staves, iron = Mesh(), Mesh()
    for i, (where, foot, rim, height, below, _) in enumerate(at.TUBS):
        _tub(staves, iron, where, foot, rim, height, staves_round=34)
        write_ply(
            folder / f"liquor{i}.ply",
            lathe([(0.01, height - below), (rim - 3, height - below)], 96).moved(where),
        )
    _tub(staves, iron, at.FLEECE, 27, 29, 10, 26, thick=1.6)
    for x, y in ((205, 545), (182, 520), (214, 495)):
        _tub(staves, iron, place((x, y, 0), rz=x), 24, 24, 72, 18, bulge=4)
    _tub(staves, iron, place((196, 530, 73), rz=8), 22, 22, 60, 18, bulge=4)
    staves.write(folder / "staves.ply")
    _bench(folder)
    _shelves(folder)
    hook = [[at.POST[0] + 6, at.POST[2] + 1, at.HOOK[2] + 3], [at.HOOK[0] + 3, at.HOOK[1] - 3, at.HOOK[2] + 2], [at.HOOK[0] - 1, at.HOOK[1] - 8, at.HOOK[2] - 1.5], [at.HOOK[0] - 2, at.HOOK[1] - 13, at.HOOK[2] + 1], [at.HOOK[0] - 2, at.HOOK[1] - 14, at.HOOK[2] + 6]]  # fmt: skip
    iron.add(tube(smooth(hook, 80), 0.9, 20))
    iron.write(folder / "iron.ply")


def _tub(wood, iron, where, foot, rim, height, staves_round, thick=3.0, bulge=0.0):
    z = np.linspace(0, height, 20)
    outer = foot + (rim - foot) * z / height + bulge * np.sin(np.pi * z / height)
    profile = [
        *zip(outer, z, strict=True),
        (rim - thick, height),
        (rim - thick, height * 0.25),
        (0.01, height * 0.25),
    ]
    part = lathe(profile, staves_round * 14, grain=150)
    turn = np.arctan2(part.vertices[:, 1], part.vertices[:, 0]) / (2 * np.pi) * staves_round
    gap = np.abs(turn - np.round(turn))
    stave = np.floor(turn).astype(int) % staves_round
    proud = (
        1
        - 0.010 * np.exp(-((gap / 0.05) ** 2))
        - 0.004 * np.random.default_rng(staves_round).random(staves_round)[stave]
    )
    part.vertices[:, :2] *= proud[:, None]
    part.uv = np.stack([part.vertices[:, 2] / 150 + 0.31 * stave, turn * 0.115 + 0.27 * stave], 1)
    wood.add(part, where)
    for share in (0.10, 0.45, 0.86):
        r = float(np.interp(share * height, z, outer)) + 0.05
        slope = (rim - foot) / height * 4
        hoop = [(r - 0.2, 0), (r + 0.25, 0), (r + 0.25 + slope, 4.2), (r - 0.2 + slope, 4.2)]
        iron.add(lathe(rounded(hoop, 0.12), 120, ring=True), where @ place((0, 0, share * height)))


def _bench(folder):
    x0, x1, y0, y1, top = at.BENCH
    bench = Mesh()
    edges = np.linspace(y0, y1, 4)
    for i in range(3):
        bench.add(
            box(
                (x0, edges[i] + 0.2, top - 5), (x1, edges[i + 1] - 0.2, top), 0.5, grain=110, seed=i
            )
        )
    for x in (x0 + 6, x1 - 14):
        bench.add(box((x, y0 + 4, 0), (x + 8, y1 - 4, top - 5), 0.6, grain=150))
    bench.write(folder / "bench.ply")


def _shelves(folder):
    """Against the left end of the back wall, where hardly any light comes: jars, a balance, folded cloths."""
    shelf, jars, cloth = Mesh(), Mesh(), Mesh()
    for z in (92, 134, 176):
        shelf.add(
            box(
                (at.LEFT + 4, at.BACK - 34, z), (-118, at.BACK - 2, z + 3.2), 0.4, grain=150, seed=z
            )
        )
    for x in (at.LEFT + 6, -190, -122):
        shelf.add(box((x, at.BACK - 32, 0), (x + 5, at.BACK - 2, 200), 0.5, grain=150))
    shelf.write(folder / "shelves.ply")
    rng = np.random.default_rng(61)
    for z in (95.2, 137.2, 179.2):
        x = at.LEFT + 18
        while x < -134:
            r, h = rng.uniform(5, 9), rng.uniform(16, 30)
            if rng.random() < 0.72:
                jar = [
                    (0.01, 0),
                    (r, 0),
                    (r, h * 0.72),
                    (r * 0.6, h * 0.86),
                    (r * 0.6, h * 0.94),
                    (r * 0.72, h),
                    (0.01, h),
                ]
                jars.add(lathe(rounded(jar, 1.2), 48, sub=2), place((x + r, at.BACK - 20, z)))
            else:
                for k in range(3):
                    cloth.add(
                        box(
                            (x, at.BACK - 30, z + 4 * k),
                            (x + 2 * r, at.BACK - 6, z + 3.8 + 4 * k),
                            1.6,
                        ),
                        None,
                    )
            x += 2 * r + rng.uniform(2, 6)
    jars.write(folder / "jars.ply")
    cloth.write(folder / "cloth.ply")
