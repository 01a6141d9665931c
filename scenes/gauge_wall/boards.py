"""What hangs on the wall: the enamel sign, the slate, the damper arm, the engraved plate and the valve wheel."""

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates

from scenes.gauge_wall import layout
from scenes.kit.lettering import ENGRAVED, SIGN, SMALL, Sheet
from scenes.kit.mesh import Mesh, box, grid, lathe, place, quad, rounded, tube, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.surfaces import worn


def build(folder):
    _enamel(folder)
    _slate(folder)
    _damper_arm(folder)
    _plate(folder)
    _wheel(folder)


def _enamel(folder):
    """Vitreous enamel: dark blue ground, white letters, chipped to rusty steel at its edges and holes; slightly domed."""
    w, h = layout.ENAMEL_SIZE
    px = 64
    sheet = Sheet(w, h, px)
    sheet.rectangle(1.3, 1.3, w - 1.3, h - 1.3, line=0.45, radius=1.2)
    sheet.text(w / 2, h - 6.0, "NOTICE", ENGRAVED, 6.2, 0.55)
    sheet.text(w / 2, h - 11.9, "NO HAND OTHER THAN THE BOILERMAN", SIGN, 1.85, 0.13)
    sheet.text(w / 2, h - 15.0, "SHALL TOUCH THE STOP VALVE OR DAMPER", SIGN, 1.70, 0.11)
    sheet.text(w / 2, h - 19.2, "BLOW DOWN THE GLASS TWICE IN EACH SHIFT", SMALL, 1.25, 0.10)
    sheet.text(w / 2, h - 21.3, "AND CHALK THE PRESSURE ON THE SLATE", SMALL, 1.25, 0.10)
    sheet.text(w / 2, h - 24.9, "HARROWBECK WEAVING MILL", SIGN, 1.35, 0.22)
    white = gaussian_filter(sheet.map(), 0.9)
    rows, columns = white.shape
    x, z = np.meshgrid(
        (np.arange(columns) + 0.5) / px - w / 2, (np.arange(rows) + 0.5) / px - h / 2
    )
    holes = [(sx * (w / 2 - 2.4), sz * (h / 2 - 2.6)) for sx in (-1, 1) for sz in (-1, 1)]
    near = np.minimum(w / 2 - np.abs(x), h / 2 - np.abs(z)) * 1.4
    for hx, hz in holes:
        near = np.minimum(near, np.hypot(x - hx, z - hz) - 0.55)
    noise = field(rows, columns, 1.5, low=0.004, seed=201) + 0.4 * field(
        rows, columns, 0.9, low=0.03, seed=202
    )
    chip = ramp(0.02, 0.10, 0.42 * noise - near - 0.12)
    ring = ramp(0.0, 0.5, 0.42 * noise - near + 0.40) * (1 - chip)
    ground = (
        colour(0.012, 0.030, 0.105) * (1 + 0.05 * field(rows, columns, 2.2, seed=203))[..., None]
    )
    enamel = mix(
        ground, colour(0.83, 0.83, 0.80) * (1 + 0.015 * noise)[..., None], white[..., None]
    )
    rust = mix(
        colour(0.16, 0.055, 0.022), colour(0.055, 0.028, 0.018), ramp(-1, 1.2, noise)[..., None]
    )
    albedo = mix(
        mix(enamel, colour(0.30, 0.17, 0.08), (0.35 * ring)[..., None]), rust, chip[..., None]
    )
    np.save(folder / "enamel_colour.npy", np.clip(albedo, 0.005, 0.9).astype(np.float16))
    np.save(
        folder / "enamel_roughness.npy",
        mix(0.10 + 0.02 * ramp(0, 2, noise), 0.8, chip).astype(np.float16),
    )
    np.save(
        folder / "enamel_height.npy",
        (-0.04 * gaussian_filter(chip, 1.2) + 0.004 * white + 0.004 * noise * chip).astype(
            np.float16
        ),
    )
    gx, gz = np.meshgrid(np.linspace(-1, 1, 160), np.linspace(-1, 1, 120))
    dome = 0.55 * (1 - gx**2) * (1 - gz**2) ** 0.8
    points = np.stack([gx * w / 2, -dome - 0.35, gz * h / 2], -1)
    write_ply(
        folder / "enamel.ply",
        grid(points, np.stack([(gx + 1) / 2, (gz + 1) / 2], -1), (0, -1, 0)).moved(layout.ENAMEL),
    )
    back = Mesh().add(box((-w / 2, -0.34, -h / 2), (w / 2, -0.05, h / 2), 0.02), layout.ENAMEL)
    back.write(folder / "enamel_back.ply")
    screws = Mesh()
    for hx, hz in holes:
        at = layout.ENAMEL @ place((hx, -0.42, hz)) @ place(rx=90)
        screws.add(lathe([(0.01, 0.34), (0.35, 0.3), (0.55, 0.12), (0.58, -0.2)], 32), at)
        screws.add(lathe([(0.6, 0.02), (0.95, 0.02), (0.98, -0.1)], 32), at)
    screws.write(folder / "enamel_screws.ply")


