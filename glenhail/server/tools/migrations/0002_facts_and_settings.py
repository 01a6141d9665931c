"""Facts of tools and releases; settings with types in place of words."""

import django.db.models.deletion
from django.db import migrations, models


def words_to_settings(apps, schema_editor):
    Step = apps.get_model("tools", "Step")
    for step in Step.objects.exclude(words=""):
        step.settings = [{"name": "settings", "value": step.words, "unit": "", "automatic": False}]
        step.save(update_fields=["settings"])


def settings_to_words(apps, schema_editor):
    Step = apps.get_model("tools", "Step")
    for step in Step.objects.all():
        step.words = ", ".join(f"{s['name']} {s['value']} {s['unit']}".strip() for s in step.settings)[:300]
        step.save(update_fields=["words"])


class Migration(migrations.Migration):
    dependencies = [("tools", "0001_initial")]

    operations = [
        migrations.RenameField("step", "settings", "words"),
        migrations.AddField("step", "settings", models.JSONField(default=list)),
        migrations.RunPython(words_to_settings, settings_to_words),
        migrations.RemoveField("step", "words"),
        migrations.AddField("step", "strength", models.FloatField(null=True)),
        migrations.AddField("step", "limit", models.CharField(blank=True, max_length=120)),
        migrations.AddField("step", "part", models.JSONField(null=True)),
        migrations.AddField("treatment", "feed", models.CharField(default="16-bit TIFF", max_length=20)),
        migrations.AddField("treatment", "saved_as", models.CharField(blank=True, max_length=80)),
        migrations.AddConstraint(
            "treatment",
            models.UniqueConstraint(
                fields=["bench", "saved_as"], condition=~models.Q(saved_as=""), name="one_saved_treatment_per_name"
            ),
        ),
        migrations.AddField("tool", "kind", models.CharField(blank=True, max_length=10, choices=[("denoise", "Denoise"), ("sharpen", "Sharpen"), ("enlarge", "Enlarge"), ("develop", "Develop"), ("several", "Several")])),
        migrations.AddField("tool", "maker", models.CharField(blank=True, max_length=120)),
        migrations.AddField("tool", "licence", models.CharField(blank=True, max_length=12, choices=[("free", "Free"), ("one-off", "One Off"), ("subscription", "Subscription"), ("trial", "Trial")])),
        migrations.AddField("tool", "platforms", models.JSONField(default=list)),
        migrations.AddField("tool", "ways", models.JSONField(default=list)),
        migrations.AddField("tool", "takes", models.CharField(default="any", max_length=10, choices=[("any", "Any"), ("raw only", "Raw Only")])),
        migrations.AddField("tool", "largest", models.FloatField(null=True)),
        migrations.AddField("tool", "batch", models.BooleanField(null=True)),
        migrations.AddField("tool", "notes", models.TextField(blank=True)),
        migrations.AddField("tool", "disclosure", models.CharField(blank=True, max_length=10, choices=[("bought", "Bought"), ("lent", "Lent"), ("given", "Given"), ("affiliate", "Affiliate")])),
        migrations.AddField("release", "released", models.DateField(null=True)),
        migrations.AddField("release", "news", models.TextField(blank=True)),
        migrations.AddField("release", "modes", models.JSONField(default=list)),
        migrations.AddField("release", "raw_modes", models.JSONField(default=list)),
        migrations.AddField("release", "strength", models.BooleanField(default=True)),
        migrations.AddField("release", "settings", models.JSONField(default=list)),
        migrations.AddField("release", "command", models.JSONField(null=True)),
        migrations.AddField("release", "method", models.CharField(blank=True, max_length=20)),
        migrations.CreateModel(
            name="Price",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("what", models.CharField(max_length=60)),
                ("amount", models.DecimalField(decimal_places=2, max_digits=10)),
                ("currency", models.CharField(max_length=3)),
                ("checked", models.DateField()),
                ("tool", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="prices", to="tools.tool")),
            ],
            options={"ordering": ["pk"]},
        ),
    ]
