"""What was asked of a whole study, as the pages show it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.core.level.way import Way
from glenhail.core.seeing.visible import Seen
from glenhail.server.inquiries.models import About
from glenhail.server.sensors.api.shapes import STATES, bounds, words

SEEN = [(s.value, s.value) for s in Seen]
ABOUT = About.choices
WAYS = [(w.value, w.value) for w in Way]


class InquirySaidOut(serializers.Serializer[Any]):
    """An answer in words; ``current`` is whether it is of the study as it is now."""

    about = serializers.ChoiceField(choices=ABOUT)
    subject = serializers.CharField(allow_blank=True)
    said = words()
    current = serializers.BooleanField()


class InquiryStateOut(serializers.Serializer[Any]):
    """How current an answer is: ``none`` was asked for, it is ``waiting``, ``ready``,
    ``old`` since something changed, or ``failed``.
    """

    state = serializers.ChoiceField(choices=STATES)
    problem = serializers.CharField(allow_blank=True)
    taken = serializers.DateTimeField(allow_null=True)


class BoundedValueOut(serializers.Serializer[Any]):
    """A value and its 95 % bounds."""

    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class ShareRectOut(serializers.Serializer[Any]):
    """A place in shares of a picture's width and height."""

    x = serializers.FloatField()
    y = serializers.FloatField()
    w = serializers.FloatField()
    h = serializers.FloatField()


class SeenCellOut(serializers.Serializer[Any]):
    """One output in one use: shares of the picture that differ by 1 and by 3 CIEDE2000
    or more as seen, the 99th percentile, the highest mean over a place, the mean of
    FLIP. ``key`` is the address of its pictures, ``problem`` why there are none.
    """

    letter = serializers.CharField()
    frame = serializers.IntegerField()
    use = serializers.CharField()
    key = serializers.CharField()
    seen = serializers.ChoiceField(choices=SEEN)
    share = serializers.FloatField()
    strong = serializers.FloatField()
    at = serializers.FloatField()
    most = serializers.FloatField()
    place = ShareRectOut()
    flip = serializers.FloatField()
    same = serializers.BooleanField()
    problem = serializers.CharField(allow_blank=True)


class SeenMatrixOut(serializers.Serializer[Any]):
    """A contender in a use by the frame on which most is seen, and on how many of its
    frames so.
    """

    letter = serializers.CharField()
    use = serializers.CharField()
    seen = serializers.ChoiceField(choices=SEEN)
    frames = serializers.IntegerField()
    of = serializers.IntegerField()
    frame = serializers.IntegerField()
    share = serializers.FloatField()


