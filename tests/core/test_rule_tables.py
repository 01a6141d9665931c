"""Each rule of the audit on values just within its tolerance, beyond it, and too unsure;
what is told is how much, which way, and how it weighs.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from glenhail.core.audit.examine import USUAL, Examination
from glenhail.core.audit.finding import RuleBreach, Weight
from glenhail.core.audit.output_rule import AuditedOutput, Wording
from glenhail.core.audit.rules import OUTPUT_RULES, check_output
from glenhail.core.interval import Interval
from glenhail.core.lineup.bend import turned
from glenhail.core.lineup.border import Border
from glenhail.core.picture import Bend, Mapping

SPOILS, COLOURS, HARMLESS = Weight.SPOILS, Weight.COLOURS, Weight.HARMLESS
PLAIN = AuditedOutput(900, 600)


def within(value: float, half: float = 0.0) -> Interval:
    return Interval(value, value - half, value + half)


def found(**told: object) -> dict[str, RuleBreach]:
    return {m.rule.id: m for m in check_output(replace(PLAIN, **told))}  # type: ignore[arg-type]


def examined(works: frozenset[str] = frozenset(), **values: Interval) -> dict[str, RuleBreach]:
    return found(examination=Examination(values=values), works=works)


def lens(corner: float) -> Bend:
    """A radial distortion (Brown 1966, k1) that moves the corners by so many px."""
    radial = (0.0, 0, 0, 0, 0, 0)
    return Bend(450, 300, 540.8, (*radial, corner, 0, corner, 0), (*radial, 0, corner, 0, corner))


class LineUp(unittest.TestCase):
    def test_each_rule_begins_where_it_says(self) -> None:
        within_it: dict[str, tuple[dict[str, object], dict[str, object], str]] = {
            # rule: kept, broken, words
            "enlargement": (
                {"mapping": Mapping(2.003, 2.003), "asked": 2.0},
                {"mapping": Mapping(2.01, 2.01), "asked": 2.0},
                "2× was asked for, the picture is 2.01×",
            ),
            "stretched": (
                {"mapping": Mapping(1.0015, 1.0)},  # a whole pixel of 600 does that
                {"mapping": Mapping(1.003, 1.0)},
                "1.0030× across and 1.0000× down",
            ),
            "moved": (
                {"mapping": Mapping(1, 1, 0.04, 0)},
                {"mapping": Mapping(1, 1, -0.4, 0.2)},
                "0.4 px left, 0.2 px down, taken off; error measures interpolate for it",
            ),
            "border": (
                {"border": Border()},
                {"border": Border(left=1, bottom=2)},
                "a plain border, 1 px left, 2 px bottom; left out of every measure",
            ),
            "turned": (
                {"mapping": Mapping(bend=turned(0.02, 900, 600))},
                {"mapping": Mapping(bend=turned(-0.5, 900, 600))},
                "0.50° anticlockwise",
            ),
            "bent": (
                {"mapping": Mapping(bend=lens(0.35))},
                {"mapping": Mapping(bend=lens(3.0))},
                "places moved by up to 3.0 frame px, as a lens correction does",
            ),
            "loose": ({"residual": 0.49}, {"residual": 0.75}, "0.75 frame px left over"),
            "doubtful": (
                {},
                {"doubts": ("4 places only", "far apart")},
                "4 places only; far apart",
            ),
        }
        for rule, (kept, broken, words) in within_it.items():
            with self.subTest(rule):
                self.assertNotIn(rule, found(**kept))
                self.assertEqual(found(**broken)[rule].words, words)

    def test_what_is_left_of_a_line_up_makes_its_rules_wider(self) -> None:
        cases: dict[str, dict[str, object]] = {
            "moved": {"mapping": Mapping(1, 1, 0.3, 0)},
            "turned": {"mapping": Mapping(bend=turned(0.1, 900, 600))},
            "stretched": {"mapping": Mapping(1.004, 1.0)},
            "bent": {"mapping": Mapping(bend=lens(1.0))},
        }
        for rule, told in cases.items():
            with self.subTest(rule):
                self.assertIn(rule, found(**told))
                self.assertNotIn(rule, found(residual=2.0, **told))

    def test_a_whole_pixel_is_taken_off_without_loss_and_half_a_one_is_not(self) -> None:
        whole = found(mapping=Mapping(1, 1, 3, -2))["moved"]
        self.assertEqual((whole.weight, whole.amount), (HARMLESS, 3))
        self.assertIn("3 px right, 2 px up, taken off without touching a pixel", whole.words)
        self.assertEqual(found(mapping=Mapping(1, 1, 0.5, 0))["moved"].weight, COLOURS)
        # Enlarged, it was interpolated anyway.
        self.assertEqual(found(mapping=Mapping(2, 2, 1, 0))["moved"].weight, HARMLESS)

    def test_far_from_the_asked_size_it_is_not_the_same_thing(self) -> None:
        told = found(mapping=Mapping(2.2, 2.2), asked=2.0)["enlargement"]
        self.assertEqual(told.weight, SPOILS)
        # Where nothing was asked, only a tool that keeps sizes is held to its size.
        self.assertNotIn("enlargement", found(mapping=Mapping(2, 2)))
        kept = found(mapping=Mapping(2, 2), keeps_size=True)["enlargement"]
        self.assertEqual(kept.words, "no other size was asked for, the picture is 2×")

    def test_what_does_not_line_up_is_told_alone(self) -> None:
        told = found(refused="too unlike its frame", residual=9.0, border=Border(left=5))
        self.assertEqual([*told], ["refused"])
        self.assertEqual(told["refused"].weight, SPOILS)


class Values(unittest.TestCase):
    CASES = (
        # rule, value's name, tolerance's value, beyond, its words
        ("exposure", "exposure", 0.06, 0.30, "0.30 EV brighter"),
        ("exposure", "exposure", -0.06, -0.30, "0.30 EV darker"),
        ("shadows", "shadows", 2.4, 9.0, "9 levels lighter than exposure alone"),
        ("mids", "mids", -2.4, -9.0, "9 levels darker than exposure alone"),
        ("lights", "lights", 2.4, 9.0, "9 levels lighter than exposure alone"),
        ("corners", "corners", -0.07, -0.4, "0.40 EV darker"),
        ("clipped", "clipped", 0.4, 2.0, "2.00 % of the values more than the frame has"),
        ("crushed", "crushed", 0.4, 2.0, "2.00 % of the values more than the frame has"),
        ("saturation", "saturation", 1.05, 1.3, "chroma raised by 0.30 of itself"),
        ("saturation", "saturation", 0.95, 0.7, "chroma lowered by 0.30 of itself"),
        ("sharpened", "sharpened", 1.04, 1.5, "fine structure has 1.50 times the contrast"),
        ("local-contrast", "local_contrast", 1.04, 1.2, "8 to 20 px has 1.20 times"),
        ("noise-raised", "noise_raised", 1.1, 1.6, "1.60 times the frame's"),
        ("added", "added", 0.09, 0.4, "0.40 times the energy"),
        ("finer", "finer", 1.4, 2.5, "2.5 times what a plain enlargement has"),
    )

    def test_each_value_is_held_to_its_tolerance_both_ways(self) -> None:
        for rule, name, kept, broken, words in self.CASES:
            with self.subTest(rule, value=broken):
                self.assertNotIn(rule, examined(**{name: within(kept)}))
                self.assertIn(words, examined(**{name: within(broken)})[rule].words)

    def test_one_that_can_only_be_too_much_is_never_too_little(self) -> None:
        for name in ("clipped", "crushed", "sharpened", "noise_raised", "added", "finer"):
            with self.subTest(name):
                self.assertEqual(examined(**{name: within(-5.0)}), {})

    def test_one_that_is_unsure_is_not_held_against_anybody(self) -> None:
        for rule, name, _, broken, _ in self.CASES:
            if not isinstance(broken, float):
                continue
            with self.subTest(rule, value=broken):
                self.assertNotIn(rule, examined(**{name: within(broken, 5 + 2 * abs(broken))}))

    def test_what_averaging_noise_does_by_itself_is_allowed(self) -> None:
        darker = within(-0.15, 0.01)
        self.assertIn("exposure", examined(exposure=darker))
        usual = {f"exposure{USUAL}": within(-0.12)}
        self.assertNotIn("exposure", examined(exposure=darker, **usual))

    def test_a_stop_of_exposure_is_not_the_same_picture_any_more(self) -> None:
        self.assertEqual(examined(exposure=within(0.9))["exposure"].weight, COLOURS)
        self.assertEqual(examined(exposure=within(1.2))["exposure"].weight, SPOILS)

    def test_a_cast_is_told_by_its_way(self) -> None:
        cases = (
            (3.0, 0.2, "greys moved 3.0 to red"),
            (-3.0, 0.2, "greys moved 3.0 to green"),
            (0.2, 3.0, "greys moved 3.0 to yellow"),
            (-0.2, -3.0, "greys moved 3.0 to blue"),
            (3.0, 4.0, "greys moved 5.0 to red and yellow"),
        )
        for a, b, words in cases:
            with self.subTest(words):
                told = examined(grey_a=within(a), grey_b=within(b))
                self.assertEqual(told["greys"].words, words)
        self.assertEqual(examined(grey_a=within(0.9), grey_b=within(-0.9)), {})
        self.assertEqual(examined(grey_a=within(5.0)), {})  # half a colour is none

    def test_a_hue_is_told_where_many_areas_show_it(self) -> None:
        hue = {"hue": "reds", "turned": 9.04, "de00": 3.0, "areas": 200}
        cases = ((hue, True), ({**hue, "turned": 4}, False), ({**hue, "de00": 1}, False))
        for told, expected in (*cases, ({**hue, "areas": 5}, False)):
            with self.subTest(told=told):
                breaches = found(examination=Examination(hues=[told]))
                self.assertEqual("hue" in breaches, expected)
        self.assertEqual(
            found(examination=Examination(hues=[hue]))["hue"].words, "reds turned +9.0°"
        )

    def test_what_a_tool_is_for_is_its_own_work(self) -> None:
        halo = {"overshoot": within(6, 1), "undershoot": within(1.5, 1)}
        told = examined(**halo)["halos"]
        self.assertEqual((told.weight, told.words), (COLOURS, "6.0 % beyond the light side"))
        own = examined(works=frozenset({"sharpen"}), **halo)["halos"]
        self.assertEqual(own.weight, HARMLESS)
        self.assertTrue(own.words.endswith("; its own work"))
        added = examined(works=frozenset({"sharpen"}), added=within(0.4))["added"]
        self.assertEqual(added.weight, COLOURS)  # that is nobody's work

    def test_noise_that_is_left_is_told_by_its_kind(self) -> None:
        blotches = {
            "blotches": within(8, 1),
            "blotch_codes": within(1.2),
            "blotch_fine": within(0.05),
        }
        self.assertIn("1.2 8-bit levels stays", examined(**blotches)["blotches"].words)
        # An even blend with the frame keeps the fine noise too.
        self.assertEqual(examined(**{**blotches, "blotch_fine": within(0.3)}), {})
        self.assertEqual(examined(smeared=within(0.5, 0.1))["smeared"].weight, HARMLESS)
        self.assertEqual(examined(smeared=within(0.65, 0.1)), {})
        for left, expected in (([0.1, 0.4, 0.9], True), ([0.8, 0.8, 0.9], False), ([0.1], False)):
            with self.subTest(left=left):
                noise = Examination(curves={"noise": {"left": left}})
                self.assertEqual("coarser" in found(examination=noise), expected)


class Words(unittest.TestCase):
    def test_a_size_is_never_told_as_if_it_lay_within_its_tolerance(self) -> None:
        words = Wording("{} more", "{} less", 1)
        cases = (
            (0.54, 0.5, "0.6 more"),  # rounded it would read 0.5
            (-0.54, 0.5, "0.6 less"),
            (0.56, 0.5, "0.6 more"),
            (2.0, 0.5, "2.0 more"),
        )
        for size, tolerance, told in cases:
            with self.subTest(size=size):
                self.assertEqual(words.of(size, tolerance), told)
        self.assertEqual(Wording("{} times").of(0.051, 0.05, at=1.0), "1.06 times")

    def test_each_rule_has_one_name(self) -> None:
        ids = [r.rule.id for r in OUTPUT_RULES]
        self.assertEqual(len(ids), len(set(ids)))
