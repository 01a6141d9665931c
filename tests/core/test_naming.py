"""Folders named in the ways that reviewers name them: every file finds its cell."""

from __future__ import annotations

import itertools
import unittest
from collections.abc import Callable

import numpy as np
from skimage import data

from glenhail.core.colour import srgb
from glenhail.core.naming.frames import FileSeen, FrameSeen
from glenhail.core.naming.match import ContenderSeen, propose
from glenhail.core.naming.thumb import Thumb, likeness, thumb_of
from glenhail.core.naming.words import pieces, stands_for
from glenhail.core.picture import Floats
from glenhail.core.treatments.step import Setting, Step, Treatment

SHOT = {
    "Loom table at noon": "DSC04512",
    "Gauge wall": "DSC04530",
    "Dye shed, shade": "DSC04577",
    "Yard lamps": "DSC04601",
    "Bobbin rack": "DSC04588",
}
PICTURES = dict(zip(SHOT, ("chelsea", "coffee", "astronaut", "rocket", "cat"), strict=True))
SEDGE3 = Step("Sedgewash", "3.0", "standard", strength=60)
SEDGE2 = Step("Sedgewash", "2.4", "standard", strength=60)
KEEN = Step("Keenfold", "5.1", "thread", strength=60)
MOSS = Step("Mossgate", "11", "everything", strength=60)
LIFT = Step("Tarnlift", "1.8", "", (Setting("scale", 2.0, "x"),))
PLAIN = Step("Bicubic", method="bicubic", settings=(Setting("factor", 2.0, "x"),))
NAMED = {
    "sedge3": SEDGE3,
    "sedge2": SEDGE2,
    "keen": KEEN,
    "moss": MOSS,
    "lift": LIFT,
    "plain": PLAIN,
}


def picture(name: str) -> Floats:
    encoded = data.astronaut()[::2, ::-2] if name == "cat" else getattr(data, name)()
    return srgb.decode(encoded[:300, :400].astype(np.float32) / 255)


THUMBS = {name: thumb_of(picture(p)) for name, p in PICTURES.items()}
FRAMES = [FrameSeen(i, (n, SHOT[n]), 1500, 1000, THUMBS[n]) for i, n in enumerate(SHOT)]
CONTENDERS = [
    ContenderSeen(10 + i, "ABCDEF"[i], Treatment((s,))) for i, s in enumerate(NAMED.values())
]

# How the frame and the contender are written, and put together.
Style = Callable[[str, str, str], str]


LONG = {
    "sedge3": "sedgewash-3.0",
    "sedge2": "sedgewash-2.4",
    "keen": "keenfold",
    "moss": "mossgate",
    "lift": "tarnlift-2x",
    "plain": "bicubic",
}
SHORT = {"sedge3": "SW3", "sedge2": "SW2", "keen": "KF", "moss": "MG", "lift": "TL", "plain": "bic"}
GLUED = {
    "sedge3": "Sedgewash30",
    "sedge2": "Sedgewash24",
    "keen": "Keenfold51Fine",
    "moss": "Mossgate",
    "lift": "Tarnlift",
    "plain": "Bicubic",
}
TYPOS = {
    "sedge3": "Sedgwash3",
    "sedge2": "Sedgwash2",
    "keen": "Keanfold",
    "moss": "Mosgate",
    "lift": "Tarnlft",
    "plain": "Bicubc",
}
STYLES: dict[str, Style] = {
    "prefix": lambda f, shot, k: f"{LONG[k]}_{f.replace(' ', '-').replace(',', '')}.tif",
    "suffix, short": lambda f, shot, k: f"{f} {SHORT[k]} strong.png",
    "a folder for each tool": lambda f, shot, k: f"mill test/{LONG[k]}/{f}.tif",
    "a folder for each frame": lambda f, shot, k: f"{f}/{SHORT[k].lower()}_final.tif",
    "camera numbers": lambda f, shot, k: f"{shot}-{SHORT[k].lower()}.tif",
    "run together": lambda f, shot, k: (
        f"{f.title().replace(' ', '').replace(',', '')}{GLUED[k]}.png"
    ),
    "typing errors": lambda f, shot, k: f"{TYPOS[k]} {f.split()[0].lower()}.tif",
    "letters": lambda f, shot, k: f"{f}_{'ABCDEF'[list(NAMED).index(k)]}.tif",
    "content alone for frames": lambda f, shot, k: (
        f"{LONG[k]}/out_{list(SHOT).index(f) * 7 + 3:03d}.tif"
    ),
}


