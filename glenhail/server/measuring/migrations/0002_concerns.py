"""Whether a measure concerns its output at all, which was told by its reason's words."""

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


class Migration(migrations.Migration):
    dependencies = [("measuring", "0001_initial")]

    operations = [
        migrations.AddField("reading", "concerns", models.BooleanField(default=True)),
        migrations.RunPython(mark_what_does_not_concern, migrations.RunPython.noop),
    ]
