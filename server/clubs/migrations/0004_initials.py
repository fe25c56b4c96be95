from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0003_invitation'),
    ]

    operations = [
        migrations.AddField('club', 'initials', models.BooleanField(default=False, help_text='whether opponents are shown by their initials outside of the club')),
    ]
