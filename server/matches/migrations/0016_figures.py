from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('matches', '0015_presence'),
    ]

    operations = [
        migrations.AddField('summary', 'figures', models.JSONField(default=dict, help_text="what it adds to its athlete's season")),
        migrations.AddField('summary', 'tried', models.JSONField(default=dict, help_text='of each move of the athlete, how often it came off and was tried')),
    ]
