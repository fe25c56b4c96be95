from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("matches", "0008_second_format")]

    operations = [
        migrations.AddField(
            model_name="match",
            name=name,
            field=models.CharField(blank=True, default="", max_length=60, help_text=said),
            preserve_default=False,
        )
        for name, said in (
            ("athlete_looks", "how the athlete is told apart in the clip"),
            ("opponent_looks", "how the opponent is told apart in it"),
        )
    ]