def seen_in(frame: str, rng: np.random.Generator) -> Thumb:
    """As an output shows it: brighter, noisier, with another contrast."""
    t = np.asarray(THUMBS[frame])
    return list((t**0.9 * 0.95 + 0.03 + rng.normal(0, 0.02, t.size)).tolist())


def folder(style: Style) -> tuple[list[FileSeen], list[tuple[int, int]]]:
    rng, files, cells = np.random.default_rng(5), [], []
    for (i, frame), (j, key) in itertools.product(enumerate(SHOT), enumerate(NAMED)):
        times = 2 if key in ("lift", "plain") else 1
        files.append(
            FileSeen(
                style(frame, SHOT[frame], key), 1500 * times, 1000 * times, seen_in(frame, rng)
            )
        )
        cells.append((i, 10 + j))
    order = rng.permutation(len(files))
    return [files[n] for n in order], [cells[n] for n in order]


class Folders(unittest.TestCase):
    def test_every_style_of_naming_finds_its_cells(self) -> None:
        for name, style in STYLES.items():
            with self.subTest(name):
                files, cells = folder(style)
                found = propose(files, FRAMES, CONTENDERS)
                wrong = [
                    (f.path, p)
                    for f, p, c in zip(files, found, cells, strict=True)
                    if (p.frame, p.contender) != c
                ]
                self.assertEqual(wrong, [])
                self.assertEqual(len({(p.frame, p.contender) for p in found}), len(files))

    def test_a_series_of_strengths_on_a_series_of_isos_is_told_apart_by_its_numbers(self) -> None:
        # All frames show the same thing, so that content says nothing; two contenders differ in the
        # order of steps alone.
        isos, thumb, rng = (800, 3200, 12800, 51200), THUMBS["Gauge wall"], np.random.default_rng(1)
        frames = [
            FrameSeen(
                i,
                (f"Loom table, Corvane Quill 24, ISO {n:,}", f"loom-table-quill24-iso{n}"),
                960,
                640,
                thumb,
            )
            for i, n in enumerate(isos)
        ]
        made = {
            str(n): Treatment((Step("Sedgewash", "3.0", "standard", strength=n),))
            for n in (20, 40, 60, 80, 100)
        }
        made |= {"sedge tarn": Treatment((SEDGE3, LIFT)), "tarn sedge": Treatment((LIFT, SEDGE3))}
        contenders = [ContenderSeen(10 + i, "ABCDEFG"[i], t) for i, t in enumerate(made.values())]
        styles: dict[str, Callable[[int, str], str]] = {
            "suffix": lambda iso, k: f"iso{iso}_{'sw' if k.isdigit() else ''}{k}.tif",
            "prefix": lambda iso, k: f"{k}-loom-{iso}.tif",
            "folders": lambda iso, k: f"test/{k}%/{iso}.tif",
            "own names": lambda iso, k: f"loom-table-quill24-iso{iso}-sedge{k}.tif",
        }
        for name, style in styles.items():
            with self.subTest(name):
                cells = [(i, j) for i in range(len(isos)) for j in range(len(made))]
                words = list(made)
                sizes = [2 if " " in words[j] else 1 for _, j in cells]
                files = [
                    FileSeen(style(isos[i], words[j]), 960 * n, 640 * n, seen_in("Gauge wall", rng))
                    for (i, j), n in zip(cells, sizes, strict=True)
                ]
                found = [(p.frame, p.contender) for p in propose(files, frames, contenders)]
                self.assertEqual(found, [(i, 10 + j) for i, j in cells])

    def test_names_alone_serve_before_anything_is_decoded(self) -> None:
        for name in ("prefix", "a folder for each tool", "run together", "camera numbers"):
            with self.subTest(name):
                files, cells = folder(STYLES[name])
                found = propose([FileSeen(f.path) for f in files], FRAMES, CONTENDERS)
                right = sum((p.frame, p.contender) == c for p, c in zip(found, cells, strict=True))
                self.assertGreaterEqual(right, len(cells) * 0.8)

    def test_content_against_the_name_is_said_and_not_trusted(self) -> None:
        rng = np.random.default_rng(1)
        liar = FileSeen("Gauge wall sedgewash.tif", 1500, 1000, seen_in("Yard lamps", rng))
        found = propose([liar], FRAMES, CONTENDERS)[0]
        self.assertLess(found.confidence, 0.6)

    def test_a_stranger_stays_without_a_place(self) -> None:
        noise = np.random.default_rng(2).random(576).tolist()
        found = propose([FileSeen("holiday.jpg", 400, 300, noise)], FRAMES, CONTENDERS)[0]
        self.assertIsNone(found.frame)
        self.assertLess(found.confidence, 0.1)

    def test_what_a_name_meant_once_it_means_again(self) -> None:
        files = [FileSeen(f"{f}__zz{n}.tif") for f in SHOT for n in "qrs"]
        known = {"zzq": 12, "zzr": 10, "zzs": 13}
        found = propose(files, FRAMES, CONTENDERS, known)
        self.assertEqual({p.contender for p in found if p.rest == "zzq"}, {12})
        self.assertTrue(all(p.contender_confidence > 0.95 for p in found))

    def test_files_of_one_contender_alone_are_known_by_what_all_their_names_share(self) -> None:
        for spelt in (LONG, SHORT, GLUED):
            for at, name in enumerate(NAMED):
                for style in ("{c}/{f}.tif", "sent again/{f}_{c}.tif", "{c}-{f}.tif"):
                    with self.subTest(spelt[name], style=style):
                        paths = [style.format(c=spelt[name], f=shot) for shot in SHOT.values()]
                        made = propose([FileSeen(p) for p in paths], FRAMES, CONTENDERS)
                        self.assertEqual({p.contender for p in made}, {10 + at}, made)
                        self.assertEqual([p.frame for p in made], list(range(len(SHOT))))

    def test_what_is_left_over_is_likely_where_all_others_are_clear(self) -> None:
        gentle = ContenderSeen(20, "G", Treatment((Step("Mossgate", "11", "gentle", strength=60),)))
        files = [
            FileSeen("mossgate/Gauge wall all.tif"),
            FileSeen("mossgate/Gauge wall gentle.tif"),
        ]
        found = propose(files, FRAMES, [CONTENDERS[3], gentle])
        self.assertEqual([p.contender for p in found], [13, 20])
        self.assertGreater(found[0].contender_confidence, 0.6)

    def test_previews_are_told_from_exports(self) -> None:
        found = propose(
            [FileSeen("Gauge wall keenfold.tif"), FileSeen("Gauge wall keenfold preview.png")],
            FRAMES,
            CONTENDERS,
        )
        self.assertEqual(
            [(p.frame, p.contender, p.preview) for p in found], [(1, 12, False), (1, 12, True)]
        )

    def test_steps_in_another_order_are_another_contender(self) -> None:
        both = [
            ContenderSeen(1, "A", Treatment((SEDGE3, LIFT))),
            ContenderSeen(2, "B", Treatment((LIFT, SEDGE3))),
        ]
        found = propose(
            [
                FileSeen("gauge wall tarnlift-sedgewash.tif"),
                FileSeen("gauge wall sedgewash-tarnlift.tif"),
            ],
            FRAMES,
            both,
        )
        self.assertEqual([p.contender for p in found], [2, 1])


class Words(unittest.TestCase):
    def test_names_come_apart_where_a_reader_would_take_them_apart(self) -> None:
        for name, told in {
            "LoomTableKF51Thread": ["loom", "table", "kf", "51", "thread"],
            "DSC04512_sw3-s60": ["dsc", "04512", "sw", "3", "s", "60"],
            "üben 2x": ["ben", "2", "x"],
        }.items():
            self.assertEqual(pieces(name), told)

    def test_initials_beginnings_and_typing_errors_stand_for_words(self) -> None:
        for piece, word, least in (
            ("sw", "sedgewash", 0.4),
            ("sedg", "sedgewash", 0.9),
            ("keanfold", "keenfold", 0.8),
            ("xy", "keenfold", 0),
        ):
            self.assertEqual(stands_for(piece, word), least)

    def test_a_thumb_knows_its_picture_again(self) -> None:
        rng = np.random.default_rng(3)
        for one, other in itertools.product(SHOT, SHOT):
            alike = likeness(seen_in(one, rng), THUMBS[other])
            self.assertTrue(alike > 0.95 if one == other else alike < 0.85, (one, other, alike))
