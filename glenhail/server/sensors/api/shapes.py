"""What was read of sensors, as the page shows it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.core.sensor.comparison import At, Basis

STATES = [(s, s) for s in ("none", "waiting", "ready", "old", "failed")]
BASES = [(b.value, b.value) for b in Basis]
SIZES = [(a.value, a.value) for a in At]


def bounds(**more: Any) -> serializers.ListField:
    """A value and its 95 % bounds, in this order."""
    child = serializers.FloatField()
    return serializers.ListField(child=child, min_length=3, max_length=3, **more)


def words() -> serializers.ListField:
    return serializers.ListField(child=serializers.CharField())


class RangesOut(serializers.Serializer[Any]):
    """EV down to ratios of 1 and 10, of a pixel and of a print's."""

    one = bounds(allow_null=True)
    ten = bounds(allow_null=True)
    one_of_print = bounds(allow_null=True)
    ten_of_print = bounds(allow_null=True)


class SensorIsoOut(serializers.Serializer[Any]):
    """A sensor at one ISO; null where its frames do not carry it, with the reason."""

    iso = serializers.FloatField()
    files = words()
    blocks = serializers.IntegerField()
    gain = bounds(allow_null=True)
    read_noise = bounds(allow_null=True)
    read_codes = bounds(allow_null=True)
    reason = serializers.CharField()
    top = bounds(allow_null=True)
    full_well = bounds(allow_null=True)
    no_well = serializers.CharField()
    snr = bounds(allow_null=True)
    ranges = RangesOut()
    response = bounds(allow_null=True)
    dark = bounds(allow_null=True)
    rows = serializers.FloatField(allow_null=True)
    columns = serializers.FloatField(allow_null=True)
    hot = serializers.FloatField(allow_null=True)
    no_pattern = serializers.CharField()
    band_rows = serializers.FloatField(allow_null=True)
    band_columns = serializers.FloatField(allow_null=True)
    black_moved = serializers.FloatField(allow_null=True)
    black_wanders = serializers.FloatField(allow_null=True)
    cut = serializers.FloatField()
    moved = serializers.FloatField()
    doubts = words()


class GainStepOut(serializers.Serializer[Any]):
    """Between two ISO values a body changes to another gain stage."""

    below = serializers.FloatField()
    above = serializers.FloatField()


class LiftCostOut(serializers.Serializer[Any]):
    """Lifted by so many EV from an ISO: stops more light than at the higher one."""

    iso = serializers.FloatField()
    to = serializers.FloatField()
    ev = serializers.FloatField()
    stops = bounds()


class StatedNoiseOut(serializers.Serializer[Any]):
    """Measured noise as a body is described by it: full well at ISO 100, electrons."""

    full_well = serializers.FloatField()
    read_noise = serializers.FloatField()
    second_gain_iso = serializers.FloatField(allow_null=True)
    second_read_noise = serializers.FloatField(allow_null=True)


class SensorFactsOut(serializers.Serializer[Any]):
    """A sensor over ISO, and what its read noise betrays, in words."""

    isos = SensorIsoOut(many=True)
    steps = GainStepOut(many=True)
    nothing_gained_from = serializers.FloatField(allow_null=True)
    lifting = LiftCostOut(many=True)
    said = serializers.CharField()
    # What was kept before it was told has none, until it is read again.
    stated = StatedNoiseOut(allow_null=True, default=None)


class SpotReadingOut(serializers.Serializer[Any]):
    """A spot at one ISO: brightness as a share of saturation, a pixel's signal to
    noise, and the cast of its shadows against where it had most light, EV.
    """

    iso = serializers.FloatField()
    files = words()
    light = bounds()
    snr = bounds()
    red = serializers.FloatField()
    blue = serializers.FloatField()
    hue = serializers.CharField(allow_blank=True)


class SpotSeriesOut(serializers.Serializer[Any]):
    left_out = words()
    readings = SpotReadingOut(many=True)


class LiftOut(serializers.Serializer[Any]):
    """By how many stops a body is brighter than the first at its ISO, and which ISO
    would make it as bright.
    """

    iso = serializers.FloatField()
    stops = bounds()
    differ = serializers.FloatField()
    exposure = serializers.FloatField(allow_null=True)
    effective_iso = serializers.FloatField()


class AveragingOut(serializers.Serializer[Any]):
    """How many times as large ratios become at a smaller size: for white noise, and by
    the noise there is.
    """

    white = serializers.FloatField()
    measured = bounds()


