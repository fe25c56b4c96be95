import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from clubs.migrations._own_clubs import moving


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('rulebook', '0002_technique_names'),
    ]

    operations = [
        migrations.AddField('houserules', 'club', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='house_rules', to='clubs.club')),
        migrations.AddField('techniquename', 'club', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='technique_names', to='clubs.club')),
        migrations.RunPython(moving('rulebook', 'HouseRules'), migrations.RunPython.noop),
        migrations.RunPython(moving('rulebook', 'TechniqueName'), migrations.RunPython.noop),
        migrations.RenameField('houserules', 'owner', 'author'),
        migrations.AlterField('houserules', 'author', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='house_rules', to=settings.AUTH_USER_MODEL)),
        migrations.AlterField('houserules', 'club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='house_rules', to='clubs.club')),
        migrations.AlterField('houserules', 'shared', models.BooleanField(default=False, help_text='whether the other clubs of this installation may use it')),
        migrations.RemoveConstraint('techniquename', 'one_meaning_of_a_name'),
        migrations.RemoveField('techniquename', 'owner'),
        migrations.AlterField('techniquename', 'club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='technique_names', to='clubs.club')),
        migrations.AddConstraint('techniquename', models.UniqueConstraint(fields=('club', 'spelled'), name='one_meaning_of_a_name')),
    ]