def _slate(folder):
    """A writing slate in a black frame, hung askew on a nail; chalk figures half rubbed out."""
    w, h = layout.SLATE_SIZE
    px = 60
    sheet = Sheet(w, h, px)
    rows = (("6", "128"), ("8", "134"), ("10", "131"), ("12", "86"))
    sheet.text(w / 2, h - 5.6, "boiler 2", SIGN, 2.9, 0.3, ink=215)
    sheet.rectangle(4.2, h - 7.6, w - 4.2, h - 7.45)
    for i, (hour, pounds) in enumerate(rows):
        z = h - 11.2 - 5.4 * i
        sheet.text(7.6, z, hour, SIGN, 3.3, 0.2, ink=225)
        sheet.text(17.4, z, pounds, SIGN, 3.7, 0.35, ink=235)
    drawn = _by_hand(sheet.map(), px)
    chalk = gaussian_filter(drawn, 1.3)
    shape = chalk.shape
    grain = field(*shape, 0.7, low=0.06, seed=211)
    smear = gaussian_filter(drawn, (4, 46)) * 0.4 + 0.05 * ramp(
        -0.5, 2, field(*shape, 2.0, along_x=3, seed=212)
    )
    chalk = worn(chalk, 213, amount=-0.5, scale=0.02) * ramp(-1.1, 0.3, grain)
    stone = (
        colour(0.034, 0.037, 0.041)
        * (1 + 0.06 * field(*shape, 1.6, low=0.004, seed=214) + 0.05 * grain)[..., None]
    )
    np.save(
        folder / "slate_colour.npy",
        mix(
            stone, colour(0.62, 0.62, 0.60), np.clip(chalk * 0.75 + smear * 0.12, 0, 1)[..., None]
        ).astype(np.float16),
    )
    a, b = w / 2, h / 2
    write_ply(
        folder / "slate.ply",
        quad([[-a, -0.9, -b], [a, -0.9, -b], [a, -0.9, b], [-a, -0.9, b]]).moved(layout.SLATE),
    )
    frame, rail = Mesh(), 2.2
    for low, high in (((-a, -1.6, -b), (-a + rail, 0, b)), ((a - rail, -1.6, -b), (a, 0, b)), ((-a + rail, -1.58, b - rail), (a - rail, 0, b)), ((-a + rail, -1.58, -b), (a - rail, 0, -b + rail))):  # fmt: skip
        frame.add(box(low, high, 0.05, seed=3), layout.SLATE)
    frame.write(folder / "slate_frame.ply")


def _by_hand(mask, px):
    """Set letters pulled about, as a hand with chalk would leave them: lines lean and lengthen, strokes swell."""
    rows, columns = mask.shape
    y, x = np.mgrid[0:rows, 0:columns].astype(np.float32)
    dx, dy = (field(rows, columns, 3.0, low=0.0012, seed=s) * 0.22 * px for s in (215, 216))
    leaning = x - 0.14 * (y % (5.4 * px) - 2.7 * px)
    return map_coordinates(mask, [y + dy + 0.012 * x, leaning + dx], order=1)


