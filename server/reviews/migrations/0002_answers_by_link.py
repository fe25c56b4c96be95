"""Each link shows its own answers, and a second score has no links: the footage is not its scorer's to publish."""

from typing import Any

from django.db import migrations, models


def answers_to_their_links(apps: Any, _: Any) -> None:
    """Where a match has one link, its answers came through that."""
    links = apps.get_model("reviews", "Link").objects
    for row in apps.get_model("reviews", "Answer").objects.all():
        known = links.filter(match_id=row.match_id)
        if known.count() == 1:
            row.link = known.get()
            row.save(update_fields=["link"])


def revoke_links_of_second_scores(apps: Any, _: Any) -> None:
    apps.get_model("reviews", "Link").objects.exclude(match__second_of=None).update(revoked=True)


class Migration(migrations.Migration):
    dependencies = [("reviews", "0001_reviews"), ("matches", "0005_restrict")]

    operations = [
        migrations.AddField(
            "answer",
            "link",
            models.ForeignKey(
                help_text="through which it came, and which shows it",
                null=True,
                on_delete=models.SET_NULL,
                related_name="answers",
                to="reviews.link",
            ),
        ),
        migrations.RunPython(answers_to_their_links, migrations.RunPython.noop),
        migrations.RunPython(revoke_links_of_second_scores, migrations.RunPython.noop),
    ]
