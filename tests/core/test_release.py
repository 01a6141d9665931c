"""What a release takes, and whether a treatment can make anything of a frame; which
shot of another body belongs to a frame.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from glenhail.core.errors import BadRequest
from glenhail.core.methods.treat import Part
from glenhail.core.parameters import parameter_of
from glenhail.core.shots import Shot, nearest_shot
from glenhail.core.treatments.release import FrameFacts, ReleaseFacts, fit, why_impossible
from glenhail.core.treatments.step import ORIGINAL, RENDERED, Setting, Step, Treatment

SETTINGS = tuple(
    parameter_of(told)
    for told in (
        {"kind": "number", "name": "scale", "unit": "x", "low": 1, "high": 8, "usual": 2},
        {"kind": "choice", "name": "texture", "among": ["none", "some"]},
        {"kind": "switch", "name": "faces"},
    )
)
TARNLIFT = ReleaseFacts("Tarnlift 1.8", ("plain", "print"), parameters=SETTINGS, strength=False)
UNKNOWN = ReleaseFacts("Keenfold 5.1")
GUIDED = ReleaseFacts("Guided filter", builtin=True, keeps_size=True, parameters=SETTINGS[:1])
PART = Part(0, 0, 50, 50)


class Fitting(unittest.TestCase):
    def test_what_is_not_told_takes_its_usual_value_in_the_releases_order(self) -> None:
        step = Step("Tarnlift", "1.8", "print", (Setting("faces", True), Setting("scale", 4)))
        told = [(s.name, s.value, s.unit) for s in fit(step, TARNLIFT).settings]
        self.assertEqual(told, [("scale", 4, "x"), ("texture", "none", ""), ("faces", True, "")])

    def test_an_automatic_value_stays_untold(self) -> None:
        step = Step("Tarnlift", settings=(Setting("scale", None, automatic=True),))
        scale = fit(step, TARNLIFT).settings[0]
        self.assertEqual((scale.value, scale.automatic, scale.unit), (None, True, "x"))

    def test_a_release_that_nobody_has_described_takes_any(self) -> None:
        step = Step("Keenfold", "5.1", "thread", (Setting("look", 3),), strength=60)
        self.assertEqual(fit(step, UNKNOWN), step)

    def test_what_it_has_not_is_refused_with_what_it_has(self) -> None:
        cases = (
            (TARNLIFT, Step("T", mode="soft"), "its modes are plain, print"),
            (TARNLIFT, Step("T", strength=60.0), "it has no strength"),
            (TARNLIFT, Step("T", settings=(Setting("size", 2),)), "no size; it has scale, texture"),
            (TARNLIFT, Step("T", settings=(Setting("scale", 9),)), "from 1 to 8"),
            (TARNLIFT, Step("T", settings=(Setting("texture", "much"),)), "none, some"),
            (TARNLIFT, Step("T", part=PART), "kept to a part"),
            (replace(GUIDED, keeps_size=False), Step("G", part=PART), "kept to a part"),
            (replace(GUIDED, parameters=()), Step("G", settings=(Setting("a", 1),)), "no settings"),
        )
        for release, step, words in cases:
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words) as raised:
                fit(step, release)
            self.assertIn(release.title, str(raised.exception))
        self.assertEqual(fit(Step("G", part=PART), GUIDED).part, PART)


class Impossible(unittest.TestCase):
    RAW = replace(UNKNOWN, title="Sedgewash 2.4", raw_only=True)
    MODE = replace(UNKNOWN, title="Sedgewash 2.4", raw_modes=("raw-only",))
    FRAME = FrameFacts("Loom table", raw=False, format="TIFF")
    SHOT = FrameFacts("Loom table", raw=True, format="DNG")

    def why(self, release: ReleaseFacts, frame: FrameFacts, step: Step, feed: str, at: int) -> str:
        steps = (*[Step("Other")] * at, step)
        releases = [*[UNKNOWN] * at, release]
        return why_impossible(Treatment(steps, feed), releases, frame)

    def test_who_takes_raw_files_alone_is_handed_one(self) -> None:
        step, chosen = Step("Sedgewash", "2.4"), Step("Sedgewash", "2.4", "raw-only")
        made, rendered = "what the step before it made", "hand it the original file"
        cases = (
            # release, frame, step, feed, steps before, the reason
            (self.RAW, self.SHOT, step, ORIGINAL, 0, ""),
            (self.RAW, self.SHOT, step, RENDERED, 0, rendered),
            (self.RAW, self.FRAME, step, ORIGINAL, 0, "Loom table is a TIFF"),
            (self.RAW, FrameFacts("Scan"), step, ORIGINAL, 0, "Scan is a rendered file"),
            (self.RAW, self.SHOT, step, ORIGINAL, 1, made),
            (self.MODE, self.FRAME, step, RENDERED, 0, ""),
            (self.MODE, self.FRAME, chosen, RENDERED, 0, "Loom table is a TIFF"),
            (self.MODE, self.SHOT, chosen, ORIGINAL, 0, ""),
        )
        for release, frame, told, feed, at, reason in cases:
            with self.subTest(reason=reason, mode=told.mode, feed=feed):
                why = self.why(release, frame, told, feed, at)
                self.assertEqual(bool(why), bool(reason))
                self.assertIn(reason, why)
                if reason:
                    self.assertTrue(why.startswith("Sedgewash takes raw files only"))

    def test_no_tool_enlarges_further_than_it_can(self) -> None:
        release = replace(UNKNOWN, largest=4)
        for times, reason in ((4, ""), (6, "enlarges 4 times at most, not 6 times")):
            with self.subTest(times=times):
                step = Step("Tarnlift", settings=(Setting("scale", times, "x"),))
                why = self.why(release, self.FRAME, step, RENDERED, 0)
                self.assertIn(reason, why)
                self.assertEqual(bool(why), bool(reason))
        self.assertEqual(self.why(UNKNOWN, self.FRAME, step, RENDERED, 0), "")


class Shots(unittest.TestCase):
    FRAME = Shot(1, "Corvane Quill 24", 1600)
    SHOTS = (
        Shot(1, "Corvane Quill 33", 400),
        Shot(1, "Corvane Quill 33", 1250),
        Shot(1, "Corvane Quill 33", 2000),
        Shot(1, "Corvane Quill 33"),
        Shot(2, "Corvane Quill 33", 1600),
        Shot(1, "Lull Two", 3200),
    )

    def test_the_nearest_iso_of_the_same_scene_is_taken(self) -> None:
        cases = (
            # the frame, the body, what is found
            (self.FRAME, "Corvane Quill 33", 2),
            (replace(self.FRAME, iso=1700), "Corvane Quill 33", 2),
            (replace(self.FRAME, scene=2), "Corvane Quill 33", 4),
            (self.FRAME, "Lull Two", None),  # a stop away
            (replace(self.FRAME, iso=2450), "Lull Two", None),  # nearer, but not near
            (replace(self.FRAME, iso=2500), "Lull Two", 5),
            (self.FRAME, "Corvane Quill 24", None),  # it is that body's own
            (replace(self.FRAME, iso=0), "Corvane Quill 33", None),
            (replace(self.FRAME, scene=None), "Corvane Quill 33", None),
            (self.FRAME, "Nobody's", None),
        )
        for frame, body, found in cases:
            with self.subTest(frame=frame, body=body):
                self.assertEqual(nearest_shot(frame, body, self.SHOTS), found)
        # Two frames without a scene do not show the same one.
        loose = Shot(None, "Corvane Quill 33", 1600)
        self.assertIsNone(nearest_shot(replace(self.FRAME, scene=None), loose.camera, [loose]))