def _damper_arm(folder):
    """A flat bar on a brass pivot, its upper end over a small brass quadrant."""
    w, h = layout.ARM_SIZE
    bar = Mesh().add(box((-w / 2, -0.9, -h / 2), (w / 2, 0, h / 2), 0.04), layout.ARM)
    bar.write(folder / "arm.ply")
    brass = Mesh()
    for z, r in ((-h / 2 + 6.0, 1.9), (h / 2 - 4.0, 0.9)):
        at = layout.ARM @ place((0, -0.9, z)) @ place(rx=90)
        brass.add(
            lathe(
                rounded([(0.01, 0.9), (r * 0.55, 0.85), (r * 0.75, 0.5), (r, 0.4), (r, 0)], 0.15),
                64,
                sub=2,
            ),
            at,
        )
    brass.write(folder / "arm_brass.ply")
    stub = layout.ARM @ place((0, 0, -h / 2 + 6.0)) @ place(rx=90)
    Mesh().add(lathe([(1.2, 0), (1.2, -4)], 48), stub).write(folder / "arm_stub.ply")


def _plate(folder):
    w, h = layout.PLATE_SIZE
    px = 120
    sheet = Sheet(w, h, px)
    sheet.rectangle(0.5, 0.5, w - 0.5, h - 0.5, line=0.12)
    sheet.text(w / 2, h - 2.9, "HARROWBECK", ENGRAVED, 2.5, 0.22)
    sheet.text(w / 2, h - 5.6, "BOILER NO 2  LANCASHIRE PATTERN", SIGN, 0.98, 0.07)
    sheet.text(
        w / 2,
        h - 7.9,
        "28 FEET BY 8   WORKING PRESSURE 140 LB   FIRED DAILY FROM SIX",
        SMALL,
        0.56,
        0.035,
    )
    cut = gaussian_filter(sheet.map(), 1.8)
    brushed = field(*cut.shape, 0.8, along_x=60, low=0.02, seed=221)
    np.save(folder / "plate_ink.npy", cut.astype(np.float16))
    np.save(folder / "plate_height.npy", (-0.05 * cut + 0.0006 * brushed).astype(np.float16))
    a, b = w / 2, h / 2
    write_ply(
        folder / "plate.ply",
        quad([[-a, -0.5, -b], [a, -0.5, -b], [a, -0.5, b], [-a, -0.5, b]]).moved(layout.PLATE),
    )
    edge = Mesh().add(
        box((-a - 0.02, -0.49, -b - 0.02), (a + 0.02, 0.2, b + 0.02), 0.04), layout.PLATE
    )
    for sx in (-1, 1):
        at = layout.PLATE @ place((sx * (a - 1.1), -0.5, 0)) @ place(rx=90)
        edge.add(lathe([(0.01, 0.3), (0.3, 0.26), (0.44, 0.1), (0.46, 0)], 32), at)
    edge.write(folder / "plate_body.ply")


def _wheel(folder):
    """The stop valve's handwheel: five curved spokes, red oxide paint."""
    wheel, iron = Mesh(), Mesh()
    turn = np.linspace(0, 2 * np.pi, 40)
    rim = np.stack([11.0 + 1.05 * np.cos(turn), 0.95 * np.sin(turn)], 1)
    wheel.add(lathe(rim, 240, ring=True), layout.WHEEL)
    wheel.add(
        lathe(
            rounded([(0.01, 1.3), (2.2, 1.3), (2.5, 0.9), (2.5, -1.0), (1.4, -1.4)], 0.25),
            64,
            sub=2,
        ),
        layout.WHEEL,
    )
    for i in range(5):
        s = np.linspace(2.0, 10.8, 24)
        a = np.radians(72 * i + 14) + 0.5 * ((s - 2) / 9) ** 1.5
        path = np.stack([s * np.cos(a), s * np.sin(a), -0.6 * np.sin(np.pi * (s - 2) / 9)], 1)
        wheel.add(tube(path, np.linspace(0.95, 0.72, 24), 20), layout.WHEEL)
    wheel.write(folder / "wheel.ply")
    iron.add(lathe(rounded([(0.01, 2.6), (1.0, 2.6), (1.0, 1.2), (0.9, -3)], 0.1), 6), layout.WHEEL)
    iron.add(
        lathe(
            rounded(
                [
                    (0.8, 1),
                    (0.8, -4),
                    (2.2, -4.4),
                    (2.4, -7),
                    (4.6, -8),
                    (5.0, -9),
                    (5.0, -11.5),
                    (3.6, -12.5),
                    (3.6, -17),
                ],
                0.4,
            ),
            96,
            sub=2,
        ),
        layout.WHEEL,
    )
    iron.write(folder / "valve.ply")
