"""Making pictures whose truth is known: degraded ones, and truths from several shots."""

from __future__ import annotations

import argparse
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

from glenhail.core.cli.given import json_of
from glenhail.core.degrade.recipe import degrade, recipe_of
from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.truth.burst import burst_mean
from glenhail.core.truth.twin import twin_of


def add_to(commands: Any) -> None:
    """Add degrade, burst and twin.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    worse = commands.add_parser("degrade", help="make a picture worse by a recorded recipe")
    worse.add_argument("file", type=Path)
    worse.add_argument("made", type=Path, help="a TIFF of 16 bit")
    worse.add_argument(
        "--recipe", required=True, help="JSON, or a file of it; see docs/material.md"
    )
    worse.set_defaults(run=_degrade)
    many = commands.add_parser(
        "burst", help="the mean of a burst as a truth, without what happened in one frame only"
    )
    many.add_argument("made", type=Path, help="a TIFF of 16 bit")
    many.add_argument("files", type=Path, nargs="+")
    many.set_defaults(run=_burst)
    pair = commands.add_parser(
        "twin", help="a base-ISO frame as truth of a noisier one: lined up, exposure matched"
    )
    pair.add_argument("frame", type=Path)
    pair.add_argument("base", type=Path)
    pair.add_argument("made", type=Path, help="a TIFF of 16 bit")
    pair.set_defaults(run=_twin)


def _degrade(options: argparse.Namespace) -> None:
    recipe = recipe_of(json_of(options.recipe, '{"seed": 1, "steps": [...]}'))
    source = read_picture(options.file)
    write_tiff(
        options.made, degrade(source.pixels, recipe), replace(source.facts, software="Glenhail")
    )
    print(recipe.words())


def _burst(options: argparse.Namespace) -> None:
    made = burst_mean([partial(read_picture, path) for path in options.files])
    write_tiff(options.made, made.mean, replace(read_facts(options.files[0]), software="Glenhail"))
    print(f"{len(options.files)} frames, {100 * made.rejected:.3f} % of the values left out")
    for path, noise in zip(options.files, made.noises, strict=True):
        print(f"temporal noise {noise:.2f} levels  {path.name}")
    print(
        f"temporal noise left in the mean {made.left:.2f} levels; fixed pattern {made.fixed:.2f}"
        " levels in its plainest parts"
    )


def _twin(options: argparse.Namespace) -> None:
    frame, base = read_picture(options.frame), read_picture(options.base)
    made = twin_of(frame, base)
    write_tiff(options.made, made.truth, replace(base.facts, software="Glenhail"))
    m = made.mapping
    print(f"shift {m.dx:.2f}, {m.dy:.2f} px, residual {made.residual:.2f} px")
    print(
        f"exposure {made.exposure:+.3f} EV taken off; {100 * made.moved:.2f} % of the cells differ"
        " by more than noise"
    )