class SeenUseOut(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()
    short = serializers.CharField()


class SeenFrameOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    name = serializers.CharField()


class VisibilityFoundOut(serializers.Serializer[Any]):
    """Contenders by uses, held against one of them."""

    against = serializers.CharField()
    matched = serializers.CharField(allow_blank=True)
    uses = SeenUseOut(many=True)
    frames = SeenFrameOut(many=True)
    cells = SeenCellOut(many=True)
    matrix = SeenMatrixOut(many=True)
    said = words()


class VisibilityOut(InquiryStateOut):
    found = VisibilityFoundOut(allow_null=True)


class StrengthStepOut(serializers.Serializer[Any]):
    """How far a setting goes from the frame (0) to full strength (1), with bounds, and
    how evenly; shares of the plain places that are done and untouched.
    """

    setting = serializers.FloatField()
    share = BoundedValueOut()
    spread = serializers.FloatField()
    even = serializers.BooleanField()
    cleaned = serializers.FloatField(allow_null=True)
    untouched = serializers.FloatField(allow_null=True)


class StrengthCellOut(StrengthStepOut):
    """One output of a series, with the address of its map."""

    key = serializers.CharField()
    letter = serializers.CharField()
    frame = serializers.IntegerField()
    name = serializers.CharField()


class StrengthMemberOut(serializers.Serializer[Any]):
    setting = serializers.FloatField()
    letter = serializers.CharField()


class StrengthPointOut(serializers.Serializer[Any]):
    setting = serializers.FloatField()
    value = bounds()


class StrengthCurveOut(serializers.Serializer[Any]):
    measure = serializers.CharField()
    points = StrengthPointOut(many=True)


class NoiseStepOut(serializers.Serializer[Any]):
    """Noise that a setting leaves, as a share of the frame's."""

    setting = serializers.FloatField()
    noise = BoundedValueOut()


class StrengthSecondsOut(serializers.Serializer[Any]):
    """Seconds for each megapixel."""

    setting = serializers.FloatField()
    seconds = serializers.FloatField()


class StrengthSeriesOut(serializers.Serializer[Any]):
    """One treatment over one setting."""

    title = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.CharField(allow_blank=True)
    members = StrengthMemberOut(many=True)
    steps = StrengthStepOut(many=True)
    noise = NoiseStepOut(many=True)
    curves = StrengthCurveOut(many=True)
    seconds = StrengthSecondsOut(many=True)
    problems = words()
    advice = serializers.CharField(allow_blank=True)
    said = words()


class MatchedSettingOut(serializers.Serializer[Any]):
    """The other's setting that leaves as much noise, and its bounds."""

    setting = serializers.FloatField()
    other = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class MatchedSeriesOut(serializers.Serializer[Any]):
    one = serializers.CharField()
    other = serializers.CharField()
    units = words()
    rows = MatchedSettingOut(many=True)
    said = serializers.CharField()


class SeriesUseOut(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()


class StrengthFoundOut(serializers.Serializer[Any]):
    """All strength series of a study."""

    use = SeriesUseOut()
    series = StrengthSeriesOut(many=True)
    cells = StrengthCellOut(many=True)
    matched = MatchedSeriesOut(many=True)
    said = words()


class StrengthOut(InquiryStateOut):
    found = StrengthFoundOut(allow_null=True)


class StrengthIn(serializers.Serializer[Any]):
    """The use at which noise shall not be seen, by its id."""

    use = serializers.CharField(max_length=60, default="web")


class UnsharpPairOut(serializers.Serializer[Any]):
    """Radius, px; amount, 1 is 100 %; and what is left of the ratio, weighted."""

    reach = serializers.FloatField()
    gain = serializers.FloatField()
    left = serializers.FloatField()


class UnsharpFitOut(serializers.Serializer[Any]):
    """The best pair with intervals, and others that do as well."""

    best = UnsharpPairOut()
    reach = BoundedValueOut()
    gain = BoundedValueOut()
    valley = UnsharpPairOut(many=True)
    reached = serializers.BooleanField()


class LevelReadingOut(serializers.Serializer[Any]):
    """A measure of one patch: as it was, as it was made, and of the other."""

    measure = serializers.CharField()
    patch = serializers.CharField()
    unit = serializers.CharField(allow_blank=True)
    before = serializers.FloatField(allow_null=True)
    made = serializers.FloatField(allow_null=True)
    other = serializers.FloatField(allow_null=True)


class LevelFrameOut(serializers.Serializer[Any]):
    """One frame: the ratio of both transfers by cycles a pixel and what was made of it;
    the ``method`` that does so with its ``values``; ``key`` is the address of its
    crops, of the patch ``shown``.
    """

    frame = serializers.IntegerField()
    name = serializers.CharField()
    key = serializers.CharField(allow_blank=True)
    shown = serializers.CharField(allow_blank=True)
    problem = serializers.CharField(allow_blank=True)
    said = serializers.CharField()
    frequency = serializers.ListField(child=serializers.FloatField())
    ratio = serializers.ListField(child=serializers.FloatField())
    fitted = serializers.ListField(child=serializers.FloatField())
    fit = UnsharpFitOut(allow_null=True, source="numbers.fit", default=None)
    method = serializers.CharField(allow_blank=True)
    values = serializers.DictField()
    readings = LevelReadingOut(many=True)


class LevelFoundOut(serializers.Serializer[Any]):
    """One contender brought to another's level."""

    one = serializers.CharField()
    other = serializers.CharField()
    way = serializers.ChoiceField(choices=WAYS)
    cells = LevelFrameOut(many=True)
    said = words()


class LevelOut(InquiryStateOut):
    found = LevelFoundOut(allow_null=True)


class LevelIn(serializers.Serializer[Any]):
    """Who is brought to whose level, by letter, and in what."""

    one = serializers.CharField(max_length=1)
    other = serializers.CharField(max_length=1)
    way = serializers.ChoiceField(choices=WAYS, default=Way.SHARPNESS.value)


class OrderMemberOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    order = serializers.CharField()


class OrderPlaceOut(serializers.Serializer[Any]):
    """One measure on one patch: what the first order is against the other."""

    measure = serializers.CharField()
    title = serializers.CharField()
    place = serializers.CharField()
    frame = serializers.CharField()
    one = serializers.FloatField()
    other = serializers.FloatField()
    answer = serializers.CharField()


class OrderPairOut(serializers.Serializer[Any]):
    """Two orders against each other, by letter."""

    one = serializers.CharField()
    other = serializers.CharField()
    places = OrderPlaceOut(many=True)
    said = serializers.CharField()


class OrderFoundOut(serializers.Serializer[Any]):
    """The same steps in every order: groups of contenders, and pairs against the first."""

    groups = serializers.ListField(child=OrderMemberOut(many=True))
    pairs = OrderPairOut(many=True)
    said = words()


class OrderOut(InquiryStateOut):
    found = OrderFoundOut(allow_null=True)


class ReleasePairOut(serializers.Serializer[Any]):
    """Letters of an earlier and a later release of one treatment."""

    earlier = serializers.CharField()
    later = serializers.CharField()


class ReleaseCellOut(serializers.Serializer[Any]):
    """One frame: whether both files hold the same pixels, the share that differs by one
    8-bit level or more, the root mean square difference of the whole and of the place
    where it is highest (8-bit levels), how far content lies apart (px), both sizes
    where they differ. ``key`` is the address of its pictures.
    """

    frame = serializers.IntegerField()
    name = serializers.CharField()
    key = serializers.CharField()
    same = serializers.BooleanField()
    changed = serializers.FloatField()
    rms = serializers.FloatField()
    most = serializers.FloatField()
    moved = serializers.FloatField()
    sizes = serializers.ListField(
        child=serializers.ListField(child=serializers.IntegerField()), allow_null=True
    )
    problem = serializers.CharField(allow_blank=True)


class ReleaseRowOut(serializers.Serializer[Any]):
    """The later release by one measure: places where it is visibly better, worse,
    other; how many more differ measurably, and how many not at all.
    """

    measure = serializers.CharField()
    title = serializers.CharField()
    better = words()
    worse = words()
    other = words()
    unseen = serializers.IntegerField()
    none = serializers.IntegerField()


class RunsSpreadOut(serializers.Serializer[Any]):
    """The middle of several runs, with the least and the greatest."""

    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class ReleaseCostOut(serializers.Serializer[Any]):
    """Seconds a megapixel and bytes of an output, of so many runs."""

    seconds = RunsSpreadOut(allow_null=True)
    size = RunsSpreadOut(allow_null=True)
    by_hand = serializers.BooleanField()
    runs = serializers.IntegerField()


class ReleasesFoundOut(serializers.Serializer[Any]):
    """One release against the one before it; frames most changed first; ``costs`` of
    the earlier and the later, null where nothing was timed.
    """

    earlier = serializers.CharField()
    later = serializers.CharField()
    cells = ReleaseCellOut(many=True)
    rows = ReleaseRowOut(many=True)
    costs = serializers.ListField(child=ReleaseCostOut(allow_null=True))
    said = words()


class ReleasesOut(InquiryStateOut):
    """``pairs`` are those of one treatment; ``earlier`` and ``later`` whose answer it
    is, empty where there is none to ask about.
    """

    pairs = ReleasePairOut(many=True)
    earlier = serializers.CharField(allow_blank=True)
    later = serializers.CharField(allow_blank=True)
    found = ReleasesFoundOut(allow_null=True)


class BetweenOut(serializers.Serializer[Any]):
    """Letters under which what lies between was entered."""

    letters = words()


class WorthRowOut(serializers.Serializer[Any]):
    """A contender: what a picture costs (null where that can not be told) and how that
    was reckoned, seconds that a batch waits, both in words as well, bytes of an output,
    medians of noise and of detail kept with their intervals.
    """

    letter = serializers.CharField()
    amount = serializers.FloatField(allow_null=True)
    currency = serializers.CharField(allow_blank=True)
    said = serializers.CharField()
    costs = serializers.CharField()
    seconds = serializers.FloatField(allow_null=True)
    waits = serializers.CharField()
    by_hand = serializers.BooleanField()
    size_bytes = serializers.FloatField(allow_null=True)
    noise = BoundedValueOut(allow_null=True)
    detail = BoundedValueOut(allow_null=True)


class WorthOut(serializers.Serializer[Any]):
    """Price, speed and what is got for it, at so many pictures a year, years of use,
    pictures in a batch and megapixels.
    """

    pictures = serializers.FloatField()
    years = serializers.FloatField()
    batch = serializers.FloatField()
    megapixels = serializers.FloatField()
    rows = WorthRowOut(many=True)
    machines = words()


class VisibilityIn(serializers.Serializer[Any]):
    """Whom others are held against, by letter; with ``matched`` light, or as made."""

    against = serializers.CharField(max_length=1)
    matched = serializers.BooleanField(default=False)
