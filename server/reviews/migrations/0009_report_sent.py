from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('reviews', '0008_clubs'),
    ]

    operations = [
        migrations.AddField('report', 'sent', models.DateTimeField(help_text="when it was sent to the athlete's own place", null=True)),
    ]
