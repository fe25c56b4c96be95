"""An athlete, and house rules, that matches use can go together with those matches only."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("matches", "0004_match_house_rules")]

    operations = [
        migrations.AlterField(
            "match",
            "athlete",
            models.ForeignKey(on_delete=models.RESTRICT, related_name="matches", to="roster.athlete"),
        ),
        migrations.AlterField(
            "match",
            "house_rules",
            models.ForeignKey(
                blank=True,
                help_text="the house rules that the ruleset is, where it is some",
                null=True,
                on_delete=models.RESTRICT,
                related_name="matches",
                to="rulebook.houserules",
            ),
        ),
    ]
