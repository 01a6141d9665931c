"""Triangle meshes: parts, the shapes they come from, and the PLY files the renderer reads."""

from dataclasses import dataclass, field

import numpy as np


@dataclass
class Part:
    """Vertices (n, 3), faces (m, 3), and per vertex a normal (n, 3) and texture place (n, 2), or None for flat faces."""

    vertices: np.ndarray
    faces: np.ndarray
    normals: np.ndarray | None = None
    uv: np.ndarray | None = None

    def moved(self, place):
        """The same part under a 4x4 placement."""
        normals = None if self.normals is None else self.normals @ place[:3, :3].T
        return Part(moved(place, self.vertices), self.faces, normals, self.uv)

    def faceted(self):
        """With its own vertices and normal for every face, when it came without normals."""
        if self.normals is not None:
            uv = np.zeros((len(self.vertices), 2)) if self.uv is None else self.uv
            return Part(self.vertices, self.faces, self.normals, uv)
        corners = np.asarray(self.vertices, float)[self.faces].reshape(-1, 3)
        uv = (
            np.zeros((len(corners), 2))
            if self.uv is None
            else np.asarray(self.uv)[self.faces].reshape(-1, 2)
        )
        across = np.cross(corners[1::3] - corners[::3], corners[2::3] - corners[::3])
        flat = across / (np.linalg.norm(across, axis=1, keepdims=True) + 1e-12)
        return Part(corners, np.arange(len(corners)).reshape(-1, 3), np.repeat(flat, 3, 0), uv)


@dataclass
class Mesh:
    """Parts that share one material, written as one file."""

    parts: list[Part] = field(default_factory=list)

    def add(self, part, place=None):
        part = part.faceted()
        self.parts.append(part if place is None else part.moved(place))
        return self

    def write(self, path):
        counts = np.cumsum([0, *(len(p.vertices) for p in self.parts)])
        faces = np.concatenate([p.faces + n for p, n in zip(self.parts, counts, strict=False)])
        columns = [
            np.concatenate([getattr(p, name) for p in self.parts])
            for name in ("vertices", "normals", "uv")
        ]
        write_ply(path, Part(columns[0], faces, columns[1], columns[2]))


def write_ply(path, part):
    """Binary PLY. The winding is made to agree with the normals: where they disagree the renderer shades black."""
    part = part.faceted()
    v, n, faces = (
        np.asarray(part.vertices),
        np.asarray(part.normals),
        np.array(part.faces, np.int32),
    )
    facing = np.cross(v[faces[:, 1]] - v[faces[:, 0]], v[faces[:, 2]] - v[faces[:, 0]])
    wrong = (facing * n[faces].mean(1)).sum(1) < 0
    faces[wrong] = faces[wrong][:, ::-1]
    table = np.ascontiguousarray(np.concatenate([v, n, part.uv], 1), np.float32)
    records = np.empty(len(faces), dtype=[("n", "u1"), ("i", "<i4", 3)])
    records["n"], records["i"] = 3, faces
    properties = "".join(
        f"property float {p}\n" for p in ("x", "y", "z", "nx", "ny", "nz", "u", "v")
    )
    header = (
        f"ply\nformat binary_little_endian 1.0\nelement vertex {len(v)}\n{properties}"
        f"element face {len(faces)}\nproperty list uchar int vertex_indices\nend_header\n"
    )
    path.write_bytes(header.encode() + table.tobytes() + records.tobytes())


def place(at=(0, 0, 0), rz=0.0, rx=0.0, ry=0.0, scale=1.0):
    """A 4x4 placement: turned about x, then y, then z (degrees), scaled, then moved."""
    a, b, c = np.radians([rx, ry, rz])
    x = np.array([[1, 0, 0], [0, np.cos(a), -np.sin(a)], [0, np.sin(a), np.cos(a)]])
    y = np.array([[np.cos(b), 0, np.sin(b)], [0, 1, 0], [-np.sin(b), 0, np.cos(b)]])
    z = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
    out = np.eye(4)
    out[:3, :3] = z @ y @ x * scale
    out[:3, 3] = at
    return out


