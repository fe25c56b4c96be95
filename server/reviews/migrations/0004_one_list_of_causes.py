"""The causes of errors and those of marks are one list; three words of the old one are shorter in it."""

from typing import Any

from django.db import migrations

NOW = {"head position": "head", "hands in the wrong fight": "hands", "rules not known": "rules"}


def shorten(apps: Any, _: Any) -> None:
    for name, field in (("Remark", "causes"), ("Causes", "words")):
        for row in apps.get_model("reviews", name).objects.all():
            words = [NOW.get(word, word) for word in getattr(row, field)]
            if words != getattr(row, field):
                setattr(row, field, list(dict.fromkeys(words)))
                row.save(update_fields=[field])


class Migration(migrations.Migration):
    dependencies = [("reviews", "0003_jobs")]
    operations = [migrations.RunPython(shorten, migrations.RunPython.noop)]
