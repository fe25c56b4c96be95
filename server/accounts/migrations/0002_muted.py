from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0001_preferences'),
    ]

    operations = [
        migrations.AddField('preferences', 'muted', models.JSONField(default=list, help_text='the notices by mail that are not wanted')),
    ]
