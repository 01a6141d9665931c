"""Whether a measure concerns its output at all, which was told by its reason's words; and
levels by the word that pages have for them.
"""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

# As these reasons were worded until now.
NO_CONCERN = [
    "this output is not enlarged",
    "the truth is no larger than the frame: nothing lies beyond what the frame could hold",
]


def mark_what_does_not_concern(apps: Any, schema: Any) -> None:
    readings = apps.get_model("measuring", "Reading").objects
    readings.filter(reason__in=NO_CONCERN).update(concerns=False)


def call_levels_so(apps: Any, schema: Any) -> None:
    apps.get_model("measuring", "Reading").objects.filter(unit="codes").update(unit="8-bit levels")


class Migration(migrations.Migration):
    dependencies = [("measuring", "0001_initial")]

    operations = [
        migrations.AddField("reading", "concerns", models.BooleanField(default=True)),
        migrations.RunPython(mark_what_does_not_concern, migrations.RunPython.noop),
        migrations.RunPython(call_levels_so, migrations.RunPython.noop),
    ]
