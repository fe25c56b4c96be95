"""What was said of errors whose kinds have another name now stays with them."""

from typing import Any

from django.db import migrations

NOW = {"gripped-": "grip_unbroken-", "unused-": "chance_missed-", "idle-": "stuck-"}


def renamed(key: str) -> str:
    return next((now + key.removeprefix(was) for was, now in NOW.items() if key.startswith(was)), key)


def rename(apps: Any, _: Any) -> None:
    for model, fields in (("Remark", ("key", "came_from")), ("Cut", ("key",)), ("Tick", ("key",)), ("Answer", ("key",))):
        for row in apps.get_model("reviews", model).objects.all():
            changed = {name: now for name in fields if (now := renamed(getattr(row, name))) != getattr(row, name)}
            if changed:
                apps.get_model("reviews", model).objects.filter(pk=row.pk).update(**changed)


class Migration(migrations.Migration):
    dependencies = [("reviews", "0004_one_list_of_causes")]
    operations = [migrations.RunPython(rename, migrations.RunPython.noop)]
