import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def made_again(apps, schema_editor):
    """The summaries are made again, since what they teach is added up by club now."""
    apps.get_model('matches', 'Summary').objects.update(core='')
    schema_editor.execute('SET CONSTRAINTS ALL IMMEDIATE')


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('matches', '0012_deleted_and_parts'),
        ('roster', '0003_clubs'),
    ]

    operations = [
        migrations.RemoveIndex('match', 'matches_of_a_coach'),
        migrations.RenameField('match', 'owner', 'scorer'),
        migrations.AlterField('match', 'scorer', models.ForeignKey(help_text='who scores it: who set it up, or to whom it was given', null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='matches', to=settings.AUTH_USER_MODEL)),
        migrations.AddIndex('match', models.Index(fields=['athlete', '-date', '-created'], name='matches_of_an_athlete')),
        migrations.DeleteModel('CoachLesson'),
        migrations.CreateModel(
            name='ClubLesson',
            fields=[
                ('club', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='lesson', serialize=False, to='clubs.club')),
                ('core', models.CharField(max_length=16)),
                ('version', models.PositiveIntegerField(default=0)),
                ('lesson', models.JSONField(default=dict)),
            ],
        ),
        migrations.RunPython(made_again, migrations.RunPython.noop),
    ]
