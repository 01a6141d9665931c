"""Releases may be asked about; an answer about a level says in what."""

from typing import Any

from django.db import migrations, models


def name_ways(apps: Any, editor: Any) -> None:
    """Until now one contender was brought to another in sharpness alone."""
    for row in apps.get_model("inquiries", "Inquiry").objects.filter(about="level"):
        if len(row.subject.split()) == 2:
            row.subject = f"{row.subject} sharpness"
            row.save(update_fields=["subject"])


class Migration(migrations.Migration):
    dependencies = [("inquiries", "0001_initial")]

    operations = [
        migrations.AlterField(
            model_name="inquiry",
            name="about",
            field=models.CharField(
                choices=[
                    ("visibility", "Visibility"),
                    ("strength", "Strength"),
                    ("level", "Level"),
                    ("order", "Order"),
                    ("releases", "Releases"),
                ],
                max_length=12,
            ),
        ),
        migrations.RunPython(name_ways, migrations.RunPython.noop),
    ]
