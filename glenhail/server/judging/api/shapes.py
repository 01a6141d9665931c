"""What came of a sitting, as the API shows it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.core.judging.results import SpokenFor

PROSPECT_LIMITS = {
    "contenders": (1, 24),
    "spots": (1, 300),
    "count": (1, 400),
    "judges": (1, 500),
}


class IntervalOut(serializers.Serializer[Any]):
    """An estimate with its 95 % bounds."""

    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class ChosenStandingOut(serializers.Serializer[Any]):
    """``worth`` is a logarithm; ``chance`` to be chosen over the others, where a
    difference is seen.
    """

    contender = serializers.CharField()
    worth = IntervalOut()
    chance = IntervalOut()


class DuelOut(serializers.Serializer[Any]):
    """Two contenders, the better one first."""

    better = serializers.CharField()
    worse = serializers.CharField()
    chance = IntervalOut()
    no_difference = serializers.FloatField()
    told_apart = serializers.BooleanField()


class ResultsOut(serializers.Serializer[Any]):
    """What answers carry, the best contender first; ``groups`` can not be told apart."""

    standings = ChosenStandingOut(many=True)
    duels = DuelOut(many=True)
    groups = serializers.ListField(child=serializers.ListField(child=serializers.CharField()))
    winner = serializers.CharField(allow_null=True)
    spread = serializers.ChoiceField(choices=[s.value for s in SpokenFor])
    judges = serializers.IntegerField()
    scenes = serializers.IntegerField()
    answers = serializers.IntegerField()
    no_difference = serializers.FloatField()
    lean = IntervalOut()
    said = serializers.CharField()
    speaks = serializers.CharField()


class RoleResultsOut(serializers.Serializer[Any]):
    role = serializers.CharField()
    results = ResultsOut(allow_null=True)


class SceneResultsOut(serializers.Serializer[Any]):
    scene = serializers.CharField()
    results = ResultsOut(allow_null=True)


class SpotOutcomeOut(serializers.Serializer[Any]):
    """What came of one spot; nothing where it was not shown."""

    results = ResultsOut(allow_null=True)


class GradeOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    grade = IntervalOut()
    judges = serializers.IntegerField()


class JudgeOut(serializers.Serializer[Any]):
    """A judge held against themself; shares where they were asked."""

    number = serializers.IntegerField()
    name = serializers.CharField()
    guest = serializers.BooleanField()
    answers = serializers.IntegerField()
    places = serializers.IntegerField()
    median_s = serializers.FloatField(allow_null=True)
    screen = serializers.DictField(child=serializers.FloatField())
    repeats = IntervalOut(allow_null=True)
    equal = IntervalOut(allow_null=True)
    obvious = IntervalOut(allow_null=True)
    left = IntervalOut(allow_null=True)
    consistence = serializers.FloatField(allow_null=True)
    reasons = serializers.ListField(child=serializers.CharField())


class PartingOut(serializers.Serializer[Any]):
    """Where people chose one and the measure says the other."""

    spot = serializers.IntegerField()
    chosen = serializers.CharField()
    measured = serializers.CharField()
    share = IntervalOut()
    apart = serializers.FloatField()


class BesideOut(serializers.Serializer[Any]):
    """A measure beside the choices: ``gamma`` is 1 where its order is always theirs."""

    measure = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.CharField(allow_blank=True)
    gamma = serializers.FloatField()
    interval = IntervalOut(allow_null=True)
    choices = serializers.IntegerField()
    threshold = serializers.FloatField(allow_null=True)
    same_below = IntervalOut(allow_null=True)
    same_above = IntervalOut(allow_null=True)
    partings = PartingOut(many=True)


class ReasonOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    kind = serializers.CharField()
    times = serializers.IntegerField()


class OutcomeOut(serializers.Serializer[Any]):
    """What came of a sitting."""

    overall = ResultsOut(allow_null=True)
    by_role = RoleResultsOut(many=True)
    by_scene = SceneResultsOut(many=True)
    grades = GradeOut(many=True)
    judges = JudgeOut(many=True)
    left_out = serializers.IntegerField()
    alpha = serializers.FloatField(allow_null=True)
    beside = BesideOut(many=True)
    reasons = ReasonOut(many=True)


class ProspectOut(serializers.Serializer[Any]):
    """What a sitting can tell; ``tells`` is the smallest share that the answers to one
    pair tell from its opposite.
    """

    answers = serializers.IntegerField()
    decisive = serializers.IntegerField()
    of_a_pair = serializers.IntegerField()
    tells = serializers.FloatField(allow_null=True)
    needed_67 = serializers.IntegerField()
    needed_60 = serializers.IntegerField()
    seconds = serializers.IntegerField()