def moved(placement, points):
    """Points (..., 3) under a 4x4 placement."""
    return points @ placement[:3, :3].T + placement[:3, 3]


def grid_faces(rows, columns):
    """The faces of a rows x columns grid of vertices."""
    i = np.arange(rows * columns).reshape(rows, columns)
    a, b, c, d = i[:-1, :-1], i[:-1, 1:], i[1:, 1:], i[1:, :-1]
    return np.concatenate(
        [np.stack([a, b, c], -1).reshape(-1, 3), np.stack([a, c, d], -1).reshape(-1, 3)]
    )


def grid_normals(points):
    """Normals of a grid of points (rows, columns, 3)."""
    n = np.cross(np.gradient(points, axis=1), np.gradient(points, axis=0))
    return n / (np.linalg.norm(n, axis=-1, keepdims=True) + 1e-12)


def grid(points, uv, facing=None):
    """A surface over a grid of points; its normals turned towards ``facing`` when given."""
    normals = grid_normals(points)
    if facing is not None and (normals @ np.asarray(facing)).mean() < 0:
        normals = -normals
    rows, columns = points.shape[:2]
    return Part(
        points.reshape(-1, 3), grid_faces(rows, columns), normals.reshape(-1, 3), uv.reshape(-1, 2)
    )


def quad(corners, uv=((0, 0), (1, 0), (1, 1), (0, 1))):
    return Part(
        np.asarray(corners, float), np.array([[0, 1, 2], [0, 2, 3]]), None, np.asarray(uv, float)
    )


def lathe(profile, n=96, sub=1, ring=False, grain=60.0):
    """The profile [(r, z), ...] turned about z. ``ring``: the profile closes around its own middle."""
    p = np.asarray(profile, float)
    if sub > 1:
        steps = np.arange(1, sub + 1)[:, None] / sub
        p = np.concatenate(
            [p[:1], *[a + (b - a) * steps for a, b in zip(p[:-1], p[1:], strict=True)]]
        )
    turn = np.linspace(0, 2 * np.pi, n + 1)
    r, z = p[:, :1], p[:, 1:]
    points = np.stack([r * np.cos(turn), r * np.sin(turn), z + 0 * turn], -1)
    run = np.gradient(p, axis=0)
    length = np.hypot(*run.T)
    nr, nz = run[:, 1] / (length + 1e-12), -run[:, 0] / (length + 1e-12)
    middle = p.mean(0) if ring else np.array([0, p[:, 1].mean()])
    if (length * ((p[:, 0] - middle[0]) * nr + (p[:, 1] - middle[1]) * nz)).sum() < 0:
        nr, nz = -nr, -nz
    normals = np.stack(
        [nr[:, None] * np.cos(turn), nr[:, None] * np.sin(turn), nz[:, None] + 0 * turn], -1
    )
    along = np.r_[0, np.cumsum(np.hypot(*np.diff(p, axis=0).T))]
    uv = np.stack(
        np.broadcast_arrays((along / grain)[:, None], turn * p[:, 0].mean() / (0.4 * grain)), -1
    )
    return Part(
        points.reshape(-1, 3), grid_faces(len(p), n + 1), normals.reshape(-1, 3), uv.reshape(-1, 2)
    )


def rounded(profile, radius=0.12, n=6):
    """The open profile with its corners rounded off."""
    p = np.asarray(profile, float)
    out = [p[0]]
    for a, b, c in zip(p[:-2], p[1:-1], p[2:], strict=True):
        la, lc = np.linalg.norm(a - b), np.linalg.norm(c - b)
        k = min(radius, la * 0.45, lc * 0.45)
        first, last = b + (a - b) / la * k, b + (c - b) / lc * k
        out += [
            (1 - t) ** 2 * first + 2 * t * (1 - t) * b + t * t * last for t in np.linspace(0, 1, n)
        ]
    return np.array([*out, p[-1]])


