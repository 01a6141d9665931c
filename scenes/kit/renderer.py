"""Path tracing in passes that survive a crash, and the feature pictures a denoiser is guided by.

Light transport is Mitsuba's; the work here is to keep what has been computed. Curve shapes crash now and then, so every pass is
saved and a broken-off rendering goes on with another seed.
"""

import os
import time

import numpy as np

os.environ.setdefault("DRJIT_LIBLLVM_PATH", "/usr/lib/x86_64-linux-gnu/libLLVM.so.19.1")

import drjit
import mitsuba as mi

mi.set_variant("llvm_ad_rgb")
drjit.set_flag(
    drjit.JitFlag.PacketOps, False
)  # packet gathers crash on the control points of curves

Transform = mi.ScalarTransform4f


def rgb(*values):
    return {"type": "rgb", "value": [float(v) for v in values]}


def bitmap(array, wrap="clamp"):
    """A texture from a map whose row 0 lies at v = 0."""
    a = np.asarray(array, np.float32)
    a = np.ascontiguousarray(a if a.ndim == 3 else a[..., None])
    return {
        "type": "bitmap",
        "data": mi.TensorXf(a),
        "raw": True,
        "format": "fp16",
        "wrap_mode": wrap,
    }


def coated(base, roughness, specular=0.4, **more):
    """Paint, wood, plastic: a diffuse base under a clear surface."""
    return {
        "type": "principled",
        "base_color": base,
        "roughness": roughness,
        "specular": specular,
        **more,
    }


def metal(base, roughness):
    return {"type": "principled", "base_color": base, "metallic": 1.0, "roughness": roughness}


def matt(base):
    return {"type": "diffuse", "reflectance": base}


def bumped(height, bsdf, scale=1.0, wrap="clamp"):
    return {"type": "bumpmap", "arbitrary": bitmap(height, wrap), "scale": scale, "bsdf": bsdf}


def both_sides(bsdf):
    return {"type": "twosided", "bsdf": bsdf}


class Stage:
    """A scene being put together: materials by name, shapes from files, lamps, one camera."""

    def __init__(self, folder, camera, depth=7):
        self.folder, self.camera = folder, camera
        self.entries = {
            "type": "scene",
            "integrator": {"type": "path", "max_depth": depth, "rr_depth": 5},
        }

    def texture(self, name):
        return np.load(self.folder / f"{name}.npy")

    def material(self, name, bsdf):
        self.entries[f"material_{name}"] = {**bsdf, "id": f"material_{name}"}

    def mesh(self, file, material, **more):
        self.entries[f"mesh_{file}"] = {
            "type": "ply",
            "filename": str(self.folder / f"{file}.ply"),
            **self._of(material),
            **more,
        }

    def curves(self, file, bsdf):
        self.entries[f"curves_{file}"] = {
            "type": "bsplinecurve",
            "filename": str(self.folder / f"{file}.txt"),
            "bsdf": bsdf,
        }

    def add(self, name, entry):
        self.entries[name] = entry

    def load(self, width, height, crop=None):
        film = {
            "type": "hdrfilm",
            "width": width,
            "height": height,
            "pixel_format": "rgb",
            "component_format": "float32",
        }
        film["rfilter"] = {"type": "box"}
        if crop:
            film |= dict(
                zip(
                    ("crop_offset_x", "crop_offset_y", "crop_width", "crop_height"),
                    crop,
                    strict=True,
                )
            )
        look = Transform().look_at(
            origin=list(self.camera.origin), target=list(self.camera.target), up=[0, 0, 1]
        )
        sensor = {
            "type": "perspective",
            "fov": self.camera.fov,
            "fov_axis": "x",
            "near_clip": 0.1,
            "far_clip": 5000,
        }
        sensor |= {"to_world": look, "film": film, "sampler": {"type": "multijitter"}}
        return mi.load_dict({**self.entries, "sensor": sensor})

    def _of(self, material):
        return {"bsdf": {"type": "ref", "id": f"material_{material}"}}


def render(stage, out, width, height, samples, per_pass=16, guide_samples=64, crop=None):
    """Renders to ``out`` (.npz): two independent halves of the samples, albedo, normals and depth; resumes what is there.

    Two halves tell how much of the picture is still noise.
    """
    scene = stage.load(width, height, crop)
    size = (crop[3], crop[2]) if crop else (height, width)
    sums, counts, done = np.zeros((2, *size, 3)), np.zeros((2, *size)), 0
    part = out.with_suffix(".part.npz")
    if part.exists():
        kept = np.load(part)
        sums, counts, done = kept["sums"], kept["counts"], int(kept["done"])
    passes = max(2, -(-samples // per_pass))
    started = time.time()
    for i in range(done, passes + passes % 2):
        picture = np.array(mi.render(scene, spp=per_pass, seed=1 + i), dtype=np.float64)
        good = np.isfinite(picture).all(-1)
        picture[~good] = 0
        sums[i % 2] += picture
        counts[i % 2] += good
        unfinished = part.with_name(f"unfinished-{part.name}")
        np.savez(unfinished, sums=sums, counts=counts, done=i + 1)
        unfinished.replace(part)
        print(
            f"pass {i + 1}/{passes} of {per_pass} samples, {time.time() - started:.0f} s",
            flush=True,
        )
    halves = (sums / np.maximum(counts, 1)[..., None]).astype(np.float32)
    guides = _guides(scene, guide_samples, per_pass)
    np.savez(out, first=halves[0], second=halves[1], **guides)
    part.unlink()


def _guides(scene, samples, per_pass):
    wanted = mi.load_dict({"type": "aov", "aovs": "al:albedo,nn:sh_normal,dd:depth"})
    passes = max(1, samples // per_pass)
    total = sum(
        np.array(mi.render(scene, integrator=wanted, spp=per_pass, seed=1000 + i), dtype=np.float64)
        for i in range(passes)
    )
    mean = (total / passes)[..., -7:].astype(np.float32)
    return {"albedo": mean[..., :3], "normal": mean[..., 3:6], "depth": mean[..., 6]}
