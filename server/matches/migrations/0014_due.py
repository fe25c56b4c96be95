from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('matches', '0013_clubs'),
    ]

    operations = [
        migrations.AddField('match', 'due', models.DateField(blank=True, help_text='by when it is to be scored', null=True)),
    ]