def box(low, high, bevel=0.08, grain=60.0, seed=0):
    """A bevelled box; its texture runs along the longest side, ``grain`` units to a texture's width."""
    low, high = np.asarray(low, float), np.asarray(high, float)
    longest = int(np.argmax(high - low))
    rng = np.random.default_rng(
        [seed, *np.abs(low * 100).astype(int), *np.abs(high * 100).astype(int)]
    )
    sides = []
    for axis in range(3):
        for sign in (-1, 1):
            a, b = (k for k in range(3) if k != axis)
            if b == longest:
                a, b = b, a
            sides.append(_side(low, high, axis, sign, (a, b), bevel, grain, rng))
    counts = np.cumsum([0, *(len(s.vertices) for s in sides)])
    faces = np.concatenate([s.faces + n for s, n in zip(sides, counts, strict=False)])
    vertices, normals, uv = (
        np.concatenate([getattr(s, k) for s in sides]) for k in ("vertices", "normals", "uv")
    )
    return Part(vertices, faces, normals, uv)


def _side(low, high, axis, sign, plane, bevel, grain, rng):
    def stops(k):
        return np.r_[
            low[k],
            np.linspace(low[k] + bevel * 0.3, low[k] + bevel, 3),
            np.linspace(high[k] - bevel, high[k] - bevel * 0.3, 3),
            high[k],
        ]

    a, b = plane
    ga, gb = np.meshgrid(stops(a), stops(b), indexing="ij")
    points = np.zeros((*ga.shape, 3))
    points[..., a], points[..., b] = ga, gb
    points[..., axis] = high[axis] if sign > 0 else low[axis]
    core = np.clip(points, low + bevel, high - bevel)
    out = points - core
    normals = out / np.maximum(np.linalg.norm(out, axis=-1, keepdims=True), 1e-9)
    u, v = (ga - low[a]) / grain, (gb - low[b]) / (grain * 0.4)
    uv = np.stack(
        [u + rng.random() * max(0, 1 - u.max()), v + rng.random() * max(0, 1 - v.max())], -1
    )
    surface = core + normals * bevel
    return Part(
        surface.reshape(-1, 3), grid_faces(*ga.shape), normals.reshape(-1, 3), uv.reshape(-1, 2)
    )


def tube(path, radius, n=16, up=(0.03, 0.05, 1.0)):
    """A round tube along a smooth line (m, 3); ``radius`` may vary along it."""
    centre = np.asarray(path, float)
    along = np.gradient(centre, axis=0)
    along /= np.linalg.norm(along, axis=1, keepdims=True) + 1e-12
    # The frame is carried along the line: one made from a fixed direction twists where the line turns past it.
    side = np.cross(along[0], up)
    side /= np.linalg.norm(side)
    sides = []
    for direction in along:
        side = side - direction * (side @ direction)
        side /= np.linalg.norm(side)
        sides.append(side)
    sides = np.array(sides)
    normal = np.cross(sides, along)
    turn = np.linspace(0, 2 * np.pi, n + 1)
    out = (
        sides[:, None] * np.cos(turn)[None, :, None] + normal[:, None] * np.sin(turn)[None, :, None]
    )
    r = np.broadcast_to(np.asarray(radius, float), len(centre))
    vertices = centre[:, None] + r[:, None, None] * out
    run = np.r_[0, np.cumsum(np.linalg.norm(np.diff(centre, axis=0), axis=1))]
    uv = np.stack(np.broadcast_arrays(run[:, None] / 60, turn / (2 * np.pi)), -1)
    return Part(
        vertices.reshape(-1, 3),
        grid_faces(len(centre), n + 1),
        out.reshape(-1, 3),
        uv.reshape(-1, 2),
    )


def extrude(polygons, z0, z1):
    """Flat shapes (shapely polygons) given a thickness from z0 to z1."""
    import trimesh

    solids = [trimesh.creation.extrude_polygon(p, z1 - z0, engine="earcut") for p in polygons]
    vertices = np.concatenate([s.vertices[s.faces].reshape(-1, 3) for s in solids])
    vertices[:, 2] += z0
    return Part(vertices, np.arange(len(vertices)).reshape(-1, 3)).faceted()
