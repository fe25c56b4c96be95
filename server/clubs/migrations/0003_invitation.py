import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0002_everyone_is_in_a_club'),
        ('roster', '0003_clubs'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('email', models.EmailField(max_length=254)),
                ('role', models.CharField(choices=[('head_coach', 'head coach'), ('coach', 'coach'), ('scorer', 'scorer'), ('athlete', 'athlete'), ('guardian', 'guardian')], max_length=10)),
                ('digest', models.CharField(max_length=64, unique=True)),
                ('ends', models.DateTimeField()),
                ('created', models.DateTimeField(auto_now_add=True)),
                ('athlete', models.ForeignKey(help_text='who the athlete is, or whose guardian is invited', null=True, on_delete=django.db.models.deletion.CASCADE, related_name='invitations', to='roster.athlete')),
                ('club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='invitations', to='clubs.club')),
                ('invited_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-created'],
            },
        ),
    ]
