import django.db.models.deletion
from django.db import migrations, models

from clubs.migrations._own_clubs import moving


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('reviews', '0007_answers_read'),
    ]

    operations = [
        migrations.AddField('causes', 'club', models.OneToOneField(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='causes', to='clubs.club')),
        migrations.AddField('kindsetting', 'club', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='kind_settings', to='clubs.club')),
        migrations.RunPython(moving('reviews', 'Causes'), migrations.RunPython.noop),
        migrations.RunPython(moving('reviews', 'KindSetting'), migrations.RunPython.noop),
        migrations.RemoveField('causes', 'owner'),
        migrations.AlterField('causes', 'club', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='causes', to='clubs.club')),
        migrations.RemoveConstraint('kindsetting', 'one_setting_a_kind'),
        migrations.RemoveField('kindsetting', 'owner'),
        migrations.AlterField('kindsetting', 'club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='kind_settings', to='clubs.club')),
        migrations.AlterField('kindsetting', 'declined', models.PositiveIntegerField(default=0, help_text='how many had been dismissed when a coach declined an offer to turn it down')),
        migrations.AddConstraint('kindsetting', models.UniqueConstraint(fields=('club', 'kind'), name='one_setting_a_kind')),
    ]
