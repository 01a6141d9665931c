"""Sharpeners take a gain, a reach and a floor instead of an amount in per cent, a radius and a threshold."""

from django.db import migrations

SHARPENERS = ("unsharp", "laplacian", "high_pass")
LOWEST_GAIN, PER_CENT = 0.05, 100
NAMES = {"amount": "gain", "radius": "reach", "threshold": "floor"}
UNITS = {"gain": "x", "reach": "px", "floor": "8-bit levels"}


def as_gain(setting):
    """One setting under its new name; what was 1 to 5 % becomes the lowest gain there is."""
    name = NAMES.get(setting["name"])
    if name is None:
        return setting
    value = setting["value"]
    if name == "gain" and isinstance(value, int | float):
        value = max(LOWEST_GAIN, value / PER_CENT)
    return setting | {"name": name, "value": value, "unit": UNITS[name]}


def to_gain(apps, schema_editor):
    Step = apps.get_model("tools", "Step")
    for step in Step.objects.filter(release__method__in=SHARPENERS):
        step.settings = [as_gain(s) for s in step.settings]
        step.save(update_fields=["settings"])


class Migration(migrations.Migration):
    dependencies = [("tools", "0002_facts_and_settings")]
    operations = [migrations.RunPython(to_gain, migrations.RunPython.noop)]
