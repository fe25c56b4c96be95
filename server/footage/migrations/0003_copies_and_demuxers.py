"""The copy that is played is known by its content type, and each clip by the demuxer that its file is opened with."""

from typing import Any

from django.db import migrations, models


def name_the_copies(apps: Any, _: Any) -> None:
    apps.get_model("footage", "Clip").objects.filter(proxied=True).update(played_as="video/mp4")


class Migration(migrations.Migration):
    dependencies = [("footage", "0002_work")]

    operations = [
        migrations.AddField(
            "clip",
            "demuxer",
            models.CharField(blank=True, default="", help_text="the one reader that its file is opened with", max_length=10),
            preserve_default=False,
        ),
        migrations.AddField(
            "clip",
            "played_as",
            models.CharField(
                blank=True,
                default="",
                help_text="the content type of the copy that is played; empty while there is none",
                max_length=40,
            ),
            preserve_default=False,
        ),
        migrations.RunPython(name_the_copies, migrations.RunPython.noop),
        migrations.RemoveField("clip", "proxied"),
    ]