class SeriesBodyOut(serializers.Serializer[Any]):
    """A body of a series."""

    name = serializers.CharField()
    letter = serializers.CharField()
    pixels = serializers.IntegerField()
    common = AveragingOut()
    print = AveragingOut()
    said = words()
    lifts = LiftOut(many=True)
    spots = SpotSeriesOut(many=True)
    facts = SensorFactsOut()


class StopOut(serializers.Serializer[Any]):
    """How far ahead at an ISO; the other's ISO that is as noisy, and the nearest shot."""

    iso = serializers.FloatField()
    stops = bounds()
    alike = serializers.FloatField()
    shot = serializers.FloatField()


class AheadOut(serializers.Serializer[Any]):
    """How far one body is ahead of another at a spot, and in words."""

    one = serializers.IntegerField()
    other = serializers.IntegerField()
    spot = serializers.IntegerField()
    basis = serializers.ChoiceField(choices=BASES)
    at = serializers.ChoiceField(choices=SIZES)
    said = serializers.CharField()
    stops = StopOut(many=True)


class StopReasonOut(serializers.Serializer[Any]):
    name = serializers.CharField()
    stops = serializers.FloatField()


class WhyOut(serializers.Serializer[Any]):
    """What an advantage at one ISO is made of."""

    one = serializers.IntegerField()
    other = serializers.IntegerField()
    spot = serializers.IntegerField()
    iso = serializers.FloatField()
    reasons = StopReasonOut(many=True)


class SeriesSpotOut(serializers.Serializer[Any]):
    name = serializers.CharField()
    role = serializers.CharField()
    patch = serializers.IntegerField()


class SeriesFoundOut(serializers.Serializer[Any]):
    """Bodies of one scene against each other."""

    bodies = SeriesBodyOut(many=True)
    spots = SeriesSpotOut(many=True)
    ahead = AheadOut(many=True)
    why = WhyOut(many=True)
    notes = words()


class SpeedAtOut(serializers.Serializer[Any]):
    """Saturation-based speed at an ISO, and by how many EV it is above that; null with
    the reason.
    """

    iso = serializers.FloatField()
    speed = bounds(allow_null=True)
    above = bounds(allow_null=True)
    reason = serializers.CharField(allow_blank=True)


class BodySpeedsOut(serializers.Serializer[Any]):
    body = serializers.CharField()
    said = serializers.CharField()
    isos = SpeedAtOut(many=True)


class MeteredSpotOut(serializers.Serializer[Any]):
    """A patch's luminance, cd/m2, and T-numbers by body."""

    patch = serializers.IntegerField()
    luminance = serializers.FloatField()
    t_numbers = serializers.DictField(child=serializers.FloatField())


class MeteredSpotIn(MeteredSpotOut):
    """The same, as it is told."""


class SeriesOut(serializers.Serializer[Any]):
    """What is known of a study's series, and how current that is: ``none`` was asked
    for, it is ``waiting`` to be read, ``ready``, ``old`` since something changed, or
    ``failed``.
    """

    state = serializers.ChoiceField(choices=STATES)
    problem = serializers.CharField(allow_blank=True)
    taken = serializers.DateTimeField(allow_null=True)
    found = SeriesFoundOut(allow_null=True)
    metered = MeteredSpotOut(allow_null=True)
    speeds = BodySpeedsOut(many=True)


class SeriesBodyAtHandOut(serializers.Serializer[Any]):
    """A body that shot a scene: at which ISO values, in how many frames."""

    body = serializers.CharField()
    isos = serializers.ListField(child=serializers.FloatField())
    frames = serializers.IntegerField()


class SeriesSceneOut(serializers.Serializer[Any]):
    """A scene with raw files, its bodies, and in words what is missing or doubled."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    bodies = SeriesBodyAtHandOut(many=True)
    doubts = words()


class SeriesTakeIn(serializers.Serializer[Any]):
    """The scene, and bodies by name: the one to hold others against first."""

    scene = serializers.IntegerField()
    bodies = serializers.ListField(
        child=serializers.CharField(max_length=80), min_length=2, max_length=12
    )


class SensorMeasuredOut(serializers.Serializer[Any]):
    """A body's sensor by its raw files, and how current that is; ``frames`` there are
    now.
    """

    state = serializers.ChoiceField(choices=STATES)
    problem = serializers.CharField(allow_blank=True)
    taken = serializers.DateTimeField(allow_null=True)
    frames = serializers.IntegerField()
    alone = words()
    found = SensorFactsOut(allow_null=True)
