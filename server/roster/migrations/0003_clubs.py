import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from clubs.migrations._own_clubs import moving


def named(athletes, owner):
    for athlete in athletes:
        athlete.coaches.add(owner)


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('roster', '0002_practice'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField('athlete', 'club', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='athletes', to='clubs.club')),
        migrations.AddField('athlete', 'user', models.ForeignKey(blank=True, help_text="the athlete's own sign-in", null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
        migrations.AddField('athlete', 'coaches', models.ManyToManyField(blank=True, help_text='the coaches named for a child: no others see the footage and reports', related_name='coached', to=settings.AUTH_USER_MODEL)),
        migrations.AddField('athlete', 'guardians', models.ManyToManyField(blank=True, related_name='wards', to=settings.AUTH_USER_MODEL)),
        migrations.RunPython(moving('roster', 'Athlete', named), migrations.RunPython.noop),
        migrations.RemoveField('athlete', 'owner'),
        migrations.AlterField('athlete', 'club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='athletes', to='clubs.club')),
        migrations.AlterField('athlete', 'user', models.ForeignKey(blank=True, help_text="the athlete's own sign-in", null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='athletes', to=settings.AUTH_USER_MODEL)),
        migrations.AlterField('athlete', 'practice', models.BooleanField(default=False, help_text="whether it is the athlete of the club's practice matches")),
    ]
