"""What the worker does with a cut is a job."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models


def to_jobs(apps: Any, _: Any) -> None:
    """A job for each that the worker was given, as it stands; what it was at is asked for again."""
    jobs = apps.get_model("jobs", "Job").objects
    for row in apps.get_model("reviews", "Cut").objects.exclude(work="none"):
        under_way = row.work in ("waiting", "working")
        row.job = jobs.create(
            owner_id=row.match.owner_id,
            kind="cut a clip",
            state="failed" if under_way else row.work,
            progress=row.progress,
            trouble="Jurata was brought up to date meanwhile. Ask for it again." if under_way else row.trouble,
        )
        row.save(update_fields=["job"])


class Migration(migrations.Migration):
    dependencies = [("reviews", "0002_answers_by_link"), ("jobs", "0001_initial")]

    operations = [
        migrations.RenameField("cut", "job", "queued"),
        migrations.AddField(
            "cut",
            "job",
            models.OneToOneField(
                help_text="the cutting of it",
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="cut",
                to="jobs.job",
            ),
        ),
        migrations.RunPython(to_jobs, migrations.RunPython.noop),
        migrations.RemoveField("cut", "queued"),
        migrations.RemoveField("cut", "work"),
        migrations.RemoveField("cut", "progress"),
        migrations.RemoveField("cut", "trouble"),
    ]
