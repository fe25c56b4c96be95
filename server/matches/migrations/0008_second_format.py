"""Observations in the words of the second version of the match log, and matches without a length."""

import re
import uuid

from django.db import migrations, models

WHOLE = re.compile(r"[+-]?[0-9]+")
"""A whole number as a text: in the second version it would be a place in the file, so it becomes ``#n``."""


def later(body):
    """One observation of the first version in the words of the second."""
    if body is None:
        return None
    body = dict(body)
    if "id" in body and WHOLE.fullmatch(str(body["id"])):
        body["id"] = f"#{body['id']}"
    if body.get("kind") == "near":
        move = body.pop("claim", None)
        body |= {"kind": "attempt", "move": "takedown" if move == "double_pull_top" else move, "outcome": "near"}
    return body


def upgrade(apps, schema_editor):
    Match, Observation, Change = (apps.get_model("matches", name) for name in ("Match", "Observation", "Change"))
    changed = set()
    for row in Observation.objects.iterator(chunk_size=2_000):
        key, body = (f"#{row.key}" if WHOLE.fullmatch(row.key) else row.key), later(row.body)
        if (key, body) != (row.key, row.body):
            Observation.objects.filter(pk=row.pk).update(key=key, body=body)
            changed.add(row.match_id)
    for row in Change.objects.iterator(chunk_size=2_000):
        key = f"#{row.key}" if WHOLE.fullmatch(row.key) else row.key
        before, after = later(row.before), later(row.after)
        if (key, before, after) != (row.key, row.before, row.after):
            Change.objects.filter(pk=row.pk).update(key=key, before=before, after=after)
    for match in Match.objects.filter(clip_start_ms__gt=0).iterator():
        if begin_inside(Observation, match):
            changed.add(match.pk)
    for pk in changed:
        Match.objects.filter(pk=pk).update(revision=models.F("revision") + 1)


def begin_inside(Observation, match):
    """A clip that begins inside its match was laid after a gap, with the clock started at the beginning of the gap and
    the score given by rulings where the clip begins. Returns whether the match was one of those."""
    t = match.clip_start_ms / 1000
    rows = list(Observation.objects.filter(match=match, deleted=False).order_by("sequence"))
    start = next((row for row in rows if row.body == {**row.body, "t": 0, "kind": "clock", "action": "start"}), None)
    placed = any(row.body.get("kind") == "position" and row.body["t"] == t for row in rows)
    if start is None or not placed or any(0 < row.body["t"] < t for row in rows):
        return False
    score = {}
    for row in rows:
        if row.body.get("kind") == "ruling" and row.body["t"] == t:
            tallies = {name: row.body[name] for name in ("points", "advantages", "penalties") if row.body.get(name)}
            score[row.body["to"]] = tallies
            Observation.objects.filter(pk=row.pk).update(deleted=True)
    begin = {"id": start.key, "t": t, "kind": "begin", "clock": t, "score": score}
    Observation.objects.filter(pk=start.pk).update(body=begin)
    key = str(uuid.uuid4())
    last = Observation.objects.filter(match=match).order_by("-sequence").first()
    body = {"id": key, "t": t, "kind": "clock", "action": "start"}
    Observation.objects.create(match=match, key=key, sequence=last.sequence + 1, body=body, revision=match.revision)
    return True


class Migration(migrations.Migration):
    dependencies = [("matches", "0007_summaries")]

    operations = [
        migrations.AlterField(
            model_name="match",
            name="duration_ms",
            field=models.PositiveIntegerField(null=True, help_text="of regular time; null where it has no length"),
        ),
        migrations.AddField(
            model_name="match",
            name="plan",
            field=models.TextField(blank=True, default="", help_text="what the athlete set out to do"),
            preserve_default=False,
        ),
        migrations.RunPython(upgrade, migrations.RunPython.noop),
    ]
