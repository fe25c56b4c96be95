from django.db import migrations, models

from config.one_club import stays_in_its_club


class Migration(migrations.Migration):
    dependencies = [('footage', '0007_clubs'), ('roster', '0005_stays_in_its_club')]

    operations = [
        migrations.AddField(
            model_name='clip',
            name='showed',
            field=models.ManyToManyField(
                blank=True,
                help_text='the athletes whose matches it was ever used for; kept by the database: see matches.0019',
                related_name='clips_that_showed',
                to='roster.athlete',
            ),
        ),
        stays_in_its_club('footage_clip'),
    ]
