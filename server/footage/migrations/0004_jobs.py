"""What the worker does with a clip is a job."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models


def to_jobs(apps: Any, _: Any) -> None:
    """A job for each that the worker was given, as it stands; what it was at is asked for again."""
    jobs = apps.get_model("jobs", "Job").objects
    for row in apps.get_model("footage", "Clip").objects.exclude(work="none"):
        under_way = row.work in ("waiting", "working")
        row.job = jobs.create(
            owner_id=row.owner_id,
            kind="prepare a clip",
            state="failed" if under_way else row.work,
            progress=row.progress,
            trouble="Jurata was brought up to date meanwhile. Ask for it again." if under_way else row.trouble,
        )
        row.save(update_fields=["job"])


class Migration(migrations.Migration):
    dependencies = [("footage", "0003_copies_and_demuxers"), ("jobs", "0001_initial")]

    operations = [
        migrations.RenameField("clip", "job", "queued"),
        migrations.AddField(
            "clip",
            "job",
            models.OneToOneField(
                help_text="the preparing of the clip",
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="clip",
                to="jobs.job",
            ),
        ),
        migrations.RunPython(to_jobs, migrations.RunPython.noop),
        migrations.RemoveField("clip", "queued"),
        migrations.RemoveField("clip", "work"),
        migrations.RemoveField("clip", "progress"),
        migrations.RemoveField("clip", "trouble"),
    ]
