import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from clubs.migrations._own_clubs import moving


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('footage', '0006_script'),
    ]

    operations = [
        migrations.AddField('clip', 'club', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='clips', to='clubs.club')),
        migrations.RunPython(moving('footage', 'Clip'), migrations.RunPython.noop),
        migrations.RenameField('clip', 'owner', 'uploader'),
        migrations.AlterField('clip', 'uploader', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='clips', to=settings.AUTH_USER_MODEL)),
        migrations.AlterField('clip', 'club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='clips', to='clubs.club')),
    ]
